"""Work that a bad finding may have affected, from records and jobs, and the reviews signed for it."""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from datetime import date, datetime, time
from typing import Any

from django.db.models import Q

from fleet.models import Instrument
from naveta_core.engine.affected import WorkFacts
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.events import BEARING_EVENTS
from naveta_core.history.facts import EventRecord
from naveta_core.history.impact import BACK, GONE, ImpactReview, WorkDone, impact_review
from naveta_core.jobs.work_done import of_job, recorded
from naveta_core.registry import document_of
from naveta_core.units.formatting import length_words
from people.firm import organisation
from plan.jobs import jobs_between, needs_of
from records.derived import check_record, checks_back_to_a_good_one, event_record, standing_events
from records.models import Record
from records.requests import ReviewedLineIn
from records.times import happened_at, happened_text
from shared import clock

Data = dict[str, Any]
REVIEWED = "impact-reviewed"
WORK_EVENTS = (*GONE, *BACK, *BEARING_EVENTS, "released")
MAX_WORK = 300
"""Most set-ups and orientations listed, the latest first; the answer states how many more there are."""


def impact_review_of(record: Record) -> Data:
    """Return the review of a bad check: use and work since the last good one, the effect on each, and signatures."""
    events = standing_events(record.instrument, (*WORK_EVENTS, REVIEWED))
    found, more = _review(record, [event for event in events if event.kind in WORK_EVENTS])
    signed = _signed(record, [event for event in events if event.kind == REVIEWED])
    within = {event.at for event in found.events}
    figures = json.loads(record.result)["result"]
    return {
        "text": found.sentence(),
        "last_good": found.last_good.at.isoformat() if found.last_good else None,
        "since": found.since.isoformat() if found.since else None,
        "in_use": found.in_use,
        "taken_out": found.taken_out,
        "advice": [reason.plain() for reason in found.advice()],
        "effects": json.loads(record.result)["work"],
        "events": [_event_row(e) for e in events if e.kind in WORK_EVENTS and happened_at(e) in within],
        "work": [
            {
                "key": work.key,
                "what": work.what,
                "name": work.name,
                "at": work.at.isoformat(),
                "until": work.until.date().isoformat() if work.until else None,
                "crew": work.crew,
                "effect": effect.text,
                "mm": effect.mm,
                "arcsec": effect.arcsec,
                "reviewed": _line_of(signed, work.key),
            }
            for work, effect in found.lines(figures, length_words(organisation().length_unit))
        ],
        "more_work": more,
        "signed": _signature(signed[-1]) if signed else None,
    }


def reviewed_lines(record: Record, sent: Sequence[ReviewedLineIn]) -> list[Data]:
    """Return the signed lines with their present effects. Raises Refused for work that is not listed."""
    listed = {line["key"]: line for line in impact_review_of(record)["work"]} if sent else {}
    unknown = [line.work for line in sent if line.work not in listed]
    if unknown:
        wanted = "a piece of work on the list of this record"
        raise Refused([Fault("lines", "the work reviewed", quote(unknown[0]), wanted)])
    kept = ("key", "what", "name", "at", "crew", "effect")
    return [{**{name: listed[line.work][name] for name in kept}, "remark": line.remark.strip()} for line in sent]


def _review(record: Record, events: Sequence[Record]) -> tuple[ImpactReview, int]:
    done = [check_record(check) for check in checks_back_to_a_good_one(record)]
    happened = [*_held_from_the_first(record.instrument, events), *(event_record(event) for event in events)]
    first = Record.objects.filter(instrument=record.instrument).order_by("observed_at_utc").first()
    began = happened_at(first) if first else None
    review = impact_review(check_record(record), done, happened, began=began)
    rows, more = _rows(record, review.since)
    return review.with_work([*_work(rows), *_jobs(review)]), more


def _held_from_the_first(instrument: Instrument, events: Sequence[Record]) -> list[EventRecord]:
    """Return an `out` event for the crew that had the instrument before the first custody event; none if it was in the yard."""
    first = next((event for event in events if event.kind in (*GONE, *BACK)), None)
    before = json.loads(first.document).get("from") if first else None
    crew = (before or {}).get("crew") if first else instrument.crew and instrument.crew.name
    if not crew:
        return []
    return [EventRecord("out", datetime.combine(instrument.since, time.min, clock.zone()), crew=crew)]


def _rows(record: Record, since: datetime | None) -> tuple[list[Record], int]:
    """Return set-ups and orientations of the span, made with the instrument or on it, oldest first, and the number left out."""
    tag = record.instrument.tag
    named = Q(document__contains=f'"tripod_tag":{json.dumps(tag)}') | Q(
        document__contains=f'"tribrach_tag":{json.dumps(tag)}'
    )
    rows = Record.objects.filter(amendments__isnull=True, observed_at_utc__lte=record.observed_at_utc)
    if since is not None:
        rows = rows.filter(observed_at_utc__gte=since)
    standing_on = rows.filter(category=Record.Category.SET_UP).filter(named)
    own = Q(instrument=record.instrument, category__in=(Record.Category.SET_UP, Record.Category.ORIENTATION))
    ids = [str(pk) for pk in standing_on.exclude(instrument=record.instrument).values_list("pk", flat=True)[:MAX_WORK]]
    wanted = own | Q(pk__in=ids)
    for identity in ids:
        wanted |= Q(category=Record.Category.ORIENTATION, document__contains=f'"of_set_up":"{identity}"')
    wide = rows.filter(wanted).select_related("observed_by__crew").order_by("-observed_at_utc", "-sequence")
    return list(wide[:MAX_WORK])[::-1], max(0, wide.count() - MAX_WORK)


def _work(rows: Iterable[Record]) -> list[WorkDone]:
    """Return each row as work; an orientation also has what its set-up recorded."""
    set_ups: dict[str, WorkFacts] = {}
    found = []
    for row in rows:
        plain = json.loads(row.document)
        height = json.loads(row.result)["result"].get("height_m")
        name, facts = recorded(
            document_of(plain), height_m=height, set_up=set_ups.get(plain["observations"].get("of_set_up"))
        )
        if row.category == Record.Category.SET_UP:
            set_ups[str(row.pk)] = facts
        crew = row.observed_by.crew.name if row.observed_by.crew else ""
        found.append(WorkDone(str(row.pk), happened_at(row), name, facts=facts, crew=crew))
    return found


def _jobs(span: ImpactReview) -> list[WorkDone]:
    """Return jobs that ran while a crew had the instrument in the span: its own, and those of all crews."""
    found: dict[int, WorkDone] = {}
    for held in span.held:
        if held.event.event != "out":
            continue
        first = max(held.event.at, span.since) if span.since else held.event.at
        last = min(held.until, span.until) if held.until else span.until
        for job in jobs_between(held.event.crew, _day(first), _day(last)):
            starts = max(datetime.combine(job.starts_on, time.min, clock.zone()), first)
            ends = datetime.combine(job.ends_on, time.max, clock.zone())
            facts = of_job(needs_of(job) if job.needs else None)
            crew = held.event.crew
            found.setdefault(job.pk, WorkDone(f"job-{job.pk}", starts, job.name, facts=facts, until=ends, crew=crew))
    return list(found.values())


def _day(at: datetime) -> date:
    return at.astimezone(clock.zone()).date()


def _signed(record: Record, events: Sequence[Record]) -> list[Record]:
    return [event for event in events if json.loads(event.document).get("record") == str(record.id)]


def _signature(event: Record) -> Data:
    return {"by": event.entered_by.name, "at": event.observed_at, "note": json.loads(event.document)["note"]}


def _line_of(signed: Sequence[Record], key: str) -> Data | None:
    """Return the latest signature of a piece of work with its remark; None if nobody signed it."""
    for event in reversed(signed):
        for line in json.loads(event.document).get("lines", []):
            if line["key"] == key:
                return {**_signature(event), "note": line["remark"]}
    return None


def _event_row(record: Record) -> Data:
    document = json.loads(record.document)
    return {
        "event": record.kind,
        "at": happened_text(record),
        "by": record.entered_by.name,
        "note": document.get("note", ""),
        "crew": document.get("crew"),
        "place": document.get("place"),
    }
