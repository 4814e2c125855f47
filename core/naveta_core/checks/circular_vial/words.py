"""What a check of a circular vial says in words, and its drawing."""

from __future__ import annotations

from math import cos, hypot, radians, sin
from typing import Any

from ...envelope import Envelope
from ...stand.vectors import polar
from ...wording import figure
from ..sheet.aside import aside
from ..sheet.fits import apart_deg
from ..sheet.judged import Judged, Quantity, Said, effect, line, row, shown
from ..sheet.pictures import circle
from ..sheet.rounds import last_round
from .solve import Found, Read, where

Data = dict[str, Any]


def minutes(mm: float, sensitivity: float) -> str:
    return f"{figure(mm * sensitivity / 2, 1)}′"


def halves_of(read: Read, found: Found) -> str | None:
    """What was seen at the last heading, and whose each half is."""
    if found.tilt is None:
        return None
    last = last_round(read.bubbles)[-1]
    s, c = sin(radians(last.heading_deg)), cos(radians(last.heading_deg))
    tilt = (found.tilt[0] * c - found.tilt[1] * s, found.tilt[0] * s + found.tilt[1] * c)
    return f"Seen last: {aside(last.x, last.y)}. Of that the stand's tilt is {aside(*tilt)}, the vial's own error {aside(found.x, found.y)}."


def finding_of(found: Found, sensitivity: float) -> str:
    e = found.estimate
    if e.value <= 2.0 * e.sigma:
        return f"No error shown: the circular bubble is proved within {figure(e.proved_to, 1)} mm, {minutes(e.proved_to, sensitivity)}."
    return f"Plumb, the circular bubble rests {aside(found.x, found.y)}, ± {figure(e.u95, 1)} mm: {minutes(e.value, sensitivity)} that are the vial's own."


def shown_of(quantity: Quantity, found: Found, sensitivity: float) -> list[Data]:
    rows = [
        shown(quantity, "Vial's own error"),
        row(
            "vial_error_arcsec",
            "The same as an angle",
            minutes(found.estimate.value, sensitivity),
            found.estimate.value * sensitivity * 30,
            "arcsec",
        ),
        row("vial_error_x_mm", "Rests right of the middle", f"{figure(found.x, 2)} mm", found.x, "mm"),
        row("vial_error_y_mm", "Rests away from you", f"{figure(found.y, 2)} mm", found.y, "mm"),
    ]
    if found.tilt is not None:
        bearing, size = polar(*found.tilt)
        text = f"{minutes(size, sensitivity)}, high side {figure(bearing, 0)}°"
        rows.append(row("tilt_arcsec", "Tilt of the stand", text, size * sensitivity * 30, "arcsec"))
    return rows


def worked_of(read: Read, found: Found) -> list[Data]:
    e = found.estimate
    equation = (
        "x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y" if read.turns else "levelled by what is proved: x = e_x, y = e_y"
    )
    lines = [line("What stays is the vial's, what turns is the tilt", equation)]
    lines += [
        line(
            f"{where(one.path).capitalize()}, heading {one.heading_deg:g}°",
            f"{figure(one.x, 2)}, {figure(one.y, 2)} mm",
        )
        for one in read.bubbles
    ]
    lines.append(
        line(
            "Vial's own error",
            f"e_x = {figure(found.x, 3)}, e_y = {figure(found.y, 3)} mm; size {figure(e.value, 3)} mm",
        )
    )
    if found.tilt:
        lines.append(line("Tilt, in the vial", f"{figure(found.tilt[0], 3)}, {figure(found.tilt[1], 3)} mm"))
    lines.append(
        line("Standard uncertainty of each part, degrees of freedom", f"{figure(e.sigma, 3)} mm, {figure(e.dof, 1)}")
    )
    return lines


def cost_of(document: Envelope, found: Found, sensitivity: float) -> Data:
    out = minutes(found.estimate.value, sensitivity)
    range_ = document.instrument.compensator_range_arcmin
    if range_:
        return effect(
            "levelled-by-it", f"Levelled by this bubble it stands {out} out; its compensator takes {range_:g}′."
        )
    return effect("levelled-by-it", f"Levelled by this bubble alone it stands {out} out.")


def drawn_vial(read: Read, judged: Judged | None, turns_says: str) -> Data:
    """Bubbles in their ring: the vial's own error in the middle of them, what turns about it (`turns_says`)."""
    centre = (judged.figures["vial_error_x_mm"], judged.figures["vial_error_y_mm"]) if judged else None
    radius = hypot(judged.figures["tilt_x_mm"], judged.figures["tilt_y_mm"]) if judged and read.turns else None
    # What turns is of the round: earlier rounds lie on circles of their own.
    bubbles = last_round(read.bubbles)
    points = [(one.x, one.y, f"{one.heading_deg:g}°" if read.turns else "", one.path) for one in bubbles]
    return circle(
        "mm",
        points,
        centre,
        radius,
        "the vial's own error",
        turns_says,
        ring=4.0,
        limit=judged.quantities[0].limits.use if judged else None,
        x="right",
        y="away from you",
    )


def running(read: Read, wanted: int) -> list[Said]:
    """What two opposite headings say while the others are still to come."""
    bubbles = last_round(read.bubbles)
    for i, one in enumerate(bubbles):
        for other in bubbles[i + 1 :]:
            if read.turns and len(read.bubbles) < wanted and apart_deg(one.heading_deg, other.heading_deg) > 179:
                own = aside((one.x + other.x) / 2, (one.y + other.y) / 2)
                return [("running", f"Two opposite headings say: it rests {own}. The others will prove it.")]
    return []
