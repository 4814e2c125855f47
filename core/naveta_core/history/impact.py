"""After a bad finding: what was done with the instrument since it was last good, and what the error may have caused."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime

from ..results import Reason
from ..units.formatting import count
from .facts import CheckRecord, EventRecord, clears, day_words


@dataclass(frozen=True, slots=True)
class ImpactReview:
    """The last good check, if any, and everything after it that bears on the work done."""

    last_good: CheckRecord | None
    since: datetime | None
    events: tuple[EventRecord, ...]

    @property
    def taken_out(self) -> int:
        """The times an instrument was taken out, each with when it came back."""
        return len([event for event in self.events if event.event == "out"])

    def sentence(self) -> str:
        """'Last good on Tuesday 9 February 2027; taken out six times since.'"""
        out = count(self.taken_out, "time", "times")
        if self.last_good is None:
            return f"No good check on record before this one; taken out {out}."
        return f"Last good on {day_words(self.last_good.at.date())}; taken out {out} since."

    def advice(self) -> list[Reason]:
        """What to do about it, as coded sentences."""
        if not self.taken_out:
            return [Reason(code="not-taken-out", text="Not taken out since then: no work is affected.")]
        knocks = [event for event in self.events if event.event in ("knock", "drop", "topple")]
        from_when = (
            f"Start with work after {day_words(knocks[0].at.date())}, when a knock or drop was reported."
            if knocks
            else "No knock or drop is reported: review all work since the last good check."
        )
        return [
            Reason(
                code="look-through",
                text="Review the level lines measured since: which had unequal sights, and how good were the closures?",
            ),
            Reason(code="begin-with", text=from_when),
        ]


def impact_review(found: CheckRecord, records: Sequence[CheckRecord], events: Sequence[EventRecord]) -> ImpactReview:
    """What lies between the last good check of the same kind and the bad one `found`."""
    good = [record for record in records if record.check == found.check and record.at < found.at and clears(record)]
    last = max(good, key=lambda entry: entry.at, default=None)
    since = last.at if last else None
    between = [event for event in events if event.at <= found.at and (since is None or event.at > since)]
    return ImpactReview(last, since, tuple(sorted(between, key=lambda entry: entry.at)))
