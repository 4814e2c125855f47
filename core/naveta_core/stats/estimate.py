"""A value with what is known of it: pooled standard uncertainty, degrees of freedom, intervals and bounds."""

from __future__ import annotations

from dataclasses import dataclass
from math import sqrt
from statistics import NormalDist

from .quantiles import f_quantile, t_quantile

PRIOR_DOF = 6.0
"""A-priori spreads are trusted to about 30 percent: worth six degrees of freedom."""
MIN_F_SQUARED = 0.1
SCATTER_PROBABILITY = 0.99
SCATTER_REFUSED = 3.0


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


def rounded_alike(within: float, step: float, n: int) -> float:
    """The variance that rounding to a step gives all of n repeats alike, beyond its share in each: r²/12·(1 − w/r − 1/n).

    A noise w below the step r rounds repeats to the same figure: their mean is as far from the truth as each of them.
    within: w, one sigma, without rounding; in the unit of the step, the variance in its square.

    Source: docs/judgement.md, *Scatter*; together with (w² + r²/12)/n it is w²/n + r²/12·max(1/n, 1 − w/r).
    """
    return step**2 / 12 * max(0.0, 1.0 - within / step - 1.0 / n) if step > 0 else 0.0


def scale_squared(found: Spread, prior_dof: float = PRIOR_DOF) -> float:
    """f^2: by how much the square of the scatter found differs from the a-priori one, pooled with it.

    Prior_dof: degrees of freedom.
    """
    return max(MIN_F_SQUARED, (prior_dof + found.squares) / (prior_dof + found.dof))


def scatter_factor(found: Spread, prior_dof: float = PRIOR_DOF) -> float | None:
    """By what factor the scatter exceeds the expected one, or None when chance explains it (1 percent).

    Prior_dof: degrees of freedom.
    """
    if found.dof <= 0:
        return None
    ratio = found.squares / found.dof
    return sqrt(ratio) if ratio > f_quantile(SCATTER_PROBABILITY, found.dof, prior_dof) else None


def vector_bound(estimate: Estimate, probability: float = 0.95) -> float:
    """What the size of a vector without any error stays below, usually 19 times in 20: sigma*sqrt(2 F(2, dof)).

    In the unit of the estimate; the probability has no unit."""
    return estimate.sigma * sqrt(2 * f_quantile(probability, 2, estimate.dof))
