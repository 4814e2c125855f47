"""Reports as PDF, and proof files."""

from __future__ import annotations

from collections.abc import Callable
from datetime import date
from typing import Annotated, Any
from uuid import UUID

from django.http import Http404, HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Query, Router
from pydantic import Field

from fleet.selectors import find as find_instrument
from naveta_core.errors import Fault, Refused
from naveta_core.registry import DOCUMENTS
from records import ledger, selectors
from records.ledger import LedgerFilters
from records.models import Record
from reports.check import check_report
from reports.instrument import instrument_report
from reports.kit import kit_report
from reports.month import month_report
from reports.proof import MAX_RECORDS, proof
from shared import clock

router = Router(tags=["reports"])
PDF = {"responses": {200: {"content": {"application/pdf": {"schema": {"type": "string", "format": "binary"}}}}}}
HTML = {"responses": {200: {"content": {"text/html": {"schema": {"type": "string"}}}}}}
Month = Annotated[str, Field(pattern=r"^(19|20|21)\d\d-(0[1-9]|1[0-2])$")]


def _pdf(name: str, make: Callable[[], bytes]) -> HttpResponse:
    answer = HttpResponse(make(), content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer


def _page(name: str, title: str, rows: Any) -> StreamingHttpResponse:
    answer = StreamingHttpResponse(proof(rows, title), content_type="text/html; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="{name}.html"'
    return answer


@router.get("/records/{uuid}/report", response=bytes, operation_id="record_report", openapi_extra=PDF)
def get_record_report(request: HttpRequest, uuid: UUID) -> HttpResponse:
    """One check, set-up or orientation as a PDF."""
    record = selectors.find(uuid)
    if record.kind not in DOCUMENTS:
        raise Http404(str(uuid))
    return _pdf(f"{record.instrument.tag}-{record.kind}-{record.observed_at[:10]}", lambda: check_report(record))


@router.get("/records/{uuid}/proof", response=str, operation_id="record_proof", openapi_extra=HTML)
def get_record_proof(request: HttpRequest, uuid: UUID) -> StreamingHttpResponse:
    """A proof file of a record with its instrument's whole chain up to it, and what strikes it."""
    record = selectors.find(uuid)
    until = max([record.sequence, *record.amendments.values_list("sequence", flat=True)])
    rows = Record.objects.filter(instrument=record.instrument, sequence__lte=until)
    title = f"{record.instrument.tag}: records 1 to {until}"
    return _page(f"proof-{record.instrument.tag}-{record.observed_at[:10]}", title, rows)


@router.get("/instruments/{tag}/report", response=bytes, operation_id="instrument_report", openapi_extra=PDF)
def get_instrument_report(request: HttpRequest, tag: str) -> HttpResponse:
    """An instrument's history as a PDF."""
    instrument = find_instrument(tag)
    return _pdf(f"{instrument.tag}-history", lambda: instrument_report(instrument))


@router.get("/jobs/{pk}/kit/report", response=bytes, operation_id="kit_report", openapi_extra=PDF)
def get_kit_report(request: HttpRequest, pk: int) -> HttpResponse:
    """The kit of a job as a PDF."""
    return _pdf(f"kit-{pk}", lambda: kit_report(pk))


@router.get("/fleet/report", response=bytes, operation_id="month_report", openapi_extra=PDF)
def get_month_report(request: HttpRequest, month: Month | None = None) -> HttpResponse:
    """The fleet in a month (2027-02) as a PDF; without one, this month."""
    first = date.fromisoformat(f"{month}-01") if month else clock.today().replace(day=1)
    if first > clock.today():
        raise Refused([Fault("month", "the month", month or "", "one that has begun")])
    return _pdf(f"fleet-{first:%Y-%m}", lambda: month_report(first))


@router.get("/ledger/proof", response=str, operation_id="ledger_proof", openapi_extra=HTML)
def get_ledger_proof(request: HttpRequest, filters: Query[LedgerFilters]) -> StreamingHttpResponse:
    """A proof file of every record that answers the filters."""
    rows = ledger.found(filters).defer(None)
    number = rows.order_by().count()
    if number > MAX_RECORDS:
        raise Refused(
            [
                Fault(
                    "filters",
                    "the filters",
                    f"{number} records",
                    f"at most {MAX_RECORDS}: choose fewer days or instruments",
                )
            ]
        )
    return _page(f"proof-{clock.today()}", f"{number} records of the ledger", rows)
