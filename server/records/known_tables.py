"""Tables of people's own that the firm has read before, so that nobody says twice which column is what."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from naveta_core.errors import Fault, Refused
from naveta_core.registry import SHAPES
from naveta_core.tables.column_map import MAX_COLUMNS, ColumnMap
from people.models import Person
from records.models import KnownTable
from shared import clock

MAX_HEADINGS, MAX_HEADING = MAX_COLUMNS, 80
MAX_KNOWN = 300


def known() -> list[dict[str, Any]]:
    """Every table that is known, the latest first."""
    return [_shown(table) for table in KnownTable.objects.select_related("by").order_by("-at", "-pk")]


def remember(person: Person, kind: str, headings: list[str], column_map: ColumnMap) -> dict[str, Any]:
    """Store how a table was understood, in place of what was known of one with these headings. Raises Refused."""
    if kind not in SHAPES:
        raise Refused([Fault("kind", "the kind of document", kind, "one of " + ", ".join(sorted(SHAPES)))])
    # Lines left out are of that file, and not of the next.
    kept = column_map.model_dump(mode="json") | {"left_out": []}
    names = [heading.lower() for heading in headings]
    with transaction.atomic():
        table, _ = KnownTable.objects.update_or_create(
            kind=kind, headings=names, defaults={"column_map": kept, "by": person, "at": clock.now()}
        )
        older = KnownTable.objects.order_by("-at", "-pk").values_list("pk", flat=True)[MAX_KNOWN:]
        KnownTable.objects.filter(pk__in=list(older)).delete()
    return _shown(table)


def _shown(table: KnownTable) -> dict[str, Any]:
    return {
        "kind": table.kind,
        "headings": table.headings,
        "column_map": table.column_map,
        "name": table.by.name,
        "at": table.at,
    }
