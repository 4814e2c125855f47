"""Reading records: lists, one record, the series of an instrument, the reviews after a bad finding."""

from __future__ import annotations

import json
import uuid
from typing import Any

from django.db.models import Prefetch, QuerySet
from django.http import Http404

from fleet.models import ChangeCounter, Instrument
from fleet.selectors import due_checks, stated_of, yard
from naveta_core.checks import KINDS, kinds_for
from naveta_core.documents.fingerprint import device_notes
from naveta_core.history.context import CUTTING_EVENTS
from naveta_core.history.events import BEARING_EVENTS
from naveta_core.history.facts import ADJUSTED, RELEASE
from naveta_core.units.formatting import UNITS, UNITS_SHOWN
from plan.jobs import job_names
from records import chain
from records.derived import event_fact, standing_events
from records.models import Record
from records.summary import listed_summary, read_summary
from records.times import happened_at, happened_text
from records.trends import trend
from shared import clock, paging

Data = dict[str, Any]


def records() -> QuerySet[Record]:
    return Record.objects.select_related("instrument__model", "observed_by", "entered_by").prefetch_related(
        Prefetch("amendments", Record.objects.only("id", "amends_id", "why")),
        Prefetch("as_left", Record.objects.only("id", "pair_id")),
    )


def find(identity: uuid.UUID) -> Record:
    """One record. Raises Http404."""
    record = records().filter(id=identity).first()
    if record is None:
        raise Http404(str(identity))
    return record


def orientations_of(set_up: Record) -> list[Record]:
    """Orientations that name a set-up in their document; those of its instrument are looked at."""
    rows = records().filter(instrument=set_up.instrument, category=Record.Category.ORIENTATION)
    return list(rows.filter(document__contains=f'"of_set_up":"{set_up.id}"').order_by("-sequence"))


def page(
    tag: str | None, category: str | None, kind: str | None, *, by: str | None, cursor: str | None, limit: int
) -> tuple[list[Record], str | None]:
    """Records, newest arrival first, and the mark of the next page: where this one ended, whatever arrives meanwhile."""
    size = paging.page_size(limit)
    rows = records().defer("document", "result").order_by("-arrival")
    wanted = {"instrument__tag": tag, "category": category, "kind": kind}
    rows = rows.filter(**{name: value for name, value in wanted.items() if value})
    key = paging.decode(cursor, (int,))
    if key:
        rows = rows.filter(arrival__lt=key[0])
    if by:
        # Each by an index of its own, then together: an "or" of the two would look through everything.
        mine = {
            row.pk: row
            for field in ("entered_by", "observed_by")
            for row in rows.filter(**{f"{field}__username": by})[: size + 1]
        }
        found = sorted(mine.values(), key=lambda entry: -entry.arrival)[: size + 1]
    else:
        found = list(rows[: size + 1])
    return found[:size], paging.encode([found[size - 1].arrival]) if len(found) > size else None


def row(record: Record) -> Data:
    """A record as a line in a list."""
    return {
        "id": str(record.id),
        "instrument": record.instrument.tag,
        "category": record.category,
        "kind": record.kind,
        "stage": record.stage,
        "pair": str(record.pair_id) if record.pair_id else None,
        "as_left": next((str(item.id) for item in record.as_left.all()), None),
        "amends": str(record.amends_id) if record.amends_id else None,
        "amended_by": next((str(amendment.id) for amendment in record.amendments.all()), None),
        "amended_why": next((amendment.why for amendment in record.amendments.all()), ""),
        "why": record.why,
        "observed_at": record.observed_at,
        "received_at": record.received_at.isoformat(),
        "observed_by": record.observed_by.name,
        "entered_by": record.entered_by.name,
        "entry": record.entry,
        "sequence": record.sequence,
        **listed_summary(record),
    }


def taken_out_with(record: Record) -> Data | None:
    """The document of the taking out that an instrument was out by when a check was made; None where it was in the yard."""
    custody = Record.objects.filter(instrument=record.instrument, kind__in=("out", "in"), amendments__isnull=True)
    before = custody.filter(observed_at_utc__lte=record.observed_at_utc)
    last = before.order_by("-observed_at_utc", "-sequence").first()
    return None if last is None or last.kind == "in" else json.loads(last.document)


def taken_out_for(record: Record) -> str:
    """With whom and for what an instrument was out when a check was made, and which planned jobs of that crew ran that
    day; empty where it was in the yard."""
    document = taken_out_with(record)
    if document is None:
        return ""
    crew, note = document.get("crew") or "", document.get("note") or ""
    jobs = job_names(crew, happened_at(record).astimezone(clock.zone()).date())
    named = ", ".join(name for name in jobs if name.lower() not in note.lower())
    parts = (f"{crew} crew" if crew else "", note, f"job {named}" if named else "")
    return ": ".join(text for text in parts if text)


def whole(record: Record) -> Data:
    """A record with everything in it, and whether its seal holds."""
    device = json.loads(record.device) if record.device else None
    return {
        **row(record),
        "document": json.loads(record.document),
        "result": json.loads(record.result) or None,
        "taken_out_for": taken_out_for(record) if record.result != "{}" else "",
        "core_version": record.core_version,
        "arrival": record.arrival,
        "sent_digest": record.sent_digest,
        "device": device,
        "device_notes": device_notes(device) if device else [],
        "previous": record.previous,
        "digest": record.digest,
        "broken": chain.broken(record),
    }


DEVICE_PAGE = 200


def device_fleet(since: int = 0) -> tuple[list[Data], int | None]:
    """What a device needs of every instrument that changed after a mark to calculate a check of it without signal, and the
    mark to go on from; None when there is no more."""
    every = Instrument.objects.all()
    rows = (every.filter(changed__gt=since) if since else every).order_by("changed", "pk")
    wanted = rows.values_list(
        "tag", "model__kind", "model__stated", "model__limits", "model__work_limits", "derived", "changed"
    )
    found = list(wanted[: DEVICE_PAGE + 1])
    if len(found) > DEVICE_PAGE:
        last = found[DEVICE_PAGE - 1][-1]
        # All of one mark come together: they were changed at once.
        found = (
            [*found[:DEVICE_PAGE], *wanted.filter(changed=last, pk__isnull=False)]
            if found[DEVICE_PAGE][-1] == last
            else found[:DEVICE_PAGE]
        )
        found = list({entry[0]: entry for entry in found}.values())
        following: int | None = last
    else:
        following = None
    wanted_tags = {entry[0] for entry in found}
    due = {row.one.tag: due_checks(row.status.due) for row in yard(clock.today()) if row.one.tag in wanted_tags}
    fleet = [
        {
            "tag": tag,
            "kind": kind,
            "stated": {"kind": kind, **stated},
            "limits": limits,
            "work_limits": work_limits,
            "history": derived.get("history", []),
            "due": [entry.model_dump() for entry in due.get(tag, [])],
        }
        for tag, kind, stated, limits, work_limits, derived, _ in found
    ]
    return fleet, following


def newest_cursor() -> int:
    """Where the one counter stands."""
    return ChangeCounter.objects.values_list("value", flat=True).first() or 0


SHOWN_EVENTS = (*BEARING_EVENTS, ADJUSTED, RELEASE)
"""Events a plot shows between the findings."""
CONTROL = "control"
"""The series of how control points disagreed."""
MAX_POINTS = 400
"""As many as a plot can show separately; older ones are in the list."""


def series(instrument: Instrument, of: str) -> Data:
    """The standing checks' main figure, or how far control points disagreed, with uncertainty, limits, and the events
    between them."""
    return _series(instrument, of, _shown_events(instrument))


def histories(instrument: Instrument) -> list[Data]:
    """The series of every kind of check that the instrument has, and of its control points."""
    events = _shown_events(instrument)
    kinds = [kind.name for kind in kinds_for(stated_of(instrument))]
    return [{"of": of, "series": _series(instrument, of, events)} for of in (*kinds, CONTROL)]


def _shown_events(instrument: Instrument) -> list[Data]:
    return [
        {"id": str(standing_event.id), **event_fact(standing_event), "cuts": standing_event.kind in CUTTING_EVENTS}
        for standing_event in standing_events(instrument, SHOWN_EVENTS, MAX_POINTS)
    ]


def _series(instrument: Instrument, of: str, events: list[Data]) -> Data:
    control = of == CONTROL
    rows = Record.objects.filter(instrument=instrument, amendments__isnull=True).defer("document", "result")
    rows = rows.filter(category=Record.Category.ORIENTATION) if control else rows.filter(kind=of)
    latest = list(rows.order_by("-observed_at_utc", "-sequence")[:MAX_POINTS])[::-1]
    found = [_series_point(entry) for entry in latest]
    unit = "mm" if control else KINDS[of].unit
    return {
        "title": "Agreement with control points" if control else KINDS[of].title,
        "unit": UNITS[unit],
        "unit_label": UNITS_SHOWN[unit],
        "points": [entry for entry in found if entry is not None],
        "events": events,
        "trend": None if control else trend(instrument, of, latest, events),
    }


def _series_point(record: Record) -> Data | None:
    summary = read_summary(record)
    if summary.point is None:
        return None
    pair = str(record.pair_id) if record.pair_id else None
    facts = {"stage": record.stage, "pair": pair, "temperature_c": summary.temperature_c}
    return {"id": str(record.id), "at": happened_text(record), **facts, **summary.point.plain()}


def stand_ins(instrument: Instrument, rows: list[Any]) -> list[Data]:
    """Other instruments of a like kind that may be used today, and where they are."""
    alike = (
        {"level", "digital-level"} if instrument.model.kind in ("level", "digital-level") else {instrument.model.kind}
    )
    return [
        {
            "tag": row.one.tag,
            "model": row.one.model,
            "where": row.one.whereabouts,
            "state": row.standing.state,
            "reason": row.standing.reasons[0].text,
        }
        for row in reversed(rows)
        if row.one.pk != instrument.pk and row.one.kind in alike and row.standing.state in ("ready", "ready-if")
    ]
