"""Readings that are outliers from their others: named, set aside in sight, never dropped in silence.

Values are standardised by their own a-priori spread within their group (one sight, one face). A reading is held
against the mean of the *other* readings of its group, with the scatter of all groups but without itself, against
a t quantile that keeps false alarms at about one document in a hundred whatever the number of readings.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate
from math import fsum, sqrt
from statistics import median

from .estimate import MIN_F_SQUARED, Spread
from .quantiles import f_quantile, t_quantile

PRIOR_DOF = 2.0
FALSE_ALARM = 0.006
HAIR = 1e-6
"""Tolerance of a step for decimals that binary numbers cannot hold exactly."""

Steps = float | Sequence[float]
"""Last digit in the unit of the standardised readings: one value for all groups, or one per group."""


@dataclass(frozen=True, slots=True)
class Outlier:
    """The reading that is an outlier most: its group, its place, how far in spreads of the others.

    Standardised, no unit.
    """

    group: int
    index: int
    deviation: float
    sole_pair: bool = False
    """True when the group holds two readings only: they differ, and neither can be named."""


def _squares(values: Sequence[float]) -> float:
    """Sum of squared deviations from the mean, in the square of the values' unit."""
    return _squares_of(tuple(values))


# Every search for what does not fit begins with these sums, over the same groups.
@lru_cache(maxsize=512)
def _squares_of(values: tuple[float, ...]) -> float:
    mean = fsum(values) / len(values)
    return fsum([(value - mean) ** 2 for value in values])


def repeats(groups: Sequence[Sequence[float]]) -> Spread:
    """How standardised readings scatter about the mean of their group: squares, and degrees of freedom."""
    full = [group for group in groups if len(group) > 1]
    return Spread(fsum(_squares(group) for group in full), float(sum(len(group) - 1 for group in full)))


def _steps(steps: Steps, n: int) -> tuple[float, ...]:
    """Return the step of each group with its tolerance."""
    listed = (steps,) * n if isinstance(steps, float | int) else tuple(steps)
    return tuple(step * (1 + HAIR) for step in listed)


def beyond(group: Sequence[float], step: float) -> bool:
    """Return whether any reading lies more than one step from the median of the other readings.

    Two readings are compared with each other. Readings and step in one unit, any unit.
    """
    if max(group) - min(group) <= step:
        return False
    return any(abs(value - median([*group[:i], *group[i + 1 :]])) > step for i, value in enumerate(group))


def find_outlier(groups: Sequence[Sequence[float]], steps: Steps = 0.0) -> Outlier | None:
    """The one reading that is an outlier most and beyond chance, or None.

    groups: standardised readings (value over its own spread), one list a sight; empty and single ones are allowed.
    steps: their last digit's worth, standardised.
    """
    return _outlier(tuple(map(tuple, groups)), _steps(steps, len(groups)))


# A preview asks twice of the same readings, once to judge and once to say what stands out while they are typed.
@lru_cache(maxsize=32)
def _outlier(groups: tuple[tuple[float, ...], ...], steps: tuple[float, ...]) -> Outlier | None:
    dof = sum(len(group) - 1 for group in groups if len(group) > 1)
    tests = sum(len(group) + max(0, len(group) - 3) for group in groups if len(group) > 2)
    tests += sum(1 for group in groups if len(group) == 2)
    if not tests:
        return None
    critical = t_quantile(1 - FALSE_ALARM / (2 * tests), PRIOR_DOF + dof - 1) if dof else 0.0
    total = fsum(_squares(group) for group in groups if len(group) > 1)
    candidates = [
        _furthest(g, group, total, dof) for g, group in enumerate(groups) if len(group) > 1 and beyond(group, steps[g])
    ]
    furthest = max(candidates, key=lambda candidate: candidate.deviation, default=None)
    return furthest if furthest is not None and furthest.deviation > critical else None


def _furthest(g: int, group: Sequence[float], total: float, dof: int) -> Outlier:
    """The reading of a group that lies furthest from its mean: the farther it lies, the more it is an outlier."""
    n = len(group)
    mean = fsum(group) / n
    index = max(range(n), key=lambda i: abs(group[i] - mean))
    e = (group[index] - mean) * n / (n - 1)
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + total - e * e * (n - 1) / n) / (PRIOR_DOF + dof - 1))
    if n == 2:
        index = 0
    return Outlier(g, index, abs(e) / sqrt(f2 * n / (n - 1)), sole_pair=n == 2)


def likely_slip(text: str, expected: float, tolerance: float) -> str | None:
    """What may have been meant by a typed number: two neighbouring digits swapped, or one digit changed.

    expected and tolerance are in the unit of the text. Returns the text that brings it within tolerance of what
    was expected, swapped digits first, else None.
    """
    for candidate in [*_swapped(text), *_one_digit_changed(text)]:
        try:
            value = float(candidate.replace(",", "."))
        except ValueError:
            return None
        if abs(value - expected) <= tolerance:
            return candidate
    return None


def _swapped(text: str) -> list[str]:
    pairs = ((i, i + 1) for i in range(len(text) - 1))
    return [text[:i] + text[j] + text[i] + text[j + 1 :] for i, j in pairs if text[i].isdigit() and text[j].isdigit()]


def _one_digit_changed(text: str) -> list[str]:
    places = (i for i, char in enumerate(text) if char.isdigit())
    return [text[:i] + digit + text[i + 1 :] for i in places for digit in "0123456789" if digit != text[i]]


@dataclass(frozen=True, slots=True)
class Moved:
    """A group whose values fall into two: before and from `index` on. Standardised, no unit."""

    group: int
    index: int
    deviation: float


def find_moved(groups: Sequence[Sequence[float]], steps: Steps = 0.0) -> Moved | None:
    """Something moved within a group: the split that parts its values furthest, beyond chance, or None.

    The same false alarm in a hundred documents as for single values, shared with them.

    Groups: standardised readings, and their last digit's worth, no unit.
    """
    return _moved(tuple(map(tuple, groups)), _steps(steps, len(groups)))


@lru_cache(maxsize=32)
def _moved(groups: tuple[tuple[float, ...], ...], steps: tuple[float, ...]) -> Moved | None:
    dof = sum(len(group) - 1 for group in groups if len(group) > 1)
    tests = sum(len(group) + max(0, len(group) - 3) for group in groups if len(group) > 2)
    if not tests or dof < 2:
        return None
    critical = t_quantile(1 - FALSE_ALARM / (2 * tests), PRIOR_DOF + dof - 1)
    total = fsum(_squares(group) for group in groups if len(group) > 1)
    candidates = [
        _split(g, group, total, dof) for g, group in enumerate(groups) if len(group) > 3 and beyond(group, steps[g])
    ]
    furthest = max(candidates, key=lambda candidate: candidate.deviation, default=None)
    return furthest if furthest is not None and furthest.deviation > critical else None


def _split(g: int, group: Sequence[float], total: float, dof: int) -> Moved:
    """The split of a group, two values or more on either side, whose parts lie furthest from each other."""
    n, sums = len(group), list(accumulate(group))

    def off(k: int) -> float:
        """Difference of the means before and from k on, over the spread it has by chance."""
        return (sums[k - 1] / k - (sums[-1] - sums[k - 1]) / (n - k)) / sqrt(1 / k + 1 / (n - k))

    at = max(range(2, n - 1), key=lambda k: abs(off(k)))
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + total - off(at) ** 2) / (PRIOR_DOF + dof - 1))
    return Moved(g, at, abs(off(at)) / sqrt(f2))


def too_scattered(groups: Sequence[Sequence[float]], steps: Steps = 0.0) -> int | None:
    """The group that scatters more than the others explain (F at 1 − 0.001/G), or None.

    Groups: standardised readings, and their last digit's worth, no unit.
    """
    one = _steps(steps, len(groups))
    full = [(g, group) for g, group in enumerate(groups) if len(group) > 2]
    if len(full) < 2:
        return None
    squares = {g: _squares(group) for g, group in full}
    total, dof = fsum(squares.values()), sum(len(group) - 1 for _, group in full)
    worst, at = 0.0, None
    for g, group in full:
        if not beyond(group, one[g]):
            continue
        own = len(group) - 1
        f2 = max(MIN_F_SQUARED, (PRIOR_DOF + total - squares[g]) / (PRIOR_DOF + dof - own))
        ratio = squares[g] / own / f2
        if ratio > f_quantile(1 - 0.001 / len(full), own, PRIOR_DOF + dof - own) and ratio > worst:
            worst, at = ratio, g
    return at


def left_between(
    group: Sequence[float], closing: Sequence[float], groups: Sequence[Sequence[float]], step: float = 0.0
) -> float | None:
    """By how much, in spreads, a closing sight leaves the first one; None when chance explains it (0.3 percent), or one
    step of the last digit.

    All standardised, no unit.
    """
    dof = sum(len(group) - 1 for group in groups if len(group) > 1)
    total = fsum(_squares(group) for group in groups if len(group) > 1)
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + total) / (PRIOR_DOF + dof))
    away = fsum(closing) / len(closing) - fsum(group) / len(group)
    bound = t_quantile(0.9985, PRIOR_DOF + dof) * sqrt(f2 * (1 / len(group) + 1 / len(closing)))
    return away if abs(away) > max(bound, step * (1 + HAIR)) else None
