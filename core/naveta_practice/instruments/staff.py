"""A level and two staffs: the staff as it is seen through the telescope, with three hairs over it."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_sim.levels import ray_m

from .eye import blur_of, parallax, shimmer
from .hidden import Hidden, Turns
from .lesson import COMPENSATOR_M
from .scatter import sample

Place = Literal["middle", "near-a", "near-b", "centre", "toward", "away", "left", "right"]
StaffName = Literal["a", "b"]
DISTANCES_M: dict[str, dict[StaffName, float]] = {
    "middle": {"a": 30.0, "b": 30.0},
    "near-a": {"a": 10.0, "b": 50.0},
    "near-b": {"a": 56.0, "b": 4.0},
}
HELD_M: dict[StaffName, float] = {"a": COMPENSATOR_M, "b": COMPENSATOR_M}
"""Of a level that stands in one place while its bubble is run to the sides."""
ALONG_SIGHT: dict[str, float] = {"toward": 1.0, "away": -1.0}
"""How a compensator that hangs along the sight moves it, by where the bubble is."""
FIELD = math.radians(0.72)
"""How much of a staff the telescope shows."""
STADIA = 1 / 200.0
"""Upper and lower hair lie so far from the middle one, per metre of distance."""
PARALLAX_M, SHIMMER_M = 0.00022, 4e-6
"""Per metre of distance."""
MAX_AGAIN = 40
BASE_M, MAIN = 60.0, "levelling_sigma_mm_per_km"
SOFT = "The level stands on soft ground: it sinks for a while after it was set up."
SOFT_SHARE, SINKS_M, SINKS_S = 0.4, (0.0003, 0.0009), 25.0
"""So many levels stand on soft ground; by how much one then sinks, most of it in so many seconds."""
LIFTED_M = 0.06
"""A level that is lifted and set again stands so much higher or lower."""


@dataclass(frozen=True, slots=True)
class StaffScene:
    """The ground between the staffs, how high the level stands, where each distance is sharp on the focus screw. Metres."""

    rise_m: float
    axis_m: dict[str, float]
    focus: dict[float, float]
    sinks_m: float
    lifted_m: tuple[float, ...]


@lru_cache(maxsize=64)
def scene_of(hidden: Hidden) -> StaffScene:
    """Where level and staffs stand; the same each time."""
    rng = hidden.scene()
    rise = rng.uniform(-0.35, 0.45)
    axis: dict[str, float] = {"middle": rng.uniform(1.4, 1.65), "near-b": rng.uniform(1.4, 1.65)}
    focus = {30.0: rng.uniform(0.35, 0.5), 56.0: rng.uniform(0.2, 0.32), 4.0: rng.uniform(0.7, 0.88)}
    # Drawn after the rest, so that every number keeps its instrument.
    axis["near-a"] = rng.uniform(1.4, 1.65)
    focus |= {50.0: rng.uniform(0.22, 0.34), 10.0: rng.uniform(0.55, 0.68)}
    sinks = rng.uniform(*SINKS_M) if rng.random() < SOFT_SHARE else 0.0
    lifted = tuple(rng.uniform(-LIFTED_M, LIFTED_M) for _ in range(MAX_AGAIN))
    return StaffScene(
        rise, {place: height + max(rise, 0.0) for place, height in axis.items()}, focus, sinks, (0.0, *lifted)
    )


class StaffAim(Part):
    """Where the level stands and which staff it looks at. `focus`: the focus screw, 0 to 1; `since`: when the level was set up
    there, in seconds; `again`: how often it was lifted and set again there."""

    place: Place = "middle"
    staff: StaffName = "a"
    focus: float = Field(default=0.6, ge=0, le=1)
    since: float = Field(default=0.0, ge=0, le=86_400)
    again: int = Field(default=0, ge=0, le=MAX_AGAIN)


class StaffLook(Answer):
    """What the telescope shows: the part of the staff, where the three hairs lie on it, and how blurred it is (0 sharp).

    Metres of the staff, as its graduation counts from its foot. `ground`: what the level stands on, where it matters.
    """

    distance_m: float
    lowest_m: float
    highest_m: float
    upper_m: float
    middle_m: float
    lower_m: float
    blur: float
    ground: str


def look(hidden: Hidden, aim: StaffAim, turns: Turns, seconds: float) -> StaffLook:
    """The staff at a moment: the ray bent by the earth and the air, the sway of an eye, the shimmer."""
    scene = scene_of(hidden)
    distance = DISTANCES_M.get(aim.place, HELD_M)[aim.staff]
    ground = scene.rise_m if aim.staff == "b" else 0.0
    sharp = scene.focus[distance]
    aside = parallax(PARALLAX_M * distance, aim.focus, sharp, seconds)
    aside += shimmer(SHIMMER_M * distance, seconds, hidden.seed)
    axis = scene.axis_m.get(aim.place, scene.axis_m["middle"])
    axis += scene.lifted_m[aim.again] - scene.sinks_m * (1.0 - math.exp(-max(0.0, seconds - aim.since) / SINKS_S))
    sight = axis - ground + ray_m(_slope(hidden, aim, turns), distance) + _by_chance_m(hidden, aim)
    half, apart = distance * math.tan(FIELD / 2), distance * STADIA
    return StaffLook(
        distance_m=distance,
        lowest_m=sight - half,
        highest_m=sight + half,
        upper_m=sight + aside + apart,
        middle_m=sight + aside,
        lower_m=sight + aside - apart,
        blur=blur_of(aim.focus, sharp),
        ground=SOFT if scene.sinks_m else "",
    )


def _slope(hidden: Hidden, aim: StaffAim, turns: Turns) -> float:
    """How far the sight rises, in seconds: by its own error, or by what the compensator leaves of a tilt."""
    if "collimation_arcsec" in hidden.errors:
        return hidden.after("collimation_arcsec", turns)
    if "fore_and_aft_arcsec" not in hidden.errors:
        return 0.0
    return hidden.after("fore_and_aft_arcsec", turns) * ALONG_SIGHT.get(aim.place, 0.0)


def _by_chance_m(hidden: Hidden, aim: StaffAim) -> float:
    """What a level of some accuracy adds to one sight: of 1 km levelled twice, s·√2·√(60/1000) goes into one difference."""
    if MAIN not in hidden.errors or hidden.lesson.set_again is None:
        return 0.0
    difference_mm = hidden.errors[MAIN].value * math.sqrt(2.0 * BASE_M / 1000.0)
    drawn = sample(hidden, aim.place, hidden.lesson.set_again.most)
    share = drawn[min(aim.again, len(drawn) - 1)]
    return difference_mm / 1000 * share * (0.5 if aim.staff == "a" else -0.5)
