"""Which checks a pre-work check takes: the most needed, as many as the minutes allow, in the order they depend on each other.

How much a check is wanted: found bad or not decided last time, then never passed or due by the firm's rules, as the due list
and the yard have it; then by how soon it is due. Where nobody said what is due, the share of the default interval gone by
counts. What passed on the same day is fresh. What a check is measured through is taken with it.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from ..checks import KINDS, kinds_for
from ..documents.envelope import DueCheck, Earlier, Instrument, days_between
from ..engine.kind import Kind
from ..history.facts import day_words
from ..units.formatting import count
from .results import ProposedCheck

BAD, NEVER = 3.0, 2.0


def of_round(instrument: Instrument) -> list[Kind]:
    """The checks of an instrument that have a quick form, in the order in which they depend on each other."""
    return [kind for kind in kinds_for(instrument) if kind.quick is not None]


def propose(
    instrument: Instrument,
    before: Sequence[Earlier],
    now: str | None,
    minutes: float,
    due: Sequence[DueCheck] = (),
) -> list[ProposedCheck]:
    """Every check a round could take, in order; `taken` where it fits into the minutes."""
    kinds = of_round(instrument)
    by_check = {entry.check: entry for entry in due}
    wanted = {kind.name: _wanted(kind, before, now, by_check.get(kind.name)) for kind in kinds}
    chosen: set[str] = set()
    left = minutes
    for kind in sorted(kinds, key=lambda entry: -wanted[entry.name][0]):
        if wanted[kind.name][0] <= 0:
            continue
        needed = [kind, *(other for other in kinds if kind.name in other.invalidates and wanted[other.name][0] > 0)]
        needed = [entry for entry in needed if entry.name not in chosen]
        minutes_needed = sum_of(needed)
        if minutes_needed <= left or not chosen:
            chosen |= {entry.name for entry in needed}
            left -= minutes_needed
    return [_proposed(kind, instrument, wanted[kind.name], taken=kind.name in chosen, left=left) for kind in kinds]


def sum_of(kinds: Sequence[Kind]) -> int:
    """Minutes of the checks together."""
    total = 0
    for kind in kinds:
        total += kind.quick[1] if kind.quick else 0
    return total


def _proposed(
    kind: Kind, instrument: Instrument, wanted: tuple[float, str, str], *, taken: bool, left: float
) -> ProposedCheck:
    score, code, why = wanted
    assert kind.quick is not None
    method, minutes = kind.quick
    suits = kind.methods_for(instrument)
    method = method if method in suits or not suits else suits[0]
    if not taken and score > 0:
        short = count(max(1, round(minutes - left)), "minute", "minutes")
        code, why = "no-time", f"{why} It takes {short} more than you have."
    return ProposedCheck(
        check=kind.name, title=kind.title, method=method, minutes=minutes, taken=taken, code=code, why=why
    )


def _wanted(kind: Kind, before: Sequence[Earlier], now: str | None, due: DueCheck | None) -> tuple[float, str, str]:
    """How much a check is wanted, and why."""
    own = [earlier for earlier in before if earlier.check == kind.name]
    if own and not own[0].good:
        return BAD, "not-good-last", "The last one did not pass."
    passed = next((entry for entry in own if entry.good), None)
    days = _days(passed.at, now) if passed else None
    if passed is None or days is None:
        return NEVER, "not-passed", "No pass on record since it was last knocked, adjusted or added."
    left = _days_left(due, now)
    if due is not None and (due.needed or (left is not None and left < 0)):
        return NEVER, "due", due.text
    if _same_day(passed.at, now):
        return 0.0, "passed-today", "Already passed today."
    if due is not None and left is not None:
        when = f"due again on {day_words(date.fromisoformat(due.due_on))}"
        return 1 / (1 + left), "passed-before", f"Passed {count(round(days), 'day', 'days')} ago; {when}."
    gone = count(round(days), "day", "days")
    return (
        min(days / kind.interval_days, 1.9) + 0.001,
        "passed-before",
        f"Passed {gone} ago; due every {kind.interval_days}.",
    )


def _days_left(due: DueCheck | None, now: str | None) -> int | None:
    """Days until it is due; on a device it may have come due since it was last given."""
    if due is None or now is None:
        return None
    return (date.fromisoformat(due.due_on) - date.fromisoformat(now[:10])).days


def _days(then: str, now: str | None) -> float | None:
    return None if now is None else days_between(then, now)


def _same_day(then: str, now: str | None) -> bool:
    days = _days(then, now)
    return days is not None and now is not None and 0 <= days < 1 and then[:10] == now[:10]


def title_of(check: str) -> str:
    """What a check is called."""
    return KINDS[check].title if check in KINDS else check
