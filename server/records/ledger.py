"""The ledger: every record there is, filtered by anything, found by words, written out."""

from __future__ import annotations

import csv
import json
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, date, datetime, time, timedelta
from typing import Annotated, Any

from django.db.models import Q, QuerySet
from ninja import Schema
from pydantic import Field

from fleet.models import Instrument
from fleet.tags import normalise_tag
from naveta_core.checks import KINDS
from naveta_core.documents.csv_io import safe_cell
from naveta_core.errors import Fault, Refused, quote
from naveta_core.registry import DOCUMENTS, parse
from records.models import Record
from records.selectors import records
from records.summary import read_summary
from records.times import happened_at
from records.words import MAX_BY_INDEX, found_often, holding
from shared import clock, paging
from shared.bodies import Word

COLUMNS = (
    "id", "instrument", "model", "category", "kind", "stage", "grade", "finding", "note", "observed_at", "observed_by",
    "entered_by", "struck", "core_version", "sequence", "previous", "digest",
)  # fmt: skip
MAX_COUNTED = 2_000
"""Counted as far as this: what is more is stated to be more."""
Day = Annotated[date, Field(ge=date(1900, 1, 1), le=date(2999, 12, 31))]


class LedgerFilters(Schema):
    """What is wanted; what is empty asks for nothing. Days are the firm's, by when it was observed."""

    words: Annotated[str, Field(max_length=200)] = ""
    instrument: Word = ""
    kind: Word = ""
    category: Word = ""
    grade: Word = ""
    stage: Word = ""
    by: Word = ""
    first: Day | None = None
    last: Day | None = None
    struck: Annotated[str, Field(pattern="^(only|not)?$")] = ""
    """`only` struck ones, `not` struck; empty: both."""


def found(filters: LedgerFilters) -> QuerySet[Record]:
    """Every record that answers, the latest observed first; of one moment the later arrival."""
    rows = records().defer("document", "result").order_by("-observed_at_utc", "-arrival")
    plain = {
        "instrument__tag": normalise_tag(filters.instrument) if filters.instrument else "",
        "kind": filters.kind,
        "category": filters.category,
        "grade": filters.grade,
        "stage": filters.stage,
    }
    rows = rows.filter(**{name: value for name, value in plain.items() if value})
    if filters.by:
        rows = rows.filter(Q(observed_by__username=filters.by) | Q(entered_by__username=filters.by))
    if filters.first:
        rows = rows.filter(observed_at_utc__gte=_midnight(filters.first))
    if filters.last:
        rows = rows.filter(observed_at_utc__lt=_midnight(filters.last + timedelta(days=1)))
    if filters.struck:
        rows = rows.filter(amendments__isnull=filters.struck == "not")
    return holding(rows, filters.words)


def counted(filters: LedgerFilters) -> int:
    """How many answer, at most one more than are counted."""
    if filters == LedgerFilters(words=filters.words) and MAX_COUNTED <= MAX_BY_INDEX and found_often(filters.words):
        return MAX_COUNTED + 1  # known from the index alone
    return found(filters).order_by()[: MAX_COUNTED + 1].count()


def _midnight(day: date) -> datetime:
    return datetime.combine(day, time(), clock.zone()).astimezone(UTC)


def page(filters: LedgerFilters, cursor: str | None, limit: int) -> tuple[list[Record], str | None]:
    """One page of what answers, and the mark of the next."""
    size, key = paging.page_size(limit), paging.decode(cursor, (str, int))
    rows = found(filters)
    if key:
        at, arrival = _moment(key[0]), key[1]
        rows = rows.filter(Q(observed_at_utc__lt=at) | Q(observed_at_utc=at, arrival__lt=arrival))
    listed = list(rows[: size + 1])
    if len(listed) <= size:
        return listed, None
    last = listed[size - 1]
    return listed[:size], paging.encode([last.observed_at_utc.isoformat(), last.arrival])


def _moment(text: str) -> datetime:
    try:
        at = datetime.fromisoformat(text)
    except ValueError:
        at = None
    if at is None or at.tzinfo is None:
        raise Refused([Fault("cursor", "the page mark", quote(text), "a page mark from an earlier answer")])
    return at


class _Line:
    """A file that gives back what is written to it."""

    def write(self, text: str) -> str:
        return text


def table(filters: LedgerFilters) -> Iterator[str]:
    """Every record that answers as comma-separated text, line by line. Filters are read at once: what they refuse is
    refused before the first line."""
    return _lines(found(filters))


def _lines(answering: QuerySet[Record]) -> Iterator[str]:
    writer = csv.writer(_Line(), lineterminator="\r\n")
    yield writer.writerow(COLUMNS)
    rows = answering.prefetch_related(None).select_related("instrument__model", "observed_by", "entered_by")
    struck = set(answering.filter(amendments__isnull=False).order_by().values_list("pk", flat=True))
    for record in rows.iterator(chunk_size=500):
        stored = json.loads(record.summary)
        cells = (
            str(record.pk), record.instrument.tag, str(record.instrument.model), record.category, record.kind,
            record.stage, record.grade, stored.get("finding") or "", stored.get("note") or "",
            happened_at(record).isoformat(), record.observed_by.name, record.entered_by.name,
            "struck" if record.pk in struck else "", record.core_version, str(record.sequence), record.previous,
            record.digest,
        )  # fmt: skip
        yield writer.writerow([safe_cell(cell) for cell in cells])


SERIES_COLUMNS = ("id", "at", "stage", "pair", "value", "u95", "use", "unit", "temperature_c")


def series_table(instrument: Instrument, kind: str) -> Iterator[str]:
    """A series as comma-separated text: each finding with its uncertainty and limit, in the unit of its kind."""
    writer = csv.writer(_Line(), lineterminator="\r\n")
    yield writer.writerow(SERIES_COLUMNS)
    rows = Record.objects.filter(instrument=instrument, kind=kind, amendments__isnull=True).defer("document", "result")
    for record in rows.order_by("observed_at_utc", "sequence").iterator(chunk_size=500):
        summary = read_summary(record)
        if summary.point is None:
            continue
        point, warmth = summary.point, summary.temperature_c
        yield writer.writerow(
            [
                str(record.pk), happened_at(record).isoformat(), record.stage, str(record.pair_id or ""),
                repr(point.value), repr(point.u95), repr(point.use), KINDS[kind].unit, "" if warmth is None else warmth,
            ]
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Difference:
    """A figure or sentence of a result that comes out otherwise today."""

    path: str
    stored: str
    now: str


def recomputed(record: Record) -> tuple[bool, list[Difference]]:
    """Whether a stored document can be computed again, and what today's core says otherwise of it."""
    if record.kind not in DOCUMENTS:
        return False, []
    document = parse(record.document.encode())
    now = DOCUMENTS[document.kind].reduce(document).plain()
    stored = json.loads(record.result)
    for result in (now, stored):
        result.pop("core_version", None)
    return True, list(_differences(stored, json.loads(json.dumps(now)), ""))


MAX_DIFFERENCES = 200


def _differences(stored: Any, now: Any, path: str) -> Iterator[Difference]:
    if isinstance(stored, dict) and isinstance(now, dict):
        for name in dict.fromkeys((*stored, *now)):
            yield from _differences(stored.get(name), now.get(name), f"{path}.{name}" if path else name)
    elif isinstance(stored, list) and isinstance(now, list) and len(stored) == len(now):
        for i, (one, other) in enumerate(zip(stored, now, strict=True)):
            yield from _differences(one, other, f"{path}[{i}]")
    elif stored != now:
        yield Difference(path, _short(stored), _short(now))


def _short(value: Any) -> str:
    return "nothing" if value is None else str(value)[:300]
