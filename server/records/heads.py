"""The end of every chain in one line a day: kept elsewhere or printed, it shows when a whole database was replaced.

A line names a moment by the arrival of its last record, how many records and instruments there were, and one digest over
the heads of all chains. From any later database the same line can be worked out again, as long as nothing before that
arrival was changed, removed or added.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.db.models import Max

from records.models import Record
from records.selectors import newest_cursor
from shared import clock


@dataclass(frozen=True, slots=True)
class HeadLine:
    """All chains as they ended at an arrival."""

    day: str
    arrival: int
    records: int
    instruments: int
    digest: str

    def text(self) -> str:
        """The line as it is written and printed."""
        return f"{self.day} {self.arrival} {self.records} {self.instruments} {self.digest}"


def heads_at(arrival: int) -> Iterator[tuple[str, int, str]]:
    """Tag, length and head of every chain as it was when a record arrived, in the order of tags."""
    until = Record.objects.filter(arrival__lte=arrival)
    ends = until.order_by().values("instrument_id").annotate(last=Max("sequence")).values_list("instrument_id", "last")
    lengths = dict(ends)
    rows = until.order_by("instrument__tag", "sequence").values_list(
        "instrument_id", "instrument__tag", "sequence", "digest"
    )
    for pk, tag, sequence, digest in rows.iterator(chunk_size=2000):
        if lengths[pk] == sequence:
            yield tag, sequence, digest


def head_line(day: str | None = None, arrival: int | None = None) -> HeadLine:
    """The line of today, or of an earlier moment."""
    at = newest_cursor() if arrival is None else arrival
    found, records, instruments = hashlib.sha256(), 0, 0
    for tag, length, head in heads_at(at):
        found.update(f"{tag} {length} {head}\n".encode())
        records, instruments = records + length, instruments + 1
    return HeadLine(day or clock.today().isoformat(), at, records, instruments, found.hexdigest())


def append_line(file: Path) -> HeadLine:
    """Write today's line at the end of a file; where the last one is of the same moment it stands already."""
    line = head_line()
    known = file.read_text().splitlines() if file.exists() else []
    if not known or known[-1].split()[1:] != line.text().split()[1:]:
        with file.open("a") as out:
            out.write(f"{line.text()}\n")
    return line


def compared(lines: Iterator[str]) -> Iterator[tuple[str, str]]:
    """Each line that this database does not give again, and what differs in words."""
    newest = newest_cursor()
    for number, text in enumerate(lines, start=1):
        if not text.strip():
            continue
        try:
            day, arrival, records, instruments, digest = text.split()
            stated = HeadLine(day, int(arrival), int(records), int(instruments), digest)
        except ValueError:
            yield text, f"Line {number} is no line of chain ends: {text.strip()[:60]!r}."
            continue
        if stated.arrival > newest:
            yield text, f"On {day} there were records up to arrival {stated.arrival}; this database ends at {newest}."
            continue
        now = head_line(day, stated.arrival)
        if now != stated:
            held = f"{stated.records} records of {stated.instruments} instruments then, {now.records} of {now.instruments} now"
            yield text, f"The records up to {day} are not those of that day: {held}."
