"""Standing of an instrument: may it be taken out today, and why.

A grade belongs to one check; a standing belongs to an instrument and follows from its records and events. Pure:
today is given, nothing is looked up. What is due when is stated by `due` alone, from the rules in force.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from datetime import date
from functools import cache
from typing import Literal

from ..checks import kinds_for
from ..documents.envelope import Instrument
from ..engine.kind import Kind
from ..results import Answer, Reason
from ..units.formatting import capital, count, joined
from .due import SOON_DAYS, CheckDue, Planned, Trigger, check_due, decided_last, event_text, with_hand_overs
from .facts import (
    FALLS,
    HOLDING_EVENTS,
    SKIPPED,
    CheckRecord,
    EventRecord,
    day_words,
    order,
    reason,
)
from .rules import Requirement, RuleBook

State = Literal["ready", "ready-if", "check-first", "hold", "away"]
ORDER: tuple[State, ...] = ("ready", "ready-if", "check-first", "away", "hold")
AWAY = {"service-out": ("service-in", "at-service", "At service"), "lent": ("returned", "lent", "Lent")}
"""By what takes an instrument away: what brings it back, and how that is stated."""


class CheckStanding(Answer):
    """Where one kind of check stands for an instrument."""

    check: str
    title: str
    state: State
    reasons: list[Reason]
    minutes: int
    due_on: str | None = None
    decides: bool = False
    """Whether the instrument goes out by it; others are done when wanted."""
    needed: bool = False
    """Whether the instrument waits for it before it goes out."""


class Standing(Answer):
    """Where an instrument stands."""

    state: State
    reasons: list[Reason]
    checks: list[CheckStanding] = []


@cache
def default_book() -> RuleBook:
    """The default rules."""
    return RuleBook()


def checks_due(
    instrument: Instrument,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    *,
    today: date,
    book: RuleBook | None = None,
    model: str = "",
    planned: Sequence[Planned] = (),
) -> list[CheckDue]:
    """Every check of an instrument with its triggers: what standing, due list and the pre-work check are made of."""
    rules = book or default_book()
    happened, kinds = with_hand_overs(events), kinds_for(instrument)
    alone = not any(kind.blocks_release for kind in kinds)
    found = []
    for kind in kinds:
        need = _need(rules, kind, instrument, model)
        where = check_due(kind, records, happened, today=today, need=need, planned=planned, alone=alone)
        found.append(replace(where, condition=kind.condition_for(instrument)))
    return found


def _need(rules: RuleBook, kind: Kind, instrument: Instrument, model: str) -> Requirement | None:
    return rules.requirement(kind.name, instrument.kind or "", model) if kind.scheduled else None


def standing(
    instrument: Instrument,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    *,
    today: date,
    least_grade: str = "watch",
    book: RuleBook | None = None,
    model: str = "",
    planned: Sequence[Planned] = (),
) -> Standing:
    """The standing of an instrument, given as a document's `instrument`; the check that decides it first.

    A check that blocks nothing is listed; a bad finding of it still counts. least_grade "use": what passed only with
    a condition waits for a better check.
    """
    found = checks_due(instrument, records, events, today=today, book=book, model=model, planned=planned)
    return standing_of(found, events, today, least_grade)


def standing_of(found: Sequence[CheckDue], events: Sequence[EventRecord], today: date, least_grade: str) -> Standing:
    """The standing that follows from where each check stands."""
    away = _away(events)
    if not found:
        text = "No check is available for this kind of instrument yet: use your own records."
        return away or Standing(state="ready-if", reasons=[reason("no-check", text)])
    gating = {each.kind.name for each in found if each.decides}
    checks = [_check(each, today) for each in found]
    if least_grade == "use":
        checks = [_only_use(entry) for entry in checks]
    checks.sort(key=lambda entry: (-_weight(entry, gating), entry.check not in gating))
    state: State = checks[0].state if _weight(checks[0], gating) else "ready"
    checks = [
        entry.model_copy(update={"decides": entry.check in gating, "needed": _weight(entry, gating) >= CHECKS_FIRST})
        for entry in checks
    ]
    if away and ORDER.index(state) < ORDER.index("away"):
        return away.model_copy(update={"checks": checks})
    return Standing(state=state, reasons=checks[0].reasons, checks=checks)


def _away(events: Sequence[EventRecord]) -> Standing | None:
    """At service or lent, as long as nothing says that it came back."""
    for sent, (back, code, words) in AWAY.items():
        # Of two in one second the later in the list counts.
        both = sorted((e for e in events if e.event in (sent, back)), key=order)
        if both and both[-1].event == sent:
            last = both[-1]
            text = f"{words} since {day_words(last.at.date())}" + (f": {last.note}" if last.note else ".")
            return Standing(state="away", reasons=[reason(code, text)])
    return None


CHECKS_FIRST = ORDER.index("check-first")
"""From here on an instrument waits for a check."""


def _only_use(entry: CheckStanding) -> CheckStanding:
    """For a firm that sends out only what passes without a condition."""
    if entry.state != "ready-if" or entry.reasons[0].code != "condition":
        return entry
    text = f"{entry.title} passed only with a condition, and your firm sends out only what passes as use."
    return entry.model_copy(update={"state": "check-first", "reasons": [reason("only-use", text), *entry.reasons[1:]]})


DECIDES = ("adjust", "service", "adjusted-not-proved", "measured-through", *FALLS)
"""Reasons of a check that counts for the instrument even where its absence alone would not."""


def _weight(entry: CheckStanding, gating: set[str]) -> int:
    """How much a check's state says of the instrument; of one that does not gate only what was found, done or fell."""
    found = any(reason.code in DECIDES for reason in entry.reasons)
    return ORDER.index(entry.state) if entry.check in gating or found else 0


def _check(found: CheckDue, today: date) -> CheckStanding:
    state, reasons = _state(found, today)
    voided = [trigger for trigger in found.triggers if trigger.code in ("adjusted-not-proved", "measured-through")]
    if voided and state in ("ready", "ready-if", "check-first") and reasons[0].code != "released":
        state, reasons = "check-first", [reason(voided[0].code, voided[0].text)]
    calendar = next((trigger.on for trigger in found.triggers if not trigger.at_once), None)
    return CheckStanding(
        check=found.kind.name,
        title=found.kind.title,
        state=state,
        reasons=reasons,
        minutes=found.kind.minutes,
        due_on=calendar.isoformat() if calendar else None,
    )


def _state(found: CheckDue, today: date) -> tuple[State, list[Reason]]:
    kind, passed, since = found.kind, found.passed, found.since
    latest = decided_last(found.done)
    if not found.scheduled:
        return _when_wanted(found, latest)
    if found.released is not None:
        return _released(found, found.released, today)
    if latest is not None and latest is not passed and latest.grade in ("adjust", "service"):
        text = f"{kind.title}, {day_words(latest.at.date())}: {latest.finding}"
        return "hold", [*_events(since[-1:]), reason(latest.grade, text)]
    holding = [entry for entry in since if entry.event in HOLDING_EVENTS]
    if holding:
        # Whatever came after it, what holds it is stated first.
        return "hold", [*_events(holding[-1:]), reason("check-to-release", f"{kind.title} before it goes out again.")]
    if since:
        text = f"{kind.title} first, about {kind.minutes} minutes."
        return "check-first", [*_events(since[-1:]), reason("check-first", text)]
    binding = found.binding(today)
    if binding:
        last = next((trigger for trigger in binding if trigger.code == "last-not-passed"), binding[0])
        return "check-first", [_binding(found, last, today)]
    return _fresh(found, today)


def _binding(found: CheckDue, trigger: Trigger, today: date) -> Reason:
    if trigger.code != "interval" or found.passed is None:
        return reason(trigger.code, trigger.text)
    days = count((today - trigger.on).days, "day", "days")
    text = f"{found.kind.title} overdue by {days}: last passed on {day_words(found.passed.at.date())}."
    return reason("overdue", text)


def _when_wanted(found: CheckDue, latest: CheckRecord | None) -> tuple[State, list[Reason]]:
    """A check that never comes due: only what it found last counts."""
    if latest is None:
        return "ready", [reason("when-wanted", "Done when needed; never due.")]
    text = f"{found.kind.title}, {day_words(latest.at.date())}: {latest.finding}"
    if latest.grade not in ("adjust", "service"):
        return "ready", [reason("when-wanted", text)]
    if found.released is not None:
        return _released_if(found, found.released)
    return "hold", [reason(latest.grade, text)]


def _released(found: CheckDue, released: EventRecord, today: date) -> tuple[State, list[Reason]]:
    """A manager released it, and nothing has happened since: it goes out until something lapses later."""
    binding = found.binding(today)
    if binding:
        return "check-first", [_binding(found, binding[0], today)]
    return _released_if(found, released)


def _released_if(found: CheckDue, released: EventRecord) -> tuple[State, list[Reason]]:
    text = f"Released on {day_words(released.at.date())} without a passed {found.kind.title.lower()}: {released.note}"
    return "ready-if", [reason("released", text), reason("condition", found.condition)]


def _fresh(found: CheckDue, today: date) -> tuple[State, list[Reason]]:
    assert found.passed is not None
    day = day_words(found.passed.at.date())
    reasons = [reason("passed", f"{found.kind.title} passed on {day}. {found.passed.finding}".strip())]
    first = found.triggers[0] if found.triggers else None
    if first and first.code == SKIPPED:
        return "ready-if", [reason(SKIPPED, first.text), *reasons]
    if first and (first.on - today).days <= SOON_DAYS:
        reasons.append(reason("due-soon", f"Due again on {day_words(first.on)}."))
    if found.passed.grade == "watch":
        return "ready-if", [reason("condition", found.condition), *reasons]
    return "ready", reasons


def _events(events: Sequence[EventRecord]) -> list[Reason]:
    return [reason(event.event, event_text(event)) for event in events]


def summary(counts: dict[str, int], minutes: int = 0) -> str:
    """What instruments need now, in a sentence: 'One instrument is on hold, two need a check first: 27 minutes.'

    Minutes: of the checks they wait for, 0 where that is not asked.
    """
    held, first, away, conditional = (counts.get(state, 0) for state in ("hold", "check-first", "away", "ready-if"))
    total = sum(counts.values())
    if not total:
        return "No instruments yet"
    parts = []
    if held:
        parts.append(f"{count(held, 'instrument is', 'instruments are')} on hold")
    if first:
        needs = "needs a check first" if first == 1 else "need a check first"
        parts.append(
            f"{count(first, '', '').strip()}{'' if held else ' instrument' if first == 1 else ' instruments'} {needs}"
        )
    if parts:
        return capital(joined(parts)) + (f": {minutes} minutes" if first and minutes else "")
    ready = total - away
    if ready != total:
        return f"{count(ready, 'instrument', 'instruments').capitalize()} ready"
    with_condition = f", {count(conditional, '', '').strip()} with a condition" if conditional else ""
    return f"All instruments are ready{with_condition}"
