"""What a check of a plate vial says in words, and its drawing."""

from __future__ import annotations

from math import cos, radians, sin

from ...engine.drawing import tube
from ...engine.repeats import last_repeat
from ...engine.reports import figures_of
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...geometry import polar
from ...results import CalculationLine, Effect, Shown, TubePicture
from ...units.formatting import figure
from .document import PlateVial, PlateVialFigures, TubesRead
from .solve import PlateVialSolution


def placed(div: float) -> str:
    """'1.2 div left of the middle'. Div in divisions, right positive."""
    if abs(div) < 0.05:
        return "in the middle"
    return f"{figure(abs(div), 1)} div {'right' if div > 0 else 'left'} of the middle"


def finding_of(e: float, u: float, found: PlateVialSolution) -> str:
    """The finding as one sentence; e and u in divisions, right positive."""
    if abs(e) <= u:
        return f"Plate level: no error found; reversing point {placed(e)}, ± {figure(u, 1)} div"
    seconds = figure(abs(e) * found.seconds, 0)
    return f"Plate level: reversing point {placed(e)}, ± {figure(u, 1)} div: {seconds}″ is level vial error."


def halves_of(read: TubesRead, found: PlateVialSolution) -> str:
    """What was seen at the last heading, and whose each part is."""
    last = last_repeat(read.tubes)[-1]
    own = found.rest(last.vial)
    tilt = last.bubble - own - found.residuals[read.tubes.index(last)]
    return f"Last reading: {figure(last.bubble, 1)} div. Tilt of the axis: {figure(tilt, 1)} div; level vial error: {figure(own, 1)} div."


def shown_of(quantities: list[JudgedQuantity], found: PlateVialSolution) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    bearing, size = polar(*found.tilt)
    rows = [
        shown(
            quantity,
            "Reversing point" if not found.second else f"Reversing point: {quantity.noun.removeprefix('the ')}",
        )
        for quantity in quantities
    ]
    value = quantities[0].estimate.value * found.seconds
    rows.append(
        row("vial_error_arcsec", "Level vial error as an angle", f"{figure(value, 0)}″", value=value, unit="arcsec")
    )
    text = (
        f"{figure(size, 0)}″, high side {figure(bearing, 0)}°"
        if found.whole
        else f"{figure(size, 0)}″ along the vial, high side {figure(bearing, 0)}°"
    )
    rows.append(row("tilt_arcsec", "Tilt of the axis", text, value=size, unit="arcsec"))
    return rows


def worked_of(read: TubesRead, found: PlateVialSolution) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    rest, e = found.solved.fit.unknowns[0], found.solved.estimate(0)
    lines = [line("Each heading gives one equation", "b·s = T·u(heading) + e·s, u = (sin, cos)")]
    for entry, v in zip(read.tubes, found.residuals, strict=True):
        misfit = "" if found.solved.fit.redundancy < 1 else f"; residual {figure(v, 2)}"
        vial = f", vial {entry.vial}" if found.second else ""
        lines.append(line(f"Right end at {entry.heading_deg:g}°{vial}", f"b = {figure(entry.bubble, 2)} div{misfit}"))
    if len(read.tubes) == 2 and not found.second:
        a, b = (tube.bubble for tube in read.tubes)
        lines.append(
            line(
                "Half the sum is level vial error",
                f"e = ({figure(a, 2)} + {figure(b, 2)}) / 2 = {figure(rest, 2)} div".replace("+ −", "− "),
            )
        )
    else:
        lines.append(
            line(
                "Least squares, equal weights",
                f"e = {figure(rest, 3)} div = {figure(rest * found.seconds, 1)}″ at {found.seconds:g}″ a division",
            )
        )
    lines.append(line("Tilt, right and up", f"{figure(found.tilt[0], 1)}″, {figure(found.tilt[1], 1)}″"))
    lines.append(line("Standard uncertainty, degrees of freedom", f"{figure(e.sigma, 3)} div, {figure(e.dof, 1)}"))
    return lines


def work_of(document: PlateVial, found: PlateVialSolution, rest: float) -> list[Effect]:
    """What levelling with the bubble in the middle would do to directions at steep sights.

    Rest in divisions, right positive.
    """
    steep = document.work.elevation_deg
    tilt = abs(rest) * found.seconds
    most = tilt * abs(sin(radians(steep))) / max(0.05, cos(radians(steep)))
    text = f"If the bubble is centred instead, the axis tilts {figure(tilt, 0)}″: up to {figure(most, 0)}″ in a direction at {steep:g}° elevation, and both faces do not remove it."
    return [effect("set-to-middle", text), effect("set-to-rest", f"Set {placed(rest)}, there is no error.")]


def draw(_document: PlateVial, read: TubesRead, judgement: Judgement | None) -> TubePicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    figures = figures_of(judgement, PlateVialFigures)
    rest = figures.reversal_div if figures else None
    shares: list[float | None] = [None] * len(read.tubes)
    if figures:
        rests, misfits = (figures.reversal_div, figures.reversal_2_div or 0.0), figures.residuals_div
        shares = [tube.bubble - rests[tube.vial - 1] - v for tube, v in zip(read.tubes, misfits, strict=True)]
    half = max([3.0, *(abs(tube.bubble) + 1 for tube in read.tubes)])
    return tube(
        [(f"right end {tube.heading_deg:g}°", tube.bubble, tube.path) for tube in read.tubes], rest, shares, half
    )
