"""The shortest way through a situation, computed on the same mechanism: what a practised hand would do."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import lru_cache
from itertools import combinations

from naveta_core.geometry import ARCSEC, Plane, unit
from naveta_core.setup.mechanism import OutOfReachError, State, move_leg, see, slide, turn_screw
from naveta_core.setup.tripod import LEGS, CannotStandError

from .moves import Move, moved
from .results import ShortStep
from .situations import Situation, situation_of
from .stand import begun

NEAR_MM = 8.0
"""Nearer than this nobody carries a tripod again: the rest is slid."""
MIN_SLIDE_MM = 0.5
ENOUGH_ARCSEC = 1.0
ROUGH_ARCSEC = 300.0
"""Less than this is left to the foot screws."""


@lru_cache(maxsize=64)
def shortest_way(lesson: str, seed: int) -> tuple[ShortStep, ...]:
    """Every move of the shortest way, with where axis and tilt are after it."""
    situation = situation_of(lesson, seed)
    return tuple(_steps(situation))


def _steps(situation: Situation) -> Iterator[ShortStep]:
    equipment, can = situation.equipment, situation.lesson.controls
    carry: Plane | None = None
    steps, state = _until_level(situation, carry)
    if "carry" in can and math.hypot(*_axis(situation, state)) > NEAR_MM:
        # Pressing in and levelling move the plummet too: carried to where it is over the mark after them.
        carry = (0.0, 0.0)
        for _ in range(3):
            off = _axis(situation, state)
            carry = (carry[0] - off[0], carry[1] - off[1])
            steps, state = _until_level(situation, carry)
    yield from steps
    off = _axis(situation, state)
    if "slide" in can and math.hypot(*off) > MIN_SLIDE_MM:
        state = slide(equipment, state, -off[0], -off[1])
        yield _step(situation, state, f"Slide the tribrach {math.hypot(*off):.0f} mm, without turning it.")


def _until_level(situation: Situation, carry: Plane | None) -> tuple[list[ShortStep], State]:
    """Carried, pressed in, levelled by legs and screws: every step, and how it then stands."""
    stand, can, equipment = begun(situation), situation.lesson.controls, situation.equipment
    steps = []
    if carry is not None:
        stand, _ = moved(situation, stand, Move(do="carry", right_mm=carry[0], away_mm=carry[1]))
        text = f"Carry the whole tripod {math.hypot(*carry):.0f} mm."
        steps.append(_step(situation, stand.state, text))
    if "press" in can and situation.ground.press_mm:
        for leg in LEGS:
            stand, _ = moved(situation, stand, Move(do="press", leg=leg))  # type: ignore[arg-type]
            steps.append(_step(situation, stand.state, f"Press foot {leg} in."))
    state = stand.state
    if "legs" in can and math.hypot(*see(equipment, state).head_tilt_arcsec) > ROUGH_ARCSEC:
        for leg, mm in _two_legs(situation, state):
            state = move_leg(equipment, state, leg, mm)
            way = "Lengthen" if mm > 0 else "Shorten"
            steps.append(_step(situation, state, f"{way} leg {leg} by {abs(mm):.0f} mm."))
    if "screws" in can:
        for text, turns in _screws(situation, state):
            state = turn_screw(equipment, state, turns)
            steps.append(_step(situation, state, text))
    return steps, state


def _step(situation: Situation, state: State, text: str) -> ShortStep:
    seen = see(situation.equipment, state)
    return ShortStep(text=text, axis_mm=seen.axis_mm, tilt_arcsec=seen.tilt_arcsec)


def _axis(situation: Situation, state: State) -> Plane:
    return see(situation.equipment, state).axis_mm


def _two_legs(situation: Situation, state: State) -> list[tuple[str, float]]:
    """The two legs that level the head with the least change of length, the larger change first."""
    found = []
    for pair in combinations(LEGS, 2):
        try:
            found.append(_leg_changes(situation, state, pair))
        except (OutOfReachError, CannotStandError):
            continue
    best = min(found, key=lambda changes: sum(abs(mm) for _, mm in changes))
    # A hand sets a leg to the millimetre; the screws take what is left.
    return [(leg, float(round(mm))) for leg, mm in sorted(best, key=lambda change: -abs(change[1])) if abs(mm) >= 0.5]


def _leg_changes(situation: Situation, state: State, pair: tuple[str, ...]) -> list[tuple[str, float]]:
    """Newton on the tilt of the head over the lengths of two legs."""
    equipment, sums = situation.equipment, [0.0, 0.0]
    for _ in range(6):
        tilt = see(equipment, state).head_tilt_arcsec
        if math.hypot(*tilt) < ENOUGH_ARCSEC:
            break
        rates = []
        for leg in pair:
            after = see(equipment, move_leg(equipment, state, leg, 0.5)).head_tilt_arcsec
            rates.append(((after[0] - tilt[0]) / 0.5, (after[1] - tilt[1]) / 0.5))
        (a, c), (b, d) = rates
        whole = a * d - b * c
        change = ((-tilt[0] * d + tilt[1] * b) / whole, (-tilt[1] * a + tilt[0] * c) / whole)
        for i, leg in enumerate(pair):
            state = move_leg(equipment, state, leg, change[i])
            sums[i] += change[i]
    return list(zip(pair, sums, strict=True))


def _screws(situation: Situation, state: State) -> list[tuple[str, dict[int, float]]]:
    """What levels the axis: with three screws a pair against each other and then the third, with four one pair and then
    the other. What is too little to turn is left out."""
    tribrach = situation.equipment.tribrach
    sense = 1.0 if tribrach.clockwise_raises else -1.0
    tilt = see(situation.equipment, state).tilt_arcsec
    turn = -math.degrees(math.atan2(state.pose.turn[1][0], state.pose.turn[0][0])) + state.tribrach_turn_deg
    spots = [unit(bearing + turn) for bearing in tribrach.bearings_deg]
    # The plane through the tips tilts by 2/(n·r) of each screw's height times its direction: all of it is taken back.
    heights = [-tribrach.radius_mm * (tilt[0] * x + tilt[1] * y) / ARCSEC for x, y in spots]
    if tribrach.screws == 4:
        pairs = [((0, 2), "1 and 3"), ((1, 3), "2 and 4")]
        rows = [({i + 1: sense * heights[i] / tribrach.pitch_mm for i in pair}, names) for pair, names in pairs]
        return [(f"Turn screws {names} against each other.", turns) for turns, names in rows if _enough(turns)]
    # Two against each other, then the third, which goes its height less the mean of the other two.
    third = heights[0] - (heights[1] + heights[2]) / 2.0
    half = (heights[1] - heights[2]) / 2.0
    pair = {2: sense * half / tribrach.pitch_mm, 3: -sense * half / tribrach.pitch_mm}
    one = {1: sense * third / tribrach.pitch_mm}
    rows3 = [("Turn screws 2 and 3 against each other.", pair), ("Turn screw 1.", one)]
    return [(text, turns) for text, turns in rows3 if _enough(turns)]


def _enough(turns: dict[int, float]) -> bool:
    return max(abs(turn) for turn in turns.values()) > 0.005
