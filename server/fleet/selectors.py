"""Reading the fleet: standings, search, what the core is given of an instrument."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from django.http import Http404

from fleet.models import ChangeCounter, Instrument
from fleet.tags import normalise_tag
from naveta_core.documents.envelope import Instrument as Stated
from naveta_core.errors import Refused
from naveta_core.history.standing import ORDER, CheckRecord, EventRecord, Standing, standing
from shared import clock, paging


@dataclass(frozen=True, slots=True)
class Listed:
    """An instrument as light as a list of thousands wants it."""

    pk: int
    tag: str
    kind: str
    maker: str
    name: str
    place: str
    crew: str | None
    serial: str
    stamp: str

    @property
    def model(self) -> str:
        return f"{self.maker} {self.name}"

    @property
    def whereabouts(self) -> str:
        return f"{self.crew} crew" if self.crew else self.place or "Yard"


AHEAD = timedelta(hours=26)
"""How far a clock may run ahead: a zone set wrongly is forgiven, another date is not."""
STANDS_BY = ("pk", "model__kind", "model__stated", "derived")
LISTED = ("pk", "tag", "model__kind", "model__maker", "model__name", "place", "crew__name", "serial", "derived_stamp")


@dataclass(frozen=True, slots=True)
class Row:
    """An instrument with where it stands."""

    one: Listed
    standing: Standing

    @property
    def key(self) -> tuple[int, str]:
        return (-ORDER.index(self.standing.state), self.one.tag)


def find(tag: str) -> Instrument:
    """The instrument of a tag, however it was typed. Raises Http404."""
    known_as = tag_of(tag)
    try:
        return Instrument.objects.select_related("model", "crew").get(tag=known_as)
    except Instrument.DoesNotExist:
        raise Http404(known_as) from None


def tag_of(typed: str) -> str:
    """A tag as the fleet has it, however it was typed. Raises Http404."""
    try:
        return normalise_tag(typed)
    except Refused as error:
        raise Http404(str(error)) from None


def check_record_of(fact: dict[str, Any]) -> CheckRecord:
    """A stored fact as the core's record."""
    return CheckRecord(
        check=fact["check"],
        at=datetime.fromisoformat(fact["at"]),
        grade=fact["grade"],
        stage=fact["stage"],
        codes=tuple(fact["codes"]),
        proved_within_watch=fact["proved_within_watch"],
        finding=fact["finding"],
    )


def event_record_of(fact: dict[str, Any]) -> EventRecord:
    """A stored fact as the core's event."""
    return EventRecord(fact["event"], datetime.fromisoformat(fact["at"]), fact["note"], fact.get("check", ""))


def standing_of(instrument: Instrument, today: date) -> Standing:
    """Where an instrument stands today."""
    return _stand(stated_of(instrument), instrument.derived, today)


def standing_at(instrument: Instrument, at: datetime) -> Standing:
    """Where an instrument stood at a moment, by what is on record of it until then."""
    stated, derived = stated_of(instrument), instrument.derived
    done = [check for check in map(check_record_of, derived.get("done", [])) if check.at <= at]
    events = [event for event in map(event_record_of, derived.get("events", [])) if event.at <= at]
    return standing(stated, done, events, at.astimezone(clock.zone()).date())


def _stand(stated: Stated, derived: dict[str, Any], today: date) -> Standing:
    # What a clock that ran ahead has dated to come: a pass counts for nothing yet, an event has happened.
    now = clock.now()
    done = [check for check in map(check_record_of, derived.get("done", [])) if check.at <= now + AHEAD]
    events = list(map(event_record_of, derived.get("events", [])))
    events = [event if event.at <= now + AHEAD else replace(event, at=now) for event in events]
    return standing(stated, done, events, today)


_stood: dict[int, tuple[str, str, date, Standing]] = {}
"""Standings worked out already, by instrument: good while kind, stamp and day are the same."""


_sorted: dict[date, tuple[str, list[Row]]] = {}
"""The last day's list with the stamp of the counter it was made at: every change of the fleet takes another one."""


def yard(today: date, query: str = "") -> list[Row]:
    """Every instrument that answers the search, what needs attention first."""
    wanted = query.strip().lower()
    # The stamp is read before the rows: a change in between makes the list newer than it says, never older.
    stamp = ChangeCounter.objects.values_list("stamp", flat=True).first() or ""
    found, rows = _sorted.get(today, ("", []))
    if not stamp or found != stamp:
        rows = _sort(today)
        _sorted.clear()
        _sorted[today] = (stamp, rows)
    return [row for row in rows if matches(row.one, wanted)] if wanted else rows


def _sort(today: date) -> list[Row]:
    listed = [Listed(*row) for row in Instrument.objects.values_list(*LISTED)]
    _recompute_standings(
        [entry for entry in listed if _stood.get(entry.pk, ())[:3] != (entry.kind, entry.stamp, today)], today
    )
    return sorted((Row(entry, _stood[entry.pk][3]) for entry in listed), key=lambda row: row.key)


def _recompute_standings(changed: list[Listed], today: date) -> None:
    rows = Instrument.objects.filter(pk__in=[entry.pk for entry in changed])
    known = {pk: (Stated(kind=kind, **stated), derived) for pk, kind, stated, derived in rows.values_list(*STANDS_BY)}
    for entry in changed:
        _stood[entry.pk] = (entry.kind, entry.stamp, today, _stand(*known[entry.pk], today))


def matches(listed: Listed, wanted: str) -> bool:
    """Whether every word of the search stands somewhere in tag, model, place or crew; `lv7` finds LV-07."""
    try:
        return normalise_tag(wanted) == listed.tag
    except Refused:
        pass
    text = f"{listed.tag} {listed.model} {listed.kind} {listed.place} {listed.crew or ''} {listed.serial}".lower()
    return all(word in text for word in wanted.split())


def latest_of(rows: list[Row]) -> dict[int, Any]:
    """The latest check of each instrument of a page, by key."""
    pks = [row.one.pk for row in rows]
    return {
        pk: derived.get("latest") for pk, derived in Instrument.objects.filter(pk__in=pks).values_list("pk", "derived")
    }


def page_of(rows: list[Row], cursor: str | None, limit: int) -> tuple[list[Row], str | None]:
    """One page of the yard and the mark of the next."""
    size = paging.page_size(limit)
    key = paging.decode(cursor, (int, str))
    rest = rows if key is None else [row for row in rows if row.key > tuple(key)]
    page = rest[:size]
    return page, paging.encode(list(page[-1].key)) if len(rest) > size else None


def stated_data(instrument: Instrument) -> dict[str, Any]:
    """A document's `instrument`, from what is known of it, as plain data."""
    return {"kind": instrument.model.kind, **instrument.model.stated}


def stated_of(instrument: Instrument) -> Stated:
    """The same as the core takes it."""
    return Stated.model_validate(stated_data(instrument))
