"""A quantity's history between two events: its level, and whether the newest value jumps away from it.

Source: docs/judgement.md, *Series*. v = σ² + τ² for each value; f² = max(0.1, (ν₀ + Σw r²)/(ν₀ + ν)), ν₀ = 4.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import fsum, sqrt

from ..stats.estimate import MIN_F_SQUARED
from ..stats.quantiles import t_quantile

PRIOR_DOF = 4.0
JUMP_PROBABILITY = 0.995


@dataclass(frozen=True, slots=True)
class SeriesCheck:
    """One check of a series. Value, sigma and limit in the unit of the series, which the kind states: any unit."""

    id: str
    at: datetime
    value: float
    sigma: float
    limit: float
    stage: str = "as-found"
    grade: str = "use"
    temperature_c: float | None = None
    against: str = ""
    """Code by which it contradicts an earlier result, or decides between two; empty for most."""


@dataclass(frozen=True, slots=True)
class Level:
    """The weighted mean of earlier values, its variance, and by how much the scatter found differs (f²).

    In the unit of the series, the variance in its square; f² has no unit.
    """

    mean: float
    variance: float
    f_squared: float
    dof: float


def level_of(values: Sequence[float], variances: Sequence[float]) -> Level:
    """The level of at least one value. Values in any unit, variances in its square."""
    weights = [1.0 / v for v in variances]
    total = fsum(weights)
    mean = fsum(w * x for w, x in zip(weights, values, strict=True)) / total
    dof = len(values) - 1
    squares = fsum(w * (x - mean) ** 2 for w, x in zip(weights, values, strict=True))
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + squares) / (PRIOR_DOF + dof))
    return Level(mean, f2 / total, f2, dof)


def jump(earlier: Sequence[tuple[float, float]], value: float, sigma: float, tau: float) -> float | None:
    """By how much a new value leaves the level of the earlier `(value, sigma)`; None when chance explains it.

    tau: how much the quantity wanders on its own, one standard deviation.

    All in the same unit.
    """
    if not earlier:
        return None
    level = level_of([x for x, _ in earlier], [s**2 + tau**2 for _, s in earlier])
    away = value - level.mean
    bound = t_quantile(JUMP_PROBABILITY, PRIOR_DOF + level.dof) * sqrt(
        level.variance + level.f_squared * (sigma**2 + tau**2)
    )
    return away if abs(away) > bound else None
