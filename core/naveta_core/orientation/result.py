"""An orientation as a result: finding, figures, plan to draw, and how it was calculated."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any, TypeVar

from pydantic import BaseModel

from .. import __version__
from ..cautions import cautions
from ..engine.rows import line, row
from ..errors import path_in_words
from ..results import (
    CalculationLine,
    Finding,
    LimitFigures,
    Note,
    Reason,
    Repeats,
    Result,
    Shown,
    Verdict,
    VerdictPart,
    reasons,
)
from ..stats.decision import Grade
from ..stats.estimate import PRIOR_DOF, Estimate
from ..units.angles import show_dms
from ..units.formatting import arcsec, figure, joined, length_words
from ..units.numbers import rounded
from .back import judge_back
from .document import Backsight, FreeStation
from .figures import PointMisfit, estimate
from .free import judge_free
from .plan import plan
from .read import Read, Sight, read
from .results import FigureStrength, OrientationFigures, OrientationPreview, PointResidual, SuspectedPoints
from .solve import bearing_rad, distance_m
from .verdict import Judged

CLOSING = "Before you take it down, and when in doubt: sight the reference again. It shows whether the tripod moved."
NEXT = {
    "counts-otherwise": "Set the direction the circle counts; no need to sight again.",
    "angle-unit": "Set the circle unit.",
    "feet-and-metres": "Set the unit of distances or of points.",
    "point-outlier": "Sight the outlying point again; never change a control point to fit.",
    "points-swapped": "Correct the names; no need to sight again.",
    "constant": "Set the constant of the prism in use, and measure the distances again.",
    "scale": "Set the scale to 1, or reduce the distances to the grid; then measure again.",
    "height-outlier": "Check the target height.",
    "heights-differ": "Check both target heights, or sight a third point.",
    "stand-moved": "Set up again: everything measured since the last good closing sight is in doubt.",
    "danger-circle": "Measure one distance, or set up elsewhere.",
    "control-jump": "Do a two-face check before precise work.",
    "two-points-only": "Sight a third control point.",
    "weak-figure": "Sight a point at right angles to the others.",
    "direction-only": "Measure the distance to it.",
    "within-noise": "Sight it again, twice: the mean is more accurate.",
    "nothing-to-spare": "One more sight checks all the others.",
}


def reduce_free(document: FreeStation) -> Result:
    """A complete free station to its result. Raises Refused."""
    found = read(document)
    found.parser.demand_complete()
    return _result(judge_free(found))


def reduce_back(document: Backsight) -> Result:
    """A complete backsight to its result. Raises Refused."""
    found = read(document, station=document.observations.station, over_point=True)
    found.parser.demand_complete()
    return _result(judge_back(found))


def preview_free(document: FreeStation) -> OrientationPreview:
    """What can be said already; the plan of the points before there is a place."""
    return _preview(read(document), judge_free)


def preview_back(document: Backsight) -> OrientationPreview:
    """What can be said already of a backsight."""
    return _preview(read(document, station=document.observations.station, over_point=True), judge_back)


AT_SIGHTS = ("sun", "beam", "overhead-lines", "traffic", "turns-by-itself")
"""Cautions of an orientation with an instrument nothing is known of."""
LACKS = {"theodolite": ("beam", "turns-by-itself"), "total-station": ("turns-by-itself",)}
"""Cautions that do not concern a kind of instrument: no distance meter, no motor."""


def cautions_for(kind: str | None) -> list[Reason]:
    """Return the cautions of sighting control points with a kind of instrument, the gravest first."""
    return cautions(*(code for code in AT_SIGHTS if code not in LACKS.get(kind or "", ())))


def _preview(found: Read, judge: Callable[[Read], Judged]) -> OrientationPreview:
    result = None
    if not found.parser.missing and not found.parser.faults:
        result = _result(judge(found))
    site = result.plan if result is not None and result.plan is not None else plan(found, None)
    return OrientationPreview(
        complete=result is not None,
        missing=found.parser.missing,
        wanted=found.parser.wanted(),
        closing=CLOSING,
        cautions=cautions_for(found.document.instrument.kind),
        faults=found.parser.faults,
        progress=[_so_far(found, sight) for sight in found.sights],
        plan=site,
        **({"reduced": result} if result is not None else {}),
    )


def _so_far(found: Read, sight: Sight) -> Note:
    """Distance and height of one sight as they come out, before anything is solved."""
    words = length_words(found.document.units.length)
    rows = []
    if sight.horizontal_m is not None:
        rows.append(f"{words.reading(sight.horizontal_m)} {words.name} horizontal")
    if sight.rise_m is not None:
        rows.append(f"{words.reading(abs(sight.rise_m))} {words.name} {'up' if sight.rise_m > 0 else 'down'}")
    shots = found.document.observations.shots
    height, before = shots[sight.index].target_height, shots[sight.index - 1].target_height if sight.index else None
    if height is not None and before is not None and str(height).strip() != str(before).strip():
        rows.append(f"target height {height}, before {before}")
    return Note(path=f"observations.shots[{sight.index}]", text=joined(rows))


def _result(judged: Judged) -> Result:
    nexts = [(code, NEXT[code]) for code, _ in judged.reasons if code in NEXT]
    nexts = nexts or [("carry-on", "It agrees. Sight the reference again before you take the instrument down.")]
    shots = judged.read.document.observations.shots
    return _rounded(
        Result(
            kind=judged.read.document.kind,
            result=_figures(judged),
            finding=Finding(text=_finding(judged)),
            verdict=Verdict(
                grade=judged.grade,
                reasons=reasons(judged.reasons),
                next=reasons(nexts[:2]),
                parts=[_part(judged)] if judged.misfit is not None else [],
                set_aside=[f"observations.shots[{i}]" for i, shot in enumerate(shots) if shot.left_out],
            ),
            shown=_shown(judged),
            picture=None,
            plan=plan(judged.read, judged),
            work=[],
            cautions=cautions_for(judged.read.document.instrument.kind),
            worked=_worked(judged),
            core_version=__version__,
        )
    )


DECIMALS = {"_m": 6, "_deg": 8}
M = TypeVar("M", bound=BaseModel)


def _rounded(model: M) -> M:
    """Figures to a ten-thousandth of a millimetre or second, a micrometre in metres: a residual is the difference of large
    numbers, and its last digits are not the same on every machine."""
    values = {name: _rounded_value(getattr(model, name), name) for name in type(model).model_fields}
    return type(model).model_construct(_fields_set=set(model.model_fields_set), **values)


def _rounded_value(value: Any, name: str) -> Any:
    if isinstance(value, float):
        return rounded(value, next((places for ending, places in DECIMALS.items() if name.endswith(ending)), 4)) + 0.0
    if isinstance(value, BaseModel):
        return _rounded(value)
    return [_rounded_value(entry, name) for entry in value] if isinstance(value, list) else value


def _part(judged: Judged) -> VerdictPart:
    e, limits = judged.misfit, judged.limits
    assert e is not None
    grade: Grade = "repeat" if judged.grade == "repeat" else "use" if abs(e.value) <= limits.use else "watch"
    return VerdictPart(
        quantity="disagreement_mm",
        value=e.value,
        sigma=e.sigma,
        # A misfit is seen as it is; its σ says what was to be expected of it.
        u95=0.0,
        dof=e.dof,
        basis="a-priori",
        proved_to=abs(e.value),
        limits=LimitFigures(use=limits.use, watch=limits.watch, adjust=limits.adjust),
        why=limits.source,
        limit_text=f"Limit {limits.use:g} mm: {limits.source}",
        grade=grade,
    )


def _figures(judged: Judged) -> OrientationFigures:
    solution, sigma, suspect = judged.solution, judged.series_sigma_mm, judged.suspect
    return OrientationFigures(
        orientation_deg=judged.orientation_deg,
        sigma_orientation_arcsec=judged.orientation.sigma if judged.orientation else None,
        disagreement_mm=judged.series_mm,
        sigma_disagreement_mm=sigma,
        u95_disagreement_mm=None if sigma is None else Estimate(0.0, sigma, PRIOR_DOF).u95,
        points=[_point_figures(point) for point in judged.points],
        suspect=None if suspect is None else SuspectedPoints(kind=suspect.kind, names=list(suspect.names)),
        repeats=Repeats(squares=solution.squares if solution else 0.0, dof=float(solution.dof) if solution else 0.0),
        **_place_figures(judged),
        **_other_figures(judged),
    )


def _place_figures(judged: Judged) -> dict[str, Any]:
    """The place and how well the figure fixes it, as far as it was solved for or is known."""
    solution, station, s = judged.solution, judged.read.station, judged.strength
    if solution is None:
        return {} if station is None else {"e_m": station.e, "n_m": station.n}
    fields: dict[str, Any] = {"e_m": solution.e, "n_m": solution.n}
    fields |= {f"sigma_{name}_mm": _estimate(judged, i).sigma * 1000.0 for name, i in (("e", 0), ("n", 1))}
    if s is not None:
        fields["strength"] = FigureStrength(
            longest_mm=s.longest_m * 1000.0,
            shortest_mm=s.shortest_m * 1000.0,
            bearing_deg=s.bearing_deg,
            cut_deg=s.cut_deg,
        )
    return fields


def _other_figures(judged: Judged) -> dict[str, Any]:
    """Height, base, scale and closing sight, where there are any."""
    fields: dict[str, Any] = {}
    if judged.heights is not None:
        fields |= {"h_m": judged.heights.mean_m, "sigma_h_mm": judged.heights.sigma_m * 1000.0}
    if judged.base_m is not None:
        fields["base_misfit_mm"] = judged.base_m[0] * 1000.0
    if judged.scale is not None:
        fields["scale_ppm"], fields["sigma_scale_ppm"] = judged.scale
    if judged.closing_arcsec is not None:
        fields["closing_arcsec"] = judged.closing_arcsec[0]
    return fields


def _estimate(judged: Judged, i: int) -> Estimate:
    assert judged.solution is not None
    return estimate(judged.solution, 0.0, judged.solution.covariance(i, i))


def _point_figures(misfit: PointMisfit) -> PointResidual:
    def mm(value: float | None) -> float | None:
        return None if value is None else value * 1000.0

    return PointResidual(
        name=misfit.sight.point.name,
        path=f"observations.shots[{misfit.sight.index}]",
        along_mm=mm(misfit.along_m),
        across_mm=mm(misfit.across_m),
        height_mm=mm(misfit.height_m),
        sigma_along_mm=mm(misfit.sigma_along_m),
        sigma_across_mm=mm(misfit.sigma_across_m),
        sigma_height_mm=mm(misfit.sigma_height_m),
    )


def _finding(judged: Judged) -> str:
    words = judged.words
    if judged.read.document.kind == "backsight":
        station = judged.read.station
        assert station is not None
        names = joined([point.sight.point.name for point in judged.points])
        if judged.misfit is None:
            return f"At {station.name}, backsight {names}: orientation set, distance not checked."
        far = abs(judged.misfit.value) / 1000.0
        return (
            f"At {station.name}: {names} agrees within {words.small(far)}."
            if judged.grade != "repeat"
            else f"At {station.name}: {names} does not agree."
        )
    if judged.solution is None and judged.suspect is None and "no-solution" in dict(judged.reasons):
        return "Free station: no position agrees with these sights."
    if judged.grade == "repeat":
        return f"Free station by {len(judged.read.sights)} sights: they do not agree."
    if judged.strength is None or judged.misfit is None:
        return "Free station: position without a check."
    what = "base" if judged.base_m is not None else "largest residual"
    return f"Free station: {what} {words.small(abs(judged.misfit.value) / 1000.0)}, position within {words.small(judged.strength.longest_m)}."


def _shown(judged: Judged) -> list[Shown]:
    words, unit = judged.words, judged.read.document.units.angle
    rows: list[Shown] = []
    if judged.orientation_deg is not None and judged.orientation is not None:
        points_to, sure = angle_words(judged.orientation_deg, unit), arcsec(judged.orientation.u95)
        rows.append(
            row(
                "orientation_deg",
                "Bearing of circle zero",
                points_to,
                value=judged.orientation_deg,
                unit="deg",
                plus_minus=sure,
            )
        )
    if judged.solution is not None:
        place = (("e_m", "Easting", judged.solution.e), ("n_m", "Northing", judged.solution.n))
        for i, (name, label, value) in enumerate(place):
            sure = words.small(_estimate(judged, i).u95)
            rows.append(
                row(name, label, f"{words.reading(value)} {words.name}", value=value, unit="m", plus_minus=sure)
            )
    if judged.strength is not None and judged.strength.cut_deg:
        cut = judged.strength.cut_deg
        rows.append(row("cut_deg", "Best intersection angle", f"{figure(cut, 0)}°", value=cut, unit="deg"))
    return [*rows, *_shown_beside(judged)]


def _shown_beside(judged: Judged) -> list[Shown]:
    """Height, scale and the closing sight, where they were taken."""
    words, rows = judged.words, list[Shown]()
    if judged.heights is not None:
        height = judged.heights.mean_m
        sure = words.small(Estimate(0.0, judged.heights.sigma_m, PRIOR_DOF).u95)
        rows.append(
            row("h_m", "Height", f"{words.reading(height)} {words.name}", value=height, unit="m", plus_minus=sure)
        )
    if judged.scale is not None:
        scale, sigma = judged.scale
        sure = f"{figure(Estimate(0.0, sigma, PRIOR_DOF).u95, 0)} ppm"
        rows.append(
            row(
                "scale_ppm",
                "Scale of the distances, entered",
                f"{figure(scale, 0)} ppm",
                value=scale,
                unit="ppm",
                plus_minus=sure,
            )
        )
    if judged.closing_arcsec is not None:
        closing, sigma = judged.closing_arcsec
        sure = arcsec(Estimate(0.0, sigma, PRIOR_DOF).u95)
        rows.append(
            row("closing_arcsec", "Closing sight", arcsec(closing), value=closing, unit="arcsec", plus_minus=sure)
        )
    return rows


def angle_words(degrees: float, unit: str) -> str:
    """An angle in the document's own unit."""
    if unit == "gon":
        return f"{degrees / 0.9:.4f} gon"
    return f"{degrees:.5f}°" if unit == "deg" else show_dms(degrees % 360.0)


def _worked(judged: Judged) -> list[CalculationLine]:
    unit, words = judged.read.document.units.angle, judged.words
    lines: list[CalculationLine] = []
    station = judged.read.station
    for sight in judged.read.sights:
        e, n = (
            (judged.solution.e, judged.solution.n)
            if judged.solution
            else (station.e, station.n)
            if station
            else (0.0, 0.0)
        )
        bearing = math.degrees(bearing_rad(e, n, sight.point)) % 360.0
        text = f"{sight.point.name}: bearing {angle_words(bearing, unit)} − circle {angle_words(sight.hz_deg, unit)}"
        lines.append(line(text, angle_words((bearing - sight.hz_deg) % 360.0, unit)))
        if sight.horizontal_m is not None:
            far = distance_m(e, n, sight.point)
            text = f"{sight.point.name}: measured {words.reading(sight.horizontal_m)} − from coordinates {words.reading(far)}"
            lines.append(line(text, words.small(sight.horizontal_m - far)))
    if judged.solution is not None and judged.solution.dof > 0:
        lines.append(
            line("Σ (residual/σ)² / degrees of freedom", f"{judged.solution.squares:.2f} / {judged.solution.dof}")
        )
    return lines


WHERE = {
    "observations.instrument_height": "the instrument height",
    "observations.station": "the station point",
}


def where(path: str) -> str:
    """A path of an orientation, for the person."""
    return WHERE.get(path, path_in_words(path))
