"""The lines of a file as rows in our own columns: cells side by side become rows, words ours, units written behind."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field

from ..documents.csv_io import Row, Rows
from ..documents.table_shape import Given, TableField, TableShape
from ..errors import Fault, quote
from ..units.angles import parse_angle
from ..units.lengths import METRES, parse_length
from ..units.numbers import numeral
from .cells import Line
from .column_map import ColumnMap, ColumnUse

Group = tuple[Given, int]
"""Cells of one line that make one row: what they are given as, and which of several of the same."""


@dataclass
class Mapped:
    """Rows in our columns, each with the line it came from; faults, and lines that held no reading."""

    rows: list[Row] = field(default_factory=list)
    numbers: list[int] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    empty_lines: list[int] = field(default_factory=list)
    readings: int = 0

    def as_rows(self, names: dict[str, str]) -> Rows:
        """As the readers of tables take them; `names` are the file's headings by our column."""
        return Rows(self.rows, self.numbers, names)


def rows_of(lines: list[Line], found: ColumnMap, shape: TableShape, headings: list[str]) -> Mapped:
    """Every line that holds a reading as one row or several, in the order in which their parts were read."""
    return _Mapping(found, shape, headings).run(lines)


class _Mapping:
    def __init__(self, found: ColumnMap, shape: TableShape, headings: list[str]) -> None:
        self.map, self.shape, self.headings = found, shape, headings
        self.fields = {entry.column: entry for entry in shape.fields}
        self.uses = [use for use in found.columns if use.field in self.fields]
        self.groups = _groups(self.uses)
        self.outcome = Mapped()
        self.seen: dict[tuple[str, ...], list[str]] = defaultdict(list)
        self.last: dict[str, str] = {}

    def run(self, lines: list[Line]) -> Mapped:
        """Every line in turn, then the rows in the order in which they were read."""
        made: list[tuple[int, int, int, Row]] = []
        turn, before = 0, None
        for line in lines:
            if line.number in self.map.left_out:
                continue
            rows = list(self._of_line(line))
            if not rows:
                self.outcome.empty_lines.append(line.number)
                continue
            # Side by side, face left of the whole round was read before face right: a round is a run of lines.
            part = tuple(rows[0][1].get(entry.column, "") for entry in self.shape.fields if entry.kind == "part")
            turn, before = (turn if part == before else turn + 1), part
            made += [(turn, place, line.number, row) for place, row in rows]
        for _, _, number, row in sorted(made, key=lambda entry: entry[:3]):
            self.outcome.rows.append(row)
            self.outcome.numbers.append(number)
        return self.outcome

    def _of_line(self, line: Line) -> Iterator[tuple[int, Row]]:
        shared = [use for use in self.uses if self.groups.get(id(use)) is None]
        groups = list(dict.fromkeys(group for use in self.uses if (group := self.groups.get(id(use))) is not None))
        givens = list(dict.fromkeys(given for given, _ in groups))
        every: list[Group | None] = [*groups] or [None]
        for group in every:
            uses = [*shared, *(use for use in self.uses if group is not None and self.groups.get(id(use)) == group)]
            wanted = [use for use in uses if self.fields[use.field].read and (group is None or use not in shared)]
            if not any(_cell(line, use.column) for use in wanted):
                continue
            self.outcome.readings += sum(bool(_cell(line, use.column)) for use in wanted)
            yield 0 if group is None else givens.index(group[0]), self._row(line, uses, dict(group[0]) if group else {})

    def _row(self, line: Line, uses: list[ColumnUse], given: dict[str, str]) -> Row:
        row = dict.fromkeys(self.shape.columns, "") | {**self.map.same, **given}
        for use in uses:
            row[use.field] = self._text(line, use)
        # Numbers of parts last: those inside another part begin again in it.
        parts: tuple[str, ...] = ()
        for entry in self.shape.fields:
            if entry.kind == "part" and row[entry.column]:
                row[entry.column] = self._number((*parts, entry.column), row[entry.column])
                parts = (*parts, entry.column, row[entry.column])
        if self.shape.angle_column:
            row[self.shape.angle_column] = self.map.angle
        if self.shape.length_column:
            row[self.shape.length_column] = length_unit(self.map, self.fields)
        return row

    def _text(self, line: Line, use: ColumnUse) -> str:
        entry, text = self.fields[use.field], _cell(line, use.column)
        if entry.kind == "part":
            # Written once and left blank below: it holds until another comes.
            text = self.last[use.field] = text or self.last.get(use.field, "")
        if not text or entry.kind in ("text", "part"):
            return text
        if entry.kind == "choice":
            return self._word(line, use, entry, text)
        wrong = _wrong(entry, text, use.unit, self.map.angle)
        if wrong:
            self._fault(line, use, text, wrong)
        inner = length_unit(self.map, self.fields) if self.shape.length_column else "m"
        return f"{text} {use.unit}" if entry.kind == "length" and _plain(text) and use.unit not in ("", inner) else text

    def _word(self, line: Line, use: ColumnUse, entry: TableField, text: str) -> str:
        stated = self.map.words.get(use.field, {}).get(text)
        if stated is not None:
            return stated
        same = [value for value, label in entry.options if text.lower() in (value.lower(), label.lower())]
        if not same and entry.options:
            self._fault(line, use, text, "one of " + ", ".join(label for _, label in entry.options))
        return same[0] if same else text

    def _number(self, place: tuple[str, ...], text: str) -> str:
        known = self.seen[place]
        if text not in known:
            known.append(text)
        return str(known.index(text) + 1)

    def _fault(self, line: Line, use: ColumnUse, text: str, wanted: str) -> None:
        where = f"line {line.number}, column {self.headings[use.column]}"
        self.outcome.faults.append(Fault(f"line {line.number}", where, quote(text), wanted))


def length_unit(found: ColumnMap, fields: dict[str, TableField]) -> str:
    """The unit the whole document is in: that of the lengths that are read; others have theirs behind each figure."""
    lengths = [use for use in found.columns if use.field in fields and fields[use.field].kind == "length" and use.unit]
    read = [use.unit for use in lengths if fields[use.field].read]
    return next(iter([*read, *(use.unit for use in lengths)]), "m")


def _groups(uses: list[ColumnUse]) -> dict[int, Group]:
    """The group of every column that stands beside others of the same: by what it is given as, and its turn among its like."""
    alone = {use.field for use in uses if sum(other.field == use.field and not other.given for other in uses) > 1}
    found: dict[int, Group] = {}
    turns: dict[tuple[str, Given], int] = defaultdict(int)
    for use in uses:
        if use.given or use.field in alone:
            given = tuple(use.given.items())
            found[id(use)] = (given, turns[use.field, given])
            turns[use.field, given] += 1
    return found


def _cell(line: Line, column: int) -> str:
    return line.cells[column] if column < len(line.cells) else ""


def _plain(text: str) -> bool:
    try:
        numeral(text)
    except ValueError:
        return False
    return True


def _wrong(entry: TableField, text: str, unit: str, angle: str) -> str:
    """What is wanted instead of a cell; empty where it can be read."""
    try:
        if entry.kind == "length":
            parse_length(text, unit if unit in METRES else "m")
        elif entry.kind == "angle":
            parse_angle(text, angle or "deg")
        else:
            numeral(text)
    except ValueError as error:
        return str(error)
    return ""
