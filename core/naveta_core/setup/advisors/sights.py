"""Pointing, steep targets and turned angles."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...documents.envelope import AngleUnit, InMetres, InOwnUnit, LengthUnit, Part, Typed
from ...errors import Fault, Refused, said
from ...geometry import ARCSEC
from ...units.angles import parse_angle, show_dms
from ...units.formatting import arcsec, length_words
from ..context import Asked

Data = dict[str, Any]
LEAST_STEEP_DEG = 15.0
LAST_KNOWN_SIGMA_ARCSEC = 1.5


class PointingAsked(Asked):
    """A mark of some width at some distance, seen through some magnification."""

    advice: Literal["pointing"]
    width_mm: Annotated[float, Field(ge=0.01, le=1000), InOwnUnit] = 1.0
    distance_m: Annotated[float, Field(ge=0.01, le=20_000), InMetres]
    magnification: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] = 30.0


def advise_pointing(asked: PointingAsked) -> Data:
    """The mark edge to edge, and the standard deviation of one pointing: sqrt((30″/M)^2 + (0.15·rho·w/D)^2)."""
    grain = ARCSEC * asked.width_mm / 1000.0 / asked.distance_m
    sigma = math.hypot(30.0 / asked.magnification, 0.15 * grain)
    words = length_words(asked.units.length)
    return {
        "result": {"grain_arcsec": round(grain, 3), "sigma_pointing_arcsec": round(sigma, 3)},
        "text": [
            f"At {words.distance(asked.distance_m)} the target is {arcsec(grain)} wide.",
            f"Expect a pointing within {arcsec(sigma)} (one standard deviation).",
        ],
    }


class SteepAsked(Asked):
    """A target some height above the instrument, some distance away."""

    advice: Literal["steep-target"]
    height_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    distance_m: Annotated[float, Field(ge=0.01, le=20_000), InMetres]
    wanted_deg: Annotated[float, Field(ge=5, le=80), InOwnUnit] = 30.0
    sigma_double_arcsec: Annotated[float, Field(ge=0.01, le=600), InOwnUnit] = LAST_KNOWN_SIGMA_ARCSEC
    """Spread of the double collimation at one target."""


def advise_steep(asked: SteepAsked) -> Data:
    """How steep it is, how near one must stand for the angle wanted, and how well the tilting axis is then found."""
    elevation = math.degrees(math.atan2(asked.height_m, asked.distance_m))
    needed = asked.height_m / math.tan(math.radians(asked.wanted_deg))
    z = math.radians(90.0 - elevation)
    sigma = asked.sigma_double_arcsec * math.sqrt(1.0 + 1.0 / math.sin(z) ** 2) / (2.0 / math.tan(z))
    words = length_words(asked.units.length)
    text = [f"{elevation:.1f}° above level; for {asked.wanted_deg:g}° set up {words.distance(needed)} away."]
    if elevation < LEAST_STEEP_DEG:
        text.append(
            "Below 15° the trunnion axis error cannot be separated from collimation error. 15° is a minimum, not an aim."
        )
    else:
        text.append(f"Trunnion axis error within {arcsec(sigma)} (one standard deviation).")
    return {
        "result": {
            "elevation_deg": round(elevation, 3),
            "distance_needed_m": round(needed, 3),
            "sigma_tilting_axis_arcsec": round(sigma, 3),
        },
        "text": text,
    }


class AngleUnits(Part):
    """Units of what was typed."""

    length: LengthUnit = "m"
    angle: AngleUnit = "dms"


class TurnedAsked(Asked):
    """Either what was read at the end (what was turned?), or what is to be turned (what will be read?)."""

    advice: Literal["turned-angle"]
    units: AngleUnits = AngleUnits()  # type: ignore[assignment]
    start: Typed
    end: Typed | None = None
    turn: Typed | None = None
    sense: Literal["clockwise", "anticlockwise"] = "clockwise"
    counts: Literal["clockwise", "anticlockwise"] = "clockwise"
    """Which way the circle counts up."""

    @model_validator(mode="after")
    def _one_of(self) -> TurnedAsked:
        if (self.end is None) == (self.turn is None):
            raise ValueError("either end or turn")
        return self


def advise_turned(asked: TurnedAsked) -> Data:
    """The angle turned in the sense told, or the reading to turn to; any start reading will do."""
    start = _angle(asked, asked.start, "start", "the reading at the start")
    sign = 1.0 if asked.sense == asked.counts else -1.0
    if asked.end is not None:
        end = _angle(asked, asked.end, "end", "the reading at the end")
        angle = (sign * (end - start)) % 360.0
        return {
            "result": {"angle_deg": round(angle, 9), "reading_deg": round(end % 360.0, 9)},
            "text": [f"{_worded(angle, asked.units.angle)} {asked.sense}."],
        }
    turn = _angle(asked, asked.turn, "turn", "the angle to turn")
    reading = (start + sign * turn) % 360.0
    return {
        "result": {"angle_deg": round(turn, 9), "reading_deg": round(reading, 9)},
        "text": [f"Turn {asked.sense} until the circle reads {_worded(reading, asked.units.angle)}."],
    }


def _angle(asked: TurnedAsked, value: Any, path: str, where: str) -> float:
    try:
        return parse_angle(value, asked.units.angle).value if isinstance(value, str) else float(value)
    except ValueError as error:
        raise Refused([Fault(path, where, said(value), str(error))]) from None


def _worded(degrees: float, unit: str) -> str:
    if unit == "gon":
        return f"{degrees / 0.9:.4f} gon"
    if unit == "deg":
        return f"{degrees:.5f}°"
    return show_dms(degrees % 360.0, 1)


class SquareAsked(Asked):
    """Two sides from a corner and the diagonal between their ends: is the corner square?"""

    advice: Literal["square"]
    one_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    two_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    diagonal_m: Annotated[float, Field(ge=0.01, le=2000), InMetres] | None = None
    """As measured; None: what should it be?"""

    @model_validator(mode="after")
    def _reach(self) -> SquareAsked:
        if self.diagonal_m is not None and not abs(self.one_m - self.two_m) < self.diagonal_m < self.one_m + self.two_m:
            raise ValueError("a diagonal that closes the triangle: shorter than both sides together")
        return self


def advise_square(asked: SquareAsked) -> Data:
    """The diagonal of a right angle, and what a measured one says: angle by the cosine law, 1 mm of it in seconds."""
    a, b = asked.one_m, asked.two_m
    square = math.hypot(a, b)
    per_mm = square / (a * b) / 1000.0 * ARCSEC
    words = length_words(asked.units.length)
    told: Data = {
        "diagonal_m": round(square, 6),
        "arcsec_per_mm": round(per_mm, 3),
        "angle_deg": None,
        "off_arcsec": None,
    }
    text = [f"The diagonal of a right angle: {words.reading(square)} {words.name}."]
    if asked.diagonal_m is not None:
        angle = math.degrees(math.acos((a * a + b * b - asked.diagonal_m**2) / (2.0 * a * b)))
        off = (angle - 90.0) * 3600.0
        told |= {"angle_deg": round(angle, 7), "off_arcsec": round(off, 2)}
        aside = math.tan(math.radians(angle - 90.0)) * b
        wide = "wide" if off > 0 else "narrow"
        text = [
            f"{_worded(angle, 'dms')}: {show_dms(abs(angle - 90.0))} too {wide}, {words.small(abs(aside))} at the end of the second side.",
            f"The diagonal should be {words.reading(square)} {words.name}; it is {words.small(abs(asked.diagonal_m - square))} too {'long' if off > 0 else 'short'}.",
        ]
    text.append(f"1 mm of the diagonal is {arcsec(per_mm)}: a tape sets out to about that.")
    return {"result": told, "text": text}
