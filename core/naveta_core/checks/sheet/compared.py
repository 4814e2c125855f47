"""Lengths compared one by one: read in pairs, solved for zero and scale, and no single figure condemns.

A place that was read twice, both alike, and lies off the line of all the others is the thing's own fault. A single reading
off the line is a slip until it was read again: it is named, or set aside beside a second reading that fits.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from math import fsum, sqrt
from typing import Any

from ...judgement import Estimate, pooled, scatter_factor
from ...numerals import finest
from ...quantiles import t_quantile
from ...readings import Range, Sheet
from .entry import Where
from .fits import stands_apart
from .straight import Straight, straight
from .typed import blank, filled

SAME_PLACE_M = 0.005
ODD_PROBABILITY = 0.9995
"""A place read twice is called odd only when chance would not do it once in a thousand."""
AGREE = 3.0
"""Two readings of a place are alike within so many of their own standard deviations."""
MOST_ASIDE = 2
FEWEST_OTHERS = 3


@dataclass
class Pairs:
    """Given and read lengths by path, m; the worth of the last digit read, mm."""

    marks: list[tuple[str, float, float]]
    step_mm: float


def read_pairs(
    sheet: Sheet,
    path: str,
    listed: list[Any],
    names: tuple[str, str],
    words: Where,
    allowed: Range,
    fewest: int,
    *,
    both_read: bool = False,
) -> Pairs:
    """Pairs of lengths of a list, in metres. Only what is read off is rounded: `names[1]`, and the first when `both_read`."""
    marks, steps = [], []
    for i, one in enumerate(listed):
        base, typed = f"{path}[{i}]", [getattr(one, name) for name in names]
        if i >= fewest and blank(*typed):
            continue
        found = [
            sheet.length(f"{base}.{name}", words(f"{base}.{name}"), value, allowed)
            for name, value in zip(names, typed, strict=True)
        ]
        first, second = found
        if first is None or second is None:
            continue
        marks.append((base, first.m, second.m))
        steps += [second.step_m, *([first.step_m] if both_read else [])]
    for i in range(len(listed), fewest):
        for name in names:
            sheet.want(f"{path}[{i}].{name}", words(f"{path}[{i}].{name}"))
    return Pairs(marks, finest(steps) * 1000)


def all_read(pairs: Pairs, listed: Sequence[Any], names: tuple[str, str], fewest: int) -> bool:
    """Whether every row that was begun could be read, and there are enough of them."""
    return len(pairs.marks) >= max(fewest, filled(listed, *names))


@dataclass(frozen=True, slots=True)
class Reckoned:
    """How a comparison is solved: variances of one reading in mm², of the scale alone in ppm²."""

    within: float
    between: float
    dof: float
    scale_ppm2: float = 0.0


@dataclass
class Compared:
    """The line through what is kept; the place that fits least; what was set aside or does not fit."""

    line: Straight
    misfit: Estimate
    at: int
    """The reading at the place that fits least."""
    misfit_variance: float
    kept: list[int]
    aside: list[int] = field(default_factory=list)
    apart: int | None = None
    """A single reading that stands apart: nothing is concluded before it was read again."""
    residuals: list[float] = field(default_factory=list)
    """Of every reading against the line, mm; those set aside too."""


@dataclass(frozen=True, slots=True)
class Lengths:
    """What was compared: the place meant (graduation or known length), its true length, m, and what is wrong there, mm."""

    place_m: tuple[float, ...]
    length_m: tuple[float, ...]
    error_mm: tuple[float, ...]

    def of(self, kept: Sequence[int]) -> Lengths:
        """Only these readings."""
        listed = (self.place_m, self.length_m, self.error_mm)
        place, length, error = (tuple(one[i] for i in kept) for one in listed)
        return Lengths(place, length, error)

    def places(self, kept: Sequence[int] | None = None) -> list[list[int]]:
        """Readings of one and the same place together, in the order of the places."""
        order = sorted(range(len(self.place_m)) if kept is None else kept, key=lambda i: self.place_m[i])
        groups: list[list[int]] = []
        for i in order:
            if groups and self.place_m[i] - self.place_m[groups[-1][0]] < SAME_PLACE_M:
                groups[-1].append(i)
            else:
                groups.append([i])
        return groups

    def line(self, kept: Sequence[int], how: Reckoned) -> Straight:
        """The line through some of them."""
        some = self.of(kept)
        return straight(some.length_m, some.error_mm, how.within, how.between, how.dof, how.scale_ppm2)


def places_among(lengths_m: Sequence[float]) -> int:
    """How many places some lengths are."""
    same = tuple(lengths_m)
    return len(Lengths(same, same, same).places())


def compare(told: Lengths, how: Reckoned) -> Compared:
    """Solve for zero and scale; two places or more."""
    kept, aside, apart = list(range(len(told.place_m))), list[int](), None
    odd = _odd_place(told, kept, how)
    while odd is None:
        hit = stands_apart(told.line(kept, how).solved)
        if hit is None:
            break
        i = kept[hit]
        twins = [j for j in kept if j != i and abs(told.place_m[j] - told.place_m[i]) < SAME_PLACE_M]
        if not twins or len(aside) == MOST_ASIDE:
            apart = i
            break
        aside.append(i)
        kept.remove(i)
        odd = _odd_place(told, kept, how)
    return _judged(told, how, kept, aside, apart, odd)


def _judged(
    told: Lengths, how: Reckoned, kept: list[int], aside: list[int], apart: int | None, odd: list[int] | None
) -> Compared:
    """The line without the odd place, and how far the place that fits least lies off it."""
    on_line = [i for i in kept if i not in (odd or [])]
    line = told.line(on_line, how)
    residuals = [e - line.at(x) for x, e in zip(told.length_m, told.error_mm, strict=True)]
    groups = [odd] if odd else told.places(kept)
    mean = {min(group): fsum(residuals[i] for i in group) / len(group) for group in groups}
    at = max(mean, key=lambda i: abs(mean[i]))
    size = len(next(group for group in groups if min(group) == at))
    if odd:
        variance = how.within / size + line.variance_at(told.length_m[at])
    else:
        leverage = line.solved.fit.leverage[on_line.index(at)]
        variance = how.within * max(0.05, 1 / size - leverage)
    misfit = pooled(mean[at], variance, 0.0, line.solved.spread, how.dof)
    return Compared(line, misfit, at, variance, kept, aside, apart, residuals)


def _odd_place(told: Lengths, kept: Sequence[int], how: Reckoned) -> list[int] | None:
    """The place that was read twice, both alike, and lies off the line of all others; None when there is none."""
    furthest, odd = 0.0, None
    for mine in told.places(kept):
        rest = [i for i in kept if i not in mine]
        if len(mine) < 2 or len(told.places(rest)) < FEWEST_OTHERS:
            continue
        values = [told.error_mm[i] for i in mine]
        if max(values) - min(values) > AGREE * sqrt(2 * how.within):
            continue
        line, at = told.line(rest, how), told.length_m[mine[0]]
        off = abs(fsum(values) / len(values) - line.at(at))
        sigma = sqrt(how.within / len(values) + line.variance_at(at))
        fits = scatter_factor(line.solved.spread, how.dof) is None
        if fits and off / sigma > max(furthest, t_quantile(ODD_PROBABILITY, how.dof)):
            furthest, odd = off / sigma, mine
    return odd


def without_each(
    told: Lengths, how: Reckoned, kept: Sequence[int], estimates: Callable[[Compared], list[Estimate]]
) -> list[list[Estimate] | None]:
    """The estimates with each reading of `kept` left out in turn; None where the rest cannot be solved."""
    answers: list[list[Estimate] | None] = []
    for i in kept:
        rest = [j for j in kept if j != i]
        alone = len(told.places(rest)) < 2
        answers.append(None if alone else estimates(compare(told.of(rest), how)))
    return answers
