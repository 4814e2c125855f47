"""Every kind of advice there is. Whoever adds one writes a module and one line here.

In: `{"advice", "units"?, …}`; out: `{"advice", "result", "text", "core_version"}`.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from pydantic import ValidationError

from ... import __version__
from ...documents.envelope import units_context
from ...documents.model_faults import faults_of
from ...errors import Fault, Refused, UnknownKind, path_in_words, quote
from ..context import AdviceQuery, WhatIfQuery
from ..mechanism import OutOfReachError
from ..results import Advice
from ..tripod import CannotStandError
from .advised import Advised
from .budget import BudgetQuery, advise_budget
from .effect import EffectQuery, advise_effect
from .head_tilt import HeadTiltQuery, advise_head_tilt
from .heights import InstrumentHeightQuery, TripodHeightQuery, advise_instrument_height, advise_tripod_height
from .legs import LegsQuery, advise_legs
from .plumb import LeanQuery, PlumbBobQuery, advise_bob, advise_lean
from .screws import ScrewsQuery, advise_screws
from .shift import ShiftQuery, advise_shift
from .sights import (
    PointingQuery,
    SquareQuery,
    SteepTargetQuery,
    TurnedAngleQuery,
    advise_pointing,
    advise_square,
    advise_steep,
    advise_turned,
)
from .slide import SlideQuery, advise_slide
from .targets import TargetsQuery, advise_targets
from .what_if import advise_what_if

ADVISORS: dict[str, tuple[type[AdviceQuery], Callable[[Any], Advised]]] = {
    "legs": (LegsQuery, advise_legs),
    "shift": (ShiftQuery, advise_shift),
    "screws": (ScrewsQuery, advise_screws),
    "head-tilt": (HeadTiltQuery, advise_head_tilt),
    "slide": (SlideQuery, advise_slide),
    "tripod-height": (TripodHeightQuery, advise_tripod_height),
    "instrument-height": (InstrumentHeightQuery, advise_instrument_height),
    "effect": (EffectQuery, advise_effect),
    "budget": (BudgetQuery, advise_budget),
    "pointing": (PointingQuery, advise_pointing),
    "targets": (TargetsQuery, advise_targets),
    "steep-target": (SteepTargetQuery, advise_steep),
    "bob": (PlumbBobQuery, advise_bob),
    "lean": (LeanQuery, advise_lean),
    "turned-angle": (TurnedAngleQuery, advise_turned),
    "square": (SquareQuery, advise_square),
    "what-if": (WhatIfQuery, advise_what_if),
}
WHERE = {
    "bubble": "where the bubble is",
    "bubble.bearing_deg": "the direction of the bubble",
    "bubble.offset_mm": "how far the bubble is off the middle",
    "tilt.arcsec": "the tilt",
    "tilt_deg": "the tilt of the head",
    "tripod": "the tripod",
    "tripod.foot_spacing_m": "the spacing of the feet",
    "tripod.head_height_m": "the height of the head",
    "tripod.feet": "the feet",
    "move.distance_mm": "how far the plummet has to go",
    "offset.distance_mm": "how far the plummet points from the mark",
    "tribrach": "the tribrach",
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
    "targets": "the targets",
    "targets[].distance_m": "the distance to a target",
    "eye_height_m": "the height of your eye",
    "back_m": "the backsight",
    "fore_m": "the foresight",
    "angle_deg": "the angle between the sights",
    "elevation_deg": "the elevation",
    "imbalance_m": "the sight imbalance",
    "centring_mm": "centring",
    "target_mm": "the target",
    "staff_mm": "the staff reading",
    "angle_accuracy_arcsec": "the accuracy of a direction",
    "distance_accuracy_mm": "the accuracy of a distance",
}


def where(path: str) -> str:
    """A path of a question for advice, for the person."""
    return WHERE.get(path, "the question" if path == "$" else path_in_words(path))


def advise(question: Any) -> Advice:
    """Answer one question for advice. Raises UnknownKind or Refused with every fault."""
    if not isinstance(question, dict):
        raise Refused([Fault("$", "the whole question", quote(question), "an object with advice")])
    name = question.get("advice")
    if not isinstance(name, str) or name not in ADVISORS:
        raise UnknownKind([Fault("advice", "the kind of advice", quote(name), "one of " + ", ".join(sorted(ADVISORS)))])
    try:
        query = ADVISORS[name][0].model_validate(question, context=units_context(question))
    except ValidationError as error:
        raise Refused(faults_of(error, where, units_context(question)["length"])) from None
    return advice_for(query)


def advice_for(query: AdviceQuery) -> Advice:
    """Answer a question that is put together already. Raises Refused for a move this tripod cannot make."""
    try:
        advised = ADVISORS[query.advice][1](query)
    except (CannotStandError, OutOfReachError) as error:
        wanted = "a move this tripod can make: " + str(error)
        raise Refused([Fault("$", "the whole question", "a tripod and a move", wanted)]) from None
    return Advice(advice=query.advice, result=advised.result, text=advised.text, core_version=__version__)
