"""A check of a compensator as it is typed: a staff read with the bubble run to each side of its ring."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import YES_NO, Branch, Choice, Length, Number, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import PlainRow, Reader
from ...results import Answer, Figures, Repeats

QUANTITY = "largest_shift_arcsec"
SIDES = ("toward", "away", "left", "right")
PLACES = ("centre", *SIDES)
WORDS = {
    "centre": "bubble in the middle",
    "toward": "tilted towards the staff",
    "away": "tilted away from the staff",
    "left": "tilted to the left",
    "right": "tilted to the right",
}
DISTANCE = Range(5.0, 100.0, "a distance")
STAFF = Length("Staff", Range(-0.5, 7.0, "a staff reading"), column="reading", quantity="staff")


def _at(name: str) -> Rows:
    return Rows(WORDS[name], 20, 1, "One more reading here", STAFF, branch=("position", name))


class Positions(Part):
    """Staff readings with the bubble in the middle and run to each side of its ring."""

    centre: Annotated[list[Typed], _at("centre")] = []
    toward: Annotated[list[Typed], _at("toward")] = []
    away: Annotated[list[Typed], _at("away")] = []
    left: Annotated[list[Typed], _at("left")] = []
    right: Annotated[list[Typed], _at("right")] = []


class CompensatorObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    distance: Annotated[Typed | None, Length("Distance to the staff", DISTANCE, "distance to the staff")] = None
    tilt_arcmin: Annotated[
        Typed | None, Number("Bubble moved by", "arcmin", 0.5, 60, "how far the bubble was moved", optional=True)
    ] = None
    returns: Annotated[
        Literal["yes", "no"] | None,
        Choice("Does the line come back to the same reading?", *YES_NO, words="returns", look=True),
    ] = None
    positions: Annotated[Positions, Branch()] = Positions()
    after_tap: Annotated[
        list[Typed], Rows("reading after a tap", 10, field=STAFF, more="One more reading here", in_tables=False)
    ] = []


class CompensatorFunction(CheckDocument):
    """A check of how a compensator works."""

    kind: Literal["compensator-function"]
    observations: CompensatorObservations


class PositionShift(Answer):
    """How far the line moves with the bubble run to one side."""

    position: str
    shift_mm: float
    shift_arcsec: float


class CompensatorFigures(Figures):
    """The largest shift of the line, those of every side, and how they go together."""

    largest_shift_arcsec: float
    sigma_largest_shift_arcsec: float
    shifts: list[PositionShift]
    fore_and_aft_arcsec: float
    left_and_right_arcsec: float
    arcsec_per_arcmin: float | None = None
    repeats: Repeats


where = where_of(CompensatorObservations)


@dataclass
class CompensatorRead:
    """Readings by position, what was read after the tap, distance and tilt."""

    at: dict[str, list[PlainRow]]
    after_tap: list[PlainRow]
    distance_m: float | None
    tilt_arcmin: float | None


def read_document(document: CompensatorFunction, reader: Reader) -> CompensatorRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    distance = reader.figure(o, "distance")
    at = {name: reader.plain(o.positions, name, "observations.positions") for name in PLACES}
    tilt = reader.figure(o, "tilt_arcmin")
    tap = reader.plain(o, "after_tap", wanted=False)
    return CompensatorRead(at, tap, distance.value if distance else None, tilt.value if tilt else None)
