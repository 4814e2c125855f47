"""What a table can be read as: its columns, what each holds, and which cells of one line may say different things."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import KW_ONLY, dataclass
from typing import Any, Literal

from .csv_io import Rows

CellKind = Literal["number", "length", "angle", "choice", "text", "part"]
"""Of a cell; a `part` numbers what is given several times (set-up, round, target)."""
Given = tuple[tuple[str, str], ...]


@dataclass(frozen=True, slots=True)
class TableField:
    """One column a table can have. `unit` as shown, of a number; lengths and angles have that of the table."""

    column: str
    label: str
    kind: CellKind
    unit: str = ""
    options: tuple[tuple[str, str], ...] = ()
    """What may stand in it and what that is called; empty where anything may."""
    read: bool = False
    """Whether it is read off an instrument: a line with none of these holds nothing."""
    given: tuple[Given, ...] = ()
    """What a file's column of it may stand for, where several stand side by side: face left, face right."""


@dataclass(frozen=True, slots=True)
class TableShape:
    """A table one kind of document is read from. `read` raises TableFaults."""

    columns: tuple[str, ...]
    needed: tuple[str, ...]
    fields: tuple[TableField, ...]
    _: KW_ONLY
    length_column: str
    """The column that says the unit of lengths; empty where none does."""
    angle_column: str
    read: Callable[[Rows], dict[str, Any]]
