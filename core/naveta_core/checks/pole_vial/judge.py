"""What the error of a pole's vial means: its limits, plumb first, then the vial's own screws.

Source: as the circular level, docs/judgement.md (Vials).
"""

from __future__ import annotations

from ...engine.conditions import Circumstances, Needs
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from, raised
from ...engine.reports import report_outlier, report_scatter
from ...engine.rows import line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...results import CalculationLine, CirclePicture
from ...stats.decision import Limits
from ...units.formatting import LengthWords, aside, figure
from ..circular_vial.document import QUANTITY
from ..circular_vial.judge import vial_figures
from ..circular_vial.solve import USUAL_SENSITIVITY, VialError, find, provable_mm
from ..circular_vial.text import drawn_vial, minutes, running
from .document import PoleRead, PoleVial, PoleVialFigures, where
from .solve import AGAINST_MM, lean_mm
from .text import costs_of, finding_of

CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("overhead-lines", "storm"),
    "reading": ("overhead-lines", "wind"),
    "adjusting": ("vial-screws",),
}


def needs(_document: PoleVial) -> Needs:
    """The circumstances this check depends on."""
    return Needs(wind=True)


def _quantity(
    document: PoleVial, read: PoleRead, found: VialError, sensitivity: float, off_mm: float
) -> JudgedQuantity:
    """The vial's own error against its limit, and how it is set."""
    item = document.observations.item
    scale, use = USUAL_SENSITIVITY / sensitivity, 0.5 if item == "pole" else 1.0
    source = f"default limit for a {item} with a vial of {sensitivity:g}′ per 2 mm"
    default = Limits(use * scale, 2 * use * scale, 5.0, source)
    default = raised(default, provable_mm(turns=read.turns, more_mm=AGAINST_MM), "mm", "a bubble read by eye")
    turn = (
        f"Move the bipod until the bubble is at its reversing point, {aside(found.x, found.y)}: the {item} is now plumb. Then centre the bubble with the level vial screws."
        if read.turns
        else f"Hold it plumb and still and bring the bubble from {aside(found.x, found.y)} to the middle with the level vial screws."
    )
    return JudgedQuantity(
        QUANTITY,
        f"the level vial of the {item}",
        "mm",
        estimate=found.estimate,
        limits=limits_from(document, QUANTITY, default),
        q_within=found.q_within,
        q_between=found.q_between,
        vector=True,
        condition=f"Where {figure(off_mm, 1)} mm is acceptable, or at half the height.",
        turn=turn,
    )


def _worked(
    read: PoleRead, found: VialError, sensitivity: float, off_mm: float, words: LengthWords
) -> list[CalculationLine]:
    """The calculation, line by line."""
    size, height = found.estimate.value, words.height(read.height_m)
    turning = "x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y" if read.turns else "held plumb: x = e_x, y = e_y"
    own = f"e_x = {figure(found.x, 3)}, e_y = {figure(found.y, 3)} mm; size {figure(size, 3)} mm"
    sure = f"{figure(found.estimate.sigma, 3)} mm, {figure(found.estimate.dof, 1)}"
    return [
        line("The constant part is level vial error, the part that turns is tilt", turning),
        line("Level vial error", own),
        line(f"At {sensitivity:g}′ per 2 mm", f"{minutes(size, sensitivity)}; over {height}: {figure(off_mm, 2)} mm"),
        line("Standard uncertainty of each part, degrees of freedom", sure),
    ]


def judge(document: PoleVial, read: PoleRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    item, sensitivity, words = document.observations.item, read.sensitivity or USUAL_SENSITIVITY, words_of(document)
    more_mm = 0.0 if read.turns else AGAINST_MM
    found = find(document, read.bubbles, read.steps, turns=read.turns, conditions=circumstances, more_mm=more_mm)
    off_mm = lean_mm(found.estimate.value, sensitivity, read.height_m)
    quantity = _quantity(document, read, found, sensitivity, off_mm)
    judgement = Judgement(
        [quantity],
        vial_figures(PoleVialFigures, found, read.sensitivity, lean_mm=off_mm),
        finding_of(item, found, off_mm, words.height(read.height_m)),
        shown=[
            shown(quantity, "Level vial error"),
            row(
                "lean_mm",
                f"Out of plumb at {words.height(read.height_m)}",
                f"{figure(off_mm, 1)} mm",
                value=off_mm,
                unit="mm",
            ),
            row("vial_error_x_mm", "Reversing point, right", f"{figure(found.x, 2)} mm", value=found.x, unit="mm"),
            row("vial_error_y_mm", "Reversing point, away", f"{figure(found.y, 2)} mm", value=found.y, unit="mm"),
        ],
        worked=_worked(read, found, sensitivity, off_mm, words),
        work=costs_of(item, found.estimate.value, sensitivity, words),
        repeats=found.solved.spread,
        more_readings=("run of headings", "runs of headings") if read.turns else ("reading", "readings"),
        repeat_text="Seat the point again and repeat the turn before you touch a screw. Both runs count together.",
        service_text="Fit a new level vial: one that cannot be adjusted is replaced.",
    )
    report_scatter(judgement, found.solved, "headings")
    if found.outlier:
        report_outlier(
            judgement, found.outlier, f"The {where(found.outlier)} does not agree with the others: read it again."
        )
    return judgement


def draw(_document: PoleVial, read: PoleRead, judgement: Judgement | None) -> CirclePicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    return drawn_vial(read, judgement, "tilt of the pole as it stood")


def progress_of(document: PoleVial, read: PoleRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    rows = running(read, len(document.observations.readings))
    if read.turns and len(read.bubbles) == 1:
        rows = [("turn-now", "Leave point and bipod in place; turn the pole by 180°, read again.")]
    return SheetProgress(rows)
