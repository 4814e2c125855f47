"""A tracker against the telescope it sits in: by hand, what is no tracker's, and what is typed wrongly."""

from __future__ import annotations

import math
import random
from typing import Any

import pytest

from naveta_sim import simulate

from .simulated import Data, codes, part, previewed, reduced


def prism(manual: tuple[float, float, float, float], auto: tuple[float, float, float, float]) -> Data:
    """(left hz, left v, right hz, right v), degrees."""

    def faces(figures: tuple[float, float, float, float]) -> Data:
        return {"left": [{"hz": figures[0], "v": figures[1]}], "right": [{"hz": figures[2], "v": figures[3]}]}

    return {"distance_m": "100", "manual": faces(manual), "auto": faces(auto)}


def document(*targets: Data, **more: Any) -> Data:
    return {
        "kind": "tracker",
        "instrument": {"angle_accuracy_arcsec": 3},
        "observations": {"targets": list(targets), **more},
    }


S = 1 / 3600


def test_half_the_difference_across_and_half_the_sum_in_height() -> None:
    """Left: auto 12″ more across, 3″ lower; right: 8″ less across, 5″ lower. Across 10″, in height 4″, alike 2″ and −1″."""
    entry = prism((40.0, 90.0, 220.0, 270.0), (40.0 + 12 * S, 90.0 + 3 * S, 220.0 - 8 * S, 270.0 + 5 * S))
    result = reduced(document(entry))["result"]
    assert result["tracker_hz_arcsec"] == pytest.approx(10)
    assert result["tracker_v_arcsec"] == pytest.approx(4)
    assert (result["common_hz_arcsec"], result["common_v_arcsec"]) == (pytest.approx(2), pytest.approx(-1))


def test_at_a_steep_prism_across_counts_by_its_sine() -> None:
    entry = prism((40.0, 60.0, 220.0, 300.0), (40.0 + 12 * S, 60.0, 220.0 - 12 * S, 300.0))
    assert reduced(document(entry))["result"]["tracker_hz_arcsec"] == pytest.approx(12 * math.sin(math.radians(60)))


def test_collimation_and_index_of_the_telescope_fall_out() -> None:
    """c = 30″ and i = 40″ are in both pointings of each face, by eye and by tracker."""
    clean = prism((40.0, 90.0, 220.0, 270.0), (40.0 + 6 * S, 90.0, 220.0 - 6 * S, 270.0))
    off = prism(
        (40 + 30 * S, 90 + 40 * S, 220 - 30 * S, 270 + 40 * S), (40 + 36 * S, 90 + 40 * S, 220 - 36 * S, 270 + 40 * S)
    )
    for name in ("tracker_hz_arcsec", "tracker_v_arcsec"):
        assert reduced(document(off))["result"][name] == pytest.approx(
            reduced(document(clean))["result"][name], abs=1e-6
        )


def test_what_both_faces_share_is_no_trackers() -> None:
    rng = random.Random(3)
    turned = simulate("tracker", rng, {"turned_arcsec": 30.0, "noise": 0.7})
    result = reduced(turned)
    assert (result["verdict"]["grade"], codes(result)[0]) == ("repeat", "both-faces-alike")
    alarms = sum("both-faces-alike" in codes(reduced(simulate("tracker", rng, {}))) for _ in range(200))
    print(f"prism turned away wrongly said {alarms} times of 200")
    assert alarms <= 6


def test_a_pointing_apart_is_named_with_how_and_face() -> None:
    entry = simulate("tracker", random.Random(5), {"noise": 0.4, "pointings": 5})
    entry["observations"]["targets"][0]["auto"]["right"][2]["v"] = "270.3130"
    result = reduced(entry)
    assert result["verdict"]["grade"] == "repeat"
    assert "by tracker, face right" in next(r["text"] for r in result["verdict"]["reasons"] if r["code"] == "outlier")


def test_stored_values_are_shown_so_that_they_are_not_lost() -> None:
    entry = prism((40.0, 90.0, 220.0, 270.0), (40.0 + 9 * S, 90.0, 220.0 - 9 * S, 270.0))
    result = reduced(document(entry, before_hz_arcsec="4", before_v_arcsec="-2"))
    assert "noted-before" in codes(result)
    assert [row["text"] for row in result["shown"][2:]] == ["4.0″", "−2.0″"]
    assert part(result, "tracker_hz_arcsec")["limits"] == {"use": 6, "watch": 6, "adjust": 60}


@pytest.mark.parametrize(
    ("auto", "path", "wanted"),
    [
        ((41.0, 90.0, 220.0, 270.0), "observations.targets[0].auto.left", "the same prism"),
        ((220.0, 270.0, 40.0, 90.0), "observations.targets[0].auto.left", "the same prism"),
    ],
)
def test_another_prism_or_the_other_face_is_said(
    auto: tuple[float, float, float, float], path: str, wanted: str
) -> None:
    faults = previewed(document(prism((40.0, 90.0, 220.0, 270.0), auto)))["faults"]
    assert faults[0]["path"] == path
    assert wanted in faults[0]["wanted"]


def test_faces_swapped_throughout_are_said() -> None:
    faults = previewed(document(prism((220.0, 270.0, 40.0, 90.0), (220.0, 270.0, 40.0, 90.0))))["faults"]
    assert "swapped" in faults[0]["wanted"]


def test_a_slip_of_a_minute_at_one_pointing_is_found_by_how_often() -> None:
    """Three pointings a face, 3″: a whole minute in one vertical circle is named or refused nearly always."""
    rng = random.Random(9)
    found = 0
    for _ in range(60):
        entry = simulate("tracker", rng, {"noise": 0.7})
        how, face = rng.choice(("manual", "auto")), rng.choice(("left", "right"))
        row = entry["observations"]["targets"][0][how][face][rng.randrange(3)]
        degrees, rest = row["v"].split(".")
        minutes = (int(rest[:2]) + 1) % 60
        row["v"] = f"{degrees}.{minutes:02d}{rest[2:]}"
        messages = set(codes(reduced(entry)))
        found += bool({"outlier", "readings-differ"} & messages)
    print(f"a minute mistyped: found {found} of 60")
    assert found >= 57


def test_two_prisms_count_together() -> None:
    """6″ at one, 10″ at the other: 8″, and surer than either alone."""
    near = prism((40.0, 90.0, 220.0, 270.0), (40.0 + 6 * S, 90.0, 220.0 - 6 * S, 270.0))
    far = prism((70.0, 90.0, 250.0, 270.0), (70.0 + 10 * S, 90.0, 250.0 - 10 * S, 270.0))
    both, result = reduced(document(near, far)), reduced(document(near))
    assert both["result"]["tracker_hz_arcsec"] == pytest.approx(8)
    share = part(both, "tracker_hz_arcsec")["sigma"] / part(result, "tracker_hz_arcsec")["sigma"]
    assert share == pytest.approx(1 / math.sqrt(2))


def test_hard_ground_is_minded_and_a_cold_instrument_waits() -> None:
    entry = simulate("tracker", random.Random(2), {})
    assert "hot-ground" in codes(reduced({**entry, "conditions": {"minutes_on": 20, "ground": "asphalt"}}))
    cold = reduced({**entry, "conditions": {"minutes_on": 1}})
    assert (cold["verdict"]["grade"], codes(cold)[0]) == ("repeat", "not-warm")
    assert previewed(entry)["picture"]["draws"] == "circle"
    assert len(previewed(entry)["picture"]["points"]) == 6, "three by tracker in each face, those by eye in the middle"
