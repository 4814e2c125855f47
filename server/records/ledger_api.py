"""The ledger: records filtered and found, written out, computed again."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from django.http import HttpRequest, StreamingHttpResponse
from ninja import Query, Router, Schema

from fleet.selectors import find
from naveta_core import __version__
from naveta_core.checks import KINDS
from naveta_core.errors import Fault, Refused, quote
from records import ledger, selectors
from records.ledger import LedgerFilters
from records.schemas import RecordRow

router = Router(tags=["ledger"])


class LedgerPage(Schema):
    """A page of the ledger; with the first page `count` of everything that answers, `more` where there are more than
    are counted."""

    records: list[RecordRow]
    count: int | None
    more: bool = False
    next: str | None


class DifferenceOut(Schema):
    """What comes out otherwise today."""

    path: str
    stored: str
    now: str


class Recomputed(Schema):
    """A stored document computed again by today's core; `computed` False for what has no calculation."""

    computed: bool
    stored_version: str
    core_version: str
    same: bool
    differences: list[DifferenceOut]


@router.get("/ledger", response=LedgerPage, operation_id="list_ledger")
def list_ledger(
    request: HttpRequest, filters: Query[LedgerFilters], cursor: str | None = None, limit: int = 100
) -> Any:
    """Records that answer every filter and hold every word, the latest arrival first."""
    rows, following = ledger.page(filters, cursor, limit)
    count = None if cursor else ledger.counted(filters)
    more = count is not None and count > ledger.MAX_COUNTED
    count = ledger.MAX_COUNTED if more else count
    return {"records": [selectors.row(row) for row in rows], "count": count, "more": more, "next": following}


@router.get("/ledger/table", response=str, operation_id="export_ledger")
def export_ledger(request: HttpRequest, filters: Query[LedgerFilters]) -> StreamingHttpResponse:
    """The same as comma-separated text, as it comes."""
    answer = StreamingHttpResponse(ledger.table(filters), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="ledger.csv"'
    return answer


@router.get("/instruments/{tag}/series/table", response=str, operation_id="export_series")
def export_series(request: HttpRequest, tag: str, of: str) -> StreamingHttpResponse:
    """A series of an instrument as comma-separated text."""
    instrument = find(tag)
    if of not in KINDS:
        raise Refused([Fault("of", "the kind of check", quote(of), f"one of {', '.join(KINDS)}")])
    answer = StreamingHttpResponse(ledger.series_table(instrument, of), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{instrument.tag}-{of}.csv"'
    return answer


@router.get("/records/{uuid}/recomputed", response=Recomputed, operation_id="recompute_record")
def get_recomputed(request: HttpRequest, uuid: UUID) -> Any:
    """A record computed again with today's core, and every difference."""
    record = selectors.find(uuid)
    computed, differences = ledger.recomputed(record)
    return {
        "computed": computed,
        "stored_version": record.core_version,
        "core_version": __version__,
        "same": computed and not differences,
        "differences": differences[: ledger.MAX_DIFFERENCES],
    }
