"""The site in plan, to be drawn: control points, the stand, and what does not fit."""

from __future__ import annotations

from ..results import ErrorEllipse, PlanPoint, PlanStation, SitePlan
from .figures import PointMisfit
from .read import FixedPoint, Read
from .verdict import Judged


def plan(found: Read, judged: Judged | None) -> SitePlan:
    """The site in plan, metres: control points, the stand, a ray for each sight and its residual, the ellipse."""
    solution = judged.solution if judged else None
    station = (solution.e, solution.n) if solution else (found.station.e, found.station.n) if found.station else None
    used = {sight.point.name for sight in found.sights}
    off = {point.sight.point.name: point for point in (judged.points if judged else [])}
    suspects = set(judged.suspect.names) if judged and judged.suspect else set()
    place = None
    if station is not None:
        place = PlanStation(name=found.station.name if found.station else "", e_m=station[0], n_m=station[1])
    strength = judged.strength if judged else None
    ellipse = None
    if strength is not None:
        ellipse = ErrorEllipse(
            longest_m=strength.longest_m, shortest_m=strength.shortest_m, bearing_deg=strength.bearing_deg
        )
    points = [
        _plan_point(
            earlier, used=earlier.name in used, suspected=earlier.name in suspects, misfit=off.get(earlier.name)
        )
        for earlier in found.control
    ]
    return SitePlan(station=place, points=points, ellipse=ellipse)


def _plan_point(point: FixedPoint, *, used: bool, suspected: bool, misfit: PointMisfit | None) -> PlanPoint:
    return PlanPoint(
        name=point.name,
        e_m=point.e,
        n_m=point.n,
        used=used,
        suspect=suspected,
        along_m=misfit.along_m if misfit else None,
        across_m=misfit.across_m if misfit else None,
    )
