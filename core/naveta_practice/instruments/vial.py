"""A level vial on an instrument that can be turned round: where its bubble stands."""

from __future__ import annotations

import math
from functools import lru_cache
from typing import Annotated

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_sim.space import FORWARD, SECONDS, body, climbs

from .eye import shimmer
from .hidden import Hidden, Turns
from .lesson import VIAL_ARCSEC_PER_DIV

FOOT_ARCSEC_PER_TURN = 600.0
END_DIV, HALF_DIV = 8.0, 3.0
"""How far the bubble can go, and half its own length, in divisions."""
WANDERS_DIV = 0.04
MOST_LEAN_ARCSEC = 90.0


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


@lru_cache(maxsize=64)
def lean_of(hidden: Hidden) -> tuple[float, float]:
    """How the axis leans to begin with: its high side towards 90° and towards 0°, in seconds."""
    rng = hidden.scene()
    return rng.uniform(-MOST_LEAN_ARCSEC, MOST_LEAN_ARCSEC), rng.uniform(-MOST_LEAN_ARCSEC, MOST_LEAN_ARCSEC)


def look(hidden: Hidden, aim: VialAim, turns: Turns, seconds: float) -> VialLook:
    """The bubble at a moment: it runs to the high side of the leaning axis, and rests where its vial lets it."""
    across, along = lean_of(hidden)
    tilt = (
        across + turns.get("third", 0.0) * FOOT_ARCSEC_PER_TURN,
        along + turns.get("pair", 0.0) * FOOT_ARCSEC_PER_TURN,
    )
    runs = climbs(body(tilt, aim.heading_deg), FORWARD) * SECONDS / VIAL_ARCSEC_PER_DIV
    bubble = runs + hidden.after("reversal_div", turns) + shimmer(WANDERS_DIV, seconds, hidden.seed)
    return VialLook(
        heading_deg=aim.heading_deg,
        bubble_div=math.copysign(min(abs(bubble), END_DIV), bubble),
        half_div=HALF_DIV,
        end_div=END_DIV,
        at_end=abs(bubble) >= END_DIV,
    )
