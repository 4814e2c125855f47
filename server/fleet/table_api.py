"""The fleet as a table: out, in with a look beforehand, and back."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from fleet import table
from people.asker import asker
from shared.bodies import Body, Table

router = Router(tags=["fleet"])


class FleetTableIn(Body):
    """A table with a header, and whether it is stored or only looked at."""

    text: Table
    store: bool = False


class TableRow(Schema):
    """What a row does: `add`, `change` (each fact from what to what) or `same`."""

    tag: str
    does: str
    changes: dict[str, list[str]]
    new_model: str


class TableLook(Schema):
    """What a table would do or did; `id` of the import that can be taken back."""

    rows: list[TableRow]
    id: int | None


@router.get("/fleet/table", response=str, operation_id="export_fleet")
def get_table(request: HttpRequest) -> HttpResponse:
    """Every instrument as comma-separated text."""
    answer = HttpResponse(table.export_table(), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="fleet.csv"'
    return answer


@router.post("/fleet/table", response=TableLook, operation_id="import_fleet")
def post_table(request: HttpRequest, payload: FleetTableIn) -> Any:
    """What a table would do, row by row; with `store` it is done, whole or not at all (manager)."""
    planned, done = table.import_table(actor=asker(request), text=payload.text, store=payload.store)
    rows = [{name: value for name, value in asdict(row).items() if name != "facts"} for row in planned]
    return {"rows": rows, "id": done.pk if done else None}


@router.delete("/fleet/imports/{pk}", response={204: None}, operation_id="undo_fleet_import")
def delete_import(request: HttpRequest, pk: int) -> HttpResponse:
    """Take an import back while nothing was built on it (manager)."""
    table.undo_import(actor=asker(request), pk=pk)
    return HttpResponse(status=204)
