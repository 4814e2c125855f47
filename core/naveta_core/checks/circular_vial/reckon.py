"""Does a circular bubble say the truth: what stays when the instrument is turned is the vial's, what turns is the tilt.

x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y. A vial on the base does not turn: levelled by something proved, what it
shows is its error. Half of what a half-turn shows is taken up by the foot screws, half by the vial's own screws.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, hypot, radians, sin
from typing import Any, Literal

from pydantic import Field as Bounds

from ...envelope import Envelope, Part, Typed
from ...judgement import Estimate, Limits, pooled
from ...priors import CIRCULAR_BETWEEN_MM, CIRCULAR_MM
from ...readings import Sheet
from ...stand.vectors import polar
from ...wording import figure
from ..sheet.answer import SoFar
from ..sheet.aside import aside
from ..sheet.circumstances import Circumstances, Needs, circumstances
from ..sheet.entry import Where
from ..sheet.fits import OPPOSITE_DEG, Observation, Solved, apart_deg, solve, stands_apart, turned_vector, widest_deg
from ..sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    name_apart,
    noise_factor,
    prior_dof,
    row,
    shown,
)
from ..sheet.pictures import circle
from ..sheet.points import converging, read_points
from ..sheet.typed import blank, number, rounding

Data = dict[str, Any]
QUANTITY = "vial_error_mm"
VIAL_MM = 15.0
USUAL_SENSITIVITY = 8.0
UNPROVED_MM = 0.25
"""What an unproved plate vial or electronic level may be out, seen in a circular vial of 8′ per 2 mm: one minute."""
PROVED_BY = ("plate-vial", "dual-axis-level")
CAUTIONS = {"before": ("hold",), "reading": ("wind",), "adjusting": ("vial-screws", "hold")}
where = Where(
    {
        "readings": "reading",
        "heading_deg": "heading",
        "x_mm": "bubble right or left",
        "y_mm": "bubble away or towards you",
        "sensitivity_arcmin_per_2mm": "sensitivity of the vial",
        "sits_on": "where the vial sits",
    }
)


class BubbleReading(Part):
    """A bubble in the vial's own frame: x right, y along the heading."""

    heading_deg: Typed | None = None
    x_mm: Typed | None = None
    y_mm: Typed | None = None


class Observations(Part):
    sits_on: Literal["rotating", "base"] = "rotating"
    sensitivity_arcmin_per_2mm: Typed | None = None
    readings: list[BubbleReading] = Bounds(default=[], max_length=24)


class CircularVial(Envelope):
    """A check of a circular vial."""

    kind: Literal["circular-vial"]
    observations: Observations


@dataclass(frozen=True, slots=True)
class Bubble:
    """One bubble as read."""

    path: str
    heading_deg: float
    x: float
    y: float


@dataclass
class Read:
    """What could be read: bubbles, whether the vial turns, minutes of arc per 2 mm."""

    bubbles: list[Bubble]
    turns: bool
    sensitivity: float | None
    steps: list[float]


def read_bubbles(
    sheet: Sheet, readings: list[BubbleReading], *, turns: bool, words: Where
) -> tuple[list[Bubble], list[float]]:
    """Bubbles of a list of readings, and the worth of the last digits typed."""
    found, steps = [], []
    for i, one in enumerate(readings):
        path = f"observations.readings[{i}]"
        if i >= (2 if turns else 1) and blank(one.heading_deg, one.x_mm, one.y_mm):
            continue
        heading = None
        if turns:
            heading = number(
                sheet, f"{path}.heading_deg", words(f"{path}.heading_deg"), one.heading_deg, "deg", -360, 360
            )
        x = number(sheet, f"{path}.x_mm", words(f"{path}.x_mm"), one.x_mm, "mm", -VIAL_MM, VIAL_MM)
        y = number(sheet, f"{path}.y_mm", words(f"{path}.y_mm"), one.y_mm, "mm", -VIAL_MM, VIAL_MM)
        if x is None or y is None or (turns and heading is None):
            continue
        found.append(Bubble(path, heading.value if heading else 0.0, x.value, y.value))
        steps += [x.step, y.step]
    for i in range(len(readings), 2 if turns else 1):
        for name in ("x_mm", "y_mm"):
            sheet.want(f"observations.readings[{i}].{name}", words(f"observations.readings[{i}].{name}"))
    if turns and len(found) >= max(2, len(readings)) and widest_deg([one.heading_deg for one in found]) < OPPOSITE_DEG:
        given = "headings " + ", ".join(f"{one.heading_deg:g}°" for one in found)
        sheet.fault(
            "observations.readings",
            "the readings",
            given,
            "two headings half a turn apart: a quarter turn hides a third of it",
        )
    return found, steps


def read_document(document: CircularVial, sheet: Sheet) -> Read:
    o = document.observations
    turns = o.sits_on == "rotating"
    bubbles, steps = read_bubbles(sheet, o.readings, turns=turns, words=where)
    stated = document.instrument.circular_vial_arcmin_per_2mm
    typed = number(
        sheet, "observations.sensitivity_arcmin_per_2mm", where("sensitivity_arcmin_per_2mm"),
        o.sensitivity_arcmin_per_2mm, "arcmin", 0.5, 60, wanted=False,
    )  # fmt: skip
    return Read(bubbles, turns, typed.value if typed else stated, steps)


@dataclass
class Found:
    """A vial's own error and the tilt, mm in the vial."""

    x: float
    y: float
    tilt: tuple[float, float] | None
    estimate: Estimate
    q_within: float
    q_between: float
    solved: Solved | None
    apart: str | None


def find(
    document: Envelope, bubbles: list[Bubble], steps: list[float], *, turns: bool, told: Circumstances, more_mm: float
) -> Found:
    """Solve a vial. more_mm: what an unproved level adds where the vial does not turn."""
    own = (document.instrument.prior or {}).get("circular_vial_mm", CIRCULAR_MM)
    within = (own * noise_factor(document) * told.factor) ** 2 + rounding(steps)
    between = CIRCULAR_BETWEEN_MM**2 + more_mm**2
    rows: list[Observation] = []
    for one in bubbles:
        rows += turned_vector(one.heading_deg, one.x, one.y) if turns else [([1.0, 0.0], one.x), ([0.0, 1.0], one.y)]
    solved = solve(rows, within, between, prior_dof(document))
    at = stands_apart(solved)
    x, y = solved.fit.unknowns[:2]
    q = (solved.q_within(0) + solved.q_within(1)) / 2
    estimate = pooled(hypot(x, y), q, between, solved.spread, prior_dof(document))
    tilt = (solved.fit.unknowns[2], solved.fit.unknowns[3]) if turns else None
    return Found(x, y, tilt, estimate, q, between, solved, None if at is None else bubbles[at // 2].path)


def scattered(solved: Solved | None, document: Envelope, what: str) -> tuple[list[Said], list[Said]]:
    """What too much scatter says: (reason, refusal)."""
    from ...judgement import SCATTER_REFUSED, scatter_factor

    factor = scatter_factor(solved.spread, prior_dof(document)) if solved else None
    if factor is None:
        return [], []
    text = f"The {what} fit each other {factor:.1f} times worse than such readings do: did something move between them?"
    return ([], [("scatter", text)]) if factor > SCATTER_REFUSED else ([("scatter", text)], [])


def vial_figures(found: Found, sensitivity: float | None) -> Data:
    """The result's figures of a vial."""
    figures: Data = {
        "vial_error_x_mm": found.x,
        "vial_error_y_mm": found.y,
        QUANTITY: found.estimate.value,
        f"sigma_{QUANTITY}": found.estimate.sigma,
    }
    if found.tilt is not None:
        figures["tilt_x_mm"], figures["tilt_y_mm"] = found.tilt
    if sensitivity is not None:
        figures["vial_error_arcsec"] = found.estimate.value * sensitivity * 30
        if found.tilt is not None:
            figures["tilt_arcsec"] = hypot(*found.tilt) * sensitivity * 30
    spread = found.solved.spread if found.solved else None
    figures["repeats"] = {"squares": spread.squares if spread else 0.0, "dof": spread.dof if spread else 0.0}
    return figures


def minutes(mm: float, sensitivity: float) -> str:
    return f"{figure(mm * sensitivity / 2, 1)}′"


def judge(document: CircularVial, read: Read) -> Judged:
    told = circumstances(document, Needs(wind=True, proved_first=() if read.turns else PROVED_BY))
    sensitivity = read.sensitivity or USUAL_SENSITIVITY
    more = 0.0 if told.proved else UNPROVED_MM * USUAL_SENSITIVITY / sensitivity
    found = find(document, read.bubbles, read.steps, turns=read.turns, told=told, more_mm=more)
    scale = USUAL_SENSITIVITY / sensitivity
    opening = Limits(0.5 * scale, 1.0 * scale, 5.0, f"opening value for a vial of {sensitivity:g}′ per 2 mm")
    limits = limits_from(document, QUANTITY, opening)
    place = aside(found.x, found.y)
    seen = _last(read, found)
    turn = (
        f"By the foot screws bring the bubble to where it rests, {place}; then by the vial's own screws to the middle."
        if read.turns
        else f"Levelled by what is proved and left alone, bring the bubble from {place} to the middle by the vial's own screws: all of it."
    )
    quantity = Quantity(
        QUANTITY, "the circular bubble", "mm", found.estimate, limits, found.q_within, found.q_between, True,
        "Usable while the bubble does not leave its ring when the instrument is turned.", turn,
    )  # fmt: skip
    judged = Judged(
        [quantity],
        vial_figures(found, read.sensitivity),
        _finding(found, sensitivity),
        _shown(quantity, found, sensitivity),
        _worked(read, found),
        [_cost(document, found, sensitivity)],
        found.solved.spread if found.solved else pooled_none(),
        one_more=("round of headings", "rounds of headings") if read.turns else ("reading", "readings"),
        again="Set the bubble afresh and turn once more before anything is touched. Both count together.",
    )
    judged.reasons += told.weak
    if not told.proved:
        judged.reasons.append(
            (
                "level-not-proved",
                "The plate vial or electronic level it was held against has not passed lately: a minute of arc is added for that.",
            )
        )
    if seen:
        judged.reasons.append(("half-and-half", seen))
    weak, refused = scattered(found.solved, document, "headings")
    judged.reasons += weak
    judged.refused += refused
    if found.apart:
        name_apart(judged, found.apart, f"The {where(found.apart)} does not fit the others: read it again.")
    return judged


def pooled_none() -> Any:
    from ...judgement import Spread

    return Spread()


def _last(read: Read, found: Found) -> str | None:
    """What was seen at the last heading, and whose each half is."""
    if not read.turns or found.tilt is None:
        return None
    last = read.bubbles[-1]
    s, c = sin(radians(last.heading_deg)), cos(radians(last.heading_deg))
    tilt = (found.tilt[0] * c - found.tilt[1] * s, found.tilt[0] * s + found.tilt[1] * c)
    return f"Seen last: {aside(last.x, last.y)}. Of that the stand's tilt is {aside(*tilt)}, the vial's own error {aside(found.x, found.y)}."


def _finding(found: Found, sensitivity: float) -> str:
    e = found.estimate
    if e.value <= 2.0 * e.sigma:
        return f"No error shown: the circular bubble is proved within {figure(e.proved_to, 1)} mm, {minutes(e.proved_to, sensitivity)}."
    return f"Plumb, the circular bubble rests {aside(found.x, found.y)}, ± {figure(e.u95, 1)} mm: {minutes(e.value, sensitivity)} that are the vial's own."


def _shown(quantity: Quantity, found: Found, sensitivity: float) -> list[Data]:
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


def _worked(read: Read, found: Found) -> list[Data]:
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


def _cost(document: Envelope, found: Found, sensitivity: float) -> Data:
    out = minutes(found.estimate.value, sensitivity)
    range_ = document.instrument.compensator_range_arcmin
    if range_:
        return effect(
            "levelled-by-it", f"Levelled by this bubble it stands {out} out; its compensator takes {range_:g}′."
        )
    return effect("levelled-by-it", f"Levelled by this bubble alone it stands {out} out.")


def drawn(_document: CircularVial, read: Read, judged: Judged | None) -> Data | None:
    return drawn_vial(read, judged, "tilt of the stand")


def drawn_vial(read: Read, judged: Judged | None, turns_says: str) -> Data:
    """Bubbles in their ring: the vial's own error in the middle of them, what turns about it (`turns_says`)."""
    centre = (judged.figures["vial_error_x_mm"], judged.figures["vial_error_y_mm"]) if judged else None
    radius = hypot(judged.figures["tilt_x_mm"], judged.figures["tilt_y_mm"]) if judged and read.turns else None
    points = [(one.x, one.y, f"{one.heading_deg:g}°" if read.turns else "", one.path) for one in read.bubbles]
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


def so_far(document: CircularVial, read: Read) -> SoFar:
    told = circumstances(document, Needs(wind=True))
    said = [*told.blocked, *told.weak]
    if read.turns and len(read.bubbles) == 1:
        said.append(("turn-now", "Turn the instrument on, wait until the bubble rests, read again."))
    said += running(read, len(document.observations.readings))
    return SoFar(said)


def running(read: Read, wanted: int) -> list[Said]:
    """What two opposite headings say while the others are still to come."""
    for i, one in enumerate(read.bubbles):
        for other in read.bubbles[i + 1 :]:
            if read.turns and len(read.bubbles) < wanted and apart_deg(one.heading_deg, other.heading_deg) > 179:
                own = aside((one.x + other.x) / 2, (one.y + other.y) / 2)
                return [("running", f"Two opposite headings say: it rests {own}. The others will prove it.")]
    return []


def adjusting(document: CircularVial, reads_now: list[Any]) -> Data:
    """The bubble to the middle by the vial's own screws, with what is left after each turn. Raises Refused."""
    sheet = Sheet()
    read = read_document(document, sheet)
    sheet.demand_complete()
    judged = judge(document, read)
    return bubble_to_middle(judged.quantities[0], judged.figures, read_points(reads_now))


def bubble_to_middle(quantity: Quantity, figures: Data, steps: list[tuple[str, tuple[float, float]]]) -> Data:
    start = (figures["vial_error_x_mm"], figures["vial_error_y_mm"])
    return {
        "wells": ["right", "away from you"],
        "asked": "The bubble is now at",
        "unit": "mm",
        "from_text": aside(*start),
        "target_text": "the middle",
        "allowed": quantity.estimate.u95 <= quantity.limits.use,
        "tool": "The instrument's own adjusting pin.",
        "screw": "The three small screws under or beside the vial.",
        "text": quantity.turn,
        "steps": converging(steps, start, (0.0, 0.0), quantity.limits.use / 4, "still to go"),
    }
