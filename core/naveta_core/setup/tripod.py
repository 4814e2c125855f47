"""The tripod as a mechanism: three feet held on the ground, legs that change length, hinges on the head.

A foot is a ball joint; a hinge's axis is tangential to the head, so each foot stays in the radial plane of its own
hinge. Six unknowns (the head's place and turn), six equations (three leg lengths, three radial planes), Newton's
method. All in metres; feet and head in the set-up frame.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from ..geometry import Plane, Rotation, Vector, about, add, clockwise, cross, dot, length, less, product, solve, turned

LEGS = ("A", "B", "C")
BEARINGS = (0.0, 120.0, 240.0)
"""Where the hinges sit on the head."""
HINGES: tuple[Plane, ...] = tuple((math.sin(math.radians(b)), math.cos(math.radians(b))) for b in BEARINGS)
CLOSE = 1e-12
MAX_ROUNDS = 40


class CannotStandError(ValueError):
    """Feet and legs with which no head can be held up."""


@dataclass(frozen=True, slots=True)
class Pose:
    """Where the head is: the centre of its hinges, and how it is turned."""

    at: Vector
    turn: Rotation

    @property
    def normal(self) -> Vector:
        """The head's upward normal."""
        return (self.turn[0][2], self.turn[1][2], self.turn[2][2])

    def point(self, inside: Vector) -> Vector:
        """A point of the head's frame in the set-up frame."""
        return add(self.at, turned(self.turn, inside))


Feet = tuple[Vector, Vector, Vector]
Legs = tuple[float, float, float]


def foot_circle(spacing: float) -> float:
    """Radius of the circle through three feet `spacing` apart.

    Metres in, metres out.
    """
    return spacing / math.sqrt(3.0)


def even_feet(spacing: float, slope_deg: float = 0.0, downhill_deg: float = 180.0) -> Feet:
    """Feet evenly spaced in plan on ground that falls by a slope towards a bearing.

    Spacing in metres, angles in degrees.
    """
    radius, fall = foot_circle(spacing), math.tan(math.radians(slope_deg))
    down = (math.sin(math.radians(downhill_deg)), math.cos(math.radians(downhill_deg)))
    feet = tuple((radius * x, radius * y, -fall * radius * (x * down[0] + y * down[1])) for x, y in HINGES)
    return feet  # type: ignore[return-value]


def legs_of(feet: Feet, pose: Pose, hinge_radius: float) -> Legs:
    """How long each leg is when the head is held at a pose. Metres."""
    return tuple(  # type: ignore[return-value]
        length(less(foot, pose.point((hinge_radius * x, hinge_radius * y, 0.0))))
        for foot, (x, y) in zip(feet, HINGES, strict=True)
    )


def level_pose(feet: Feet, hinge_height: float) -> Pose:
    """The level head whose hinges stand `hinge_height` above z = 0: over the point from which the feet lie 120° apart.

    Raises CannotStandError when the feet lie too nearly in a line for that.
    """
    x = math.fsum(foot[0] for foot in feet) / 3.0
    y = math.fsum(foot[1] for foot in feet) / 3.0
    turn = 0.0
    for _ in range(MAX_ROUNDS):
        rows, right = [], []
        for foot, bearing in zip(feet, BEARINGS, strict=True):
            angle = math.radians(bearing) + turn
            tx, ty = math.cos(angle), -math.sin(angle)
            dx, dy = foot[0] - x, foot[1] - y
            rows.append([-tx, -ty, -dx * math.sin(angle) - dy * math.cos(angle)])
            right.append(-(dx * tx + dy * ty))
        try:
            sx, sy, st = solve(rows, right)
        except ZeroDivisionError as error:
            raise CannotStandError("the feet are in line") from error
        x, y, turn = x + sx, y + sy, turn + max(-0.5, min(0.5, st))
        if abs(sx) + abs(sy) + abs(st) < CLOSE:
            break
    else:
        raise CannotStandError("the feet are too nearly in line")
    pose = Pose((x, y, hinge_height), clockwise(math.degrees(turn)))
    if any(less(foot, pose.at)[0] * hx + less(foot, pose.at)[1] * hy <= 0 for foot, (hx, hy) in _outward(feet, pose)):
        raise CannotStandError("a foot is under the head")
    return pose


def _outward(feet: Feet, pose: Pose) -> list[tuple[Vector, Plane]]:
    return [(foot, turned(pose.turn, (x, y, 0.0))[:2]) for foot, (x, y) in zip(feet, HINGES, strict=True)]


def hold(feet: Feet, legs: Legs, hinge_radius: float, start: Pose) -> Pose:
    """The pose in which legs of these lengths on these feet hold the head; `start` is near it (where it was before).

    Raises CannotStandError when there is none.

    Lengths in metres.
    """
    pose = start
    for _ in range(MAX_ROUNDS):
        rows: list[list[float]] = []
        right: list[float] = []
        for foot, leg, (x, y) in zip(feet, legs, HINGES, strict=True):
            arm = turned(pose.turn, (hinge_radius * x, hinge_radius * y, 0.0))
            across = turned(pose.turn, (y, -x, 0.0))
            shaft = less(foot, add(pose.at, arm))
            span = length(shaft)
            way = (shaft[0] / span, shaft[1] / span, shaft[2] / span)
            lever = cross(arm, way)
            rows.append([-way[0], -way[1], -way[2], -lever[0], -lever[1], -lever[2]])
            right.append(leg - span)
            out = less(foot, pose.at)
            twist = cross(across, out)
            rows.append([-across[0], -across[1], -across[2], twist[0], twist[1], twist[2]])
            right.append(-dot(out, across))
        try:
            step = solve(rows, right)
        except ZeroDivisionError as error:
            raise CannotStandError("the legs cannot carry the head") from error
        size = max(abs(entry) for entry in step)
        if size > 0.3:  # far off: a part of the step, so that it stays on this side
            step = [entry * 0.3 / size for entry in step]
        pose = Pose(add(pose.at, (step[0], step[1], step[2])), product(about((step[3], step[4], step[5])), pose.turn))
        if size < CLOSE:
            return pose
    raise CannotStandError("legs of these lengths cannot carry the head on these feet")
