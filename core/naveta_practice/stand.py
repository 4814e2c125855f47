"""A stand in time: feet that sink, a leg that slips through its clamp, bubbles that follow, a bob that swings.

Kept as plain data between two questions, so that whoever asks may go back to any earlier moment, or replay all of them.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

from naveta_core.geometry import Plane, add
from naveta_core.setup.equipment import MM
from naveta_core.setup.mechanism import InstrumentView, State, held, see
from naveta_core.setup.tripod import LEGS, CannotStandError

from .ground import sinks_mm
from .situations import Situation

Three = tuple[float, float, float]
NONE_MM: Three = (0.0, 0.0, 0.0)
NOT_PRESSED = (False, False, False)
CIRCULAR_LAG_S, PLATE_LAG_S = 0.25, 0.5
"""After this time a bubble has gone two thirds of its way."""
SLIPS_M_S = 0.08
"""How fast an open leg slips through its clamp under the head's weight."""
GRAVITY = 9.81
MIN_SINK_MM = 0.002
MAX_STEP_S = 0.25
MAX_LEAN_DEG = 12.0
"""A head that is tilted further takes the tripod with it."""


@dataclass(frozen=True, slots=True)
class Stand:
    """Everything that changes. `seconds` since it began; `bubble_mm` and `plate_div` as shown, behind the truth."""

    state: State
    seconds: float = 0.0
    pressed: tuple[bool, bool, bool] = NOT_PRESSED
    sunk_mm: Three = NONE_MM
    hole_mm: Three = NONE_MM
    open_leg: str = ""
    bubble_mm: Plane = (0.0, 0.0)
    plate_div: float = 0.0
    laser_until_s: float = 0.0
    lost_since_s: float | None = None
    focus_index: float = 0.1
    focus_ground: float = 0.9

    def with_state(self, state: State, **changes: object) -> Stand:
        """The same with the mechanism elsewhere."""
        return replace(self, state=state, **changes)  # type: ignore[arg-type]


def falls_over(state: State) -> bool:
    """Whether the head is tilted so far that the tripod would not stand."""
    return state.pose.normal[2] < math.cos(math.radians(MAX_LEAN_DEG))


def begun(situation: Situation) -> Stand:
    """As the lesson begins, bubbles at rest."""
    pressed = (True, True, True) if situation.lesson.pressed else NOT_PRESSED
    seen = see(situation.equipment, situation.start)
    sunk = (situation.ground.pressed_mm,) * 3 if situation.lesson.pressed else NONE_MM
    return Stand(
        situation.start, pressed=pressed, sunk_mm=sunk, bubble_mm=_bubble(seen), plate_div=seen.plate_div or 0.0
    )


def advanced(situation: Situation, stand: Stand, seconds: float) -> Stand:
    """The stand some seconds later, at most a quarter of a second at once."""
    step = min(max(seconds, 0.0), MAX_STEP_S)
    stand = _slipped(situation, _sunk(situation, stand, step), step)
    seen = see(situation.equipment, stand.state)
    lost = stand.lost_since_s
    if situation.equipment.electronic is not None:
        lost = None if seen.along_arcsec is not None else (stand.seconds if lost is None else lost)
    x, y = _bubble(seen)
    share = 1.0 - math.exp(-step / CIRCULAR_LAG_S)
    plate = 1.0 - math.exp(-step / PLATE_LAG_S)
    return replace(
        stand,
        seconds=stand.seconds + step,
        lost_since_s=lost,
        bubble_mm=(stand.bubble_mm[0] + share * (x - stand.bubble_mm[0]), stand.bubble_mm[1] + share * (y - stand.bubble_mm[1])),
        plate_div=stand.plate_div + plate * ((seen.plate_div or 0.0) - stand.plate_div),
    )  # fmt: skip


def _bubble(seen: InstrumentView) -> Plane:
    angle = math.radians(seen.bubble_bearing_deg)
    return (seen.bubble_mm * math.sin(angle), seen.bubble_mm * math.cos(angle))


def _sunk(situation: Situation, stand: Stand, step: float) -> Stand:
    """Feet sunk further; what is too little to see is left for later."""
    ground = situation.ground
    each = [
        sinks_mm(ground, pressed=p, sunk_mm=s, seconds=step) for p, s in zip(stand.pressed, stand.sunk_mm, strict=True)
    ]
    if max(each) <= MIN_SINK_MM * step:
        return stand
    a, b, c = (add(foot, (0.0, 0.0, -mm * MM)) for foot, mm in zip(stand.state.feet, each, strict=True))
    sa, sb, sc = (sunk + mm for sunk, mm in zip(stand.sunk_mm, each, strict=True))
    return stand.with_state(held(situation.equipment, stand.state, feet=(a, b, c)), sunk_mm=(sa, sb, sc))


def _slipped(situation: Situation, stand: Stand, step: float) -> Stand:
    """A leg whose clamp is open slips until it is closed, or is at its shortest."""
    if not stand.open_leg:
        return stand
    at, legs = LEGS.index(stand.open_leg), list(stand.state.legs)
    legs[at] = max(situation.equipment.leg_shortest_m, legs[at] - SLIPS_M_S * step)
    try:
        state = held(situation.equipment, stand.state, legs=tuple(legs))
    except CannotStandError:
        return replace(stand, open_leg="")
    if falls_over(state):
        return replace(stand, open_leg="")  # a hand catches the head before it falls
    return stand.with_state(state)


def bob_mm(situation: Situation, stand: Stand) -> Plane:
    """Where the tip of a plumb bob is, from the mark: right and away. It hangs from the fixing screw and swings in wind
    as a pendulum of its length does, wider in gusts. Millimetres."""
    state = stand.state
    head = state.pose.point((state.slide[0], state.slide[1], 0.0))
    swing = math.sqrt(GRAVITY / max(0.2, head[2] - state.mark[2]))
    wide = situation.wind_mm * (0.6 + 0.4 * math.sin(2.0 * math.pi * stand.seconds / situation.gust_s))
    x = wide * math.sin(swing * stand.seconds)
    y = 0.4 * wide * math.cos(swing * stand.seconds)
    return ((head[0] - state.mark[0]) / MM + x, (head[1] - state.mark[1]) / MM + y)


def level_is_on(situation: Situation, stand: Stand) -> bool:
    """Whether the electronic level still shows something: out of its range it shuts off after the delay stated, and it
    comes back at once within range."""
    lost = stand.lost_since_s
    return lost is None or stand.seconds - lost < (situation.instrument.tilt_delay_s or 0.0)


def plain(stand: Stand) -> dict[str, object]:
    """A stand as plain data."""
    state = stand.state
    return {
        "seconds": stand.seconds,
        "feet": state.feet,
        "legs": state.legs,
        "at": state.pose.at,
        "turn": state.pose.turn,
        "slide": state.slide,
        "tribrach_turn_deg": state.tribrach_turn_deg,
        "screws": state.screws,
        "heading_deg": state.heading_deg,
        "pressed": stand.pressed,
        "sunk_mm": stand.sunk_mm,
        "hole_mm": stand.hole_mm,
        "open_leg": stand.open_leg,
        "bubble_mm": stand.bubble_mm,
        "plate_div": stand.plate_div,
        "laser_until_s": stand.laser_until_s,
        "lost_since_s": stand.lost_since_s,
        "focus_index": stand.focus_index,
        "focus_ground": stand.focus_ground,
    }
