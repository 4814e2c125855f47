"""Changes to the control points, each in one transaction."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from django.db import transaction

from control_points.models import Point
from naveta_core.errors import Fault, Refused, quote
from naveta_core.orientation.names import bare
from naveta_core.orientation.table import read_points
from people.models import Person
from shared import clock
from shared.rights import require

Data = dict[str, Any]
STAYS_M = 0.0005


@dataclass(frozen=True, slots=True)
class Import:
    """What a table would do, or did: points that are new, that move and by how much, that stay."""

    new: list[str]
    moved: list[Data]
    same: list[str]


def key(name: str) -> str:
    return "/".join(bare(name))


def look_at(points: list[Data]) -> Import:
    """What keeping these points would change."""
    here = {object_.bare: object_ for object_ in Point.objects.all()}
    found = Import([], [], [])
    for point in points:
        old = here.get(key(point["name"]))
        if old is None:
            found.new.append(point["name"])
            continue
        away = math.hypot(point["e_m"] - old.e_m, point["n_m"] - old.n_m)
        rise = None if point["h_m"] is None or old.h_m is None else point["h_m"] - old.h_m
        if away < STAYS_M and abs(rise or 0.0) < STAYS_M and (point["h_m"] is None) == (old.h_m is None):
            found.same.append(point["name"])
        else:
            found.moved.append(
                {
                    "name": point["name"],
                    "by_mm": round(away * 1000.0, 1),
                    "rise_mm": None if rise is None else round(rise * 1000.0, 1),
                }
            )
    return found


@transaction.atomic
def import_table(*, actor: Person, text: str, unit: str, store: bool) -> Import:
    """Read a table of points and, when `store`, store them. Raises TableFaults, Forbidden."""
    require(actor, "manage-points")
    points = read_points(text, unit)
    look = look_at(points)
    if store:
        for point in points:
            values = {name: point[name] for name in ("name", "e_m", "n_m", "h_m", "description")}
            Point.objects.update_or_create(
                bare=key(point["name"]), defaults={**values, "changed_at": clock.now(), "changed_by": actor}
            )
    return look


@transaction.atomic
def remove(*, actor: Person, name: str) -> None:
    """Take a point off the list; records that used it hold its coordinates. Raises Refused, Forbidden."""
    require(actor, "manage-points")
    gone, _ = Point.objects.filter(bare=key(name)).delete()
    if not gone:
        raise Refused([Fault("name", "the point", quote(name), "a control point")])
