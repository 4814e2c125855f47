"""What a plummet check says in words, and its drawing."""

from __future__ import annotations

from math import fsum, hypot

from ...engine.drawing import circle
from ...engine.repeats import last_repeat
from ...engine.reports import figures_of
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...results import CalculationLine, CirclePicture, Effect, Shown
from ...stats.estimate import Estimate
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, aside, capital, figure
from .document import Plummet, PlummetFigures, TargetsRead, where
from .solve import ByHeight, SolvedSet


def turn_of(read: TargetsRead, entry: SolvedSet) -> str:
    """What to turn, and where the plummet has to point; millimetres on the paper."""
    if not read.turned:
        return f"Move the plummet on to the reference point, {aside(-entry.offset[0], -entry.offset[1])} from where it is now, one pair of screws at a time."
    at = f"{figure(entry.axis[0], 1)}, {figure(entry.axis[1], 1)}"
    return f"Do not touch the foot screws. Mark the axis at {at} on the paper, the middle of the marks. Move the plummet on to it, one pair of screws at a time."


def finding_of(document: Plummet, offset: tuple[float, float], e: Estimate, height_m: float) -> str:
    """The finding as one sentence; offset in mm, height_m in metres."""
    at = words_of(document).height(height_m)
    name = "laser plummet" if document.instrument.plummet == "laser" else "plummet"
    if e.value <= 2.0 * e.sigma:
        return f"{capital(name)}: no error found, within {figure(e.proved_to, 1)} mm at {at}."
    return f"{capital(name)} {figure(e.value, 1)} mm off the axis at {at}, ± {figure(e.u95, 1)} mm: {aside(*offset)}."


def shown_of(
    quantity: JudgedQuantity, figures: PlummetFigures, parts: ByHeight | None, words: LengthWords
) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    rows = [
        shown(quantity, f"Offset from the axis at {words.height(figures.at_height_m)}"),
        row(
            "offset_arcsec",
            "As an angle",
            f"{figure(figures.offset_arcsec, 0)}″",
            value=figures.offset_arcsec,
            unit="arcsec",
        ),
        row(
            "axis_x_mm",
            "Axis on the paper, right",
            f"{figure(figures.axis_x_mm, 2)} mm",
            value=figures.axis_x_mm,
            unit="mm",
        ),
        row(
            "axis_y_mm",
            "Axis on the paper, away",
            f"{figure(figures.axis_y_mm, 2)} mm",
            value=figures.axis_y_mm,
            unit="mm",
        ),
    ]
    if parts is not None and figures.sideways_mm is not None and figures.angular_arcsec is not None:
        rows.append(
            row(
                "sideways_mm",
                "Sideways offset",
                f"{figure(figures.sideways_mm, 2)} mm",
                value=figures.sideways_mm,
                unit="mm",
            )
        )
        rows.append(
            row(
                "angular_arcsec",
                "Tilt of the plummet line",
                f"{figure(figures.angular_arcsec, 0)}″",
                value=figures.angular_arcsec,
                unit="arcsec",
            )
        )
    return rows


def worked_of(read: TargetsRead, sets: list[SolvedSet], e: Estimate, words: LengthWords) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    lines = [
        line(
            "The constant part is the axis, the part that turns is plummet error",
            "mark(θ) = axis + Rot(θ)·o" if read.turned else "mark = reference point + o",
        )
    ]
    for (_, spots), set_ in zip(read.sets, sets, strict=True):
        for spot in spots:
            at = f"heading {spot.heading_deg:g}°, " if read.turned else ""
            lines.append(
                line(
                    f"{where(spot.path).split(', ')[-1].capitalize()}, {at}{words.height(set_.height_m)}",
                    f"{figure(spot.x, 2)}, {figure(spot.y, 2)} mm",
                )
            )
        lines.append(
            line(
                f"Axis on the paper, {words.height(set_.height_m)}",
                f"{figure(set_.axis[0], 3)}, {figure(set_.axis[1], 3)} mm",
            )
        )
        lines.append(
            line(
                "Offset at heading 0",
                f"{figure(set_.offset[0], 3)}, {figure(set_.offset[1], 3)} mm; size {figure(hypot(*set_.offset), 3)} mm",
            )
        )
    lines.append(
        line("Standard uncertainty of each part, degrees of freedom", f"{figure(e.sigma, 3)} mm, {figure(e.dof, 1)}")
    )
    return lines


def work_of(e: Estimate, height_m: float, words: LengthWords) -> list[Effect]:
    """What the error does to the work, at the sights or lengths named."""
    angle = e.value / (height_m * 1000)
    rows = [
        effect(
            f"over-{h:g}-m", f"Set up at {words.height(h)}, it centres {figure(angle * h * 1000, 1)} mm off the mark."
        )
        for h in (1.3, 1.5, 1.8)
    ]
    seconds = e.value / 20_000 * ARCSEC_PER_RADIAN
    return [
        *rows,
        effect("at-a-short-sight", f"A sight of {words.distance(20)} is turned by up to {figure(seconds, 0)}″."),
    ]


def axis_of(judgement: Judgement) -> tuple[float, float]:
    """Where the axis meets the last sheet, mm."""
    figures = figures_of(judgement, PlummetFigures)
    assert figures is not None
    return figures.axis_x_mm, figures.axis_y_mm


def draw(_document: Plummet, read: TargetsRead, judgement: Judgement | None) -> CirclePicture:
    """The last sheet: every other has an axis of its own."""
    spots = last_repeat(read.sets[-1][1]) if read.sets else []
    points = [(spot.x, spot.y, f"{spot.heading_deg:g}°" if read.turned else "", spot.path) for spot in spots]
    own = "plummet offset"
    figures = figures_of(judgement, PlummetFigures)
    if judgement is None or figures is None:
        return circle("mm", points, None, radius=None, centre_label="axis", radius_label=own, x="right", y="away")
    axis = (figures.axis_x_mm, figures.axis_y_mm)
    radius = fsum(hypot(spot.x - axis[0], spot.y - axis[1]) for spot in spots) / len(spots)
    return circle(
        "mm", points, axis, radius=radius, centre_label="axis", radius_label=own,
        x="right", y="away", limit=judgement.quantities[0].limits.use, limit_about="centre",
    )  # fmt: skip
