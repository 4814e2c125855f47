"""How high the tripod should stand, and how high the instrument stands once a slope to the mark was measured."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field

from ...documents.envelope import InMetres, InOwnUnit, Typed
from ...errors import Fault, Refused, quote
from ...units.formatting import length_words
from ...units.lengths import parse_length
from ...units.numbers import rounded
from ..context import AdviceQuery
from ..results import AdviceResult
from ..tripod import foot_circle
from .advised import Advised

BELOW_EYE_M = {"observe": 0.08, "plummet-check": 0.0, "wind": 0.35}
"""The eyepiece below the standing eye: a little for a straight back, level for a tall plummet test, low in wind."""
WHY = {
    "observe": "The eyepiece is a hand's width below your eye: no bending, no stretching.",
    "plummet-check": "As high as you can look through: the longer the plumb line, the more clearly an error shows.",
    "wind": "Low and wide: less exposed to wind.",
}
TALLEST_HEAD_M, LOWEST_HEAD_M = 1.75, 0.8


class TripodHeightQuery(AdviceQuery):
    """For whom it is, and what stands on it."""

    advice: Literal["tripod-height"]
    eye_height_m: Annotated[float, Field(ge=1.0, le=2.3), InMetres]
    axis_above_head_m: Annotated[float, Field(ge=0.05, le=0.6), InMetres] = 0.25
    slope_deg: Annotated[float, Field(ge=0, le=35), InOwnUnit] = 0.0
    foot_spacing_m: Annotated[float, Field(ge=0.4, le=2.5), InMetres] = 1.0
    hinge_radius_m: Annotated[float, Field(ge=0.01, le=0.3), InMetres] = 0.11
    purpose: Literal["observe", "plummet-check", "wind"] = "observe"


class TripodHeightAdvice(AdviceResult):
    """Height of the head over the ground, and the legs on level ground, uphill and downhill."""

    head_height_m: float
    leg_length_m: float
    leg_uphill_m: float
    leg_downhill_m: float


def advise_tripod_height(query: TripodHeightQuery) -> Advised:
    """Height of the head, and how long legs of that spacing are; on a slope the uphill and the downhill ones."""
    wanted = query.eye_height_m - BELOW_EYE_M[query.purpose] - query.axis_above_head_m
    head = min(TALLEST_HEAD_M, max(LOWEST_HEAD_M, wanted))
    reach = foot_circle(query.foot_spacing_m) - query.hinge_radius_m
    fall = math.tan(math.radians(query.slope_deg)) * foot_circle(query.foot_spacing_m)
    # Two feet downhill, one uphill: the uphill foot is a whole radius above the middle, the others half of one below.
    legs = {
        name: math.hypot(reach, head - rise) for name, rise in (("level", 0.0), ("up", fall), ("down", -fall / 2.0))
    }
    words = length_words(query.units.length)
    text = [f"Head at {words.height(head)}.", WHY[query.purpose]]
    if query.slope_deg > 1:
        metres = legs["down"] - legs["up"]
        longer = f"{metres * 100:.0f} cm" if words.small_unit == "mm" else words.height(metres)
        text.append(f"On this slope place two legs downhill, each about {longer} longer than the one uphill.")
    if head != wanted:
        text.append("That is the tripod's limit.")
    result = TripodHeightAdvice(
        head_height_m=rounded(head, 3),
        leg_length_m=rounded(legs["level"], 3),
        leg_uphill_m=rounded(legs["up"], 3),
        leg_downhill_m=rounded(legs["down"], 3),
    )
    return Advised(result, text)


class InstrumentHeightQuery(AdviceQuery):
    """`slope` is measured from the mark to the instrument's side; typed lengths are in the units given."""

    advice: Literal["instrument-height"]
    slope: Typed
    radius_mm: Annotated[float, Field(ge=0, le=300), InOwnUnit] = 0.0
    """From the standing axis to where the tape is held."""
    constant_mm: Annotated[float, Field(ge=-500, le=500), InOwnUnit] = 0.0
    """From there up to the trunnion axis."""


def length_of(value: Any, unit: str, path: str, *, where: str, least: float, most: float) -> float:
    """A length as typed, in metres. Raises Refused when it cannot be, naming the unit when it goes by size."""
    try:
        metres = parse_length(value, unit).m if isinstance(value, str) else float(value)
    except ValueError as error:
        raise Refused([Fault(path, where, quote(value), str(error))]) from None
    if not least <= metres <= most:
        words = length_words(unit)
        shown = f"{quote(value)}, which is {words.height(metres)}"
        raise Refused([Fault(path, where, shown, f"{words.height(least)} to {words.height(most)}; is the unit right?")])
    return metres


def instrument_height(slope_m: float, radius_m: float, constant_m: float) -> float:
    """√(slope² − radius²) + constant: the height of the trunnion axis above the mark, metres."""
    return math.sqrt(slope_m**2 - radius_m**2) + constant_m


class InstrumentHeightAdvice(AdviceResult):
    """Height of the trunnion axis over the mark, and by how much the slope was longer."""

    height_m: float
    less_than_slope_mm: float


def advise_instrument_height(query: InstrumentHeightQuery) -> Advised:
    """The height of the trunnion axis over the mark."""
    slope = length_of(query.slope, query.units.length, "slope", where="the measured slope", least=0.3, most=3.0)
    radius, constant = query.radius_mm / 1000.0, query.constant_mm / 1000.0
    if radius >= slope:
        wanted = "less than the slope itself"
        raise Refused([Fault("radius_mm", "the radius", f"{query.radius_mm:g} mm", wanted)])
    height = instrument_height(slope, radius, constant)
    words = length_words(query.units.length)
    result = InstrumentHeightAdvice(
        height_m=rounded(height, 5), less_than_slope_mm=rounded((slope + constant - height) * 1000.0, 2)
    )
    above = f"The instrument axis is {words.reading(height)} {words.name} above the mark."
    return Advised(result, [f"{above} Measure a second time before you move anything."])
