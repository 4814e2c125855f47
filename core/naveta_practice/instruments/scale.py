"""A scale read by eye: a checked tape beside the marks of a staff, or a tape over marks whose distances are known."""

from __future__ import annotations

from functools import lru_cache

from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused, quote
from naveta_core.results import Answer

from .hidden import Hidden, Turns

WINDOW_MM = 24.0
"""So much of the scale is in view."""
LAID_MM = 0.06
"""How well a tape is laid to a mark."""


class ScaleAim(Part):
    """Which mark is looked at; none: the first."""

    place: str = ""


class ScaleLook(Answer):
    """Where the mark lies on the scale, and the part of the scale that is in view, in metres."""

    place: str
    mark_m: float
    lowest_m: float
    highest_m: float


@lru_cache(maxsize=256)
def _laid(hidden: Hidden, place: str) -> float:
    """How far a mark is missed, the same each time, in millimetres; and where in the window it lies."""
    rng = hidden.scene()
    return {name: rng.uniform(-LAID_MM, LAID_MM) for name, _ in hidden.lesson.places}[place]


def look(hidden: Hidden, aim: ScaleAim, turns: Turns, _seconds: float) -> ScaleLook:
    """The mark on the scale. Raises Refused for a mark that is none."""
    names = [name for name, _ in hidden.lesson.places]
    place = aim.place or names[0]
    if place not in names:
        raise Refused([Fault("aim.place", "the mark", quote(place), "one of " + ", ".join(names))])
    zero, scale = hidden.after("zero_offset_mm", turns) / 1000, 1.0 + hidden.after("scale_ppm", turns) * 1e-6
    known = float(place)
    # A staff that reads too much has its mark nearer to the foot; a tape that reads too much shows more at the mark.
    true = (known - zero) / scale if hidden.lesson.check == "staff" else known * scale + zero
    mark = true + _laid(hidden, place) / 1000
    middle = mark + _laid(hidden, place) / LAID_MM * WINDOW_MM / 4000
    return ScaleLook(
        place=place,
        mark_m=mark,
        lowest_m=middle - WINDOW_MM / 2000,
        highest_m=middle + WINDOW_MM / 2000,
    )
