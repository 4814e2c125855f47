"""What a check of a circular vial says in words, and its drawing."""

from __future__ import annotations

from math import cos, hypot, radians, sin

from ...documents.envelope import Envelope
from ...engine.drawing import circle
from ...engine.repeats import last_repeat
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity, Judgement
from ...geometry import angle_between_deg, polar
from ...results import CalculationLine, CirclePicture, CodedText, Effect, Shown
from ...units.formatting import aside, figure
from .document import BubblesRead, CircularVialFigures, where
from .solve import VialError


def minutes(mm: float, sensitivity: float) -> str:
    """A vial reading in mm as an angle in words; sensitivity in minutes of arc per 2 mm."""
    return f"{figure(mm * sensitivity / 2, 1)}′"


def halves_of(read: BubblesRead, found: VialError) -> str | None:
    """What was seen at the last heading, and whose each half is."""
    if found.tilt is None:
        return None
    last = last_repeat(read.bubbles)[-1]
    s, c = sin(radians(last.heading_deg)), cos(radians(last.heading_deg))
    tilt = (found.tilt[0] * c - found.tilt[1] * s, found.tilt[0] * s + found.tilt[1] * c)
    return f"Last reading: {aside(last.x, last.y)}. Tilt of the axis: {aside(*tilt)}; level vial error: {aside(found.x, found.y)}."


def finding_of(found: VialError, sensitivity: float) -> str:
    """The finding as one sentence; sensitivity in minutes of arc per 2 mm."""
    e = found.estimate
    if e.value <= 2.0 * e.sigma:
        return (
            f"Circular level: no error found, within {figure(e.proved_to, 1)} mm, {minutes(e.proved_to, sensitivity)}."
        )
    return f"Circular level: reversing point {aside(found.x, found.y)}, ± {figure(e.u95, 1)} mm: level vial error {minutes(e.value, sensitivity)}."


def shown_of(quantity: JudgedQuantity, found: VialError, sensitivity: float) -> list[Shown]:
    """The result as people read it, mm of the bubble; sensitivity in minutes of arc per 2 mm."""
    rows = [
        shown(quantity, "Level vial error"),
        row(
            "vial_error_arcsec",
            "As an angle",
            minutes(found.estimate.value, sensitivity),
            value=found.estimate.value * sensitivity * 30,
            unit="arcsec",
        ),
        row("vial_error_x_mm", "Reversing point, right", f"{figure(found.x, 2)} mm", value=found.x, unit="mm"),
        row("vial_error_y_mm", "Reversing point, away", f"{figure(found.y, 2)} mm", value=found.y, unit="mm"),
    ]
    if found.tilt is not None:
        bearing, size = polar(*found.tilt)
        text = f"{minutes(size, sensitivity)}, high side {figure(bearing, 0)}°"
        rows.append(row("tilt_arcsec", "Tilt of the axis", text, value=size * sensitivity * 30, unit="arcsec"))
    return rows


def worked_of(read: BubblesRead, found: VialError) -> list[CalculationLine]:
    """The calculation line by line, with the figures put in."""
    e = found.estimate
    equation = (
        "x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y"
        if read.turns
        else "levelled with a checked level: x = e_x, y = e_y"
    )
    lines = [line("The constant part is level vial error, the part that turns is tilt", equation)]
    lines += [
        line(
            f"{where(bubble.path).capitalize()}, heading {bubble.heading_deg:g}°",
            f"{figure(bubble.x, 2)}, {figure(bubble.y, 2)} mm",
        )
        for bubble in read.bubbles
    ]
    lines.append(
        line(
            "Level vial error",
            f"e_x = {figure(found.x, 3)}, e_y = {figure(found.y, 3)} mm; size {figure(e.value, 3)} mm",
        )
    )
    if found.tilt:
        lines.append(line("Tilt, in the vial", f"{figure(found.tilt[0], 3)}, {figure(found.tilt[1], 3)} mm"))
    lines.append(
        line("Standard uncertainty of each part, degrees of freedom", f"{figure(e.sigma, 3)} mm, {figure(e.dof, 1)}")
    )
    return lines


def cost_of(document: Envelope, found: VialError, sensitivity: float) -> Effect:
    """The error of levelling by this vial, as an angle; sensitivity in minutes of arc per 2 mm."""
    out = minutes(found.estimate.value, sensitivity)
    range_ = document.instrument.compensator_range_arcmin
    if range_:
        return effect(
            "levelled-by-it",
            f"Levelled with this bubble the axis is {out} out of plumb; the compensator range is {range_:g}′.",
        )
    return effect("levelled-by-it", f"Levelled with this bubble alone the axis is {out} out.")


def vial_error_of(judgement: Judgement) -> tuple[float, float]:
    """Where the bubble rests when the axis is plumb, mm right and away."""
    figures = judgement.figures
    assert isinstance(figures, CircularVialFigures)
    return figures.vial_error_x_mm, figures.vial_error_y_mm


def drawn_vial(read: BubblesRead, judgement: Judgement | None, turns_text: str) -> CirclePicture:
    """Bubbles in their ring: level vial error in the middle of them, what turns about it (`turns_says`)."""
    figures = judgement.figures if judgement else None
    assert figures is None or isinstance(figures, CircularVialFigures)
    centre = (figures.vial_error_x_mm, figures.vial_error_y_mm) if figures else None
    radius = None
    if figures and figures.tilt_x_mm is not None and figures.tilt_y_mm is not None:
        radius = hypot(figures.tilt_x_mm, figures.tilt_y_mm)
    # What turns is of the round: earlier rounds lie on circles of their own.
    bubbles = last_repeat(read.bubbles)
    points = [(bubble.x, bubble.y, f"{bubble.heading_deg:g}°" if read.turns else "", bubble.path) for bubble in bubbles]
    return circle(
        "mm",
        points,
        centre,
        radius=radius,
        centre_label="level vial error",
        radius_label=turns_text,
        ring=4.0,
        limit=judgement.quantities[0].limits.use if judgement else None,
        x="right",
        y="away from you",
    )


def running(read: BubblesRead, wanted: int) -> list[CodedText]:
    """What two opposite headings say while the others are still to come."""
    bubbles = last_repeat(read.bubbles)
    for i, bubble in enumerate(bubbles):
        for other in bubbles[i + 1 :]:
            if (
                read.turns
                and len(read.bubbles) < wanted
                and angle_between_deg(bubble.heading_deg, other.heading_deg) > 179
            ):
                own = aside((bubble.x + other.x) / 2, (bubble.y + other.y) / 2)
                return [
                    (
                        "running",
                        f"From two opposite headings: reversing point {own}. The other headings will confirm it.",
                    )
                ]
    return []
