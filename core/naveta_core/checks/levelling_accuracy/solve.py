"""The accuracy of a level by repeated height differences on one base (after ISO 17123-2, simplified and full).

d = a − b of each pair. Full: each set about its own mean, s = √(Σr²/38) for one difference, s_LEV = s/√2·√(1000/base)
per kilometre double run; δ = d̄₁ − d̄₂ is the staffs' zero difference, since they were exchanged. Simplified: s from the
ten pairs of the middle, and d̄₁ − d̄₂ against what is permitted (2.5 s where nothing is): a coarse look at the line of sight.

Source: ISO 17123-2, clauses 5 (simplified) and 6 (full).
"""

from __future__ import annotations

from math import fsum, sqrt

from ...geometry import mean

PERMITTED_S = 2.5


def squares(values: list[float]) -> float:
    """Sum of squared deviations from the mean, mm²."""
    middle = mean(values)
    return fsum((value - middle) ** 2 for value in values)


def per_km(base_m: float) -> float:
    """From the spread of one difference to that of 1 km of double-run levelling: 2.89 at 60 m."""
    return sqrt(1000.0 / base_m) / sqrt(2.0)


def sum_of_dof(sets: list[list[float]]) -> int:
    """Degrees of freedom of sets of differences, each in mm."""
    return int(fsum(len(set_) - 1 for set_ in sets))
