"""A backsight judged: over a control point, do direction, distance and height to others agree."""

from __future__ import annotations

import math

from ..stats.estimate import PRIOR_DOF, Estimate
from ..units.angles import ARCSEC_PER_RADIAN
from .document import Oriented
from .figures import PointMisfit
from .read import FixedPoint, Read, Sight
from .solve import bearing_rad, distance_m, wrapped
from .verdict import (
    Judged,
    begun,
    closing_sight,
    control_jump,
    explained,
    height_meant,
    hold_misfit,
    say_counts_otherwise,
)

FITS_M = 0.02
WORTH_A_SIGN_M = 0.1


def judge_back(found: Read) -> Judged:
    """Over a control point, looking back at others."""
    judged = begun(found)
    station = found.station
    assert station is not None
    turns = []
    for sight in found.sights:
        far = distance_m(station.e, station.n, sight.point)
        sigma = judged.spreads.direction_arcsec(far) / ARCSEC_PER_RADIAN
        turns.append((wrapped(bearing_rad(station.e, station.n, sight.point) - math.radians(sight.hz_deg)), sigma))
    reference = turns[0][0]
    weights = [1.0 / sigma**2 for _, sigma in turns]
    mean = reference + math.fsum(
        w * wrapped(t - reference) for w, (t, _) in zip(weights, turns, strict=True)
    ) / math.fsum(weights)
    judged.orientation_deg = math.degrees(mean) % 360.0
    judged.orientation = Estimate(
        mean * ARCSEC_PER_RADIAN, ARCSEC_PER_RADIAN / math.sqrt(math.fsum(weights)), PRIOR_DOF
    )
    judged.points = [_backsight_point(judged, station, sight, mean, len(turns)) for sight in found.sights]
    _backsight_misfit(judged, station)
    closing_sight(judged)
    control_jump(judged)
    return judged


def _backsight_point(judged: Judged, station: FixedPoint, sight: Sight, turn: float, count: int) -> PointMisfit:
    far = distance_m(station.e, station.n, sight.point)
    along = None if sight.horizontal_m is None else sight.horizontal_m - far
    # hz too large by so much: seen too far clockwise.
    across = (
        None
        if count < 2
        else wrapped(math.radians(sight.hz_deg) + turn - bearing_rad(station.e, station.n, sight.point)) * far
    )
    height = None
    if sight.rise_m is not None and sight.point.h is not None and station.h is not None:
        height = station.h + sight.rise_m - sight.point.h
    across_sigma = (
        judged.spreads.direction_arcsec(far) / ARCSEC_PER_RADIAN * far * math.sqrt(1.0 - 1.0 / count)
        if count > 1
        else None
    )
    return PointMisfit(
        sight,
        along,
        across,
        height_m=height,
        sigma_along_m=judged.spreads.distance_m(far),
        sigma_across_m=across_sigma,
        sigma_height_m=None if height is None else judged.spreads.height_m(far),
    )


def _backsight_misfit(judged: Judged, station: FixedPoint) -> None:
    words = judged.words
    with_distance = [point for point in judged.points if point.along_m is not None]
    if not with_distance:
        judged.say(
            "watch",
            "direction-only",
            "A direction alone is not a check: measure the distance, or sight a second point.",
        )
    else:
        worst_point = max(with_distance, key=lambda entry: abs(entry.along_m or 0.0))
        along, sigma = worst_point.along_m or 0.0, worst_point.sigma_along_m or 0.001
        judged.misfit = Estimate(along * 1000.0, sigma * 1000.0, PRIOR_DOF)
        judged.series_mm, judged.series_sigma_mm = along * 1000.0, sigma * 1000.0
        name = worst_point.sight.point.name
        what = f"{name} is {words.small(abs(along))} {'farther' if along > 0 else 'nearer'} than it should be"
        hold_misfit(judged, what, _other_point(judged, station, worst_point.sight))
    gap = [
        point
        for point in judged.points
        if point.across_m is not None and point.sigma_across_m and abs(point.across_m) > explained(point.sigma_across_m)
    ]
    if gap and _fits_mirrored(judged, station):
        say_counts_otherwise(judged)
        gap = []
    for entry in gap:
        if entry.across_m is not None:
            judged.say(
                "repeat",
                "directions-differ",
                f"The directions do not agree: {entry.sight.point.name} is {words.small(abs(entry.across_m))} to one side.",
            )
            break
    for entry in judged.points:
        _backsight_height(judged, station, entry)


def _fits_mirrored(judged: Judged, station: FixedPoint) -> bool:
    """Whether the directions agree once the circle counts the other way."""
    turns = [
        wrapped(bearing_rad(station.e, station.n, point.sight.point) + math.radians(point.sight.hz_deg))
        for point in judged.points
    ]
    off = [
        abs(wrapped(turn - turns[0])) * distance_m(station.e, station.n, point.sight.point)
        for turn, point in zip(turns, judged.points, strict=True)
    ]
    sigmas = [math.sqrt(2.0) * (point.sigma_across_m or 0.0) for point in judged.points]
    return all(away <= explained(sigma) for away, sigma in zip(off, sigmas, strict=True))


def _backsight_height(judged: Judged, station: FixedPoint, misfit: PointMisfit) -> None:
    if (
        misfit.height_m is None
        or misfit.sigma_height_m is None
        or abs(misfit.height_m) <= explained(misfit.sigma_height_m)
    ):
        return
    assert misfit.sight.point.h is not None
    assert station.h is not None
    assert misfit.sight.rise_m is not None
    fall = misfit.sight.point.h - station.h
    if abs(fall) > WORTH_A_SIGN_M and abs(misfit.sight.rise_m + fall) < FITS_M:
        judged.say(
            "repeat",
            "ends-swapped",
            f"The heights agree the other way round: are you set up over {misfit.sight.point.name} and sighting {station.name}?",
        )
        return
    meant = height_meant(judged, _target_typed(judged, misfit.sight), misfit.sight, misfit.height_m)
    hint = f" Typed {_target_typed(judged, misfit.sight)} for {meant}?" if meant else ""
    judged.say(
        "repeat",
        "height-outlier",
        f"The height of {misfit.sight.point.name} is {judged.words.small(abs(misfit.height_m))} too {'high' if misfit.height_m > 0 else 'low'}: instrument height or target height?{hint}",
    )


def _target_typed(judged: Judged, sight: Sight) -> str:
    o: Oriented = judged.read.document.observations
    return str(o.shots[sight.index].target_height or "")


def _other_point(judged: Judged, station: FixedPoint, sight: Sight) -> str:
    """Another control point at just this distance."""
    assert sight.horizontal_m is not None
    fits = [
        (abs(distance_m(station.e, station.n, earlier) - sight.horizontal_m), earlier.name)
        for earlier in judged.read.control
        if earlier.name != sight.point.name and math.hypot(earlier.e - station.e, earlier.n - station.n) > 1.0
    ]
    off, name = min(fits, default=(math.inf, ""))
    return (
        f" The distance matches {name}: did you sight that?"
        if off < FITS_M
        else " Right point, right prism, right constant?"
    )
