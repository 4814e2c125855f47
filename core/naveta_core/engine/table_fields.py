"""What the columns of a kind's table are called and may hold, from its table of fields: for tables made by others."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any, Literal, get_args, get_origin

from pydantic import BaseModel

from ..documents.csv_io import Rows
from ..documents.table_shape import CellKind, Given, TableField, TableShape
from .fields import SIGNS, Field, FieldTable
from .table import Slot, TableFile, column_of

Data = dict[str, Any]
READ: tuple[str, ...] = ("number", "length", "angle")
KINDS: dict[str, CellKind] = {"number": "number", "length": "length", "angle": "angle", "choice": "choice"}


def shape_of(file: TableFile, read: Callable[[Rows], Data]) -> TableShape:
    """The shape of a kind's table; `read` takes its rows to a document."""
    found = {field.column: field for field in _fields(file)}
    return TableShape(
        columns=file.columns,
        needed=file.needed,
        fields=tuple(found[column] for column in file.columns if column in found),
        length_column="" if file.angles else "unit",
        angle_column="unit" if file.angles else "",
        read=read,
    )


def _fields(file: TableFile) -> Iterator[TableField]:
    named = dict(_walk(file.table))
    yield from _parts(file)
    once = {*file.once, *(column for slot in file.slots for level in slot.levels for column in level.fields)}
    for column, (entry, options) in named.items():
        if entry.kind in ("switch", "count"):
            continue
        read = entry.kind in READ and column not in once and not entry.prefilled
        yield TableField(
            column=column,
            label=entry.label,
            kind=KINDS.get(entry.kind, "choice" if options else "text"),
            unit=SIGNS.get(entry.unit, entry.unit),
            options=options,
            read=read,
            given=_given(file, column, named) if column not in file.once and entry.kind in READ else (),
        )


def _parts(file: TableFile) -> Iterator[TableField]:
    """The columns that number what is given several times, and those that say which of a few parts a line is of."""
    for slot in file.slots:
        for level in slot.levels:
            if level.number:
                yield TableField(level.number, _title(level.number), "part")
    branches: dict[str, list[str]] = {}
    for slot in file.slots:
        for column, value in slot.branches.items():
            branches.setdefault(column, []).append(value)
    for column, values in branches.items():
        options = tuple((value, value) for value in dict.fromkeys(values))
        yield TableField(column, _title(column), "choice", options=options)


def _title(column: str) -> str:
    return {"setup": "Set-up"}.get(column, column.capitalize())


def _walk(table: FieldTable) -> Iterator[tuple[str, tuple[Field, tuple[tuple[str, str], ...]]]]:
    """Column to field and what may stand in it, of a table and everything in it."""
    for name, entry in table.fields.items():
        column = column_of(name, entry)
        if column:
            yield column, (entry, _options(table.model, name, entry))
    for name, listed in table.lists.items():
        if listed.entry is not None:
            yield from _walk(listed.entry)
        elif listed.plain is not None:
            yield listed.plain.column or name, (listed.plain, ())
    for _, part in table.parts.values():
        yield from _walk(part)


def _options(model: type[BaseModel], name: str, entry: Field) -> tuple[tuple[str, str], ...]:
    if entry.options:
        return tuple((option.value, option.label) for option in entry.options)
    annotation = model.model_fields[name].annotation
    if get_origin(annotation) is Literal:
        return tuple((str(value), str(value)) for value in get_args(annotation))
    return ()


def _given(
    file: TableFile, column: str, named: dict[str, tuple[Field, tuple[tuple[str, str], ...]]]
) -> tuple[Given, ...]:
    """What several columns of one field may stand for: the parts it occurs in, or the answers of a row's own choice."""
    slots = [slot for slot in file.slots if column in slot.columns]
    parts = dict.fromkeys(_shared(slot, column) for slot in slots)
    found = tuple(given for given in parts if given)
    if found:
        return found
    choices = [other for slot in slots for other in slot.own if named.get(other, (None, ()))[1]]
    return tuple(((other, value),) for other in dict.fromkeys(choices) for value, _ in named[other][1])


def _shared(slot: Slot, column: str) -> Given:
    """The branches above a column: all of them for what is read, those of its part for what is given once."""
    if column in slot.own:
        return tuple(slot.branches.items())
    found: list[tuple[str, str]] = []
    for level in slot.levels:
        if level.branch[0]:
            found.append(level.branch)
        if column in level.fields:
            return tuple(found)
    return ()
