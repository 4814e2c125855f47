"""Pointing, steep targets and turned angles."""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...documents.envelope import AngleUnit, InMetres, InOwnUnit, LengthUnit, Part, Typed
from ...errors import Fault, Refused, quote
from ...geometry import ARCSEC
from ...units.angles import parse_angle, show_dms
from ...units.formatting import arcsec, length_words
from ...units.lengths import METRES
from ...units.numbers import rounded
from ..context import AdviceQuery
from ..results import AdviceResult
from .advised import Advised

MIN_STEEP_DEG = 15.0
LAST_SIGMA_ARCSEC = 1.5


class PointingQuery(AdviceQuery):
    """A mark of some width at some distance, seen through some magnification. The magnification has no unit."""

    advice: Literal["pointing"]
    width_mm: Annotated[float, Field(ge=0.01, le=1000), InOwnUnit] = 1.0
    distance_m: Annotated[float, Field(ge=0.01, le=20_000), InMetres]
    magnification: Annotated[float, Field(ge=0.01, le=100), InOwnUnit] = 30.0


class PointingAdvice(AdviceResult):
    """How wide the target is, and the spread of one pointing."""

    grain_arcsec: float
    sigma_pointing_arcsec: float


def advise_pointing(query: PointingQuery) -> Advised:
    """The mark edge to edge, and the standard deviation of one pointing: sqrt((30″/M)^2 + (0.15·rho·w/D)^2)."""
    grain = ARCSEC * query.width_mm / 1000.0 / query.distance_m
    sigma = math.hypot(30.0 / query.magnification, 0.15 * grain)
    words = length_words(query.units.length)
    text = [
        f"At {words.distance(query.distance_m)} the target is {arcsec(grain)} wide.",
        f"Expect a pointing within {arcsec(sigma)} (one standard deviation).",
    ]
    return Advised(PointingAdvice(grain_arcsec=rounded(grain, 3), sigma_pointing_arcsec=rounded(sigma, 3)), text)


class SteepTargetQuery(AdviceQuery):
    """A target some height above the instrument, some distance away."""

    advice: Literal["steep-target"]
    height_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    distance_m: Annotated[float, Field(ge=0.01, le=20_000), InMetres]
    wanted_deg: Annotated[float, Field(ge=5, le=80), InOwnUnit] = 30.0
    sigma_double_arcsec: Annotated[float, Field(ge=0.01, le=600), InOwnUnit] = LAST_SIGMA_ARCSEC
    """Spread of the double collimation at one target."""


class SteepTargetAdvice(AdviceResult):
    """How steep it is, where to stand for the angle wanted, and the spread of t found there."""

    elevation_deg: float
    distance_needed_m: float
    sigma_tilting_axis_arcsec: float


def advise_steep(query: SteepTargetQuery) -> Advised:
    """How steep it is, how near one must stand for the angle wanted, and how well the trunnion axis is then found."""
    elevation = math.degrees(math.atan2(query.height_m, query.distance_m))
    needed = query.height_m / math.tan(math.radians(query.wanted_deg))
    z = math.radians(90.0 - elevation)
    sigma = query.sigma_double_arcsec * math.sqrt(1.0 + 1.0 / math.sin(z) ** 2) / (2.0 / math.tan(z))
    words = length_words(query.units.length)
    text = [f"{elevation:.1f}° above level; for {query.wanted_deg:g}° set up {words.distance(needed)} away."]
    if elevation < MIN_STEEP_DEG:
        text.append(
            "Below 15° the trunnion axis error cannot be separated from collimation error. 15° is a minimum, not an aim."
        )
    else:
        text.append(f"Trunnion axis error within {arcsec(sigma)} (one standard deviation).")
    result = SteepTargetAdvice(
        elevation_deg=rounded(elevation, 3),
        distance_needed_m=rounded(needed, 3),
        sigma_tilting_axis_arcsec=rounded(sigma, 3),
    )
    return Advised(result, text)


class AngleUnits(Part):
    """Units of what was typed."""

    length: LengthUnit = "m"
    angle: AngleUnit = "dms"


class TurnedAngleQuery(AdviceQuery):
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
    def _one_of(self) -> TurnedAngleQuery:
        if (self.end is None) == (self.turn is None):
            raise ValueError("either end or turn")
        return self


class TurnedAngleAdvice(AdviceResult):
    """The angle turned, and what the circle reads at the end of it."""

    angle_deg: float
    reading_deg: float


def advise_turned(query: TurnedAngleQuery) -> Advised:
    """The angle turned in the sense given, or the reading to turn to; any start reading will do."""
    start = _angle(query, query.start, "start", "the reading at the start")
    sign = 1.0 if query.sense == query.counts else -1.0
    if query.end is not None:
        end = _angle(query, query.end, "end", "the reading at the end")
        angle = (sign * (end - start)) % 360.0
        result = TurnedAngleAdvice(angle_deg=rounded(angle, 9), reading_deg=rounded(end % 360.0, 9))
        return Advised(result, [f"{_worded(angle, query.units.angle)} {query.sense}."])
    turn = _angle(query, query.turn, "turn", "the angle to turn")
    reading = (start + sign * turn) % 360.0
    result = TurnedAngleAdvice(angle_deg=rounded(turn, 9), reading_deg=rounded(reading, 9))
    return Advised(result, [f"Turn {query.sense} until the circle reads {_worded(reading, query.units.angle)}."])


def _angle(query: TurnedAngleQuery, value: Any, path: str, where: str) -> float:
    try:
        return parse_angle(value, query.units.angle).value if isinstance(value, str) else float(value)
    except ValueError as error:
        raise Refused([Fault(path, where, quote(value), str(error))]) from None


def _worded(degrees: float, unit: str) -> str:
    if unit == "gon":
        return f"{degrees / 0.9:.4f} gon"
    if unit == "deg":
        return f"{degrees:.5f}°"
    return show_dms(degrees % 360.0, 1)


class SquareQuery(AdviceQuery):
    """Two sides from a corner and the diagonal between their ends: is the corner square?"""

    advice: Literal["square"]
    one_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    two_m: Annotated[float, Field(ge=0.01, le=1000), InMetres]
    diagonal_m: Annotated[float, Field(ge=0.01, le=2000), InMetres] | None = None
    """As measured; None: what should it be?"""

    @model_validator(mode="after")
    def _reach(self) -> SquareQuery:
        if self.diagonal_m is not None and not abs(self.one_m - self.two_m) < self.diagonal_m < self.one_m + self.two_m:
            raise ValueError("a diagonal that closes the triangle: shorter than both sides together")
        return self


class SquareAdvice(AdviceResult):
    """The diagonal of a right angle; the angle a measured one gives, and by how much it is off, wide positive."""

    diagonal_m: float
    arcsec_per_mm: float
    angle_deg: float | None
    off_arcsec: float | None


def advise_square(query: SquareQuery) -> Advised:
    """The diagonal of a right angle, and what a measured one says: angle by the cosine law, 1 mm of it in seconds."""
    a, b = query.one_m, query.two_m
    square = math.hypot(a, b)
    per_mm = square / (a * b) / 1000.0 * ARCSEC
    words = length_words(query.units.length)
    angle = off = None
    small, share = ("1 mm", 1.0) if words.small_unit == "mm" else (f"0.01 {words.name}", 10 * METRES[words.unit])
    text = [f"The diagonal of a right angle: {words.reading(square)} {words.name}."]
    if query.diagonal_m is not None:
        angle = math.degrees(math.acos((a * a + b * b - query.diagonal_m**2) / (2.0 * a * b)))
        off = (angle - 90.0) * 3600.0
        aside = math.tan(math.radians(angle - 90.0)) * b
        wide = "wide" if off > 0 else "narrow"
        text = [
            f"{_worded(angle, 'dms')}: {show_dms(abs(angle - 90.0))} too {wide}, {words.small(abs(aside))} at the end of the second side.",
            f"The diagonal should be {words.reading(square)} {words.name}; it is {words.small(abs(query.diagonal_m - square))} too {'long' if off > 0 else 'short'}.",
        ]
    text.append(f"{small} of the diagonal is {arcsec(per_mm * share)}: a tape sets out to about that.")
    result = SquareAdvice(
        diagonal_m=rounded(square, 6),
        arcsec_per_mm=rounded(per_mm, 3),
        angle_deg=None if angle is None else rounded(angle, 7),
        off_arcsec=None if off is None else rounded(off, 2),
    )
    return Advised(result, text)
