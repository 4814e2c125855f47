"""When a check is due and why: the one place that says so, for the yard, the due list and the pre-work check.

Pure: today is given. A check has triggers: what happened since it last passed, how long ago that was, what is planned.
An event makes it due at once; an interval runs out at the end of its last day; before a large job it is due the day
before. The earliest trigger is the day it is due.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from typing import Literal

from ..checks import KINDS
from ..engine.kind import Kind
from ..results import Reason
from ..units.formatting import count
from .events import BEARING_EVENTS, HANDED_OVER
from .facts import ADJUSTED, FALLS, RELEASE, SKIPPED, CheckRecord, EventRecord, day_words, last_pass, order, reason
from .rules import Requirement

DueState = Literal["overdue", "due", "soon", "fresh"]
SOON_DAYS = 7
JOB_WITHIN_DAYS = 7
"""A check before a large job holds for it when made in the week before."""
MAX_SKIPPED_DAYS = 60
"""A check is skipped for so long at most."""
NEVER_SKIPPED = (*FALLS, "held", "knock", "service-in")


@dataclass(frozen=True, slots=True)
class Planned:
    """A job that is planned; `large` asks for the checks that come before a large one."""

    start: date
    large: bool = False
    name: str = ""
    temperature_c: float | None = None
    end: date | None = None
    """Last day of the job; None for a job of one day."""

    def over(self, today: date) -> bool:
        """Return whether the job ended before a day."""
        return (self.end or self.start) < today


@dataclass(frozen=True, slots=True)
class Trigger:
    """One reason why a check is due on a day; `at_once` ones count from that day, others after it."""

    on: date
    code: str
    text: str
    at_once: bool = False
    can_be_skipped: bool = True
    since: datetime | None = None
    """The moment of what happened; None of what a calendar says."""


@dataclass(frozen=True, slots=True)
class CheckDue:
    """Where one check stands in time: the record that last answered everything before it, what bears on it since then,
    and its triggers, the earliest first."""

    kind: Kind
    done: tuple[CheckRecord, ...]
    passed: CheckRecord | None
    since: tuple[EventRecord, ...]
    triggers: tuple[Trigger, ...]
    scheduled: bool
    released: EventRecord | None = None
    """Release in force, if any; `triggers` holds what came due after it."""
    condition: str = ""
    """Condition of use after *watch*."""
    decides: bool = True
    """Whether its absence alone keeps the instrument from going out."""

    @property
    def due_on(self) -> date | None:
        """The day of the earliest trigger; None where there is none."""
        return self.triggers[0].on if self.triggers else None

    def state(self, today: date, *, needed: bool) -> DueState:
        """Return overdue where the instrument may not go out before it (`needed`, from its standing); due: its day has
        come, but it holds nothing back; soon: within a week."""
        due_on = self.due_on
        if due_on is None:
            return "fresh"
        if due_on <= today:
            return "overdue" if needed else "due"
        return "soon" if (due_on - today).days <= SOON_DAYS else "fresh"

    @property
    def can_wait(self) -> bool:
        """Whether somebody may put it off: nothing that has to be proved first stands behind it."""
        return bool(self.triggers) and all(trigger.can_be_skipped for trigger in self.triggers)

    def binding(self, today: date) -> list[Trigger]:
        """The triggers for which it has to be made before the instrument goes out today."""
        return [
            trigger for trigger in self.triggers if (trigger.on <= today if trigger.at_once else trigger.on < today)
        ]


def with_hand_overs(events: Sequence[EventRecord]) -> list[EventRecord]:
    """The events, and a hand-over with each taking out by another crew than the one before it."""
    found = sorted(events, key=order)
    had = ""
    for event in list(found):
        if event.event == "out" and event.crew:
            if had and event.crew != had:
                found.append(EventRecord(HANDED_OVER, event.at, f"from {had} to {event.crew}."))
            had = event.crew
    return sorted(found, key=order)


def check_due(
    kind: Kind,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    *,
    today: date,
    need: Requirement | None,
    planned: Sequence[Planned] = (),
    alone: bool = False,
) -> CheckDue:
    """Where a check stands. records: of every kind; events: with hand-overs, in order; need: what the rules ask of it;
    alone: no other check of the instrument decides."""
    done = sorted((record for record in records if record.check == kind.name), key=order)
    passed = last_pass(done, events)
    if need is None:
        return _when_wanted(kind, done, events, today)
    decides = alone or kind.blocks_release or (kind.blocks_unchecked and passed is None)
    happened = [(event, _skipped(_happened(event, today), kind, events)) for event in _bearing(passed, events, need)]
    triggers = [trigger for _, trigger in happened] + _adjusted(kind, passed, events, today)
    if passed is None:
        text = "The last check did not pass" if done else "Never checked here"
        # "First" only where it comes before going out.
        text += f": {_lowered(kind)} first, about {kind.minutes} minutes." if decides else "."
        triggers.append(Trigger(today, "never-passed", text, at_once=True, can_be_skipped=False))
    else:
        triggers += _elapsed(kind, passed, need)
        triggers += _jobs(kind, passed, need, [job for job in planned if not job.over(today)])
        triggers += _warmth(kind, passed, need, [*records, *events], today)
        triggers += _not_passed(kind, done[-1], passed, today)
    triggers = [_skipped(trigger, kind, events) for trigger in triggers]
    since = tuple(event for event, trigger in happened if trigger.code != SKIPPED)
    released = _release_in_force(done, passed, events)
    if released is not None:
        triggers = _after_release(kind, released, triggers, need)
    triggers.sort(key=_first)
    return CheckDue(
        kind, tuple(done), passed, since, tuple(triggers), scheduled=True, released=released, decides=decides
    )


def decided_last(done: Sequence[CheckRecord]) -> CheckRecord | None:
    """Return the latest record that decided something; what was to be repeated did not, and the one before it stands."""
    return next((record for record in reversed(done) if record.grade != "repeat"), None)


def _when_wanted(kind: Kind, done: Sequence[CheckRecord], events: Sequence[EventRecord], today: date) -> CheckDue:
    """Where a check stands that never comes due: only a bad finding of it asks for another one."""
    latest, released = decided_last(done), _release_in_force(done, None, events)
    triggers: list[Trigger] = []
    if latest is not None and latest.grade in ("adjust", "service") and released is None:
        triggers = [_bad(kind, latest, today)]
    return CheckDue(kind, tuple(done), None, (), tuple(triggers), scheduled=False, released=released, decides=False)


def _bad(kind: Kind, latest: CheckRecord, today: date) -> Trigger:
    words = "is graded watch and not proved" if latest.grade == "watch" else "did not pass"
    text = f"The last {_lowered(kind)} {words}: {latest.finding}"
    return Trigger(min(latest.at.date(), today), "last-not-passed", text, at_once=True, can_be_skipped=False)


def _release_in_force(
    done: Sequence[CheckRecord], passed: CheckRecord | None, events: Sequence[EventRecord]
) -> EventRecord | None:
    """Return the last release, or None if a check was made or something happened after it."""
    last = max((event for event in events if event.event == RELEASE), key=order, default=None)
    if last is None or (passed is not None and passed.at > last.at) or any(entry.at >= last.at for entry in done):
        return None
    bearing = (*BEARING_EVENTS, ADJUSTED)
    return None if any(event.event in bearing and order(event) > order(last) for event in events) else last


def _after_release(kind: Kind, released: EventRecord, triggers: Sequence[Trigger], need: Requirement) -> list[Trigger]:
    """Return the triggers that a release does not answer: those that lapse later, and the end of the release itself."""
    day = released.at.date()
    kept = [trigger for trigger in triggers if trigger.on > day and trigger.code != "never-passed"]
    if need.every_days is None:
        return kept
    days = count(need.every_days, "day", "days")
    text = f"Released on {day_words(day)} without a passed {kind.title.lower()}: a release holds as long as a pass, {days}."
    return [*kept, Trigger(day + timedelta(days=need.every_days), "release-ended", text, can_be_skipped=False)]


def _bearing(passed: CheckRecord | None, events: Sequence[EventRecord], need: Requirement) -> list[EventRecord]:
    """What happened since the pass that the rules name; a step to a known temperature is judged by that."""
    since = [e for e in events if e.event in need.after and (passed is None or order(e) > order(passed))]
    if passed is None or passed.temperature_c is None or need.temperature_step_c is None:
        return since
    return [event for event in since if event.event != "temperature-step" or event.temperature_c is None]


def _first(trigger: Trigger) -> tuple[date, bool]:
    return trigger.on, not trigger.at_once


def _lowered(kind: Kind) -> str:
    return kind.title[0].lower() + kind.title[1:]


def event_text(event: EventRecord) -> str:
    """'Knocked on 1 Mar 2027 at 14:10: against the rail'."""
    words = BEARING_EVENTS[event.event]
    return f"{words[0].upper()}{words[1:]} on {day_words(event.at.date())} at {event.at:%H:%M}" + (
        f": {event.note}" if event.note else "."
    )


def _happened(event: EventRecord, today: date) -> Trigger:
    skippable = event.event not in NEVER_SKIPPED
    # By its own clock it may be tomorrow already: it has happened.
    return Trigger(
        min(event.at.date(), today),
        event.event,
        event_text(event),
        at_once=True,
        can_be_skipped=skippable,
        since=event.at,
    )


def _adjusted(kind: Kind, passed: CheckRecord | None, events: Sequence[EventRecord], today: date) -> list[Trigger]:
    """It was adjusted, or something it is measured through was, and no check since then proved it."""
    found = []
    for event in events:
        if event.event != ADJUSTED or event.check not in KINDS or (passed and order(event) < order(passed)):
            continue
        day = day_words(event.at.date())
        if event.check == kind.name:
            text = f"{kind.title}: adjusted on {day}, not checked since. Check again, as left, about {kind.minutes} minutes."
            found.append(
                Trigger(min(event.at.date(), today), "adjusted-not-proved", text, at_once=True, can_be_skipped=False)
            )
        elif kind.name in KINDS[event.check].invalidates and passed is not None:
            text = f"{KINDS[event.check].title} adjusted on {day}, and this depends on it: {_lowered(kind)} again, about {kind.minutes} minutes."
            found.append(
                Trigger(min(event.at.date(), today), "measured-through", text, at_once=True, can_be_skipped=False)
            )
    return found[-1:]


def _not_passed(kind: Kind, latest: CheckRecord, passed: CheckRecord, today: date) -> list[Trigger]:
    """The latest one did not pass, whatever the one before it found."""
    return [] if latest is passed else [_bad(kind, latest, today)]


def _elapsed(kind: Kind, passed: CheckRecord, need: Requirement) -> list[Trigger]:
    if need.every_days is None:
        return []
    on = passed.at.date() + timedelta(days=need.every_days)
    text = f"{kind.title} every {count(need.every_days, 'day', 'days')}: last passed on {day_words(passed.at.date())}."
    return [Trigger(on, "interval", text)]


def _jobs(kind: Kind, passed: CheckRecord, need: Requirement, planned: Sequence[Planned]) -> list[Trigger]:
    """Before each large job that has no pass in the week before it; at one where it will be far colder or warmer."""
    found = []
    for job in planned:
        name = f" {job.name}" if job.name else ""
        if _far(job.temperature_c, passed.temperature_c, need.temperature_step_c):
            text = f"{kind.title} was last made at {_degrees(passed.temperature_c or 0)}, and {_degrees(job.temperature_c or 0)} is expected at the job{name}: check it there first."
            found.append(Trigger(job.start, "job-temperature", text))
        if need.before_large_jobs and job.large and passed.at.date() < job.start - timedelta(days=JOB_WITHIN_DAYS):
            text = f"{kind.title} in the week before a large job:{name} starts on {day_words(job.start)}."
            found.append(Trigger(job.start - timedelta(days=1), "large-job", text))
    return found


def _warmth(
    kind: Kind, passed: CheckRecord, need: Requirement, entries: Sequence[CheckRecord | EventRecord], today: date
) -> list[Trigger]:
    """The latest temperature known since the pass lies too far from the one it was made at."""
    if need.temperature_step_c is None or passed.temperature_c is None:
        return []
    known = [(e.at, e.temperature_c) for e in entries if e.temperature_c is not None and e.at > passed.at]
    if not known:
        return []
    at, now = max(known)
    if not _far(now, passed.temperature_c, need.temperature_step_c):
        return []
    text = f"{kind.title} was last made at {_degrees(passed.temperature_c)}; on {day_words(at.date())} it was {_degrees(now)}."
    return [Trigger(min(at.date(), today), "temperature", text, at_once=True, since=at)]


def _far(now: float | None, then: float | None, step: float | None) -> bool:
    return now is not None and then is not None and step is not None and abs(now - then) >= step


def _degrees(value: float) -> str:
    return f"{value:.0f} °C".replace("-", "−")


def _skipped(trigger: Trigger, kind: Kind, events: Sequence[EventRecord]) -> Trigger:
    """The trigger put off to the day somebody set, who is on record with the reason; never after a knock or a fall."""
    if not trigger.can_be_skipped:
        return trigger
    skips = [e for e in events if e.event == SKIPPED and e.check == kind.name and e.until is not None]
    # What had not happened yet when somebody decided is not put off by it.
    put_off = [skip for skip in skips if trigger.since is None or trigger.since < skip.at]
    if not put_off:
        return trigger
    last = max(put_off, key=order)
    assert last.until is not None
    if last.until <= trigger.on:
        return trigger
    text = f"Skipped on {day_words(last.at.date())} until {day_words(last.until)}: {last.note} {trigger.text}"
    return Trigger(last.until, SKIPPED, text)


def due_reasons(found: CheckDue, today: date) -> list[Reason]:
    """Why it is due, or until when it is not."""
    if not found.scheduled and not found.triggers:
        return [reason("when-wanted", "Done when needed; never due.")]
    due_on = found.due_on
    if due_on is None or (due_on - today).days > SOON_DAYS:
        return [reason(trigger.code, trigger.text) for trigger in found.triggers[:1]]
    until = today + timedelta(days=SOON_DAYS)
    return [reason(trigger.code, trigger.text) for trigger in found.triggers if trigger.on <= until]
