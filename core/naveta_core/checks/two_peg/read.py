"""From what was typed to figures: every sight with its readings, its distance and what each is worth."""

from __future__ import annotations

import re
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from math import fsum

from ...numerals import finest
from ...readings import Range, Sheet, ordinal
from .model import SetUp, Sight, TwoPeg, Wires

DISTANCE = Range(1.0, 150.0, "a distance")
STAFF = Range(-0.5, 7.0, "a staff reading")
LEAST_IMBALANCE_SPREAD_M = 2.0
WEAK_IMBALANCE_SPREAD_M = 10.0
DISAGREES_M, DISAGREES_SHARE = 0.3, 0.01
_WORDS = {
    "observations": "the observations",
    "observations.setups": "the set-ups",
    "observations.looks": "the two looks",
    "$": "the whole document",
}


@dataclass(frozen=True, slots=True)
class Pointing:
    """One reading of a staff, in metres: the mean of three wires where three were read."""

    path: str
    m: float
    step_m: float
    text: str = ""
    middle_m: float | None = None
    unequal_m: float = 0.0
    """(upper - middle) - (middle - lower), of three wires."""
    stadia_m: float | None = None


@dataclass(frozen=True)  # without slots: the means are asked for often and kept
class Seen:
    """One staff from one set-up, as far as it has been read."""

    path: str
    where: str
    staff: str
    setup: int
    pointings: tuple[Pointing, ...]
    distance_m: float | None
    taped_m: float | None
    three_wire: bool

    @property
    def complete(self) -> bool:
        return self.distance_m is not None and bool(self.pointings)

    @property
    def sight_m(self) -> float:
        """The distance of a sight that is known to be complete."""
        assert self.distance_m is not None, f"{self.path} has no distance"
        return self.distance_m

    @cached_property
    def mean_m(self) -> float:
        return fsum(p.m for p in self.pointings) / len(self.pointings)

    @cached_property
    def middle_m(self) -> float:
        return fsum(p.m if p.middle_m is None else p.middle_m for p in self.pointings) / len(self.pointings)

    @cached_property
    def unequal_m(self) -> float:
        return fsum(p.unequal_m for p in self.pointings) / len(self.pointings)

    def without(self, index: int) -> Seen:
        return replace(self, pointings=self.pointings[:index] + self.pointings[index + 1 :])


@lru_cache(maxsize=1024)
def where(path: str) -> str:
    """A path in words: 'second set-up, staff A, first reading'."""
    if path in _WORDS:
        return _WORDS[path]
    match = re.match(
        r"observations\.setups\[(\d+)\](?:\.([ab]))?(?:\.(distance|readings|wires|struck))?(?:\[(\d+)\])?(?:\.(\w+))?",
        path,
    )
    if match is None:
        return path.replace("_", " ").replace(".", ", ")
    setup, staff, what, index, wire = match.groups()
    words = [f"{ordinal(int(setup))} set-up"]
    if staff:
        words.append(f"staff {staff.upper()}")
    if what == "distance":
        words[-1:] = [f"distance to {staff.upper()}"]
    elif index is not None:
        name = {"readings": "reading", "wires": "set of wires", "struck": "struck reading"}[what]
        words.append(f"{ordinal(int(index))} {name}")
    if wire in ("upper", "middle", "lower"):
        words.append(f"{wire} wire")
    return ", ".join(words)


def read(document: TwoPeg) -> tuple[list[tuple[Seen, Seen]], Sheet]:
    """Every set-up as far as it can be read, and the sheet with faults and what is missing, in reading order."""
    sheet = Sheet(document.units.length)
    observations = document.observations
    setups = [_setup(document, sheet, i, one) for i, one in enumerate(observations.setups)]
    for index in range(len(setups), 2):
        for path in (
            f"observations.setups[{index}].{staff}.{what}" for staff in "ab" for what in ("distance", "readings[0]")
        ):
            sheet.want(path, where(path))
    _geometry(setups, sheet)
    return _alike(setups), sheet


def _alike(setups: list[tuple[Seen, Seen]]) -> list[tuple[Seen, Seen]]:
    """Every reading with the finest last digit of the sheet: a zero dropped at the end is no coarser reading."""
    step = finest(p.step_m for setup in setups for seen in setup for p in seen.pointings)

    def finer(seen: Seen) -> Seen:
        return replace(seen, pointings=tuple(replace(p, step_m=step) for p in seen.pointings))

    return [(finer(a), finer(b)) for a, b in setups]


def _setup(document: TwoPeg, sheet: Sheet, index: int, setup: SetUp) -> tuple[Seen, Seen]:
    a, b = (_sight(document, sheet, index, staff, getattr(setup, staff)) for staff in "ab")
    return a, b


def _sight(document: TwoPeg, sheet: Sheet, setup: int, staff: str, sight: Sight) -> Seen:
    path = f"observations.setups[{setup}].{staff}"
    words = f"{ordinal(setup)} set-up, staff {staff.upper()}"
    if sight.wires and sight.readings:
        sheet.fault(path, words, "readings and wires", "either readings or wires, not both")
    taped = None
    if sight.distance not in (None, "") or not sight.wires:
        found = sheet.length(f"{path}.distance", where(f"{path}.distance"), sight.distance, DISTANCE)
        taped = found.m if found else None
    if sight.wires:
        constant = document.observations.stadia_constant
        pointings = [_three_wires(sheet, f"{path}.wires[{i}]", one, constant) for i, one in enumerate(sight.wires)]
    else:
        pointings = [_single(sheet, f"{path}.readings[{i}]", one) for i, one in enumerate(_filled(sight.readings))]
    good = tuple(p for p in pointings if p is not None)
    distance = taped
    if distance is None and sight.wires and sight.distance in (None, "") and good:
        distance = _stadia(sheet, path, good)
    return Seen(path, words, staff.upper(), setup, good, distance, taped, bool(sight.wires))


def _filled(readings: list[str | int | float]) -> list[str | int | float | None]:
    """Readings without empty ones at the end: a field opened for one more is not a reading that is missing."""
    kept: list[str | int | float | None] = list(readings)
    while len(kept) > 1 and isinstance(kept[-1], str) and not kept[-1].strip():
        kept.pop()
    return kept or [None]


def _single(sheet: Sheet, path: str, value: str | int | float | None) -> Pointing | None:
    length = sheet.length(path, where(path), value, STAFF)
    return Pointing(path, length.m, length.step_m, str(value)) if length else None


def _three_wires(sheet: Sheet, path: str, wires: Wires, constant: float) -> Pointing | None:
    found = [
        sheet.length(f"{path}.{name}", where(f"{path}.{name}"), getattr(wires, name), STAFF)
        for name in ("upper", "middle", "lower")
    ]
    upper, middle, lower = found
    if upper is None or middle is None or lower is None:
        return None
    if not min(upper.m, lower.m) < middle.m < max(upper.m, lower.m):
        given = f"{wires.upper}, {wires.middle}, {wires.lower}"
        sheet.fault(path, where(path), given, "a middle wire between the upper and the lower")
        return None
    mean = (upper.m + middle.m + lower.m) / 3
    unequal = (upper.m - middle.m) - (middle.m - lower.m)
    step = finest(one.step_m for one in (upper, middle, lower))
    return Pointing(path, mean, step, str(wires.middle), middle.m, unequal, constant * abs(upper.m - lower.m))


def _stadia(sheet: Sheet, path: str, pointings: tuple[Pointing, ...]) -> float | None:
    """Mean stadia distance of a sight, or None with a fault when no sight can be that long or short."""
    distance = fsum(p.stadia_m or 0.0 for p in pointings) / len(pointings)
    if DISTANCE.low_m <= distance <= DISTANCE.high_m:
        return distance
    given = f"wires that give {distance:.1f} m"
    sheet.fault(f"{path}.wires", where(f"{path}.wires"), given, "an interval of wires that gives 1 m to 150 m")
    return None


def stadia_disagrees(seen: Seen) -> float | None:
    """The stadia distance in metres when it contradicts the taped one by more than 0.3 m + 1 percent."""
    if not seen.three_wire or seen.taped_m is None or not seen.pointings:
        return None
    stadia = fsum(p.stadia_m or 0.0 for p in seen.pointings) / len(seen.pointings)
    return stadia if abs(stadia - seen.taped_m) > DISAGREES_M + DISAGREES_SHARE * seen.taped_m else None


def imbalance(setup: tuple[Seen, Seen]) -> float | None:
    """Da - Db in metres, once both are known."""
    a, b = setup
    return a.distance_m - b.distance_m if a.distance_m is not None and b.distance_m is not None else None


def _geometry(setups: list[tuple[Seen, Seen]], sheet: Sheet) -> None:
    known = [one for one in map(imbalance, setups) if one is not None]
    if len(known) < 2 or len(known) < len(setups):
        return
    if max(known) - min(known) < LEAST_IMBALANCE_SPREAD_M:
        given = "differences of sights of " + " and ".join(f"{one:.1f} m" for one in known)
        wanted = (
            f"set-ups whose differences of sights (to A less to B) lie {LEAST_IMBALANCE_SPREAD_M:g} m or more apart"
        )
        sheet.fault("observations.setups", where("observations.setups"), given, wanted)
