"""What a two-face measurement says in words: finding, raw figures and halves, effect, how it was reckoned."""

from __future__ import annotations

from math import cos, radians, sin, tan
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...judgement import Estimate
from ...wording import MINUS, arcsec, figure, joined
from ..sheet.judged import Quantity, effect, line, row, shown
from .model import TwoFace
from .solve import Solution

Data = dict[str, Any]


def signed(value: float) -> str:
    text = figure(value, 1)
    return f"{text}″" if text.startswith(MINUS) else f"+{text}″"


def finding_of(solution: Solution) -> str:
    """One sentence: what is beyond its own ±, and what is not."""
    told: list[tuple[str, Estimate]] = [("c", solution.collimation), ("i", solution.index)]
    if solution.axis is not None:
        told.append(("t", solution.axis))
    seen = [f"{name} {signed(e.value)} ± {arcsec(e.u95, e.u95)}" for name, e in told if abs(e.value) > e.u95]
    quiet = [f"{name} within {arcsec(e.proved_to, e.proved_to)}" for name, e in told if abs(e.value) <= e.u95]
    if not seen:
        return f"No error shown: {joined(quiet)}."
    return f"Face left reads too large by {joined(seen)}" + (f"; {joined(quiet)}." if quiet else ".")


def shown_of(quantities: list[Quantity], solution: Solution) -> list[Data]:
    names = {
        "collimation_arcsec": "Sighting error c",
        "index_arcsec": "Vertical index i",
        "tilting_axis_arcsec": "Tilting axis t",
    }
    rows = [shown(one, names[one.name], signed(one.estimate.value)) for one in quantities]
    for one in solution.faces:
        raw = f"2c {signed(one.double_c * sin(radians(one.zenith_deg)))}, 2i {signed(one.index_sum)}"
        rows.append(
            row(f"raw_{len(rows)}", f"Raw, {one.seen.name}: both faces' difference", raw, one.double_c, "arcsec")
        )
    return rows


def worked_of(solution: Solution) -> list[Data]:
    lines = [
        line("Face left less face right, less 180°", "d = 2c/sin z + 2t·cot z"),
        line("Face left and face right, less 360°", "V_L + V_R − 360° = 2i"),
    ]
    for one in solution.faces:
        told = (
            f"z {figure(one.zenith_deg, 2)}°: d = {figure(one.double_c, 1)}″, sum − 360° = {figure(one.index_sum, 1)}″"
        )
        lines.append(line(f"{one.seen.name}, {len(one.seen.left)} left, {len(one.seen.right)} right", told))
    if len(solution.faces) == 1:
        one = solution.faces[0]
        lines.append(
            line(
                "Half of it, at its height",
                f"c = {figure(one.double_c, 1)}·sin z/2 = {figure(solution.collimation.value, 2)}″",
            )
        )
    else:
        t = "" if solution.axis is None else f", t = {figure(solution.axis.value, 2)}″"
        lines.append(line("Least squares over all marks", f"c = {figure(solution.collimation.value, 2)}″{t}"))
    lines.append(line("Half the sum", f"i = {figure(solution.index.value, 2)}″"))
    for name, e in (("c", solution.collimation), ("i", solution.index), ("t", solution.axis)):
        if e is not None:
            lines.append(
                line(
                    f"Standard uncertainty of {name}, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"
                )
            )
    return lines


def work_of(document: TwoFace, solution: Solution) -> list[Data]:
    """What one face alone would cost at the sights of the work."""
    far, steep = document.work.sight_m, min(abs(document.work.elevation_deg), 80.0)
    c, i = abs(solution.collimation.value), abs(solution.index.value)
    aside, high = (value / ARCSEC_PER_RADIAN * far * 1000 for value in (c, i))
    told = [
        effect(
            "one-face",
            f"In one face: {figure(aside, 2)} mm aside and {figure(high, 2)} mm of height at {far:g} m. The mean of both faces is free of both.",
        )
    ]
    t = abs(solution.axis.value) if solution.axis else 0.0
    turned = abs(c / cos(radians(steep)) - c) + t * tan(radians(steep))
    if steep > 1:
        told.append(
            effect(
                "steep-sight",
                f"Between a level sight and one {steep:g}° steep, one face turns by up to {arcsec(turned)} more.",
            )
        )
    return told
