"""`naveta due`: what is due for an instrument, with the reason of each, and where it stands; also when it goes to service.

The document it reads is plain data: today, the instrument, its records and events, the rules (null: the default ones)
and what is planned.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Annotated, Any, Literal

from pydantic import AfterValidator, Field, ValidationError

from .. import __version__
from ..checks import KINDS
from ..documents.envelope import Finite, Instrument, Moment, OneOf, Part
from ..documents.model_faults import faults_of
from ..errors import Fault, Refused, path_in_words, quote
from ..results import Answer, Reason
from ..stats.decision import Grade
from ..units.formatting import count
from .due import MAX_SKIPPED_DAYS, SOON_DAYS, CheckDue, DueState, Planned, due_reasons
from .events import EVENT_KINDS
from .facts import ADJUSTED, CheckRecord, EventRecord, clears, day_words, order, reason
from .rules import SERVICE, SERVICED, DueRule, RuleBook
from .standing import Standing, checks_due, standing_of

ASK_SERVICE_AFTER = 2
"""So often beyond its limit after adjusting, one after the other, and a service is asked for."""


def _day(text: str) -> str:
    try:
        date.fromisoformat(text)
    except ValueError:
        raise ValueError("a day, such as 2027-03-02") from None
    return text


Day = Annotated[str, Field(max_length=10), AfterValidator(_day)]
CheckName = Annotated[str, OneOf(lambda: KINDS)]
Note = Annotated[str, Field(max_length=2000)]


class RecordIn(Part):
    """A check on record."""

    check: CheckName
    at: Moment
    grade: Grade
    stage: Literal["as-found", "as-left"] = "as-found"
    codes: list[Annotated[str, Field(max_length=60)]] = []
    proved_within_watch: bool = False
    finding: Note = ""
    temperature_c: Finite | None = None


class EventIn(Part):
    """Something that happened; `check` of an adjustment or a skipped check, `until` of a skipped one."""

    event: Annotated[str, OneOf(lambda: (kind.name for kind in EVENT_KINDS))]
    at: Moment
    note: Note = ""
    check: CheckName | Literal[""] = ""
    crew: Annotated[str, Field(max_length=60)] = ""
    temperature_c: Finite | None = None
    until: Day | None = None


class PlannedIn(Part):
    """A job that is planned."""

    job_start: Day
    job_end: Day | None = None
    large: bool = False
    name: Annotated[str, Field(max_length=120)] = ""
    temperature_c: Finite | None = None


class DueQuestion(Part):
    """What `naveta due` reads."""

    today: Day
    instrument: Instrument
    records: list[RecordIn] = Field(default=[], max_length=20_000)
    events: list[EventIn] = Field(default=[], max_length=20_000)
    rules: list[DueRule] | None = None
    planned: list[PlannedIn] = Field(default=[], max_length=1_000)
    model: Annotated[str, Field(max_length=120)] = ""
    climate: Literal["", "hot", "cold", "dusty"] = ""
    least_grade: Literal["use", "watch"] = "watch"
    since: Day | None = None
    """Its first day here."""


class DueEntry(Answer):
    """One check, or the service: the day it is due, and why."""

    check: str
    title: str
    due_on: str | None
    state: DueState
    reasons: list[Reason]
    minutes: int = 0
    needed: bool = False
    """Whether the instrument waits for it before it goes out today."""
    has_come: bool = False
    """Whether it is due today, also where the instrument may go out without it."""
    can_wait: bool = False
    """Whether it may be skipped until a day."""


class DueAnswer(Answer):
    """Everything that is or comes due for an instrument."""

    hold: bool
    standing: Standing
    due: list[DueEntry]
    service: DueEntry | None
    core_version: str


def _planned(given: PlannedIn) -> Planned:
    start, end = date.fromisoformat(given.job_start), date.fromisoformat(given.job_end) if given.job_end else None
    return Planned(start, given.large, given.name, given.temperature_c, end)


def due(question: Any) -> DueAnswer:
    """Answer a plain document. Raises Refused naming each field that is off."""
    try:
        query = DueQuestion.model_validate(question)
    except ValidationError as error:
        raise Refused(faults_of(error, path_in_words)) from None
    _refuse_unnamed(query)
    records = [_record(entry) for entry in query.records]
    events = [_happened(entry) for entry in query.events]
    planned = [_planned(entry) for entry in query.planned]
    book = RuleBook(query.rules, query.climate)
    today = date.fromisoformat(query.today)
    since = date.fromisoformat(query.since) if query.since else None
    found = checks_due(query.instrument, records, events, today=today, book=book, model=query.model, planned=planned)
    stood = standing_of(found, events, today, query.least_grade)
    return DueAnswer(
        hold=stood.state == "hold",
        standing=stood,
        due=due_entries(found, stood, today),
        service=service_due(query.instrument, records, events, today=today, book=book, model=query.model, since=since),
        core_version=__version__,
    )


def _refuse_unnamed(query: DueQuestion) -> None:
    """An adjustment that does not say of what, a skipped check without its day."""
    faults = []
    for i, event in enumerate(query.events):
        if event.event in (ADJUSTED, "skipped") and not event.check:
            faults.append(Fault(f"events[{i}].check", "the check it is about", quote(event.check), "a kind of check"))
        if event.event == "skipped" and event.until is None:
            faults.append(Fault(f"events[{i}].until", "until when it is skipped", "nothing", "a day"))
        elif event.event == "skipped" and event.until is not None:
            last = datetime.fromisoformat(event.at).date() + timedelta(days=MAX_SKIPPED_DAYS)
            if date.fromisoformat(event.until) > last:
                wanted = f"a day until {day_words(last)}: a check is skipped for {MAX_SKIPPED_DAYS} days at most"
                faults.append(Fault(f"events[{i}].until", "until when it is skipped", quote(event.until), wanted))
    for i, job in enumerate(query.planned):
        if job.job_end is not None and date.fromisoformat(job.job_end) < date.fromisoformat(job.job_start):
            wanted = f"a day from {day_words(date.fromisoformat(job.job_start))} on"
            faults.append(Fault(f"planned[{i}].job_end", "the last day of the job", quote(job.job_end), wanted))
    if faults:
        raise Refused(faults)


def _record(entry: RecordIn) -> CheckRecord:
    return CheckRecord(
        entry.check,
        datetime.fromisoformat(entry.at),
        entry.grade,
        stage=entry.stage,
        codes=tuple(entry.codes),
        proved_within_watch=entry.proved_within_watch,
        finding=entry.finding,
        temperature_c=entry.temperature_c,
    )


def _happened(entry: EventIn) -> EventRecord:
    until = date.fromisoformat(entry.until) if entry.until else None
    at = datetime.fromisoformat(entry.at)
    return EventRecord(
        entry.event, at, entry.note, check=entry.check, crew=entry.crew, temperature_c=entry.temperature_c, until=until
    )


def due_entries(found: Sequence[CheckDue], stood: Standing, today: date) -> list[DueEntry]:
    """Return every check as a due list shows it; `needed` is taken from the standing."""
    waits = {check.check for check in stood.checks if check.needed}
    return [_due_entry(each, today, needed=each.kind.name in waits) for each in found]


def _due_entry(found: CheckDue, today: date, *, needed: bool) -> DueEntry:
    due_on = found.due_on
    return DueEntry(
        check=found.kind.name,
        title=found.kind.title,
        due_on=due_on.isoformat() if due_on else None,
        state=found.state(today, needed=needed),
        reasons=due_reasons(found, today),
        minutes=found.kind.minutes,
        needed=needed,
        has_come=bool(found.binding(today)),
        can_wait=found.can_wait,
    )


def service_due(
    instrument: Instrument,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    *,
    today: date,
    book: RuleBook,
    model: str = "",
    since: date | None = None,
) -> DueEntry | None:
    """When it goes to service: by the rule's time since the last one, or since its first day here (`since`; where that is
    not known, the first entry on record); at once when it was repeatedly beyond its limit after adjusting. None for what
    is never serviced."""
    if instrument.kind not in SERVICED:
        return None
    need = book.requirement(SERVICE, instrument.kind, model)
    services = [event.at for event in events if event.event == "service-in"]
    entries = [*(record.at.date() for record in records), *(event.at.date() for event in events)]
    first = since or min(entries, default=None)
    began = max(services).date() if services else first
    beyond_again = _beyond_again(records, max(services) if services else None)
    days = need.every_days if need else None
    on = began + timedelta(days=days) if began and days else None
    reasons = [beyond_again] if beyond_again else []
    if on and began and days:
        last = f"last one on {day_words(began)}" if services else f"none on record, here since {day_words(began)}"
        text = f"Service every {count(days, 'day', 'days')}: {last}."
        reasons.append(reason("service-interval", text))
    on = today if beyond_again else on
    return DueEntry(
        check=SERVICE,
        title="Service",
        due_on=on.isoformat() if on else None,
        state=_state(on, today),
        reasons=reasons,
    )


def _state(on: date | None, today: date) -> DueState:
    """Return where a service stands: it holds nothing back, so it is never overdue."""
    if on is None:
        return "fresh"
    if on <= today:
        return "due"
    return "soon" if (on - today).days <= SOON_DAYS else "fresh"


def _beyond_again(records: Sequence[CheckRecord], since: datetime | None) -> Reason | None:
    """Adjusted, and beyond the limit again, and again: of one kind of check, the latest as-lefts since the last service."""
    for name in {record.check for record in records}:
        left = sorted((r for r in records if r.check == name and r.stage == "as-left"), key=order)
        left = [record for record in left if since is None or record.at > since]
        run = 0
        for record in reversed(left):
            if clears(record):
                break
            run += record.grade in ("adjust", "service")
        if run >= ASK_SERVICE_AFTER:
            title = KINDS[name].title
            return reason(
                "beyond-again",
                f"{title}: beyond its limit after adjusting, {count(run, 'time', 'times')} running. Send it to service.",
            )
    return None


def due_words(entry: DueEntry | None) -> str:
    """'Overdue since 24 Feb 2027', 'due on 10 Mar 2027', 'never due'."""
    if entry is None or entry.due_on is None:
        return "never due"
    day = day_words(date.fromisoformat(entry.due_on))
    return {"overdue": f"overdue since {day}", "due": f"due since {day}"}.get(entry.state, f"due on {day}")


def due_summary(now: int, minutes: int, soon: int) -> str:
    """What is due in a sentence: 'Four checks are due: 43 minutes. Nine more come due by then.'

    now: checks that are due or overdue, with their minutes; soon: those that come due in the time looked at.
    """
    if not now and not soon:
        return "Nothing is due"
    if not now:
        return f"Nothing is due now; {count(soon, 'check comes', 'checks come')} due"
    due_now = f"{count(now, 'check is', 'checks are')} due: {count(minutes, 'minute', 'minutes')}"
    return due_now[0].upper() + due_now[1:]
