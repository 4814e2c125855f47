"""Readings that stand apart from their fellows: named, set aside in sight, never dropped in silence.

Values are standardised by their own a-priori spread within their group (one sight, one face). A reading is held
against the mean of the *other* readings of its group, with the scatter of all groups but without itself, against
a t quantile that keeps false alarms at about one document in a hundred whatever the number of readings.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum, sqrt

from .judgement import LEAST_F_SQUARED
from .quantiles import t_quantile

PRIOR_DOF = 2.0
FALSE_ALARM = 0.006


@dataclass(frozen=True, slots=True)
class Apart:
    """The reading that stands apart most: its group, its place, how far in spreads of the others."""

    group: int
    index: int
    deviation: float
    sole_pair: bool = False
    """True when the group holds two readings only: they differ, and neither can be named."""


def _squares(values: Sequence[float]) -> float:
    mean = fsum(values) / len(values)
    return fsum((value - mean) ** 2 for value in values)


def find_apart(groups: Sequence[Sequence[float]]) -> Apart | None:
    """The one reading that stands apart most and beyond chance, or None.

    groups: standardised readings (value over its own spread), one list a sight; empty and single ones are allowed.
    """
    dof = sum(len(group) - 1 for group in groups if len(group) > 1)
    tests = sum(len(group) + max(0, len(group) - 3) for group in groups if len(group) > 2)
    tests += sum(1 for group in groups if len(group) == 2)
    if not tests:
        return None
    critical = t_quantile(1 - FALSE_ALARM / (2 * tests), PRIOR_DOF + dof - 1) if dof else 0.0
    total = fsum(_squares(group) for group in groups if len(group) > 1)
    candidates = [one for g, group in enumerate(groups) for one in _of_group(g, group, total, dof)]
    furthest = max(candidates, key=lambda one: one.deviation, default=None)
    return furthest if furthest is not None and furthest.deviation > critical else None


def _of_group(g: int, group: Sequence[float], total: float, dof: int) -> list[Apart]:
    n = len(group)
    if n < 2:
        return []
    mean = fsum(group) / n
    found = []
    for i, value in enumerate(group):
        e = (value - mean) * n / (n - 1)
        f2 = max(LEAST_F_SQUARED, (PRIOR_DOF + total - e * e * (n - 1) / n) / (PRIOR_DOF + dof - 1))
        found.append(Apart(g, i, abs(e) / sqrt(f2 * n / (n - 1)), sole_pair=n == 2))
    return found[:1] if n == 2 else found


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
