"""A hand level read direct and reversed against a marked wall: what is typed."""

from __future__ import annotations

from typing import Annotated, Literal

from naveta_core.documents.envelope import CheckDocument, Part, Typed
from naveta_core.engine.fields import Number, Rows, where_of
from naveta_core.engine.reader import Reader, Row
from naveta_core.results import Figures, Repeats

QUANTITY, MIN_SIGHTS = "slope_mm", 2


class HandLevelRow(Part):
    """Where the line met the wall, mm above the mark, held one way and then the other."""

    direct_mm: Annotated[Typed | None, Number("Direct", "mm", -500, 500)] = None
    reversed_mm: Annotated[Typed | None, Number("Reversed", "mm", -500, 500)] = None


class HandLevelObservations(Part):
    sights: Annotated[list[HandLevelRow], Rows("sight", 12, MIN_SIGHTS, "One more sight")] = []


class HandLevel(CheckDocument):
    """A check of a hand level."""

    kind: Literal["hand-level"]
    observations: HandLevelObservations


class HandLevelFigures(Figures):
    """Half of what the two ways of holding it differ by."""

    slope_mm: float
    sigma_slope_mm: float
    repeats: Repeats


where = where_of(HandLevelObservations)


def read_document(document: HandLevel, reader: Reader) -> list[Row]:
    return reader.rows(document.observations, "sights")
