"""A check of a circular vial as it is typed: the bubble in the vial's own frame at some headings, or once, held plumb."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import Choice, Number, Option, Rows, where_of
from ...engine.reader import Reader, filled_rows
from ...engine.repeats import Repeated, demand_opposite
from ...results import Figures, Repeats

QUANTITY = "vial_error_mm"
VIAL_MM = 15.0
Heading = Annotated[Typed | None, Number("Heading", "deg", -360, 360, prefilled=True)]
Sensitivity = Annotated[
    Typed | None, Number("Sensitivity per 2 mm", "arcmin", 0.5, 60, "sensitivity of the vial", optional=True)
]


class BubbleRow(Repeated):
    """A bubble in the vial's own frame: x right, y along the heading."""

    heading_deg: Heading = None
    x_mm: Annotated[Typed | None, Number("Right", "mm", -VIAL_MM, VIAL_MM, "bubble right or left")] = None
    y_mm: Annotated[Typed | None, Number("Away from you", "mm", -VIAL_MM, VIAL_MM, "bubble away or towards you")] = None


BubbleRows = Annotated[list[BubbleRow], Rows("reading", 24, 2, "One more heading")]


class CircularVialObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    sits_on: Annotated[
        Literal["rotating", "tribrach"] | None,
        Choice(
            "Where the vial sits",
            Option("rotating", "Turns with the instrument"),
            Option("tribrach", "On the tribrach"),
            optional=True,
        ),
    ] = None
    sensitivity_arcmin_per_2mm: Sensitivity = None
    readings: BubbleRows = []


class CircularVial(CheckDocument):
    """A check of a circular vial."""

    kind: Literal["circular-vial"]
    observations: CircularVialObservations


class CircularVialFigures(Figures):
    """What a vial is out by, and how the stand was tilted, in the vial and as angles where its sensitivity is known."""

    vial_error_x_mm: float
    vial_error_y_mm: float
    vial_error_mm: float
    sigma_vial_error_mm: float
    tilt_x_mm: float | None = None
    tilt_y_mm: float | None = None
    vial_error_arcsec: float | None = None
    tilt_arcsec: float | None = None
    repeats: Repeats


where = where_of(CircularVialObservations)


@dataclass(frozen=True, slots=True)
class Bubble:
    """One bubble as read. x and y in millimetres from the middle of the ring, in the vial's own frame."""

    path: str
    heading_deg: float
    x: float
    y: float
    repeat: int = 1


@dataclass
class BubblesRead:
    """What could be read: bubbles, whether the vial turns, minutes of arc per 2 mm."""

    bubbles: list[Bubble]
    turns: bool
    sensitivity: float | None
    steps: list[float]


def read_bubbles(reader: Reader, observations: Part, *, turns: bool) -> tuple[list[Bubble], list[float]]:
    """Bubbles of the list `readings`, and the worth of the last digits typed."""
    skip = () if turns else ("heading_deg",)
    rows = reader.rows(observations, "readings", fewest=2 if turns else 1, skip=skip)
    found = [
        Bubble(row.path, row["heading_deg"] if turns else 0.0, row["x_mm"], row["y_mm"], row.repeat) for row in rows
    ]
    if turns and len(found) >= max(2, filled_rows(observations, "readings")):
        wanted = "two headings 180° apart: 90° would hide part of the error"
        demand_opposite(reader, "observations.readings", "the readings", taken=found, wanted=wanted)
    return found, [step for row in rows for step in (row.step("x_mm"), row.step("y_mm"))]


def turns_of(document: CircularVial) -> bool:
    """Whether the vial turns with the instrument: as said in the document, else as known of the instrument."""
    return (document.observations.sits_on or document.instrument.circular_vial_on or "rotating") == "rotating"


def read_document(document: CircularVial, reader: Reader) -> BubblesRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o, turns = document.observations, turns_of(document)
    if turns and document.instrument.circular_vial_on == "tribrach":
        wanted = "another method: this vial is on the tribrach and does not turn. Level with a checked level and read this bubble"
        reader.fault_at("observations.sits_on", "turning with the instrument", wanted)
    bubbles, steps = read_bubbles(reader, o, turns=turns)
    typed = reader.figure(o, "sensitivity_arcmin_per_2mm")
    stated = document.instrument.circular_vial_arcmin_per_2mm
    return BubblesRead(bubbles, turns, typed.value if typed else stated, steps)
