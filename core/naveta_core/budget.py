"""The error budget: what centring, levelling, the instrument's errors and its stated accuracy do to the work.

For an angle, the position of a point set out, and a height, at given sights. Systematic parts add with their sign to a
bias, random parts as squares; what is given is the total at 95 percent, |bias| + 2·√Σσ². Lengths in millimetres, angles in
seconds of arc. Random parts are one standard deviation.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated, Literal

from pydantic import Field

from .documents.envelope import InMetres, InMillimetres, InOwnUnit
from .documents.envelope import Part as Fields
from .geometry import EARTH_RADIUS_M, REFRACTION, SIGMA_REFRACTION
from .units.angles import ARCSEC_PER_RADIAN as RHO

Quantity = Literal["angle", "position", "height"]


@dataclass(frozen=True, slots=True)
class Part:
    """One part of a budget. `value` with its sign when systematic, a standard deviation otherwise.

    In millimetres, or seconds of arc for an angle.
    """

    name: str
    value: float
    systematic: bool = False


@dataclass(frozen=True, slots=True)
class Budget:
    """The parts of one quantity and what they come to."""

    quantity: Quantity
    parts: tuple[Part, ...]

    @property
    def bias(self) -> float:
        """The sum of the systematic parts, with their signs; millimetres, or seconds for an angle."""
        return math.fsum(part.value for part in self.parts if part.systematic)

    @property
    def sigma(self) -> float:
        """One standard deviation of the random parts together; millimetres, or seconds for an angle."""
        return math.sqrt(math.fsum(part.value**2 for part in self.parts if not part.systematic))

    @property
    def total95(self) -> float:
        """The total at 95 percent: |bias| + 2σ; millimetres, or seconds for an angle."""
        return abs(self.bias) + 2.0 * self.sigma

    def without(self, name: str) -> float:
        """The total with one part gone."""
        return Budget(self.quantity, tuple(part for part in self.parts if part.name != name)).total95

    def largest(self) -> Part | None:
        """The part whose going would lower the total most."""
        counting = [part for part in self.parts if part.value]
        return min(counting, key=lambda entry: self.without(entry.name), default=None)


Metres = Annotated[float, Field(ge=0.1, le=20_000), InMetres]
Small = Annotated[float, Field(ge=0, le=1000), InOwnUnit]
SmallMm = Annotated[float, Field(ge=0, le=1000), InMillimetres]
Signed = Annotated[float, Field(ge=-3600, le=3600), InOwnUnit]


class Given(Fields):
    """What is known beforehand; everything has a usual value. `fore` is the point worked on, `back` the reference."""

    back_m: Metres = 30.0
    fore_m: Metres = 30.0
    angle_deg: Annotated[float, Field(ge=0, le=360), InOwnUnit] = 90.0
    elevation_deg: Annotated[float, Field(ge=-80, le=80), InOwnUnit] = 0.0
    imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 0.0
    centring_mm: SmallMm = 1.0
    target_mm: SmallMm = 1.0
    back_target_mm: SmallMm | None = None
    """Of the reference; without it as at the point."""
    tilt_arcsec: Small = 0.0
    compensated: bool = True
    collimation_arcsec: Signed = 0.0
    tilting_axis_arcsec: Signed = 0.0
    index_arcsec: Signed = 0.0
    line_of_sight_arcsec: Signed = 0.0
    both_faces: bool = False
    angle_accuracy_arcsec: Small = 5.0
    """Of one direction in one face."""
    distance_accuracy_mm: Small = 2.0
    distance_accuracy_ppm: Small = 2.0
    instrument_height_mm: SmallMm = 1.0
    target_height_mm: SmallMm = 1.0
    levelling: bool = False
    """A level: its heights hang on the line of sight and how unequal the sights are."""
    staff_mm: SmallMm = 1.0

    def reference_mm(self) -> float:
        """How far the reference's target is off its mark."""
        return self.target_mm if self.back_target_mm is None else self.back_target_mm

    def distance_sigma_mm(self) -> float:
        """One standard deviation of the distance to the point, millimetres: constant and ppm together."""
        return math.hypot(self.distance_accuracy_mm, self.distance_accuracy_ppm * self.fore_m / 1000.0)


def budget(given: Given) -> list[Budget]:
    """The budgets that apply: angle, position and height; of a level its height alone."""
    if given.levelling:
        return [_levelled(given)]
    angle = _angle(given)
    return [angle, _position(given, angle), _height(given)]


def level_m(given: Given) -> float:
    """How far the point is in plan: `fore_m` is what is measured, along the slope."""
    return given.fore_m * math.cos(math.radians(given.elevation_deg))


def unequal_squares(given: Given) -> float:
    """D_b² − D_f² of a level's two sights, m²: from how unequal they are, where only that was given."""
    unequal = given.imbalance_m or (given.back_m - given.fore_m)
    return unequal * (given.back_m + given.fore_m)


def _faces(given: Given) -> float:
    return 2.0 if given.both_faces else 1.0


def _angle(given: Given) -> Budget:
    steep = math.radians(given.elevation_deg)
    entry, two = given.back_m, level_m(given)
    chord = math.sqrt(max(0.0, entry**2 + two**2 - 2.0 * entry * two * math.cos(math.radians(given.angle_deg))))
    parts = [
        Part("centring", RHO * given.centring_mm / 1000.0 * chord / (math.sqrt(2.0) * entry * two)),
        Part(
            "targets", RHO / 1000.0 / math.sqrt(2.0) * math.hypot(given.reference_mm() / entry, given.target_mm / two)
        ),
        Part("pointing", given.angle_accuracy_arcsec * math.sqrt(2.0 / _faces(given))),
    ]
    if not given.compensated:
        # In a direction nobody knows: its part across the sight in the mean of all.
        parts.append(Part("levelling", given.tilt_arcsec * math.tan(abs(steep)) / math.sqrt(2.0)))
    if not given.both_faces:
        # The reference is taken to be level: there c turns the direction by c, at the point by c/sin z.
        parts.append(Part("collimation", given.collimation_arcsec * (1.0 / math.cos(steep) - 1.0), systematic=True))
        parts.append(Part("tilting-axis", given.tilting_axis_arcsec * math.tan(steep), systematic=True))
    return Budget("angle", tuple(parts))


def _position(given: Given, angle: Budget) -> Budget:
    """Of the point itself: across by the direction to it, along by the distance, the stand's place and its reference."""
    across = level_m(given) / RHO * 1000.0
    kept = {part.name: part.value * across for part in angle.parts if part.name not in ("centring", "targets")}
    # A zenith angle shortens a steep sight in plan: that lies along it, square to what the direction does.
    along = given.fore_m / RHO * 1000.0 * abs(math.sin(math.radians(given.elevation_deg)))
    kept["pointing"] = math.hypot(kept["pointing"], given.angle_accuracy_arcsec / math.sqrt(_faces(given)) * along)
    systematic = [Part(part.name, kept[part.name], part.systematic) for part in angle.parts if part.name in kept]
    if not given.both_faces:
        side = math.copysign(1.0, math.fsum(entry.value for entry in systematic if entry.systematic))
        systematic.append(Part("index", side * abs(given.index_arcsec) * along, systematic=True))
    # The stand's own miss moves the point and turns it about the stand, by what the reference shows of it: with
    # σ a coordinate and a = fore/back the two together make σ²(2 + a² − 2a·cos β).
    a, beta = level_m(given) / given.back_m, math.radians(given.angle_deg)
    centring = given.centring_mm / math.sqrt(2.0) * math.sqrt(2.0 + a**2 - 2.0 * a * math.cos(beta))
    turned = given.reference_mm() / math.sqrt(2.0) * a
    return Budget(
        "position",
        (
            *systematic,
            Part("orientation", turned),
            Part("centring", centring),
            Part("targets", given.target_mm),
            Part("distance", given.distance_sigma_mm() * math.cos(math.radians(given.elevation_deg))),
        ),
    )


def _height(given: Given) -> Budget:
    across = level_m(given) / RHO * 1000.0
    parts = [
        Part("pointing", given.angle_accuracy_arcsec / math.sqrt(_faces(given)) * across),
        Part("instrument-height", given.instrument_height_mm),
        Part("target-height", given.target_height_mm),
        Part(
            "distance",
            given.distance_sigma_mm() * abs(math.sin(math.radians(given.elevation_deg))),
        ),
        Part("refraction", SIGMA_REFRACTION * level_m(given) ** 2 / (2.0 * EARTH_RADIUS_M) * 1000.0),
    ]
    if not given.compensated:
        parts.append(Part("levelling", given.tilt_arcsec * across / math.sqrt(2.0)))
    if not given.both_faces:
        parts.append(Part("index", -given.index_arcsec * across, systematic=True))
    return Budget("height", tuple(parts))


def _levelled(given: Given) -> Budget:
    """One set-up of a level: the line of sight over the imbalance, both staffs, and the Earth's curvature."""
    return Budget(
        "height",
        (
            Part("line-of-sight", given.line_of_sight_arcsec / RHO * given.imbalance_m * 1000.0, systematic=True),
            Part("staffs", given.staff_mm * math.sqrt(2.0)),
            Part(
                "refraction",
                SIGMA_REFRACTION * abs(unequal_squares(given) / (2.0 * EARTH_RADIUS_M)) * 1000.0,
            ),
            Part(
                "curvature",
                (1.0 - REFRACTION) * unequal_squares(given) / (2.0 * EARTH_RADIUS_M) * 1000.0,
                systematic=True,
            ),
        ),
    )


def shares(entry: Budget) -> Sequence[tuple[Part, float]]:
    """Each part with its share of the total: systematic parts by their size, random ones by their squares."""
    total, spread = entry.total95, entry.sigma**2
    rows = []
    for part in entry.parts:
        if part.systematic:
            size = abs(entry.bias) * (part.value / entry.bias) if entry.bias else 0.0
        else:
            size = 2.0 * entry.sigma * (part.value**2 / spread) if spread else 0.0
        rows.append((part, size / total if total else 0.0))
    return rows
