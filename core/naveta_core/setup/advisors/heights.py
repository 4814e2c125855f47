"""How high the tripod should stand, and how high the instrument stands once a slope to the mark was measured."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field

from ...documents.envelope import InOwnUnit, Typed
from ...errors import Fault, Refused, said
from ...units.formatting import length_words
from ...units.lengths import parse_length
from ..context import Asked
from ..tripod import foot_circle

Data = dict[str, Any]
BELOW_EYE_M = {"observe": 0.08, "plummet-check": 0.0, "wind": 0.35}
"""The eyepiece below the standing eye: a little for a straight back, level for a tall plummet test, low in wind."""
WHY = {
    "observe": "The eyepiece is a hand's width below your eye: no bending, no stretching.",
    "plummet-check": "As high as you can look through: the longer the plumb line, the more clearly an error shows.",
    "wind": "Low and wide: less exposed to wind.",
}
TALLEST_HEAD_M, LOWEST_HEAD_M = 1.75, 0.8


class TripodHeightAsked(Asked):
    """For whom it is, and what stands on it."""

    advice: Literal["tripod-height"]
    eye_height_m: Annotated[float, Field(ge=1.0, le=2.3), InOwnUnit]
    axis_above_head_m: Annotated[float, Field(ge=0.05, le=0.6), InOwnUnit] = 0.25
    slope_deg: Annotated[float, Field(ge=0, le=35), InOwnUnit] = 0.0
    foot_spacing_m: Annotated[float, Field(ge=0.4, le=2.5), InOwnUnit] = 1.0
    hinge_radius_m: Annotated[float, Field(ge=0.01, le=0.3), InOwnUnit] = 0.11
    purpose: Literal["observe", "plummet-check", "wind"] = "observe"


def advise_tripod_height(asked: TripodHeightAsked) -> Data:
    """Height of the head, and how long legs of that spacing are; on a slope the uphill and the downhill ones."""
    wanted = asked.eye_height_m - BELOW_EYE_M[asked.purpose] - asked.axis_above_head_m
    head = min(TALLEST_HEAD_M, max(LOWEST_HEAD_M, wanted))
    reach = foot_circle(asked.foot_spacing_m) - asked.hinge_radius_m
    fall = math.tan(math.radians(asked.slope_deg)) * foot_circle(asked.foot_spacing_m)
    # Two feet downhill, one uphill: the uphill foot is a whole radius above the middle, the others half of one below.
    legs = {
        name: math.hypot(reach, head - rise) for name, rise in (("level", 0.0), ("up", fall), ("down", -fall / 2.0))
    }
    words = length_words(asked.units.length)
    text = [f"Head at {words.distance(head) if asked.units.length != 'm' else f'{head:.2f} m'}.", WHY[asked.purpose]]
    if asked.slope_deg > 1:
        text.append(
            f"On this slope place two legs downhill, each about {(legs['down'] - legs['up']) * 100:.0f} cm longer than the one uphill."
        )
    if head != wanted:
        text.append("That is the tripod's limit.")
    return {
        "result": {
            "head_height_m": round(head, 3),
            "leg_length_m": round(legs["level"], 3),
            "leg_uphill_m": round(legs["up"], 3),
            "leg_downhill_m": round(legs["down"], 3),
        },
        "text": text,
    }


class InstrumentHeightAsked(Asked):
    """`slope` is measured from the mark to the instrument's side; typed lengths are in the units told."""

    advice: Literal["instrument-height"]
    slope: Typed
    radius_mm: Annotated[float, Field(ge=0, le=300), InOwnUnit] = 0.0
    """From the standing axis to where the tape is held."""
    constant_mm: Annotated[float, Field(ge=-500, le=500), InOwnUnit] = 0.0
    """From there up to the tilting axis."""


def length_of(value: Any, unit: str, path: str, where: str, least: float, most: float) -> float:
    """A length as typed, in metres. Raises Refused when it cannot be, naming the unit when it goes by size."""
    try:
        metres = parse_length(value, unit).m if isinstance(value, str) else float(value)
    except ValueError as error:
        raise Refused([Fault(path, where, said(value), str(error))]) from None
    if not least <= metres <= most:
        shown = f"{said(value)}, which is {metres:.4g} m"
        raise Refused([Fault(path, where, shown, f"{least:g} to {most:g} m; is the unit right?")])
    return metres


def instrument_height(slope_m: float, radius_m: float, constant_m: float) -> float:
    """√(slope² − radius²) + constant: the height of the tilting axis above the mark, metres."""
    return math.sqrt(slope_m**2 - radius_m**2) + constant_m


def advise_instrument_height(asked: InstrumentHeightAsked) -> Data:
    """The height of the tilting axis over the mark."""
    slope = length_of(asked.slope, asked.units.length, "slope", "the measured slope", 0.3, 3.0)
    radius, constant = asked.radius_mm / 1000.0, asked.constant_mm / 1000.0
    if radius >= slope:
        wanted = "less than the slope itself"
        raise Refused([Fault("radius_mm", "the radius", f"{asked.radius_mm:g} mm", wanted)])
    height = instrument_height(slope, radius, constant)
    words = length_words(asked.units.length)
    return {
        "result": {"height_m": round(height, 5), "less_than_slope_mm": round((slope + constant - height) * 1000.0, 2)},
        "text": [
            f"The instrument axis is {words.reading(height)} {words.name} above the mark. Measure a second time before you move anything."
        ],
    }
