"""A levelling accuracy test as it is typed: pairs of readings of two staffs, in two sets."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import Choice, Length, Number, Option, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import Reader, Row
from ...results import Figures, Repeats
from ...units.numbers import finest

DISTANCE = Range(10.0, 120.0, "a distance between the staffs")
MAIN = "levelling_sigma_mm_per_km"
BASE_M = 60.0
READING = Range(-0.5, 7.0, "a staff reading")
PAIRS = {"simplified": 10, "full": 20}


class StaffPair(Part):
    """Staff A and staff B, the level lifted and set again before each pair."""

    a: Annotated[Typed | None, Length("Staff A", READING, "staff A", quantity="staff")] = None
    b: Annotated[Typed | None, Length("Staff B", READING, "staff B", quantity="staff")] = None


class PairSet(Part):
    """Pairs taken in one arrangement."""

    pairs: Annotated[list[StaffPair], Rows("pair", 24)] = []


class LevellingAccuracyObservations(Part):
    """Simplified: ten pairs from the middle, ten from nearer one staff. Full: twenty, staffs exchanged, twenty."""

    procedure: Annotated[
        Literal["simplified", "full"], Choice("Procedure", Option("simplified", "Simplified"), Option("full", "Full"))
    ] = "simplified"
    base_m: Annotated[Typed | None, Length("Distance between the staffs", DISTANCE, optional=True)] = None
    permitted_mm: Annotated[
        Typed | None,
        Number("Permitted difference between the sets", "mm", 0.01, 50, "permitted difference", optional=True),
    ] = None
    sets: Annotated[list[PairSet], Rows("set", 2, 2, number="set")] = []


class LevellingAccuracy(CheckDocument):
    """What a level, its staffs and those who use them reach, by a full field procedure."""

    kind: Literal["levelling-accuracy"]
    observations: LevellingAccuracyObservations


class LevellingAccuracyFigures(Figures):
    """The standard deviation of 1 km of double-run levelling, and what the two sets differ by."""

    levelling_sigma_mm_per_km: float
    sigma_levelling_sigma_mm_per_km: float
    difference_sigma_mm: float
    degrees_of_freedom: int
    set_difference_mm: float
    means_mm: list[float]
    repeats: Repeats


where = where_of(LevellingAccuracyObservations)


@dataclass(frozen=True, slots=True)
class PairDifference:
    """a − b of one pair, mm."""

    path: str
    mm: float
    texts: tuple[str, str]
    step_mm: float
    read_mm: tuple[float, float]


@dataclass
class LevellingRead:
    """Pairs by set: differences in millimetres, the distance between the staffs in metres."""

    sets: list[list[PairDifference]]
    base_m: float
    permitted_mm: float | None


def read_document(document: LevellingAccuracy, reader: Reader) -> LevellingRead:
    """Every pair that can be read; faults and what is missing are in the reader."""
    o = document.observations
    base, permitted = reader.figure(o, "base_m"), reader.figure(o, "permitted_mm")
    sets = []
    for i in range(2):
        held = o.sets[i] if i < len(o.sets) else PairSet()
        rows = reader.rows(held, "pairs", f"observations.sets[{i}]", fewest=PAIRS[o.procedure])
        sets.append([_difference(row) for row in rows])
    return LevellingRead(sets, base.value if base else BASE_M, permitted.value if permitted else None)


def _difference(row: Row) -> PairDifference:
    a, b = row["a"] * 1000, row["b"] * 1000
    step = finest((row.step("a"), row.step("b"))) * 1000
    return PairDifference(row.path, a - b, (row.text("a"), row.text("b")), step, (a, b))
