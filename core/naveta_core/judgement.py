"""From an estimate to a grade: pooled uncertainty, the decision rule, evidence from the record.

The rule is one for every kind of check. Its rates, and the coverage of the interval, were found by simulation
and are found again by tests/core/test_rates.py.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, sqrt
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
    """A value with its standard uncertainty sigma (same unit) and effective degrees of freedom."""

    value: float
    sigma: float
    dof: float
    pooled: bool = False

    @property
    def u95(self) -> float:
        """Half width of the two-sided 95 percent interval: what is shown after the plus-minus sign."""
        return t_quantile(0.975, self.dof) * self.sigma

    @property
    def b95(self) -> float:
        """One-sided 95 percent bound above the value: what grades are given by."""
        return t_quantile(0.95, self.dof) * self.sigma

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


def decide(estimate: Estimate, limits: Limits, *, vector: bool = False) -> Decision:
    """The decision rule, its lines in the order in which they are asked.

    A vector's size (never negative) is told from noise only beyond sigma*sqrt(2 F0.95(2, dof)).
    """
    size, u, b = abs(estimate.value), estimate.u95, estimate.b95
    if size + b <= limits.use:
        return Decision("use")
    if size <= limits.watch:
        code = "near-limit" if b <= limits.use / 2 else "not-proved"
        return Decision("watch", (code, "conditional") if size > limits.use else (code,))
    if not limits.adjustable:
        return Decision("service") if size - u > limits.use else Decision("repeat", ("confirm",))
    if size - u > limits.adjust:
        return Decision("service", ("beyond-adjusting",))
    threshold = estimate.sigma * sqrt(2 * f_quantile(0.95, 2, estimate.dof)) if vector else u
    if (size > threshold and u <= limits.use) or size - b > limits.use:
        return Decision("adjust")
    return Decision("repeat", ("confirm",))


def may_turn_screws(estimate: Estimate, limits: Limits) -> bool:
    """Values are stored and screws turned only from a test that is fine enough: U within the limit."""
    return estimate.u95 <= limits.use


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
