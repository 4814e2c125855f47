"""Least squares for a handful of unknowns, with equal weights.

For y = A x + v:  G = (A'A)^-1 A' is the gain, x = G y, H = A G, residuals v = y - A x. Variances of the
observations are propagated through G and do not weight the estimate (see docs/decisions.md).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import fsum
from operator import mul

Matrix = list[list[float]]


@dataclass(frozen=True, slots=True)
class Fit:
    """An equal-weight fit of n observations by u unknowns. In the observations' unit; leverage has no unit."""

    unknowns: list[float]
    gain: Matrix  # u x n
    residuals: list[float]  # n, observed minus fitted
    leverage: list[float]  # n, the diagonal of H

    @property
    def redundancy(self) -> int:
        """Share of each observation in the degrees of freedom, 0 to 1."""
        return len(self.residuals) - len(self.unknowns)

    def variance(self, index: int, variances: Sequence[float]) -> float:
        """Variance of one unknown from uncorrelated variances of the observations.

        Variances in the square of the observations' unit.
        """
        return fsum(g * g * v for g, v in zip(self.gain[index], variances, strict=True))

    def residual_square_scale(self, variances: Sequence[float]) -> float:
        """Expected sum of squared residuals: the trace of (I - H) V.

        Variances in the square of the observations' unit.
        """
        return fsum((1 - h) * v for h, v in zip(self.leverage, variances, strict=True))


def _inverse(matrix: Matrix) -> Matrix:
    """Inverse of a small regular matrix by Gauss-Jordan with row pivoting. ZeroDivisionError when singular."""
    size = len(matrix)
    rows = [list(row) + [float(i == j) for j in range(size)] for i, row in enumerate(matrix)]
    for column in range(size):
        pivot = max(range(column, size), key=lambda r: abs(rows[r][column]))
        rows[column], rows[pivot] = rows[pivot], rows[column]
        lead = rows[column][column]
        rows[column] = [value / lead for value in rows[column]]
        for r in range(size):
            if r != column:
                factor = rows[r][column]
                rows[r] = [a - factor * b for a, b in zip(rows[r], rows[column], strict=True)]
    return [row[size:] for row in rows]


def _normal(columns: Sequence[Sequence[float]]) -> Matrix:
    """The products of all columns with one another."""
    size = len(columns)
    normal = [[0.0] * size for _ in columns]
    for i, p in enumerate(columns):
        for j in range(i, size):
            normal[i][j] = normal[j][i] = fsum(map(mul, p, columns[j]))
    return normal


def step(design: Matrix, observed: Sequence[float]) -> list[float]:
    """The unknowns alone, as an iteration needs them. ZeroDivisionError when they cannot be given.

    Observed in any unit.
    """
    columns = list(zip(*design, strict=True))
    normal = _normal(columns)
    right = [fsum(map(mul, p, observed)) for p in columns]
    return [fsum(map(mul, row, right)) for row in _inverse(normal)]


def fit(design: Matrix, observed: Sequence[float]) -> Fit:
    """Solve n observations for u unknowns (n >= u), all weights equal. Observed in any unit, the unknowns follow."""
    inverse = _inverse(_normal(list(zip(*design, strict=True))))
    gain = [[fsum(map(mul, row, line)) for line in design] for row in inverse]
    unknowns = [fsum(map(mul, row, observed)) for row in gain]
    fitted = [fsum(map(mul, line, unknowns)) for line in design]
    leverage = [fsum(map(mul, line, of_row)) for line, of_row in zip(design, zip(*gain, strict=True), strict=True)]
    return Fit(unknowns, gain, [y - f for y, f in zip(observed, fitted, strict=True)], leverage)
