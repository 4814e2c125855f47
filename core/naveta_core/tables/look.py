"""A file as it is understood now: its columns, what they are taken for, what is read of it, and what stands in the way."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import Field, ValidationError

from ..documents.csv_io import MAX_ROWS, TableFaults, write_rows
from ..documents.envelope import Part
from ..documents.model_faults import faults_of
from ..documents.table_shape import TableField, TableShape
from ..errors import MAX_FAULTS, Fault, Refused, path_in_words
from ..results import Reason
from .cells import lines_of, split
from .column_map import (
    ColumnLook,
    ColumnMap,
    ColumnUse,
    FieldOption,
    FileColumn,
    LineFault,
    MappedLine,
    OfferedField,
    OfferedUse,
)
from .mapped import Mapped, rows_of
from .suggest import columns_of, suggestion
from .words import known_words

MAX_BYTES = 3_000_000
FIRST = 3
MAX_WORDS = 8
MAX_SHOWN = 9


class TableQuestion(Part):
    """A file's text, what it is to be read as, and how it is understood; without that, Naveta suggests.

    `recut`: it is cut another way than before, so that its columns are suggested again.
    """

    verb: str = ""
    kind: str
    text: str = Field(max_length=MAX_BYTES)
    column_map: ColumnMap | None = None
    recut: bool = False


def look_at_table(question: dict[str, Any], shapes: Mapping[str, TableShape]) -> ColumnLook:
    """A table of somebody's own, looked at. Raises Refused for a file that is none, or a question that is wrong."""
    try:
        query = TableQuestion.model_validate(question)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None
    if query.kind not in shapes:
        raise Refused([Fault("kind", "the kind of document", query.kind, "one of " + ", ".join(sorted(shapes)))])
    return _Look(query, shapes[query.kind]).answer()


class _Look:
    def __init__(self, query: TableQuestion, shape: TableShape) -> None:
        self.shape = shape
        whole = lines_of(query.text)
        self.map = query.column_map or suggestion(whole, shape)
        self.lines = split(whole, self.map.separator)
        if query.recut:
            self.map = columns_of(self.map, self.lines, shape)
        self.body = [line for line in self.lines if line.number > self.map.heading_line]
        count = max((len(line.cells) for line in self.lines), default=0)
        titles = next((line.cells for line in self.lines if line.number == self.map.heading_line), [])
        self.headings = [(titles[i] if i < len(titles) else "") or f"Column {i + 1}" for i in range(count)]
        self.ours = bool(titles) and all(title.lower() in shape.columns for title in titles if title)
        within = [use for use in self.map.columns if use.column < count]
        self.fields = {entry.column: entry for entry in shape.fields}
        # Everything is stated, also what is as nobody said: an answer leaves out what was never said.
        stated = {name: getattr(self.map, name) for name in ("angle", "same", "left_out")}
        self.map = self.map.model_copy(update={**stated, "columns": within, "words": self._words(within)})

    def _words(self, uses: list[ColumnUse]) -> dict[str, dict[str, str]]:
        """The file's words for our answers: those that are known, and what a person says of them."""
        found = {
            use.field: {
                **known_words(self._filled(use.column), self.fields[use.field]),
                **self.map.words.get(use.field, {}),
            }
            for use in uses
            if use.field in self.fields and self.fields[use.field].kind == "choice"
        }
        return {name: words for name, words in found.items() if words}

    def _filled(self, column: int) -> list[str]:
        return [line.cells[column] for line in self.body if column < len(line.cells) and line.cells[column]]

    def answer(self) -> ColumnLook:
        """Everything the person looks at before it counts."""
        mapped = rows_of(self.body, self.map, self.shape, self.headings)
        messages = self._missing(mapped)
        faults = mapped.faults or ([] if messages else self._faults(mapped))
        shown = self._shown()
        return ColumnLook(
            column_map=self.map,
            ours=self.ours,
            file_columns=[self._file_column(i) for i in range(len(self.headings))],
            uses=_uses(self.shape),
            fields=[self._field(entry) for entry in self.shape.fields if not entry.read],
            headings=[entry.label for entry in shown],
            read=[
                MappedLine(line=number, cells=[row[entry.column] for entry in shown])
                for number, row in list(zip(mapped.numbers, mapped.rows, strict=True))[:MAX_SHOWN]
            ],
            readings=mapped.readings,
            lines=len(set(mapped.numbers)),
            empty_lines=mapped.empty_lines[:MAX_FAULTS],
            messages=messages,
            faults=[_fault(fault) for fault in faults[:MAX_FAULTS]],
            text=None if faults or messages else write_rows(self.shape.columns, mapped.rows),
        )

    def _missing(self, mapped: Mapped) -> list[Reason]:
        """What has to be said before anything can be read."""
        used = {use.field for use in self.map.columns}
        given = {name for use in self.map.columns for name in use.given}
        known = used | given | {name for name, value in self.map.same.items() if value}
        found = [_say_which(self.fields[name]) for name in self.shape.needed if name not in known]
        if any(self.fields[name].kind == "angle" for name in used if name in self.fields) and not self.map.angle:
            found.append(
                Reason(code="angles-in", text="Say what the angles are written in: the figures alone leave it open.")
            )
        if not any(self.fields[name].read for name in used if name in self.fields):
            found.append(Reason(code="no-reading", text="Say which column holds readings."))
        elif not mapped.rows:
            found.append(Reason(code="no-reading", text="No line holds a reading in the columns you chose."))
        elif len(mapped.rows) >= MAX_ROWS:
            found.append(Reason(code="too-many-rows", text=f"At most {MAX_ROWS - 1} rows can be read at once."))
        return found

    def _faults(self, mapped: Mapped) -> list[Fault]:
        """What the kind's own reader has against it."""
        names = {use.field: self.headings[use.column] for use in self.map.columns}
        try:
            self.shape.read(mapped.as_rows(names))
        except TableFaults as error:
            return list(error.faults)
        return []

    def _shown(self) -> list[TableField]:
        """The columns that say something, in our order."""
        used = {use.field for use in self.map.columns} | {name for use in self.map.columns for name in use.given}
        return [entry for entry in self.shape.fields if entry.column in used]

    def _file_column(self, column: int) -> FileColumn:
        filled = self._filled(column)
        words = list(dict.fromkeys(filled))
        few = words if len(words) <= MAX_WORDS else []
        return FileColumn(column=column, heading=self.headings[column], first=filled[:FIRST], words=few)

    def _field(self, entry: TableField) -> OfferedField:
        return OfferedField(
            field=entry.column,
            label=entry.label,
            kind=entry.kind,
            options=[FieldOption(value=value, label=label) for value, label in entry.options],
            needed=entry.column in self.shape.needed,
        )


def _say_which(entry: TableField) -> Reason:
    name = entry.label[:1].lower() + entry.label[1:]
    alike = "." if entry.read or entry.kind == "text" else f", or which {name} holds for every line."
    return Reason(code="column-missing", text=f"Say which column is the {name}{alike}")


def _uses(shape: TableShape) -> list[OfferedUse]:
    found: list[OfferedUse] = []
    for entry in shape.fields:
        for given in ((), *entry.given):
            parts = ", ".join(f"{name} {value}" for name, value in given)
            found.append(
                OfferedUse(
                    key="/".join([entry.column, *(value for _, value in given)]),
                    label=f"{entry.label}, {parts}" if parts else entry.label,
                    field=entry.column,
                    given=dict(given),
                    kind=entry.kind,
                    unit=entry.unit,
                )
            )
    return found


def _fault(fault: Fault) -> LineFault:
    line = fault.path.removeprefix("line ").partition(",")[0]
    number = int(line) if line.isascii() and line.isdigit() else 0
    return LineFault(line=number, where=fault.where, given=fault.given, wanted=fault.wanted)
