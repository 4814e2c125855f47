"""What a plummet's offset means: its limits at its height, on to the axis, one pair of screws at a time.

Source: offset scaled to 1.5 m, docs/judgement.md (Plummet).
"""

from __future__ import annotations

from math import hypot
from typing import Any

from ...documents.envelope import Instrument
from ...engine.adjusting import adjusting_of
from ...engine.conditions import Circumstances, Needs, prior_dof
from ...engine.converging import converging, read_points
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.repeats import last_repeat
from ...engine.reports import repeats_of, report_outlier, report_scatter
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...geometry import angle_between_deg
from ...results import Adjusting, CodedText
from ...stats.decision import Grade, Limits
from ...stats.estimate import Spread, pooled
from ...stats.row_fit import outlier_in
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, figure
from .document import QUANTITY, Plummet, PlummetFigures, TargetsRead, where
from .solve import ByHeight, SolvedSet, by_height, solve_sets
from .text import axis_of, finding_of, shown_of, turn_of, work_of, worked_of

AT_HEIGHT_M = 1.5
LOW_M = 1.2
METRES_LOOK_LIKE_MM = 0.05
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("traffic", "turns-by-itself", "hold"),
    "reading": ("laser", "turns-by-itself"),
    "adjusting": ("laser", "plummet-screws"),
}


def _limits(document: Plummet, height_m: float) -> Limits:
    entry = document.instrument
    laser = entry.plummet == "laser"
    adjustable = entry.plummet_adjustable if entry.plummet_adjustable is not None else not laser
    use, watch = (1.0, 1.5) if laser else (0.5, 1.0)
    share = height_m / AT_HEIGHT_M
    why = f"default limit for {'a laser' if laser else 'an optical'} plummet, at {words_of(document).height(height_m)}"
    return limits_from(
        document, QUANTITY, Limits(use * share, watch * share, (5.0 if adjustable else watch) * share, why, adjustable)
    )


def in_tribrach(document: Plummet) -> bool:
    """Whether the plummet sits in the tribrach and stays where it is when the instrument is turned."""
    return "tribrach" in (document.observations.place, document.instrument.plummet_place)


IN_TRIBRACH = "Usable where this offset is acceptable: the plummet is in the tribrach, so turning does not remove it. Otherwise use a plumb bob."
TURNING = "Usable if you centre every point at two headings 180° apart and take the mean."


def condition_of(document: Plummet) -> str:
    """Under which condition a plummet beyond its limit can still be used."""
    return IN_TRIBRACH if in_tribrach(document) else TURNING


def own_condition(instrument: Instrument) -> str:
    """Return the condition of use by where the plummet of an instrument sits."""
    return IN_TRIBRACH if instrument.kind == "tribrach" or instrument.plummet_place == "tribrach" else TURNING


def needs(_document: Plummet) -> Needs:
    """The circumstances this check depends on."""
    return Needs(wind=True)


def judge(document: Plummet, read: TargetsRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    sets = solve_sets(document, read, circumstances)
    spread = Spread()
    for set_ in sets:
        spread = spread + set_.solved.spread
    parts = by_height(sets)
    # Two heights: judgement as modelled at 1.5 m; one: as found at its own height, against limits that grow with it.
    if parts is None:
        height, offset, q_w, q_b = sets[0].height_m, sets[0].offset, sets[0].q_within, sets[0].q_between
    else:
        height, offset, q_w, q_b = AT_HEIGHT_M, parts.at(AT_HEIGHT_M), *parts.variance(AT_HEIGHT_M)
    estimate = pooled(hypot(*offset), q_w, q_b, spread, prior_dof(document))
    turn = turn_of(read, sets[-1])
    quantity = JudgedQuantity(
        QUANTITY, "the plummet", "mm", estimate=estimate, limits=_limits(document, height), q_within=q_w, q_between=q_b, vector=True,
        condition=condition_of(document), turn=turn,
    )  # fmt: skip
    figures = PlummetFigures(
        axis_x_mm=sets[-1].axis[0],
        axis_y_mm=sets[-1].axis[1],
        offset_x_mm=offset[0],
        offset_y_mm=offset[1],
        offset_mm=estimate.value,
        offset_arcsec=estimate.value / (height * 1000) * ARCSEC_PER_RADIAN,
        sigma_offset_mm=estimate.sigma,
        at_height_m=height,
        repeats=repeats_of(spread),
        **_by_height(parts),
    )
    words = words_of(document)
    judgement = Judgement(
        [quantity],
        figures,
        finding_of(document, offset, estimate, height),
        shown=shown_of(quantity, figures, parts, words),
        worked=worked_of(read, sets, estimate, words),
        work=work_of(estimate, height, words),
        repeats=spread,
        more_readings=("run of marks", "runs of marks"),
        repeat_text="Mark a new sheet and repeat the turn before you touch a screw. Both runs count together.",
        service_text="Send it to service: it is too far out for field adjustment, or has no screws for the user.",
    )
    _also(read, sets, judgement, words)
    return judgement


def _by_height(parts: ByHeight | None) -> dict[str, float]:
    """How it sits aside and points tilted, where two heights say it."""
    if parts is None:
        return {}
    angular = hypot(*parts.per_metre) / 1000 * ARCSEC_PER_RADIAN
    return {"sideways_mm": hypot(*parts.sideways), "angular_arcsec": angular}


def _also(read: TargetsRead, sets: list[SolvedSet], judgement: Judgement, words: LengthWords) -> None:
    """What else is to be said of the marks."""
    if min(set_.height_m for set_ in sets) < LOW_M:
        judgement.reasons.append(
            ("low-stand", "Measured low: an angle error shows less near the ground. Use the tripod at full height.")
        )
    if len(sets) == 1:
        height = sets[0].height_m
        judgement.reasons.append(
            (
                "one-height",
                f"One height only: offset and tilt are not separated. At heights other than {words.height(height)} it may differ.",
            )
        )
    if all(abs(v) <= METRES_LOOK_LIKE_MM for _, spots in read.sets for s in spots for v in (s.x, s.y)) and any(
        s.x or s.y for _, spots in read.sets for s in spots
    ):
        judgement.refused.append(
            (
                "looks-like-metres",
                "All marks lie within 0.05 mm: were they typed in metres? Type millimetres, or 0.4 cm.",
            )
        )
    for i, entry in enumerate(sets):
        report_scatter(judgement, entry.solved, "marks")
        at = outlier_in(entry.solved)
        if at is not None:
            spot = read.sets[i][1][at // 2]
            report_outlier(
                judgement,
                spot.path,
                f"The {where(spot.path)} is off the circle of the others: a screw was turned or the paper moved. Mark it again.",
            )


def progress_of(document: Plummet, read: TargetsRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    reasons: list[CodedText] = []
    if document.instrument.plummet is None and document.instrument.kind is not None:
        text = "Which plummet it has is not stated: the limit of an optical one is used. State it in its model. An instrument without a plummet needs no check."
        reasons.append(("not-stated", text))
    height, listed = read.sets[-1]
    spots = last_repeat(listed)
    if read.turned and len(spots) == 1:
        turn = document.observations.method == "turn"
        reasons.append(
            (
                "turn-now",
                "Do not touch the foot screws: turn the instrument by 180° and mark again."
                if turn
                else "Turn the tribrach by 120° on the tripod head, level again, mark again.",
            )
        )
    read_progress = [spot for _, spots in read.sets for spot in spots]
    if len(read_progress) < len([mark for set_ in document.observations.sets for mark in set_.marks]):
        halves = [
            hypot(a.x - b.x, a.y - b.y) / 2
            for i, a in enumerate(spots)
            for b in spots[i + 1 :]
            if read.turned and angle_between_deg(a.heading_deg, b.heading_deg) > 179
        ]
        for half in halves[:1]:
            text = f"Flip {figure(2 * half, 1)} mm: half of it, {figure(half, 1)} mm, is the plummet's. The other headings will confirm it."
            reasons.append(("running", text))
    if height is not None and height < LOW_M:
        reasons.append(("low-stand", "Low: use the tripod at full height."))
    return SheetProgress(reasons)


def on_to_axis(
    _document: Any, read: TargetsRead, judgement: Judgement, _grade: Grade, reads_now: list[Any]
) -> Adjusting:
    """The plummet on to the axis point, one axis at a time, with the mark predicted after each turn. Raises Refused."""
    quantity, last = judgement.quantities[0], last_repeat(read.sets[-1][1])[-1]
    start, axis = (last.x, last.y), axis_of(judgement)
    return adjusting_of(
        quantity.turn,
        allowed=quantity.may_turn() and quantity.limits.adjustable,
        inputs=("right", "away"),
        prompt="It points now at",
        unit="mm",
        from_text=f"{figure(start[0], 1)}, {figure(start[1], 1)}",
        target_text=f"{figure(axis[0], 1)}, {figure(axis[1], 1)}",
        tool="The instrument's own pin or key.",
        screw="Two pairs of screws behind the plummet eyepiece, under a ring or caps.",
        steps=converging(read_points(reads_now), start, axis, quantity.limits.use / 3, "to the axis"),
    )
