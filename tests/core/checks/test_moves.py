"""Something moved within a series, one series too scattered, a closing sight that left: found, and chance left alone."""

from __future__ import annotations

import math
import random

import pytest
from scipy import stats

from naveta_core.stats.outliers import find_moved, find_outlier, left_between, too_scattered

GROUPS, N = 4, 5


def quiet(rng: random.Random, groups: int = GROUPS, n: int = N) -> list[list[float]]:
    return [[rng.gauss(0, 1) for _ in range(n)] for _ in range(groups)]


def test_a_step_within_a_series_is_found_with_its_place() -> None:
    rng = random.Random(1)
    right = 0
    for _ in range(100):
        groups, at = quiet(rng), rng.choice((2, 3))
        groups[2] = [value + 8.0 * (i >= at) for i, value in enumerate(groups[2])]
        found = find_moved(groups)
        right += found is not None and (found.group, found.index) == (2, at)
    print(f"a step of eight sigma: placed rightly {right} of 100")
    assert right >= 97


def test_a_step_stands_out_more_than_any_single_value_of_it() -> None:
    groups = [[0.1, -0.2, 9.0, 9.2, 8.9], [0.0, 0.3, -0.1, 0.2, -0.3]]
    moved, gap = find_moved(groups), find_outlier(groups)
    assert moved is not None
    assert (moved.group, moved.index) == (0, 2)
    assert gap is None or moved.deviation > gap.deviation


def test_the_step_is_weighed_as_the_rule_says() -> None:
    """Mean of two against mean of three, over the scatter of all without that very step."""
    groups = [[0.0, 1.0, 9.0, 10.0, 11.0], [0.0, 1.0, 2.0, 1.0, 1.0]]
    found = find_moved(groups)
    assert found is not None
    q = 1 / 2 + 1 / 3
    step = 0.5 - 10.0
    total = sum(sum((x - sum(g) / 5) ** 2 for x in g) for g in groups)
    f2 = max(0.1, (2 + total - step**2 / q) / (2 + 8 - 1))
    assert found.deviation == pytest.approx(abs(step) / math.sqrt(f2 * q))
    tests = 2 * (5 + 2)
    assert found.deviation > stats.t.ppf(1 - 0.006 / (2 * tests), 2 + 8 - 1)


def test_chance_alone_is_left_alone() -> None:
    rng = random.Random(2)
    runs = 600
    moved = scattered = left = 0
    for _ in range(runs):
        groups = quiet(rng)
        moved += find_moved(groups) is not None
        scattered += too_scattered(groups) is not None
        left += left_between(groups[0], [rng.gauss(0, 1) for _ in range(2)], groups) is not None
    print(f"of {runs} quiet documents: moved {moved}, scattered {scattered}, left {left}")
    assert (moved + scattered + left) / runs <= 0.02


def test_one_face_that_shimmers_is_named() -> None:
    rng = random.Random(3)
    named = 0
    for _ in range(100):
        groups = quiet(rng)
        groups[3] = [value * 9.0 for value in groups[3]]
        named += too_scattered(groups) == 3
    assert named >= 80
    assert too_scattered([[0.0, 1.0, 2.0]]) is None, "one series has nothing to be held against"
    assert too_scattered([[0.0, 1.0], [0.0, 9.0]]) is None, "two values are no scatter"


def test_a_closing_look_by_hand() -> None:
    """Five pointings about 0, two at 6: 6 over √(f²(1/5 + 1/2))."""
    group, closing = [-1.0, 0.0, 1.0, 0.5, -0.5], [6.0, 6.0]
    total = 1 + 1 + 0.25 + 0.25
    f2 = max(0.1, (2 + total) / (2 + 4))
    bound = stats.t.ppf(0.9985, 6) * math.sqrt(f2 * (1 / 5 + 1 / 2))
    assert left_between(group, closing, [group]) == pytest.approx(6.0)
    assert bound < 6.0
    assert left_between(group, [bound * 0.99] * 2, [group]) is None
    assert left_between(group, [-bound * 1.01] * 2, [group]) == pytest.approx(-bound * 1.01)


@pytest.mark.parametrize("groups", [[], [[1.0]], [[1.0, 2.0]], [[1.0, 2.0, 3.0]]])
def test_too_few_say_nothing(groups: list[list[float]]) -> None:
    assert find_moved(groups) is None
    assert too_scattered(groups) is None
