"""Reading a document by its kind's table of fields: typed figures to numbers, with every fault and everything missing."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from ..documents.envelope import Envelope, Part
from ..units.numbers import CACHED, Numeral
from .fields import Field, FieldTable, Where, table_of
from .parser import WRITTEN, Parser, Value, angle, blank, empty, number


@dataclass(frozen=True, slots=True)
class Row:
    """One row that could be read: its figures by field (lengths in metres, angles in degrees), and the row as typed."""

    path: str
    figures: dict[str, Numeral]
    entry: Part

    def __getitem__(self, name: str) -> float:
        return self.figures[name].value

    def __contains__(self, name: str) -> bool:
        return name in self.figures

    def get(self, name: str) -> float | None:
        """A figure that need not be there."""
        return self.figures[name].value if name in self.figures else None

    def step(self, name: str) -> float:
        """The worth of the last digit typed."""
        return self.figures[name].step

    def text(self, name: str) -> str:
        """What was typed, to the letter."""
        return str(getattr(self.entry, name))

    @property
    def index(self) -> int:
        """Its place in the list as typed."""
        return int(self.path.rpartition("[")[2][:-1])

    @property
    def repeat(self) -> int:
        """In which repeat it was taken."""
        return getattr(self.entry, "repeat", None) or 1


class CellReader(Parser):
    """Reads single cells and rows in given units; `where` gives the words for a path."""

    def __init__(self, length_unit: str, angle_unit: str, where: Callable[[str], str]) -> None:
        super().__init__(length_unit)
        self.angle_unit = angle_unit
        self.where = where

    def missing_at(self, path: str) -> None:
        """Note a path as not yet filled."""
        self.want(path, self.where(path))

    def fault_at(self, path: str, given: str, wanted: str) -> None:
        """Note a fault at a path."""
        self.fault(path, self.where(path), given, wanted)

    def value(self, field: Field, path: str, typed: Any, *, wanted: bool | None = None) -> Numeral | None:
        """One typed figure, or None with the path noted as missing or the fault noted; `wanted` overrules the field."""
        if (field.optional if wanted is None else not wanted) and empty(typed):
            return None
        words = self.where(path)
        if field.kind == "angle":
            return angle(self, path, words, typed, self.angle_unit)
        if field.kind == "length":
            assert field.range is not None, path
            length = self.length(path, words, typed, field.range)
            return Numeral(length.m, length.step_m) if length else None
        assert field.unit in WRITTEN, f"{path}: no words for the unit {field.unit}"
        return number(self, path, words, value=typed, unit=field.unit, low=field.low, high=field.high)

    def row(self, path: str, fields: dict[str, Field], cells: Sequence[Value]) -> dict[str, Numeral] | None:
        """The figures of one row, or None where a wanted one is missing or at fault."""
        figures, whole = dict[str, Numeral](), True
        for (key, field), cell in zip(fields.items(), cells, strict=True):
            figure = self.value(field, f"{path}.{key}", cell)
            if figure is not None:
                figures[key] = figure
            elif not field.optional:
                whole = False
        return figures if whole else None


@lru_cache(CACHED)
def _figures_of(
    table: FieldTable, skip: tuple[str, ...], cells: tuple[Value, ...], length_unit: str, angle_unit: str
) -> dict[str, Numeral] | None:
    """The figures of a row without fault; None for any other. Of a sheet that grows, one row is new at a keystroke."""
    if blank(*cells):
        return None
    reader = CellReader(length_unit, angle_unit, str)
    figures = reader.row("", _without(table.figures, skip), cells)
    return None if reader.faults or reader.missing else figures


class Reader(CellReader):
    """Goes through a document in the order in which it is read in the field."""

    def __init__(self, document: Envelope, where: Where) -> None:
        super().__init__(document.units.length, document.units.angle, where)

    def figure(
        self, holder: Part, name: str, base: str = "observations", *, wanted: bool | None = None
    ) -> Numeral | None:
        """A figure given once: the field `name` of `holder`, which stands at `base`."""
        return self.value(table_of(type(holder)).fields[name], f"{base}.{name}", getattr(holder, name), wanted=wanted)

    def rows(
        self,
        holder: Part,
        name: str,
        base: str = "observations",
        *,
        fewest: int | None = None,
        skip: Sequence[str] = (),
    ) -> list[Row]:
        """The rows of a list that could be read. A row beyond the fewest that was only opened is no row.

        skip: fields this document does not use.
        """
        listed = table_of(type(holder)).lists[name]
        assert listed.entry is not None, f"{base}.{name} has no rows"
        fields = _without(listed.entry.figures, skip)
        least = listed.rows.fewest if fewest is None else fewest
        typed, path, found = getattr(holder, name), f"{base}.{name}", list[Row]()
        for i, entry in enumerate(typed):
            cells = tuple([getattr(entry, key) for key in fields])
            figures = _figures_of(listed.entry, tuple(skip), cells, self.length_unit, self.angle_unit)
            if figures is None and not (i >= least and blank(*cells)):
                figures = self.row(f"{path}[{i}]", fields, cells)
            if figures is not None:
                found.append(Row(f"{path}[{i}]", figures, entry))
        for i in range(len(typed), least):
            for key, field in fields.items():
                if not (field.prefilled or field.optional):
                    self.missing_at(f"{path}[{i}].{key}")
        return found

    def plain(self, holder: Part, name: str, base: str = "observations", *, wanted: bool = True) -> list[PlainRow]:
        """The values of a list without fields that could be read; empty ones are passed over."""
        rows = table_of(type(holder)).lists[name].rows
        assert rows.field is not None, f"{base}.{name} has fields"
        path, values = f"{base}.{name}", getattr(holder, name)
        filled = [(i, value) for i, value in enumerate(values) if not empty(value)]
        if not filled and wanted:
            self.missing_at(f"{path}[0]")
        found = []
        for i, entry in filled:
            figure = self.value(rows.field, f"{path}[{i}]", entry)
            if figure is not None:
                found.append(PlainRow(f"{path}[{i}]", figure.value, figure.step, str(entry)))
        return found


@dataclass(frozen=True, slots=True)
class PlainRow:
    """One value of a list without fields: its path, the figure, the worth of its last digit, as typed.

    In the unit of the field, lengths in metres, angles in degrees.
    """

    path: str
    value: float
    step: float
    text: str


def _without(fields: dict[str, Field], skip: Sequence[str]) -> dict[str, Field]:
    return {name: field for name, field in fields.items() if name not in skip} if skip else fields


def filled_rows(holder: Part, name: str, skip: Sequence[str] = ()) -> int:
    """How many rows of a list hold anything that was typed."""
    listed = table_of(type(holder)).lists[name]
    assert listed.entry is not None, name
    names = _without(listed.entry.figures, skip)
    return len([row for row in getattr(holder, name) if not blank(*(getattr(row, key) for key in names))])
