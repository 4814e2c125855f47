"""A world that answers: random tripods on random ground, wrong in ways the advice is not given."""

from __future__ import annotations

import math
import random
from dataclasses import replace

from naveta_core.setup.equipment import CircularVial, Equipment
from naveta_core.setup.mechanism import State, move_leg, see, stood
from naveta_core.setup.tripod import LEGS, Feet

PLUMB = Equipment(leg_shortest_m=0.3, leg_longest_m=3.0)


def random_feet(rng: random.Random) -> Feet:
    """Feet 0.8 to 1.3 m apart, up to 12 cm out of even, on ground that falls by up to 15°."""
    radius = rng.uniform(0.8, 1.3) / math.sqrt(3.0)
    slope, down = math.tan(math.radians(rng.uniform(0, 15))), rng.uniform(0, 2 * math.pi)
    feet = []
    for bearing in (0.0, 120.0, 240.0):
        angle = math.radians(bearing + rng.uniform(-6, 6))
        out = radius + rng.uniform(-0.06, 0.06)
        x, y = out * math.sin(angle), out * math.cos(angle)
        feet.append((x, y, -slope * (x * math.sin(down) + y * math.cos(down)) + rng.uniform(-0.03, 0.03)))
    return (feet[0], feet[1], feet[2])


def random_state(rng: random.Random, equipment: Equipment = PLUMB, *, tilt_deg: float = 0.0) -> State:
    """A tripod stood up by a beginner: its head off level by about `tilt_deg`."""
    feet = random_feet(rng)
    state = stood(equipment, feet, rng.uniform(1.2, 1.6))
    bearing, lever = rng.uniform(0, 360), math.radians(tilt_deg) * 0.55
    for leg, at in zip(LEGS, (0.0, 120.0, 240.0), strict=True):
        state = move_leg(equipment, state, leg, 1000.0 * lever * math.cos(math.radians(bearing - at)))
    return state


def tripod_data(equipment: Equipment, state: State) -> dict[str, object]:
    """What somebody says of it who measured its feet with a tape: to the centimetre."""
    ground = sum(foot[2] for foot in state.feet) / 3.0
    return {
        "feet": [[round(entry, 2) for entry in foot] for foot in state.feet],
        "head_height_m": round(state.pose.at[2] - ground, 2),
        "hinge_radius_m": equipment.hinge_radius_mm / 1000.0,
        "pivot_height_m": equipment.pivot_height_mm / 1000.0,
    }


def with_vial(**changes: float) -> Equipment:
    return replace(PLUMB, circular=replace(CircularVial(), **changes))


def tilt_of(equipment: Equipment, state: State) -> float:
    return math.hypot(*see(equipment, state).tilt_arcsec)


def bearing_of(state: State, leg: str) -> float:
    """Where a leg is, seen from the middle of the head."""
    foot = state.feet[LEGS.index(leg)]
    return math.degrees(math.atan2(foot[0] - state.pose.at[0], foot[1] - state.pose.at[1])) % 360.0


def _past(before_deg: float, now_deg: float, line_deg: float) -> bool:
    """Whether a bubble has come to a line through the middle, on the side the line's bearing points to."""
    was, now = (math.sin(math.radians(angle - line_deg)) for angle in (before_deg, now_deg))
    return was * now <= 0.0 and math.cos(math.radians(now_deg - line_deg)) > 0.0


def follow_leg(
    equipment: Equipment, state: State, step: dict[str, object], *, by_mm: float = 0.5, most_mm: float = 250.0
) -> State:
    """Move one leg slowly and stop at what the step says is to be seen; a hand stops a little late."""
    leg, others = str(step["leg"]), list(step["line_up_with"])  # type: ignore[call-overload]
    by = -by_mm if step["direction"] == "shorten" else by_mm
    before = see(equipment, state)
    began_at_wall = before.at_wall
    for _ in range(int(most_mm / by_mm)):
        state = move_leg(equipment, state, leg, by)
        seen = see(equipment, state)
        if seen.in_ring or (began_at_wall and not seen.at_wall):
            break
        if not others and not seen.at_wall and seen.bubble_mm > before.bubble_mm:
            break  # it comes no nearer
        half_round = 180.0 if step["line_up_across"] else 0.0
        lines = [bearing_of(state, other) + half_round for other in others]
        if any(_past(before.bubble_bearing_deg, seen.bubble_bearing_deg, line) for line in lines):
            break
        before = seen
    return state


def bubble_of(equipment: Equipment, state: State) -> dict[str, object]:
    """The bubble as somebody says it: to ten degrees and half a millimetre, or at the wall."""
    seen = see(equipment, state)
    bearing = round(seen.bubble_bearing_deg / 10.0) * 10.0
    return (
        {"bearing_deg": bearing, "at_wall": True}
        if seen.at_wall
        else {"bearing_deg": bearing, "offset_mm": round(seen.bubble_mm * 2.0) / 2.0}
    )
