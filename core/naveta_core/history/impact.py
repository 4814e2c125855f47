"""After a bad finding: whether the instrument was in use since it was last good, and which work may contain the error.

The span runs from the last good check of the same kind, or from the first day on record where none was good. In use: out,
lent, or with a crew while a job of theirs ran, at any moment of the span, also when it went out before the span began.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import KW_ONLY, dataclass
from datetime import datetime
from typing import Any

from ..checks import KINDS
from ..engine.affected import What, WorkEffect, WorkFacts
from ..results import Reason
from ..units.formatting import LengthWords, count
from .facts import CheckRecord, EventRecord, clears, day_words, order

GONE = {"out": "out", "lent": "lent"}
"""Events that give it to somebody who works with it, and how that is stated."""
BACK = ("in", "returned", "service-in", "service-out")
KNOCKS = ("knock", "drop", "topple")


@dataclass(frozen=True, slots=True)
class WorkDone:
    """A piece of work: what says it from every other, when, where and by whom, and what it recorded. `until`: of a job."""

    key: str
    at: datetime
    name: str
    _: KW_ONLY
    facts: WorkFacts
    until: datetime | None = None
    crew: str = ""

    @property
    def what(self) -> What:
        """Whether it is a set-up, an orientation or a job."""
        return self.facts.what


@dataclass(frozen=True, slots=True)
class Held:
    """A time in which somebody had it: from when, until when (None: still), by an `out` or a `lent`."""

    event: EventRecord
    until: datetime | None

    def overlaps(self, start: datetime | None, end: datetime) -> bool:
        """Whether it lies in a span at any moment."""
        return self.event.at <= end and (start is None or self.until is None or self.until > start)


@dataclass(frozen=True, slots=True)
class ImpactReview:
    """The last good check, if any, the span it begins, who had the instrument in it, and the work done in it."""

    check: str
    last_good: CheckRecord | None
    since: datetime | None
    """Where the span begins; None where nothing is on record before the finding."""
    _: KW_ONLY
    until: datetime
    events: tuple[EventRecord, ...]
    """What happened in the span, oldest first."""
    held: tuple[Held, ...]
    work: tuple[WorkDone, ...] = ()

    @property
    def taken_out(self) -> int:
        """The times it was taken out within the span."""
        return len([event for event in self.events if event.event == "out"])

    @property
    def in_use(self) -> bool:
        """Whether somebody had it, or work of it is on record, at any moment of the span."""
        return bool(self.held or self.work)

    def sentence(self) -> str:
        """'Last good on 9 Feb 2027; out with Bramble crew then, and taken out two times since.'"""
        if self.last_good is None:
            day = (
                f" everything since {day_words(self.since.date())}, the first day on record, counts"
                if self.since
                else ""
            )
            begun = f"No good check on record before this one{':' if day else ''}{day}"
        else:
            begun = f"Last good on {day_words(self.last_good.at.date())}"
        already = next((held for held in self.held if self.since is None or held.event.at < self.since), None)
        parts = []
        if already is not None and self.last_good is not None:
            parts.append(_with(already.event))
        if self.taken_out or not parts:
            parts.append(_times(self.taken_out))
        return f"{begun}; {', and '.join(parts)}."

    def advice(self) -> list[Reason]:
        """What to do about it, as coded sentences."""
        if not self.in_use:
            text = "By what is on record it was neither out nor lent in that time. Ask whether anybody used it without noting it."
            return [Reason(code="not-in-use", text=text)]
        knocks = [event for event in self.events if event.event in KNOCKS]
        since = "the last good check" if self.last_good else "it came on record"
        first = (
            f"Start with work after {day_words(knocks[0].at.date())}, when a knock or drop was reported."
            if knocks
            else f"No knock or drop is reported: review all work since {since}."
        )
        found = [Reason(code="look-through", text=_in_its_words(self.check)), Reason(code="begin-with", text=first)]
        if not self.work:
            text = "No set-up, orientation or job of that time is on record. That does not mean that no work is affected: ask whoever had it."
            found.append(Reason(code="no-work-recorded", text=text))
        return found

    def lines(self, figures: Mapping[str, Any], words: LengthWords) -> list[tuple[WorkDone, WorkEffect]]:
        """Each piece of work with this error's effect there, the largest first, what was not recorded last."""
        affects = KINDS[self.check].affects
        found = [(work, affects(figures, work.facts, words)) for work in self.work]
        return sorted(found, key=lambda pair: ([-size for size in pair[1].size], pair[0].at))


def _times(taken_out: int) -> str:
    if taken_out == 0:
        return "not taken out since"
    return f"taken out {'once' if taken_out == 1 else count(taken_out, 'time', 'times')} since"


def _with(event: EventRecord) -> str:
    return f"{GONE[event.event]} with {event.crew} crew then" if event.crew else f"{GONE[event.event]} then"


def _in_its_words(check: str) -> str:
    """What the kind of check itself says of work done since it was last good."""
    return next(text for code, _, text in KINDS[check].when_bad if code == "impact-review")


def impact_review(
    found: CheckRecord,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    work: Sequence[WorkDone] = (),
    *,
    began: datetime | None = None,
) -> ImpactReview:
    """What lies between the last good check of the same kind and the bad one `found`.

    events: all that stand, also those before the span: whether it was out when the span began follows from them. work:
    what may lie in the span; what does not is left out. began: the first entry on record, where no check was good.
    """
    good = [record for record in records if record.check == found.check and record.at < found.at and clears(record)]
    last = max(good, key=lambda entry: entry.at, default=None)
    known = [*(record.at for record in records), *(event.at for event in events), *([began] if began else [])]
    first = min((at for at in known if at < found.at), default=None)
    since = last.at if last else first
    happened = sorted(events, key=order)
    within = [e for e in happened if e.at <= found.at and (last is None or e.at > last.at)]
    return ImpactReview(
        found.check,
        last,
        since,
        until=found.at,
        events=tuple(within),
        held=tuple(held for held in times_held(happened) if held.overlaps(since, found.at)),
        work=tuple(one for one in work if one.at <= found.at and (since is None or (one.until or one.at) >= since)),
    )


def times_held(events: Sequence[EventRecord]) -> list[Held]:
    """Every time somebody had it, oldest first; `events` in their order."""
    found: list[Held] = []
    having: EventRecord | None = None
    for event in events:
        if event.event in GONE or event.event in BACK:
            if having is not None:
                found.append(Held(having, event.at))
            having = event if event.event in GONE else None
    return found + ([Held(having, None)] if having is not None else [])
