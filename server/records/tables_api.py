"""Tables made by others: looked at, and known again the next time."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema
from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.documents.json_io import read_json
from naveta_core.registry import SHAPES
from naveta_core.tables.column_map import ColumnLook, ColumnMap
from naveta_core.tables.look import TableQuestion, look_at_table
from people.asker import asker
from records import known_tables
from records.raw_bodies import raw_body
from records.requests import read_entry

router = Router(tags=["bench"])
Heading = Annotated[str, Field(max_length=known_tables.MAX_HEADING)]


class KnownTableIn(Part):
    """A table that was read: what as, its headings, and which column was what."""

    kind: Annotated[str, Field(max_length=40)]
    headings: Annotated[list[Heading], Field(min_length=1, max_length=known_tables.MAX_HEADINGS)]
    column_map: ColumnMap


class KnownTableOut(Schema):
    """A table that is known, who last read it and when."""

    kind: str
    headings: list[str]
    column_map: ColumnMap
    name: str
    at: datetime


@router.post("/tables/look", response=ColumnLook, operation_id="look_at_table", openapi_extra=raw_body(TableQuestion))
def look(request: HttpRequest) -> HttpResponse:
    """A table of somebody's own as it is understood now: which column is what, what is read, what is missing. Stores nothing."""
    answer = look_at_table(read_json(request.body), SHAPES)
    return HttpResponse(answer.as_json(), content_type="application/json")


@router.get("/tables/known", response=list[KnownTableOut], operation_id="known_tables")
def known(request: HttpRequest) -> Any:
    """Every table the firm has read, the latest first."""
    return known_tables.known()


@router.put(
    "/tables/known", response=KnownTableOut, operation_id="remember_table", openapi_extra=raw_body(KnownTableIn)
)
def remember(request: HttpRequest) -> Any:
    """Remember which column of a table is what, for everybody; the last one read counts."""
    sent = read_entry(KnownTableIn, read_json(request.body))
    return known_tables.remember(asker(request), sent.kind, sent.headings, sent.column_map)
