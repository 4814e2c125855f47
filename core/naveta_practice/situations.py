"""A seeded situation: two people with the same lesson and number meet the same tripod."""

from __future__ import annotations

import math
import random
from collections.abc import Iterable
from dataclasses import KW_ONLY, dataclass, replace
from functools import lru_cache

from naveta_core.documents.envelope import Instrument
from naveta_core.errors import Fault, Refused, quote
from naveta_core.geometry import Vector, add, unit
from naveta_core.setup.equipment import MM, CircularVial, ElectronicLevel, Equipment, PlateVial, Plummet, Tribrach
from naveta_core.setup.mechanism import State, carry_over, move_leg, see, stood, turn_all
from naveta_core.setup.tripod import LEGS, Pose, even_feet

from .ground import GROUNDS, Ground
from .lessons import BY_NAME, Lesson
from .stated import drawn_instrument

DOWNHILL_DEG = 180.0
"""The person stands below, two feet towards them."""
HEIGHT_M = 1.45
MAX_SEED = 999_999
FOUR = (45.0, 135.0, 225.0, 315.0)
NOTHING_STATED = Instrument()


@dataclass(frozen=True, slots=True)
class Situation:
    """What a lesson begins with: equipment with its hidden errors, ground, weather, and how the tripod stands."""

    lesson: Lesson
    seed: int
    equipment: Equipment
    _: KW_ONLY
    ground: Ground
    slope_deg: float
    wind_mm: float
    """How far a bob swings to each side, millimetres; 0 in still air."""
    gust_s: float
    start: State
    instrument: Instrument = NOTHING_STATED
    """What is stated of the instrument on it."""


def refuse_unknown(lesson: str, seed: int, known: Iterable[str]) -> None:
    """Raises Refused for a lesson or a number that is none."""
    if lesson not in known:
        raise Refused([Fault("lesson", "the lesson", quote(lesson), "one of " + ", ".join(known))])
    if not 0 <= seed <= MAX_SEED:
        raise Refused([Fault("seed", "the number of the situation", str(seed), f"0 to {MAX_SEED}")])


@lru_cache(maxsize=64)
def situation_of(lesson_name: str, seed: int) -> Situation:
    """The situation of a lesson and a number. Raises Refused for what is none."""
    refuse_unknown(lesson_name, seed, BY_NAME)
    lesson, rng = BY_NAME[lesson_name], random.Random(f"{lesson_name} {seed}")
    slope = rng.uniform(*lesson.slope_deg)
    ground = GROUNDS[rng.choice(lesson.grounds)]
    instrument = drawn_instrument(lesson, seed)
    equipment = _equipment(lesson, instrument, rng)
    start = _start(lesson, equipment, slope, rng)
    wind = rng.uniform(3.0, 7.0) if lesson.wind else 0.0
    return Situation(
        lesson, seed, equipment, ground=ground, slope_deg=slope, wind_mm=wind, gust_s=rng.uniform(4.0, 7.0), start=start,
        instrument=instrument,
    )  # fmt: skip


def _equipment(lesson: Lesson, instrument: Instrument, rng: random.Random) -> Equipment:
    bearing = unit(rng.uniform(0.0, 360.0))
    off = rng.uniform(0.6, 1.0) * lesson.vial_off_mm
    tribrach = Tribrach(screws=4, bearings_deg=FOUR) if lesson.screws == 4 else Tribrach()
    shows = lesson.shows
    return Equipment(
        tribrach=tribrach,
        circular=CircularVial(error_x_mm=off * bearing[0], error_y_mm=off * bearing[1]),
        plate=PlateVial(error_div=rng.choice((-1.0, 1.0)) * rng.uniform(1.5, 3.0) if off else 0.0)
        if "plate" in shows
        else None,
        electronic=ElectronicLevel(range_arcmin=limit) if (limit := instrument.tilt_limit_arcmin) else None,
        plummet=Plummet() if {"optical", "laser"} & set(shows) else None,
    )


def _start(lesson: Lesson, equipment: Equipment, slope_deg: float, rng: random.Random) -> State:
    """Stood up, then everything wrong that the lesson wants: head, axis and place."""
    feet = even_feet(rng.uniform(0.95, 1.1), slope_deg, DOWNHILL_DEG)
    state = stood(equipment, feet, HEIGHT_M + rng.uniform(-0.05, 0.05))
    if lesson.head_tilt_arcmin[1]:
        legs = rng.sample(LEGS, 2)
        # A leg longer by 1 mm tilts the head by about 2.2′ on legs a metre apart.
        sizes = [rng.uniform(*lesson.head_tilt_arcmin) / 2.2, rng.uniform(*lesson.head_tilt_arcmin) / 4.4]
        for leg, size in zip(legs, sizes, strict=True):
            state = move_leg(equipment, state, leg, rng.choice((-1.0, 1.0)) * size)
    if lesson.axis_tilt_arcmin[1]:
        state = _tilt_axis(lesson, equipment, state, rng)
    return _put_off(lesson, equipment, state, slope_deg, rng)


def _tilt_axis(lesson: Lesson, equipment: Equipment, state: State, rng: random.Random) -> State:
    """Screws turned so that the axis is out of plumb by what the lesson wants, none near its stop."""
    size = rng.uniform(*lesson.axis_tilt_arcmin) * 60.0 / 206_264.8
    way = unit(rng.uniform(0.0, 360.0))
    tribrach = equipment.tribrach
    turns = [
        size * tribrach.radius_mm * (way[0] * u[0] + way[1] * u[1]) / tribrach.pitch_mm
        for u in map(unit, tribrach.bearings_deg)
    ]
    return turn_all(equipment, state, turns)


def _put_off(lesson: Lesson, equipment: Equipment, state: State, slope_deg: float, rng: random.Random) -> State:
    """The axis over the mark but for the lesson's offset: by a slide where only sliding is practised, else carried."""
    for _ in range(3):  # carried along a slope, an axis that is out of plumb meets the mark's height elsewhere
        seen = see(equipment, state)
        state = carried(state, -seen.axis_mm[0], -seen.axis_mm[1], slope_deg)
    if not lesson.offset_mm[1]:
        return state
    far, way = rng.uniform(*lesson.offset_mm), unit(rng.uniform(0.0, 360.0))
    return carried(state, far * way[0], far * way[1], slope_deg)


def carried(state: State, right_mm: float, up_mm: float, slope_deg: float) -> State:
    """The whole tripod carried as it stands, along the ground. Millimetres, degrees."""
    rise: Vector = (0.0, 0.0, rise_m(slope_deg, right_mm * MM, up_mm * MM))
    over = carry_over(state, right_mm, up_mm)
    a, b, c = (add(foot, rise) for foot in over.feet)
    return replace(over, feet=(a, b, c), pose=Pose(add(over.pose.at, rise), over.pose.turn))


def rise_m(slope_deg: float, right_m: float, up_m: float) -> float:
    """By how much the ground rises over a step in plan, metres; the slope in degrees."""
    down = unit(DOWNHILL_DEG)
    return -math.tan(math.radians(slope_deg)) * (right_m * down[0] + up_m * down[1])
