"""From an estimate to a grade: the decision rule, and evidence from the record.

The rule is one for every kind of check. Its rates, and the coverage of the interval, were found by simulation
and are found again by tests/core/test_rates.py.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt
from typing import Literal

from .estimate import Estimate, vector_bound

Grade = Literal["use", "watch", "adjust", "service", "repeat"]
ORDER: tuple[Grade, ...] = ("use", "watch", "repeat", "adjust", "service")
"""For a whole document, worst last: a repeat hides use and watch, a sure adjust or service shows through it."""
EVIDENCE_DAYS = 90.0
EVIDENCE_KELVIN = 10.0
STORING_SHARE = 0.5
"""A value is stored only from a test whose U is within this share of the limit."""
DAYS_PER_MONTH = 30.4375
WANDER_SHARE = 0.3
"""Of a limit, one standard deviation: how far an error wanders in three months."""


@dataclass(frozen=True, slots=True)
class Limits:
    """Limits of one quantity, in its unit: usable to L, conditionally to W, adjustable in the field to S."""

    use: float
    watch: float
    adjust: float
    source: str
    adjustable: bool = True


@dataclass(frozen=True, slots=True)
class Decision:
    """A grade and the codes that say why."""

    grade: Grade
    codes: tuple[str, ...] = ()


def decide(estimate: Estimate, limits: Limits, *, vector: bool = False, fine: float = 1.0) -> Decision:
    """The decision rule, its lines in the order in which they are asked.

    A vector's size (never negative) is given from noise only beyond sigma*sqrt(2 F0.95(2, dof)). `fine`: the share of the
    limit that U may take up where a finding is to be acted upon without being sure beyond the limit.
    """
    size, b = abs(estimate.value), estimate.b95
    u = vector_bound(estimate) if vector else estimate.u95
    if size + b <= limits.use:
        return Decision("use")
    if size <= limits.watch:
        code = "near-limit" if b <= limits.use / 2 else "not-proved"
        return Decision("watch", (code, "conditional") if size > limits.use else (code,))
    if not limits.adjustable:
        return Decision("service") if size - u > limits.use else Decision("repeat", ("confirm",))
    if size - u > limits.adjust:
        return Decision("service", ("beyond-adjusting",))
    if (size > u and estimate.u95 <= fine * limits.use) or size - (u if vector else b) > limits.use:
        return Decision("adjust")
    return Decision("repeat", ("confirm",))


def may_turn_screws(estimate: Estimate, limits: Limits, fine: float = 1.0) -> bool:
    """Screws are turned only from a test that is fine enough: U within the limit; values stored within half of it.

    Fine in the unit of the limits.
    """
    return estimate.u95 <= fine * limits.use


def worst(grades: Sequence[Grade]) -> Grade:
    """The grade of a document from those of its quantities."""
    return max(grades, key=ORDER.index)


def wandering(use: float, days: float) -> float:
    """The variance that slow wandering gives an error in so many days: 0.3 of its limit in three months, at least 0.1 of it.

    use: the limit; the variance is in its unit, squared.
    """
    return max((WANDER_SHARE * use) ** 2 * days / DAYS_PER_MONTH / 3, (0.1 * use) ** 2)


def wander_in_a_root_day(use: float) -> float:
    """The same as a growth: one standard deviation in the root of a day. use: the limit; in its unit."""
    return WANDER_SHARE * use / sqrt(3 * DAYS_PER_MONTH)


@dataclass(frozen=True, slots=True)
class Evidence:
    """An earlier result graded `use` in the same stretch of history. In any unit, the same as what it is held against."""

    value: float
    sigma: float
    days_ago: float
    kelvin_between: float | None = None


def confirmed_by_record(estimate: Estimate, limits: Limits, earlier: Evidence) -> Estimate | None:
    """The joined estimate when an earlier good record carries today's not-proved one to `use`, else None.

    Wanted: today's U and value within the limit, at most 90 days and 10 K apart, no change beyond what noise and
    slow wandering (0.3 L a root-quarter, at least 0.1 L) explain, and the joined value proved within the limit.
    """
    if estimate.u95 > limits.use or abs(estimate.value) > limits.use:
        return None
    if not 0 <= earlier.days_ago <= EVIDENCE_DAYS or (earlier.kelvin_between or 0) > EVIDENCE_KELVIN:
        return None
    v0 = earlier.sigma**2 + wandering(limits.use, earlier.days_ago)
    if abs(estimate.value - earlier.value) > 1.645 * hypot(estimate.sigma, sqrt(v0)):
        return None
    w1, w0 = 1 / estimate.sigma**2, 1 / v0
    mean = (estimate.value * w1 + earlier.value * w0) / (w1 + w0)
    joined = Estimate(mean, 1 / sqrt(w1 + w0), estimate.dof, pooled=True)
    return joined if joined.proved_to <= limits.use else None
