"""Checks of rows as tables: a row a reading; what is told once stands on the first row."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from ...errors import Fault
from ...tables import TableFaults, read_rows, write_rows

Data = dict[str, Any]
NUMBERS = tuple(str(one) for one in range(1, 25))


@dataclass(frozen=True, slots=True)
class Table:
    """Columns of a kind. `once` are fields of the observations, `rows` those of each entry of `listed`."""

    kind: str
    once: tuple[str, ...]
    listed: str
    rows: tuple[str, ...]
    whole: tuple[str, ...] = ()
    """Columns that number something: whole figures, not readings."""
    angles: bool = False
    """Whether the unit column tells that of angles, not of lengths."""

    @property
    def columns(self) -> tuple[str, ...]:
        return (*self.once, *self.rows, "unit")

    def read(self, text: str) -> Data:
        """A table to a plain document. Raises TableFaults."""
        rows = read_rows(text, self.columns, ())
        faults: list[Fault] = []
        observations: Data = {}
        unit = ""
        listed: list[Data] = []
        for row in rows:
            for name in self.once:
                if row[name] and observations.setdefault(name, row[name]) != row[name]:
                    faults.append(rows.fault(row, name, f"{observations[name]}, as in the rows above"))
            if row["unit"]:
                if unit and row["unit"] != unit:
                    faults.append(rows.fault(row, "unit", f"{unit}, as in the rows above"))
                unit = unit or row["unit"]
            entry: Data = {name: row[name] for name in self.rows if row[name]}
            for name in self.whole:
                if name in entry and entry[name] not in NUMBERS:
                    faults.append(rows.fault(row, name, f"a whole number from 1 to {len(NUMBERS)}"))
                elif name in entry:
                    entry[name] = int(entry[name])
            if entry:
                listed.append(entry)
        if faults:
            raise TableFaults(faults)
        units = {"units": {"angle" if self.angles else "length": unit}} if unit else {}
        return {"kind": self.kind, **units, "observations": {**observations, self.listed: listed}}

    def write(self, document: Any) -> str:
        """A document's readings as a table."""
        return self.written(document.observations.model_dump(mode="json", exclude_none=True), document.units)

    def written(self, plain: Data, units: Any) -> str:
        """Observations with the rows in `listed` as a table."""
        once = {name: str(plain[name]) for name in self.once if plain.get(name) not in (None, "")}
        once["unit"] = units.angle if self.angles else units.length
        lines = [{name: str(one[name]) for name in self.rows if name in one} for one in plain.get(self.listed, [])]
        return write_rows(self.columns, [{**(once if i == 0 else {}), **line} for i, line in enumerate(lines or [{}])])


@dataclass(frozen=True, slots=True)
class Regrouped:
    """A table whose rows are gathered otherwise in the document: `gather` and `spread` carry one into the other."""

    table: Table
    gather: Callable[[Data], Data]
    spread: Callable[[Data], Data]

    @property
    def columns(self) -> tuple[str, ...]:
        return self.table.columns

    def read(self, text: str) -> Data:
        found = self.table.read(text)
        return {**found, "observations": self.gather(found["observations"])}

    def write(self, document: Any) -> str:
        plain = document.observations.model_dump(mode="json", exclude_none=True)
        return self.table.written(self.spread(plain), document.units)
