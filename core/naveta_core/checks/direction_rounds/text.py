"""What rounds of directions say in words, and their drawing."""

from __future__ import annotations

from ...engine.drawing import deviations
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of, work_sight_m
from ...results import CalculationLine, DeviationsPicture, Effect, Shown
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, capital, count, figure
from .document import DirectionRounds, DirectionsRead
from .solve import DirectionsSolution, solve


def _packed(degrees: float) -> str:
    """An angle to be read: '74°42′13″'."""
    total = round(degrees * 3600) % (360 * 3600)
    return f"{total // 3600}°{total // 60 % 60:02d}′{total % 60:02d}″"


def finding_of(found: DirectionsSolution, sigma: float) -> str:
    """The finding as one sentence; sigma of a direction in arcsec."""
    e = found.collimation
    text = (
        f"c {figure(e.value, 1)}″ ± {arcsec(e.u95, e.u95)}"
        if abs(e.value) > e.u95
        else f"no collimation error found, within {arcsec(e.proved_to, e.proved_to)}"
    )
    directions, rounds = (
        count(len(found.targets) - 1, "direction", "directions"),
        count(len(found.c), "round", "rounds"),
    )
    sure = f"{directions} from target {found.targets[0]}, ± {arcsec(2 * sigma, 2 * sigma)} from {rounds}"
    return f"{capital(sure)}; {text}."


def shown_of(quantity: JudgedQuantity, found: DirectionsSolution, sigma: float) -> list[Shown]:
    """The result as people read it; sigma of a direction in arcsec."""
    rows = [
        row(
            f"direction_{k}",
            f"From {found.targets[0]} to {target}",
            _packed(value),
            value=value,
            unit="deg",
            plus_minus=arcsec(2 * sigma, 2 * sigma),
        )
        for k, (target, value) in enumerate(zip(found.targets, found.series.means, strict=True))
        if k
    ]
    rows.append(shown(quantity, "Collimation error c, all targets"))
    if found.series.dof:
        s = found.series.s
        rows.append(
            row(
                "direction_sigma_arcsec",
                "One direction, one measurement in both faces",
                arcsec(s, s),
                value=s,
                unit="arcsec",
            )
        )
    return rows


def worked_of(read: DirectionsRead, found: DirectionsSolution) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines = [line("Mean of both faces, then minus the reference", "x = (L + R ± 180°)/2, x′ = x − x₁")]
    for round_, c, residuals in zip(read.rounds, found.c, found.series.residuals, strict=True):
        text = "; ".join(
            f"{target} c {figure(v, 1)}″, r {figure(r, 1)}″"
            for target, v, r in zip(found.targets, c, residuals, strict=True)
        )
        lines.append(line(f"Set {round_.number}", text))
    for number, face, value in found.closing:
        lines.append(line(f"Reference at the end of set {number}, face {face}", f"{figure(value, 1)}″"))
    lines.append(
        line(
            "Mean of c, degrees of freedom",
            f"{figure(found.collimation.value, 2)}″, {figure(found.collimation.dof, 1)}",
        )
    )
    return lines


def work_of(document: DirectionRounds, sigma: float) -> Effect:
    """What such directions give across the line at the sights of the work; sigma in arcsec."""
    far, words = work_sight_m(document), words_of(document)
    aside = words.small(2 * sigma / ARCSEC_PER_RADIAN * far)
    return effect("direction-at-sight", f"At {words.height(far)} these directions are within {aside} sideways.")


def draw(document: DirectionRounds, read: DirectionsRead, judgement: Judgement | None) -> DeviationsPicture | None:
    """Every direction of every round less its mean, round by round."""
    if judgement is None:
        return None
    found = solve(document, read)
    points: list[tuple[str, float, float | None]] = []
    for round_, residuals in zip(read.rounds, found.series.residuals, strict=True):
        for k, value in enumerate(residuals):
            points.append((f"set {round_.number}, {found.targets[k]}", float(len(points) + 1), -value))
    return deviations("arcsec", points, None, "the mean of all sets", "target by target")
