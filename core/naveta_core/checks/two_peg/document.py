"""A two-peg test as it is typed: what was set up where, both staffs read; every sight with what its readings are worth."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass, replace
from functools import cached_property
from math import fsum
from typing import Annotated, Literal

from pydantic import Field as Bounds

from ...documents.envelope import CheckDocument, Envelope, InOwnUnit, Part, Typed
from ...engine.fields import Branch, Choice, Field, Length, Option, Rows, Switch, where_of
from ...engine.limits import limits_from
from ...engine.parser import Range, blank
from ...engine.reader import Reader, Row
from ...results import Answer, Figures, Repeats, Sensitivity
from ...stats.decision import Limits
from ...units.formatting import length_words
from ...units.numbers import DECIMAL, finest, shown_step

QUANTITY = "collimation_arcsec"
DISTANCE = Range(1.0, 150.0, "a distance")
STAFF = Range(-0.5, 7.0, "a staff reading")
MIN_IMBALANCE_SPREAD_M = 2.0
DISAGREES_M, DISAGREES_SHARE = 0.3, 0.01
MAX_SETUPS, MAX_READINGS, MIN_SETUPS = 8, 30, 2
FINE_CLASS, FINE_LIMITS, SITE_LIMITS = 1.0, (6.0, 60.0), (10.0, 120.0)
"""Class of a fine level, mm per km; limits of fine and of other levels: usable to, adjustable in the field to, seconds."""
Look = Literal["yes", "no", "not-looked"]


def _wire(name: str) -> Field:
    return Length(name.capitalize(), STAFF, f"{name} hair")


class ThreeWires(Part):
    """One reading of the three stadia wires, in either order."""

    upper: Annotated[Typed | None, _wire("upper")] = None
    middle: Annotated[Typed | None, _wire("middle")] = None
    lower: Annotated[Typed | None, _wire("lower")] = None


class PegSight(Part):
    """One staff seen from one set-up. Either `readings` or `wires`; struck readings are kept but not used."""

    distance: Annotated[Typed | None, Length("Distance", DISTANCE, prefilled=True, quantity="distance")] = None
    readings: Annotated[
        list[Typed],
        Rows(
            "reading",
            MAX_READINGS,
            1,
            "One more reading",
            Length("Reading", STAFF, column="reading", quantity="staff"),
        ),
    ] = []
    wires: Annotated[list[ThreeWires], Rows("set of hairs", MAX_READINGS, 0, "One more set of hairs")] = []
    struck: Annotated[
        list[Typed], Rows("struck reading", MAX_READINGS, 0, field=Length("Struck", STAFF), in_tables=False)
    ] = []


class PegSetUp(Part):
    """The level in one place, both staffs read."""

    a: Annotated[PegSight, Branch("staff", "A", "staff A")] = PegSight()
    b: Annotated[PegSight, Branch("staff", "B", "staff B")] = PegSight()


class QuickLooks(Part):
    """Two looks before any reading: does the circular bubble hold when turned, does the line return after a tap."""

    bubble_holds: Annotated[
        Look,
        Choice(
            "Turn the level through a full circle. Does the circular bubble stay in its ring?",
            Option("yes", "Stays in the ring"),
            Option("no", "Leaves the ring"),
            Option("not-looked", "Not checked"),
            words="the circular level",
            look=True,
            column=None,
        ),
    ] = "not-looked"
    line_returns: Annotated[
        Look,
        Choice(
            "Sight a staff, tap the tripod lightly. Does the line return to the same reading?",
            Option("yes", "Returns"),
            Option("no", "Does not return"),
            Option("not-looked", "Not checked"),
            words="the line after a tap",
            look=True,
            column=None,
        ),
    ] = "not-looked"


class TwoPegObservations(Part):
    """Set-ups in the order in which they were made. The stadia constant has no unit."""

    looks: Annotated[QuickLooks, Branch(words="the quick checks")] = QuickLooks()
    setups: Annotated[list[PegSetUp], Rows("set-up", MAX_SETUPS, MIN_SETUPS, "One more set-up", number="setup")] = []
    curvature: Annotated[bool, Switch("Apply earth curvature and refraction")] = True
    stadia_constant: Annotated[float, Bounds(ge=10, le=500), InOwnUnit] = 100.0


class TwoPeg(CheckDocument):
    """A two-peg test."""

    kind: Literal["two-peg"]
    observations: TwoPegObservations


class PegSetUpFigures(Answer):
    """One set-up: what it says, and what each staff must read once the line of sight is right."""

    height_difference_m: float
    imbalance_m: float
    corrected_a_m: float
    corrected_b_m: float
    target_a_m: float
    target_b_m: float


class TwoPegFigures(Figures):
    """The line of sight, B above A, and what each set-up and reading says."""

    collimation_arcsec: float
    collimation_mm_per_m: float
    sigma_collimation_arcsec: float
    height_difference_m: float
    misclosure_m: float
    setups: list[PegSetUpFigures]
    sensitivity: list[Sensitivity]
    repeats: Repeats
    collimation_middle_wire_arcsec: float | None = None


where = where_of(TwoPegObservations, observations="the observations")


@dataclass(frozen=True, slots=True)
class StaffReading:
    """One reading of a staff, in metres: the mean of three wires where three were read."""

    path: str
    m: float
    step_m: float
    _: KW_ONLY
    text: str = ""
    middle_m: float | None = None
    unequal_m: float = 0.0
    """(upper - middle) - (middle - lower), of three wires."""
    stadia_m: float | None = None


@dataclass(frozen=True)  # without slots: the means are asked for often and kept
class StaffSight:
    """One staff from one set-up, as far as it has been read."""

    path: str
    called: str
    staff: str
    _: KW_ONLY
    setup: int
    readings: tuple[StaffReading, ...]
    distance_m: float | None
    taped_m: float | None
    three_wire: bool

    @property
    def complete(self) -> bool:
        """Whether both staffs have a distance and a reading."""
        return self.distance_m is not None and bool(self.readings)

    @property
    def sight_m(self) -> float:
        """The distance of a sight that is known to be complete."""
        assert self.distance_m is not None, f"{self.path} has no distance"
        return self.distance_m

    @cached_property
    def mean_m(self) -> float:
        """Mean of the readings, metres."""
        return fsum(p.m for p in self.readings) / len(self.readings)

    @cached_property
    def middle_m(self) -> float:
        """Mean of the middle hairs, metres."""
        return fsum(p.m if p.middle_m is None else p.middle_m for p in self.readings) / len(self.readings)

    @cached_property
    def unequal_m(self) -> float:
        """By how much the upper half interval exceeds the lower, metres."""
        return fsum(p.unequal_m for p in self.readings) / len(self.readings)

    def without(self, index: int) -> StaffSight:
        """The sight with one reading left out."""
        return replace(self, readings=self.readings[:index] + self.readings[index + 1 :])


Setups = list[tuple[StaffSight, StaffSight]]


@dataclass
class PegsRead:
    """Every set-up as far as it can be read."""

    setups: Setups


def read_document(document: TwoPeg, reader: Reader) -> PegsRead:
    """Every set-up as far as it can be read; faults and what is missing are in the reader, in reading order."""
    listed = document.observations.setups
    setups = []
    for i in range(max(len(listed), MIN_SETUPS)):
        peg_set_up = listed[i] if i < len(listed) else PegSetUp()
        a, b = (_sight(document, reader, i, staff, getattr(peg_set_up, staff)) for staff in "ab")
        if i < len(listed):
            setups.append((a, b))
    _geometry(setups, reader)
    return PegsRead(_alike(setups))


def _alike(setups: list[tuple[StaffSight, StaffSight]]) -> list[tuple[StaffSight, StaffSight]]:
    """Every reading with the finest last digit of the sheet: a zero dropped at the end is no coarser reading."""
    readings = [p for setup in setups for seen in setup for p in seen.readings]
    step = shown_step([p.m for p in readings], finest(p.step_m for p in readings), DECIMAL)

    def finer(seen: StaffSight) -> StaffSight:
        if all(reading.step_m == step for reading in seen.readings):
            return seen
        return replace(seen, readings=tuple(replace(p, step_m=step) for p in seen.readings))

    return [(finer(a), finer(b)) for a, b in setups]


def _sight(document: TwoPeg, reader: Reader, setup: int, staff: str, sight: PegSight) -> StaffSight:
    path = f"observations.setups[{setup}].{staff}"
    if sight.wires and sight.readings:
        reader.fault_at(path, "readings and stadia hairs", "either readings or stadia hairs, not both")
    typed = None
    if not blank(sight.distance) or not sight.wires:
        typed = reader.figure(sight, "distance", path)
    if sight.wires:
        rows = reader.rows(sight, "wires", path, fewest=1)
        readings = [_three_wires(reader, row, document.observations.stadia_constant) for row in rows]
    else:
        readings = [
            StaffReading(reading.path, reading.value, reading.step, text=reading.text)
            for reading in reader.plain(sight, "readings", path)
        ]
    good, taped = tuple(reading for reading in readings if reading is not None), typed.value if typed else None
    distance = taped
    if distance is None and sight.wires and blank(sight.distance) and good:
        distance = _stadia(reader, path, good)
    return StaffSight(
        path,
        where(path),
        staff.upper(),
        setup=setup,
        readings=good,
        distance_m=distance,
        taped_m=taped,
        three_wire=bool(sight.wires),
    )


def _three_wires(reader: Reader, row: Row, constant: float) -> StaffReading | None:
    upper, middle, lower = (row[name] for name in ("upper", "middle", "lower"))
    if not min(upper, lower) < middle < max(upper, lower):
        given = ", ".join(row.text(name) for name in ("upper", "middle", "lower"))
        reader.fault_at(row.path, given, "a middle hair between the upper and the lower")
        return None
    unequal = (upper - middle) - (middle - lower)
    step = finest(row.step(name) for name in ("upper", "middle", "lower"))
    stadia = constant * abs(upper - lower)
    return StaffReading(
        row.path,
        (upper + middle + lower) / 3,
        step,
        text=row.text("middle"),
        middle_m=middle,
        unequal_m=unequal,
        stadia_m=stadia,
    )


def _stadia(reader: Reader, path: str, readings: tuple[StaffReading, ...]) -> float | None:
    """Mean stadia distance of a sight, or None with a fault when no sight can be that long or short."""
    distance = fsum(reading.stadia_m or 0.0 for reading in readings) / len(readings)
    if DISTANCE.low_m <= distance <= DISTANCE.high_m:
        return distance
    words = length_words(reader.length_unit)
    given = f"stadia hairs that give {words.distance(distance)}"
    reader.fault_at(
        f"{path}.wires",
        given,
        f"a stadia interval that gives {words.distance(DISTANCE.low_m)} to {words.distance(DISTANCE.high_m)}",
    )
    return None


def stadia_disagrees(seen: StaffSight) -> float | None:
    """The stadia distance in metres when it contradicts the taped one by more than 0.3 m + 1 percent."""
    if not seen.three_wire or seen.taped_m is None or not seen.readings:
        return None
    stadia = fsum(p.stadia_m or 0.0 for p in seen.readings) / len(seen.readings)
    return stadia if abs(stadia - seen.taped_m) > DISAGREES_M + DISAGREES_SHARE * seen.taped_m else None


def imbalance(setup: tuple[StaffSight, StaffSight]) -> float | None:
    """Da - Db in metres, once both are known."""
    a, b = setup
    return a.distance_m - b.distance_m if a.distance_m is not None and b.distance_m is not None else None


def _geometry(setups: list[tuple[StaffSight, StaffSight]], reader: Reader) -> None:
    known = [value for value in map(imbalance, setups) if value is not None]
    if len(known) < 2 or len(known) < len(setups):
        return
    if max(known) - min(known) < MIN_IMBALANCE_SPREAD_M:
        words = length_words(reader.length_unit)
        given = "a sight imbalance of " + " and ".join(words.distance(entry) for entry in known)
        wanted = (
            f"set-ups whose sight imbalance (A minus B) differs by at least {words.distance(MIN_IMBALANCE_SPREAD_M)}"
        )
        reader.fault("observations.setups", "the set-ups", given, wanted)


def limits_of(document: Envelope) -> Limits:
    """The limits that apply, and where they come from."""
    s_km = document.instrument.levelling_accuracy_mm_per_km
    use, adjust = FINE_LIMITS if s_km is not None and s_km <= FINE_CLASS else SITE_LIMITS
    what = f"levels of {s_km:g} mm per km" if s_km is not None else "a level without stated accuracy"
    return limits_from(document, QUANTITY, Limits(use, 2 * use, adjust, f"default limit for {what}"))
