"""What can be tried before it is done: the question for `what-if` as far as it is given, and the move that was advised."""

from __future__ import annotations

from ..geometry import polar, unit
from .context import MAX_TILT_DEG, AdviceUnits, TiltVector, WhatIfQuery
from .document import Done, Levelled, Saw, SetUpDocument
from .observations import bubble_of, levelled, rests, spot_of, tribrach_of
from .results import Trial
from .steps import SetUpStep

BY = {
    "circular": "legs",
    "shift": "legs",
    "back-on": "screws",
    "circular-screws": "screws",
    "plate": "screws",
    "four": "screws",
    "slide": "slide",
}
COARSE = {"back-on", "circular-screws"}
ABOUT_THE_SPOT = {"back-on", "slide", "shift"}
LEG_STEP_MM, TURN_STEP, SLIDE_STEP_MM = 1.0, 0.05, 1.0
COARSE_TURN_STEP = 0.25


def trial(document: SetUpDocument, step: SetUpStep, last: Done | None) -> Trial | None:
    """None where nothing can be tried: nothing given yet, or feet are to be carried."""
    by = BY.get(step.name)
    if by is None or last is None or last.saw is None or last.wrong_direction:
        return None
    question = _question(document, step, last.saw)
    if question is None:
        return None
    screws = COARSE_TURN_STEP if step.name in COARSE else TURN_STEP
    size = {"legs": LEG_STEP_MM, "screws": screws, "slide": SLIDE_STEP_MM}[by]
    return Trial(by=by, step=size, question=question)


def _question(document: SetUpDocument, step: SetUpStep, saw: Saw) -> WhatIfQuery | None:
    """What was seen at the step, and where the plummet pointed when it was last looked at; None while that is not enough."""
    o = document.observations
    bubble, tilt = bubble_of(document, saw), None
    if bubble is not None and bubble.at_wall:
        return None
    if saw.level is not None and (tilt := _tilt(document, saw.level)) is None:
        return None
    spots = [spot_of(document, logged.saw) for logged in o.log if logged.saw is not None]
    spot = next((spot for spot in reversed(spots) if spot is not None), None)
    if spot is None and (step.name in ABOUT_THE_SPOT or (bubble is None and tilt is None)):
        return None
    return WhatIfQuery(
        advice="what-if",
        units=AdviceUnits(length=document.units.length),
        tripod=o.tripod,
        tribrach=tribrach_of(document),
        stand_bearing_deg=o.stand_bearing_deg,
        bubble=bubble,
        tilt=tilt,
        spot=spot,
    )


def _tilt(document: SetUpDocument, look: Levelled) -> TiltVector | None:
    """The tilt of the axis as the level shows it, in the frame of the site."""
    o = document.observations
    along, across = levelled(document, look, electronic=o.options.level_type == "electronic")
    if along is None or across is None:
        return None
    rest, rest_across = rests(document)
    electronic = o.options.level_type == "electronic"
    scale = 1.0 if electronic else o.level.sensitivity_arcsec_per_div
    # Electronic figures count along the sight, away from the person; a vial's, towards their right, then towards them.
    leading_reasons = o.stand_bearing_deg + (180.0 if electronic else 270.0)
    x, y = unit(leading_reasons), unit(leading_reasons + 90.0)
    a, b = (along - rest) * scale, (across - rest_across) * scale
    bearing, size = polar(a * x[0] + b * y[0], a * x[1] + b * y[1])
    return TiltVector(bearing_deg=bearing, arcsec=size) if size < MAX_TILT_DEG * 3600 else None
