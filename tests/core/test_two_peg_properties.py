"""What must hold for any two-peg test, whatever its layout, unit, order or way of reading."""

from __future__ import annotations

import copy
import re
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from naveta_core.checks import KINDS
from naveta_core.checks.two_peg.text import baseline_m, place_m
from naveta_core.registry import document_of
from naveta_sim.levels import LAYOUTS
from tests.core.plain import reduce_of

from .builders import CURVATURE, RHO, document, exact, preview, reduce, staffs

TWO_PEG = KINDS["two-peg"]
LAYOUT_PAIRS = [metres for metres, _ in LAYOUTS.values()]
errors = st.floats(-100, 100)
layouts = st.sampled_from(LAYOUT_PAIRS)


SHORTEST = {"ft": "30 ft", "usft": "30 US ft", "in": "360 in", "mm": "10000 mm", "cm": "1000 cm"}


def noisy(c: float, pairs: Any, seed: int, copies: int = 3) -> dict[str, Any]:
    rng = np.random.default_rng(seed)
    setups = []
    for da, db in pairs:
        sights: list[Any] = []
        for d, true in zip((da, db), staffs(c, da, db), strict=True):
            sights += [d, [f"{true + rng.normal(0, 3e-4):.5f}" for _ in range(copies)]]
        setups.append(tuple(sights))
    return document(*setups)


def c_of(fields: dict[str, Any]) -> float:
    return reduce(fields)["result"]["collimation_arcsec"]


@settings(max_examples=40, deadline=None)
@given(errors, layouts, st.integers(0, 10_000))
def test_exchanging_the_pegs_changes_nothing_but_the_sign_of_the_height(c: float, pairs: Any, seed: int) -> None:
    entry = noisy(c, pairs, seed)
    turned = copy.deepcopy(entry)
    for setup in turned["observations"]["setups"]:
        setup["a"], setup["b"] = setup["b"], setup["a"]
    here, there = reduce(entry)["result"], reduce(turned)["result"]
    assert there["collimation_arcsec"] == pytest.approx(here["collimation_arcsec"], abs=1e-6)
    assert there["height_difference_m"] == pytest.approx(-here["height_difference_m"], abs=1e-9)


@settings(max_examples=30, deadline=None)
@given(errors, layouts, st.integers(0, 10_000))
def test_the_order_of_set_ups_and_readings_is_nothing_to_the_error(c: float, pairs: Any, seed: int) -> None:
    entry = noisy(c, pairs, seed)
    other = copy.deepcopy(entry)
    other["observations"]["setups"].reverse()
    for setup in other["observations"]["setups"]:
        setup["a"]["readings"].reverse()
    assert c_of(other) == pytest.approx(c_of(entry), abs=1e-6)


@settings(max_examples=30, deadline=None)
@given(errors, layouts, st.floats(-0.3, 0.3), st.integers(0, 10_000))
def test_a_staff_with_a_wrong_foot_moves_the_height_and_not_the_line(
    c: float, pairs: Any, foot: float, seed: int
) -> None:
    """A zero error common to one staff is a height difference, nothing else."""
    entry = noisy(c, pairs, seed)
    other = copy.deepcopy(entry)
    for setup in other["observations"]["setups"]:
        setup["b"]["readings"] = [f"{float(value) + round(foot, 4):.5f}" for value in setup["b"]["readings"]]
    assert c_of(other) == pytest.approx(c_of(entry), abs=1e-3)


@settings(max_examples=25, deadline=None)
@given(errors, layouts, st.integers(0, 10_000))
def test_three_equal_wires_reduce_as_the_single_reading_they_are(c: float, pairs: Any, seed: int) -> None:
    entry = noisy(c, pairs, seed, copies=1)
    wired = copy.deepcopy(entry)
    for setup in wired["observations"]["setups"]:
        for sight in setup.values():
            (middle,) = sight.pop("readings")
            half = float(sight["distance"]) / 200
            sight["wires"] = [
                {"upper": f"{float(middle) + half:.5f}", "middle": middle, "lower": f"{float(middle) - half:.5f}"}
            ]
    there = reduce(wired)
    assert there["result"]["collimation_arcsec"] == pytest.approx(c_of(entry), abs=1e-3)
    assert there["verdict"]["parts"][0]["sigma"] <= reduce(entry)["verdict"]["parts"][0]["sigma"]


@settings(max_examples=25, deadline=None)
@given(st.lists(st.tuples(st.floats(2, 80), st.floats(2, 80)), min_size=3, max_size=6), st.integers(0, 10_000))
def test_any_number_of_set_ups_against_independent_least_squares(pairs: list[tuple[float, float]], seed: int) -> None:
    pairs = [(round(a, 1), round(b, 1)) for a, b in pairs]
    gaps = [a - b for a, b in pairs]
    if max(gaps) - min(gaps) < 3:
        pairs[0] = (70.0, 5.0)
        pairs[1] = (5.0, 70.0)
    entry = noisy(12.0, pairs, seed)
    setups = entry["observations"]["setups"]
    means = [[np.mean([float(v) for v in setup[s]["readings"]]) for s in "ab"] for setup in setups]
    observed = [a - b - CURVATURE * (da**2 - db**2) for (a, b), (da, db) in zip(means, pairs, strict=True)]
    design = np.array([[1.0, da - db] for da, db in pairs])
    (rise, c), *_ = np.linalg.lstsq(design, np.array(observed), rcond=None)
    found = reduce(entry)
    if found["verdict"]["set_aside"]:
        return
    assert found["result"]["collimation_arcsec"] == pytest.approx(c * RHO, abs=1e-4)
    assert found["result"]["height_difference_m"] == pytest.approx(rise, abs=1e-8)


@pytest.mark.parametrize(
    ("length", "factor"), [("ft", 0.3048), ("usft", 1200 / 3937), ("in", 0.0254), ("mm", 0.001), ("cm", 0.01)]
)
def test_every_unit_says_the_same_error(length: str, factor: float) -> None:
    metres = exact(17.5, (30, 30), (56, 4), copies=2)
    other = copy.deepcopy(metres)
    for setup in other["observations"]["setups"]:
        for sight in setup.values():
            sight["distance"] = f"{float(sight['distance']) / factor:.9g}"
            sight["readings"] = [f"{float(value) / factor:.10g}" for value in sight["readings"]]
    other["units"] = {"length": length}
    assert c_of(other) == pytest.approx(c_of(metres), abs=1e-3)
    result = reduce(other)
    assert all(row["text"] for row in result["shown"])
    assert result["work"][0]["text"].startswith(f"A {SHORTEST[length]} difference")


@settings(max_examples=40, deadline=None)
@given(st.floats(5, 90), st.floats(-40, 130))
def test_a_level_is_placed_where_its_distances_put_it(base: float, x: float) -> None:
    """Between the pegs or beyond either; pegs that nearly touch it apart."""
    da, db = abs(x), abs(base - x)
    if min(da, db) < 1:
        return
    assert place_m(base, da, db) == pytest.approx(x, abs=1e-6)


def test_the_baseline_of_every_named_layout() -> None:
    for name, (metres, _) in LAYOUTS.items():
        assert baseline_m(list(metres), name) == pytest.approx(60)


@settings(max_examples=30, deadline=None)
def expected_arcsec(answer: dict) -> float:
    """The ± that is foretold, as it is stated."""
    text = next(message["text"] for message in answer["progress"]["messages"] if message["code"] == "expected")
    found = re.search(r"about ± ([\d.]+)″", text)
    assert found is not None, text
    return float(found[1])


@given(st.integers(0, 3), st.integers(0, 3))
def test_a_preview_of_any_part_of_a_sheet_names_the_next_reading_and_refuses_nothing(full: int, staff: int) -> None:
    """Readings are typed one after the other: whatever is there yet, there are no faults, and the next one is named."""
    whole = exact(8, (30, 30), (56, 4))
    order = [(i, s) for i in (0, 1) for s in "ab"]
    part = copy.deepcopy(whole)
    for i, s in order[full:]:
        part["observations"]["setups"][i][s].pop("readings")
    answer = preview(part)
    assert answer["faults"] == []
    assert not answer["complete"]
    i, s = order[full]
    assert answer["progress"]["next"]["path"] == f"observations.setups[{i}].{s}.readings[0]"
    assert expected_arcsec(answer) == pytest.approx(9.1, abs=0.05)


def test_expected_proof_is_what_a_clean_test_then_has() -> None:
    """The ± given before the last reading is the one found after it when the day is as usual."""
    part = exact(8, (30, 30), (56, 4), copies=2)
    held = part["observations"]["setups"][1]["b"].pop("readings")
    found = expected_arcsec(preview(part))
    part["observations"]["setups"][1]["b"]["readings"] = held
    parsed = document_of(part)
    part_of = reduce_of("two-peg", parsed)["verdict"]["parts"][0]
    # Equal repeats scatter not at all: pooled with 6 degrees of freedom the found one is smaller, never larger.
    assert part_of["u95"] <= found
    assert part_of["u95"] >= found * 0.6
