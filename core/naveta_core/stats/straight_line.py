"""Errors along a length: what is there from the start (zero offset) and what grows with it (scale)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum

from .estimate import Estimate, pooled
from .row_fit import Solved, solve

PPM = 1e6


@dataclass(frozen=True, slots=True)
class Straight:
    """error = zero + scale · length, mm over m; residuals in mm."""

    solved: Solved
    lengths_m: tuple[float, ...]
    errors_mm: tuple[float, ...]
    scale_ppm2: float = 0.0
    """Variance of the scale that all lengths have in common: temperature, tension, what it was compared with."""

    @property
    def zero_mm(self) -> float:
        """Error at length zero, millimetres."""
        return self.solved.fit.unknowns[0]

    @property
    def scale_ppm(self) -> float:
        """Error in proportion to the length, ppm."""
        return self.solved.fit.unknowns[1] * PPM / 1000

    def at(self, length_m: float) -> float:
        """The line's error at a length, mm."""
        zero, scale = self.solved.fit.unknowns
        return zero + scale * length_m

    def variance_at(self, length_m: float) -> float:
        """Variance of the line at a length from its readings, mm²."""
        (zero, scale), within = self.solved.fit.gain, self.solved.within
        return within * fsum((a + b * length_m) ** 2 for a, b in zip(zero, scale, strict=True))

    def zero(self) -> Estimate:
        """The error at zero as an estimate, millimetres."""
        return self.solved.estimate(0)

    def scale(self) -> Estimate:
        """The scale in ppm; what is common to all readings is in the zero, what grows with length in it."""
        value, q = self.solved.fit.unknowns[1], self.solved.q_within(1)
        found = pooled(value, q, self.scale_ppm2 / PPM, self.solved.spread, self.solved.prior_dof)
        return Estimate(found.value * PPM / 1000, found.sigma * PPM / 1000, found.dof, found.pooled)


def straight(
    lengths_m: Sequence[float],
    errors_mm: Sequence[float],
    within: float,
    *,
    between: float,
    dof: float,
    scale_ppm2: float = 0.0,
) -> Straight:
    """Fit a line through two or more errors, mm, at their lengths, m. Variances in mm², that of the scale in ppm²."""
    rows = [([1.0, length], error) for length, error in zip(lengths_m, errors_mm, strict=True)]
    return Straight(solve(rows, within, between, dof), tuple(lengths_m), tuple(errors_mm), scale_ppm2)


def spread_m(lengths: Sequence[float]) -> float:
    """How far the lengths reach, metres."""
    return max(lengths) - min(lengths) if lengths else 0.0
