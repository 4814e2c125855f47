"""Errors along a length: what is there from the start (zero offset) and what grows with it (scale)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ...judgement import Estimate, pooled
from .fits import Solved, solve

PPM = 1e6


@dataclass(frozen=True, slots=True)
class Straight:
    """error = zero + scale · length, mm over m; residuals in mm."""

    solved: Solved
    lengths_m: tuple[float, ...]
    errors_mm: tuple[float, ...]

    @property
    def zero_mm(self) -> float:
        return self.solved.fit.unknowns[0]

    @property
    def scale_ppm(self) -> float:
        return self.solved.fit.unknowns[1] * PPM / 1000

    def zero(self) -> Estimate:
        return self.solved.estimate(0)

    def scale(self) -> Estimate:
        """The scale in parts in a million; what is common to all readings is in the zero, not in it."""
        value, q = self.solved.fit.unknowns[1], self.solved.q_within(1)
        found = pooled(value, q, 0.0, self.solved.spread, self.solved.prior_dof)
        return Estimate(found.value * PPM / 1000, found.sigma * PPM / 1000, found.dof, found.pooled)

    def worst(self) -> tuple[int, float]:
        """The point that fits the line least: its place in the list and its misfit in mm."""
        at = max(range(len(self.lengths_m)), key=lambda i: abs(self.solved.fit.residuals[i]))
        return at, self.solved.fit.residuals[at]


def straight(
    lengths_m: Sequence[float], errors_mm: Sequence[float], within: float, between: float, dof: float
) -> Straight:
    """Fit a line through two or more errors, mm, at their lengths, m. Variances in mm²."""
    rows = [([1.0, length], error) for length, error in zip(lengths_m, errors_mm, strict=True)]
    return Straight(solve(rows, within, between, dof), tuple(lengths_m), tuple(errors_mm))


def spread_m(lengths: Sequence[float]) -> float:
    return max(lengths) - min(lengths) if lengths else 0.0
