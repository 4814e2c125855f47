"""Turning what was typed into figures, gathering every fault and everything still missing on the way.

One `Sheet` goes through a document in the order in which it is read in the field. Preview looks at what could
be read; reduce and save demand that nothing is missing and nothing at fault. So both read by the same code.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from typing import Any

from ..errors import Fault, Refused, meant, plain_number, quote
from ..results import NextReading
from ..units.angles import parse_angle
from ..units.lengths import NAMES, Length, in_unit, parse_length
from ..units.numbers import Numeral, finest, numeral

ORDINALS = ("first", "second", "third", "fourth", "fifth", "sixth", "seventh", "eighth", "ninth", "tenth")


def ordinal(index: int) -> str:
    """0 as 'first'; from the eleventh on in figures."""
    return ORDINALS[index] if index < len(ORDINALS) else f"{index + 1}th"


@dataclass(frozen=True, slots=True)
class Range:
    """What a length may be, in metres, and what it is called."""

    low_m: float
    high_m: float
    name: str

    def wanted(self, unit: str) -> str:
        """'a staff reading from −0.5 to 7 m', in the unit it was typed in."""
        low, high = (plain_number(float(f"{in_unit(bound, unit):.4g}")) for bound in (self.low_m, self.high_m))
        return f"{self.name} from {low} to {high} {unit} (units are {NAMES[unit]})"

    def meant(self, text: str, unit: str) -> str:
        """What may have been meant by a length out of range, typed in `unit`."""
        return meant(text, in_unit(self.low_m, unit), in_unit(self.high_m, unit))


@dataclass
class Parser:
    """Collects lengths, faults and missing paths while a document is read."""

    length_unit: str = "m"
    faults: list[Fault] = field(default_factory=list)
    missing: list[str] = field(default_factory=list)
    _missing_where: dict[str, str] = field(default_factory=dict)

    def length(self, path: str, where: str, value: str | int | float | None, allowed: Range) -> Length | None:
        """A length in metres, or None with the path noted as missing or the fault noted."""
        if empty(value):
            self.want(path, where)
            return None
        if isinstance(value, bool) or not isinstance(value, str | int | float):
            self.faults.append(Fault(path, where, quote(value), "a number, or the characters as typed"))
            return None
        try:
            length = Length(float(value)) if isinstance(value, int | float) else parse_length(value, self.length_unit)
        except ValueError as error:
            self.faults.append(Fault(path, where, quote(value), str(error)))
            return None
        if not allowed.low_m <= length.m <= allowed.high_m:
            unit = self.length_unit if isinstance(value, str) else "m"
            perhaps = allowed.meant(value, unit) if isinstance(value, str) else ""
            self.faults.append(Fault(path, where, quote(value), allowed.wanted(unit) + perhaps))
            return None
        return length

    def want(self, path: str, where: str) -> None:
        """Note a path as not yet filled."""
        if path not in self._missing_where:
            self.missing.append(path)
            self._missing_where[path] = where

    def wanted(self) -> list[NextReading]:
        """What is not yet filled, in reading order, as a person calls it."""
        return [NextReading(path=path, where=self._missing_where[path]) for path in self.missing]

    def fault(self, path: str, where: str, given: str, wanted: str) -> None:
        """Note a fault: where it stands, what was given, what is wanted."""
        self.faults.append(Fault(path, where, given, wanted))

    def demand_complete(self) -> None:
        """Raise Refused with every fault and every missing path, in reading order."""
        gaps = [Fault(path, self._missing_where[path], "nothing", "a reading") for path in self.missing]
        if self.faults or gaps:
            raise Refused([*self.faults, *gaps])


Value = str | int | float | None

SECONDS = {"″": 1.0, '"': 1.0, "''": 1.0, "′": 60.0, "'": 60.0, "°": 3600.0}

WRITTEN = {
    "mm": "millimetres",
    "arcsec": "seconds",
    "div": "divisions",
    "deg": "degrees",
    "m": "metres",
    "c": "degrees",
    "n": "newtons",
    "arcmin": "minutes of arc",
    "mm2": "square millimetres",
}


def number(
    parser: Parser, path: str, where: str, *, value: Value, unit: str, low: float, high: float, wanted: bool = True
) -> Numeral | None:
    """A typed number in `unit`, or None with the path noted as missing or the fault noted.

    Low and high in the same unit.
    """
    if empty(value):
        if wanted:
            parser.want(path, where)
        return None
    try:
        found = Numeral(float(value), 0.0) if isinstance(value, int | float) else _read(str(value), unit)
    except ValueError as error:
        parser.fault(path, where, quote(value), str(error))
        return None
    if not low <= found.value <= high:
        perhaps = meant(value, low, high) if isinstance(value, str) else ""
        wanted_range = f"{WRITTEN[unit]} from {plain_number(low)} to {plain_number(high)}"
        parser.fault(path, where, quote(value), wanted_range + perhaps)
        return None
    return found


def _read(text: str, unit: str) -> Numeral:
    text = text.strip()
    if unit in ("mm", "m"):
        length = parse_length(text, unit)
        per = 1000.0 if unit == "mm" else 1.0
        return Numeral(length.m * per, length.step_m * per)
    if unit == "arcsec":
        for mark, seconds in SECONDS.items():
            if text.endswith(mark):
                entry = numeral(text.removesuffix(mark))
                return Numeral(entry.value * seconds, entry.step * seconds)
    for mark in ("div", "°C", "°", "N", "′", "mm²"):
        text = text.removesuffix(mark)
    return numeral(text)


def angle(parser: Parser, path: str, where: str, value: Value, unit: str) -> Numeral | None:
    """A typed angle in decimal degrees, one turn at most; None with the path noted as missing or the fault noted."""
    if empty(value):
        parser.want(path, where)
        return None
    try:
        found = parse_angle(value, unit) if isinstance(value, str) else Numeral(float(value or 0.0), 0.0)
    except ValueError as error:
        parser.fault(path, where, quote(value), str(error))
        return None
    if not -360.0 < found.value <= 360.0:
        gon = unit != "gon" and 360 < found.value <= 400
        wanted = "an angle up to 360°" + ("; is this in gon? change the unit" if gon else "")
        parser.fault(path, where, quote(value), wanted)
        return None
    return found


def empty(value: Value) -> bool:
    """Whether nothing was typed into a cell; asked for every cell of a sheet at every keystroke."""
    return value is None or (isinstance(value, str) and not value.strip())


def blank(*values: Value) -> bool:
    """Whether nothing at all was typed: a row that was only opened is not a reading that is missing."""
    return all(map(empty, values))


def filled(rows: Sequence[Any], *names: str) -> int:
    """How many rows hold anything that was typed: one that was only opened at the end is no row."""
    return len([row for row in rows if not blank(*(getattr(row, name) for name in names))])


def rounding(steps: Iterable[float]) -> float:
    """What rounding to the last digit of the sheet adds to the variance of a reading: r²/12.

    Steps in any unit, the variance in its square.
    """
    return finest(steps) ** 2 / 12
