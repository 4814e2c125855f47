"""Solving rows of figures for a handful of unknowns, with what scatters and what is an outlier."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum, sqrt

from .estimate import MIN_F_SQUARED, Estimate, Spread, pooled
from .least_squares import Fit, Matrix, fit
from .quantiles import t_quantile

OUTLIER_PROBABILITY = 0.01
Observation = tuple[list[float], float]
"""A row of the design and what was observed."""


@dataclass(frozen=True, slots=True)
class Solved:
    """An equal-weight solution with its a-priori spreads and the scatter found.

    Variances in the square of the readings' unit, any unit.
    """

    fit: Fit
    within: float
    between: float
    prior_dof: float

    @property
    def spread(self) -> Spread:
        """How the readings scatter about the fit, in the square of their own standard deviation."""
        nu = self.fit.redundancy
        if nu < 1:
            return Spread()
        # What is common to all readings leaves no residual: only what differs from reading to reading shows here.
        squares = fsum(v * v for v in self.fit.residuals)
        return Spread(squares / self.within, float(nu))

    def q_within(self, index: int) -> float:
        """Variance of an unknown by the scatter within, for one reading of variance 1."""
        return self.fit.variance(index, [self.within] * len(self.fit.residuals))

    def estimate(self, index: int) -> Estimate:
        """An unknown with its uncertainty; what is common to all readings does not become less with their number."""
        return pooled(self.fit.unknowns[index], self.q_within(index), self.between, self.spread, self.prior_dof)


def solve(rows: Sequence[Observation], within: float, between: float, dof: float) -> Solved:
    """Variances of one reading: `within` falls with repeats, `between` is common to all.

    Variances in the square of the readings' unit; dof: degrees of freedom.
    """
    design: Matrix = [row for row, _ in rows]
    return Solved(fit(design, [value for _, value in rows]), within, between, dof)


def outlier_in(solved: Solved) -> int | None:
    """The observation that is an outlier from the others, or None; needs two redundant ones to be named."""
    found, nu = solved.fit, solved.fit.redundancy
    if nu < 2:
        return None
    variance = solved.within
    total, n = fsum(v * v for v in found.residuals) / variance, len(found.residuals)
    prior = 2.0
    critical = t_quantile(1 - OUTLIER_PROBABILITY / (2 * n), prior + nu - 1)
    furthest, at = 0.0, None
    for i, (v, h) in enumerate(zip(found.residuals, found.leverage, strict=True)):
        if 1 - h < 1e-9:
            continue
        own = v * v / variance / (1 - h)
        f2 = max(MIN_F_SQUARED, (prior + total - own) / (prior + nu - 1))
        deviation = sqrt(own / f2)
        if deviation > max(critical, furthest):
            furthest, at = deviation, i
    return at
