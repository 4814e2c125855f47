"""How far to slide the instrument on the head, and when the legs have to do it instead."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field

from ...documents.envelope import InOwnUnit
from ...geometry import ARCSEC, unit
from ...units.formatting import length_words
from ..context import Asked, Bearing, MoveTold, TiltTold
from ..equipment import MM
from .text import away, for_person

Data = dict[str, Any]


class SlideAsked(Asked):
    """`offset` is where the plummet points, seen from the mark; `slid` where the base stands on the head already."""

    advice: Literal["slide"]
    offset: MoveTold
    slide_range_mm: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] = 20.0
    slid: MoveTold = MoveTold(bearing_deg=0.0, distance_mm=0.0)
    head_tilt: TiltTold | None = None
    turn_deg: Annotated[float, Field(ge=0, le=90), InOwnUnit] = 2.0
    """What a base turns while it is slid by a careful hand."""
    stand_bearing_deg: Bearing | None = None


def advise_slide(asked: SlideAsked) -> Data:
    """The way and distance to slide, what that does to the level, and whether the slide reaches at all."""
    away = unit(asked.offset.bearing_deg)
    step = (-asked.offset.distance_mm * away[0], -asked.offset.distance_mm * away[1])
    have = unit(asked.slid.bearing_deg)
    end = (asked.slid.distance_mm * have[0] + step[0], asked.slid.distance_mm * have[1] + step[1])
    use_legs = math.hypot(*end) > asked.slide_range_mm
    head = asked.head_tilt.arcsec if asked.head_tilt else 0.0
    upset = 2.0 * head * math.sin(math.radians(asked.turn_deg) / 2.0)
    bearing = (asked.offset.bearing_deg + 180.0) % 360.0
    return {
        "result": {
            "slide_bearing_deg": round(bearing, 2),
            "slide_mm": round(asked.offset.distance_mm, 2),
            "reach_mm": round(asked.slide_range_mm, 2),
            "use_legs": use_legs,
            "tilt_after_arcsec": round(upset, 1),
        },
        "text": _text(asked, bearing, use_legs, head, upset),
    }


def _text(asked: SlideAsked, bearing: float, use_legs: bool, head: float, upset: float) -> list[str]:
    words = length_words(asked.units.length)
    far = words.small(asked.offset.distance_mm * MM)
    if use_legs:
        return [
            f"{far} is more than the head allows: do not force it.",
            "Shift it with a leg, or move the whole tripod by that much, and slide the rest.",
        ]
    stand = asked.stand_bearing_deg
    to = f" {away(for_person(bearing, stand))}" if stand is not None else ""
    lines = [
        f"Slide the tribrach{to} by {far} without turning it.",
        "Loosen the fixing screw just enough first, and tighten it again before you let go.",
    ]
    if head:
        lines.append(
            f"The head is {head / 60.0:.1f}′ off level: if the tribrach turns by {asked.turn_deg:g}° meanwhile, the level is"
            f" {upset:.0f}″ out ({upset / ARCSEC * 1.5 / MM:.1f} mm at the ground). Check the bubble again."
        )
    else:
        lines.append("On a level head it stays level. Check bubble and mark again.")
    return lines
