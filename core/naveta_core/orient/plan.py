"""The site in plan, to be drawn: known points, the stand, and what does not fit."""

from __future__ import annotations

from typing import Any

from .figures import PointMisfit
from .judged import Judged
from .read import Known, Read

Data = dict[str, Any]


def plan(found: Read, judged: Judged | None) -> Data:
    """The site in plan, metres: known points, the stand, a ray for each sight and its residual, the ellipse."""
    solution = judged.solution if judged else None
    station = (solution.e, solution.n) if solution else (found.station.e, found.station.n) if found.station else None
    used = {one.point.name for one in found.sights}
    off = {one.sight.point.name: one for one in (judged.points if judged else [])}
    suspects = set(judged.suspect.names) if judged and judged.suspect else set()
    return {
        "station": None
        if station is None
        else {"name": found.station.name if found.station else "", "e_m": station[0], "n_m": station[1]},
        "points": [
            _plan_point(one, one.name in used, one.name in suspects, off.get(one.name)) for one in found.control
        ],
        "ellipse": None
        if judged is None or judged.strength is None
        else {
            "longest_m": judged.strength.longest_m,
            "shortest_m": judged.strength.shortest_m,
            "bearing_deg": judged.strength.bearing_deg,
        },
    }


def _plan_point(point: Known, used: bool, suspected: bool, misfit: PointMisfit | None) -> Data:
    return {
        "name": point.name,
        "e_m": point.e,
        "n_m": point.n,
        "used": used,
        "suspect": suspected,
        "along_m": misfit.along_m if misfit else None,
        "across_m": misfit.across_m if misfit else None,
    }
