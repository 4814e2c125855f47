"""From an estimate to a grade: pooled uncertainty, the decision rule, evidence from the record.

The rule is one for every kind of check. Its rates, and the coverage of the interval, were found by simulation
and are found again by tests/core/test_rates.py.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt
from statistics import NormalDist
from typing import Literal

from .priors import PRIOR_DOF
from .quantiles import f_quantile, t_quantile

Grade = Literal["use", "watch", "adjust", "service", "repeat"]
ORDER: tuple[Grade, ...] = ("use", "watch", "repeat", "adjust", "service")
"""For a whole document, worst last: a repeat hides use and watch, a sure adjust or service shows through it."""
LEAST_F_SQUARED = 0.1
SCATTER_PROBABILITY = 0.99
SCATTER_REFUSED = 3.0
MOST_LEARNED_DOF = 12.0
LEARNING_TESTS = 3
EVIDENCE_DAYS = 90.0
EVIDENCE_KELVIN = 10.0
STORING_SHARE = 0.5
"""A value is stored only from a test whose U is within this share of the limit."""
DAYS_PER_MONTH = 30.4375


@dataclass(frozen=True, slots=True)
class Limits:
    """Limits of one quantity, in its unit: usable to L, conditionally to W, adjustable in the field to S."""

    use: float
    watch: float
    adjust: float
    source: str
    adjustable: bool = True


@dataclass(frozen=True, slots=True)
class Spread:
    """Scatter found in a document: sum of squared standardised residuals and its degrees of freedom."""

    squares: float = 0.0
    dof: float = 0.0

    def __add__(self, other: Spread) -> Spread:
        return Spread(self.squares + other.squares, self.dof + other.dof)


@dataclass(frozen=True, slots=True)
class Estimate:
    """A value with its standard uncertainty sigma (same unit) and effective degrees of freedom.

    `of`: the value is the largest of so many of equal spread. Noise alone then makes it large, so its interval is a
    maximum's (all of them within it nineteen times in twenty), and less is added above it.
    """

    value: float
    sigma: float
    dof: float
    pooled: bool = False
    of: int = 1

    @property
    def u95(self) -> float:
        """Half width of the two-sided 95 percent interval: what is shown after the plus-minus sign."""
        probability = 0.975 if self.of == 1 else (1 + 0.95 ** (1 / self.of)) / 2
        return t_quantile(probability, self.dof) * self.sigma

    @property
    def b95(self) -> float:
        """One-sided 95 percent bound above the value: what grades are given by."""
        if self.of == 1 or self.sigma == 0:
            return t_quantile(0.95, self.dof) * self.sigma
        # The largest true one lies at value + b: that the largest seen is as small as this then has a chance of
        # P(t < -b) times that all others stay below it.
        below = (2 * NormalDist().cdf(abs(self.value) / self.sigma) - 1) ** (self.of - 2)
        chance = 0.05 / max(below, 1e-9)
        return t_quantile(1 - chance, self.dof) * self.sigma if chance < 0.5 else 0.0

    @property
    def proved_to(self) -> float:
        """The error is proved to be no larger than this."""
        return abs(self.value) + self.b95


def pooled(value: float, q_within: float, q_between: float, found: Spread, prior_dof: float = PRIOR_DOF) -> Estimate:
    """Pool the a-priori spread with the scatter found in this very document.

    q_within and q_between are the variances of `value` from the a-priori parts. f^2 = max(0.1, (v0 + SS)/(v0 + v))
    scales the within part; degrees of freedom follow Welch and Satterthwaite.
    """
    f2 = scale_squared(found, prior_dof)
    within = f2 * q_within
    variance = within + q_between
    dof = variance**2 / (within**2 / (prior_dof + found.dof) + q_between**2 / prior_dof)
    return Estimate(value, sqrt(variance), dof, found.dof > 0)


def scale_squared(found: Spread, prior_dof: float = PRIOR_DOF) -> float:
    """f^2: by how much the square of the scatter found differs from the a-priori one, pooled with it."""
    return max(LEAST_F_SQUARED, (prior_dof + found.squares) / (prior_dof + found.dof))


def scatter_factor(found: Spread, prior_dof: float = PRIOR_DOF) -> float | None:
    """By what factor the scatter exceeds the expected one, or None when chance explains it (1 percent)."""
    if found.dof <= 0:
        return None
    ratio = found.squares / found.dof
    return sqrt(ratio) if ratio > f_quantile(SCATTER_PROBABILITY, found.dof, prior_dof) else None


def learned_noise(tests: Sequence[Spread]) -> tuple[float, float] | None:
    """What earlier accepted tests teach: the factor on w and the degrees of freedom it may be trusted with."""
    if len(tests) < LEARNING_TESTS:
        return None
    total = sum(tests, Spread())
    factor_squared = (PRIOR_DOF + total.squares) / (PRIOR_DOF + total.dof)
    return sqrt(factor_squared), min(MOST_LEARNED_DOF, PRIOR_DOF + total.dof)


@dataclass(frozen=True, slots=True)
class Decision:
    """A grade and the codes that say why."""

    grade: Grade
    codes: tuple[str, ...] = ()


def decide(estimate: Estimate, limits: Limits, *, vector: bool = False, fine: float = 1.0) -> Decision:
    """The decision rule, its lines in the order in which they are asked.

    A vector's size (never negative) is told from noise only beyond sigma*sqrt(2 F0.95(2, dof)). `fine`: the share of the
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


def vector_bound(estimate: Estimate) -> float:
    """What the size of a vector without any error stays below nineteen times in twenty: sigma*sqrt(2 F0.95(2, dof))."""
    return estimate.sigma * sqrt(2 * f_quantile(0.95, 2, estimate.dof))


def may_turn_screws(estimate: Estimate, limits: Limits, fine: float = 1.0) -> bool:
    """Screws are turned only from a test that is fine enough: U within the limit; values stored within half of it."""
    return estimate.u95 <= fine * limits.use


def worst(grades: Sequence[Grade]) -> Grade:
    """The grade of a document from those of its quantities."""
    return max(grades, key=ORDER.index)


@dataclass(frozen=True, slots=True)
class Evidence:
    """An earlier result graded `use` in the same segment."""

    value: float
    sigma: float
    days_ago: float
    kelvin_apart: float | None = None


def confirmed_by_record(estimate: Estimate, limits: Limits, earlier: Evidence) -> Estimate | None:
    """The joined estimate when an earlier good record carries today's not-proved one to `use`, else None.

    Wanted: today's U and value within the limit, at most 90 days and 10 K apart, no change beyond what noise and
    slow wandering (0.3 L a root-quarter, at least 0.1 L) explain, and the joined value proved within the limit.
    """
    if estimate.u95 > limits.use or abs(estimate.value) > limits.use:
        return None
    if not 0 <= earlier.days_ago <= EVIDENCE_DAYS or (earlier.kelvin_apart or 0) > EVIDENCE_KELVIN:
        return None
    wandering = max((0.3 * limits.use) ** 2 * earlier.days_ago / DAYS_PER_MONTH / 3, (0.1 * limits.use) ** 2)
    v0 = earlier.sigma**2 + wandering
    if abs(estimate.value - earlier.value) > 1.645 * hypot(estimate.sigma, sqrt(v0)):
        return None
    w1, w0 = 1 / estimate.sigma**2, 1 / v0
    mean = (estimate.value * w1 + earlier.value * w0) / (w1 + w0)
    joined = Estimate(mean, 1 / sqrt(w1 + w0), estimate.dof, True)
    return joined if joined.proved_to <= limits.use else None
