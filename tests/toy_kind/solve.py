"""Half the difference of the two ways of holding it is the level's own slope; the wall's mark falls out."""

from __future__ import annotations

from collections.abc import Sequence
from math import fsum

from naveta_core.engine.reader import Row
from naveta_core.stats.estimate import Estimate, Spread, pooled

SIGHT_SIGMA_MM = 1.0


def halves(rows: Sequence[Row]) -> list[float]:
    return [(row["direct_mm"] - row["reversed_mm"]) / 2 for row in rows]


def solve(rows: Sequence[Row]) -> tuple[Estimate, Spread]:
    """The mean of the halves, and how they scatter about it."""
    found = halves(rows)
    mean = fsum(found) / len(found)
    within = SIGHT_SIGMA_MM**2 / 2
    spread = Spread(fsum((entry - mean) ** 2 for entry in found) / within, len(found) - 1.0)
    return pooled(mean, within / len(found), 0.0, spread), spread
