"""Standing of an instrument: may it be taken out today, and why.

A grade belongs to one check; a standing belongs to an instrument and follows from its records and events. Pure:
today is given, nothing is looked up. Opening rules until planning brings its own: a check of each kind that
applies, at its own interval, and again after any event that bears on it.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime, timedelta
from typing import Literal

from ..checks import KINDS, kinds_for
from ..documents.envelope import Instrument
from ..engine.kind import Kind
from ..results import Answer, Reason
from ..units.formatting import capital, count, joined
from .summary import RecordSummary

State = Literal["ready", "ready-if", "check-first", "hold", "away"]
ORDER: tuple[State, ...] = ("ready", "ready-if", "check-first", "away", "hold")

BEARING_EVENTS = {"knock": "knocked", "drop": "dropped", "topple": "fell over", "held": "put on hold"}
HOLDING_EVENTS = ("drop", "topple", "held")
FALLS = ("drop", "topple")
"""After these every check they bear on must pass, whether or not it decides on other days."""
NOT_LOOKED = ("not-looked", "not-tapped")
"""What a record says when its quick looks were passed over: after a fall it releases nothing."""
ADJUSTED = "adjusted"
RELEASE = "released"
SOON_DAYS = 7


@dataclass(frozen=True, slots=True)
class CheckRecord:
    """One record as far as the standing needs it. `codes` are the verdict's reasons."""

    check: str
    at: datetime
    grade: str
    stage: str = "as-found"
    codes: tuple[str, ...] = ()
    proved_within_watch: bool = False
    finding: str = ""


@dataclass(frozen=True, slots=True)
class EventRecord:
    """One event as far as the standing needs it."""

    event: str
    at: datetime
    note: str = ""
    check: str = ""
    """Of an adjustment: the kind of check it was about."""


class CheckStanding(Answer):
    """Where one kind of check stands for an instrument."""

    check: str
    title: str
    state: State
    reasons: list[Reason]
    minutes: int
    due_on: str | None = None


class Standing(Answer):
    """Where an instrument stands."""

    state: State
    reasons: list[Reason]
    checks: list[CheckStanding] = []


def order(entry: CheckRecord | EventRecord) -> tuple[datetime, int]:
    """In which order things were, where clocks give the same second: as found, adjusted, as left, held, released;
    anything else that happened comes after, against the instrument."""
    if isinstance(entry, CheckRecord):
        return entry.at, 2 if entry.stage == "as-left" else 0
    return entry.at, {ADJUSTED: 1, "held": 3, RELEASE: 4}.get(entry.event, 5)


def clears(done: CheckRecord) -> bool:
    """Whether a record clears a due check: use; watch when near the limit or proved within W; as left more strictly."""
    if done.grade == "use":
        return True
    if done.grade != "watch":
        return False
    if done.stage == "as-left":
        return "near-limit" in done.codes and "conditional" not in done.codes
    return "near-limit" in done.codes or done.proved_within_watch


def releases(done: CheckRecord, events: Sequence[EventRecord]) -> bool:
    """Whether a record answers what happened before it.

    After a fall only with its quick looks made; after the thing itself was adjusted only as strictly as an as-left.
    events: what happened since the last record that did.
    """
    if not clears(done):
        return False
    before = [event for event in events if order(event) < order(done)]
    since_adjusted = any(earlier.event == ADJUSTED and earlier.check == done.check for earlier in before)
    if since_adjusted and not clears(replace(done, stage="as-left")):
        return False
    fell = any(earlier.event in FALLS for earlier in before)
    return not (fell and any(code in NOT_LOOKED for code in done.codes))


def day_words(day: date) -> str:
    """'1 Mar 2027'."""
    return f"{day.day} {day:%b %Y}"


def standing(
    instrument: Instrument, records: Sequence[CheckRecord], events: Sequence[EventRecord], today: date
) -> Standing:
    """The standing of an instrument, given as a document's `instrument`; the check that decides it first.

    A check that blocks nothing is listed; a bad finding of it still counts.
    """
    kinds = kinds_for(instrument)
    gating = {kind.name for kind in kinds if kind.blocks_release} or {kind.name for kind in kinds}
    checks = [_check(kind, records, events, today) for kind in kinds]
    if not checks:
        return Standing(
            state="ready-if",
            reasons=[
                _reason("no-check", "No check is available for this kind of instrument yet: use your own records.")
            ],
        )
    checks.sort(key=lambda entry: (-_weight(entry, gating), entry.check not in gating))
    state: State = checks[0].state if _weight(checks[0], gating) else "ready"
    return Standing(state=state, reasons=checks[0].reasons, checks=checks)


SPEAKS = ("adjust", "service", "adjusted-not-proved", "measured-through", *FALLS)
"""Reasons of a check that counts for the instrument even where its absence alone would not."""


def _weight(entry: CheckStanding, gating: set[str]) -> int:
    """How much a check's state says of the instrument; of one that does not gate only what was found, done or fell."""
    found = any(reason.code in SPEAKS for reason in entry.reasons)
    return ORDER.index(entry.state) if entry.check in gating or found else 0


def _reason(code: str, text: str) -> Reason:
    return Reason(code=code, text=text)


def _check(kind: Kind, records: Sequence[CheckRecord], events: Sequence[EventRecord], today: date) -> CheckStanding:
    done = sorted((record for record in records if record.check == kind.name), key=order)
    passed = last_pass(done, events)
    since = [e for e in events if e.event in BEARING_EVENTS and (passed is None or order(e) > order(passed))]
    since.sort(key=lambda entry: entry.at)
    due = passed.at.date() + timedelta(days=kind.interval_days) if passed and kind.scheduled else None
    state, reasons = _state(kind, done, passed, since, due, today, events)
    voided = _unproved(kind, passed, events) or _voided(kind, passed, events)
    if voided and state in ("ready", "ready-if", "check-first") and reasons[0].code != "released":
        state, reasons = "check-first", voided
    return CheckStanding(
        check=kind.name,
        title=kind.title,
        state=state,
        reasons=reasons,
        minutes=kind.minutes,
        due_on=due.isoformat() if due else None,
    )


def _state(
    kind: Kind,
    done: list[CheckRecord],
    last_pass: CheckRecord | None,
    since: list[EventRecord],
    due: date | None,
    today: date,
    events: Sequence[EventRecord],
) -> tuple[State, list[Reason]]:
    latest = done[-1] if done else None
    if not kind.scheduled:
        return _when_wanted(kind, latest)
    released = _released(kind, done, last_pass, events)
    if released:
        return "ready-if", released
    if latest is not None and latest is not last_pass and latest.grade in ("adjust", "service"):
        reasons = [_reason(latest.grade, f"{kind.title}, {day_words(latest.at.date())}: {latest.finding}")]
        return "hold", [*_events(since[-1:]), *reasons]
    if any(entry.event in HOLDING_EVENTS for entry in since):
        return "hold", [*_events(since[-1:]), _reason("check-to-release", f"{kind.title} before it goes out again.")]
    if since:
        return "check-first", [
            *_events(since[-1:]),
            _reason("check-first", f"{kind.title} first, about {kind.minutes} minutes."),
        ]
    if latest is not None and last_pass is not None and latest is not last_pass:
        return "check-first", [
            _reason("last-not-passed", f"The last {kind.title.lower()} did not pass: {latest.finding}")
        ]
    if last_pass is None or due is None:
        text = "The last check did not pass" if latest else "Never checked here"
        return "check-first", [
            _reason("never-passed", f"{text}: {kind.title.lower()} first, about {kind.minutes} minutes.")
        ]
    if today > due:
        days = (today - due).days
        return "check-first", [
            _reason(
                "overdue", f"{kind.title} overdue by {_days(days)}: last passed on {day_words(last_pass.at.date())}."
            )
        ]
    return _fresh(kind, last_pass, due, today)


def _when_wanted(kind: Kind, latest: CheckRecord | None) -> tuple[State, list[Reason]]:
    """A check that never comes due: only what it found last counts."""
    if latest is None:
        return "ready", [_reason("when-wanted", "Done when needed; never due.")]
    found = f"{kind.title}, {day_words(latest.at.date())}: {latest.finding}"
    if latest.grade in ("adjust", "service"):
        return "hold", [_reason(latest.grade, found)]
    return "ready", [_reason("when-wanted", found)]


def check_record_of(summary: RecordSummary, at: datetime, stage: str) -> CheckRecord:
    """A finished check as far as a standing needs it."""
    return CheckRecord(
        summary.kind, at, summary.grade, stage, tuple(summary.codes), summary.within_watch, summary.finding
    )


def proves(done: CheckRecord) -> bool:
    """Whether a record would answer anything: a fall, an adjusting."""
    return clears(replace(done, stage="as-left")) and not any(code in NOT_LOOKED for code in done.codes)


def last_pass(done: Sequence[CheckRecord], events: Sequence[EventRecord]) -> CheckRecord | None:
    """The latest record of a kind that answers what happened before it; `done` in the order of their times."""
    latest: CheckRecord | None = None
    for entry in done:
        since = [e for e in events if latest is None or order(e) > order(latest)]
        if releases(entry, since):
            latest = entry
    return latest


def _unproved(kind: Kind, last_pass: CheckRecord | None, events: Sequence[EventRecord]) -> list[Reason]:
    """It was adjusted, and no check since then proved it."""
    later = [e for e in events if e.event == ADJUSTED and e.check == kind.name]
    later = [e for e in later if last_pass is None or order(e) > order(last_pass)]
    if not later:
        return []
    day = day_words(max(entry.at for entry in later).date())
    text = f"{kind.title}: adjusted on {day}, not checked since. Check again, as left, about {kind.minutes} minutes."
    return [_reason("adjusted-not-proved", text)]


def _voided(kind: Kind, last_pass: CheckRecord | None, events: Sequence[EventRecord]) -> list[Reason]:
    """What was adjusted since the last pass that this check was measured through."""
    later = [
        event
        for event in events
        if event.check in KINDS
        and kind.name in KINDS[event.check].invalidates
        and last_pass is not None
        and order(event) > order(last_pass)
    ]
    if not later:
        return []
    last = max(later, key=lambda entry: entry.at)
    text = f"{KINDS[last.check].title} adjusted on {day_words(last.at.date())}, and this depends on it: {kind.title.lower()} again, about {kind.minutes} minutes."
    return [_reason("measured-through", text)]


def _released(
    kind: Kind, done: list[CheckRecord], last_pass: CheckRecord | None, events: Sequence[EventRecord]
) -> list[Reason]:
    """Why it goes out although no check passed: a manager released it, and nothing has happened since."""
    last = max((event for event in events if event.event == RELEASE), key=order, default=None)
    if last is None:
        return []
    bearing = (*BEARING_EVENTS, ADJUSTED)
    since = any(entry.at >= last.at for entry in done) or any(
        event.event in bearing and order(event) > order(last) for event in events
    )
    if since or (last_pass is not None and last_pass.at > last.at):
        return []
    text = f"Released on {day_words(last.at.date())} without a passed {kind.title.lower()}: {last.note}"
    return [_reason("released", text), _reason("condition", kind.watch_condition)]


def _fresh(kind: Kind, last_pass: CheckRecord, due: date, today: date) -> tuple[State, list[Reason]]:
    day = day_words(last_pass.at.date())
    reasons = [_reason("passed", f"{kind.title} passed on {day}. {last_pass.finding}".strip())]
    if (due - today).days <= SOON_DAYS:
        reasons.append(_reason("due-soon", f"Due again on {day_words(due)}."))
    if last_pass.grade == "watch":
        return "ready-if", [_reason("condition", kind.watch_condition), *reasons]
    return "ready", reasons


def _events(events: Sequence[EventRecord]) -> list[Reason]:
    return [
        _reason(
            event.event,
            f"{BEARING_EVENTS[event.event].capitalize()} on {day_words(event.at.date())} at {event.at:%H:%M}"
            + (f": {event.note}" if event.note else "."),
        )
        for event in events
    ]


def _days(count: int) -> str:
    return "one day" if count == 1 else f"{count} days"


def summary(counts: dict[str, int]) -> str:
    """What the yard needs now, in a sentence: 'One instrument is held, two need a check first.'"""
    held, first, away = (counts.get(state, 0) for state in ("hold", "check-first", "away"))
    total = sum(counts.values())
    if not total:
        return "No instruments yet"
    parts = []
    if held:
        parts.append(f"{count(held, 'instrument is', 'instruments are')} on hold")
    if first:
        wants = "needs a check first" if first == 1 else "need a check first"
        parts.append(
            f"{count(first, '', '').strip()}{'' if held else ' instrument' if first == 1 else ' instruments'} {wants}"
        )
    if not parts:
        ready = total - away
        return (
            "All instruments are ready"
            if ready == total
            else f"{count(ready, 'instrument', 'instruments').capitalize()} ready"
        )
    text = joined(parts)
    return capital(text)
