"""Records and events as far as standings and due lists need them, and which record answers what happened before it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass, replace
from datetime import date, datetime

from ..engine.contradiction import NOT_LOOKED as NOT_LOOKED
from ..results import Reason
from ..units.formatting import day_words as day_words
from .summary import RecordSummary

FALLS = ("drop", "topple")
"""After these every check they bear on must pass, whether or not it decides on other days."""
HOLDING_EVENTS = (*FALLS, "held")
ADJUSTED = "adjusted"
RELEASE = "released"
SKIPPED = "skipped"


@dataclass(frozen=True, slots=True)
class CheckRecord:
    """One record as far as a standing needs it. `codes` are the verdict's reasons."""

    check: str
    at: datetime
    grade: str
    _: KW_ONLY
    stage: str = "as-found"
    codes: tuple[str, ...] = ()
    proved_within_watch: bool = False
    finding: str = ""
    temperature_c: float | None = None


@dataclass(frozen=True, slots=True)
class EventRecord:
    """One event as far as a standing needs it."""

    event: str
    at: datetime
    note: str = ""
    _: KW_ONLY
    check: str = ""
    """Of an adjustment or a skipped check: the kind of check it was about."""
    crew: str = ""
    """Of a taking out: who took it."""
    temperature_c: float | None = None
    until: date | None = None
    """Of a skipped check: the day it is due instead."""


WORKED = "worked"
"""Pseudo-event that carries the temperature of the latest check, set-up or orientation."""


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


def check_record_of(summary: RecordSummary, at: datetime, stage: str) -> CheckRecord:
    """A finished check as far as a standing needs it."""
    return CheckRecord(
        summary.kind,
        at,
        summary.grade,
        stage=stage,
        codes=tuple(summary.codes),
        proved_within_watch=summary.within_watch,
        finding=summary.finding,
        temperature_c=summary.temperature_c,
    )


def reason(code: str, text: str) -> Reason:
    """A coded sentence."""
    return Reason(code=code, text=text)
