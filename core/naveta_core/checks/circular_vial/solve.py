"""Does a circular bubble say the truth: what stays when the instrument is turned is the vial's, what turns is the tilt.

x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y. A vial on the base does not turn: levelled by something proved, what it
shows is its error. Half of what a half-turn shows is taken up by the foot screws, half by the vial's own screws.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import hypot
from typing import Any, Literal

from pydantic import Field as Bounds

from ...envelope import Envelope, Part, Typed
from ...judgement import Estimate, pooled, vector_bound
from ...priors import CIRCULAR_BETWEEN_MM, CIRCULAR_MM
from ...readings import Sheet
from ..sheet.circumstances import Circumstances
from ..sheet.entry import Where
from ..sheet.fits import Solved, solve, stands_apart
from ..sheet.judged import noise_factor, prior_dof
from ..sheet.rounds import InRound, by_round, demand_opposite, standing_vector, turned_vector
from ..sheet.typed import blank, filled, number, rounding

Data = dict[str, Any]
QUANTITY = "vial_error_mm"
VIAL_MM = 15.0
USUAL_SENSITIVITY = 8.0
PROVABLE_DOF = 12.0
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


class BubbleReading(InRound):
    """A bubble in the vial's own frame: x right, y along the heading."""

    heading_deg: Typed | None = None
    x_mm: Typed | None = None
    y_mm: Typed | None = None


class Observations(Part):
    sits_on: Literal["rotating", "base"] | None = None
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
    round: int = 1


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
        found.append(Bubble(path, heading.value if heading else 0.0, x.value, y.value, one.round or 1))
        steps += [x.step, y.step]
    for i in range(len(readings), 2 if turns else 1):
        for name in ("x_mm", "y_mm"):
            sheet.want(f"observations.readings[{i}].{name}", words(f"observations.readings[{i}].{name}"))
    if turns and len(found) >= max(2, filled(readings, "heading_deg", "x_mm", "y_mm")):
        wanted = "two headings half a turn apart: a quarter turn hides a third of it"
        demand_opposite(sheet, "observations.readings", "the readings", found, wanted)
    return found, steps


def turns_of(document: CircularVial) -> bool:
    """Whether the vial turns with the instrument: as said in the document, else as known of the instrument."""
    return (document.observations.sits_on or document.instrument.circular_vial_on or "rotating") == "rotating"


def read_document(document: CircularVial, sheet: Sheet) -> Read:
    o, turns = document.observations, turns_of(document)
    if turns and document.instrument.circular_vial_on == "base":
        sheet.fault(
            "observations.sits_on", where("sits_on"), "turning with the instrument",
            "another way: this vial sits on the base and does not turn. Level by what is proved and read where it rests",
        )  # fmt: skip
    bubbles, steps = read_bubbles(sheet, o.readings, turns=turns, words=where)
    stated = document.instrument.circular_vial_arcmin_per_2mm
    typed = number(
        sheet, "observations.sensitivity_arcmin_per_2mm", where("sensitivity_arcmin_per_2mm"),
        o.sensitivity_arcmin_per_2mm, "arcmin", 0.5, 60, wanted=False,
    )  # fmt: skip
    return Read(bubbles, turns, typed.value if typed else stated, steps)


def provable_mm(*, turns: bool, more_mm: float = 0.0) -> float:
    """The smallest error a careful test of a circular vial can show: four headings, or four readings held plumb."""
    sigma = hypot(CIRCULAR_MM / 2, CIRCULAR_BETWEEN_MM, 0.0 if turns else more_mm)
    return vector_bound(Estimate(0.0, sigma, PROVABLE_DOF))


@dataclass
class Found:
    """A vial's own error, and the tilt of the last round, mm in the vial."""

    x: float
    y: float
    tilt: tuple[float, float] | None
    estimate: Estimate
    q_within: float
    q_between: float
    solved: Solved
    apart: str | None


def find(
    document: Envelope, bubbles: list[Bubble], steps: list[float], *, turns: bool, told: Circumstances, more_mm: float
) -> Found:
    """Solve a vial. more_mm: what an unproved level adds where the vial does not turn."""
    own = (document.instrument.prior or {}).get("circular_vial_mm", CIRCULAR_MM)
    within = (own * noise_factor(document) * told.factor) ** 2 + rounding(steps)
    between = CIRCULAR_BETWEEN_MM**2 + more_mm**2
    equations = [
        equation
        for one in bubbles
        for equation in (
            turned_vector(one.heading_deg, one.x, one.y, one.round) if turns else standing_vector(one.x, one.y)
        )
    ]
    solved = solve(by_round(equations), within, between, prior_dof(document))
    at = stands_apart(solved)
    x, y = solved.fit.unknowns[:2]
    q = (solved.q_within(0) + solved.q_within(1)) / 2
    estimate = pooled(hypot(x, y), q, between, solved.spread, prior_dof(document))
    tilt = (solved.fit.unknowns[-2], solved.fit.unknowns[-1]) if turns else None
    return Found(x, y, tilt, estimate, q, between, solved, None if at is None else bubbles[at // 2].path)
