"""What a hand can do at the tripod, one thing at a time, and what the mechanism then does."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Literal, TypeVar

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.geometry import add
from naveta_core.setup.context import MIN_SPACING_M
from naveta_core.setup.equipment import MM
from naveta_core.setup.mechanism import OutOfReachError, State, held, move_leg, slide, turn_screw, turn_to
from naveta_core.setup.tripod import LEGS, CannotStandError

from .lessons import Control
from .results import Figure
from .situations import Situation, carried, rise_m
from .stand import NONE_MM, NOT_PRESSED, Stand, falls_over

T = TypeVar("T")
Do = Literal[
    "carry",
    "foot",
    "leg",
    "open",
    "close",
    "press",
    "screws",
    "slide",
    "heading",
    "laser",
    "focus-index",
    "focus-ground",
]
CONTROL_OF: dict[str, Control] = {
    "carry": "carry", "foot": "feet", "leg": "legs", "open": "legs", "close": "legs", "press": "press",
    "screws": "screws", "slide": "slide", "heading": "heading",
}  # fmt: skip
LASER_S = 60.0
"""A laser plummet switches itself off after this time."""
PRESS_OF = {False: 1.0, True: 0.05}
"""A foot that was pressed in already goes in almost no further."""
MAX_TURNS = 8.0


class Move(Part):
    """One move of a hand. Steps in plan as seen from where the person stands; turns clockwise from above."""

    do: Do
    leg: Literal["A", "B", "C"] | None = None
    mm: Annotated[Figure, Field(ge=-400, le=400)] = 0.0
    right_mm: Annotated[Figure, Field(ge=-1000, le=1000)] = 0.0
    away_mm: Annotated[Figure, Field(ge=-1000, le=1000)] = 0.0
    turn_deg: Annotated[Figure, Field(ge=-360, le=360)] = 0.0
    turns: dict[Literal["1", "2", "3", "4"], Annotated[Figure, Field(ge=-MAX_TURNS, le=MAX_TURNS)]] = {}
    share: Annotated[Figure, Field(ge=0, le=1)] = 0.0
    """Of the plummet's focus, from one stop to the other."""


def moved(situation: Situation, stand: Stand, move: Move) -> tuple[Stand, str]:
    """The stand after a move, and what is in the way where nothing moved."""
    control = CONTROL_OF.get(move.do)
    if control and control not in situation.lesson.controls:
        return stand, "Not part of this lesson."
    try:
        return _done(situation, stand, move), ""
    except OutOfReachError as error:
        return stand, f"{str(error)[0].upper()}{str(error)[1:]}."
    except CannotStandError:
        return stand, "The tripod would fall over: set the foot elsewhere."


def _done(situation: Situation, stand: Stand, move: Move) -> Stand:
    match move.do:
        case "open":
            return replace(stand, open_leg=LEGS[_leg(move)])
        case "close":
            return replace(stand, open_leg="")
        case "heading":
            return stand.with_state(turn_to(stand.state, stand.state.heading_deg + move.turn_deg))
        case "laser":
            return replace(stand, laser_until_s=stand.seconds + LASER_S)
        case "focus-index":
            return replace(stand, focus_index=move.share)
        case "focus-ground":
            return replace(stand, focus_ground=move.share)
        case _:
            return MECHANICAL[move.do](situation, stand, move)


def _carry(situation: Situation, stand: Stand, move: Move) -> Stand:
    """The whole tripod lifted out of its holes and set down elsewhere, its legs as long as they were."""
    state = carried(stand.state, move.right_mm, move.away_mm, situation.slope_deg)
    depths = [sunk + hole for sunk, hole in zip(stand.sunk_mm, stand.hole_mm, strict=True)]
    feet = tuple(add(foot, (0.0, 0.0, deep * MM)) for foot, deep in zip(state.feet, depths, strict=True))
    if any(depths):
        state = held(situation.equipment, state, feet=feet)
    return stand.with_state(state, pressed=NOT_PRESSED, sunk_mm=NONE_MM, hole_mm=NONE_MM)


def _foot(situation: Situation, stand: Stand, move: Move) -> Stand:
    at = _leg(move)
    feet, right, away = list(stand.state.feet), move.right_mm * MM, move.away_mm * MM
    # A foot is set down on the ground again: out of its hole, onto the slope.
    rise = rise_m(situation.slope_deg, right, away) + stand.sunk_mm[at] * MM + stand.hole_mm[at] * MM
    feet[at] = add(feet[at], (right, away, rise))
    others = [foot for i, foot in enumerate(feet) if i != at]
    if min(math.dist(feet[at][:2], other[:2]) for other in others) < MIN_SPACING_M:
        raise OutOfReachError("two feet would stand too near to each other")
    state = held(situation.equipment, stand.state, feet=(feet[0], feet[1], feet[2]))
    _within_reach(state)
    return stand.with_state(
        state, pressed=_put(stand.pressed, at, value=False), sunk_mm=_put(stand.sunk_mm, at, 0.0),
        hole_mm=_put(stand.hole_mm, at, 0.0),
    )  # fmt: skip


def _within_reach(state: State) -> None:
    if falls_over(state):
        raise OutOfReachError("the head would tilt too far: the tripod falls over")


def _leg_length(situation: Situation, stand: Stand, move: Move) -> Stand:
    state = move_leg(situation.equipment, stand.state, LEGS[_leg(move)], move.mm)
    _within_reach(state)
    return stand.with_state(state)


def _press(situation: Situation, stand: Stand, move: Move) -> Stand:
    """Pressed in with a boot: the foot goes in, and what it stood on settles less from then on."""
    at = _leg(move)
    depth = situation.ground.press_mm * PRESS_OF[stand.pressed[at]]
    if depth == 0.0:
        raise OutOfReachError("concrete does not give: see that the shoe does not slip")
    feet = list(stand.state.feet)
    feet[at] = add(feet[at], (0.0, 0.0, -depth * MM))
    state = held(situation.equipment, stand.state, feet=(feet[0], feet[1], feet[2]))
    _within_reach(state)
    return stand.with_state(
        state, pressed=_put(stand.pressed, at, value=True), sunk_mm=_put(stand.sunk_mm, at, 0.0),
        hole_mm=_put(stand.hole_mm, at, stand.hole_mm[at] + stand.sunk_mm[at] + depth),
    )  # fmt: skip


def _screws(situation: Situation, stand: Stand, move: Move) -> Stand:
    turns = {int(number): amount for number, amount in move.turns.items()}
    if max(turns, default=0) > situation.equipment.tribrach.screws:
        raise OutOfReachError("this tribrach has three foot screws")
    return stand.with_state(turn_screw(situation.equipment, stand.state, turns))


def _slide(situation: Situation, stand: Stand, move: Move) -> Stand:
    return stand.with_state(slide(situation.equipment, stand.state, move.right_mm, move.away_mm, move.turn_deg))


def _leg(move: Move) -> int:
    if move.leg is None:
        raise OutOfReachError("choose a leg")
    return LEGS.index(move.leg)


def _put(values: tuple[T, T, T], at: int, value: T) -> tuple[T, T, T]:
    a, b, c = (value if i == at else each for i, each in enumerate(values))
    return a, b, c


MECHANICAL = {"carry": _carry, "foot": _foot, "leg": _leg_length, "press": _press, "screws": _screws, "slide": _slide}
