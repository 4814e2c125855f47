"""An orientation as a result: finding, figures, plan to draw, and how it was reckoned."""

from __future__ import annotations

import math
from typing import Any

from .. import __version__
from ..angles import show_dms
from ..cautions import cautions
from ..judgement import Estimate
from ..priors import PRIOR_DOF
from ..wording import arcsec, figure, joined, length_words
from .back import judge_back
from .figures import PointMisfit, estimate
from .free import judge_free
from .judged import Judged
from .model import Backsight, FreeStation
from .plan import plan
from .read import Read, read
from .solve import bearing_rad, distance_m

Data = dict[str, Any]
CLOSING = (
    "Before you take it down, and after any doubt: sight the reference once more. It tells whether the stand moved."
)
NEXT = {
    "counts-otherwise": "Say which way the circle counts; nothing need be sighted again.",
    "angle-unit": "Set the unit in which the circle reads.",
    "feet-and-metres": "Set the unit of the distances, or of the points.",
    "point-apart": "Sight the point that stands apart once more; never move a known mark to fit.",
    "points-swapped": "Give each its own name: nothing need be sighted again.",
    "constant": "Set the constant of the prism that is used, and measure the distances again.",
    "scale": "Set the scale to 1, or reduce the distances to the grid; then measure again.",
    "height-apart": "Read the target height once more.",
    "heights-differ": "Read both target heights once more, or sight a third point.",
    "stand-moved": "Set up again: what was measured since the last good look is in doubt.",
    "danger-circle": "Measure one distance, or stand elsewhere.",
    "control-jump": "Look at the instrument in two faces before fine work.",
    "two-points-only": "Sight a third known point.",
    "weak-figure": "Sight a point more across the others.",
    "direction-only": "Measure the distance to it.",
    "within-noise": "Sight it again, twice: the mean scatters less.",
    "nothing-to-spare": "One sight more checks all the others.",
}


def reduce_free(document: FreeStation) -> Data:
    found = read(document)
    found.sheet.demand_complete()
    return _result(judge_free(found))


def reduce_back(document: Backsight) -> Data:
    found = read(document, station=document.observations.station, over_point=True)
    found.sheet.demand_complete()
    return _result(judge_back(found))


def preview_free(document: FreeStation) -> Data:
    """What can be said already; the plan of the points before there is a place."""
    return _preview(read(document), judge_free)


def preview_back(document: Backsight) -> Data:
    return _preview(read(document, station=document.observations.station, over_point=True), judge_back)


def _preview(found: Read, judge: Any) -> Data:
    complete = not found.sheet.missing and not found.sheet.faults
    answer: Data = {
        "complete": complete,
        "missing": found.sheet.missing,
        "wanted": found.sheet.wanted(),
        "closing": CLOSING,
        "faults": [fault.as_dict() for fault in found.sheet.faults],
        "sofar": [_so_far(found, sight) for sight in found.sights],
        "plan": plan(found, None),
    }
    if complete:
        result = _result(judge(found))
        return {**answer, "plan": result["plan"], "reduced": result}
    return answer


def _so_far(found: Read, sight: Any) -> Data:
    """Distance and height of one sight as they come out, before anything is solved."""
    words = length_words(found.document.units.length)
    told = []
    if sight.horizontal_m is not None:
        told.append(f"{words.reading(sight.horizontal_m)} {words.name} level")
    if sight.rise_m is not None:
        told.append(f"{words.reading(abs(sight.rise_m))} {words.name} {'up' if sight.rise_m > 0 else 'down'}")
    shots = found.document.observations.shots
    height, before = shots[sight.index].target_height, shots[sight.index - 1].target_height if sight.index else None
    if height is not None and before is not None and str(height).strip() != str(before).strip():
        told.append(f"target height {height}, before {before}")
    return {"path": f"observations.shots[{sight.index}]", "text": joined(told)}


def _result(judged: Judged) -> Data:
    kind = judged.read.document.kind
    nexts = [{"code": code, "text": NEXT[code]} for code, _ in judged.reasons if code in NEXT]
    grade = judged.grade
    if not nexts:
        nexts = [{"code": "carry-on", "text": "It agrees. Look back at the reference before you take the stand down."}]
    told: Data = {
        "kind": kind,
        "result": _figures(judged),
        "finding": {"text": _finding(judged)},
        "verdict": {
            "grade": grade,
            "reasons": [{"code": code, "text": text} for code, text in judged.reasons],
            "next": nexts[:2],
            "parts": [_part(judged)] if judged.misfit is not None else [],
            "set_aside": [
                f"observations.shots[{i}]"
                for i, shot in enumerate(judged.read.document.observations.shots)
                if shot.left_out
            ],
        },
        "shown": _shown(judged),
        "picture": None,
        "plan": plan(judged.read, judged),
        "work": [],
        "cautions": cautions("traffic", "sun"),
        "worked": _worked(judged),
        "core_version": __version__,
    }
    return dict(_rounded(told))


DECIMALS = {"_m": 6, "_deg": 8}


def _rounded(data: Any, name: str = "") -> Any:
    """Figures to a ten-thousandth of a millimetre or second, a micrometre in metres: a residual is the difference of large
    numbers, and its last digits are not the same on every machine."""
    if isinstance(data, float):
        return round(data, next((places for ending, places in DECIMALS.items() if name.endswith(ending)), 4)) + 0.0
    if isinstance(data, dict):
        return {key: _rounded(value, key) for key, value in data.items()}
    return [_rounded(value, name) for value in data] if isinstance(data, list) else data


def _part(judged: Judged) -> Data:
    e, limits = judged.misfit, judged.limits
    assert e is not None
    grade = "repeat" if judged.grade == "repeat" else "use" if abs(e.value) <= limits.use else "watch"
    return {
        "quantity": "disagreement_mm",
        "value": e.value,
        "sigma": e.sigma,
        # A misfit is seen as it is; its σ says what was to be expected of it.
        "u95": 0.0,
        "dof": e.dof,
        "basis": "a-priori",
        "proved_to": abs(e.value),
        "limits": {"use": limits.use, "watch": limits.watch, "adjust": limits.adjust},
        "why": limits.source,
        "limit_text": f"Limit {limits.use:g} mm: {limits.source}",
        "grade": grade,
    }


def _figures(judged: Judged) -> Data:
    solution, station = judged.solution, judged.read.station
    told: Data = {
        "orientation_deg": judged.orientation_deg,
        "sigma_orientation_arcsec": judged.orientation.sigma if judged.orientation else None,
        "disagreement_mm": judged.series_mm,
        "sigma_disagreement_mm": judged.series_sigma_mm,
        "u95_disagreement_mm": None
        if judged.series_sigma_mm is None
        else Estimate(0.0, judged.series_sigma_mm, PRIOR_DOF).u95,
        "points": [_point_figures(one) for one in judged.points],
        "suspect": None
        if judged.suspect is None
        else {"kind": judged.suspect.kind, "names": list(judged.suspect.names)},
        "repeats": {"squares": solution.squares if solution else 0.0, "dof": float(solution.dof) if solution else 0.0},
    }
    if solution is not None:
        told |= {"e_m": solution.e, "n_m": solution.n}
        for name, i in (("e", 0), ("n", 1)):
            told[f"sigma_{name}_mm"] = _estimate(judged, i).sigma * 1000.0
        if judged.strength is not None:
            s = judged.strength
            told["strength"] = {
                "longest_mm": s.longest_m * 1000.0,
                "shortest_mm": s.shortest_m * 1000.0,
                "bearing_deg": s.bearing_deg,
                "cut_deg": s.cut_deg,
            }
    elif station is not None:
        told |= {"e_m": station.e, "n_m": station.n}
    if judged.heights is not None:
        told |= {"h_m": judged.heights.mean_m, "sigma_h_mm": judged.heights.sigma_m * 1000.0}
    if judged.base_m is not None:
        told["base_misfit_mm"] = judged.base_m[0] * 1000.0
    if judged.scale is not None:
        told["scale_ppm"], told["sigma_scale_ppm"] = judged.scale
    if judged.closing_arcsec is not None:
        told["closing_arcsec"] = judged.closing_arcsec[0]
    return told


def _estimate(judged: Judged, i: int) -> Estimate:
    assert judged.solution is not None
    return estimate(judged.solution, 0.0, judged.solution.covariance(i, i))


def _point_figures(one: PointMisfit) -> Data:
    def mm(value: float | None) -> float | None:
        return None if value is None else value * 1000.0

    return {
        "name": one.sight.point.name,
        "path": f"observations.shots[{one.sight.index}]",
        "along_mm": mm(one.along_m),
        "across_mm": mm(one.across_m),
        "height_mm": mm(one.height_m),
        "sigma_along_mm": mm(one.sigma_along_m),
        "sigma_across_mm": mm(one.sigma_across_m),
        "sigma_height_mm": mm(one.sigma_height_m),
    }


def _finding(judged: Judged) -> str:
    words = judged.words
    if judged.read.document.kind == "backsight":
        station = judged.read.station
        assert station is not None
        names = joined([one.sight.point.name for one in judged.points])
        if judged.misfit is None:
            return f"Over {station.name}, looking at {names}: direction set, distance not checked."
        far = abs(judged.misfit.value) / 1000.0
        return (
            f"Over {station.name}: {names} agrees within {words.small(far)}."
            if judged.grade != "repeat"
            else f"Over {station.name}: it does not agree with {names}."
        )
    if judged.solution is None and judged.suspect is None and "no-solution" in dict(judged.reasons):
        return "Free station: no place fits these sights."
    if judged.grade == "repeat":
        return f"Free station by {len(judged.read.sights)} sights: they do not agree."
    if judged.strength is None or judged.misfit is None:
        return "Free station: a place, and nothing that checks it."
    what = "base" if judged.base_m is not None else "largest misfit"
    return f"Free station: {what} {words.small(abs(judged.misfit.value) / 1000.0)} off, the place within {words.small(judged.strength.longest_m)}."


def _shown(judged: Judged) -> list[Data]:
    words, unit = judged.words, judged.read.document.units.angle
    rows: list[Data] = []

    def row(quantity: str, label: str, text: str, plus_minus: str | None, value: float, unit_name: str) -> None:
        rows.append(
            {
                "quantity": quantity,
                "label": label,
                "text": text,
                "plus_minus": plus_minus,
                "value": value,
                "unit": unit_name,
                "per_canonical": 1.0,
            }
        )

    if judged.orientation_deg is not None and judged.orientation is not None:
        row(
            "orientation_deg",
            "Circle zero points to",
            angle_words(judged.orientation_deg, unit),
            arcsec(judged.orientation.u95),
            judged.orientation_deg,
            "deg",
        )
    if judged.solution is not None:
        for name, label, i, value in (
            ("e_m", "Easting", 0, judged.solution.e),
            ("n_m", "Northing", 1, judged.solution.n),
        ):
            row(name, label, f"{words.reading(value)} {words.name}", words.small(_estimate(judged, i).u95), value, "m")
    if judged.strength is not None and judged.strength.cut_deg:
        cut = judged.strength.cut_deg
        row("cut_deg", "Best cut of two sights", f"{figure(cut, 0)}°", None, cut, "deg")
    if judged.heights is not None:
        row(
            "h_m",
            "Height",
            f"{words.reading(judged.heights.mean_m)} {words.name}",
            words.small(Estimate(0.0, judged.heights.sigma_m, PRIOR_DOF).u95),
            judged.heights.mean_m,
            "m",
        )
    if judged.scale is not None:
        row(
            "scale_ppm",
            "Scale of the distances, told",
            f"{figure(judged.scale[0], 0)} ppm",
            f"{figure(Estimate(0.0, judged.scale[1], PRIOR_DOF).u95, 0)} ppm",
            judged.scale[0],
            "ppm",
        )
    if judged.closing_arcsec is not None:
        row(
            "closing_arcsec",
            "Closing look",
            arcsec(judged.closing_arcsec[0]),
            arcsec(Estimate(0.0, judged.closing_arcsec[1], PRIOR_DOF).u95),
            judged.closing_arcsec[0],
            "arcsec",
        )
    return rows


def angle_words(degrees: float, unit: str) -> str:
    """An angle in the document's own unit."""
    if unit == "gon":
        return f"{degrees / 0.9:.4f} gon"
    return f"{degrees:.5f}°" if unit == "deg" else show_dms(degrees % 360.0)


def _worked(judged: Judged) -> list[Data]:
    unit, words = judged.read.document.units.angle, judged.words
    lines: list[Data] = []
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
        lines.append({"text": text, "value": angle_words((bearing - sight.hz_deg) % 360.0, unit)})
        if sight.horizontal_m is not None:
            far = distance_m(e, n, sight.point)
            text = f"{sight.point.name}: measured {words.reading(sight.horizontal_m)} − from coordinates {words.reading(far)}"
            lines.append({"text": text, "value": words.small(sight.horizontal_m - far)})
    if judged.solution is not None and judged.solution.dof > 0:
        lines.append(
            {
                "text": "Σ (residual/σ)² over what is to spare",
                "value": f"{judged.solution.squares:.2f} / {judged.solution.dof}",
            }
        )
    return lines


WHERE = {
    "observations.instrument_height": "the height of the instrument",
    "observations.station": "the point you stand over",
}


def where(path: str) -> str:
    """A path of an orientation, for the person."""
    return WHERE.get(path, path.removeprefix("observations.").replace("_", " ").replace(".", ", "))
