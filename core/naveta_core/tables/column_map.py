"""Which column of somebody's table is what, and what Naveta answers to it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..documents.envelope import Part
from ..documents.table_shape import CellKind
from ..results import Answer, Reason

Separator = Literal["comma", "semicolon", "tab", "spaces"]
AngleUnit = Literal["", "dms", "deg", "gon"]
MAX_COLUMNS = 60
MAX_LEFT_OUT = 500
Short = Annotated[str, Field(max_length=80)]


class ColumnUse(Part):
    """What one column of the file holds: a column of ours, in a unit (of lengths), given some parts (face left)."""

    column: int = Field(ge=0, lt=MAX_COLUMNS)
    field: Short
    given: dict[Short, Short] = {}
    unit: Short = ""


class ColumnMap(Part):
    """How a file is cut into cells, and what its columns hold. Lines count from 1; `heading_line` 0 is a table without headings."""

    separator: Separator
    heading_line: int = Field(ge=0, le=200)
    columns: list[ColumnUse] = Field(default=[], max_length=MAX_COLUMNS)
    angle: AngleUnit = ""
    same: dict[Short, Short] = {}
    """What holds for every line and stands in no column, by our column."""
    words: dict[Short, dict[Short, Short]] = {}
    """What the file writes for our answers, by our column: {"face": {"I": "left"}}."""
    left_out: list[int] = Field(default=[], max_length=MAX_LEFT_OUT)
    """Lines a person left out."""


class FileColumn(Answer):
    """A column of the file: its heading, what stands in it first, and every different word where there are few."""

    column: int
    heading: str
    first: list[str]
    words: list[str]


class OfferedUse(Answer):
    """One thing a column can hold; `key` is different for each. `unit` is the sign of a unit that is fixed."""

    key: str
    label: str
    field: str
    given: dict[str, str]
    kind: CellKind
    unit: str


class FieldOption(Answer):
    """One answer and what it is called."""

    value: str
    label: str


class OfferedField(Answer):
    """One column of ours, for what may hold on every line: what may stand in it, and whether nothing works without it."""

    field: str
    label: str
    kind: CellKind
    options: list[FieldOption]
    needed: bool


class MappedLine(Answer):
    """One line as it is read: its number in the file, and a text for each heading."""

    line: int
    cells: list[str]


class LineFault(Answer):
    """What is wrong in a line of the file (0: in none), in the file's own words."""

    line: int
    where: str
    given: str
    wanted: str


class ColumnLook(Answer):
    """A file as it is understood now. `text` is the table in our own columns, None while something is missing or wrong."""

    column_map: ColumnMap
    ours: bool
    """Whether every heading is one of our own columns, so that nothing has to be said."""
    file_columns: list[FileColumn]
    uses: list[OfferedUse]
    fields: list[OfferedField]
    headings: list[str]
    read: list[MappedLine]
    readings: int
    lines: int
    empty_lines: list[int]
    """Lines without a reading: headings of pages, sums, remarks."""
    messages: list[Reason]
    faults: list[LineFault]
    text: str | None
