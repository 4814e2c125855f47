"""What a person says about tripod, tribrach and bubble when they ask for advice, and the mechanism built from it."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, ValidationInfo, model_validator

from ..documents.envelope import Finite, InMetres, InOwnUnit, LengthUnit, Part
from ..geometry import ARCSEC, Plane, less, unit
from ..units.formatting import length_words
from ..units.lengths import NAMES
from .equipment import MM, CircularVial, Equipment, Tribrach
from .mechanism import State, stood
from .tripod import CannotStandError, Feet, even_feet

Bearing = Annotated[float, Field(ge=-360, le=720), InOwnUnit]
Leg = Literal["A", "B", "C"]
MIN_SPACING_M, MAX_SPACING_M = 0.4, 2.5
MIN_DEPTH_M = 0.25
MIN_HEIGHT_M, MAX_HEIGHT_M = 0.3, 2.5
MAX_TILT_DEG = 8.0


class AdviceUnits(Part):
    """Units the sentences are worded in."""

    length: LengthUnit = "m"


class TripodGeometry(Part):
    """A tripod; nothing need be given. Given feet are x, y, z in the set-up frame, in the order A, B, C."""

    foot_spacing_m: Annotated[float, Field(ge=MIN_SPACING_M, le=MAX_SPACING_M), InMetres] = 1.0
    head_height_m: Annotated[float, Field(ge=MIN_HEIGHT_M, le=MAX_HEIGHT_M), InMetres] = 1.4
    hinge_radius_m: Annotated[float, Field(ge=0.01, le=0.3), InMetres] = 0.11
    pivot_height_m: Annotated[float, Field(ge=0, le=0.5), InMetres] = 0.05
    slope_deg: Annotated[float, Field(ge=0, le=35), InOwnUnit] = 0.0
    downhill_deg: Bearing = 180.0
    feet: list[list[Finite]] | None = Field(default=None, min_length=3, max_length=3)
    shorten_mm: dict[Leg, Annotated[float, Field(ge=0, le=2000), InOwnUnit]] = {}
    """How much shorter each leg can still be made, where it is known."""
    lengthen_mm: dict[Leg, Annotated[float, Field(ge=0, le=2000), InOwnUnit]] = {}

    @model_validator(mode="after")
    def _stands(self, info: ValidationInfo) -> TripodGeometry:
        words = length_words((info.context or {}).get("length", "m"))
        feet = self.as_feet()
        sides = [math.dist(feet[i], feet[(i + 1) % 3]) for i in range(3)]
        if min(sides) < MIN_SPACING_M:
            raise ValueError(
                f"feet at least {words.height(MIN_SPACING_M)} apart (better {words.height(0.9)}): two are {words.height(min(sides))} apart"
            )
        if max(sides) > 2 * MAX_SPACING_M:
            raise ValueError(f"feet in {NAMES[words.unit]}: two are {words.height(max(sides))} apart")
        (ax, ay, _), (bx, by, _), (cx, cy, _) = feet
        if abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) < MIN_DEPTH_M * max(sides):
            raise ValueError("feet in a triangle: these are nearly in line")
        try:
            self.standing()
        except CannotStandError as error:
            raise ValueError(f"feet that can carry the head: {error}") from error
        return self

    def as_feet(self) -> Feet:
        """The feet as points of the set-up frame, metres."""
        if self.feet is None:
            return even_feet(self.foot_spacing_m, self.slope_deg, self.downhill_deg)
        if any(len(foot) != 3 for foot in self.feet):
            raise ValueError("x, y and z in metres for each foot")
        return tuple((foot[0], foot[1], foot[2]) for foot in self.feet)  # type: ignore[return-value]

    def equipment(self, tribrach: Tribrach | None = None, vial: CircularVial | None = None) -> Equipment:
        """The tripod with what stands on it, as one mechanism."""
        return Equipment(
            hinge_radius_mm=self.hinge_radius_m / MM,
            pivot_height_mm=self.pivot_height_m / MM,
            leg_shortest_m=0.0,
            leg_longest_m=10.0,
            tribrach=tribrach or Tribrach(),
            circular=vial or CircularVial(),
        )

    def standing(self, tribrach: Tribrach | None = None, vial: CircularVial | None = None) -> State:
        """Stood up level, as it should be."""
        feet = self.as_feet()
        ground = math.fsum(foot[2] for foot in feet) / 3.0
        return stood(self.equipment(tribrach, vial), feet, self.head_height_m + self.pivot_height_m + ground)

    def has_left(self, leg: str, mm: float) -> bool:
        """Whether a leg can still be changed by so much, as far as that was given."""
        left = {str(name): most for name, most in (self.shorten_mm if mm < 0 else self.lengthen_mm).items()}
        return abs(mm) <= left.get(leg, math.inf)

    def fall(self, state: State) -> list[tuple[Plane, float, float]]:
        """For each leg: its direction in plan, the radius of its foot, and its length over its drop."""
        rows = []
        for foot, leg in zip(state.feet, state.legs, strict=True):
            out = less(foot, state.pose.at)
            radius = math.hypot(out[0], out[1])
            rows.append(((out[0] / radius, out[1] / radius), radius, leg / abs(out[2])))
        return rows


class BubblePlace(Part):
    """Where the bubble of a circular vial is, seen from its middle. Sensitivity in arcmin per 2 mm."""

    bearing_deg: Bearing
    offset_mm: Annotated[float, Field(ge=0, le=20), InOwnUnit] | None = None
    at_wall: bool = False
    sensitivity_arcmin_per_2mm: Annotated[float, Field(ge=1, le=120), InOwnUnit] = 8.0

    @model_validator(mode="after")
    def _somewhere(self) -> BubblePlace:
        if self.offset_mm is None and not self.at_wall:
            raise ValueError("how far off the middle (offset_mm), or at_wall")
        if self.offset_mm is not None and self.at_wall:
            raise ValueError("either offset_mm or at_wall: no distance can be read at the wall")
        return self

    def tilt(self) -> Plane:
        """The high-side vector in radians; at the wall only its direction counts."""
        size = (self.offset_mm or 0.0) / 2.0 * self.sensitivity_arcmin_per_2mm * 60.0 / ARCSEC
        u = unit(self.bearing_deg)
        return (size * u[0], size * u[1])


class TiltVector(Part):
    """A tilt as a high-side vector: the bearing of the high side, and how much."""

    bearing_deg: Bearing
    arcsec: Annotated[float, Field(ge=0, le=MAX_TILT_DEG * 3600), InOwnUnit]

    def tilt(self) -> Plane:
        """The tilt as a vector in plan, seconds."""
        u = unit(self.bearing_deg)
        return (self.arcsec / ARCSEC * u[0], self.arcsec / ARCSEC * u[1])


class PlanMove(Part):
    """A step in plan."""

    bearing_deg: Bearing
    distance_mm: Annotated[float, Field(ge=0, le=500), InOwnUnit]


class TribrachGeometry(Part):
    """The foot screws."""

    screws: Literal[3, 4] = 3
    radius_mm: Annotated[float, Field(ge=10, le=200), InOwnUnit] = 50.0
    pitch_mm: Annotated[float, Field(ge=0.2, le=3), InOwnUnit] = 0.7
    travel_mm: Annotated[float, Field(ge=1, le=40), InOwnUnit] = 8.0
    clockwise_from_above: Literal["raises", "lowers"] | None = None
    """Which way a screw turned clockwise moves its corner; not given, it raises."""
    plummet: Literal["none", "optical", "laser"] | None = None
    """The plummet that sits in the tribrach itself, where one does."""
    screw_bearings_deg: list[Bearing] | None = None
    at_mm: list[Annotated[float, Field(ge=-40, le=40), InOwnUnit]] | None = None
    """How far each screw is from mid travel, raised positive, where it is known."""

    @model_validator(mode="after")
    def _fits(self) -> TribrachGeometry:
        for name, list_ in (("screw_bearings_deg", self.screw_bearings_deg), ("at_mm", self.at_mm)):
            if list_ is not None and len(list_) != self.screws:
                raise ValueError(f"{self.screws} entries in {name}, one for each screw")
        return self

    def as_tribrach(self) -> Tribrach:
        """The tribrach of the mechanism."""
        even = tuple(360.0 / self.screws * i for i in range(self.screws))
        return Tribrach(
            screws=self.screws,
            radius_mm=self.radius_mm,
            pitch_mm=self.pitch_mm,
            travel_mm=self.travel_mm,
            clockwise_raises=self.clockwise_from_above != "lowers",
            bearings_deg=tuple(self.screw_bearings_deg) if self.screw_bearings_deg else even,
        )


class AdviceQuery(Part):
    """What every question for advice has."""

    advice: str
    units: AdviceUnits = AdviceUnits()


Slid = Annotated[float, Field(ge=-300, le=300), InOwnUnit]


class WhatIfQuery(AdviceQuery):
    """How it stands as far as it was given, and one or more moves: legs in mm, screws in turns, or a slide."""

    advice: Literal["what-if"]
    bubble: BubblePlace | None = None
    tilt: TiltVector | None = None
    spot: PlanMove | None = None
    """Where the plummet points, from the mark."""
    tripod: TripodGeometry = TripodGeometry()
    tribrach: TribrachGeometry = TribrachGeometry()
    stand_bearing_deg: Bearing = 180.0
    legs_mm: dict[Leg, Annotated[float, Field(ge=-300, le=300), InOwnUnit]] = {}
    turns: dict[str, Annotated[float, Field(ge=-40, le=40), InOwnUnit]] = {}
    slide_right_mm: Slid = 0.0
    slide_away_mm: Slid = 0.0
    """A slide as the person makes it: to their right, and away from them."""
    slide_turn_deg: Finite = 0.0

    @model_validator(mode="after")
    def _sense(self) -> WhatIfQuery:
        if self.bubble is not None and self.tilt is not None:
            raise ValueError("bubble or tilt, not both")
        unknown = [name for name in self.turns if name not in self.names()]
        if unknown:
            raise ValueError(f"screws by their numbers, {', '.join(self.names())}: not {', '.join(unknown)}")
        return self

    def names(self) -> list[str]:
        """What can be moved, by name."""
        return [str(i + 1) for i in range(self.tribrach.screws)]
