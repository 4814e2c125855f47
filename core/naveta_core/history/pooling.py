"""Drift and scatter of one instrument, estimated together with others of its model: partial pooling, Bayes.

Drift: each instrument's slope b_i is known with variance s_i²; the model's slopes are taken as N(μ, ω²). How much they
differ, ω, is not one number but weighed over a grid by how likely the slopes are under it (μ integrated out, ω flat up to
the range of the slopes): with few others it could be much larger than it looks, and an interval that forgets that is
too narrow. Slopes have heavy tails (Student's t with one degree of freedom, as normals of variance ω²/λ with λ chi-squared):
a faulty instrument must not be pulled towards the healthy ones. Each ω and λ counts by how likely the others' slopes
and its own are under it, and its own slope then counts with ω²/λ / (ω²/λ + s²). One that conflicts with the others beyond
chance is left alone, and so is the slope of one that has no line of its own. Scatter: f² of all, each by its degrees of
freedom; how many of these degrees count for one instrument follows from how much they differ beyond chance.
Source: docs/judgement.md, *Series and drift*.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from math import exp, fsum, log, sqrt
from statistics import NormalDist

from ..stats.quantiles import t_quantile
from .drift import Line
from .series import PRIOR_DOF

MIN_OTHERS = 3
"""Fewer of them say nothing of one."""
MAX_SHARED_DOF = 30.0
GRID = 48
"""So many steps of how much slopes differ."""
TAIL = 12
"""So many steps of how far out an instrument of its model may lie."""
CONFLICT_PROBABILITY = 0.995


def _tail() -> tuple[float, ...]:
    """The middle λ of equal shares of chi-squared with one degree of freedom."""
    return tuple(NormalDist().inv_cdf((1 + (k + 0.5) / TAIL) / 2) ** 2 for k in range(TAIL))


LAMBDAS = _tail()


@dataclass(frozen=True, slots=True)
class ModelSeries:
    """What one instrument of a model taught: its slope a day and the variance of that, its f² (no unit) and degrees of
    freedom. Slope in the unit of the series, per day."""

    slope: float
    variance: float
    f_squared: float
    dof: float


@dataclass(frozen=True, slots=True)
class Spread:
    """One value of how much slopes differ (`between`, a variance), how likely it is, the mean slope under it and the
    variance of that. In the unit of the series, per day, and its square."""

    weight: float
    between: float
    mean: float
    var_mean: float


@dataclass(frozen=True, slots=True)
class Pool:
    """What the others of a model say: their slopes, f² and the degrees of freedom it counts with. f² has no unit."""

    spreads: tuple[Spread, ...]
    f_squared: float
    dof: float
    n: int

    @property
    def mean(self) -> float:
        """The mean slope a day, in the unit of the series."""
        return fsum(s.weight * s.mean for s in self.spreads)

    @property
    def between(self) -> float:
        """How much slopes differ, a variance, in the square of the series' unit per day."""
        return fsum(s.weight * s.between for s in self.spreads)


def model_series_of(line: Line) -> ModelSeries | None:
    """What a fitted series says for others of its model; None where it is too short for a slope."""
    return ModelSeries(line.slope, line.var_slope, line.f_squared, line.dof) if line.slope is not None else None


def pool_of(others: Sequence[ModelSeries]) -> Pool | None:
    """What others of a model say together; None where they are too few."""
    if len(others) < MIN_OTHERS:
        return None
    slopes = [s.slope for s in others]
    widest = max(max(slopes) - min(slopes), 1e-12)
    found = [_spread(others, (widest * i / GRID) ** 2) for i in range(GRID + 1)]
    top = max(log for log, _ in found)
    weights = [exp(log - top) for log, _ in found]
    total = fsum(weights)
    spreads = tuple(replace(s, weight=w / total) for w, (_, s) in zip(weights, found, strict=True) if w / total > 1e-6)
    f2, dof = _scatter(others)
    return Pool(spreads, f2, dof, len(others))


def _spread(others: Sequence[ModelSeries], between: float) -> tuple[float, Spread]:
    """The logarithm of how likely the slopes are when they differ so much, and the mean slope then."""
    variances = [s.variance + between for s in others]
    total = fsum(1.0 / v for v in variances)
    mean = fsum(s.slope / v for s, v in zip(others, variances, strict=True)) / total
    squares = fsum((s.slope - mean) ** 2 / v for s, v in zip(others, variances, strict=True))
    likely = -0.5 * (fsum(log(v) for v in variances) + log(total) + squares)
    return likely, Spread(0.0, between, mean, 1.0 / total)


def _scatter(others: Sequence[ModelSeries]) -> tuple[float, float]:
    """f² of all, and with how many degrees of freedom it counts for one: more, the less they differ beyond chance."""
    freedom = [PRIOR_DOF + s.dof for s in others]
    total = fsum(freedom)
    mean = fsum(n * s.f_squared for n, s in zip(freedom, others, strict=True)) / total
    # The relative variance of f² beyond the 2/ν that chance gives it.
    found = fsum((s.f_squared / mean - 1.0) ** 2 for s in others) / (len(others) - 1)
    by_chance = fsum(2.0 / n for n in freedom) / len(others)
    differ = max(found - by_chance, 2.0 / MAX_SHARED_DOF)
    return mean, 2.0 / differ


def conflicts(line: Line, pool: Pool) -> bool:
    """Return whether an instrument's own slope differs from those of its model beyond chance (one in a hundred)."""
    if line.slope is None:
        return False
    mean = pool.mean
    var_mean = fsum(s.weight * (s.var_mean + (s.mean - mean) ** 2) for s in pool.spreads)
    bound = t_quantile(CONFLICT_PROBABILITY, line.freedom) * sqrt(line.var_slope + pool.between + var_mean)
    return abs(line.slope - mean) > bound


def pooled(line: Line, pool: Pool | None) -> Line:
    """A series estimated together with others of its model: scatter first, then the slope; the level stays its own.

    Without a pool, or where it conflicts with the others, it stays as it is; without a line of its own only the scatter
    is shared.
    """
    if pool is None or conflicts(line, pool):
        return line
    own = PRIOR_DOF + line.dof
    f2 = (own * line.f_squared + pool.dof * pool.f_squared) / (own + pool.dof)
    scale = f2 / line.f_squared
    line = replace(
        line,
        f_squared=f2,
        dof=line.dof + pool.dof,
        var_level=line.var_level * scale,
        var_slope=line.var_slope * scale,
    )
    return line if line.slope is None else _with_slope(line, line.slope, pool)


def _with_slope(line: Line, own: float, pool: Pool) -> Line:
    """The slope by every spread and tail of the others', each by how likely the own slope is under it."""
    weights, means, variances = [], [], []
    for spread in pool.spreads:
        for tail in LAMBDAS:
            prior = (spread.between + spread.var_mean) / tail
            total = prior + line.var_slope
            share = prior / total
            weights.append(spread.weight * exp(-0.5 * (own - spread.mean) ** 2 / total) / sqrt(total))
            means.append(share * own + (1.0 - share) * spread.mean)
            variances.append(share * line.var_slope)
    whole = fsum(weights)
    slope = fsum(w * m for w, m in zip(weights, means, strict=True)) / whole
    # What each spread leaves open, and how much they disagree.
    left = fsum(w * (v + (m - slope) ** 2) for w, v, m in zip(weights, variances, means, strict=True))
    return replace(line, slope=slope, var_slope=left / whole)
