"""Lengths compared one by one: read in pairs, solved for zero and scale, and no single figure condemns.

A place that was read twice, both alike, and lies off the line of all the others is the thing's own fault. A single reading
off the line is a slip until it was read again: it is named, or set aside beside a second reading that fits.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import KW_ONLY, dataclass, field
from math import fsum, sqrt

from ..documents.envelope import Part
from ..results import CodedText, DeviationsPicture
from ..stats.estimate import Estimate, pooled, scatter_factor
from ..stats.quantiles import t_quantile
from ..stats.row_fit import outlier_in
from ..stats.straight_line import Straight, straight
from ..units.formatting import LengthWords, figure
from ..units.numbers import finest
from .drawing import deviations
from .reader import Reader, filled_rows

SAME_PLACE_M = 0.005
ODD_PROBABILITY = 0.9995
"""A place read twice is called odd only when chance would not do it once in a thousand."""
AGREE = 3.0
"""Two readings of a place are alike within so many of their own standard deviations."""
MAX_ASIDE = 2
MIN_OTHERS = 3


@dataclass
class Pairs:
    """Given and read lengths by path, m; the worth of the last digit read, mm."""

    listed: list[tuple[str, float, float]]
    step_mm: float


def read_pairs(
    reader: Reader, observations: Part, name: str, names: tuple[str, str], *, both_read: bool = False
) -> Pairs:
    """Pairs of lengths of a list, in metres. Only what is read off is rounded: `names[1]`, and the first when `both_read`."""
    rows = reader.rows(observations, name)
    steps = [row.step(key) for row in rows for key in (names if both_read else names[1:])]
    return Pairs([(row.path, row[names[0]], row[names[1]]) for row in rows], finest(steps) * 1000)


def all_read(pairs: Pairs, observations: Part, name: str, fewest: int) -> bool:
    """Whether every row that was begun could be read, and there are enough of them."""
    return len(pairs.listed) >= max(fewest, filled_rows(observations, name))


@dataclass(frozen=True, slots=True)
class ComparisonVariances:
    """How a comparison is solved: variances of one reading in mm², of the scale alone in ppm²."""

    within: float
    between: float
    dof: float
    scale_ppm2: float = 0.0


@dataclass
class Compared:
    """The line through what is kept; the place that fits least; what was set aside or does not fit. Variance in mm²."""

    line: Straight
    misfit: Estimate
    at: int
    """The reading at the place that fits least."""
    _: KW_ONLY
    misfit_variance: float
    used: list[int]
    aside: list[int] = field(default_factory=list)
    outlier: int | None = None
    """A single reading that is an outlier: nothing is concluded before it was read again."""
    residuals: list[float] = field(default_factory=list)
    """Of every reading against the line, mm; those set aside too."""


@dataclass(frozen=True, slots=True)
class Lengths:
    """What was compared: the place meant (graduation or known length), its true length, m, and what is wrong there, mm."""

    place_m: tuple[float, ...]
    length_m: tuple[float, ...]
    error_mm: tuple[float, ...]

    def of(self, used: Sequence[int]) -> Lengths:
        """Only these readings."""
        listed = (self.place_m, self.length_m, self.error_mm)
        place, length, error = (tuple(entry[i] for i in used) for entry in listed)
        return Lengths(place, length, error)

    def places(self, used: Sequence[int] | None = None) -> list[list[int]]:
        """Readings of one and the same place together, in the order of the places."""
        order = sorted(range(len(self.place_m)) if used is None else used, key=lambda i: self.place_m[i])
        groups: list[list[int]] = []
        for i in order:
            if groups and self.place_m[i] - self.place_m[groups[-1][0]] < SAME_PLACE_M:
                groups[-1].append(i)
            else:
                groups.append([i])
        return groups

    def line(self, used: Sequence[int], how: ComparisonVariances) -> Straight:
        """The line through some of them."""
        some = self.of(used)
        return straight(
            some.length_m, some.error_mm, how.within, between=how.between, dof=how.dof, scale_ppm2=how.scale_ppm2
        )


def places_among(lengths_m: Sequence[float]) -> int:
    """How many places some lengths are."""
    same = tuple(lengths_m)
    return len(Lengths(same, same, same).places())


def compare(lengths: Lengths, how: ComparisonVariances) -> Compared:
    """Solve for zero and scale; two places or more."""
    used, aside, outlier = list(range(len(lengths.place_m))), list[int](), None
    odd = _odd_place(lengths, used, how)
    while odd is None:
        hit = outlier_in(lengths.line(used, how).solved)
        if hit is None:
            break
        i = used[hit]
        twins = [j for j in used if j != i and abs(lengths.place_m[j] - lengths.place_m[i]) < SAME_PLACE_M]
        if not twins or len(aside) == MAX_ASIDE:
            outlier = i
            break
        aside.append(i)
        used.remove(i)
        odd = _odd_place(lengths, used, how)
    return _compared(lengths, how, used, aside=aside, outlier=outlier, odd=odd)


def _compared(
    lengths: Lengths,
    how: ComparisonVariances,
    used: list[int],
    *,
    aside: list[int],
    outlier: int | None,
    odd: list[int] | None,
) -> Compared:
    """The line without the odd place, and how far the place that fits least lies off it."""
    on_line = [i for i in used if i not in (odd or [])]
    line = lengths.line(on_line, how)
    residuals = [e - line.at(x) for x, e in zip(lengths.length_m, lengths.error_mm, strict=True)]
    groups = [odd] if odd else lengths.places(used)
    mean = {min(group): fsum(residuals[i] for i in group) / len(group) for group in groups}
    at = max(mean, key=lambda i: abs(mean[i]))
    size = len(next(group for group in groups if min(group) == at))
    if odd:
        variance = how.within / size + line.variance_at(lengths.length_m[at])
    else:
        leverage = line.solved.fit.leverage[on_line.index(at)]
        variance = how.within * max(0.05, 1 / size - leverage)
    misfit = pooled(mean[at], variance, 0.0, line.solved.spread, how.dof)
    return Compared(
        line, misfit, at, misfit_variance=variance, used=used, aside=aside, outlier=outlier, residuals=residuals
    )


def _odd_place(lengths: Lengths, used: Sequence[int], how: ComparisonVariances) -> list[int] | None:
    """The place that was read twice, both alike, and lies off the line of all others; None when there is none."""
    furthest, odd = 0.0, None
    for mine in lengths.places(used):
        rest = [i for i in used if i not in mine]
        if len(mine) < 2 or len(lengths.places(rest)) < MIN_OTHERS:
            continue
        values = [lengths.error_mm[i] for i in mine]
        if max(values) - min(values) > AGREE * sqrt(2 * how.within):
            continue
        line, at = lengths.line(rest, how), lengths.length_m[mine[0]]
        off = abs(fsum(values) / len(values) - line.at(at))
        sigma = sqrt(how.within / len(values) + line.variance_at(at))
        fits = scatter_factor(line.solved.spread, how.dof) is None
        if fits and off / sigma > max(furthest, t_quantile(ODD_PROBABILITY, how.dof)):
            furthest, odd = off / sigma, mine
    return odd


def without_each(
    lengths: Lengths, how: ComparisonVariances, used: Sequence[int], estimates: Callable[[Compared], list[Estimate]]
) -> list[list[Estimate] | None]:
    """The estimates with each reading of `kept` left out in turn; None where the rest cannot be solved."""
    answers: list[list[Estimate] | None] = []
    for i in used:
        rest = [j for j in used if j != i]
        alone = len(lengths.places(rest)) < 2
        answers.append(None if alone else estimates(compare(lengths.of(rest), how)))
    return answers


def errors_along(
    errors: Sequence[float], at: Sequence[float], limit: float | None, *, zero: str, along: str, words: LengthWords
) -> DeviationsPicture:
    """Errors along the length, as far as they are in. Errors and limit in mm, at in metres."""
    listed: list[tuple[str, float, float | None]] = [
        (words.height(length), length, e) for length, e in zip(at, errors, strict=True)
    ]
    return deviations("mm", listed, limit, zero, along)


def running_errors(errors_mm: Sequence[float]) -> list[CodedText]:
    """What the first lengths say while the others are still to come."""
    if len(errors_mm) < 2:
        return []
    low, high = (figure(error, 1) for error in (min(errors_mm), max(errors_mm)))
    return [("running", f"So far {len(errors_mm)} lengths, errors from {low} to {high} mm.")]
