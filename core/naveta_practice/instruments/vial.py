"""A level vial on an instrument that can be turned round: where its bubble stands."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_sim.space import FORWARD, SECONDS, climbs

from .axis import body_of
from .eye import shimmer
from .hidden import Hidden, Turns
from .lesson import VIAL_ARCSEC_PER_DIV

END_DIV, HALF_DIV = 8.0, 3.0
"""How far the bubble can go, and half its own length, in divisions."""
WANDERS_DIV = 0.04
MAX_TILT_ARCSEC = 90.0


class VialAim(Part):
    """Where the right-hand end of the vial points, degrees clockwise; at 0° and 180° it lies along foot screws 1 and 2."""

    heading_deg: Annotated[float, Field(ge=0, lt=360)] = 0.0


class VialLook(Answer):
    """The bubble: its middle from the middle of the vial, right-hand end positive, in divisions; at the end it stays there."""

    heading_deg: float
    bubble_div: float
    half_div: float
    end_div: float
    at_end: bool


def look(hidden: Hidden, aim: VialAim, turns: Turns, seconds: float) -> VialLook:
    """The bubble at a moment: it runs to the high side of the tilted axis, and rests where its vial lets it."""
    runs = climbs(body_of(hidden, MAX_TILT_ARCSEC, aim.heading_deg, turns), FORWARD) * SECONDS / VIAL_ARCSEC_PER_DIV
    bubble = runs + hidden.after("reversal_div", turns) + shimmer(WANDERS_DIV, seconds, hidden.seed)
    return VialLook(
        heading_deg=aim.heading_deg,
        bubble_div=math.copysign(min(abs(bubble), END_DIV), bubble),
        half_div=HALF_DIV,
        end_div=END_DIV,
        at_end=abs(bubble) >= END_DIV,
    )
