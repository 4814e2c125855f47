"""Vectors and rotations of three, and small linear systems, in plain Python.

Axes: x right (east), y up (north), z up. Bearings clockwise from y, in degrees.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from math import fsum

from .units.angles import ARCSEC_PER_RADIAN

Vector = tuple[float, float, float]
Plane = tuple[float, float]
Rotation = tuple[Vector, Vector, Vector]
"""Rows of the matrix that carries a vector from the body's frame to the set-up frame."""

UPRIGHT: Rotation = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))
ARCSEC = ARCSEC_PER_RADIAN
EARTH_RADIUS_M = 6_371_000.0
REFRACTION = 0.13
SIGMA_REFRACTION = 0.5
OPPOSITE_DEG = 120.0
"""Headings at least this far from each other count as opposite."""


def add(a: Vector, b: Vector) -> Vector:
    """a + b."""
    return (a[0] + b[0], a[1] + b[1], a[2] + b[2])


def less(a: Vector, b: Vector) -> Vector:
    """a − b."""
    return (a[0] - b[0], a[1] - b[1], a[2] - b[2])


def times(a: Vector, factor: float) -> Vector:
    """A vector times a factor; any unit."""
    return (a[0] * factor, a[1] * factor, a[2] * factor)


def dot(a: Vector, b: Vector) -> float:
    """Scalar product."""
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def cross(a: Vector, b: Vector) -> Vector:
    """Vector product."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def length(a: Vector) -> float:
    """Length of a vector, in its own unit."""
    return math.sqrt(dot(a, a))


def unit(bearing_deg: float) -> Plane:
    """u(θ) = (sin θ, cos θ): a step of one in the direction of a bearing."""
    radians = math.radians(bearing_deg)
    return (math.sin(radians), math.cos(radians))


def polar(x: float, y: float) -> tuple[float, float]:
    """Bearing in [0, 360) and length of a plane vector; bearing 0 for none.

    X and y in any unit, y north; the bearing in degrees clockwise from north.
    """
    bearing = math.degrees(math.atan2(x, y)) % 360.0
    return (0.0 if bearing == 360.0 else bearing, math.hypot(x, y))  # -1e-17 % 360 is 360


def along(vector: Plane, bearing_deg: float) -> float:
    """The part of a plane vector in the direction of a bearing."""
    u = unit(bearing_deg)
    return vector[0] * u[0] + vector[1] * u[1]


def turned(rotation: Rotation, vector: Vector) -> Vector:
    """A vector of the body's frame, in the set-up frame."""
    return (dot(rotation[0], vector), dot(rotation[1], vector), dot(rotation[2], vector))


def product(a: Rotation, b: Rotation) -> Rotation:
    """First b, then a."""
    columns = tuple(zip(*b, strict=True))
    rows = tuple(tuple(dot(row, column) for column in columns) for row in a)
    return rows  # type: ignore[return-value]


def about(vector: Vector) -> Rotation:
    """The rotation about a vector by its length in radians, right-handed (Rodrigues)."""
    angle = length(vector)
    if angle == 0.0:
        return UPRIGHT
    x, y, z = times(vector, 1.0 / angle)
    c, s = math.cos(angle), math.sin(angle)
    v = 1.0 - c
    return (
        (c + x * x * v, x * y * v - z * s, x * z * v + y * s),
        (y * x * v + z * s, c + y * y * v, y * z * v - x * s),
        (z * x * v - y * s, z * y * v + x * s, c + z * z * v),
    )


def clockwise(degrees: float) -> Rotation:
    """A turn clockwise seen from above."""
    return about((0.0, 0.0, -math.radians(degrees)))


def solve(matrix: Sequence[Sequence[float]], right: Sequence[float]) -> list[float]:
    """Solve a small square system by elimination with pivoting. Raises ZeroDivisionError when it is singular.

    Any unit.
    """
    size = len(right)
    rows = [[*row, value] for row, value in zip(matrix, right, strict=True)]
    for i in range(size):
        best = max(range(i, size), key=lambda k: abs(rows[k][i]))
        rows[i], rows[best] = rows[best], rows[i]
        head = rows[i]
        scale = 1.0 / head[i]
        for j in range(i + 1, size):
            row = rows[j]
            factor = row[i] * scale
            if factor:
                for k in range(i + 1, size + 1):
                    row[k] -= factor * head[k]
    found = [0.0] * size
    for i in range(size - 1, -1, -1):
        row = rows[i]
        found[i] = (row[size] - math.fsum(row[k] * found[k] for k in range(i + 1, size))) / row[i]
    return found


def for_site(right: float, away: float, stand_bearing_deg: float) -> Plane:
    """A step given by the person (to their right, and away from them) in the frame of the site. Any unit of length."""
    leading_reasons, aside = unit(stand_bearing_deg + 180.0), unit(stand_bearing_deg + 270.0)
    return away * leading_reasons[0] + right * aside[0], away * leading_reasons[1] + right * aside[1]


def curvature_and_refraction_m(distance_m: float) -> float:
    """How much a level line's staff reading is too large at a distance: (1-k) D^2 / 2R, in metres."""
    return (1 - REFRACTION) * distance_m**2 / (2 * EARTH_RADIUS_M)


def wrapped(degrees: float) -> float:
    """An angle between -180 and 180."""
    return (degrees + 180.0) % 360.0 - 180.0


def mean(values: Sequence[float]) -> float:
    """The mean of values of any unit."""
    return fsum(values) / len(values)


def mean_direction(degrees: Sequence[float]) -> float:
    """The mean of directions that may lie across zero."""
    return (degrees[0] + mean([wrapped(degree - degrees[0]) for degree in degrees])) % 360.0


def angle_between_deg(entry: float, other: float) -> float:
    """The angle between two headings, 0 to 180."""
    return abs((entry - other + 180.0) % 360.0 - 180.0)


def widest_deg(headings: Sequence[float]) -> float:
    """How far apart the two headings are that lie furthest apart."""
    return max((angle_between_deg(a, b) for i, a in enumerate(headings) for b in headings[i + 1 :]), default=0.0)
