"""Reading the fleet: standings, search, what the core is given of an instrument."""

from __future__ import annotations

from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Any

from django.http import Http404

from fleet.models import ChangeCounter, Instrument
from fleet.tags import normalise_tag
from naveta_core.documents.envelope import DueCheck
from naveta_core.documents.envelope import Instrument as Stated
from naveta_core.errors import Refused
from naveta_core.history.due_list import DueEntry, due_entries, service_due
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.rules import RuleBook
from naveta_core.history.standing import ORDER, Standing, checks_due, standing
from naveta_core.history.standing import standing_of as standing_from
from people.firm import organisation
from plan.jobs import PlannedJobs
from plan.rules import plan_stamp, rule_book
from shared import clock, paging


@dataclass(frozen=True, slots=True)
class Listed:
    """An instrument as light as a list of thousands needs it."""

    pk: int
    tag: str
    kind: str
    maker: str
    name: str
    place: str
    crew: str | None
    serial: str
    since: date
    stamp: str

    @property
    def model(self) -> str:
        return f"{self.maker} {self.name}"

    def as_dict(self) -> dict[str, Any]:
        """What every list shows of it."""
        return {"tag": self.tag, "kind": self.kind, "model": self.model, "place": self.place, "crew": self.crew}

    @property
    def whereabouts(self) -> str:
        return f"{self.crew} crew" if self.crew else self.place or "Yard"


AHEAD = timedelta(hours=26)
"""How far a clock may run ahead: a zone set wrongly is forgiven, another date is not."""
STANDS_BY = ("pk", "model__kind", "model__stated", "derived")
LISTED = (
    "pk",
    "tag",
    "model__kind",
    "model__maker",
    "model__name",
    "place",
    "crew__name",
    "serial",
    "since",
    "derived_stamp",
)


@dataclass(frozen=True, slots=True)
class Row:
    """An instrument with where it stands."""

    one: Listed
    status: Status
    latest: dict[str, Any] | None
    """The latest judged check, enough for a limit bar."""

    @property
    def standing(self) -> Standing:
        return self.status.standing

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
        temperature_c=fact.get("temperature_c"),
    )


def event_record_of(fact: dict[str, Any]) -> EventRecord:
    """A stored fact as the core's event."""
    return EventRecord(
        fact["event"],
        datetime.fromisoformat(fact["at"]),
        fact["note"],
        check=fact.get("check", ""),
        crew=fact.get("crew", ""),
        temperature_c=fact.get("temperature_c"),
        until=date.fromisoformat(fact["until"]) if fact.get("until") else None,
    )


@dataclass(frozen=True, slots=True)
class DaySettings:
    """What every standing of a day depends on beside an instrument's own history: rules, jobs, the smallest grade."""

    today: date
    least_grade: str
    book: RuleBook
    jobs: PlannedJobs

    @classmethod
    def of(cls, today: date, book: RuleBook | None = None) -> DaySettings:
        """As the firm has set it; `book`: as if other rules held."""
        return cls(today, organisation().least_grade, book or rule_book(), PlannedJobs(today))


@dataclass(frozen=True, slots=True)
class Status:
    """Where an instrument stands, and what is due for it when; both follow from the same."""

    standing: Standing
    due: list[DueEntry]


def standing_of(instrument: Instrument, today: date) -> Standing:
    """Where an instrument stands today."""
    return status_of(instrument, today).standing


def status_of(instrument: Instrument, today: date) -> Status:
    """Where an instrument stands today, with everything that is due for it."""
    return _status(stated_of(instrument), instrument.derived, _about(instrument), DaySettings.of(today))


def due_checks(due: list[DueEntry]) -> list[DueCheck]:
    """What is due, as a document takes it: what never comes due is left out."""
    return [
        DueCheck(
            check=e.check, due_on=e.due_on, needed=e.has_come, text=" ".join(reason.text for reason in e.reasons)[:2000]
        )
        for e in due
        if e.due_on
    ]


def standing_at(instrument: Instrument, at: datetime) -> Standing:
    """Where an instrument stood at a moment, by what is on record of it until then."""
    stated, derived = stated_of(instrument), instrument.derived
    done = [check for check in map(check_record_of, derived.get("done", [])) if check.at <= at]
    events = [event for event in map(event_record_of, derived.get("events", [])) if event.at <= at]
    settings = DaySettings.of(at.astimezone(clock.zone()).date())
    book, model = settings.book, str(instrument.model)
    return standing(
        stated, done, events, today=settings.today, least_grade=settings.least_grade, book=book, model=model
    )


About = tuple[str, str | None, date]
"""The model of an instrument, whose it is, and its first day here."""


def _status(stated: Stated, derived: dict[str, Any], about: About, settings: DaySettings) -> Status:
    model, crew, since = about
    # What a clock that ran ahead has dated to come: a pass counts for nothing yet, an event has happened.
    now, today = clock.now(), settings.today
    done = [check for check in map(check_record_of, derived.get("done", [])) if check.at <= now + AHEAD]
    events = list(map(event_record_of, derived.get("events", [])))
    events = [event if event.at <= now + AHEAD else replace(event, at=now) for event in events]
    found = checks_due(
        stated, done, events, today=today, book=settings.book, model=model, planned=settings.jobs.of(crew)
    )
    stood = standing_from(found, events, today, settings.least_grade)
    due = due_entries(found, stood, today)
    service = service_due(stated, done, events, today=today, book=settings.book, model=model, since=since)
    return Status(stood, [*due, *([service] if service else [])])


_statuses: dict[int, tuple[tuple[Any, ...], Status, dict[str, Any] | None]] = {}
"""Standings worked out already, with the latest check, by instrument: good while kind, model, crew, stamp, day, rules,
jobs and the smallest grade that goes out are the same."""


_sorted: dict[date, tuple[str, list[Row]]] = {}
"""The last day's list with the stamp of the counter it was made at: every change of the fleet takes another one."""


def yard(today: date, query: str = "") -> list[Row]:
    """Every instrument that answers the search, what needs attention first."""
    wanted = query.strip().lower()
    # The stamp is read before the rows: a change in between makes the list newer than it says, never older.
    stamp, settings = state_stamp()
    found, rows = _sorted.get(today, ("", []))
    if not stamp or found != stamp:
        rows = _sort(today, settings)
        _sorted.clear()
        _sorted[today] = (stamp, rows)
    return [row for row in rows if matches(row.one, wanted)] if wanted else rows


def state_stamp() -> tuple[str, str]:
    """What every list of the fleet depends on, as one text (empty: nothing is to be kept), and the part of it that is the
    firm's: the smallest grade that goes out, rules and jobs."""
    settings = f"{organisation().least_grade} {plan_stamp()}"
    stamp = ChangeCounter.objects.values_list("stamp", flat=True).first()
    return (f"{stamp} {settings}" if stamp else ""), settings


def _sort(today: date, settings: str) -> list[Row]:
    listed = [Listed(*row) for row in Instrument.objects.values_list(*LISTED)]
    keys = {entry.pk: (entry.kind, entry.model, entry.crew, entry.stamp, today, settings) for entry in listed}
    changed = [entry for entry in listed if entry.pk not in _statuses or _statuses[entry.pk][0] != keys[entry.pk]]
    if changed:
        _recompute_standings(changed, keys, DaySettings.of(today))
    return sorted((Row(entry, *_statuses[entry.pk][1:]) for entry in listed), key=lambda row: row.key)


def _recompute_standings(changed: list[Listed], keys: dict[int, tuple[Any, ...]], settings: DaySettings) -> None:
    rows = Instrument.objects.filter(pk__in=[entry.pk for entry in changed])
    known = {pk: (Stated(kind=kind, **stated), derived) for pk, kind, stated, derived in rows.values_list(*STANDS_BY)}
    for entry in changed:
        stated, derived = known[entry.pk]
        status = _status(stated, derived, (entry.model, entry.crew, entry.since), settings)
        _statuses[entry.pk] = (keys[entry.pk], status, derived.get("latest"))


def statuses_under(book: RuleBook, today: date) -> dict[str, Status]:
    """Where every instrument would stand under other rules, by tag."""
    settings = DaySettings.of(today, book)
    listed = {row[0]: Listed(*row) for row in Instrument.objects.values_list(*LISTED)}
    rows = Instrument.objects.values_list(*STANDS_BY)
    return {
        listed[pk].tag: _status(
            Stated(kind=kind, **stated), derived, (listed[pk].model, listed[pk].crew, listed[pk].since), settings
        )
        for pk, kind, stated, derived in rows
    }


def statuses_at(instruments: list[Instrument], settings: DaySettings) -> dict[int, Status]:
    """Where instruments stand on a day that may be to come, by what is on record today."""
    return {one.pk: _status(stated_of(one), one.derived, _about(one), settings) for one in instruments}


def _about(instrument: Instrument) -> About:
    return str(instrument.model), instrument.crew.name if instrument.crew else None, instrument.since


def matches(listed: Listed, wanted: str) -> bool:
    """Whether every word of the search stands somewhere in tag, model, place or crew; `lv7` finds LV-07."""
    try:
        return normalise_tag(wanted) == listed.tag
    except Refused:
        pass
    text = f"{listed.tag} {listed.model} {listed.kind} {listed.place} {listed.crew or ''} {listed.serial}".lower()
    return all(word in text for word in wanted.split())


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
