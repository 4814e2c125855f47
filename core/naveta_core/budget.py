"""The error budget: what centring, levelling, the instrument's errors and its stated accuracy do to the work.

For an angle, the position of a point set out, and a height, at given sights. Systematic parts add with their sign to a
bias, random parts as squares; what is told is the total at 95 percent, |bias| + 2·√Σσ². Lengths in millimetres, angles in
seconds of arc. Random parts are one standard deviation.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from .angles import ARCSEC_PER_RADIAN as RHO
from .priors import EARTH_RADIUS_M, SIGMA_REFRACTION

Quantity = Literal["angle", "position", "height"]


@dataclass(frozen=True, slots=True)
class Part:
    """One part of a budget. `value` with its sign when systematic, a standard deviation otherwise."""

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
        return math.fsum(one.value for one in self.parts if one.systematic)

    @property
    def sigma(self) -> float:
        return math.sqrt(math.fsum(one.value**2 for one in self.parts if not one.systematic))

    @property
    def total95(self) -> float:
        return abs(self.bias) + 2.0 * self.sigma

    def without(self, name: str) -> float:
        """The total with one part gone."""
        return Budget(self.quantity, tuple(one for one in self.parts if one.name != name)).total95

    def largest(self) -> Part | None:
        """The part whose going would lower the total most."""
        telling = [one for one in self.parts if one.value]
        return min(telling, key=lambda one: self.without(one.name), default=None)


@dataclass(frozen=True, slots=True)
class Given:
    """What is known beforehand. Lengths of sights in metres; `fore` is the point worked on, `back` the reference."""

    back_m: float = 30.0
    fore_m: float = 30.0
    angle_deg: float = 90.0
    elevation_deg: float = 0.0
    imbalance_m: float = 0.0
    centring_mm: float = 1.0
    target_mm: float = 1.0
    back_target_mm: float = 1.0
    tilt_arcsec: float = 0.0
    compensated: bool = True
    collimation_arcsec: float = 0.0
    tilting_axis_arcsec: float = 0.0
    index_arcsec: float = 0.0
    line_of_sight_arcsec: float = 0.0
    both_faces: bool = False
    angle_arcsec: float = 5.0
    """Of one direction in one face."""
    distance_mm: float = 2.0
    distance_ppm: float = 2.0
    instrument_height_mm: float = 1.0
    target_height_mm: float = 1.0
    levelling: bool = False
    """A level: its heights hang on the line of sight and how unequal the sights are."""
    staff_mm: float = 1.0


def budget(given: Given) -> list[Budget]:
    """The budgets that apply: angle, position and height; of a level its height alone."""
    if given.levelling:
        return [_levelled(given)]
    angle = _angle(given)
    return [angle, _position(given, angle), _height(given)]


def _faces(given: Given) -> float:
    return 2.0 if given.both_faces else 1.0


def _angle(given: Given) -> Budget:
    steep = math.radians(given.elevation_deg)
    one, two = given.back_m, given.fore_m
    chord = math.sqrt(max(0.0, one**2 + two**2 - 2.0 * one * two * math.cos(math.radians(given.angle_deg))))
    parts = [
        Part("centring", RHO * given.centring_mm / 1000.0 * chord / (math.sqrt(2.0) * one * two)),
        Part("targets", RHO / 1000.0 / math.sqrt(2.0) * math.hypot(given.back_target_mm / one, given.target_mm / two)),
        Part("pointing", given.angle_arcsec * math.sqrt(2.0 / _faces(given))),
    ]
    if not given.compensated:
        # In a direction nobody knows: its part across the sight in the mean of all.
        parts.append(Part("levelling", given.tilt_arcsec * math.tan(abs(steep)) / math.sqrt(2.0)))
    if not given.both_faces:
        # The reference is taken to be level: there c turns the direction by c, at the point by c/sin z.
        parts.append(Part("collimation", given.collimation_arcsec * (1.0 / math.cos(steep) - 1.0), True))
        parts.append(Part("tilting-axis", given.tilting_axis_arcsec * math.tan(steep), True))
    return Budget("angle", tuple(parts))


def _position(given: Given, angle: Budget) -> Budget:
    """Of the point itself: across by the direction to it, along by the distance, and the stand's own place."""
    level = given.fore_m * math.cos(math.radians(given.elevation_deg))
    across = level / RHO * 1000.0
    kept = [
        Part(f"{one.name}", one.value * across, one.systematic)
        for one in angle.parts
        if one.name not in ("centring", "targets")
    ]
    # The reference turns the whole with its own miss: seen from the point at its own distance.
    turned = math.hypot(given.centring_mm, given.back_target_mm) / math.sqrt(2.0) * given.fore_m / given.back_m
    return Budget(
        "position",
        (
            *kept,
            Part("orientation", turned),
            Part("centring", given.centring_mm),
            Part("targets", given.target_mm),
            Part("distance", math.hypot(given.distance_mm, given.distance_ppm * given.fore_m / 1000.0)),
        ),
    )


def _height(given: Given) -> Budget:
    across = given.fore_m / RHO * 1000.0
    parts = [
        Part("pointing", given.angle_arcsec / math.sqrt(_faces(given)) * across),
        Part("instrument-height", given.instrument_height_mm),
        Part("target-height", given.target_height_mm),
        Part(
            "distance",
            math.hypot(given.distance_mm, given.distance_ppm * given.fore_m / 1000.0)
            * abs(math.sin(math.radians(given.elevation_deg))),
        ),
        Part("refraction", SIGMA_REFRACTION * given.fore_m**2 / (2.0 * EARTH_RADIUS_M) * 1000.0),
    ]
    if not given.compensated:
        parts.append(Part("levelling", given.tilt_arcsec * across / math.sqrt(2.0)))
    if not given.both_faces:
        parts.append(Part("index", -given.index_arcsec * across, True))
    return Budget("height", tuple(parts))


def _levelled(given: Given) -> Budget:
    """One set-up of a level: the line of sight over the imbalance, and both staffs."""
    return Budget(
        "height",
        (
            Part("line-of-sight", given.line_of_sight_arcsec / RHO * given.imbalance_m * 1000.0, True),
            Part("staffs", given.staff_mm * math.sqrt(2.0)),
            Part(
                "refraction",
                SIGMA_REFRACTION * abs((given.back_m**2 - given.fore_m**2) / (2.0 * EARTH_RADIUS_M)) * 1000.0,
            ),
        ),
    )


def shares(one: Budget) -> Sequence[tuple[Part, float]]:
    """Each part with its share of the total: systematic parts by their size, random ones by their squares."""
    total, spread = one.total95, one.sigma**2
    told = []
    for part in one.parts:
        if part.systematic:
            size = abs(one.bias) * (part.value / one.bias) if one.bias else 0.0
        else:
            size = 2.0 * one.sigma * (part.value**2 / spread) if spread else 0.0
        told.append((part, size / total if total else 0.0))
    return told
