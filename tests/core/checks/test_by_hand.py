"""Figures of checks of rows worked out by hand or by numpy's least squares, and what follows from them."""

from __future__ import annotations

import math
import random
from typing import Any

import numpy as np
import pytest

from naveta_sim import simulate

from .simulated import Data, codes, part, reduced

RHO = 648000 / math.pi


def vial(*rows: tuple[float, float, float], **more: Any) -> Data:
    readings = [{"heading_deg": str(h), "x_mm": str(x), "y_mm": str(y)} for h, x, y in rows]
    return {"kind": "circular-vial", "observations": {"readings": readings, **more.pop("observations", {})}, **more}


def marks(*rows: tuple[float, float, float], height: float = 1.5, **more: Any) -> Data:
    listed = [{"heading_deg": str(h), "x_mm": str(x), "y_mm": str(y)} for h, x, y in rows]
    sets = [{"height_m": str(height), "marks": listed}]
    return {"kind": "plummet", "observations": {"sets": sets, **more.pop("observations", {})}, **more}


def test_half_of_what_a_half_turn_shows_is_the_vials() -> None:
    """Seen 2.0 right at 0 and 0.4 left at 180, in the vial's own frame: its own 0.8, the tilt 1.2."""
    result = reduced(vial((0, 2.0, 0.0), (180, -0.4, 0.0), observations={"sensitivity_arcmin_per_2mm": "8"}))["result"]
    assert result["vial_error_x_mm"] == pytest.approx(0.8)
    assert result["vial_error_y_mm"] == pytest.approx(0.0, abs=1e-12)
    assert result["tilt_x_mm"] == pytest.approx(1.2)
    assert result["tilt_arcsec"] == pytest.approx(1.2 * 240), "8 minutes per 2 mm are 240 seconds a millimetre"
    assert result["vial_error_arcsec"] == pytest.approx(0.8 * 240)


def test_a_vial_on_the_base_shows_its_whole_error() -> None:
    document = vial((0, 0.9, -1.2), observations={"sits_on": "tribrach"})
    result = reduced(document)
    assert result["result"]["vial_error_mm"] == pytest.approx(1.5)
    assert "level-not-proved" in codes(result)
    proved = {"check": "plate-vial", "at": "2027-02-20T07:00:00+00:00", "grade": "use", "result": {}}
    sure = reduced({**document, "before": [proved], "before_at": "2027-03-02T07:00:00+00:00"})
    assert "level-not-proved" not in codes(sure)
    assert part(sure, "vial_error_mm")["sigma"] == pytest.approx(math.hypot(math.sqrt(0.09 + 0.01 / 12), 0.1), rel=0.02)
    assert part(result, "vial_error_mm")["sigma"] > part(sure, "vial_error_mm")["sigma"]


@pytest.mark.parametrize("seed", range(5))
def test_vial_and_plummet_agree_with_numpy(seed: int) -> None:
    rng = random.Random(seed)
    headings = [rng.uniform(0, 360) for _ in range(5)] + [0.0, 180.0]
    rows = [(round(h, 1), round(rng.uniform(-3, 3), 1), round(rng.uniform(-3, 3), 1)) for h in headings]
    a, b = [], []
    for h, x, y in rows:
        s, c = math.sin(math.radians(h)), math.cos(math.radians(h))
        a += [[1, 0, c, s], [0, 1, -s, c]]
        b += [x, y]
    ax, ay, ox, oy = np.linalg.lstsq(np.array(a), np.array(b), rcond=None)[0]
    found = reduced(marks(*rows))["result"]
    assert (found["axis_x_mm"], found["axis_y_mm"]) == pytest.approx((ax, ay), abs=1e-9)
    assert (found["offset_x_mm"], found["offset_y_mm"]) == pytest.approx((ox, oy), abs=1e-9)
    assert found["offset_arcsec"] == pytest.approx(math.hypot(ox, oy) / 1500 * RHO)
    a = [[1, 0, math.cos(math.radians(h)), -math.sin(math.radians(h))] for h, *_ in rows]
    a += [[0, 1, math.sin(math.radians(h)), math.cos(math.radians(h))] for h, *_ in rows]
    b = [x for _, x, _ in rows] + [y for *_, y in rows]
    ex, ey, tx, ty = np.linalg.lstsq(np.array(a), np.array(b), rcond=None)[0]
    found = reduced(vial(*rows))["result"]
    assert (found["vial_error_x_mm"], found["tilt_y_mm"]) == pytest.approx((ex, ty), abs=1e-9)
    assert (found["vial_error_y_mm"], found["tilt_x_mm"]) == pytest.approx((ey, tx), abs=1e-9)


def test_two_heights_part_a_sideways_plummet_from_one_that_points_tilted() -> None:
    """Offset 1.4 mm at 2 m and 0.8 mm at 1 m: 0.2 aside and 0.6 mm a metre; at 1.5 m 1.1 mm."""

    def one(height: float, offset: float) -> Data:
        rows = [
            {"heading_deg": "0", "x_mm": str(offset), "y_mm": "0"},
            {"heading_deg": "180", "x_mm": str(-offset), "y_mm": "0"},
        ]
        return {"height_m": str(height), "marks": rows}

    result = reduced({"kind": "plummet", "observations": {"sets": [one(2.0, 1.4), one(1.0, 0.8)]}})["result"]
    assert result["sideways_mm"] == pytest.approx(0.2)
    assert result["angular_arcsec"] == pytest.approx(0.6 / 1000 * RHO)
    assert (result["offset_mm"], result["at_height_m"]) == (pytest.approx(1.1), 1.5)


def test_plate_bubble_two_headings_by_hand() -> None:
    """+0.6 and −2.2: half the sum −0.8 is the vial's, half the difference 1.4 div of 20″ the tilt."""
    readings = [{"heading_deg": "30", "bubble_div": "0.6"}, {"heading_deg": "210", "bubble_div": "-2.2"}]
    result = reduced({"kind": "plate-vial", "observations": {"sensitivity_arcsec_per_div": "20", "readings": readings}})
    assert result["result"]["reversal_div"] == pytest.approx(-0.8)
    assert result["result"]["tilt_arcsec"] == pytest.approx(28.0)
    assert result["result"]["tilt_bearing_deg"] == pytest.approx(30.0)
    assert "one-direction" in codes(result)
    text = next(reason["text"] for reason in result["verdict"]["reasons"] if reason["code"] == "half-and-half")
    assert "Tilt of the axis: −1.4 div; level vial error: −0.8 div" in text


def test_two_vials_have_two_rest_positions() -> None:
    rows = [(0, 1, 1.0), (90, 2, -0.4), (180, 1, 0.2), (270, 2, 1.2)]
    readings = [{"heading_deg": str(h), "bubble_div": str(b), "vial": v} for h, v, b in rows]
    result = reduced({"kind": "plate-vial", "observations": {"sensitivity_arcsec_per_div": 30, "readings": readings}})[
        "result"
    ]
    assert (result["reversal_div"], result["reversal_2_div"]) == (pytest.approx(0.6), pytest.approx(0.4))
    # 0.4 div towards 0° and −0.8 div towards 90°.
    assert result["tilt_arcsec"] == pytest.approx(30 * math.hypot(0.4, 0.8))


def test_nine_and_nine_is_an_index_and_nine_and_minus_nine_a_tilt() -> None:
    def both(first: int, turned: int) -> Data:
        rows = [
            {"heading_deg": 0, "along_arcsec": first, "across_arcsec": 0},
            {"heading_deg": 180, "along_arcsec": turned, "across_arcsec": 0},
        ]
        return reduced(
            {"kind": "dual-axis-level", "conditions": {"minutes_on": 10}, "observations": {"readings": rows}}
        )

    index, tilt = both(9, 9), both(9, -9)
    assert (index["result"]["index_along_arcsec"], index["result"]["tilt_arcsec"]) == (
        pytest.approx(9),
        pytest.approx(0, abs=1e-9),
    )
    assert (tilt["result"]["index_along_arcsec"], tilt["result"]["tilt_arcsec"]) == (
        pytest.approx(0, abs=1e-9),
        pytest.approx(9),
    )
    # Without a stated accuracy, read in whole seconds: the limit is the least there is, 4″.
    assert (index["verdict"]["grade"], tilt["verdict"]["grade"]) == ("adjust", "use")


def test_a_vial_beside_an_electronic_level_is_settled_by_the_half_turn() -> None:
    """Level: 9″ out. Vial, its right end at heading + 90°: +1.0 then +0.6 div of 20″: rests at 0.8 div, 16″ out."""
    rows = [
        {"heading_deg": 0, "along_arcsec": 9, "across_arcsec": 4, "bubble_div": "1.0"},
        {"heading_deg": 180, "along_arcsec": 9, "across_arcsec": -4, "bubble_div": "0.6"},
    ]
    observations = {"sensitivity_arcsec_per_div": "20", "readings": rows}
    result = reduced({"kind": "dual-axis-level", "conditions": {"minutes_on": 10}, "observations": observations})
    text = next(reason["text"] for reason in result["verdict"]["reasons"] if reason["code"] == "settled-by-turning")
    assert "electronic level 9″ out, plate level 16″ out (reversing point 0.8 div right of the middle)" in text
    assert "electronic level is the better one" in text


def test_a_display_that_counts_the_other_way_is_seen_by_four_headings() -> None:
    rng = random.Random(4)
    document = simulate(
        "dual-axis-level",
        rng,
        {"index_arcsec": (1, 2), "tilt_arcsec": (30, -20), "headings": (0, 90, 180, 270), "noise": 0.5},
    )
    for row in document["observations"]["readings"]:
        row["across_arcsec"] = str(-float(row["across_arcsec"]))
    assert "display-sense" in codes(reduced(document))
    fields = {**document, "instrument": {"display": {"across_positive": "high-left"}}}
    assert "display-sense" not in codes(reduced(fields))


def test_a_compensator_by_hand() -> None:
    """Staff 40 m off: 1.0 mm more with the bubble run away is 5.16″; half of the difference to 'toward' is fore and aft."""
    positions = {
        "centre": ["1.5000"] * 5,
        "toward": ["1.4990"] * 5,
        "away": ["1.5010"] * 5,
        "left": ["1.5000"] * 5,
        "right": ["1.5000"] * 5,
    }
    document = {
        "kind": "compensator-function",
        "observations": {"distance": "40", "positions": positions, "tilt_arcmin": "8", "returns": "yes"},
    }
    result = reduced(document)
    shift = 0.001 / 40 * RHO
    assert abs(result["result"]["largest_shift_arcsec"]) == pytest.approx(shift, abs=1e-6)
    assert result["result"]["fore_and_aft_arcsec"] == pytest.approx(-shift, abs=1e-6)
    assert result["result"]["arcsec_per_arcmin"] == pytest.approx(shift / 8, abs=1e-6)
    assert "fore-and-aft" in codes(result)
    document["observations"]["returns"] = "no"
    stuck = reduced(document)
    assert (stuck["verdict"]["grade"], codes(stuck)[0]) == ("service", "sticking")
    document["observations"].pop("returns")
    document["observations"]["after_tap"] = ["1.5031", "1.5030"]
    assert reduced(document)["verdict"]["grade"] == "service", "3 mm off after a tap"


def test_a_staff_and_a_tape_by_hand() -> None:
    """Graduations 0.4 mm too high, and 0.2 mm a metre on top: zero 0.4 mm, 200 ppm."""
    sections = [{"graduation": f"{m:.4f}", "tape": f"{(m - 0.0004) / 1.0002:.5f}"} for m in (0.2, 1.0, 2.0, 3.0)]
    result = reduced({"kind": "staff", "conditions": {"temperature_c": 20}, "observations": {"sections": sections}})[
        "result"
    ]
    assert result["zero_offset_mm"] == pytest.approx(0.4, abs=0.01)
    assert result["scale_ppm"] == pytest.approx(200, abs=4)
    # A tape true at 20 °C, read at 0 °C beside a known 30 m: steel is 6.9 mm shorter, so it reads 30.0069.
    lengths = [{"known": "1", "reads": "1.0002"}, {"known": "30", "reads": "30.0069"}]
    cold = {"kind": "tape", "conditions": {"temperature_c": 0}, "observations": {"tension_n": "50", "lengths": lengths}}
    found = reduced(cold)["result"]
    assert found["scale_ppm"] == pytest.approx(0, abs=8)
    pulled = {
        **cold,
        "conditions": {"temperature_c": 20},
        "observations": {"tension_n": "100", "cross_section_mm2": "2.5", "lengths": lengths},
    }
    # 50 N more on 2.5 mm²: 50 / (2.5 · 200 000) = 100 ppm longer; what it read is 231 + 100 ppm too much.
    assert reduced(pulled)["result"]["scale_ppm"] == pytest.approx(231 + 100, abs=8)


def test_a_tripod_by_hand() -> None:
    """At 20 m a millimetre is 10.31″: 2 mm under the hand either way, 0.5 mm of it stay."""
    rounds = [
        {"free_mm": "500", "loaded_mm": "502", "released_mm": "500.5"},
        {"free_mm": "500.5", "loaded_mm": "498.5", "released_mm": "500"},
        {"free_mm": "500", "loaded_mm": "502", "released_mm": "500.5"},
        {"free_mm": "500.5", "loaded_mm": "498.5", "released_mm": "500"},
    ]
    looks = {"clamps_hold": "yes", "hinges_firm": "yes", "shoes_firm": "yes"}
    document = {"kind": "tripod", "observations": {**looks, "distance": "20", "rounds": rounds}}
    result = reduced(document)
    a_mm = RHO / 20000
    assert result["result"]["set_arcsec"] == pytest.approx(0.5 * a_mm, rel=1e-9)
    assert result["result"]["twist_arcsec"] == pytest.approx(2 * a_mm, rel=1e-9)
    document["observations"]["hinges_firm"] = "no"
    loose = reduced(document)
    assert loose["verdict"]["grade"] == "adjust"
    assert "set-hinges" in codes(loose, "next")


def test_a_pole_depends_by_its_vial() -> None:
    """1 mm of an 8′ vial is 240″: 2.33 mm at 2 m."""
    readings = [{"heading_deg": "0", "x_mm": "1.5", "y_mm": "0"}, {"heading_deg": "180", "x_mm": "0.5", "y_mm": "0"}]
    result = reduced({"kind": "pole-vial", "observations": {"readings": readings}})
    assert result["result"]["lean_mm"] == pytest.approx(240 / RHO * 2000)
    assert "2.3 mm off plumb at 2 m" in result["finding"]["text"]
