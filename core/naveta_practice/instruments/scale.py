"""A scale read by eye: a checked tape beside the marks of a staff, a tape over marks whose distances are known, or a scale
seen through the telescope of an instrument on a tripod that is turned by hand."""

from __future__ import annotations

from functools import lru_cache

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused, quote
from naveta_core.results import Answer
from naveta_sim.space import SECONDS

from .hidden import Hidden, Turns
from .lesson import LET_GO, TURNED

WINDOW_MM = 24.0
"""So much of the scale is in view."""
LAID_MM = 0.06
"""How well a tape is laid to a mark."""
SCALE_M, MAX_AGAIN = 20.0, 19
HAND_SHARE = 0.1
"""By how much a hand differs from time to time."""
STAYS_SHARE = 0.1
"""So much of what a worn tripod gives does not come back."""


class ScaleAim(Part):
    """Which mark is looked at, or what is done to the tripod; none: the first. `again`: how often that was done before."""

    place: str = ""
    again: int = Field(default=0, ge=0, le=MAX_AGAIN)


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
    mark = (
        _behind_hairs(hidden, place, aim.again, turns)
        if hidden.lesson.check == "tripod"
        else _on_tape(hidden, place, turns)
    )
    middle = mark + _laid(hidden, place) / LAID_MM * WINDOW_MM / 4000
    return ScaleLook(
        place=place,
        mark_m=mark,
        lowest_m=middle - WINDOW_MM / 2000,
        highest_m=middle + WINDOW_MM / 2000,
    )


def _on_tape(hidden: Hidden, place: str, turns: Turns) -> float:
    """Where a mark lies on the tape, metres."""
    zero, scale = hidden.after("zero_offset_mm", turns) / 1000, 1.0 + hidden.after("scale_ppm", turns) * 1e-6
    known = float(place)
    # A staff that reads too much has its mark nearer to the foot; a tape that reads too much shows more at the mark.
    true = (known - zero) / scale if hidden.lesson.check == "staff" else known * scale + zero
    return true + _laid(hidden, place) / 1000


def _behind_hairs(hidden: Hidden, place: str, again: int, turns: Turns) -> float:
    """What is read on the scale, metres: the head turned by a hand one way, then the other, and what does not come back."""
    rng = hidden.scene()
    at, hands = rng.uniform(0.2, 0.8), [1.0 + rng.uniform(-HAND_SHARE, HAND_SHARE) for _ in range(MAX_AGAIN + 1)]
    gives = max(0.0, hidden.after("twist_arcsec", turns)) / SECONDS * SCALE_M
    stays = STAYS_SHARE * gives
    way = 1.0 if again % 2 == 0 else -1.0
    rests = stays if again % 2 else 0.0
    if place == TURNED:
        rests += way * gives * hands[again]
    if place == LET_GO:
        rests += way * stays
    return at + rests + _laid(hidden, place) / 1000
