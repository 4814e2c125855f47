"""A circular vial on an instrument or a pole that can be turned round: where its bubble stands in the ring."""

from __future__ import annotations

import math
from typing import Annotated

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_sim.space import FORWARD, RIGHT, climbs
from naveta_sim.vials import MM_PER_RADIAN

from .axis import body_of
from .eye import shimmer
from .hidden import Hidden, Turns

RING_MM, END_MM, BUBBLE_MM = 2.5, 6.0, 2.0
"""The ring, how far the middle of the bubble can go, and the bubble's own radius."""
WANDERS_MM = 0.02
MAX_TILT_ARCSEC = 240.0


class RingAim(Part):
    """Where the instrument is turned to, degrees clockwise."""

    heading_deg: Annotated[float, Field(ge=0, lt=360)] = 0.0


class RingLook(Answer):
    """The middle of the bubble from the middle of the ring, right and away, in millimetres; at the wall it stays there."""

    heading_deg: float
    x_mm: float
    y_mm: float
    ring_mm: float
    bubble_mm: float
    end_mm: float
    at_end: bool


def look(hidden: Hidden, aim: RingAim, turns: Turns, seconds: float) -> RingLook:
    """The bubble at a moment: it runs to the high side of the tilted axis; the vial's own error turns with the instrument."""
    turned = body_of(hidden, MAX_TILT_ARCSEC, aim.heading_deg, turns)
    x = climbs(turned, RIGHT) * MM_PER_RADIAN + hidden.after("vial_error_x_mm", turns)
    y = climbs(turned, FORWARD) * MM_PER_RADIAN + hidden.after("vial_error_y_mm", turns)
    far = math.hypot(x, y)
    share = min(1.0, END_MM / far) if far > 0 else 1.0
    return RingLook(
        heading_deg=aim.heading_deg,
        x_mm=x * share + shimmer(WANDERS_MM, seconds, hidden.seed),
        y_mm=y * share + shimmer(WANDERS_MM, seconds + 1, hidden.seed),
        ring_mm=RING_MM,
        bubble_mm=BUBBLE_MM,
        end_mm=END_MM,
        at_end=far >= END_MM,
    )
