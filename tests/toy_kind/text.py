"""What a hand level's check says."""

from __future__ import annotations

from collections.abc import Sequence

from naveta_core.engine.drawing import deviations
from naveta_core.engine.reader import Row
from naveta_core.engine.rows import effect, line
from naveta_core.engine.verdict import Judgement
from naveta_core.results import CalculationLine, Effect, Picture
from naveta_core.stats.estimate import Estimate
from naveta_core.units.formatting import size

from .document import HandLevel
from .solve import halves


def finding_of(estimate: Estimate) -> str:
    way = "up" if estimate.value > 0 else "down"
    return f"The line points {size(abs(estimate.value), estimate.u95, 'mm')} {way} at the wall"


def worked_of(rows: Sequence[Row]) -> list[CalculationLine]:
    return [
        line(f"Sight {i + 1}, half of direct less reversed", f"{halve:.2f} mm") for i, halve in enumerate(halves(rows))
    ]


def work_of(estimate: Estimate) -> list[Effect]:
    return [effect("at-the-wall", f"At this distance every height is out by {abs(estimate.value):.1f} mm.")]


def draw(_document: HandLevel, rows: Sequence[Row], _judgement: Judgement | None) -> Picture | None:
    if not rows:
        return None
    marks = [(f"sight {i + 1}", float(i), halve) for i, halve in enumerate(halves(rows))]
    return deviations("mm", marks, 5.0, "level", "sight after sight")
