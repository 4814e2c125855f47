"""A check of the vial of a pole or staff as it is typed: turned in its stand, or held against what is plumb."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import Choice, Length, Number, Option, where_of
from ...engine.parser import Range
from ...engine.reader import Reader
from ..circular_vial.document import BubbleRows, BubblesRead, CircularVialFigures, read_bubbles

HEIGHT = Range(0.3, 8.0, "a height of the target")


class PoleVialObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    item: Annotated[
        Literal["pole", "staff"], Choice("What is checked", Option("pole", "A pole"), Option("staff", "A staff"))
    ] = "pole"
    method: Annotated[
        Literal["half-turn", "plumb-line", "proved-instrument"],
        Choice(
            "How it was held",
            Option("half-turn", "Turned in its bipod"),
            Option("plumb-line", "Against a plumb line"),
            Option("proved-instrument", "Against a levelled instrument"),
        ),
    ] = "half-turn"
    height_m: Annotated[Typed | None, Length("Height of the target", HEIGHT, optional=True)] = None
    sensitivity_arcmin_per_2mm: Annotated[
        Typed | None, Number("Sensitivity per 2 mm", "arcmin", 0.5, 90, "sensitivity of the vial", optional=True)
    ] = None
    readings: BubbleRows = []


class PoleVial(CheckDocument):
    """A check of the vial of a pole or staff."""

    kind: Literal["pole-vial"]
    observations: PoleVialObservations


class PoleVialFigures(CircularVialFigures):
    """A vial's figures, and how far the top is out of plumb by them."""

    lean_mm: float


USUAL_HEIGHT_M = 2.0
where = where_of(PoleVialObservations)


@dataclass
class PoleRead(BubblesRead):
    """Bubbles, and the target height."""

    height_m: float = USUAL_HEIGHT_M


def read_document(document: PoleVial, reader: Reader) -> PoleRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    turns = o.method == "half-turn"
    bubbles, steps = read_bubbles(reader, o, turns=turns)
    typed, height = reader.figure(o, "sensitivity_arcmin_per_2mm"), reader.figure(o, "height_m")
    sensitivity = typed.value if typed else document.instrument.circular_vial_arcmin_per_2mm
    return PoleRead(bubbles, turns, sensitivity, steps, height.value if height else USUAL_HEIGHT_M)
