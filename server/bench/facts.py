"""What follows from an instrument's records and is wanted often: kept beside it, rebuilt at each write.

Nothing here is typed in anywhere: `facts_of` reads the records that stand and says the rest.
"""

from __future__ import annotations

import json
from typing import Any

from django.db.models import QuerySet

from bench.models import Record
from fleet.models import Instrument
from fleet.selectors import done_of, known_to_core
from naveta_core.checks import KINDS, kinds_for
from naveta_core.schedule import RELEASE, clears
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
    parts = verdict["parts"]
    return {
        "check": record.kind,
        "at": record.observed_at,
        "grade": verdict["grade"],
        "stage": record.stage,
        "codes": [reason["code"] for reason in verdict["reasons"]],
        "proved_within_watch": all(part["proved_to"] <= part["limits"]["watch"] for part in parts),
        "finding": result["finding"]["text"],
    }


def event_fact(record: Record) -> Data:
    """An event as far as a standing needs it; a release carries who released it."""
    document = json.loads(record.document)
    note = document.get("note", "")
    if record.kind == RELEASE:
        note = f"{record.entered_by.name}: {note}"
    return {"event": record.kind, "at": record.observed_at, "note": note, "check": document.get("check", "")}


def latest_fact(record: Record) -> Data:
    """A check, enough for a limit bar in a list."""
    result = json.loads(record.result)
    kind = KINDS[record.kind]
    main = kind.main_quantity
    part = next(one for one in result["verdict"]["parts"] if one["quantity"] == main)
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
        "unit": kind.unit,
        "title": kind.title,
    }


def facts_of(instrument: Instrument) -> Data:
    """Everything derived from an instrument's records; looks at the latest ones only, however long the history."""
    rows = Record.objects.filter(instrument=instrument, amendments__isnull=True).order_by(
        "-observed_at_utc", "-sequence"
    )
    of_kind = _by_kind(rows.filter(category=Record.Category.CHECK))
    wanted = rows.filter(category=Record.Category.EVENT, kind__in=(*CUTTING_EVENTS, RELEASE)).select_related(
        "entered_by"
    )
    events = list(wanted[:LATEST_EVENTS])[::-1]
    set_ups = [one for one in rows.filter(category=Record.Category.SET_UP)[:LATEST_SET_UPS] if _set_up_made(one)][:1]
    controls = list(rows.filter(category=Record.Category.ORIENTATION)[:CONTROL_LENGTH])
    kept: list[Record] = []
    passes = []
    for checks in of_kind.values():
        last_pass = _last_pass(checks, rows)
        passes += [last_pass] if last_pass else []
        kept += [last_pass] if last_pass else []
        if last_pass is None or checks[-1].pk != last_pass.pk:
            kept.append(checks[-1])
    bearing = [e for e in events if e.kind in (*CUTTING_EVENTS, RELEASE)]
    # An event older than every kind's last pass bears on nothing any more.
    applying = {one.name for one in kinds_for(known_to_core(instrument))}
    if passes and applying <= {one.kind for one in passes}:
        oldest = min(one.observed_at_utc for one in passes)
        bearing = [e for e in bearing if e.observed_at_utc > oldest]
    return {
        "done": [done_fact(one) for one in kept],
        "events": [event_fact(one) for one in bearing],
        "latest": _latest(of_kind),
        "made": _made([*(one for checks in of_kind.values() for one in checks), *set_ups, *controls], events),
    }


def _by_kind(checks: QuerySet[Record]) -> dict[str, list[Record]]:
    """The latest checks of each kind, oldest first."""
    kinds = set(checks.order_by().values_list("kind", flat=True).distinct())
    return {name: list(checks.filter(kind=name)[:LEARNING_FROM])[::-1] for name in KINDS if name in kinds}


def _latest(of_kind: dict[str, list[Record]]) -> Data | None:
    """What the yard shows of an instrument: a bad finding that stands, the newest first; else the check that gates."""
    last = [checks[-1] for checks in of_kind.values()]
    bad = [one for one in last if json.loads(one.result)["verdict"]["grade"] in ("adjust", "service")]
    gating = [one for one in last if KINDS[one.kind].gates]
    chosen = max(bad or gating or last, key=lambda one: one.observed_at_utc, default=None)
    return latest_fact(chosen) if chosen else None


def _last_pass(checks: list[Record], rows: QuerySet[Record]) -> Record | None:
    """The newest check of a kind that clears, seen from the newest backwards; `checks` are the latest ones."""
    found = next((one for one in reversed(checks) if clears(done_of(done_fact(one)))), None)
    if found or len(checks) < LEARNING_FROM:
        return found
    older = rows.filter(category=Record.Category.CHECK, kind=checks[0].kind)[LEARNING_FROM:]
    return next((one for one in older.iterator(chunk_size=20) if clears(done_of(done_fact(one)))), None)


def _made(checks: list[Record], events: list[Record]) -> list[Data]:
    """The latest checks and controls, the set-up that found a rest position, and the events that cut between them, oldest first, as the core's segment takes them."""
    cutting = [one for one in events if one.kind in CUTTING_EVENTS]
    rows = sorted([*checks, *cutting], key=lambda one: (one.observed_at_utc, one.sequence))
    return [made for one in rows if (made := _made_of(one)) is not None]


def _set_up_made(record: Record) -> Data | None:
    return made_set_up(json.loads(record.result), record.observed_at)


def _made_of(record: Record) -> Data | None:
    if record.category == Record.Category.EVENT:
        told = {"what": "event", "event": record.kind, "at": record.observed_at}
        about = json.loads(record.document).get("check")
        return {**told, "kind": about} if about else told
    return made_of(json.loads(record.document), json.loads(record.result), record.observed_at, record.stage)
