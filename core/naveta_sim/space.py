"""Space for simulated instruments: vectors of three and rotation matrices, with no line shared with the solvers.

x right (east), y forward (north), z up. Headings clockwise seen from above, in degrees.
"""

from __future__ import annotations

from math import cos, radians, sin, sqrt

Vector = tuple[float, float, float]
Matrix = tuple[Vector, Vector, Vector]
ZENITH: Vector = (0.0, 0.0, 1.0)
SECONDS = 3600.0 * 180.0 / 3.141592653589793
"""Seconds of arc in a radian."""


def dot(a: Vector, b: Vector) -> float:
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]


def scaled(a: Vector, factor: float) -> Vector:
    return a[0] * factor, a[1] * factor, a[2] * factor


def summed(*some: Vector) -> Vector:
    return sum(a[0] for a in some), sum(a[1] for a in some), sum(a[2] for a in some)


def normed(a: Vector) -> Vector:
    return scaled(a, 1.0 / sqrt(dot(a, a)))


def applied(m: Matrix, a: Vector) -> Vector:
    """A vector of a body as it lies in space."""
    return dot(m[0], a), dot(m[1], a), dot(m[2], a)


def product(m: Matrix, n: Matrix) -> Matrix:
    columns = tuple(zip(*n, strict=True))
    rows = [tuple(dot(row, (c[0], c[1], c[2])) for c in columns) for row in m]
    return (
        (rows[0][0], rows[0][1], rows[0][2]),
        (rows[1][0], rows[1][1], rows[1][2]),
        (rows[2][0], rows[2][1], rows[2][2]),
    )


def turned(heading_deg: float) -> Matrix:
    """A body turned clockwise about the vertical: its own y then points along the heading."""
    s, c = sin(radians(heading_deg)), cos(radians(heading_deg))
    return (c, s, 0.0), (-s, c, 0.0), (0.0, 0.0, 1.0)


def tilted(x_seconds: float, y_seconds: float) -> Matrix:
    """A plate whose high side lies towards (x, y), higher by so many seconds: the rotation that carries it there."""
    up = normed((-x_seconds / SECONDS, -y_seconds / SECONDS, 1.0))
    right = normed(summed((1.0, 0.0, 0.0), scaled(up, -up[0])))
    forward = (
        up[1] * right[2] - up[2] * right[1],
        up[2] * right[0] - up[0] * right[2],
        up[0] * right[1] - up[1] * right[0],
    )
    return (right[0], forward[0], up[0]), (right[1], forward[1], up[1]), (right[2], forward[2], up[2])


def body(tilt: tuple[float, float], heading_deg: float) -> Matrix:
    """An instrument on a tilted stand, turned to a heading about its own standing axis."""
    return product(tilted(*tilt), turned(heading_deg))


def climbs(m: Matrix, axis: Vector) -> float:
    """How much an axis of a body rises, as the sine of its slope: what a bubble or a sensor along it feels."""
    return dot(applied(m, axis), ZENITH)


RIGHT, FORWARD = (1.0, 0.0, 0.0), (0.0, 1.0, 0.0)
