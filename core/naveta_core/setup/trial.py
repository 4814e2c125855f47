"""What can be tried before it is done: the question for `what-if` as far as it is told, and the move that was advised."""

from __future__ import annotations

from typing import Any

from ..geometry import polar, unit
from .document import Done, SetUpDocument
from .observations import base_of, bubble_of, levelled, rests, spot_of
from .results import Trial
from .steps import Act

Data = dict[str, Any]
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


def tries(document: SetUpDocument, act: Act, last: Done | None) -> Trial | None:
    """None where nothing can be tried: nothing told yet, or feet are to be carried."""
    by = BY.get(act.name)
    if by is None or last is None or last.saw is None or last.wrong_way:
        return None
    seen = _seen(document, act, last)
    if not seen:
        return None
    o = document.observations
    question = {
        "advice": "what-if",
        "units": {"length": document.units.length},
        "tripod": o.tripod.model_dump(exclude_none=True),
        "base": base_of(document),
        "stand_bearing_deg": o.stand_bearing_deg,
        **seen,
    }
    screws = COARSE_TURN_STEP if act.name in COARSE else TURN_STEP
    step = {"legs": LEG_STEP_MM, "screws": screws, "slide": SLIDE_STEP_MM}[by]
    return Trial(by=by, step=step, question=question)


def _seen(document: SetUpDocument, act: Act, last: Done) -> Data:
    """What was told at the act, and where the plummet pointed when it was last looked at."""
    assert last.saw is not None
    told: Data = {}
    bubble = bubble_of(document, last.saw)
    if bubble is not None:
        if bubble.at_wall:
            return {}
        told["bubble"] = bubble.model_dump(exclude_none=True)
    if last.saw.level is not None:
        tilt = _tilt(document, last)
        if tilt is None:
            return {}
        told["tilt"] = tilt
    spots = [spot_of(document, entry.saw) for entry in document.observations.log if entry.saw is not None]
    spot = next((spot for spot in reversed(spots) if spot is not None), None)
    if spot is not None:
        told["spot"] = {"bearing_deg": spot.bearing_deg, "distance_mm": spot.distance_mm}
    if act.name in ABOUT_THE_SPOT and spot is None:
        return {}
    return told


def _tilt(document: SetUpDocument, last: Done) -> Data | None:
    """The tilt of the axis as the level shows it, in the frame of the site."""
    assert last.saw is not None
    assert last.saw.level is not None
    o = document.observations
    along, across = levelled(document, last.saw.level, electronic=o.options.fine == "electronic")
    if along is None or across is None:
        return None
    rest, rest_across = rests(document)
    electronic = o.options.fine == "electronic"
    scale = 1.0 if electronic else o.level.sensitivity_arcsec_per_div
    # Electronic figures count along the sight, away from the person; a vial's, towards their right, then towards them.
    ahead = o.stand_bearing_deg + (180.0 if electronic else 270.0)
    x, y = unit(ahead), unit(ahead + 90.0)
    a, b = (along - rest) * scale, (across - rest_across) * scale
    bearing, size = polar(a * x[0] + b * y[0], a * x[1] + b * y[1])
    return {"bearing_deg": bearing, "arcsec": min(28800.0, size)} if size < 8 * 3600 else None
