"""How far to slide the instrument on the head, and when the legs have to do it instead."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ...documents.envelope import InOwnUnit
from ...geometry import ARCSEC, unit
from ...units.formatting import length_words
from ...units.numbers import rounded
from ..context import AdviceQuery, Bearing, PlanMove, TiltVector
from ..equipment import MM
from ..results import AdviceResult
from .advised import Advised
from .text import away, for_person


class SlideQuery(AdviceQuery):
    """`offset` is where the plummet points, seen from the mark; `slid` where the tribrach stands on the head already."""

    advice: Literal["slide"]
    offset: PlanMove
    slide_range_mm: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] = 20.0
    slid: PlanMove = PlanMove(bearing_deg=0.0, distance_mm=0.0)
    head_tilt: TiltVector | None = None
    turn_deg: Annotated[float, Field(ge=0, le=90), InOwnUnit] = 2.0
    """What a tribrach turns while it is slid by a careful hand."""
    stand_bearing_deg: Bearing | None = None


class SlideAdvice(AdviceResult):
    """Which way and how far to slide, whether the head allows it, and the tilt a small turn would bring."""

    slide_bearing_deg: float
    slide_mm: float
    reach_mm: float
    use_legs: bool
    tilt_after_arcsec: float


def advise_slide(query: SlideQuery) -> Advised:
    """The way and distance to slide, what that does to the level, and whether the slide reaches at all."""
    away = unit(query.offset.bearing_deg)
    step = (-query.offset.distance_mm * away[0], -query.offset.distance_mm * away[1])
    have = unit(query.slid.bearing_deg)
    end = (query.slid.distance_mm * have[0] + step[0], query.slid.distance_mm * have[1] + step[1])
    use_legs = math.hypot(*end) > query.slide_range_mm
    head = query.head_tilt.arcsec if query.head_tilt else 0.0
    upset = 2.0 * head * math.sin(math.radians(query.turn_deg) / 2.0)
    bearing = (query.offset.bearing_deg + 180.0) % 360.0
    result = SlideAdvice(
        slide_bearing_deg=rounded(bearing, 2),
        slide_mm=rounded(query.offset.distance_mm, 2),
        reach_mm=rounded(query.slide_range_mm, 2),
        use_legs=use_legs,
        tilt_after_arcsec=rounded(upset, 1),
    )
    return Advised(result, _text(query, bearing, use_legs=use_legs, head=head, upset=upset))


def _text(query: SlideQuery, bearing: float, *, use_legs: bool, head: float, upset: float) -> list[str]:
    words = length_words(query.units.length)
    far = words.small(query.offset.distance_mm * MM)
    if use_legs:
        return [
            f"{far} is more than the head allows: do not force it.",
            "Shift it with a leg, or move the whole tripod by that much, and slide the rest.",
        ]
    stand = query.stand_bearing_deg
    to = f" {away(for_person(bearing, stand))}" if stand is not None else ""
    lines = [
        f"Slide the tribrach{to} by {far} without turning it.",
        "Loosen the fixing screw just enough first, and tighten it again before you let go.",
    ]
    if head:
        lines.append(
            f"The head is {head / 60.0:.1f}′ off level: if the tribrach turns by {query.turn_deg:g}° meanwhile, the level is"
            f" {upset:.0f}″ out ({upset / ARCSEC * 1.5 / MM:.1f} mm at the ground). Check the bubble again."
        )
    else:
        lines.append("On a level head it stays level. Check bubble and mark again.")
    return lines
