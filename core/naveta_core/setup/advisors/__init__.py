"""Every kind of advice there is. Whoever adds one writes a module and one line here.

In: `{"advice", "units"?, …}`; out: `{"advice", "result", "text", "core_version"}`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from ... import __version__
from ...documents.model_faults import faults_of
from ...errors import Fault, Refused, UnknownKind, said
from ..context import Asked
from ..mechanism import OutOfReachError
from ..results import Advice
from ..tripod import CannotStandError
from .budget import BudgetAsked, advise_budget
from .effect import EffectAsked, advise_effect
from .heights import InstrumentHeightAsked, TripodHeightAsked, advise_instrument_height, advise_tripod_height
from .legs import LegsAsked, advise_legs
from .marks import MarksAsked, advise_marks
from .plumb import BobAsked, LeanAsked, advise_bob, advise_lean
from .screws import ScrewsAsked, advise_screws
from .shift import ShiftAsked, advise_shift
from .sights import (
    PointingAsked,
    SquareAsked,
    SteepAsked,
    TurnedAsked,
    advise_pointing,
    advise_square,
    advise_steep,
    advise_turned,
)
from .slide import SlideAsked, advise_slide
from .what_if import WhatIfAsked, advise_what_if

Data = dict[str, Any]
ADVISORS: dict[str, tuple[type[Asked], Callable[[Any], Data]]] = {
    "legs": (LegsAsked, advise_legs),
    "shift": (ShiftAsked, advise_shift),
    "screws": (ScrewsAsked, advise_screws),
    "slide": (SlideAsked, advise_slide),
    "tripod-height": (TripodHeightAsked, advise_tripod_height),
    "instrument-height": (InstrumentHeightAsked, advise_instrument_height),
    "effect": (EffectAsked, advise_effect),
    "budget": (BudgetAsked, advise_budget),
    "pointing": (PointingAsked, advise_pointing),
    "marks": (MarksAsked, advise_marks),
    "steep-target": (SteepAsked, advise_steep),
    "bob": (BobAsked, advise_bob),
    "lean": (LeanAsked, advise_lean),
    "turned-angle": (TurnedAsked, advise_turned),
    "square": (SquareAsked, advise_square),
    "what-if": (WhatIfAsked, advise_what_if),
}
WHERE = {
    "bubble": "where the bubble is",
    "bubble.bearing_deg": "the direction of the bubble",
    "bubble.offset_mm": "how far the bubble is off the middle",
    "tilt.arcsec": "the tilt",
    "tripod": "the tripod",
    "tripod.foot_spacing_m": "the spacing of the feet",
    "tripod.head_height_m": "the height of the head",
    "tripod.feet": "the feet",
    "move.distance_mm": "how far the plummet has to go",
    "offset.distance_mm": "how far the plummet points from the mark",
    "base": "the tribrach",
    "slope": "the measured slope",
    "start": "the reading at the start",
    "end": "the reading at the end",
    "turn": "the angle to turn",
    "one_m": "the first side",
    "two_m": "the second side",
    "diagonal_m": "the diagonal",
    "legs_mm.A": "leg A",
    "legs_mm.B": "leg B",
    "legs_mm.C": "leg C",
    "slide_right_mm": "how far to slide to your right",
    "slide_away_mm": "how far to slide away from you",
    "marks": "the targets",
    "marks[].distance_m": "the distance to a target",
    "eye_height_m": "the height of your eye",
}


def where(path: str) -> str:
    """A path of a question for advice, for the person."""
    return WHERE.get(path, "the question" if path == "$" else path.replace("_", " ").replace(".", ", "))


def advise(question: Any) -> Advice:
    """Answer one question for advice. Raises UnknownKind or Refused with every fault."""
    if not isinstance(question, dict):
        raise Refused([Fault("$", "the whole question", said(question), "an object with advice")])
    name = question.get("advice")
    if not isinstance(name, str) or name not in ADVISORS:
        raise UnknownKind([Fault("advice", "the kind of advice", said(name), "one of " + ", ".join(sorted(ADVISORS)))])
    model, answer = ADVISORS[name]
    try:
        told = answer(model.model_validate(question))
    except ValidationError as error:
        raise Refused(faults_of(error, where)) from None
    except (CannotStandError, OutOfReachError) as error:
        wanted = "a move this tripod can make: " + str(error)
        raise Refused([Fault("$", "the whole question", "a tripod and a move", wanted)]) from None
    return Advice(advice=name, core_version=__version__, **told)
