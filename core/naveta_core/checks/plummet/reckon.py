"""An optical or laser plummet against the standing axis.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.
"""

from __future__ import annotations

from math import hypot
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...judgement import Limits, Spread, pooled
from ...readings import Sheet
from ...wording import figure
from ..circular_vial.reckon import scattered
from ..sheet.answer import SoFar
from ..sheet.circumstances import Needs, circumstances
from ..sheet.fits import stands_apart
from ..sheet.judged import Judged, Quantity, Said, limits_from, name_apart, prior_dof
from ..sheet.pictures import circle
from ..sheet.points import converging, read_points
from .solve import (
    LOW_M,
    METRES_LOOK_LIKE_MM,
    QUANTITY,
    TOLD_AT_M,
    OneSet,
    Plummet,
    Read,
    by_height,
    read_document,
    solve_sets,
    where,
)
from .words import finding_of, shown_of, turn_of, work_of, worked_of

Data = dict[str, Any]


def _limits(document: Plummet, height_m: float) -> Limits:
    one = document.instrument
    laser = one.plummet == "laser"
    adjustable = one.plummet_adjustable if one.plummet_adjustable is not None else not laser
    use, watch = (1.0, 1.5) if laser else (0.5, 1.0)
    share = height_m / TOLD_AT_M
    why = f"opening value for {'a laser' if laser else 'an optical'} plummet, at {figure(height_m, 2)} m"
    return limits_from(
        document, QUANTITY, Limits(use * share, watch * share, (5.0 if adjustable else watch) * share, why, adjustable)
    )


def judge(document: Plummet, read: Read) -> Judged:
    sets = solve_sets(document, read)
    spread = Spread()
    for one in sets:
        spread = spread + one.solved.spread
    parts = by_height(sets)
    # Two heights: judged as modelled at 1.5 m; one: as found at its own height, against limits that grow with it.
    if parts is None:
        height, offset, q_w, q_b = sets[0].height_m, sets[0].offset, sets[0].q_within, sets[0].q_between
    else:
        height, offset, q_w, q_b = TOLD_AT_M, parts.at(TOLD_AT_M), *parts.variance(TOLD_AT_M)
    estimate = pooled(hypot(*offset), q_w, q_b, spread, prior_dof(document))
    turn = turn_of(read, sets[-1])
    quantity = Quantity(
        QUANTITY, "the plummet", "mm", estimate, _limits(document, height), q_w, q_b, True,
        "Usable when every point is centred at two headings half a turn apart, the mean taken.", turn,
    )  # fmt: skip
    figures: Data = {
        "axis_x_mm": sets[-1].axis[0],
        "axis_y_mm": sets[-1].axis[1],
        "offset_x_mm": offset[0],
        "offset_y_mm": offset[1],
        QUANTITY: estimate.value,
        "offset_arcsec": estimate.value / (height * 1000) * ARCSEC_PER_RADIAN,
        f"sigma_{QUANTITY}": estimate.sigma,
        "told_at_m": height,
        "repeats": {"squares": spread.squares, "dof": spread.dof},
    }
    if parts is not None:
        figures["sideways_mm"] = hypot(*parts.sideways)
        figures["angular_arcsec"] = hypot(*parts.per_metre) / 1000 * ARCSEC_PER_RADIAN
    judged = Judged(
        [quantity], figures, finding_of(document, offset, estimate, height), shown_of(quantity, figures, parts), worked_of(read, sets, estimate), work_of(estimate, height),
        spread, one_more=("round of marks", "rounds of marks"),
        again="Mark a fresh sheet and turn once more before a screw is touched. Both count together.",
        send="Send it to service: a plummet so far out, or one without screws for the user, is not for the crew.",
    )  # fmt: skip
    _also(document, read, sets, judged)
    return judged


def _also(document: Plummet, read: Read, sets: list[OneSet], judged: Judged) -> None:
    """What else is to be said of the marks."""
    told = circumstances(document, Needs(wind=document.observations.method == "bob"))
    judged.reasons += told.weak
    if min(one.height_m for one in sets) < LOW_M:
        judged.reasons.append(
            ("low-stand", "Taken low: an angle shows less the nearer the ground. As tall as the tripod goes is better.")
        )
    if len(sets) == 1:
        height = sets[0].height_m
        judged.reasons.append(
            (
                "one-height",
                f"One height: whether it sits aside or points askew is not told apart. Over another height than {figure(height, 2)} m it may be otherwise.",
            )
        )
    if all(abs(v) <= METRES_LOOK_LIKE_MM for _, spots in read.sets for s in spots for v in (s.x, s.y)) and any(
        s.x or s.y for _, spots in read.sets for s in spots
    ):
        judged.refused.append(
            (
                "looks-like-metres",
                "All marks lie within a twentieth of a millimetre: were they typed in metres? Type millimetres, or 0.4 cm.",
            )
        )
    for i, one in enumerate(sets):
        weak, refused = scattered(one.solved, document, "marks")
        judged.reasons += weak
        judged.refused += refused
        at = stands_apart(one.solved)
        if at is not None:
            spot = read.sets[i][1][at // 2]
            name_apart(
                judged,
                spot.path,
                f"The {where(spot.path)} does not fit the circle of the others: a screw was turned, or the sheet moved. Mark it again.",
            )


def drawn(document: Plummet, read: Read, judged: Judged | None) -> Data | None:
    spots = read.sets[-1][1] if read.sets else []
    points = [(one.x, one.y, f"{one.heading_deg:g}°" if read.turned else "", one.path) for one in spots]
    if judged is None:
        return circle("mm", points, None, None, "axis", "the plummet's own offset", x="right", y="away")
    sets = solve_sets(document, read)
    limit = judged.quantities[0].limits.use
    return circle(
        "mm",
        points,
        sets[-1].axis,
        hypot(*sets[-1].offset),
        "axis",
        "the plummet's own offset",
        x="right",
        y="away",
        limit=limit,
        limit_about="centre",
    )


def so_far(document: Plummet, read: Read) -> SoFar:
    said: list[Said] = []
    height, spots = read.sets[-1]
    if read.turned and len(spots) == 1:
        said.append(
            (
                "turn-now",
                "Foot screws untouched: turn the instrument by half a turn and mark again."
                if document.observations.method == "turn"
                else "Turn the base by a third in its tripod, level afresh, mark again.",
            )
        )
    if (
        read.turned
        and len(spots) == 2
        and len(document.observations.sets[-1].marks) > 2
        and abs(abs(spots[0].heading_deg - spots[1].heading_deg) - 180) < 1
    ):
        half = hypot(spots[0].x - spots[1].x, spots[0].y - spots[1].y) / 2
        said.append(
            (
                "running",
                f"Flip {figure(2 * half, 1)} mm: half of it, {figure(half, 1)} mm, is the plummet's. The quarters will prove it.",
            )
        )
    if height is not None and height < LOW_M:
        said.append(("low-stand", "Low: take it as tall as the tripod goes."))
    return SoFar(said)


def adjusting(document: Plummet, reads_now: list[Any]) -> Data:
    """The plummet on to the axis point, one axis at a time, with the mark predicted after each turn. Raises Refused."""
    sheet = Sheet()
    read = read_document(document, sheet)
    sheet.demand_complete()
    judged, one = judge(document, read), solve_sets(document, read)[-1]
    quantity, last = judged.quantities[0], read.sets[-1][1][-1]
    start = (last.x, last.y)
    return {
        "wells": ["right", "away"],
        "asked": "It points now at",
        "unit": "mm",
        "from_text": f"{figure(start[0], 1)}, {figure(start[1], 1)}",
        "target_text": f"{figure(one.axis[0], 1)}, {figure(one.axis[1], 1)}",
        "allowed": quantity.estimate.u95 <= quantity.limits.use and quantity.limits.adjustable,
        "tool": "The instrument's own pin or key.",
        "screw": "Two pairs of screws behind the plummet's eyepiece, under a ring or caps.",
        "text": quantity.turn,
        "steps": converging(read_points(reads_now), start, one.axis, quantity.limits.use / 3, "to the axis"),
    }


def gather(flat: Data) -> Data:
    """Rows `set, height_m, heading, x, y` as sets."""
    sets: list[Data] = []
    for one in flat.pop("marks", []):
        index = int(one.pop("set", 1)) - 1
        while len(sets) <= index:
            sets.append({"marks": []})
        height = one.pop("height_m", None)
        if height is not None:
            sets[index]["height_m"] = height
        sets[index]["marks"].append(one)
    return {**flat, "sets": sets}


def spread_out(plain: Data) -> Data:
    rows = []
    for i, one in enumerate(plain.pop("sets", []), start=1):
        for j, mark in enumerate(one.get("marks", [])):
            height = {"height_m": one["height_m"]} if j == 0 and "height_m" in one else {}
            rows.append({"set": i, **height, **mark})
    return {**plain, "marks": rows}
