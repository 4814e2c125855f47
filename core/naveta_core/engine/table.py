"""Checks as table files: a row a reading, columns from the table of fields; what is given once stands on the first row.

A list of parts is numbered by a column of its own (set-up, target, series); one of several parts or lists of the same
shape is named by another (staff, face, position).
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import partial
from typing import Any

from ..documents.csv_io import Row, Rows, TableFaults, read_rows, write_rows
from ..errors import Fault
from ..units.numbers import numeral
from .fields import Field, FieldTable, ListOf, changed_fields

Data = dict[str, Any]
UNITS = ("m", "mm", "cm", "ft", "usft", "in", "dms", "deg", "gon")


@dataclass(frozen=True, slots=True)
class Level:
    """One step on the way to a list of rows: its name in the document, what numbers or names it, what is given at it."""

    name: str
    number: str = ""
    most: int = 0
    fewest: int = 0
    branch: tuple[str, str] = ("", "")
    fields: dict[str, str] = field(default_factory=dict)
    """Column to field."""


@dataclass(frozen=True, slots=True)
class Slot:
    """One list of rows of a document: the way to it, and its own columns. `plain` values have no fields."""

    levels: tuple[Level, ...]
    name: str
    branch: tuple[str, str]
    own: dict[str, str]
    counts: dict[str, int]
    """Fields that number a row, with the most they may be."""
    plain: bool = False

    @property
    def branches(self) -> dict[str, str]:
        """What its rows say in the columns that name parts."""
        return dict(entry for entry in (*(level.branch for level in self.levels), self.branch) if entry[0])

    @property
    def columns(self) -> list[str]:
        """The columns of a table file, in their order."""
        found: list[str] = []
        for level in self.levels:
            found += [level.number, level.branch[0], *level.fields]
        return [entry for entry in (*found, self.branch[0], *self.own) if entry]


def column_of(name: str, entry: Field) -> str | None:
    """The column a field has in a table file; None where it has none."""
    return None if entry.column is None else entry.column or name


def columns_of(table: FieldTable) -> dict[str, str]:
    """Column to field, of what is given once."""
    # What only numbers a row stands behind what was read.
    fields = sorted(table.fields.items(), key=lambda pair: pair[1].kind == "count")
    named = {column_of(name, field): name for name, field in fields}
    return {column: name for column, name in named.items() if column}


def slots_of(table: FieldTable, levels: tuple[Level, ...] = ()) -> Iterator[Slot]:
    """Every list of rows, in the order of the document."""
    for name, (branch, part) in table.parts.items():
        yield from slots_of(part, (*levels, Level(name, branch=(branch.column, branch.value), fields=columns_of(part))))
    for name, listed in table.lists.items():
        if not listed.rows.in_tables:
            continue
        entry = listed.entry
        if entry is not None and (entry.lists or entry.parts):
            level = Level(name, listed.rows.number, listed.rows.most, listed.rows.fewest, fields=columns_of(entry))
            yield from slots_of(entry, (*levels, level))
        else:
            yield _slot(levels, name, listed)


def _slot(levels: tuple[Level, ...], name: str, listed: ListOf) -> Slot:
    if listed.entry is None:
        assert listed.plain is not None, f"{name} has neither fields nor a field"
        return Slot(levels, name, listed.rows.branch, {listed.plain.column or name: ""}, {}, plain=True)
    counts = {key: int(field.high) for key, field in listed.entry.fields.items() if field.kind == "count"}
    return Slot(levels, name, listed.rows.branch, columns_of(listed.entry), counts)


@dataclass(frozen=True, slots=True)
class TableFile:
    """How a kind is written as a table file and read from one."""

    kind: str
    table: FieldTable
    once: dict[str, str]
    slots: tuple[Slot, ...]
    angles: bool
    """Whether the unit column says that of angles, not of lengths."""

    @property
    def columns(self) -> tuple[str, ...]:
        """The columns of a table file, in their order."""
        rows = [column for slot in self.slots for column in slot.columns]
        return tuple(dict.fromkeys((*self.once, *rows, "unit")))

    @property
    def needed(self) -> tuple[str, ...]:
        """Columns without which nothing can be kept separate: where there must be two parts or more."""
        found: list[str] = []
        for slot in self.slots:
            for i, level in enumerate(slot.levels):
                if level.fewest > 1:
                    found += [level.number, *(level.branch[0] for level in slot.levels[i + 1 :] if level.branch[0])]
        return tuple(dict.fromkeys(found))

    def read(self, text: str) -> Data:
        """A table to a plain document. Raises TableFaults."""
        return self.read_rows(read_rows(text, self.columns, self.needed))

    def read_rows(self, rows: Rows) -> Data:
        """The rows of a table to a plain document. Raises TableFaults."""
        return _Reading(self, rows).document()

    def write(self, document: Any) -> str:
        """A document's readings as a table."""
        plain = document.observations.model_dump(mode="json", exclude_none=True)
        if self.angles:
            plain = changed_fields(self.table, plain, partial(_with_unit, document.units.length))
        once = {column: str(plain[name]) for column, name in self.once.items() if plain.get(name) not in (None, "")}
        once |= {"unit": document.units.angle if self.angles else document.units.length}
        lines = list(_lines(self.slots, plain))
        return write_rows(self.columns, [{**(once if i == 0 else {}), **line} for i, line in enumerate(lines or [{}])])


def table_file(kind: str, table: FieldTable) -> TableFile:
    """The table file of a kind, from its table of fields."""
    return TableFile(kind, table, columns_of(table), tuple(slots_of(table)), _has_angles(table))


def _with_unit(unit: str, field: Field, value: Any) -> Any:
    """A length as typed with its unit behind it, where the unit column is that of angles."""
    if field.kind != "length" or unit == "m" or not isinstance(value, str):
        return value
    try:
        numeral(value)
    except ValueError:
        return value
    return f"{value} {unit}"


def _has_angles(table: FieldTable) -> bool:
    nested = [list_.entry for list_ in table.lists.values() if list_.entry] + [part for _, part in table.parts.values()]
    return any(field.kind == "angle" for field in table.fields.values()) or any(map(_has_angles, nested))


class _Reading:
    """A table being read: rows go where their columns say."""

    def __init__(self, file: TableFile, rows: Rows) -> None:
        self.file, self.rows = file, rows
        self.faults: list[Fault] = []
        self.observations: Data = {}
        self.unit = ""

    def document(self) -> Data:
        """The table as a plain document. Raises TableFaults."""
        for row in self.rows:
            self.unit = self._agree(row, "unit", self.unit)
            self._put(self.observations, self.file.once, row)
            slot = self._slot(row)
            if slot is not None:
                self._place(slot, row)
        if self.unit and self.unit not in UNITS:
            self.faults.append(self.rows.fault(next(iter(self.rows)), "unit", "one of " + ", ".join(UNITS)))
        if self.faults:
            raise TableFaults(self.faults)
        units = {"units": {"angle" if self.file.angles else "length": self.unit}} if self.unit else {}
        return {"kind": self.file.kind, **units, "observations": self.observations}

    def _agree(self, row: Row, column: str, before: str) -> str:
        if before and row[column] and row[column] != before:
            self.faults.append(self.rows.fault(row, column, f"{before}, as in the rows above"))
        return before or row[column]

    def _put(self, holder: Data, columns: dict[str, str], row: Row) -> None:
        """What is given once of a part: on its first row, or alike on all."""
        for column, name in columns.items():
            if row[column] and holder.setdefault(name, row[column]) != row[column]:
                self.faults.append(self.rows.fault(row, column, f"{holder[name]}, as in the rows above"))

    def _slot(self, row: Row) -> Slot | None:
        """The list a row belongs to: by the columns that name parts, then by which of its own columns are filled."""
        first = {column: value for slot in reversed(self.file.slots) for column, value in slot.branches.items()}
        fits = self.file.slots
        for column, default in first.items():
            messages = row[column].lower() or default.lower()
            of = [fit for fit in fits if fit.branches.get(column, "").lower() == messages]
            if not of:
                names = list(dict.fromkeys(fit.branches[column] for fit in fits if column in fit.branches))
                self.faults.append(self.rows.fault(row, column, "one of " + ", ".join(names)))
                return None
            fits = tuple(of)
        filled = [fit for fit in fits if any(row[column] for column in fit.own)]
        if len(filled) > 1:
            columns = " or ".join("/".join(entry.own) for entry in filled)
            self.faults.append(self.rows.fault(row, next(iter(filled[0].own)), f"either {columns}"))
            return None
        return (filled or list(fits))[0] if filled or fits else None

    def _place(self, slot: Slot, row: Row) -> None:
        holder = self.observations
        for level in slot.levels:
            if level.number:
                entry = self._numbered(holder.setdefault(level.name, []), level, row)
                if entry is None:
                    return
                holder = entry
            else:
                holder = holder.setdefault(level.name, {})
            self._put(holder, level.fields, row)
        own = {name: row[column] for column, name in slot.own.items() if row[column]}
        if slot.plain and own:
            holder.setdefault(slot.name, []).append(own[""])
        elif own:
            holder.setdefault(slot.name, []).append({name: self._typed(slot, name, row) for name in own})

    def _numbered(self, listed: list[Data], level: Level, row: Row) -> Data | None:
        text = row[level.number] or "1"
        number = int(text) if text.isascii() and text.isdigit() and len(text) < 4 else 0
        if not 1 <= number <= min(level.most, len(listed) + 1):
            wanted = f"a whole number from 1 on without gaps, up to {level.most}"
            self.faults.append(self.rows.fault(row, level.number, wanted))
            return None
        if number > len(listed):
            listed.append({})
        return listed[number - 1]

    def _typed(self, slot: Slot, name: str, row: Row) -> Any:
        column = next(key for key, entry in slot.own.items() if entry == name)
        text = row[column]
        if name not in slot.counts:
            return text
        most = slot.counts[name]
        if not (text.isascii() and text.isdigit() and len(text) < 3 and 1 <= int(text) <= most):
            self.faults.append(self.rows.fault(row, column, f"a whole number from 1 to {most}"))
            return text
        return int(text)


def _lines(slots: Sequence[Slot], plain: Data, depth: int = 0) -> Iterator[Row]:
    """The rows of some lists with the same first levels, part by part, each part's own fields on its first row."""
    groups: dict[str, list[Slot]] = {}
    for slot in slots:
        groups.setdefault(slot.levels[depth].name if depth < len(slot.levels) else "", []).append(slot)
    for name, group in groups.items():
        if not name:
            for slot in group:
                yield from _own_lines(slot, plain)
            continue
        level = group[0].levels[depth]
        entries = plain.get(name, []) if level.number else [plain.get(name, {})]
        for number, entry in enumerate(entries, start=1):
            named = {level.number: str(number), level.branch[0]: level.branch[1]}
            named = {column: value for column, value in named.items() if column}
            for line in _circumstances(level, entry, _lines(group, entry, depth + 1)):
                yield {**named, **line}


def _own_lines(slot: Slot, plain: Data) -> Iterator[Row]:
    branch = {slot.branch[0]: slot.branch[1]} if slot.branch[0] else {}
    for entry in plain.get(slot.name, []):
        own = {"": entry} if slot.plain else entry
        cells = {column: str(own[name]) for column, name in slot.own.items() if own.get(name) not in (None, "")}
        yield {**branch, **cells}


def _circumstances(level: Level, entry: Data, lines: Iterator[Row]) -> Iterator[Row]:
    """What is given of a part on its first row; on a row of its own where it has none."""
    found = {column: str(entry[name]) for column, name in level.fields.items() if entry.get(name) not in (None, "")}
    some = False
    for line in lines:
        yield line if some else {**found, **line}
        some = True
    if found and not some:
        yield dict(found)
