"""What a solution means in figures: residuals along and across each sight, heights, the strength of the figure."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass

from ..stats.estimate import PRIOR_DOF, Estimate, Spread, scale_squared
from ..stats.quantiles import f_quantile
from ..units.angles import ARCSEC_PER_RADIAN
from .read import FixedPoint, Sight
from .solve import Solution, Spreads

CIRCLE_POINTS = 12
DANGER_SHARE = 0.12
"""Nearer to the circle through three points than this share of its radius, directions alone fix no place."""


@dataclass(frozen=True, slots=True)
class PointMisfit:
    """Residuals at one sight: measured minus computed, across clockwise positive, in metres, each with its own σ."""

    sight: Sight
    along_m: float | None
    across_m: float | None
    _: KW_ONLY
    height_m: float | None
    sigma_along_m: float | None
    sigma_across_m: float | None
    sigma_height_m: float | None

    @property
    def off_m(self) -> float:
        """How far the point's sights miss it in plan, metres."""
        return math.hypot(self.along_m or 0.0, self.across_m or 0.0)


@dataclass(frozen=True, slots=True)
class Heights:
    """The station's height from every sight that gives one: mean and its σ, and how far each lies from the others."""

    mean_m: float
    sigma_m: float
    off_m: dict[int, float]
    """By sight: this one minus the mean of the others (or minus the mean, with one only)."""
    sigma_off_m: dict[int, float]


@dataclass(frozen=True, slots=True)
class Strength:
    """How well the figure fixes the place: half axes of the 95 % ellipse, its bearing, the widest cut of two sights."""

    longest_m: float
    shortest_m: float
    bearing_deg: float
    cut_deg: float
    on_danger_circle: bool


def found_in(solution: Solution) -> Spread:
    """The sights to this point."""
    return Spread(solution.squares, float(solution.dof))


def estimate(solution: Solution, value: float, variance: float) -> Estimate:
    """A value with the a-priori variance scaled by the scatter found. Value in any unit, variance in its square."""
    found = found_in(solution)
    return Estimate(value, math.sqrt(scale_squared(found, PRIOR_DOF) * variance), PRIOR_DOF + found.dof, found.dof > 0)


def misfits(solution: Solution, sights: Sequence[Sight], heights: Heights | None) -> list[PointMisfit]:
    """What every sight leaves, seconds and metres."""
    rows = []
    for sight in sights:
        along, across = solution.residual(sight.index, "distance"), solution.residual(sight.index, "hz")
        far = sight.horizontal_m or math.hypot(sight.point.e - solution.e, sight.point.n - solution.n)
        if along is None and across is None:
            rows.append(_left_out(solution, sight))
            continue
        height = None if heights is None else heights.off_m.get(sight.index)
        rows.append(
            PointMisfit(
                sight,
                None if along is None else along[0],
                None if across is None else across[0] * far,
                height_m=height,
                sigma_along_m=None if along is None else along[1],
                sigma_across_m=None if across is None else across[1] * far,
                sigma_height_m=None if heights is None else heights.sigma_off_m.get(sight.index),
            )
        )
    return rows


def _left_out(solution: Solution, sight: Sight) -> PointMisfit:
    """How far a sight that the solution does not rest on is off it."""
    point = sight.point
    away = math.hypot(point.e - solution.e, point.n - solution.n)
    turn = (
        math.radians(sight.hz_deg) + solution.orientation_rad - math.atan2(point.e - solution.e, point.n - solution.n)
    )
    along = None if sight.horizontal_m is None else sight.horizontal_m - away
    return PointMisfit(
        sight,
        along,
        math.remainder(turn, 2.0 * math.pi) * away,
        height_m=None,
        sigma_along_m=None,
        sigma_across_m=None,
        sigma_height_m=None,
    )


def heights_of(sights: Sequence[Sight], spreads: Spreads) -> Heights | None:
    """The height of the mark stood over (or of the axis, for a free station of its own height)."""
    rows = [
        (sight.index, sight.point.h - sight.rise_m, spreads.height_m(sight.horizontal_m))
        for sight in sights
        if sight.point.h is not None and sight.rise_m is not None and sight.horizontal_m is not None
    ]
    if not rows:
        return None
    weights = [1.0 / sigma**2 for _, _, sigma in rows]
    total = math.fsum(weights)
    mean = math.fsum(w * h for w, (_, h, _) in zip(weights, rows, strict=True)) / total
    off, sigmas = {}, {}
    for (index, h, sigma), w in zip(rows, weights, strict=True):
        if len(rows) == 1:
            continue
        others = (mean * total - w * h) / (total - w)
        # As a residual reads: computed height of the point minus its known one has the station's sign turned.
        off[index] = others - h
        sigmas[index] = math.sqrt(sigma**2 + 1.0 / (total - w))
    return Heights(mean, math.sqrt(1.0 / total), off, sigmas)


def strength_of(solution: Solution, sights: Sequence[Sight]) -> Strength:
    """How well the sights fix the station: the error ellipse, metres."""
    found = found_in(solution)
    scale = scale_squared(found, PRIOR_DOF)
    a, b, c = (scale * solution.covariance(*ij) for ij in ((0, 0), (0, 1), (1, 1)))
    middle, half = (a + c) / 2.0, math.hypot((a - c) / 2.0, b)
    # Both axes at once hold the place nineteen times in twenty.
    t = math.sqrt(2.0 * f_quantile(0.95, 2, PRIOR_DOF + found.dof))
    bearing = math.degrees(0.5 * math.atan2(2.0 * b, c - a)) % 180.0
    return Strength(
        t * math.sqrt(max(0.0, middle + half)),
        t * math.sqrt(max(0.0, middle - half)),
        bearing,
        _cut_deg(sights),
        _on_circle(solution, sights),
    )


def _cut_deg(sights: Sequence[Sight]) -> float:
    """The angle nearest to square between any two sights, 0 to 90."""
    best = 0.0
    for i, sight in enumerate(sights):
        for other in sights[i + 1 :]:
            turn = abs((sight.hz_deg - other.hz_deg + 180.0) % 360.0 - 180.0)
            best = max(best, min(turn, 180.0 - turn))
    return best


def _on_circle(solution: Solution, sights: Sequence[Sight]) -> bool:
    """Directions only: whether the place lies near the circle through the three points farthest round the horizon."""
    if any(sight.horizontal_m is not None for sight in sights):
        return False
    points = _round_the_horizon(solution, list({sight.point.name: sight.point for sight in sights}.values()))
    if len(points) < 3:
        return False
    circles = [
        circle
        for i, a in enumerate(points)
        for j, b in enumerate(points[i + 1 :], start=i + 1)
        for c in points[j + 1 :]
        if (circle := _circle(a, b, c)) is not None
    ]
    return bool(circles) and all(
        abs(math.hypot(solution.e - e, solution.n - n) - r) < DANGER_SHARE * r for e, n, r in circles
    )


def _round_the_horizon(solution: Solution, points: list[FixedPoint]) -> list[FixedPoint]:
    """Of many points a dozen, evenly round the horizon: circles through these say as much as those through all."""
    points = sorted(points, key=lambda point: math.atan2(point.e - solution.e, point.n - solution.n))
    if len(points) <= CIRCLE_POINTS:
        return points
    return [points[i * len(points) // CIRCLE_POINTS] for i in range(CIRCLE_POINTS)]


def _circle(a: FixedPoint, b: FixedPoint, c: FixedPoint) -> tuple[float, float, float] | None:
    bx, by, cx, cy = b.e - a.e, b.n - a.n, c.e - a.e, c.n - a.n
    d = 2.0 * (bx * cy - by * cx)
    if abs(d) < 1e-9:
        return None
    x = (cy * (bx**2 + by**2) - by * (cx**2 + cy**2)) / d
    y = (bx * (cx**2 + cy**2) - cx * (bx**2 + by**2)) / d
    return a.e + x, a.n + y, math.hypot(x, y)


def base_misfit_m(sights: Sequence[Sight], spreads: Spreads) -> tuple[float, float] | None:
    """Of two points: the measured base minus the known one, and its σ; None unless there are two with distances."""
    both = {sight.point.name: sight for sight in sights if sight.horizontal_m is not None}
    if len(both) != 2 or len({sight.point.name for sight in sights}) != 2:
        return None
    entry, two = both.values()
    d1, d2 = entry.horizontal_m or 0.0, two.horizontal_m or 0.0
    angle = math.radians(two.hz_deg - entry.hz_deg)
    base = math.sqrt(max(1e-12, d1**2 + d2**2 - 2.0 * d1 * d2 * math.cos(angle)))
    known = math.hypot(entry.point.e - two.point.e, entry.point.n - two.point.n)
    turn = math.hypot(spreads.direction_arcsec(d1), spreads.direction_arcsec(d2)) / ARCSEC_PER_RADIAN
    sigma = math.sqrt(
        ((d1 - d2 * math.cos(angle)) / base * spreads.distance_m(d1)) ** 2
        + ((d2 - d1 * math.cos(angle)) / base * spreads.distance_m(d2)) ** 2
        + (d1 * d2 * math.sin(angle) / base * turn) ** 2
    )
    return base - known, sigma
