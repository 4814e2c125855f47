"""What a check of an electronic level says in words."""

from __future__ import annotations

from math import radians, tan

from ...engine.drawing import circle
from ...engine.repeats import last_repeat
from ...engine.reports import figures_of
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of, work_sight_m
from ...results import CalculationLine, CirclePicture, Effect, Shown
from ...stats.row_fit import Solved
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure
from .document import DualAxisLevel, DualAxisLevelFigures, LevelRead


def finding_of(quantities: list[JudgedQuantity], tilt: float) -> str:
    """The finding as one sentence; tilt in arcsec."""
    parts = []
    for entry, plus, minus in ((quantities[0], "forward", "back"), (quantities[1], "right", "left")):
        e = entry.estimate
        if abs(e.value) > e.u95:
            parts.append(f"{arcsec(abs(e.value), e.u95)} {plus if e.value > 0 else minus}")
    u = max(quantity.estimate.u95 for quantity in quantities)
    if not parts:
        most = max(quantity.estimate.proved_to for quantity in quantities)
        return f"Electronic level: no error found, index within {arcsec(most, most)} on both axes. Tilt of the axis: {arcsec(tilt, 1)}."
    return f"Electronic level: index error {' and '.join(parts)}, ± {arcsec(u, u)}; tilt of the axis {arcsec(tilt, 1)}."


def shown_of(quantities: list[JudgedQuantity], bearing: float, size: float) -> list[Shown]:
    """The result as people read it; bearing in degrees, size in arcsec."""
    return [
        shown(quantities[0], "Index error along the sight"),
        shown(quantities[1], "Index error across"),
        row(
            "tilt_arcsec",
            "Tilt of the axis",
            f"{arcsec(size)}, high side {figure(bearing, 0)}°",
            value=size,
            unit="arcsec",
        ),
    ]


def worked_of(read: LevelRead, solved: Solved, quantities: list[JudgedQuantity]) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines = [line("Each heading gives two equations", "along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across")]
    for figure_ in read.figures:
        lines.append(
            line(
                f"Heading {figure_.heading_deg:g}°",
                f"along {figure(figure_.along, 1)}″, across {figure(figure_.across, 1)}″",
            )
        )
    if len(read.figures) == 2:
        a, b = read.figures
        for word, x, y in (("along", a.along, b.along), ("across", a.across, b.across)):
            lines.append(
                line(
                    f"Half the sum is the index error {word}",
                    f"({figure(x, 1)} + {figure(y, 1)}) / 2 = {figure((x + y) / 2, 2)}″".replace("+ −", "− "),
                )
            )
    else:
        lines.append(
            line(
                "Least squares, equal weights",
                f"i_along = {figure(quantities[0].estimate.value, 2)}″, i_across = {figure(quantities[1].estimate.value, 2)}″",
            )
        )
    lines.append(
        line(
            "Tilt of the axis, right and up",
            f"{figure(solved.fit.unknowns[-2], 1)}″, {figure(solved.fit.unknowns[-1], 1)}″",
        )
    )
    e = quantities[0].estimate
    lines.append(line("Standard uncertainty of each, degrees of freedom", f"{figure(e.sigma, 2)}″, {figure(e.dof, 1)}"))
    return lines


def work_of(document: DualAxisLevel, along: float, across: float) -> list[Effect]:
    """The effect of an index at the sights of the work: one face, and where both faces help.

    Along and across in arcsec, high side forward and right positive.
    """
    far, steep, words = work_sight_m(document), document.work.elevation_deg, words_of(document)
    height = words.small(abs(along) / ARCSEC_PER_RADIAN * far, 1)
    turned = abs(across) * abs(tan(radians(min(steep, 80.0))))
    return [
        effect(
            "index-along",
            f"Along: {arcsec(abs(along))} in every vertical angle of one face, {height} in height at {words.height(far)}. The mean of both faces is free of it.",
        ),
        effect(
            "index-across",
            f"Across: {arcsec(turned)} in a direction at {steep:g}° elevation, one face; none at a level sight.",
        ),
    ]


def draw(_document: DualAxisLevel, read: LevelRead, judgement: Judgement | None) -> CirclePicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    figures = figures_of(judgement, DualAxisLevelFigures)
    centre = (figures.index_across_arcsec, figures.index_along_arcsec) if figures else None
    radius = figures.tilt_arcsec if figures else None
    points = [
        (figure.across, figure.along, f"{figure.heading_deg:g}°", figure.path) for figure in last_repeat(read.figures)
    ]
    limit = judgement.quantities[0].limits.use if judgement else None
    return circle(
        "arcsec",
        points,
        centre,
        radius=radius,
        centre_label="index",
        radius_label="tilt of the axis",
        x="across",
        y="along",
        limit=limit,
    )
