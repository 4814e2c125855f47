"""The two-peg test: known errors put in and found again, hand-worked fields, and every refusal."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from .builders import CURVATURE, NEAR, RHO, codes, document, exact, reduce, staffs, wired

EXAMPLES = sorted((Path(__file__).parent / "examples").glob("*.json"))


@pytest.mark.parametrize("path", EXAMPLES, ids=lambda path: path.stem)
def test_examples(path: Path) -> None:
    case = json.loads(path.read_text())
    result = reduce(case["document"])["result"]
    for name, expected in case["expect"].items():
        alike(result[name], expected, case["tolerance"][name], name)


def alike(found: object, expected: object, tolerance: float, name: str) -> None:
    """A tolerance given for a block applies to each number in it."""
    if isinstance(expected, dict):
        for key, entry in expected.items():
            alike(found[key], entry, tolerance, f"{name}.{key}")  # type: ignore[index]
    elif isinstance(expected, list):
        assert len(found) == len(expected), name  # type: ignore[arg-type]
        for i, entry in enumerate(expected):
            alike(found[i], entry, tolerance, f"{name}[{i}]")  # type: ignore[index]
    elif isinstance(expected, int | float):
        assert found == pytest.approx(expected, abs=tolerance), name
    else:
        assert found == expected, name


@settings(max_examples=60, deadline=None)
@given(
    c=st.floats(-100, 100),
    layout=st.sampled_from(
        [
            NEAR,
            [(30, 30), (45, 15)],
            [(30, 30), (64, 4)],
            [(20, 40), (40, 20)],
            [(4, 64), (64, 4)],
            [(30, 30), (56, 4), (4, 56)],
        ]
    ),
)
def test_any_error_comes_back_from_any_layout(c: float, layout: list) -> None:
    result = reduce(exact(c, *layout))["result"]
    assert result["collimation_arcsec"] == pytest.approx(c, abs=0.02)  # readings are typed to a micrometre
    assert result["height_difference_m"] == pytest.approx(0.3, abs=3e-6)


def test_least_squares_against_numpy_with_noise() -> None:
    rng = np.random.default_rng(3)
    rows = [(30, 30), (56, 4), (4, 56), (45, 15)]
    a, b = np.array([staffs(12, *row) for row in rows]).T + rng.normal(0, 3e-4, (2, 4))
    entry = document(*[(da, f"{x:.6f}", db, f"{y:.6f}") for (da, db), x, y in zip(rows, a, b, strict=True)])
    d = np.array(rows, float)
    design = np.column_stack([np.ones(4), d[:, 0] - d[:, 1]])
    (dh, c), *_ = np.linalg.lstsq(
        design, np.round(a, 6) - np.round(b, 6) - CURVATURE * (d[:, 0] ** 2 - d[:, 1] ** 2), rcond=None
    )
    result = reduce(entry)["result"]
    assert result["collimation_arcsec"] == pytest.approx(c * RHO, abs=1e-6)
    assert result["height_difference_m"] == pytest.approx(dh, abs=1e-9)


def test_uncertainty_of_the_two_setup_form_by_hand() -> None:
    """sigma_c = rho * sqrt(sum of the four variances + refraction) / change of imbalance."""
    part = reduce(exact(0, *NEAR))["verdict"]["parts"][0]
    w = [0.3**2 + (0.01 * d) ** 2 for d in (30, 30, 56, 4)]
    b = [0.1**2 + (0.7 / RHO * 1000 * d) ** 2 for d in (30, 30, 56, 4)]
    bent = 0.5 * (56**2 - 4**2) / (2 * 6_371_000) * 1000
    sigma = RHO / 1000 * (sum(w) + sum(b) + bent**2) ** 0.5 / 52
    assert part["sigma"] == pytest.approx(sigma, rel=1e-4)
    assert part["u95"] == pytest.approx(9.1, abs=0.05)
    assert part["basis"] == "a-priori"


def test_corrected_and_target_readings() -> None:
    result = reduce(exact(24, *NEAR))["result"]
    last = result["setups"][1]
    c = 24 / RHO
    a, _ = staffs(24, 56, 4)
    assert last["target_a_m"] == pytest.approx(a - c * 56, abs=2e-6)
    assert last["corrected_a_m"] - last["corrected_b_m"] == pytest.approx(0.3, abs=3e-6)
    assert result["misclosure_m"] == pytest.approx(c * 52 + CURVATURE * (56**2 - 4**2), abs=3e-6)


def test_a_staff_at_its_target_reads_level_once_turned() -> None:
    """Setting the line of sight to the target of the longest sight takes the error out: a second test finds none."""
    before = reduce(exact(24, *NEAR))
    target = before["result"]["setups"][1]["target_a_m"]
    level_reading, _ = staffs(0, 56, 4)
    assert target == pytest.approx(level_reading, abs=3e-6)


def test_feet_and_metres_say_the_same_error() -> None:
    metric = exact(24, *NEAR)
    feet = json.loads(json.dumps(metric))
    feet["units"] = {"length": "ft"}
    for setup in feet["observations"]["setups"]:
        for sight in setup.values():
            sight["distance"] = f"{float(sight['distance']) / 0.3048:.8f}"
            sight["readings"] = [f"{float(r) / 0.3048:.8f}" for r in sight["readings"]]
    result, other = reduce(metric), reduce(feet)
    assert other["result"]["collimation_arcsec"] == pytest.approx(result["result"]["collimation_arcsec"], abs=1e-3)
    assert "mm" in result["finding"]["text"]
    assert "ft too high at 100 ft" in other["finding"]["text"]
    shown = {row["quantity"]: row for row in other["shown"]}
    assert shown["height_difference_m"]["value"] == pytest.approx(0.3 / 0.3048, abs=1e-5)
    assert shown["height_difference_m"]["per_canonical"] == pytest.approx(3.28084, abs=1e-5)


def test_three_wires_give_reading_and_distance() -> None:
    result = reduce(wired())
    assert result["result"]["collimation_arcsec"] == pytest.approx(3, abs=0.1)
    assert result["result"]["setups"][1]["imbalance_m"] == pytest.approx(52, abs=0.01)
    assert "collimation_middle_wire_arcsec" not in result["result"]


def test_either_order_of_wires() -> None:
    inverted = json.loads(json.dumps(wired()))
    for setup in inverted["observations"]["setups"]:
        for sight in setup.values():
            wires = sight["wires"][0]
            wires["upper"], wires["lower"] = wires["lower"], wires["upper"]
    assert reduce(inverted)["result"]["collimation_arcsec"] == pytest.approx(
        reduce(wired())["result"]["collimation_arcsec"]
    )


def test_a_misread_wire_asks_for_that_sight_again() -> None:
    result = reduce(wired(wrong=0.010))
    assert result["verdict"]["grade"] == "repeat"
    assert "wires-disagree" in codes(result)
    assert "second set-up, staff A" in result["verdict"]["reasons"][0]["text"]


def test_an_unsymmetrical_reticle_is_no_misread_wire() -> None:
    """Upper interval longer by 0.2 mm a metre: the mean of three points 0.2/3 mm per m higher than the middle wire.

    The longer interval also makes every stadia distance 2 percent too long, and c that much smaller.
    """
    result = reduce(wired(unequal=2e-4))
    assert "unsymmetrical-reticle" in codes(result)
    assert "wires-disagree" not in codes(result)
    assert result["result"]["collimation_middle_wire_arcsec"] == pytest.approx(3, abs=0.1)
    assert result["result"]["collimation_arcsec"] == pytest.approx((3 + 2e-4 / 3 * RHO) / 1.02, abs=0.1)


def test_taped_and_stadia_distance_that_disagree_are_given() -> None:
    entry = wired()
    entry["observations"]["setups"][1]["a"]["distance"] = "57"
    assert "distance-disagrees" in codes(reduce(entry))
    entry["observations"]["setups"][1]["a"]["distance"] = "56.5"
    assert "distance-disagrees" not in codes(reduce(entry))


@pytest.mark.parametrize(
    ("c", "copies", "grade"),
    [
        (0, 4, "use"),
        (9, 8, "watch"),
        (15, 4, "watch"),
        (26, 4, "adjust"),
        (-26, 4, "adjust"),
        (160, 4, "service"),
        (21.5, 1, "adjust"),
    ],
)
def test_grades(c: float, copies: int, grade: str) -> None:
    assert reduce(exact(c, *NEAR, copies=copies))["verdict"]["grade"] == grade


def test_nothing_is_turned_from_a_test_that_is_too_coarse() -> None:
    coarse = exact(60, (20, 40), (40, 20))
    coarse["observations"]["setups"][0]["a"]["readings"] = [coarse["observations"]["setups"][0]["a"]["readings"][0][:4]]
    result = reduce(coarse)
    assert result["verdict"]["grade"] == "adjust"
    assert "adjust-reticle" not in codes(result, "next")
    assert codes(result, "next")[0] == "other-end"
    fine = reduce(exact(26, *NEAR, copies=4))
    assert codes(fine, "next") == ["save-as-found", "adjust-reticle"]


def test_the_job_may_state_its_own_limits() -> None:
    own = exact(15, *NEAR, copies=4, limits={"collimation_arcsec": {"use": 25, "source": "job: flood wall"}})
    result = reduce(own)
    assert result["verdict"]["grade"] == "use"
    assert result["verdict"]["parts"][0]["why"] == "job: flood wall"
    fine = exact(8, *NEAR, copies=4, instrument={"levelling_accuracy_mm_per_km": 0.7})
    assert reduce(fine)["verdict"]["parts"][0]["limits"] == {"use": 6, "watch": 12, "adjust": 60}


def test_a_sticking_compensator_is_service_whatever_the_figures() -> None:
    entry = exact(0, *NEAR, copies=4, observations={"looks": {"line_returns": "no", "bubble_holds": "yes"}})
    result = reduce(entry)
    assert result["verdict"]["grade"] == "service"
    assert codes(result)[0] == "sticking"


def test_a_bubble_that_does_not_hold_is_watched() -> None:
    entry = exact(0, *NEAR, copies=4, observations={"looks": {"line_returns": "yes", "bubble_holds": "no"}})
    assert reduce(entry)["verdict"]["grade"] == "watch"


def test_one_wild_reading_is_set_aside_in_sight_with_its_likely_slip() -> None:
    entry = exact(2, *NEAR, copies=5)
    good = entry["observations"]["setups"][1]["a"]["readings"][2]
    wrong = good[0:2] + "8" + good[3:]
    entry["observations"]["setups"][1]["a"]["readings"][2] = wrong
    result = reduce(entry)
    assert result["verdict"]["set_aside"] == ["observations.setups[1].a.readings[2]"]
    found = {reason["code"]: reason["text"] for reason in result["verdict"]["reasons"]}
    assert f"Typed {wrong} for {good}?" in found["set-aside"]
    assert result["result"]["collimation_arcsec"] == pytest.approx(2, abs=0.05)
    assert "outlier-decides" in found, "two decimetres would have changed the verdict: one more reading is wanted"
    assert result["verdict"]["grade"] == "repeat"


def test_a_small_outlier_that_decides_nothing_lets_the_grade_stand() -> None:
    entry = exact(60, *NEAR, copies=5)
    sight = entry["observations"]["setups"][1]["b"]
    sight["readings"][4] = f"{float(sight['readings'][4]) + 0.006:.6f}"
    result = reduce(entry)
    assert result["verdict"]["grade"] == "adjust"
    assert result["verdict"]["set_aside"] == ["observations.setups[1].b.readings[4]"]


def test_two_readings_that_differ_ask_for_a_third() -> None:
    entry = exact(2, *NEAR, copies=2)
    entry["observations"]["setups"][0]["b"]["readings"][1] = "1.400000"
    assert codes(reduce(entry))[0] == "readings-differ"


def test_a_moved_peg_is_named_with_four_setups() -> None:
    entry = exact(3, (30, 30), (56, 4), (4, 56), (45, 15), copies=3)
    sight = entry["observations"]["setups"][2]["b"]
    sight["readings"] = [f"{float(r) + 0.006:.6f}" for r in sight["readings"]]
    result = reduce(entry)
    assert result["verdict"]["grade"] == "repeat"
    assert "third set-up" in result["verdict"]["reasons"][0]["text"]


def test_weak_layouts_are_said_to_be_weak() -> None:
    assert "weak-geometry" in codes(reduce(exact(0, (30, 30), (33, 27), copies=2)))


def test_scatter_and_learned_noise() -> None:
    rough = exact(0, *NEAR, copies=4)
    for setup in rough["observations"]["setups"]:
        for sight in setup.values():
            sight["readings"] = [
                f"{float(r) + d:.6f}"
                for r, d in zip(sight["readings"], (1.4e-3, -1.4e-3, 1.2e-3, -1.2e-3), strict=True)
            ]
    assert "scatter" in codes(reduce(rough))
    quiet = reduce(exact(0, *NEAR, instrument={"noise": {"factor": 0.5, "dof": 12}}))
    assert quiet["verdict"]["parts"][0]["u95"] < 0.65 * reduce(exact(0, *NEAR))["verdict"]["parts"][0]["u95"]


def test_the_last_good_test_carries_a_single_reading() -> None:
    good = {
        "check": "two-peg",
        "at": "2027-02-10T07:00:00+00:00",
        "grade": "use",
        "result": {"collimation_arcsec": 3.0, "sigma_collimation_arcsec": 1.2},
    }
    quiet = {"noise": {"factor": 0.8, "dof": 12}}
    entry = exact(5, *NEAR, instrument=quiet, before=[good], before_at="2027-03-02T06:40:00+00:00")
    assert reduce(exact(5, *NEAR, instrument=quiet))["verdict"]["grade"] == "watch"
    assert codes(reduce(entry))[0] == "confirmed-by-record"
    assert reduce(entry)["verdict"]["grade"] == "use"
    entry["before"][0]["at"] = "2026-10-10T07:00:00+00:00"
    assert reduce(entry)["verdict"]["grade"] == "watch"
