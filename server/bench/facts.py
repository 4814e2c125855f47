"""What follows from an instrument's records and is wanted often: kept beside it, rebuilt at each write.

Nothing here is typed in anywhere: `facts_of` reads the records that stand and says the rest.
"""

from __future__ import annotations

import json
from typing import Any

from django.db.models import QuerySet

from bench.models import Record
from fleet.models import Instrument
from fleet.selectors import done_of
from naveta_core.checks import KINDS
from naveta_core.schedule import BEARING_EVENTS, RELEASE, clears
from naveta_core.segment import CONTROL_LENGTH, CUTTING_EVENTS, LEARNING_FROM, made_of, made_set_up

Data = dict[str, Any]
LATEST_EVENTS = 12
LATEST_SET_UPS = 20


def standing_checks(instrument: Instrument) -> list[Record]:
    """Checks that are not struck, in the order in which they were observed."""
    rows = Record.objects.filter(instrument=instrument, category=Record.Category.CHECK, amendments__isnull=True)
    return list(rows.order_by("observed_at_utc", "sequence"))


def standing_controls(instrument: Instrument) -> list[Record]:
    """Orientations that are not struck, in the order in which they were observed."""
    rows = Record.objects.filter(instrument=instrument, category=Record.Category.ORIENTATION, amendments__isnull=True)
    return list(rows.order_by("observed_at_utc", "sequence"))


def standing_events(instrument: Instrument) -> list[Record]:
    """Events that are not struck, in the order in which they happened."""
    rows = Record.objects.filter(instrument=instrument, category=Record.Category.EVENT, amendments__isnull=True)
    return list(rows.select_related("entered_by").order_by("observed_at_utc", "sequence"))


def done_fact(record: Record) -> Data:
    """A check as far as a standing needs it."""
    result = json.loads(record.result)
    verdict = result["verdict"]
    part = verdict["parts"][0]
    return {
        "check": record.kind,
        "at": record.observed_at,
        "grade": verdict["grade"],
        "stage": record.stage,
        "codes": [reason["code"] for reason in verdict["reasons"]],
        "proved_within_watch": part["proved_to"] <= part["limits"]["watch"],
        "finding": result["finding"]["text"],
    }


def event_fact(record: Record) -> Data:
    """An event as far as a standing needs it; a release carries who released it."""
    note = json.loads(record.document).get("note", "")
    if record.kind == RELEASE:
        note = f"{record.entered_by.name}: {note}"
    return {"event": record.kind, "at": record.observed_at, "note": note}


def latest_fact(record: Record) -> Data:
    """The latest check, enough for a limit bar in a list."""
    result = json.loads(record.result)
    part = result["verdict"]["parts"][0]
    main = KINDS[record.kind].main_quantity
    shown = next(row for row in result["shown"] if row["quantity"] == main)
    return {
        "id": str(record.id),
        "check": record.kind,
        "at": record.observed_at,
        "grade": result["verdict"]["grade"],
        "stage": record.stage,
        "finding": result["finding"]["text"],
        "value": part["value"],
        "u95": part["u95"],
        "limit": part["limits"]["use"],
        "text": shown["text"],
    }


def facts_of(instrument: Instrument) -> Data:
    """Everything derived from an instrument's records; looks at the latest ones only, however long the history."""
    rows = Record.objects.filter(instrument=instrument, amendments__isnull=True).order_by(
        "-observed_at_utc", "-sequence"
    )
    checks = list(rows.filter(category=Record.Category.CHECK)[:LEARNING_FROM])[::-1]
    wanted = rows.filter(category=Record.Category.EVENT, kind__in=(*CUTTING_EVENTS, RELEASE)).select_related(
        "entered_by"
    )
    events = list(wanted[:LATEST_EVENTS])[::-1]
    set_ups = [one for one in rows.filter(category=Record.Category.SET_UP)[:LATEST_SET_UPS] if _set_up_made(one)][:1]
    controls = list(rows.filter(category=Record.Category.ORIENTATION)[:CONTROL_LENGTH])
    last_pass = _last_pass(rows.filter(category=Record.Category.CHECK))
    kept = [last_pass] if last_pass else []
    if checks and (last_pass is None or checks[-1].pk != last_pass.pk):
        kept.append(checks[-1])
    bearing = [e for e in events if e.kind in BEARING_EVENTS or e.kind == RELEASE]
    if last_pass:
        bearing = [e for e in bearing if e.observed_at_utc > last_pass.observed_at_utc]
    return {
        "done": [done_fact(one) for one in kept],
        "events": [event_fact(one) for one in bearing],
        "latest": latest_fact(checks[-1]) if checks else None,
        "made": _made([*checks, *set_ups, *controls], events),
    }


def _last_pass(checks: QuerySet[Record]) -> Record | None:
    """The newest check that clears, seen from the newest backwards."""
    return next((one for one in checks.iterator(chunk_size=20) if clears(done_of(done_fact(one)))), None)


def _made(checks: list[Record], events: list[Record]) -> list[Data]:
    """The latest checks and controls, the set-up that found a rest position, and the events that cut between them, oldest first, as the core's segment takes them."""
    cutting = [one for one in events if one.kind in CUTTING_EVENTS]
    rows = sorted([*checks, *cutting], key=lambda one: (one.observed_at_utc, one.sequence))
    return [made for one in rows if (made := _made_of(one)) is not None]


def _set_up_made(record: Record) -> Data | None:
    return made_set_up(json.loads(record.result), record.observed_at)


def _made_of(record: Record) -> Data | None:
    if record.category == Record.Category.EVENT:
        return {"what": "event", "event": record.kind, "at": record.observed_at}
    return made_of(json.loads(record.document), json.loads(record.result), record.observed_at, record.stage)
