"""A coarse last digit: one step is never an outlier, and rounding that equal readings share does not average away."""

from __future__ import annotations

from math import sqrt

import pytest

from naveta_core.stats.estimate import rounded_alike
from naveta_core.stats.outliers import beyond, find_moved, find_outlier, left_between, too_scattered
from naveta_core.units.numbers import DECIMAL, SEXAGESIMAL, shown_step

from .builders import codes, document, reduce


def test_hundredths_of_a_foot_are_not_set_aside() -> None:
    """5.21, 5.21, 5.22 asked "Typed 5.22 for 5.21?" and gave *repeat*."""
    setups = [("98.4", ["5.21", "5.21", "5.22"], "98.4", ["4.22"] * 3), ("183.7", ["5.20"] * 3, "13.1", ["4.21"] * 3)]
    found = reduce(document(*setups, units={"length": "ft"}))
    assert "set-aside" not in codes(found)
    assert found["verdict"]["grade"] != "repeat"
    setups[0] = ("98.4", ["5.21", "5.21", "5.32"], "98.4", ["4.22"] * 3)
    assert "set-aside" in codes(reduce(document(*setups, units={"length": "ft"}))), "a tenth of a foot still is"


def test_the_uncertainty_of_equal_readings_holds_the_step_they_share() -> None:
    """Four sights of 10 mm steps, nine readings: σ ≥ √(4·(10²/12)·(1 − w/r − 1/9))/52 m, in seconds; w up to 0.63 mm."""
    setups = [(30, ["1.50"] * 9, 30, ["1.20"] * 9), (56, ["1.50"] * 9, 4, ["1.20"] * 9)]
    found = reduce(document(*setups))
    least = sqrt(4 * 10**2 / 12 * (1 - 0.063 - 1 / 9)) / 1000 / 52 * 206265
    sigma = found["result"]["sigma_collimation_arcsec"]
    assert least <= sigma <= 1.2 * least


@pytest.mark.parametrize(
    ("w", "r", "n", "expected"),
    [(0.0, 12.0, 4, 12 * (1 - 0.25)), (6.0, 12.0, 4, 12 * 0.25), (9.0, 12.0, 4, 0.0), (1.0, 0.0, 4, 0.0)],
)
def test_what_rounding_gives_all_alike_by_hand(w: float, r: float, n: int, expected: float) -> None:
    assert rounded_alike(w, r, n) == pytest.approx(expected)


def test_one_step_is_never_an_outlier_and_two_may_be() -> None:
    """All of a face but one read alike, the display counts in 10″, the noise is 1″: standardised by √(1 + 100/12)."""
    spread = sqrt(1 + 100 / 12)
    one = [[v / spread for v in (0, 0, 0, 0, 10)], [0.0] * 5, [0.0] * 5]
    assert find_outlier(one) is not None, "without the step it is one"
    assert find_outlier(one, 10 / spread) is None
    two = [[v / spread for v in (0, 0, 0, 0, 20)], [0.0] * 5, [0.0] * 5]
    found = find_outlier(two, [10 / spread] * 3)
    assert found is not None
    assert (found.group, found.index) == (0, 4)


def test_one_step_is_no_move_no_scatter_and_no_closing_difference() -> None:
    halves = [[0.0, 0.0, 0.0, 1.0, 1.0, 1.0], [0.0] * 6, [0.0] * 6, [0.0] * 6]
    assert find_moved([[4 * v for v in group] for group in halves]) is not None
    assert find_moved([[4 * v for v in group] for group in halves], 4.0) is None
    assert too_scattered([[9 * v for v in group] for group in halves]) == 0
    assert too_scattered([[9 * v for v in group] for group in halves], 9.0) is None
    assert left_between([0.0] * 5, [9.0, 9.0], halves[1:]) == 9.0
    assert left_between([0.0] * 5, [9.0, 9.0], halves[1:], 9.0) is None


def test_more_than_a_step_from_the_middle_of_the_others() -> None:
    assert not beyond([20, 21, 21, 21, 22], 1.0)
    assert beyond([20, 21, 21, 21, 23], 1.0)
    assert not beyond([1, 2], 1.0)
    assert beyond([1, 3], 1.0)


def test_the_step_a_display_shows() -> None:
    circle = [0, 20, 40, 120]
    assert shown_step(circle, 1.0, SEXAGESIMAL) == 20
    assert shown_step([0, 0, 0, 20, 20, 20], 1.0, SEXAGESIMAL) == 1.0, "two different values say nothing"
    assert shown_step([1.205, 1.210, 1.315, 1.220], 0.001, DECIMAL) == pytest.approx(0.005)
    assert shown_step([1.205, 1.211, 1.315, 1.220], 0.001, DECIMAL) == 0.001
