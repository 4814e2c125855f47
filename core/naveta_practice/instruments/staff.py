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

Place = Literal["middle", "near-b", "centre", "toward", "away", "left", "right"]
StaffName = Literal["a", "b"]
DISTANCES_M: dict[str, dict[StaffName, float]] = {"middle": {"a": 30.0, "b": 30.0}, "near-b": {"a": 56.0, "b": 4.0}}
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


@dataclass(frozen=True, slots=True)
class StaffScene:
    """The ground between the staffs, how high the level stands, where each distance is sharp on the focus screw. Metres."""

    rise_m: float
    axis_m: dict[str, float]
    focus: dict[float, float]


@lru_cache(maxsize=64)
def scene_of(hidden: Hidden) -> StaffScene:
    """Where level and staffs stand; the same each time."""
    rng = hidden.scene()
    rise = rng.uniform(-0.35, 0.45)
    axis: dict[str, float] = {"middle": rng.uniform(1.4, 1.65), "near-b": rng.uniform(1.4, 1.65)}
    return StaffScene(
        rise,
        {place: height + max(rise, 0.0) for place, height in axis.items()},
        {30.0: rng.uniform(0.35, 0.5), 56.0: rng.uniform(0.2, 0.32), 4.0: rng.uniform(0.7, 0.88)},
    )


class StaffAim(Part):
    """Where the level stands and which staff it looks at. `focus`: the focus screw, 0 to 1."""

    place: Place = "middle"
    staff: StaffName = "a"
    focus: float = Field(default=0.6, ge=0, le=1)


class StaffLook(Answer):
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


def look(hidden: Hidden, aim: StaffAim, turns: Turns, seconds: float) -> StaffLook:
    """The staff at a moment: the ray bent by the earth and the air, the sway of an eye, the shimmer."""
    scene = scene_of(hidden)
    distance = DISTANCES_M.get(aim.place, HELD_M)[aim.staff]
    ground = scene.rise_m if aim.staff == "b" else 0.0
    sharp = scene.focus[distance]
    aside = parallax(PARALLAX_M * distance, aim.focus, sharp, seconds)
    aside += shimmer(SHIMMER_M * distance, seconds, hidden.seed)
    axis = scene.axis_m.get(aim.place, scene.axis_m["middle"])
    sight = axis - ground + ray_m(_slope(hidden, aim, turns), distance)
    half, apart = distance * math.tan(FIELD / 2), distance * STADIA
    return StaffLook(
        distance_m=distance,
        lowest_m=sight - half,
        highest_m=sight + half,
        upper_m=sight + aside + apart,
        middle_m=sight + aside,
        lower_m=sight + aside - apart,
        blur=blur_of(aim.focus, sharp),
    )


def _slope(hidden: Hidden, aim: StaffAim, turns: Turns) -> float:
    """How far the sight rises, in seconds: by its own error, or by what the compensator leaves of a tilt."""
    if "collimation_arcsec" in hidden.errors:
        return hidden.after("collimation_arcsec", turns)
    return hidden.after("fore_and_aft_arcsec", turns) * ALONG_SIGHT.get(aim.place, 0.0)
