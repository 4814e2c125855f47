"""Contradiction between a good result and an earlier bad one.

Two results contradict each other where they differ by more than their joint uncertainty (95 percent, with what an error wanders in the days
between) and no adjusting, service, knock, fall or step in temperature lies between them; so do two looks of which one found
something loose or sticking and the other did not. Then the later one does not overrule the earlier: a third run decides, and
the two that agree count.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import hypot

from ..documents.envelope import Earlier, Envelope, days_between
from ..results import CodedText
from ..stats.decision import EVIDENCE_KELVIN, Grade, Limits, wandering
from ..stats.estimate import Estimate
from ..units.formatting import capital, day_words, size

TWO_SIDED = 1.96
CONFIRMING_DAYS = 7.0
"""Longest time between two checks of which one confirms the other."""
BAD: tuple[Grade, ...] = ("adjust", "service")
GOOD: tuple[Grade, ...] = ("use", "watch")
CONTRADICTS, DECIDED = "contradicts-record", "two-agree"
NOT_LOOKED = ("not-looked", "not-tapped")
"""What a record says when its quick looks were passed over."""
THIRD_RUN: CodedText = (
    "third-run",
    "Run it a third time, from a fresh set-up: the two that agree decide. Until then it stays on hold.",
)


@dataclass(frozen=True, slots=True)
class JudgedNow:
    """One judged quantity of the present result, in the unit given; `noun` is its name in a sentence."""

    name: str
    noun: str
    unit: str
    estimate: Estimate
    limits: Limits

    def was_bad(self, earlier: Earlier) -> bool:
        """Return whether this quantity was beyond its limit in the earlier result."""
        value = earlier.figure(self.name)
        return value is not None and abs(value) > self.limits.use

    def differs(self, earlier: Earlier, now: str) -> bool:
        """Return whether it lies further from the earlier result than both are sure of. now: ISO with offset."""
        value, sigma = earlier.figure(self.name), earlier.figure(f"sigma_{self.name}")
        if value is None or sigma is None:
            return False
        wandered = wandering(self.limits.use, max(0.0, days_between(earlier.at, now)))
        joint = hypot(self.estimate.u95, TWO_SIDED * sigma, TWO_SIDED * wandered**0.5)
        return abs(self.estimate.value - value) > joint

    def then_and_now(self, earlier: Earlier) -> tuple[str, str]:
        """Return both results in words."""
        return self._value(earlier), size(abs(self.estimate.value), self.estimate.u95, self.unit)

    def odd(self, earlier: Earlier) -> str:
        """Return how a sentence names the result that agrees with no other."""
        return f"the {self._value(earlier)} of {_day(earlier.at)}"

    def _value(self, earlier: Earlier) -> str:
        value, sigma = earlier.figure(self.name) or 0.0, earlier.figure(f"sigma_{self.name}") or 0.0
        return size(abs(value), TWO_SIDED * sigma, self.unit)


@dataclass(frozen=True, slots=True)
class LookNow:
    """What a look can find wrong, by its code, and whether it did; `looked`: whether everything was looked at."""

    name: str
    noun: str
    found: bool
    looked: bool = True

    def was_bad(self, earlier: Earlier) -> bool:
        """Return whether the earlier look found it."""
        return self.name in earlier.looks

    def differs(self, earlier: Earlier, _now: str) -> bool:
        """Return whether one look found it and the other did not."""
        return self.was_bad(earlier) != self.found

    def then_and_now(self, earlier: Earlier) -> tuple[str, str]:
        """Return both looks in words."""
        now = "found" if self.found else "not found" if self.looked else "not looked at in full"
        return "found" if self.was_bad(earlier) else "not found", now

    def odd(self, earlier: Earlier) -> str:
        """Return how a sentence names the look that agrees with no other."""
        return f"the look of {_day(earlier.at)}"


Compared = JudgedNow | LookNow


def contradiction(document: Envelope, grade: Grade, now: Sequence[Compared]) -> CodedText | None:
    """Return the sentence for a good result that contradicts a bad one, or for a third run that decides; None otherwise.

    The code is `contradicts-record` or `two-agree`. An as-left, and what stands in place of a record, contradict
    nothing: their figures are expected to differ.
    """
    at = document.before_at
    if document.stage == "as-left" or at is None or grade == "repeat":
        return None
    earlier = [one for one in document.before if one.check == document.kind and _comparable(document, one)]
    if grade in BAD:
        return _odd_one(earlier, now, at)
    for i, bad in enumerate(earlier):
        if bad.grade in GOOD and not any(part.differs(bad, at) for part in now):
            return None  # a good one with the same result settled what was before it
        parts = [part for part in now if part.was_bad(bad) and part.differs(bad, at)]
        if bad.grade not in BAD or not parts:
            continue
        # `before` is in order, the newest first: two runs of one minute may have the same time.
        between = [one for one in earlier[:i] if one.disputed]
        agreeing = next((one for one in between if not any(part.differs(one, at) for part in parts)), None)
        return _decided(parts[0], agreeing, bad, at) if agreeing else _contradicts(parts[0], bad, at)
    return None


def _comparable(document: Envelope, earlier: Earlier) -> bool:
    """Return whether the two results may be compared: no event and no step in temperature between, not the same record."""
    here, there = document.conditions.temperature_c, earlier.temperature_c
    apart = here is not None and there is not None and abs(here - there) >= EVIDENCE_KELVIN
    joined = document.in_place_of is not None and datetime.fromisoformat(
        document.in_place_of
    ) == datetime.fromisoformat(earlier.at)
    return not (earlier.changed_since or apart or joined)


def _odd_one(earlier: Sequence[Earlier], now: Sequence[Compared], at: str) -> CodedText | None:
    """Return the sentence for a bad result that agrees with the bad one before a disputed good one; None otherwise."""
    place = next((i for i, one in enumerate(earlier) if one.disputed), None)
    if place is None:
        return None
    odd = earlier[place]
    for bad in (one for one in earlier[place:] if one.grade in BAD):
        parts = [part for part in now if part.was_bad(bad) and part.differs(odd, at)]
        if parts and not any(part.differs(bad, at) for part in parts):
            return _decided(parts[0], bad, odd, at)
    return None


def found_twice(document: Envelope, part: JudgedNow) -> bool:
    """Return whether the last check, at most a week ago, found the same: beyond its ± and the limit, the same way."""
    last = next((one for one in document.before if one.check == document.kind), None)
    if last is None or document.before_at is None or not _comparable(document, last):
        return False
    value, sigma = last.figure(part.name), last.figure(f"sigma_{part.name}")
    if value is None or sigma is None or days_between(last.at, document.before_at) > CONFIRMING_DAYS:
        return False
    beyond_then = abs(value) > max(part.limits.use, TWO_SIDED * sigma)
    return beyond_then and abs(part.estimate.value) > part.estimate.u95 and value * part.estimate.value > 0


def _contradicts(part: Compared, bad: Earlier, at: str) -> CodedText:
    then, now = part.then_and_now(bad)
    days = f"{then} on {_day(bad.at)}, {now} on {_day(at)}"
    text = f"{capital(part.noun)}: {days}, and nothing on record between them explains the difference. One of the two is wrong."
    return CONTRADICTS, text


def _decided(part: Compared, agreeing: Earlier, odd: Earlier, at: str) -> CodedText:
    days = f"{_day(agreeing.at)} and {_day(at)}"
    text = f"{capital(part.noun)}: the runs of {days} agree; {part.odd(odd)} stays on record as the odd one."
    return DECIDED, text


def _day(at: str) -> str:
    return day_words(datetime.fromisoformat(at).date())
