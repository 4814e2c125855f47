"""Any text as lines of cells: how they are separated, and which line holds the headings."""

from __future__ import annotations

import csv
import re
from collections import Counter
from dataclasses import dataclass
from itertools import pairwise

from ..documents.csv_io import MAX_LINE, MAX_ROWS, TableFaults
from ..errors import Fault
from .column_map import MAX_COLUMNS, Separator

MARKS: dict[Separator, str] = {"tab": "\t", "semicolon": ";", "comma": ","}
HEADING_WITHIN = 30
"""Headings stand in one of so many first lines: what comes before them describes the job."""
_FIGURE = re.compile(r"[+\-−]?\s*\d[\d.,°'′\"″\s-]*(?:mm|cm|m|ft|usft|in|gon|g)?", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class Line:
    """One line of a file: its number from 1, and its cells."""

    number: int
    cells: list[str]


def lines_of(text: str) -> list[tuple[int, str]]:
    """The lines that hold anything, with their numbers. Raises TableFaults for what is too much to be a table."""
    found = [
        (i, line) for i, line in enumerate(text.removeprefix("\ufeff").splitlines(), start=1) if line.strip(" ;,\t")
    ]
    if not found:
        raise TableFaults([Fault("$", "the file", "nothing", "a table: lines of cells, best with headings")])
    if len(found) > MAX_ROWS:
        raise TableFaults([Fault("$", "the file", f"{len(found)} lines", f"at most {MAX_ROWS} lines")])
    long = next((i for i, line in found if len(line) > MAX_LINE), None)
    if long is not None:
        wanted = f"at most {MAX_LINE} characters"
        raise TableFaults([Fault(f"line {long}", f"line {long}", "a very long line", wanted)])
    return found


def split(lines: list[tuple[int, str]], separator: Separator) -> list[Line]:
    """The lines cut into cells, blanks around them removed."""
    return [Line(number, _cells(line, separator)) for number, line in lines]


def _cells(line: str, separator: Separator) -> list[str]:
    cells = line.split() if separator == "spaces" else next(csv.reader([line], delimiter=MARKS[separator]), [])
    return [cell.strip().removeprefix("'").strip() for cell in cells[:MAX_COLUMNS]]


def separator_of(lines: list[tuple[int, str]]) -> Separator:
    """The separator by which most lines have the same number of cells, more than one. A comma between digits may be decimal."""
    best: Separator = "comma"
    most = (0, 0)
    for separator in ("tab", "semicolon", "comma", "spaces"):
        counts = Counter(len(line.cells) for line in split(lines, separator))
        (cells, alike) = max(counts.items(), key=lambda entry: (entry[0] > 1, entry[1], entry[0]))
        decimal = separator == "comma" and all(
            re.search(r"\d,\d", line) and not _other_comma(line) for _, line in lines
        )
        if cells > 1 and not decimal and (alike, 0) > most:
            best, most = separator, (alike, 0)
    return best


def _other_comma(line: str) -> bool:
    return re.search(r"(?<!\d),|,(?!\d)", line) is not None


def heading_line_of(lines: list[Line]) -> int:
    """The number of the line with the headings: no figure in it, and a line of figures of the same length below. 0 for none."""
    for line, below in pairwise(lines[: HEADING_WITHIN + 1]):
        filled = [cell for cell in line.cells if cell]
        figures = sum(map(is_figure, below.cells))
        if len(filled) > 1 and not any(map(is_figure, filled)) and figures and len(below.cells) >= len(filled):
            return line.number
    return 0


def is_figure(text: str) -> bool:
    """Whether a cell holds a figure, with or without its unit."""
    return _FIGURE.fullmatch(text.strip()) is not None
