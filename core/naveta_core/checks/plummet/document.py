"""A check of a plummet as it is typed: where it points on a sheet, turned to some headings, at one height or more."""

from __future__ import annotations

from dataclasses import dataclass, replace
from math import fsum
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import Choice, Length, Number, Option, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import Reader, filled_rows
from ...engine.repeats import Repeated, demand_opposite
from ...geometry import OPPOSITE_DEG
from ...results import Figures, Repeats

HEIGHT = Range(0.3, 30.0, "a height above the paper")
QUANTITY = "offset_mm"
HEIGHTS_DIFFER_M = 0.3
MAX_MM = 200.0


class MarkRow(Repeated):
    """Where it points on a sheet on the ground: x right, y away, any fixed origin."""

    heading_deg: Annotated[Typed | None, Number("Heading", "deg", -360, 360, prefilled=True)] = None
    x_mm: Annotated[Typed | None, Number("Right", "mm", -MAX_MM, MAX_MM)] = None
    y_mm: Annotated[Typed | None, Number("Away", "mm", -MAX_MM, MAX_MM)] = None


class MarkSet(Part):
    """Marks taken at one height."""

    height_m: Annotated[
        Typed | None, Length("Height of the plummet above the paper", HEIGHT, "height above the paper")
    ] = None
    marks: Annotated[list[MarkRow], Rows("mark", 24, 2, "One more mark")] = []


class PlummetObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    place: Annotated[
        Literal["turning", "tribrach"] | None,
        Choice(
            "Where the plummet is",
            Option("turning", "In the instrument"),
            Option("tribrach", "In the tribrach"),
            words="where the plummet is",
            optional=True,
        ),
    ] = None
    method: Annotated[
        Literal["turn", "thirds", "bob", "proven"],
        Choice(
            "How it is compared with the axis",
            Option("turn", "Instrument turned"),
            Option("thirds", "Tribrach turned by 120°"),
            Option("bob", "Against a plumb bob"),
            Option("proven", "Against a checked plummet"),
            words="how it is compared with the axis",
        ),
    ] = "turn"
    sets: Annotated[list[MarkSet], Rows("set", 4, 1, number="set")] = []


class Plummet(CheckDocument):
    """A check of a plummet."""

    kind: Literal["plummet"]
    observations: PlummetObservations


class PlummetFigures(Figures):
    """The point of the axis on the last sheet, the plummet's offset at heading 0 and at `at_height_m`."""

    axis_x_mm: float
    axis_y_mm: float
    offset_x_mm: float
    offset_y_mm: float
    offset_mm: float
    offset_arcsec: float
    sigma_offset_mm: float
    at_height_m: float
    sideways_mm: float | None = None
    angular_arcsec: float | None = None
    repeats: Repeats


where = where_of(PlummetObservations)


@dataclass(frozen=True, slots=True)
class PlummetMark:
    """One mark as read, mm."""

    path: str
    heading_deg: float
    x: float
    y: float
    repeat: int = 1


@dataclass
class TargetsRead:
    """Marks by set with their heights. Marks in millimetres, heights in metres."""

    sets: list[tuple[float | None, list[PlummetMark]]]
    steps: list[float]
    turned: bool


def read_document(document: Plummet, reader: Reader) -> TargetsRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    turned = o.method in ("turn", "thirds")
    if o.method == "turn" and "tribrach" in (o.place, document.instrument.plummet_place):
        wanted = "another method: this plummet is in the tribrach and does not turn. Turn the tribrach by 120°, or compare with a plumb bob"
        reader.fault_at("observations.method", "180° of the instrument", wanted)
    sets: list[tuple[float | None, list[PlummetMark]]] = []
    steps: list[float] = []
    for i, set_ in enumerate(o.sets or [MarkSet()]):
        path = f"observations.sets[{i}]"
        height = reader.figure(set_, "height_m", path)
        rows = reader.rows(set_, "marks", path, fewest=2 if turned else 1, skip=() if turned else ("heading_deg",))
        spots = [PlummetMark(r.path, r["heading_deg"] if turned else 0.0, r["x_mm"], r["y_mm"], r.repeat) for r in rows]
        steps += [step for r in rows for step in (r.step("x_mm"), r.step("y_mm"))]
        if turned and len(spots) >= max(2, filled_rows(set_, "marks")):
            wanted = "marks 180° apart, or 120° apart: one heading alone cannot separate the offset from the axis"
            demand_opposite(
                reader, f"{path}.marks", "the marks", taken=spots, wanted=wanted, least_deg=OPPOSITE_DEG - 1
            )
        sets.append((height.value if height else None, spots))
    return TargetsRead(_joined(sets), steps, turned)


def _joined(sets: list[tuple[float | None, list[PlummetMark]]]) -> list[tuple[float | None, list[PlummetMark]]]:
    """Sets at one and the same height are repeats of one set, each on a sheet of its own."""
    heights = [height for height, _ in sets if height is not None]
    if len(heights) < max(2, len(sets)) or max(heights) - min(heights) >= HEIGHTS_DIFFER_M:
        return sets
    repeats = sorted({(i, spot.repeat) for i, (_, spots) in enumerate(sets) for spot in spots})
    spots = [replace(s, repeat=repeats.index((i, s.repeat)) + 1) for i, (_, spots) in enumerate(sets) for s in spots]
    return [(fsum(heights) / len(heights), spots)]
