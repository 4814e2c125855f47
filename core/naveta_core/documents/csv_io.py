"""Tables in and out: separators `,` `;` and tab, decimal comma or point, faults by row, no formulas.

A cell that a spreadsheet would run as a formula is written with an apostrophe before it; numbers are left alone.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Iterator, Sequence

from ..errors import Fault, Refused, quote

MAX_ROWS = 2000
_PLAIN_NUMBER = re.compile(r"[+\-−]?\d*[.,]?\d+")
Row = dict[str, str]
STARTS_A_FORMULA = "=+-@\t\r\n＝＋－＠﹦﹢﹣﹫"
"""Of whatever width: a spreadsheet of another script takes the wide ones too."""
MAX_LINE = 20_000


class TableFaults(Refused):
    """A table with faults, each naming its row."""


class Rows:
    """The rows of a table by column name, each with its line."""

    def __init__(self, rows: list[Row], lines: list[int], names: dict[str, str] | None = None) -> None:
        self._rows, self._lines, self._names = rows, lines, names or {}

    def __iter__(self) -> Iterator[Row]:
        return iter(self._rows)

    def __len__(self) -> int:
        return len(self._rows)

    def fault(self, row: Row, column: str, wanted: str) -> Fault:
        """A fault that names line and column of the file, by the file's own heading where it has another."""
        line = self._lines[next(i for i, entry in enumerate(self._rows) if entry is row)]
        name = self._names.get(column, column)
        return Fault(f"line {line}, {column}", f"line {line}, column {name}", quote(row[column]), wanted)


def separator(header: str) -> str:
    """The separator a header line uses: tab or semicolon win over comma, which may be a decimal mark."""
    return next((mark for mark in ("\t", ";") if mark in header), ",")


def read_rows(text: str, columns: Sequence[str], needed: Sequence[str]) -> Rows:
    """Rows of a table with a header, columns in any order. Raises TableFaults."""
    text = text.removeprefix("\ufeff")
    lines = [(i, line) for i, line in enumerate(text.splitlines(), start=1) if line.strip(" ;,\t")]
    if not lines:
        raise TableFaults([Fault("$", "the table", "nothing", "a header and rows: " + ", ".join(columns))])
    if len(lines) > MAX_ROWS:
        raise TableFaults([Fault("$", "the table", f"{len(lines)} rows", f"at most {MAX_ROWS} rows")])
    long = next((i for i, line in lines if len(line) > MAX_LINE), None)
    if long is not None:
        raise TableFaults([Fault(f"line {long}", f"line {long}", "a very long line", f"at most {MAX_LINE} characters")])
    mark = separator(lines[0][1])
    header = [name.strip().lower() for name in next(csv.reader([lines[0][1]], delimiter=mark))]
    faults = _header_faults(header, columns, needed)
    rows, numbers = [], []
    for number, line in lines[1:]:
        cells = [cell.strip().removeprefix("'") for cell in next(csv.reader([line], delimiter=mark))]
        if len(cells) > len(header):
            wanted = f"{len(header)} cells; with decimal commas, separate cells with ; or tab"
            faults.append(Fault(f"line {number}", f"line {number}", f"{len(cells)} cells", wanted))
        named = dict(zip(header, cells, strict=False))
        rows.append({name: named.get(name, "") for name in columns})
        numbers.append(number)
    if faults:
        raise TableFaults(faults)
    return Rows(rows, numbers)


def _header_faults(header: list[str], columns: Sequence[str], needed: Sequence[str]) -> list[Fault]:
    known = "one of " + ", ".join(columns)
    faults = [Fault("line 1", "the header", quote(name), known) for name in header if name not in columns]
    faults += [
        Fault("line 1", "the header", "no column " + name, f"a column {name}") for name in needed if name not in header
    ]
    twice = sorted({name for name in header if header.count(name) > 1})
    return faults + [Fault("line 1", "the header", f"{name} twice", "each column once") for name in twice]


def write_rows(columns: Sequence[str], rows: Sequence[Row]) -> str:
    """Rows as comma-separated text with a header, safe to open in a spreadsheet."""
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(columns)
    for row in rows:
        writer.writerow([safe_cell(row.get(name, "")) for name in columns])
    return out.getvalue()


def safe_cell(text: str) -> str:
    """A cell no spreadsheet takes for a formula."""
    return "'" + text if text and text[0] in STARTS_A_FORMULA and not _PLAIN_NUMBER.fullmatch(text) else text
