"""The table of fields of a kind of check: each field declared once, on the model of its own document.

A field is an annotation of the model (`x_mm: Annotated[Typed | None, Number("Right", "mm", -15, 15)] = None`). From it
follow the bounds of the model, the form, the columns of a table file, the reader, the words in a fault and the record's
table. Pages lay these out and know nothing of a kind; what stands in a field is kept to the letter.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import KW_ONLY, dataclass, field
from functools import cached_property, lru_cache
from typing import Any, Literal, get_args, get_origin

from pydantic import BaseModel
from pydantic import Field as Constraint

from ..errors import in_words
from ..units.numbers import CACHED
from .parser import Range, ordinal

FieldKind = Literal["number", "length", "angle", "choice", "text", "count", "switch"]
MAX_INDEX_TEXT = 8
NO_BOUND = float("inf")


@dataclass(frozen=True, slots=True)
class Option:
    """One of a few answers."""

    value: str
    label: str
    hint: str = ""


@dataclass(frozen=True, slots=True)
class Field:
    """One field: how it is called, typed, bounded and asked for. Made by the functions below.

    Bounds in the unit given by `unit`.
    """

    label: str
    kind: FieldKind = "number"
    unit: str = ""
    """Code of the unit a number is typed in: mm, m, arcsec, arcmin, div, deg, n, mm2, c."""
    _: KW_ONLY
    low: float = -NO_BOUND
    high: float = NO_BOUND
    words: str = ""
    """What it is called in a fault; its label otherwise."""
    options: tuple[Option, ...] = ()
    prefilled: bool = False
    """Filled in by the method: Enter passes over it, and it may be changed."""
    optional: bool = False
    ask_again: bool = False
    """Asked again in an as-left run: what was stored before the last one is not what is stored now."""
    range: Range | None = None
    """Of a length: its bounds in metres and what it is called in a fault."""
    column: str | None = ""
    """Its column in a table file, where that is not its own name; None where tables have none."""
    quantity: str = ""
    """What a device sends to fill it: staff, distance, hz, v, along or across; empty where it is only typed."""


SIGNS = {
    "mm": "mm",
    "m": "m",
    "arcsec": "″",
    "arcmin": "′",
    "div": "div",
    "deg": "°",
    "n": "N",
    "mm2": "mm²",
    "c": "°C",
}


def Number(
    label: str,
    unit: str,
    low: float,
    high: float,
    words: str = "",
    *,
    prefilled: bool = False,
    optional: bool = False,
    ask_again: bool = False,
    column: str | None = "",
    quantity: str = "",
) -> Field:
    """A number typed in `unit`; a unit of its own typed behind it wins."""
    return Field(
        label,
        "number",
        unit,
        low=low,
        high=high,
        words=words,
        prefilled=prefilled,
        optional=optional,
        ask_again=ask_again,
        column=column,
        quantity=quantity,
    )


def Length(
    label: str,
    allowed: Range,
    words: str = "",
    *,
    prefilled: bool = False,
    optional: bool = False,
    column: str = "",
    quantity: str = "",
) -> Field:
    """A length typed in the document's unit."""
    return Field(
        label,
        "length",
        words=words,
        prefilled=prefilled,
        optional=optional,
        range=allowed,
        column=column,
        quantity=quantity,
    )


def Angle(label: str, words: str = "", *, optional: bool = False, quantity: str = "") -> Field:
    """An angle typed in the document's unit."""
    return Field(label, "angle", words=words, optional=optional, quantity=quantity)


def Choice(
    label: str, *options: Option, words: str = "", optional: bool = False, look: bool = False, column: str | None = ""
) -> Field:
    """One of a few answers; of a `look` that is taken again each time."""
    return Field(label, "choice", words=words, options=options, optional=optional, ask_again=look, column=column)


def Text(label: str, words: str = "", *, prefilled: bool = False, column: str | None = "") -> Field:
    """A name."""
    return Field(label, "text", words=words, prefilled=prefilled, optional=True, column=column)


def Count(label: str, most: int) -> Field:
    """A whole number from 1 that numbers something; a column of table files, never typed on a form."""
    return Field(label, "count", low=1, high=most, optional=True)


def Switch(label: str) -> Field:
    """Something that is on or off; no column of table files."""
    return Field(label, "switch", optional=True, column=None)


YES_NO = (Option("yes", "Yes"), Option("no", "No"))


@dataclass(frozen=True)
class Rows:
    """A list of rows, or of plain values of `field`. `noun` is what one of them is called in a fault."""

    noun: str
    most: int
    fewest: int = 0
    """So many rows are missing until they are filled; further rows that were only opened are no rows."""
    more: str = ""
    """What one more row is called, where there may be more."""
    field: Field | None = None
    number: str = ""
    """The column that numbers the entries of a list of parts in a table file."""
    branch: tuple[str, str] = ("", "")
    """In a table file: the column, and what stands in it for the rows of this list."""
    in_tables: bool = True

    @property
    def __is_annotated_types_grouped_metadata__(self) -> Literal[True]:
        """Says pydantic to look at what this holds: how long the list may be."""
        return True

    def __iter__(self) -> Iterator[Any]:
        yield from Constraint(max_length=self.most).metadata


@dataclass(frozen=True, slots=True)
class Branch:
    """One of several parts of the same shape. In a table file `column` says which, by `value`."""

    column: str = ""
    value: str = ""
    words: str = ""


@dataclass(frozen=True, slots=True)
class ListOf:
    """A list of a table: how it is called, and what its entries are."""

    rows: Rows
    entry: FieldTable | None

    @property
    def plain(self) -> Field | None:
        """The field of a list whose values have none of their own; None for rows."""
        return self.rows.field


@dataclass(frozen=True, eq=False)
class FieldTable:
    """The fields of one model, its lists and its parts, in the order in which they are declared."""

    model: type[BaseModel]
    fields: dict[str, Field] = field(default_factory=dict)
    lists: dict[str, ListOf] = field(default_factory=dict)
    parts: dict[str, tuple[Branch, FieldTable]] = field(default_factory=dict)

    @cached_property
    def figures(self) -> dict[str, Field]:
        """The fields that hold figures."""
        return {name: field for name, field in self.fields.items() if field.kind in ("number", "length", "angle")}

    def at(self, path: str) -> FieldTable | ListOf:
        """What stands at a path such as `targets[0].left` or `setups[*].a`."""
        found: FieldTable | ListOf = self
        for step in path.split("."):
            name, _, index = step.partition("[")
            table = found.entry if isinstance(found, ListOf) else found
            assert table is not None, path
            found = table.lists[name] if name in table.lists else table.parts[name][1]
            if index:
                assert isinstance(found, ListOf), path
                assert found.entry is not None, path
                found = found.entry
        return found


@lru_cache(maxsize=256)
def table_of(model: type[BaseModel]) -> FieldTable:
    """The table of a model, from the annotations of its fields."""
    table = FieldTable(model)
    for name, info in model.model_fields.items():
        found = next((item for item in info.metadata if isinstance(item, Field | Rows | Branch)), None)
        if isinstance(found, Field):
            table.fields[name] = found
        elif isinstance(found, Rows):
            (entry,) = get_args(info.annotation) or (None,)
            nested = table_of(entry) if isinstance(entry, type) and issubclass(entry, BaseModel) else None
            table.lists[name] = ListOf(found, nested)
        elif isinstance(found, Branch):
            table.parts[name] = (found, table_of(_model_in(info.annotation)))
    return table


def changed_fields(table: FieldTable, data: dict[str, Any], change: Callable[[Field, Any], Any]) -> dict[str, Any]:
    """A part of a document, as plain data, with every field's value changed."""
    found: dict[str, Any] = {}
    for name, value in data.items():
        if name in table.fields:
            found[name] = change(table.fields[name], value)
        elif name in table.parts and isinstance(value, dict):
            found[name] = changed_fields(table.parts[name][1], value, change)
        elif name in table.lists and isinstance(value, list):
            listed = table.lists[name]
            found[name] = [_changed_entry(listed, entry, change) for entry in value]
        else:
            found[name] = value
    return found


def _changed_entry(listed: ListOf, value: Any, change: Callable[[Field, Any], Any]) -> Any:
    if listed.entry is not None and isinstance(value, dict):
        return changed_fields(listed.entry, value, change)
    return value if listed.plain is None else change(listed.plain, value)


def _model_in(annotation: Any) -> type[BaseModel]:
    """The model an annotation names, alone or beside None."""
    for candidate in (annotation, *get_args(annotation)):
        if isinstance(candidate, type) and get_origin(candidate) is None and issubclass(candidate, BaseModel):
            return candidate
    raise TypeError(f"{annotation} names no model")


@dataclass
class Where:
    """Words for paths, from the names of a kind's lists and fields."""

    names: dict[str, str] = field(default_factory=dict)
    _worded: dict[str, str] = field(default_factory=dict)
    """Paths that were asked for before: a sheet is read again at every keystroke."""

    def __call__(self, path: str) -> str:
        if path not in self._worded:
            if len(self._worded) >= CACHED:
                self._worded.clear()
            self._worded[path] = self._words(path)
        return self._worded[path]

    def _words(self, path: str) -> str:
        if path == "$":
            return "the whole document"
        words = []
        for step in path.removeprefix("observations.").split("."):
            name, _, rest = step.partition("[")
            word = self.names.get(name, in_words(name))
            # A field that is not ours may be called anything: only figures are counted.
            counted = rest[:-1].isascii() and rest[:-1].isdigit() and len(rest) < MAX_INDEX_TEXT
            words.append(f"{ordinal(int(rest[:-1]))} {word}" if counted else word)
        return ", ".join(word for word in words if word)


def words_of(table: FieldTable) -> dict[str, str]:
    """What each name of a table is called in a fault."""
    names = {name: field.words or field.label[:1].lower() + field.label[1:] for name, field in table.fields.items()}
    for name, listed in table.lists.items():
        names[name] = listed.rows.noun
        names |= words_of(listed.entry) if listed.entry else {}
    for name, (branch, part) in table.parts.items():
        names[name] = branch.words
        names |= words_of(part)
    return names


def where_of(model: type[BaseModel], **others: str) -> Where:
    """Words for the paths of a document whose observations are `model`; `others` for names that are no fields."""
    return Where({**words_of(table_of(model)), **others})
