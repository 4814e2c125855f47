"""An electronic level as it shows itself: two figures, until its tilt is more than it can measure."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_core.units.formatting import signed
from naveta_sim.space import FORWARD, RIGHT, SECONDS, climbs

from .axis import body_of
from .eye import shimmer
from .hidden import Hidden, Turns

RANGE_ARCSEC = 180.0
WANDERS_ARCSEC = 0.7
MAX_TILT_ARCSEC = 60.0


class DigitsAim(Part):
    """Where the instrument is turned to, degrees clockwise."""

    heading_deg: Annotated[float, Field(ge=0, lt=360)] = 0.0


class DigitsLook(Answer):
    """What is shown along the telescope and across it, in whole seconds; empty beyond its range."""

    heading_deg: float
    along_text: str
    across_text: str
    in_range: bool


def look(hidden: Hidden, aim: DigitsAim, turns: Turns, seconds: float) -> DigitsLook:
    """The display at a moment: the tilt stays in space, the index turns with the instrument."""
    turned = body_of(hidden, MAX_TILT_ARCSEC, aim.heading_deg, turns)
    along = climbs(turned, FORWARD) * SECONDS + hidden.after("index_along_arcsec", turns)
    across = climbs(turned, RIGHT) * SECONDS + hidden.after("index_across_arcsec", turns)
    in_range = max(abs(along), abs(across)) <= RANGE_ARCSEC
    wander = shimmer(WANDERS_ARCSEC, seconds, hidden.seed), shimmer(WANDERS_ARCSEC, seconds + 1, hidden.seed)
    return DigitsLook(
        heading_deg=aim.heading_deg,
        along_text=signed(along + wander[0], 0) if in_range else "",
        across_text=signed(across + wander[1], 0) if in_range else "",
        in_range=in_range,
    )
