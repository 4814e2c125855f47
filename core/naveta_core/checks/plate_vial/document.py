"""A check of a plate vial as it is typed: the bubble in divisions towards the vial's right end, at some headings."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import Count, Number, Rows, where_of
from ...engine.parser import Parser
from ...engine.reader import Reader, filled_rows
from ...engine.repeats import Repeated, demand_opposite
from ...results import Figures, Repeats

QUANTITY = "reversal_div"
MAX_DIV = 12.0
OPPOSITE_WITHIN_DEG = 15.0


class TubeRow(Repeated):
    """A bubble in a tubular vial: divisions towards the right end, which lies on `heading_deg`."""

    heading_deg: Annotated[
        Typed | None, Number("Right end at", "deg", -360, 360, "direction of the vial's right end", prefilled=True)
    ] = None
    bubble_div: Annotated[Typed | None, Number("Bubble, right is plus", "div", -MAX_DIV, MAX_DIV, "bubble")] = None
    vial: Annotated[Literal[1, 2] | None, Count("Vial", 2)] = None


class PlateVialObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    sensitivity_arcsec_per_div: Annotated[
        Typed | None, Number("Value of one division", "arcsec", 2, 600, "the value of one division", optional=True)
    ] = None
    readings: Annotated[list[TubeRow], Rows("reading", 24, 2, "One more heading")] = []


class PlateVial(CheckDocument):
    """A check of one plate vial, or of two."""

    kind: Literal["plate-vial"]
    observations: PlateVialObservations


class PlateVialFigures(Figures):
    """Where the bubble rests when the axis is plumb, and how the axis was tilted."""

    reversal_div: float
    sigma_reversal_div: float
    vial_error_arcsec: float
    tilt_arcsec: float
    tilt_bearing_deg: float
    residuals_div: list[float]
    reversal_2_div: float | None = None
    sigma_reversal_2_div: float | None = None
    repeats: Repeats


where = where_of(PlateVialObservations)


@dataclass(frozen=True, slots=True)
class Tube:
    """One reading of a tube. The bubble in divisions from the middle, right or forward positive."""

    path: str
    heading_deg: float
    bubble: float
    vial: int
    repeat: int = 1


@dataclass
class TubesRead:
    """What could be read: tubes, seconds a division, worth of the last digits. Steps in divisions."""

    tubes: list[Tube]
    seconds: float | None
    steps: list[float]


def read_document(document: PlateVial, reader: Reader) -> TubesRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o, stated = document.observations, document.instrument.plate_vial_arcsec_per_div
    typed = reader.figure(o, "sensitivity_arcsec_per_div", wanted=stated is None)
    rows = reader.rows(o, "readings")
    found = [
        Tube(row.path, row["heading_deg"], row["bubble_div"], row.entry.vial or 1, row.repeat)
        for row in rows
        if isinstance(row.entry, TubeRow)
    ]
    if len(found) >= max(2, filled_rows(o, "readings")):
        _geometry(found, reader)
    return TubesRead(found, typed.value if typed else stated, [row.step("bubble_div") for row in rows])


def _geometry(tubes: list[Tube], reader: Parser) -> None:
    path, what = "observations.readings", "the readings"
    for vial in (1, 2):
        mine = [tube for tube in tubes if tube.vial == vial]
        which = "" if {tube.vial for tube in tubes} == {1} else f" of the {'first' if vial == 1 else 'second'} vial"
        demand_opposite(reader, path, what, taken=mine, wanted=f"two headings{which} 180° apart, at least 120°")
    if not reader.faults:
        for name in sorted({tube.repeat for tube in tubes}):
            mine = [tube for tube in tubes if tube.repeat == name]
            if len(mine) == 2:
                demand_opposite(
                    reader,
                    path,
                    what,
                    taken=mine,
                    wanted="two opposite headings, or a third reading",
                    least_deg=180 - OPPOSITE_WITHIN_DEG,
                )
