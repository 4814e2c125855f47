"""What a plate vial's rest position means: half for the foot screws, half for the vial's own screw, or set it there.

Source: half and half (textbook); effect of a tilt on a direction, v·cot z (textbook).
"""

from __future__ import annotations

from typing import Any

from ...engine.adjusting import adjusting_of
from ...engine.conditions import Circumstances, Needs, prior_dof
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.parser import Parser, number
from ...engine.repeats import last_repeat
from ...engine.reports import repeats_of, report_outlier, report_scatter
from ...engine.verdict import JudgedQuantity, Judgement
from ...errors import Refused
from ...geometry import angle_between_deg, polar
from ...results import Adjusting, AdjustingStep, CodedText
from ...stats.decision import Grade, Limits
from ...stats.row_fit import outlier_in
from ...units.formatting import figure
from .document import MAX_DIV, OPPOSITE_WITHIN_DEG, QUANTITY, PlateVial, PlateVialFigures, TubesRead, where
from .solve import PlateVialSolution, find, spreads
from .text import finding_of, halves_of, placed, shown_of, work_of, worked_of

REPEATS_WITHIN_DIV = 0.5
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("hold",),
    "reading": ("wind",),
    "adjusting": ("vial-screws", "hold"),
}


def needs(_document: PlateVial) -> Needs:
    """The circumstances this check depends on."""
    return Needs(wind=True, temperature=True, shaded=True)


def judge(document: PlateVial, read: TubesRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    assert read.seconds is not None
    within, between = spreads(document, read.tubes, read.steps, circumstances.factor)
    found = find(read.tubes, read.seconds, within, between, prior_dof(document))
    quantities = [quantity_of(document, found, 0)]
    if found.second:
        quantities.append(quantity_of(document, found, 1))
    e = quantities[0].estimate
    bearing, size = polar(*found.tilt)
    figures: dict[str, Any] = {
        QUANTITY: e.value,
        f"sigma_{QUANTITY}": e.sigma,
        "vial_error_arcsec": e.value * found.seconds,
        "tilt_arcsec": size,
        "tilt_bearing_deg": bearing,
        "residuals_div": found.residuals,
        "repeats": repeats_of(found.solved.spread),
    }
    if found.second:
        figures["reversal_2_div"] = quantities[1].estimate.value
        figures["sigma_reversal_2_div"] = quantities[1].estimate.sigma
    judgement = Judgement(
        quantities,
        PlateVialFigures(**figures),
        finding_of(e.value, e.u95, found),
        shown=shown_of(quantities, found),
        worked=worked_of(read, found),
        work=work_of(document, found, e.value),
        repeats=found.solved.spread,
        more_readings=("run of headings", "runs of headings"),
        repeat_text="Let the bubble settle and repeat the turn before you touch a screw. Both runs count together.",
    )
    judgement.reasons.append(("half-and-half", halves_of(read, found)))
    if not found.whole:
        alone = ", without a check" if found.solved.fit.redundancy < 1 else ""
        judgement.reasons.append(("one-direction", f"Read at two headings: the tilt across them is unknown{alone}."))
    report_scatter(judgement, found.solved, "headings")
    at = outlier_in(found.solved)
    if at is not None:
        report_outlier(
            judgement,
            read.tubes[at].path,
            f"The {where(read.tubes[at].path)} does not agree with the others: let the bubble settle and read it again.",
        )
    return judgement


def quantity_of(document: PlateVial, found: PlateVialSolution, index: int) -> JudgedQuantity:
    """The level vial error of one vial against its limit, divisions."""
    estimate = found.solved.estimate(index)
    name = QUANTITY if index == 0 else "reversal_2_div"
    noun = "the plate level" if not found.second else f"the {'first' if index == 0 else 'second'} plate level"
    known = _known_rest(document, estimate.value) if index == 0 else None
    if known is None:
        default = Limits(1.0, 2.0, 4.0, "default limit: one division")
    else:
        default = Limits(2.0, 2.0, 4.0, f"its reversing point repeats within half a division of {figure(known, 1)}")
    return JudgedQuantity(
        name,
        noun,
        "div",
        estimate=estimate,
        limits=limits_from(document, name, default),
        q_within=found.solved.q_within(index),
        q_between=found.solved.between,
        vector=False,
        condition=f"Set it {placed(estimate.value)} each time, not in the middle.",
        turn=f"With the foot screws set the bubble {placed(estimate.value)}: the axis is now plumb. Then with the level vial screw to the middle; each removes half.",
    )


def _known_rest(document: PlateVial, value: float) -> float | None:
    """Where it rested at an earlier good check, when that is near enough to be called the same."""
    for earlier in document.before:
        rest = earlier.figure(QUANTITY) if earlier.check == "plate-vial" and earlier.good else None
        if rest is not None:
            return rest if abs(value - rest) <= REPEATS_WITHIN_DIV else None
    return None


def progress_of(document: PlateVial, read: TubesRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    tubes, messages = last_repeat(read.tubes), list[CodedText]()
    if document.instrument.kind is not None and document.instrument.has_plate_vial is None:
        text = "Whether it has a plate vial is not stated: state it in its model. An instrument without one needs no check."
        messages.append(("not-stated", text))
    if len(tubes) >= 2 and len(read.tubes) < len(document.observations.readings):
        a, b = tubes[:2]
        if a.vial == b.vial and angle_between_deg(a.heading_deg, b.heading_deg) > 180 - OPPOSITE_WITHIN_DEG:
            rest, part = (a.bubble + b.bubble) / 2, figure(abs(a.bubble - b.bubble) / 2, 1)
            messages.append(
                ("running", f"From these two: reversing point {placed(rest)}, tilt of the axis {part} div.")
            )
    elif len(tubes) == 1:
        messages.append(("turn-now", "Turn by 180°, let the bubble settle, read again."))
    return SheetProgress(messages)


def to_middle(_document: Any, _read: Any, judgement: Judgement, _grade: Grade, reads_now: list[Any]) -> Adjusting:
    """Vial to the middle by its own screw, axis plumb, with what is left after each turn. Raises Refused."""
    quantity, turned = judgement.quantities[0], Parser()
    values = [
        number(turned, f"reads_now[{i}]", "the bubble is now at", value=v, unit="div", low=-MAX_DIV, high=MAX_DIV)
        for i, v in enumerate(reads_now)
    ]
    if turned.faults or turned.missing:
        raise Refused(turned.faults)
    steps = []
    for given, value in zip(reads_now, values, strict=True):
        left = value.value if value else 0.0
        done = abs(left) <= 0.2
        sentence = (
            "done. Turn by 180°: does it stay? Then check again."
            if done
            else f"{figure(abs(left), 1)} div {'right' if left > 0 else 'left'} left, with the level vial screw only."
        )
        steps.append(AdjustingStep(given=str(given), left=left, done=done, text=sentence))
    return adjusting_of(
        quantity.turn,
        allowed=quantity.may_turn(),
        inputs=("",),
        prompt="The bubble is now at",
        unit="div",
        from_text=placed(quantity.estimate.value),
        target_text="the middle",
        tool="The instrument's own adjusting pin.",
        screw="The capstan screw at one end of the level vial.",
        steps=steps,
    )
