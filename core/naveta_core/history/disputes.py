"""Results that contradict each other in a series: the two, the run that decides, and the odd one of the three."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from ..engine.contradiction import BAD, CONTRADICTS, DECIDED
from .facts import day_words
from .series import SeriesCheck


@dataclass(frozen=True, slots=True)
class Dispute:
    """A bad result and a good one that contradict each other; `odd`: the one a third run did not agree with."""

    bad: SeriesCheck
    good: SeriesCheck
    odd: SeriesCheck | None = None

    @property
    def ids(self) -> list[str]:
        """Return the results a plot marks: both while nothing decided, then the odd one."""
        return [self.odd.id] if self.odd else [self.bad.id, self.good.id]

    @property
    def text(self) -> str:
        """Return the sentence for a series."""
        if self.odd:
            return f"The result of {_day(self.odd)} is the odd one of three runs and does not count."
        return f"The results of {_day(self.bad)} and {_day(self.good)} contradict each other: a third run decides."


def disputes_of(checks: Sequence[SeriesCheck]) -> list[Dispute]:
    """Return the disputes among checks as found of one stretch of history, oldest first."""
    found: list[Dispute] = []
    bad: SeriesCheck | None = None
    for check in checks:
        open_one = found[-1] if found and found[-1].odd is None else None
        if check.against == CONTRADICTS and bad is not None:
            if open_one is None:
                found.append(Dispute(bad, check))
        elif check.against == DECIDED and open_one is not None:
            odd = open_one.good if check.grade in BAD else open_one.bad
            found[-1] = Dispute(open_one.bad, open_one.good, odd)
        if check.grade in BAD:
            bad = check
    return found


def _day(check: SeriesCheck) -> str:
    return day_words(check.at.date())
