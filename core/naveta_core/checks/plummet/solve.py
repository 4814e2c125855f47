"""An optical or laser plummet against the standing axis.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import fsum
from typing import Any, Literal

from pydantic import Field as Bounds

from ...envelope import Envelope, Part, Typed
from ...priors import BASE_TURNED_MM, BOB_IN_WIND_MM, BOB_MM, PLUMMET_BETWEEN_MM, PLUMMET_MM
from ...readings import Sheet
from ..sheet.circumstances import Circumstances
from ..sheet.entry import Where
from ..sheet.fits import OPPOSITE_DEG, Solved, solve
from ..sheet.judged import noise_factor, prior_dof
from ..sheet.rounds import InRound, by_round, demand_opposite, ground_mark, standing_vector
from ..sheet.typed import blank, filled, number, rounding

Data = dict[str, Any]
QUANTITY = "offset_mm"
TOLD_AT_M = 1.5
LOW_M = 1.2
HEIGHTS_APART_M = 0.3
MOST_MM = 200.0
METRES_LOOK_LIKE_MM = 0.05
CAUTIONS = {"before": ("laser", "hold"), "reading": ("laser",), "adjusting": ("plummet-screws", "laser")}
where = Where(
    {
        "sets": "set",
        "marks": "mark",
        "heading_deg": "heading",
        "x_mm": "right",
        "y_mm": "away",
        "height_m": "height above the sheet",
        "method": "how it is held against the axis",
        "place": "where the plummet sits",
    }
)


class Mark(InRound):
    """Where it points on a sheet on the ground: x right, y away, any fixed origin."""

    heading_deg: Typed | None = None
    x_mm: Typed | None = None
    y_mm: Typed | None = None


class Marks(Part):
    """Marks taken at one height."""

    height_m: Typed | None = None
    marks: list[Mark] = Bounds(default=[], max_length=24)


class Observations(Part):
    place: Literal["turning", "base"] | None = None
    method: Literal["turn", "thirds", "bob", "proven"] = "turn"
    sets: list[Marks] = Bounds(default=[], max_length=4)


class Plummet(Envelope):
    """A check of a plummet."""

    kind: Literal["plummet"]
    observations: Observations


@dataclass(frozen=True, slots=True)
class Spot:
    """One mark as read, mm."""

    path: str
    heading_deg: float
    x: float
    y: float
    round: int = 1


@dataclass
class Read:
    """Marks by set with their heights."""

    sets: list[tuple[float | None, list[Spot]]]
    steps: list[float]
    turned: bool


@dataclass(frozen=True, slots=True)
class OneSet:
    """A set solved: axis on its last sheet, offset at heading 0, mm."""

    height_m: float
    axis: tuple[float, float]
    offset: tuple[float, float]
    solved: Solved
    q_within: float
    q_between: float


def read_document(document: Plummet, sheet: Sheet) -> Read:
    o = document.observations
    turned = o.method in ("turn", "thirds")
    fewest = 2 if turned else 1
    if o.method == "turn" and "base" in (o.place, document.instrument.plummet_place):
        sheet.fault(
            "observations.method", where("method"), "half a turn of the instrument",
            "another way: this plummet sits in the base and does not turn with it. Turn the base by thirds, or hold it against a bob",
        )  # fmt: skip
    sets: list[tuple[float | None, list[Spot]]] = []
    steps: list[float] = []
    for i, one in enumerate(o.sets or [Marks()]):
        path = f"observations.sets[{i}]"
        height = number(sheet, f"{path}.height_m", where(f"{path}.height_m"), one.height_m, "m", 0.3, 30)
        spots = []
        for j, mark in enumerate(one.marks):
            base = f"{path}.marks[{j}]"
            if j >= fewest and blank(mark.heading_deg, mark.x_mm, mark.y_mm):
                continue
            heading = (
                number(sheet, f"{base}.heading_deg", where(f"{base}.heading_deg"), mark.heading_deg, "deg", -360, 360)
                if turned
                else None
            )
            x = number(sheet, f"{base}.x_mm", where(f"{base}.x_mm"), mark.x_mm, "mm", -MOST_MM, MOST_MM)
            y = number(sheet, f"{base}.y_mm", where(f"{base}.y_mm"), mark.y_mm, "mm", -MOST_MM, MOST_MM)
            if x is not None and y is not None and (heading is not None or not turned):
                spots.append(Spot(base, heading.value if heading else 0.0, x.value, y.value, mark.round or 1))
                steps += [x.step, y.step]
        for j in range(len(one.marks), fewest):
            for name in ("x_mm", "y_mm"):
                sheet.want(f"{path}.marks[{j}].{name}", where(f"{path}.marks[{j}].{name}"))
        if turned and len(spots) >= max(2, filled(one.marks, "heading_deg", "x_mm", "y_mm")):
            wanted = (
                "marks half a turn apart, or at thirds: at one heading only the offset cannot be told from the axis"
            )
            demand_opposite(sheet, f"{path}.marks", "the marks", spots, wanted, OPPOSITE_DEG - 1)
        sets.append((height.value if height else None, spots))
    return Read(_joined(sets), steps, turned)


def _joined(sets: list[tuple[float | None, list[Spot]]]) -> list[tuple[float | None, list[Spot]]]:
    """Sets at one and the same height are rounds of one set, each on a sheet of its own."""
    heights = [height for height, _ in sets if height is not None]
    if len(heights) < max(2, len(sets)) or max(heights) - min(heights) >= HEIGHTS_APART_M:
        return sets
    rounds = sorted({(i, spot.round) for i, (_, spots) in enumerate(sets) for spot in spots})
    spots = [replace(s, round=rounds.index((i, s.round)) + 1) for i, (_, spots) in enumerate(sets) for s in spots]
    return [(fsum(heights) / len(heights), spots)]


def _spreads(document: Plummet, steps: list[float], factor: float) -> tuple[float, float]:
    """Variances of one coordinate of a mark, mm²."""
    o, laser = document.observations, document.instrument.plummet == "laser"
    own = (document.instrument.prior or {}).get(
        "plummet_mark_mm", PLUMMET_MM["laser" if laser and document.conditions.support != "floor" else "optical"]
    )
    within = (own * noise_factor(document) * factor) ** 2 + rounding(steps)
    between = PLUMMET_BETWEEN_MM**2
    if o.method == "thirds":
        within += BASE_TURNED_MM**2
    if o.method == "bob":
        between += (BOB_MM if document.conditions.wind in (None, "calm") else BOB_IN_WIND_MM) ** 2
    if o.method == "proven":
        between += PLUMMET_MM["optical"] ** 2
    return within, between


def solve_sets(document: Plummet, read: Read, told: Circumstances) -> list[OneSet]:
    within, between = _spreads(document, read.steps, told.factor)
    found = []
    for height, spots in read.sets:
        assert height is not None
        equations = [
            equation
            for one in spots
            for equation in (
                ground_mark(one.heading_deg, one.x, one.y, one.round) if read.turned else standing_vector(one.x, one.y)
            )
        ]
        solved = solve(by_round(equations), within, between, prior_dof(document))
        known = solved.fit.unknowns
        axis = (known[-2], known[-1]) if read.turned else (0.0, 0.0)
        q = (solved.q_within(0) + solved.q_within(1)) / 2
        found.append(OneSet(height, axis, (known[0], known[1]), solved, q, between))
    return found


@dataclass(frozen=True, slots=True)
class ByHeight:
    """The offset as a sideways part and one that grows with height, from sets at two heights or more."""

    sideways: tuple[float, float]
    per_metre: tuple[float, float]
    gains: list[tuple[float, float]]
    heights: list[float]
    q: list[tuple[float, float]]

    def at(self, height_m: float) -> tuple[float, float]:
        return (self.sideways[0] + self.per_metre[0] * height_m, self.sideways[1] + self.per_metre[1] * height_m)

    def variance(self, height_m: float) -> tuple[float, float]:
        shares = [a + b * height_m for a, b in self.gains]
        return fsum(s * s * q[0] for s, q in zip(shares, self.q, strict=True)), fsum(
            s * s * q[1] for s, q in zip(shares, self.q, strict=True)
        )


def by_height(sets: list[OneSet]) -> ByHeight | None:
    heights = [one.height_m for one in sets]
    if len(sets) < 2 or max(heights) - min(heights) < HEIGHTS_APART_M:
        return None
    mean = fsum(heights) / len(heights)
    square = fsum((h - mean) ** 2 for h in heights)
    gains = [(1 / len(heights) - mean * (h - mean) / square, (h - mean) / square) for h in heights]
    solved = [
        tuple(fsum(g[k] * one.offset[i] for g, one in zip(gains, sets, strict=True)) for i in (0, 1)) for k in (0, 1)
    ]
    return ByHeight(
        (solved[0][0], solved[0][1]),
        (solved[1][0], solved[1][1]),
        gains,
        heights,
        [(one.q_within, one.q_between) for one in sets],
    )
