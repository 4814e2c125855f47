"""Control points: the list, a table in and out."""

from __future__ import annotations

from typing import Any, Literal

from django.forms.models import model_to_dict
from django.http import HttpRequest, HttpResponse
from ninja import Router, Schema

from control_points.models import Point
from control_points.services import import_table, remove
from naveta_core.orientation.names import near_misses
from naveta_core.orientation.table import MOVES, write_points
from naveta_core.units.formatting import figure, length_words
from naveta_core.units.lengths import in_unit
from people.asker import asker
from people.firm import organisation
from shared.bodies import Body, Table

router = Router(tags=["control"])
Unit = Literal["m", "mm", "cm", "ft", "usft", "in"]


class PointOut(Schema):
    """A control point, metres; `shown` as people of the firm read it: easting, northing, height."""

    name: str
    e_m: float
    n_m: float
    h_m: float | None
    description: str
    shown: list[str]


class NearMiss(Schema):
    name: str
    why: str


class PointsOut(Schema):
    """Control points, by name; of a search that found none of that very name, what may be meant."""

    points: list[PointOut]
    unit: str
    """Unit of what is shown."""
    near: list[NearMiss]


class PointsTable(Body):
    """A table of points; `store` false only says what it would change."""

    text: Table
    unit: Unit = "m"
    store: bool = False


class Moved(Schema):
    name: str
    by_mm: float
    rise_mm: float | None


class Imported(Schema):
    new: list[str]
    moved: list[Moved]
    same: list[str]
    stored: bool
    caution: str | None


@router.get("/points", response=PointsOut, operation_id="list_points")
def list_points(request: HttpRequest, q: str = "") -> Any:
    """Control points whose name or description holds the words sought."""
    every = list(Point.objects.order_by("name"))
    sought = q.strip().lower()
    found = [
        entry for entry in every if not sought or sought in entry.name.lower() or sought in entry.description.lower()
    ]
    near = near_misses(q.strip(), [entry.name for entry in every]) if sought else []
    shown = {entry.name for entry in found}
    unit = organisation().length_unit
    points = [{**model_to_dict(entry), "shown": _shown(entry, unit)} for entry in found]
    return {
        "points": points,
        "unit": length_words(unit).name,
        "near": [{"name": name, "why": why} for name, why in near if name not in shown],
    }


def _shown(point: Point, unit: str) -> list[str]:
    return ["" if value is None else figure(in_unit(value, unit), 3) for value in (point.e_m, point.n_m, point.h_m)]


@router.post("/points/table", response=Imported, operation_id="import_points")
def post_points(request: HttpRequest, payload: PointsTable) -> Any:
    """Read a table of control points; with `store` they are stored, and known ones take the new coordinates."""
    found = import_table(actor=asker(request), text=payload.text, unit=payload.unit, store=payload.store)
    return {
        "new": found.new,
        "moved": found.moved,
        "same": found.same,
        "stored": payload.store,
        "caution": MOVES if found.moved else None,
    }


@router.get("/points/table", response=str, operation_id="export_points")
def get_points(request: HttpRequest, unit: Unit = "m") -> HttpResponse:
    """All control points as a table."""
    rows = Point.objects.order_by("name").values("name", "e_m", "n_m", "h_m", "description")
    response = HttpResponse(write_points([dict(row) for row in rows], unit), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="points.csv"'
    return response


@router.delete("/points/{name}", response={204: None}, operation_id="remove_point")
def delete_point(request: HttpRequest, name: str) -> HttpResponse:
    """Take a point off the list."""
    remove(actor=asker(request), name=name)
    return HttpResponse(status=204)
