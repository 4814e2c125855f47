"""What follows from an instrument's records and is wanted often: stored beside it, rebuilt at each write.

Nothing here is typed in anywhere: `facts_of` reads the records that stand and says the rest.
"""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import asdict
from typing import Any

from django.db.models import F, Q, QuerySet, Window
from django.db.models.functions import RowNumber

from fleet.models import Instrument
from fleet.selectors import AHEAD, event_record_of, stated_of
from naveta_core.checks import KINDS, kinds_for
from naveta_core.history.context import CHANGING_EVENTS, CONTROL_LENGTH, CUTTING_EVENTS, LEARNING_FROM
from naveta_core.history.due import with_hand_overs
from naveta_core.history.entries import PastEvent, entry_of
from naveta_core.history.events import BEARING_EVENTS, HANDED_OVER
from naveta_core.history.facts import (
    ADJUSTED,
    FALLS,
    RELEASE,
    SKIPPED,
    WORKED,
    CheckRecord,
    EventRecord,
    check_record_of,
    clears,
    last_pass,
    order,
    proves,
)
from naveta_core.history.standing import AWAY
from records.models import Record
from records.summary import read_summary
from records.times import happened_at, happened_text
from shared import clock

Data = dict[str, Any]
NOTHING_DERIVED: Data = {"done": [], "events": [], "latest": None, "history": []}
"""What follows from no record that bears on anything: an instrument only taken out and handed in so far."""
LATEST_EVENTS = 12
LATEST_SET_UPS = 20
LATEST_TAKEN_OUT = 60
LATEST_AWAY = 4
LATEST_OF_A_KIND = max(LATEST_EVENTS, LEARNING_FROM, CONTROL_LENGTH)
COUNTING = (*BEARING_EVENTS, ADJUSTED, RELEASE, SKIPPED, *AWAY, *(back for back, _, _ in AWAY.values()))
"""Events a standing or a due date depends on, beside the takings out that hand an instrument over."""
MEASURED = (Record.Category.CHECK, Record.Category.SET_UP, Record.Category.ORIENTATION)
STAYS = ("service-in", "service-out", "lent", "returned")
"""These say where it is and when it goes to service, also when every check is newer."""


def checks_back_to_a_good_one(record: Record) -> list[Record]:
    """Standing checks of a record's kind from the last good one before it on, oldest first."""
    rows = Record.objects.filter(instrument_id=record.instrument_id, kind=record.kind, amendments__isnull=True)
    found: list[Record] = []
    for row in rows.defer("document", "result").order_by("-observed_at_utc", "-sequence").iterator(chunk_size=50):
        found.append(row)
        if row.observed_at_utc < record.observed_at_utc and clears(check_record(row)):
            break
    return found[::-1]


def standing_events(instrument: Instrument, kinds: Sequence[str], most: int | None = None) -> list[Record]:
    """Events of some kinds that are not struck, in the order in which they happened; the latest, where there are many."""
    rows = Record.objects.filter(instrument=instrument, kind__in=kinds, amendments__isnull=True)
    latest = rows.select_related("entered_by").order_by("-observed_at_utc", "-sequence")
    return list(latest[:most] if most else latest)[::-1]


def check_fact(record: Record) -> Data:
    """A check as far as a standing needs it."""
    fields = asdict(check_record(record))
    return {**fields, "at": happened_text(record), "codes": list(fields["codes"])}


def check_record(record: Record) -> CheckRecord:
    """The same as the core takes it, from the summary alone."""
    return check_record_of(read_summary(record), happened_at(record), record.stage)


def event_fact(record: Record) -> Data:
    """An event as far as a standing needs it; a release and a skipped check carry whose decision it was."""
    document = json.loads(record.document)
    note = document.get("note", "")
    if record.kind in (RELEASE, SKIPPED):
        note = f"{record.entered_by.name}: {note}"
    more = {name: document[name] for name in ("crew", "temperature_c", "until") if document.get(name) is not None}
    return {"event": record.kind, "at": happened_text(record), "note": note, "check": document.get("check", ""), **more}


def fact_of(event: EventRecord) -> Data:
    """The same from the core's event; what it does not say is left out."""
    known = {name: value for name, value in asdict(event).items() if value not in (None, "")}
    until = {"until": event.until.isoformat()} if event.until else {}
    return {"note": "", "check": "", **known, "at": event.at.isoformat(), **until}


def latest_fact(record: Record) -> Data:
    """A check, enough for a limit bar in a list."""
    summary, kind = read_summary(record), KINDS[record.kind]
    point = summary.point
    assert point is not None, record.pk
    return {
        "id": str(record.id),
        "check": record.kind,
        "at": happened_text(record),
        "grade": summary.grade,
        "stage": record.stage,
        "finding": summary.finding,
        "value": point.value,
        "u95": point.u95,
        "limit": point.use,
        "text": summary.text,
        "unit": kind.unit,
        "title": kind.title,
    }


def derived_of(instrument: Instrument) -> Data:
    """Everything derived from an instrument's records; looks at the latest ones of each kind only, however long the
    history."""
    rows = Record.objects.filter(instrument=instrument, amendments__isnull=True).defer("result")
    rows = rows.order_by("-observed_at_utc", "-sequence")
    latest = _latest_of_each(rows)
    measured = [row for row in latest if row.category != Record.Category.EVENT]
    happened = [row for row in latest if row.category == Record.Category.EVENT]
    of_kind = _by_kind([row for row in measured if row.category == Record.Category.CHECK])
    events = _events([row for row in happened if row.kind in COUNTING])
    set_ups = [row for row in measured if row.category == Record.Category.SET_UP][:LATEST_SET_UPS]
    set_ups = [row for row in set_ups if _entry_of(row)][:1]
    controls = [row for row in measured if row.category == Record.Category.ORIENTATION][:CONTROL_LENGTH]
    taken = [row for row in happened if row.kind == "out"][::-1]
    handed_over = [
        event for event in with_hand_overs([event_record(out) for out in taken]) if event.event == HANDED_OVER
    ]
    found = sorted([*map(event_record, events), *handed_over], key=order)
    warmth = _warmth(measured)
    deciding: list[Record] = []
    passes = []
    for checks in of_kind.values():
        passed = _last_pass(checks, rows, found)
        passes += [passed] if passed else []
        # Beside the last pass the one that answers a fall or an adjusting: the standing begins from it.
        answers = next((check for check in reversed(checks) if proves(check_record(check))), None)
        # What was to be repeated decides nothing: the one before it stands.
        decided = next((check for check in reversed(checks) if check.grade != "repeat"), None)
        deciding += {answer.pk: answer for answer in (answers, passed, decided, checks[-1]) if answer}.values()
    bearing = found
    # An event older than every kind's last pass bears on nothing any more.
    applying = {kind.name for kind in kinds_for(stated_of(instrument))}
    if passes and applying <= {pass_.kind for pass_ in passes}:
        oldest = min(pass_.observed_at_utc for pass_ in passes)
        bearing = [e for e in found if e.at >= oldest or e.event in STAYS]
    return {
        "done": [check_fact(record) for record in deciding],
        "events": [fact_of(event) for event in sorted([*bearing, *warmth], key=order)],
        "latest": _latest(of_kind),
        "history": _history([*(check for checks in of_kind.values() for check in checks), *set_ups, *controls], events),
    }


def _warmth(measured: Sequence[Record]) -> list[EventRecord]:
    """Return a pseudo-event with the latest temperature from a check, set-up or orientation, or an empty list."""
    known = [(row, read_summary(row).temperature_c) for row in measured if row.category in MEASURED]
    felt = [(row, celsius) for row, celsius in known if celsius is not None]
    if not felt:
        return []
    row, celsius = max(felt, key=lambda pair: pair[0].observed_at_utc)
    return [EventRecord(WORKED, happened_at(row), temperature_c=celsius)]


def _latest_of_each(rows: QuerySet[Record]) -> list[Record]:
    """The latest rows of each kind, as many as any of them is looked at for, the latest first.

    Numbered within the database: one question in place of one a kind.
    """
    place = Window(RowNumber(), partition_by=[F("kind")], order_by=[F("observed_at_utc").desc(), F("sequence").desc()])
    latest = Q(kind="out", place__lte=LATEST_TAKEN_OUT) | Q(place__lte=LATEST_OF_A_KIND)
    latest |= Q(category=Record.Category.SET_UP, place__lte=LATEST_SET_UPS)
    return list(rows.filter(pk__in=rows.order_by().annotate(place=place).filter(latest).values("pk")))


def _by_kind(checks: Sequence[Record]) -> dict[str, list[Record]]:
    """The latest checks of each kind, oldest first; `checks` the latest first."""
    of_kind = {name: [check for check in checks if check.kind == name][:LEARNING_FROM][::-1] for name in KINDS}
    return {name: found for name, found in of_kind.items() if found}


def _latest(of_kind: dict[str, list[Record]]) -> Data | None:
    """What the yard shows of an instrument: a bad finding that stands, the newest first; else the check that decides."""
    last = [checks[-1] for checks in of_kind.values()]
    # What a clock that ran ahead has dated to come does not stay on top of what is found now.
    last = [entry for entry in last if entry.observed_at_utc <= clock.now() + AHEAD] or last
    bad = [entry for entry in last if read_summary(entry).grade in ("adjust", "service")]
    gating = [entry for entry in last if KINDS[entry.kind].blocks_release]
    chosen = max(bad or gating or last, key=lambda entry: entry.observed_at_utc, default=None)
    return latest_fact(chosen) if chosen else None


def _events(wanted: Sequence[Record]) -> list[Record]:
    """The latest events, oldest first; a fall is not forgotten over many small ones after it. `wanted`: the latest first."""
    older = [row for row in wanted if row.kind in FALLS][:LATEST_EVENTS]
    away = [row for row in wanted if row.kind in STAYS][:LATEST_AWAY]
    listed = {row.pk: row for row in (*wanted[:LATEST_EVENTS], *older, *away)}.values()
    return sorted(listed, key=lambda entry: (entry.observed_at_utc, entry.sequence))


def event_record(record: Record) -> EventRecord:
    return event_record_of(event_fact(record))


def _last_pass(checks: list[Record], rows: QuerySet[Record], events: list[EventRecord]) -> Record | None:
    """The newest check of a kind that passes, by the rule of the yard; `checks` are the latest ones, oldest first."""
    done = [check_record(check) for check in checks]
    found = last_pass(done, events)
    if found is not None:
        return checks[max(i for i, entry in enumerate(done) if entry is found)]
    if len(checks) < LEARNING_FROM:
        return None
    older = rows.filter(category=Record.Category.CHECK, kind=checks[0].kind)[LEARNING_FROM:]
    return next((record for record in older.iterator(chunk_size=20) if clears(check_record(record))), None)


def _history(checks: list[Record], events: list[Record]) -> list[Data]:
    """The latest checks and controls, the set-up that found a rest position, and the events that cut between them, oldest first, as the core's history takes them."""
    cutting = [event for event in events if event.kind in (*CUTTING_EVENTS, *CHANGING_EVENTS)]
    orders = {item.pk: order(event_record(item)) for item in cutting}
    orders |= {check.pk: (happened_at(check), 2 if check.stage == "as-left" else 0) for check in checks}
    rows = sorted([*checks, *cutting], key=lambda item: (*orders[item.pk], item.sequence))
    return [entry for row in rows if (entry := _entry_of(row)) is not None]


def _entry_of(record: Record) -> Data | None:
    at = happened_text(record)
    if record.category == Record.Category.EVENT:
        about = json.loads(record.document).get("check")
        adjusted = {"kind": about} if about else {}
        return PastEvent(what="event", event=record.kind, at=at, **adjusted).plain()
    entry = entry_of(read_summary(record), at, record.stage)
    return entry.plain() if entry else None
