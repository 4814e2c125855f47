"""After a bad finding: whether the instrument was in use since it was last good, and which work may contain the error.

The span runs from the last good check of the same kind, or from the first day on record where none was good. In use: out,
lent, or with a crew while a job of theirs ran, at any moment of the span, also when it went out before the span began.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import KW_ONLY, dataclass, replace
from datetime import datetime
from typing import Any

from ..checks import KINDS
from ..engine.affected import What, WorkEffect, WorkFacts
from ..results import Reason
from ..units.formatting import LengthWords, count
from .facts import CheckRecord, EventRecord, clears, day_words, order

GONE = {"out": "out", "lent": "lent"}
"""Events that give the instrument to somebody, and the word for each."""
BACK = ("in", "returned", "service-in", "service-out")
KNOCKS = ("knock", "drop", "topple")


@dataclass(frozen=True, slots=True)
class WorkDone:
    """A set-up, an orientation or a job: its key, time, place and crew, and what it recorded. `until` is a job's last day."""

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
    """A period in which somebody had the instrument, from an `out` or a `lent` event; `until` is None while it lasts."""

    event: EventRecord
    until: datetime | None

    def overlaps(self, start: datetime | None, end: datetime) -> bool:
        """Return whether the period overlaps a span."""
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
        """Whether somebody had the instrument in the span, or work with it is on record."""
        return bool(self.held or self.work)

    def with_work(self, work: Iterable[WorkDone]) -> ImpactReview:
        """Return the review with the work that lies in its span."""
        end, start = self.until, self.since
        within = [one for one in work if one.at <= end and (start is None or (one.until or one.at) >= start)]
        return replace(self, work=tuple(within))

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
            text = "By what is on record it was neither out nor lent in that time. Ask whether anybody used it without recording it."
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
            text = "No set-up, orientation or job of that time is on record. Work may be affected: ask the crew that had it."
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
    """Return the kind's own sentence on reviewing affected work."""
    return next(text for code, _, text in KINDS[check].when_bad if code == "impact-review")


def impact_review(
    found: CheckRecord,
    records: Sequence[CheckRecord],
    events: Sequence[EventRecord],
    *,
    began: datetime | None = None,
) -> ImpactReview:
    """What lies between the last good check of the same kind and the bad one `found`.

    events: all that stand, also those before the span, which say whether it was out when the span began. began: the
    first entry on record, for an instrument without a good check.
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
    )


def times_held(events: Sequence[EventRecord]) -> list[Held]:
    """Return every period in which somebody had the instrument, oldest first; `events` in order of time."""
    found: list[Held] = []
    having: EventRecord | None = None
    for event in events:
        if event.event in GONE or event.event in BACK:
            if having is not None:
                found.append(Held(having, event.at))
            having = event if event.event in GONE else None
    return found + ([Held(having, None)] if having is not None else [])
