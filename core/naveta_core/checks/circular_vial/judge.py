"""What a circular vial's error means: its limits, half for the foot screws, half for the vial's own screws.

Source: half of what the bubble moves is the vial's own (textbook); defaults and what an unproved level leaves open:
docs/judgement.md (Vials).
"""

from __future__ import annotations

from math import hypot
from typing import Any, TypeVar

from ...engine.adjusting import adjusting_of
from ...engine.conditions import Circumstances, Needs
from ...engine.converging import converging, read_points
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from, raised
from ...engine.reports import repeats_of, report_outlier, report_scatter
from ...engine.verdict import JudgedQuantity, Judgement
from ...results import Adjusting, CirclePicture
from ...stats.decision import Grade, Limits
from ...units.formatting import aside
from .document import QUANTITY, BubblesRead, CircularVial, CircularVialFigures, turns_of, where
from .solve import USUAL_SENSITIVITY, VialError, find, provable_mm
from .text import cost_of, drawn_vial, finding_of, halves_of, running, shown_of, vial_error_of, worked_of

F = TypeVar("F", bound=CircularVialFigures)
UNPROVED_MM = 0.25
"""What an unproved plate vial or electronic level may be out, seen in a circular vial of 8′ per 2 mm: one minute."""
PROVED_BY = ("plate-vial", "dual-axis-level")
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("hold",),
    "reading": ("wind",),
    "adjusting": ("vial-screws", "hold"),
}


def needs(document: CircularVial) -> Needs:
    """The circumstances this check depends on."""
    return Needs(wind=True, proved_first=() if turns_of(document) else PROVED_BY)


def vial_figures(model: type[F], found: VialError, sensitivity: float | None, **more: float) -> F:
    """The figures of a vial, in mm of its bubble and as angles in arcsec where its sensitivity is known."""
    figures = {
        "vial_error_x_mm": found.x,
        "vial_error_y_mm": found.y,
        QUANTITY: found.estimate.value,
        f"sigma_{QUANTITY}": found.estimate.sigma,
    }
    if found.tilt is not None:
        figures["tilt_x_mm"], figures["tilt_y_mm"] = found.tilt
    if sensitivity is not None:
        figures["vial_error_arcsec"] = found.estimate.value * sensitivity * 30
        if found.tilt is not None:
            figures["tilt_arcsec"] = hypot(*found.tilt) * sensitivity * 30
    return model(**figures, **more, repeats=repeats_of(found.solved.spread))


def judge(document: CircularVial, read: BubblesRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    sensitivity = read.sensitivity or USUAL_SENSITIVITY
    more = 0.0 if circumstances.proved else UNPROVED_MM * USUAL_SENSITIVITY / sensitivity
    found = find(document, read.bubbles, read.steps, turns=read.turns, conditions=circumstances, more_mm=more)
    scale = USUAL_SENSITIVITY / sensitivity
    default = Limits(0.5 * scale, 1.0 * scale, 5.0, f"default limit for a vial of {sensitivity:g}′ per 2 mm")
    default = raised(default, provable_mm(turns=read.turns, more_mm=more), "mm", "a bubble read by eye")
    limits = limits_from(document, QUANTITY, default)
    place = aside(found.x, found.y)
    turn = (
        f"With the foot screws bring the bubble to its reversing point, {place}; then with the level vial screws to the middle."
        if read.turns
        else f"With the axis levelled and untouched, bring the bubble from {place} to the middle with the level vial screws only."
    )
    quantity = JudgedQuantity(
        QUANTITY, "the circular level", "mm", estimate=found.estimate, limits=limits, q_within=found.q_within, q_between=found.q_between, vector=True,
        condition="Usable while the bubble stays inside its ring when you turn the instrument.", turn=turn,
    )  # fmt: skip
    judgement = Judgement(
        [quantity],
        vial_figures(CircularVialFigures, found, read.sensitivity),
        finding_of(found, sensitivity),
        shown=shown_of(quantity, found, sensitivity),
        worked=worked_of(read, found),
        work=[cost_of(document, found, sensitivity)],
        repeats=found.solved.spread,
        more_readings=("run of headings", "runs of headings") if read.turns else ("reading", "readings"),
        repeat_text="Set the bubble again and repeat the turn before you touch a screw. Both runs count together.",
    )
    if not circumstances.proved:
        text = (
            "The plate level or electronic level used as reference has no recent pass: 1′ is added to the uncertainty."
        )
        judgement.reasons.append(("level-not-proved", text))
    seen = halves_of(read, found)
    if seen:
        judgement.reasons.append(("half-and-half", seen))
    report_scatter(judgement, found.solved, "headings")
    if found.outlier:
        report_outlier(
            judgement, found.outlier, f"The {where(found.outlier)} does not agree with the others: read it again."
        )
    return judgement


def draw(_document: CircularVial, read: BubblesRead, judgement: Judgement | None) -> CirclePicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    return drawn_vial(read, judgement, "tilt of the axis")


def progress_of(document: CircularVial, read: BubblesRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    rows = running(read, len(document.observations.readings))
    if read.turns and len(read.bubbles) == 1:
        rows = [("turn-now", "Turn the instrument, wait until the bubble settles, read again.")]
    return SheetProgress(rows)


def bubble_to_middle(
    _document: Any, _read: Any, judgement: Judgement, _grade: Grade, reads_now: list[Any]
) -> Adjusting:
    """The bubble to the middle by the vial's own screws, with what is left after each turn. Raises Refused."""
    quantity, start = judgement.quantities[0], vial_error_of(judgement)
    return adjusting_of(
        quantity.turn,
        allowed=quantity.may_turn(),
        inputs=("right", "away from you"),
        prompt="The bubble is now at",
        unit="mm",
        from_text=aside(*start),
        target_text="the middle",
        tool="The instrument's own adjusting pin.",
        screw="The three small screws under or beside the level vial.",
        steps=converging(read_points(reads_now), start, (0.0, 0.0), quantity.limits.use / 4, "still to go"),
    )
