"""Contradiction between a good result and an earlier bad one.

Two results contradict each other where they differ by more than their joint uncertainty (95 percent, with what an error wanders in the days
between) and no adjusting, service, knock, fall or step in temperature lies between them. Then the later one does not
overrule the earlier: a third run decides, and the two that agree count.
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
CONTRADICTS, DECIDED = "contradicts-record", "two-agree"
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


def contradiction(document: Envelope, grade: Grade, now: Sequence[JudgedNow]) -> CodedText | None:
    """Return the sentence for a good result that contradicts a bad one, or for a third run that decides; None otherwise.

    The code is `contradicts-record` or `two-agree`. An as-left, and what stands in place of a record, contradict
    nothing: their figures are expected to differ.
    """
    if document.stage == "as-left" or document.before_at is None or grade == "repeat":
        return None
    earlier = [one for one in document.before if one.check == document.kind and _comparable(document, one)]
    if grade in BAD:
        return _odd_one(document, earlier, now)
    for i, bad in enumerate(earlier):
        parts = [part for part in now if _was_beyond(part, bad) and _differs(document, part, bad)]
        if bad.grade not in BAD or not parts:
            continue
        # `before` is in order, the newest first: two runs of one minute may have the same time.
        between = [one for one in earlier[:i] if one.disputed]
        agreeing = next((one for one in between if not any(_differs(document, part, one) for part in parts)), None)
        return _decided(document, parts[0], agreeing, bad) if agreeing else _contradicts(document, parts[0], bad)
    return None


def _comparable(document: Envelope, earlier: Earlier) -> bool:
    """Return whether the two results may be compared: no event and no step in temperature between, not the same record."""
    here, there = document.conditions.temperature_c, earlier.temperature_c
    apart = here is not None and there is not None and abs(here - there) >= EVIDENCE_KELVIN
    joined = document.in_place_of is not None and datetime.fromisoformat(
        document.in_place_of
    ) == datetime.fromisoformat(earlier.at)
    return not (earlier.changed_since or apart or joined)


def _was_beyond(part: JudgedNow, earlier: Earlier) -> bool:
    """Return whether this quantity was beyond its limit in the earlier result."""
    value = earlier.figure(part.name)
    return value is not None and abs(value) > part.limits.use


def _differs(document: Envelope, part: JudgedNow, earlier: Earlier) -> bool:
    value, sigma = earlier.figure(part.name), earlier.figure(f"sigma_{part.name}")
    if value is None or sigma is None or document.before_at is None:
        return False
    wandered = wandering(part.limits.use, max(0.0, days_between(earlier.at, document.before_at)))
    joint = hypot(part.estimate.u95, TWO_SIDED * sigma, TWO_SIDED * wandered**0.5)
    return abs(part.estimate.value - value) > joint


def _odd_one(document: Envelope, earlier: Sequence[Earlier], now: Sequence[JudgedNow]) -> CodedText | None:
    """Return the sentence for a bad result that agrees with the bad one before a disputed good one; None otherwise."""
    place = next((i for i, one in enumerate(earlier) if one.disputed), None)
    if place is None:
        return None
    odd = earlier[place]
    for bad in (one for one in earlier[place:] if one.grade in BAD):
        parts = [part for part in now if _was_beyond(part, bad) and _differs(document, part, odd)]
        if parts and not any(_differs(document, part, bad) for part in parts):
            return _decided(document, parts[0], bad, odd)
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


def _contradicts(document: Envelope, part: JudgedNow, bad: Earlier) -> CodedText:
    then, now = _value(part, bad), size(abs(part.estimate.value), part.estimate.u95, part.unit)
    days = f"{then} on {_day(bad.at)}, {now} on {_day(document.before_at or bad.at)}"
    text = f"{capital(part.noun)}: {days}, and nothing on record between them explains the difference. One of the two is wrong."
    return CONTRADICTS, text


def _decided(document: Envelope, part: JudgedNow, agreeing: Earlier, odd: Earlier) -> CodedText:
    days = f"{_day(agreeing.at)} and {_day(document.before_at or odd.at)}"
    odd_one = f"the {_value(part, odd)} of {_day(odd.at)}"
    return DECIDED, f"{capital(part.noun)}: the runs of {days} agree; {odd_one} stays on record as the odd one."


def _value(part: JudgedNow, earlier: Earlier) -> str:
    value, sigma = earlier.figure(part.name) or 0.0, earlier.figure(f"sigma_{part.name}") or 0.0
    return size(abs(value), TWO_SIDED * sigma, part.unit)


def _day(at: str) -> str:
    return day_words(datetime.fromisoformat(at).date())
