"""An optical or laser plummet against the standing axis.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.
"""

from __future__ import annotations

from math import fsum, hypot
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...judgement import Grade, Limits, Spread, pooled
from ...wording import figure
from ..sheet.acts import Guide
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.fits import apart_deg, stands_apart
from ..sheet.judged import Judged, Quantity, Said, limits_from, name_apart, prior_dof, repeats_of, tell_scatter
from ..sheet.pictures import circle
from ..sheet.points import converging, read_points
from ..sheet.rounds import last_round
from .solve import (
    LOW_M,
    METRES_LOOK_LIKE_MM,
    QUANTITY,
    TOLD_AT_M,
    OneSet,
    Plummet,
    Read,
    by_height,
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


def in_base(document: Plummet) -> bool:
    """Whether the plummet sits in the base and stays where it is when the instrument is turned."""
    return "base" in (document.observations.place, document.instrument.plummet_place)


def condition_of(document: Plummet) -> str:
    if in_base(document):
        return "Usable for what bears so much: it sits in the base, and turning the instrument does not take it out. Else centre with a bob."
    return "Usable when every point is centred at two headings half a turn apart, the mean taken."


def needs(_document: Plummet) -> Needs:
    return Needs(wind=True)


def judge(document: Plummet, read: Read, told: Circumstances) -> Judged:
    sets = solve_sets(document, read, told)
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
        condition_of(document), turn,
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
        "repeats": repeats_of(spread),
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
    _also(read, sets, judged)
    return judged


def _also(read: Read, sets: list[OneSet], judged: Judged) -> None:
    """What else is to be said of the marks."""
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
        tell_scatter(judged, one.solved, "marks")
        at = stands_apart(one.solved)
        if at is not None:
            spot = read.sets[i][1][at // 2]
            name_apart(
                judged,
                spot.path,
                f"The {where(spot.path)} does not fit the circle of the others: a screw was turned, or the sheet moved. Mark it again.",
            )


def drawn(_document: Plummet, read: Read, judged: Judged | None) -> Data | None:
    """The last sheet: every other has an axis of its own."""
    spots = last_round(read.sets[-1][1]) if read.sets else []
    points = [(one.x, one.y, f"{one.heading_deg:g}°" if read.turned else "", one.path) for one in spots]
    own = "the plummet's own offset"
    if judged is None:
        return circle("mm", points, None, None, "axis", own, x="right", y="away")
    axis = (judged.figures["axis_x_mm"], judged.figures["axis_y_mm"])
    radius = fsum(hypot(one.x - axis[0], one.y - axis[1]) for one in spots) / len(spots)
    return circle(
        "mm", points, axis, radius, "axis", own,
        x="right", y="away", limit=judged.quantities[0].limits.use, limit_about="centre",
    )  # fmt: skip


def so_far(document: Plummet, read: Read) -> SoFar:
    said: list[Said] = []
    height, listed = read.sets[-1]
    spots = last_round(listed)
    if read.turned and len(spots) == 1:
        turn = document.observations.method == "turn"
        said.append(
            (
                "turn-now",
                "Foot screws untouched: turn the instrument by half a turn and mark again."
                if turn
                else "Turn the base by a third in its tripod, level afresh, mark again.",
            )
        )
    read_so_far = [spot for _, spots in read.sets for spot in spots]
    if len(read_so_far) < len([mark for one in document.observations.sets for mark in one.marks]):
        halves = [
            hypot(a.x - b.x, a.y - b.y) / 2
            for i, a in enumerate(spots)
            for b in spots[i + 1 :]
            if read.turned and apart_deg(a.heading_deg, b.heading_deg) > 179
        ]
        for half in halves[:1]:
            text = f"Flip {figure(2 * half, 1)} mm: half of it, {figure(half, 1)} mm, is the plummet's. The others will prove it."
            said.append(("running", text))
    if height is not None and height < LOW_M:
        said.append(("low-stand", "Low: take it as tall as the tripod goes."))
    return SoFar(said)


def on_to_axis(_document: Any, read: Read, judged: Judged, _grade: Grade, reads_now: list[Any]) -> Guide:
    """The plummet on to the axis point, one axis at a time, with the mark predicted after each turn. Raises Refused."""
    quantity, last = judged.quantities[0], last_round(read.sets[-1][1])[-1]
    start, axis = (last.x, last.y), (judged.figures["axis_x_mm"], judged.figures["axis_y_mm"])
    return Guide(
        quantity.turn,
        quantity.may_turn() and quantity.limits.adjustable,
        ("right", "away"),
        "It points now at",
        "mm",
        f"{figure(start[0], 1)}, {figure(start[1], 1)}",
        f"{figure(axis[0], 1)}, {figure(axis[1], 1)}",
        "The instrument's own pin or key.",
        "Two pairs of screws behind the plummet's eyepiece, under a ring or caps.",
        converging(read_points(reads_now), start, axis, quantity.limits.use / 3, "to the axis"),
    )


def gather(flat: Data) -> Data:
    """Rows `set, height_m, heading, x, y` as sets."""
    sets: dict[int, Data] = {}
    for one in flat.pop("marks", []):
        held = sets.setdefault(one.pop("set", 1), {"marks": []})
        if "height_m" in one:
            held["height_m"] = one.pop("height_m")
        held["marks"].append(one)
    return {**flat, "sets": [sets[name] for name in sorted(sets)]}


def spread_out(plain: Data) -> Data:
    rows = []
    for i, one in enumerate(plain.pop("sets", []), start=1):
        for j, mark in enumerate(one.get("marks", [])):
            height = {"height_m": one["height_m"]} if j == 0 and "height_m" in one else {}
            rows.append({"set": i, **height, **mark})
    return {**plain, "marks": rows}
