"""What an instrument, its stand and its ground add to readings by chance: drawn once for a situation, so that it can be found.

A sample is scaled so that it scatters exactly as much as is hidden: otherwise ten readings would be judged against a figure
that they do not hold.
"""

from __future__ import annotations

import random
from math import fsum, sqrt

from .hidden import Hidden


def sample(hidden: Hidden, name: str, count: int) -> list[float]:
    """So many figures with a mean of 0 and a standard deviation of 1 (n − 1), the same each time."""
    rng = random.Random(f"scatter {hidden.lesson.name} {hidden.seed} {name}")
    drawn = [rng.gauss(0.0, 1.0) for _ in range(count)]
    middle = fsum(drawn) / count
    spread = sqrt(fsum((each - middle) ** 2 for each in drawn) / (count - 1))
    return [(each - middle) / spread for each in drawn]


def table(hidden: Hidden, name: str, rows: int, columns: int) -> list[list[float]]:
    """Figures whose rows and columns each have a mean of 0, and whose sum of squares is (rows − 1)·(columns − 1): what is
    left of directions in sets once orientations and directions are taken out, with a standard deviation of 1."""
    rng = random.Random(f"scatter {hidden.lesson.name} {hidden.seed} {name}")
    drawn = [[rng.gauss(0.0, 1.0) for _ in range(columns)] for _ in range(rows)]
    across = [fsum(row) / columns for row in drawn]
    down = [fsum(column) / rows for column in zip(*drawn, strict=True)]
    middle = fsum(across) / rows
    left = [[drawn[i][j] - across[i] - down[j] + middle for j in range(columns)] for i in range(rows)]
    spread = sqrt(fsum(each * each for row in left for each in row) / ((rows - 1) * (columns - 1)))
    return [[each / spread for each in row] for row in left]
