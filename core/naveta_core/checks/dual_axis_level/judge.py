"""What the index of an electronic level means: what is stored, what is due after it, and which of two levels is out.

Source: effect of a tilt on a direction, v·cot z (textbook).
"""

from __future__ import annotations

from math import hypot

from ...engine.conditions import Circumstances, Needs, prior_dof
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.repeats import last_repeat
from ...engine.reports import repeats_of, report_outlier, report_scatter
from ...engine.storing import report_before, report_proved
from ...engine.verdict import JudgedQuantity, Judgement
from ...geometry import OPPOSITE_DEG, angle_between_deg, polar, widest_deg
from ...results import CodedText
from ...stats.decision import Limits
from ...stats.row_fit import Solved, outlier_in
from ...units.formatting import arcsec, figure
from ...units.numbers import finest
from ..plate_vial.document import Tube
from ..plate_vial.solve import find, spreads
from ..plate_vial.text import placed
from .document import ACROSS, ALONG, STORED_FIGURES, DualAxisLevel, DualAxisLevelFigures, LevelRead, where
from .solve import display_sense, rms, solve_level
from .text import finding_of, shown_of, work_of, worked_of

WARM_MINUTES = 3.0
DEGREES_LOOK_LIKE = 0.05
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("turns-by-itself", "hold"),
    "reading": ("turns-by-itself", "hold", "wind"),
    "adjusting": ("hold",),
}


def _limits(document: DualAxisLevel, name: str, read: LevelRead) -> Limits:
    s = document.instrument.angle_accuracy_arcsec
    step = document.instrument.electronic_level_step_arcsec or finest(read.steps)
    use = max(4.0, 1.5 * (s or 0.0), 2 * step)
    why = "the largest of 4″, 1.5 times the stated accuracy and two display steps"
    return limits_from(document, name, Limits(use, use, 60.0, f"default limit: {why}"))


def needs(_document: DualAxisLevel) -> Needs:
    """The circumstances this check depends on."""
    return Needs(minutes_on=WARM_MINUTES, firm_stand=True, wind=True, temperature=True, shaded=True)


def judge(document: DualAxisLevel, read: LevelRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    solved = solve_level(document, read, circumstances.factor)
    quantities = [
        JudgedQuantity(
            name, f"the index error {word} the sight", "arcsec", estimate=solved.estimate(at), limits=_limits(document, name, read),
            q_within=solved.q_within(at), q_between=solved.between, vector=False, condition="", turn=STORE, beyond="what the instrument can store in the field",
        )
        for at, name, word in ((1, ALONG, "along"), (0, ACROSS, "across"))
    ]  # fmt: skip
    along, across = (quantity.estimate.value for quantity in quantities)
    bearing, size = polar(solved.fit.unknowns[-2], solved.fit.unknowns[-1])
    judgement = Judgement(
        quantities,
        _figures(solved, quantities, bearing, size),
        finding_of(quantities, size),
        shown=shown_of(quantities, bearing, size),
        worked=worked_of(read, solved, quantities),
        work=work_of(document, along, across),
        repeats=solved.spread,
        more_readings=("run of headings", "runs of headings"),
        repeat_text="Repeat the readings before you store anything. Both runs count together.",
        service_text="Send it to service: this index error is too large to store in the field.",
    )
    judgement.reasons += _what_is_what(along, across, size)
    judgement.reasons += [*display_sense(read, solved), *_beside(document, read, quantities, circumstances.factor)]
    report_before(judgement, document, read.before, STORED_FIGURES)
    report_proved(judgement, document, STORED_FIGURES)
    judgement.refused += _degrees_for_seconds(read)
    report_scatter(judgement, solved, "headings")
    at = outlier_in(solved)
    if at is not None:
        path = read.figures[at // 2].path
        report_outlier(
            judgement, path, f"The {where(path)} does not agree with the others: let it settle and read it again."
        )
    return judgement


def _figures(solved: Solved, quantities: list[JudgedQuantity], bearing: float, size: float) -> DualAxisLevelFigures:
    along, across = (quantity.estimate for quantity in quantities)
    return DualAxisLevelFigures(
        index_along_arcsec=along.value,
        index_across_arcsec=across.value,
        sigma_index_along_arcsec=along.sigma,
        sigma_index_across_arcsec=across.sigma,
        tilt_arcsec=size,
        tilt_bearing_deg=bearing,
        misfit_arcsec=rms(solved),
        repeats=repeats_of(solved.spread),
    )


def _what_is_what(along: float, across: float, tilt: float) -> list[CodedText]:
    """What of it is the instrument's, and in which order it is found."""
    own = f"Index error (constant when turned): {arcsec(along)} and {arcsec(across)}. Tilt (turns with it): {arcsec(tilt)}. Only the index error belongs to the instrument."
    order = "Correct this first, then do a two-face check: its index error enters there one to one, and storing it makes their stored values invalid."
    return [("index-and-tilt", own), ("order", order)]


def _degrees_for_seconds(read: LevelRead) -> list[CodedText]:
    figures = [value for figure in read.figures for value in (figure.along, figure.across)]
    if not any(figures) or any(abs(value) >= DEGREES_LOOK_LIKE for value in figures):
        return []
    text = "All values are under 0.05″: were they typed in degrees? Type seconds."
    return [("looks-like-degrees", text)]


STORE = "Run the instrument's level calibration in both positions and store; then check again, as left."


def _beside(
    document: DualAxisLevel, read: LevelRead, quantities: list[JudgedQuantity], factor: float
) -> list[CodedText]:
    """Plate bubble and electronic level read together: the half-turn says which of them is out."""
    tubes = [
        Tube(figure.path, figure.heading_deg + 90.0, figure.bubble, 1, figure.repeat)
        for figure in last_repeat(read.figures)
        if figure.bubble is not None
    ]
    if (
        read.seconds_per_div is None
        or len(tubes) < 2
        or widest_deg([tube.heading_deg for tube in tubes]) < OPPOSITE_DEG
    ):
        return []
    within, between = spreads(document, tubes, read.bubble_steps, factor)
    rest = find(tubes, read.seconds_per_div, within, between, prior_dof(document)).solved.estimate(0)
    own = hypot(quantities[0].estimate.value, quantities[1].estimate.value)
    vial = abs(rest.value) * read.seconds_per_div
    text = f"Read together and turned: electronic level {arcsec(own, 10)} out, plate level {figure(vial, 0)}″ out (reversing point {placed(rest.value)})."
    closer = "The electronic level is the better one." if own < vial else "The plate level is the better one."
    return [("settled-by-turning", f"{text} {closer}")]


def progress_of(document: DualAxisLevel, read: LevelRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    figures, messages = last_repeat(read.figures), list[CodedText]()
    if document.instrument.kind is not None and document.instrument.has_electronic_level is None:
        text = "Whether it has an electronic level is not stated: state it in its model. An instrument without one needs no check."
        messages.append(("not-stated", text))
    if len(figures) == 1:
        text = "Turn by 180°, let the values settle, read both again. Without index error they show the same with opposite signs."
        messages.append(("turn-now", text))
    elif len(read.figures) < len(document.observations.readings):
        messages += [
            (
                "running",
                f"From two opposite headings: index error {arcsec((a.along + b.along) / 2)} along, {arcsec((a.across + b.across) / 2)} across. The other headings will confirm it.",
            )
            for i, a in enumerate(figures)
            for b in figures[i + 1 :]
            if angle_between_deg(a.heading_deg, b.heading_deg) > 179
        ][:1]
    return SheetProgress(messages)
