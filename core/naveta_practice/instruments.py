"""Simulated instruments with secrets: what an eye sees through the telescope of a level, and what a screw of it moves.

A situation is a lesson and a number: two people with the same number meet the same level, error and weather. Nothing here
says what is hidden; `instrument_judging` does, afterwards.
"""

from __future__ import annotations

import math
import random
from dataclasses import dataclass
from functools import lru_cache
from typing import Any, Literal

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer, Reason
from naveta_sim.levels import ray_m

from .results import Figure
from .situations import refuse_unknown

Place = Literal["middle", "near-b"]
StaffName = Literal["a", "b"]
DISTANCES_M: dict[Place, dict[StaffName, float]] = {"middle": {"a": 30.0, "b": 30.0}, "near-b": {"a": 56.0, "b": 4.0}}
FIELD = math.radians(0.72)
"""How much of a staff the telescope shows."""
STADIA = 1 / 200.0
"""Upper and lower hair lie so far from the middle one, per metre of distance."""
PARALLAX_M = 0.00022
"""By how much the hairs move on the staff, per metre of distance, while the eye goes from the middle to the edge of an
eyepiece that is out of focus by its whole range."""
SWAY_S = 1.7
"""An eye does not stay where it is: so long is one coming and going."""
SHIMMER_M = 4e-6
"""By how much warm air moves a sight, per metre of distance."""
BLUR = 9.0
GOOD_ARCSEC, BAD_ARCSEC = 10.0, 20.0
"""Up to the first nothing is adjusted; beyond the second it must be."""
FOUND_WITHIN_ARCSEC = 10.0
MOST_TURNED = 4.0


@dataclass(frozen=True, eq=False, slots=True)
class InstrumentLesson:
    """What is practised with a simulated instrument, and the check that finds what is wrong with it."""

    name: str
    title: str
    aim: str
    check: str
    method: str
    minutes: int
    cautions: tuple[str, ...]
    given: dict[str, Any]
    """Observations that are given: what is not practised here."""


def _twice(*pairs: tuple[str, str]) -> list[dict[str, Any]]:
    """Set-ups with both staffs to be read twice: one reading each does not prove enough to turn a screw."""
    return [
        {staff: {"distance": far, "readings": ["", ""]} for staff, far in zip("ab", pair, strict=True)}
        for pair in pairs
    ]


INSTRUMENT_LESSONS: tuple[InstrumentLesson, ...] = (
    InstrumentLesson(
        "two-peg",
        "Two-peg test",
        "A level whose error nobody knows. Read both staffs twice from the middle, then from near B. Say whether its line of sight is "
        "level; if it is not, turn the reticle screw until it is. A good level is left alone.",
        "two-peg",
        "middle-then-near",
        8,
        ("force",),
        {"looks": {"bubble_holds": "yes", "line_returns": "yes"}, "setups": _twice(("30", "30"), ("56", "4"))},
    ),
)
BY_NAME = {lesson.name: lesson for lesson in INSTRUMENT_LESSONS}


@dataclass(frozen=True, slots=True)
class HiddenLevel:
    """A level, its staffs and the air between them. Seconds of arc, metres."""

    lesson: InstrumentLesson
    seed: int
    collimation_arcsec: float
    arcsec_per_turn: float
    """What a whole turn of the reticle screw does, clockwise positive; its sign differs from level to level."""
    rise_m: float
    axis_m: dict[Place, float]
    focus: dict[float, float]
    """Where each distance is sharp, on the focus screw from 0 to 1."""

    def slope_arcsec(self, turned: float) -> float:
        """The line of sight after so many turns of the reticle screw, up positive."""
        return self.collimation_arcsec + turned * self.arcsec_per_turn


@lru_cache(maxsize=64)
def level_of(lesson: str, seed: int) -> HiddenLevel:
    """The level of a lesson and a number. Raises Refused for what is none."""
    refuse_unknown(lesson, seed, BY_NAME)
    rng = random.Random(f"instrument {lesson} {seed}")
    good = rng.random() < 0.3
    size = rng.uniform(0.0, 0.7 * GOOD_ARCSEC) if good else rng.uniform(1.3 * BAD_ARCSEC, 70.0)
    rise = rng.uniform(-0.35, 0.45)
    axis: dict[Place, float] = {"middle": rng.uniform(1.4, 1.65), "near-b": rng.uniform(1.4, 1.65)}
    return HiddenLevel(
        BY_NAME[lesson],
        seed,
        rng.choice((-1.0, 1.0)) * size,
        rng.choice((-1.0, 1.0)) * rng.uniform(90.0, 160.0),
        rise,
        {place: height + max(rise, 0.0) for place, height in axis.items()},
        {30.0: rng.uniform(0.35, 0.5), 56.0: rng.uniform(0.2, 0.32), 4.0: rng.uniform(0.7, 0.88)},
    )


class LookQuestion(Part):
    """One look through the telescope. `focus`: the focus screw, 0 to 1; `turned`: turns of the reticle screw so far."""

    verb: str
    lesson: str
    seed: int
    place: Place
    staff: StaffName
    focus: float = Field(ge=0, le=1)
    turned: float = Field(default=0.0, ge=-MOST_TURNED, le=MOST_TURNED)
    seconds: Figure = 0.0


class Look(Answer):
    """What the telescope shows: the part of the staff, where the three hairs lie on it, and how blurred it is (0 sharp).

    Metres of the staff, as its graduation counts from its foot.
    """

    distance_m: float
    lowest_m: float
    highest_m: float
    upper_m: float
    middle_m: float
    lower_m: float
    blur: float


def look(query: LookQuestion) -> Look:
    """The staff at a moment: the ray bent by the earth and the air, the sway of an eye, the shimmer. Raises Refused."""
    level = level_of(query.lesson, query.seed)
    distance = DISTANCES_M[query.place][query.staff]
    ground = level.rise_m if query.staff == "b" else 0.0
    out = query.focus - level.focus[distance]
    eye = math.sin(2 * math.pi * query.seconds / SWAY_S)
    air = SHIMMER_M * distance * math.sin(query.seconds * 9.1 + query.seed) * math.sin(query.seconds * 2.3)
    aside = PARALLAX_M * distance * out * eye / max(0.1, 1.0 - abs(out)) + air
    middle = level.axis_m[query.place] - ground + ray_m(level.slope_arcsec(query.turned), distance) + aside
    half = distance * math.tan(FIELD / 2)
    return Look(
        distance_m=distance,
        lowest_m=middle - half - aside,
        highest_m=middle + half - aside,
        upper_m=middle + distance * STADIA,
        middle_m=middle,
        lower_m=middle - distance * STADIA,
        blur=abs(out) * BLUR,
    )


class InstrumentLessonOut(Answer):
    """A lesson with an instrument as it is offered."""

    name: str
    title: str
    aim: str
    check: str
    document: dict[str, Any]
    """The sheet it begins with."""
    minutes: int
    good_enough: str
    cautions: list[Reason]
