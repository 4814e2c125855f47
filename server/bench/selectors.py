"""Reading records: lists, one record, the series of an instrument, the look back after a bad finding."""

from __future__ import annotations

import json
import uuid
from typing import Any

from django.db.models import Q, QuerySet
from django.http import Http404

from bench import chain
from bench.facts import (
    done_record,
    event_fact,
    happened_at,
    happened_fact,
    standing_checks,
    standing_controls,
    standing_events,
)
from bench.models import Record
from fleet.models import Instrument
from naveta_core.checks import KINDS
from naveta_core.checks.sheet.figures import UNITS, UNITS_SAID
from naveta_core.fingerprint import device_says
from naveta_core.lookback import look_back
from naveta_core.registry import DOCUMENTS
from people.services import house
from shared import paging

Data = dict[str, Any]
WORK_EVENTS = ("out", "in", "knock", "drop", "held", "released")


def records() -> QuerySet[Record]:
    return Record.objects.select_related("instrument__model", "observed_by", "entered_by").prefetch_related(
        "amendments", "as_left"
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
    tag: str | None, category: str | None, by: str | None, cursor: str | None, limit: int
) -> tuple[list[Record], str | None]:
    """Records, newest arrival first, and the mark of the next page."""
    size = paging.page_size(limit)
    rows = records().order_by("-received_at", "-sequence", "-id")
    if tag:
        rows = rows.filter(instrument__tag=tag).order_by("-sequence")
    if category:
        rows = rows.filter(category=category)
    if by:
        rows = rows.filter(Q(entered_by__username=by) | Q(observed_by__username=by))
    key = paging.decode(cursor, (int,))
    start = key[0] if key else 0
    found = list(rows[start : start + size + 1])
    return found[:size], paging.encode([start + size]) if len(found) > size else None


def row(record: Record) -> Data:
    """A record as a line in a list."""
    return {
        "id": str(record.id),
        "instrument": record.instrument.tag,
        "category": record.category,
        "kind": record.kind,
        "stage": record.stage,
        "pair": str(record.pair_id) if record.pair_id else None,
        "as_left": next((str(one.id) for one in record.as_left.all()), None),
        "amends": str(record.amends_id) if record.amends_id else None,
        "amended_by": next((str(one.id) for one in record.amendments.all()), None),
        "amended_why": next((one.why for one in record.amendments.all()), ""),
        "why": record.why,
        "observed_at": record.observed_at,
        "received_at": record.received_at.isoformat(),
        "observed_by": record.observed_by.name,
        "entered_by": record.entered_by.name,
        "entry": record.entry,
        "sequence": record.sequence,
        **_said(record),
    }


def _said(record: Record) -> Data:
    if record.kind not in DOCUMENTS:
        return {"grade": None, "finding": None, "part": None, "note": json.loads(record.document).get("note", "")}
    result = json.loads(record.result)
    return {
        "grade": result["verdict"]["grade"],
        "finding": result["finding"]["text"],
        "part": next(iter(result["verdict"]["parts"]), None),
        "note": "",
    }


def whole(record: Record) -> Data:
    """A record with everything in it, and whether its seal holds."""
    device = json.loads(record.device) if record.device else None
    return {
        **row(record),
        "document": json.loads(record.document),
        "result": json.loads(record.result) or None,
        "core_version": record.core_version,
        "device": device,
        "device_says": device_says(device) if device else [],
        "previous": record.previous,
        "digest": record.digest,
        "broken": chain.broken(record),
    }


def device_fleet() -> list[Data]:
    """What a device needs of every instrument to reckon a check of it without signal."""
    rows = Instrument.objects.values_list("tag", "model__kind", "model__stated", "model__limits", "facts")
    raw = {"judged_raw": True} if house().judge_raw else {}
    return [
        {
            "tag": tag,
            "kind": kind,
            "stated": {"kind": kind, **stated, **raw},
            "limits": limits,
            "made": facts.get("made", []),
        }
        for tag, kind, stated, limits, facts in rows.order_by("tag")
    ]


def series(instrument: Instrument, of: str) -> Data:
    """The standing checks' main figure, or how far known points disagreed, with uncertainty, limits, and the events
    between them."""
    control = of == "control"
    events = [
        {"id": str(one.id), **event_fact(one)}
        for one in standing_events(instrument)
        if one.kind in ("knock", "drop", "adjusted", "held", "released")
    ]
    rows = standing_controls(instrument) if control else [x for x in standing_checks(instrument) if x.kind == of]
    told = [_series_point(one, control) for one in rows]
    unit = "mm" if control else KINDS[of].unit
    return {
        "title": "Agreement with known points" if control else KINDS[of].title,
        "unit": UNITS[unit],
        "unit_said": UNITS_SAID[unit],
        "points": [one for one in told if one is not None],
        "events": events,
    }


def _series_point(record: Record, control: bool) -> Data | None:
    result = json.loads(record.result)
    main = None if control else KINDS[record.kind].main_quantity
    part = next((one for one in result["verdict"]["parts"] if main in (None, one["quantity"])), None)
    if part is None:
        return None
    figures = result["result"]
    value, u95 = (
        (figures["disagreement_mm"], figures["u95_disagreement_mm"]) if control else (part["value"], part["u95"])
    )
    return {
        "id": str(record.id),
        "at": happened_at(record),
        "stage": record.stage,
        "pair": str(record.pair_id) if record.pair_id else None,
        "grade": part["grade"],
        "value": value,
        "u95": u95,
        "use": part["limits"]["use"],
        "watch": part["limits"]["watch"],
    }


def looked_back(record: Record) -> Data:
    """What was done with the instrument between its last good check and this one, and whether somebody looked."""
    instrument = record.instrument
    done = [done_record(one) for one in standing_checks(instrument)]
    events = standing_events(instrument)
    found = look_back(done_record(record), done, [happened_fact(e) for e in events if e.kind in WORK_EVENTS])
    signed = next(
        (e for e in events if e.kind == "looked-back" and json.loads(e.document).get("record") == str(record.id)), None
    )
    between = [e for e in events if e.kind in WORK_EVENTS and e.observed_at_utc <= record.observed_at_utc]
    if found.since is not None:
        between = [e for e in between if e.observed_at_utc > found.since]
    return {
        "text": found.sentence(),
        "last_good": found.last_good.at.isoformat() if found.last_good else None,
        "taken_out": found.taken_out,
        "advice": found.advice(),
        "cost": json.loads(record.result)["work"],
        "events": [_event_row(one) for one in between],
        "signed": None
        if signed is None
        else {"by": signed.entered_by.name, "at": signed.observed_at, "note": json.loads(signed.document)["note"]},
    }


def _event_row(record: Record) -> Data:
    document = json.loads(record.document)
    return {
        "event": record.kind,
        "at": happened_at(record),
        "by": record.entered_by.name,
        "note": document.get("note", ""),
        "crew": document.get("crew"),
        "place": document.get("place"),
    }


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
            "reason": row.standing.reasons[0]["text"],
        }
        for row in reversed(rows)
        if row.one.pk != instrument.pk and row.one.kind in alike and row.standing.state in ("ready", "ready-if")
    ]
