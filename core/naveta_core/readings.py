"""Turning what was typed into figures, gathering every fault and everything still missing on the way.

One `Sheet` goes through a document in the order in which it is read in the field. Preview looks at what could
be read; reduce and save demand that nothing is missing and nothing at fault. So both read by the same code.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from .errors import Fault, Refused, said
from .lengths import NAMES, Length, in_unit, parse_length

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
        """'a staff reading from -0.5 m to 7 m', in the unit it was typed in."""
        low, high = (f"{in_unit(bound, unit):.4g}" for bound in (self.low_m, self.high_m))
        return f"{self.name} from {low} to {high} {unit} (units are {NAMES[unit]})"


@dataclass
class Sheet:
    """Collects lengths, faults and missing paths while a document is read."""

    length_unit: str = "m"
    faults: list[Fault] = field(default_factory=list)
    missing: list[str] = field(default_factory=list)
    _missing_where: dict[str, str] = field(default_factory=dict)

    def length(self, path: str, where: str, value: str | int | float | None, allowed: Range) -> Length | None:
        """A length in metres, or None with the path noted as missing or the fault noted."""
        if value is None or (isinstance(value, str) and not value.strip()):
            self.want(path, where)
            return None
        if isinstance(value, bool) or not isinstance(value, str | int | float):
            self.faults.append(Fault(path, where, said(value), "a number, or the characters as typed"))
            return None
        try:
            length = Length(float(value)) if isinstance(value, int | float) else parse_length(value, self.length_unit)
        except ValueError as error:
            self.faults.append(Fault(path, where, said(value), str(error)))
            return None
        if not allowed.low_m <= length.m <= allowed.high_m:
            unit = self.length_unit if isinstance(value, str) else "m"
            self.faults.append(Fault(path, where, said(value), allowed.wanted(unit)))
            return None
        return length

    def want(self, path: str, where: str) -> None:
        """Note a path as not yet filled."""
        if path not in self._missing_where:
            self.missing.append(path)
            self._missing_where[path] = where

    def wanted(self) -> list[dict[str, str]]:
        """What is not yet filled, in reading order, as a person calls it."""
        return [{"path": path, "where": self._missing_where[path]} for path in self.missing]

    def fault(self, path: str, where: str, given: str, wanted: str) -> None:
        self.faults.append(Fault(path, where, given, wanted))

    def demand_complete(self) -> None:
        """Raise Refused with every fault and every missing path, in reading order."""
        gaps = [Fault(path, self._missing_where[path], "nothing", "a reading") for path in self.missing]
        if self.faults or gaps:
            raise Refused([*self.faults, *gaps])
