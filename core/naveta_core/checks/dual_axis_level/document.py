"""A check of an electronic level as it is typed: both figures at some headings, a plate bubble beside them at will."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Typed
from ...engine.fields import Number, Rows, where_of
from ...engine.reader import Reader, filled_rows
from ...engine.repeats import Repeated, demand_opposite
from ...engine.storing import Before, StoredField, StoredValue, Stores, read_before
from ...results import Figures, Repeats
from ..plate_vial.document import MAX_DIV

ALONG, ACROSS = "index_along_arcsec", "index_across_arcsec"
MAX_ARCSEC = 3600.0
STORED_FIGURES = (
    StoredValue(ALONG, "before_along_arcsec", "along", sense=0),
    StoredValue(ACROSS, "before_across_arcsec", "across", sense=1),
)


class ElectronicLevelRow(Repeated):
    """Both figures of an electronic level at a heading, and the plate bubble beside it where one is read."""

    heading_deg: Annotated[Typed | None, Number("Heading", "deg", -360, 360, prefilled=True)] = None
    along_arcsec: Annotated[
        Typed | None,
        Number("Along", "arcsec", -MAX_ARCSEC, MAX_ARCSEC, "value along the sight", quantity="along"),
    ] = None
    across_arcsec: Annotated[
        Typed | None,
        Number("Across", "arcsec", -MAX_ARCSEC, MAX_ARCSEC, "value across the sight", quantity="across"),
    ] = None
    bubble_div: Annotated[
        Typed | None, Number("Plate bubble, right is plus", "div", -MAX_DIV, MAX_DIV, "plate level", optional=True)
    ] = None


class DualAxisLevelObservations(Stores):
    """What is typed of this check, in the order of its sheet."""

    sensitivity_arcsec_per_div: Annotated[
        Typed | None,
        Number(
            "Value of one division", "arcsec", 2, 600, "the value of one division of the plate level", optional=True
        ),
    ] = None
    before_along_arcsec: Annotated[Typed | None, StoredField("along")] = None
    before_across_arcsec: Annotated[Typed | None, StoredField("across")] = None
    readings: Annotated[list[ElectronicLevelRow], Rows("reading", 24, 2, "One more heading")] = []


class DualAxisLevel(CheckDocument):
    """A check of an electronic level or dual-axis compensator."""

    kind: Literal["dual-axis-level"]
    observations: DualAxisLevelObservations


class DualAxisLevelFigures(Figures):
    """The index along and across the sight, the tilt of the axis, and what does not fit."""

    index_along_arcsec: float
    index_across_arcsec: float
    sigma_index_along_arcsec: float
    sigma_index_across_arcsec: float
    tilt_arcsec: float
    tilt_bearing_deg: float
    misfit_arcsec: float
    repeats: Repeats


where = where_of(DualAxisLevelObservations, found="found before")


@dataclass(frozen=True, slots=True)
class LevelShown:
    """Both figures at one heading, high side forward and high side right positive.

    Figures in arcsec, the bubble in divisions.
    """

    path: str
    heading_deg: float
    along: float
    _: KW_ONLY
    across: float
    bubble: float | None
    repeat: int = 1


@dataclass
class LevelRead:
    """What could be read. Steps of the last digit in arcsec, of the bubble in divisions."""

    figures: list[LevelShown]
    steps: list[float]
    seconds_per_div: float | None
    bubble_steps: list[float]
    before: Before


def read_document(document: DualAxisLevel, reader: Reader) -> LevelRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o, (sa, sc) = document.observations, document.instrument.senses
    rows = reader.rows(o, "readings")
    found = [
        LevelShown(
            row.path,
            row["heading_deg"],
            row["along_arcsec"] * sa,
            across=row["across_arcsec"] * sc,
            bubble=row.get("bubble_div"),
            repeat=row.repeat,
        )
        for row in rows
    ]
    if len(found) >= max(2, filled_rows(o, "readings")):
        wanted = "two headings 180° apart: only the turn shows the index error"
        demand_opposite(reader, "observations.readings", "the readings", taken=found, wanted=wanted)
    beside, worth = [row for row in rows if "bubble_div" in row], None
    if beside:
        stated = document.instrument.plate_vial_arcsec_per_div
        typed = reader.figure(o, "sensitivity_arcsec_per_div", wanted=stated is None)
        worth = typed.value if typed else stated
    steps = [row.step(name) for row in rows for name in ("along_arcsec", "across_arcsec")]
    before = read_before(document, reader, STORED_FIGURES)
    return LevelRead(found, steps, worth, [entry.step("bubble_div") for entry in beside], before)
