"""What an angle accuracy test says in words, and its drawing."""

from __future__ import annotations

from ...engine.directions import twice_c_arcsec
from ...engine.drawing import deviations
from ...engine.kind import SheetProgress
from ...engine.rows import effect, line
from ...engine.verdict import Judgement
from ...engine.work import words_of, work_sight_m
from ...geometry import mean
from ...results import CalculationLine, DeviationsPicture, Effect
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure
from .document import AccuracyRead, DirectionAccuracy
from .solve import ReducedSeries, reduce_all

FAR_ARCSEC = 1800.0
"""Beyond it nothing is stated of c or i: something was typed or sighted wrongly."""


def finding_of(found: ReducedSeries, noun: str, stated: float | None) -> str:
    """The finding as one sentence; stated accuracy in arcsec, one standard deviation."""
    text = f", {stated:g}″ stated" if stated else ""
    return f"{noun.capitalize()}: {arcsec(found.s, found.s)}{text} with {found.dof} degrees of freedom."


def worked_of(found: ReducedSeries, *, horizontal: bool) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    head = (
        line("Mean of both faces, relative to the first target; r = d − d̄ of its set", "x = (I + II ± 180°)/2")
        if horizontal
        else line("Zenith angle from both faces; r from the mean of its target", "x = (I − II)/2 + 180°")
    )
    lines = [head]
    for i, s in enumerate(found.spreads, start=1):
        lines.append(line(f"Series {i}, {found.dof // len(found.spreads)} degrees of freedom", f"s = {figure(s, 2)}″"))
    lines.append(line("All series, one measurement in both faces", f"s = {figure(found.s, 2)}″"))
    return lines


def work_of(document: DirectionAccuracy, found: ReducedSeries, *, horizontal: bool) -> Effect:
    """What the error does to the work, at the sights or lengths named."""
    far, words = work_sight_m(document), words_of(document)
    aside = words.small(2 * found.s / ARCSEC_PER_RADIAN * far)
    what = "aside" if horizontal else "of height"
    return effect(
        "one-sight",
        f"Setting out in both faces at {words.height(far)} is within {aside} {what} (95 %).",
    )


def draw(document: DirectionAccuracy, read: AccuracyRead, judgement: Judgement | None) -> DeviationsPicture | None:
    """Every residual, set by set and target by target."""
    if judgement is None:
        return None
    points: list[tuple[str, float, float | None]] = []
    for i, residuals in enumerate(reduce_all(document, read).residuals, start=1):
        for j, residual in enumerate(residuals, start=1):
            for k, value in enumerate(residual.values()):
                label = (f"set {j}" if len(read.series) == 1 else f"series {i}" if j == 1 else "") if k == 0 else ""
                points.append((label, float(len(points) + 1), value))
    return deviations("arcsec", points, None, "the mean of all sets", "set by set")


def progress_of(document: DirectionAccuracy, read: AccuracyRead) -> SheetProgress:
    """c or i of the targets seen in both faces, and how it scatters, while the sets go in."""
    horizontal = document.observations.circle == "horizontal"
    pairs = [
        (set_.left[name].value, set_.right[name].value)
        for sets in read.series
        for set_ in sets
        for name in set_.targets
    ]
    if not pairs:
        return SheetProgress([])
    values = [twice_c_arcsec(a, b) / 2 if horizontal else (a + b - 360.0) * 1800 for a, b in pairs]
    if any(abs(value) > FAR_ARCSEC for value in values):
        return SheetProgress([])
    name, count = ("c", len(values)) if horizontal else ("i", len(values))
    text = f"{name} so far {figure(mean(values), 1)}″ from {count} {'target' if count == 1 else 'targets'}, {figure(min(values), 1)}″ to {figure(max(values), 1)}″."
    return SheetProgress([("running", text)])
