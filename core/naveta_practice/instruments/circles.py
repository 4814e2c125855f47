"""A theodolite and a target plate: both circles, and where the target lies in the field of the telescope in either face."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated, Literal

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused, quote
from naveta_core.results import Answer
from naveta_core.units.angles import show_dms
from naveta_sim.theodolite import Theodolite

from .eye import blur_of, parallax, shimmer
from .hidden import Hidden, Turns
from .lesson import LEVEL_SIGHT, STEEP_SIGHT, TARGET_M
from .scatter import table

FIELD_ARCSEC = 3600.0
PARALLAX_ARCSEC, SHIMMER_ARCSEC = 45.0, 1.0
PLATE_M = 0.2
MAX_ARCSEC = 720.0 * 3600.0
ANTICLOCKWISE = 0.3
"""So many horizontal circles count the other way round."""
FINDER_ARCSEC = 900.0
"""The finder brings the target into the field, not on to the hairs."""
MAIN = "direction_sigma_arcsec"
SET_ON_DEG, MAX_AGAIN = 60.0, 11
"""So far a circle is set on between sets."""
Seconds = Annotated[float, Field(ge=-MAX_ARCSEC, le=MAX_ARCSEC, allow_inf_nan=False)]


@dataclass(frozen=True, slots=True)
class CirclesScene:
    """Where each target is (azimuth and zenith angle, degrees), where the finder points in either face (seconds right and up
    of it), where it is sharp, and whether the horizontal circle counts anticlockwise."""

    targets: dict[str, tuple[float, float]]
    finder: dict[str, tuple[float, float]]
    focus: float
    anticlockwise: bool


@lru_cache(maxsize=64)
def scene_of(hidden: Hidden) -> CirclesScene:
    """Where the target stands; the same each time."""
    rng = hidden.scene()
    finder = {face: (_beside(rng.random()), _beside(rng.random())) for face in ("left", "right")}
    azimuth, zenith, focus = rng.uniform(5.0, 355.0), rng.uniform(86.0, 91.5), rng.uniform(0.25, 0.7)
    # The second target stands high, and off to the side; drawn after the rest, so that every number keeps its instrument.
    high = ((azimuth + rng.uniform(20.0, 60.0)) % 360.0, rng.uniform(52.0, 60.0))
    targets, anticlockwise = {LEVEL_SIGHT: (azimuth, zenith), STEEP_SIGHT: high}, rng.random() < ANTICLOCKWISE
    for number, (name, _) in enumerate(hidden.lesson.places):
        if name not in targets:
            targets[name] = ((azimuth + 70.0 * number + rng.uniform(-15.0, 15.0)) % 360.0, rng.uniform(87.0, 92.0))
    return CirclesScene(targets, finder, focus, anticlockwise)


def _beside(share: float) -> float:
    """From a third of the finder's error to all of it, to either side."""
    size = FINDER_ARCSEC * (0.3 + 0.7 * abs(2 * share - 1))
    return size if share > 0.5 else -size


class CirclesAim(Part):
    """Where the alidade and the telescope stand, in seconds of the circles before anything is set or held; none: where the
    finder points. `zero_arcsec`: what was set to zero; `held_arcsec`: where the horizontal circle is held; `again`: how often it was set on
    for another set."""

    face: Literal["left", "right"] = "left"
    target: str = LEVEL_SIGHT
    how: Literal["manual", "auto"] = "manual"
    hz_arcsec: Seconds | None = None
    v_arcsec: Seconds | None = None
    focus: float = Field(default=0.1, ge=0, le=1)
    zero_arcsec: Seconds = 0.0
    held_arcsec: Seconds | None = None
    again: int = Field(default=0, ge=0, le=MAX_AGAIN)


class CirclesLook(Answer):
    """Both circles as they are shown, and the target's middle from the hairs, right and up positive, in seconds."""

    face: Literal["left", "right"]
    counts: Literal["clockwise", "anticlockwise"]
    hz_text: str
    v_text: str
    hz_arcsec: float
    v_arcsec: float
    right_arcsec: float
    up_arcsec: float
    field_arcsec: float
    plate_arcsec: float
    blur: float


def look(hidden: Hidden, aim: CirclesAim, turns: Turns, seconds: float) -> CirclesLook:
    """The target and the circles at a moment; the index screw moves the circle, the reticle screw the hair."""
    scene = scene_of(hidden)
    c, index, tilting = (
        hidden.after(name, turns) if name in hidden.errors else 0.0
        for name in ("collimation_arcsec", "index_arcsec", "tilting_axis_arcsec")
    )
    if aim.target not in scene.targets:
        raise Refused([Fault("aim.target", "the target", quote(aim.target), "one of " + ", ".join(scene.targets))])
    azimuth, zenith = scene.targets[aim.target]
    # An error is what face left reads too much, whichever way the circle counts.
    sense = -1.0 if scene.anticlockwise else 1.0
    right_face = aim.face == "right"
    up_sign = -1.0 if right_face else 1.0
    # The circle that would be read without its index error is where the telescope itself stands.
    target_hz, target_v = Theodolite(c=sense * c, t=sense * tilting).circles(azimuth, zenith, right=right_face)
    across = math.sin(math.radians(zenith))
    finder = scene.finder[aim.face]
    hz = target_hz - finder[0] / 3600 / across if aim.hz_arcsec is None else aim.hz_arcsec / 3600
    v = target_v + up_sign * finder[1] / 3600 if aim.v_arcsec is None else aim.v_arcsec / 3600
    if aim.how == "auto":
        # A tracker is a telescope of its own, whose axis lies beside the line of sight.
        beside = c + hidden.after("tracker_hz_arcsec", turns)
        hz, _ = Theodolite(c=sense * beside, t=sense * tilting).circles(azimuth, zenith, right=right_face)
        v = target_v + hidden.after("tracker_v_arcsec", turns) / 3600
    eye = parallax(PARALLAX_ARCSEC, aim.focus, scene.focus, seconds)
    shown = aim.held_arcsec / 3600 if aim.held_arcsec is not None else hz
    shown += SET_ON_DEG * aim.again + _by_chance_deg(hidden, aim)
    return CirclesLook(
        face=aim.face,
        counts="anticlockwise" if scene.anticlockwise else "clockwise",
        hz_text=show_dms(sense * (shown - aim.zero_arcsec / 3600) % 360.0),
        v_text=show_dms((v + index / 3600) % 360.0),
        hz_arcsec=hz % 360.0 * 3600,
        v_arcsec=v % 360.0 * 3600,
        right_arcsec=_turn(target_hz - hz) * 3600 * across + eye + shimmer(SHIMMER_ARCSEC, seconds, hidden.seed),
        up_arcsec=up_sign * _turn(v - target_v) * 3600 + eye / 2 + shimmer(SHIMMER_ARCSEC, seconds + 1, hidden.seed),
        field_arcsec=FIELD_ARCSEC,
        plate_arcsec=math.degrees(math.atan(PLATE_M / TARGET_M)) * 3600,
        blur=blur_of(aim.focus, scene.focus),
    )


def _by_chance_deg(hidden: Hidden, aim: CirclesAim) -> float:
    """What a circle of some accuracy adds to a direction in both faces, another at each place of the circle."""
    if MAIN not in hidden.errors or hidden.lesson.set_again is None:
        return 0.0
    by_set = table(hidden, "circle", hidden.lesson.set_again.most, len(hidden.lesson.places))
    column = [name for name, _ in hidden.lesson.places].index(aim.target)
    return hidden.errors[MAIN].value / 3600 * by_set[min(aim.again, len(by_set) - 1)][column]


def _turn(degrees: float) -> float:
    """The same angle between -180° and 180°."""
    return (degrees + 180.0) % 360.0 - 180.0
