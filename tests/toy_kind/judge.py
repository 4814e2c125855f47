"""What the slope of a hand level means."""

from __future__ import annotations

from collections.abc import Sequence

from naveta_core.engine.conditions import Circumstances
from naveta_core.engine.limits import limits_from
from naveta_core.engine.reader import Row
from naveta_core.engine.reports import repeats_of
from naveta_core.engine.rows import shown
from naveta_core.engine.verdict import JudgedQuantity, Judgement
from naveta_core.stats.decision import Limits

from .document import QUANTITY, HandLevel, HandLevelFigures
from .solve import solve
from .text import finding_of, work_of, worked_of


def judge(document: HandLevel, rows: Sequence[Row], _circumstances: Circumstances) -> Judgement:
    estimate, spread = solve(rows)
    limits = limits_from(document, QUANTITY, Limits(5.0, 10.0, 100.0, "default limit for a hand level"))
    slope = JudgedQuantity(
        QUANTITY,
        "the slope",
        "mm",
        estimate=estimate,
        limits=limits,
        turn="Turn the vial's screw to the middle of both marks.",
    )
    figures = HandLevelFigures(slope_mm=estimate.value, sigma_slope_mm=estimate.sigma, repeats=repeats_of(spread))
    return Judgement(
        [slope],
        figures,
        finding_of(estimate),
        shown=[shown(slope, "Slope")],
        worked=worked_of(rows),
        work=work_of(estimate),
        repeats=spread,
        taken=len(rows),
    )
