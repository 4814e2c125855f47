"""Whether an instrument is fit for a job: where it stands on its first day, which checks come before, and what its error
budget makes of the job.

Fit: nothing stands before it and every wanted quantity lies within the job's tolerance. Fit if: checks or a way of
working come before that. Not fit: on hold, away, or beyond the tolerance whatever the crew does.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import KW_ONLY, dataclass, replace
from typing import Literal

from ..checks import KINDS
from ..documents.envelope import Earlier, Instrument, LimitSet
from ..history.due_list import DueEntry
from ..history.standing import Standing
from ..results import Answer, CodedText, Reason, reasons
from ..setup.advisors.budget import LABELS, Forecast
from ..units.formatting import LengthWords, arcsec, capital, closed, count, joined
from .accuracy import Practice, Working, forecasts, working
from .changes import Change, Excess, applied, changes_for, excess_of
from .errors_in_force import ANGLE_KINDS, LEVEL_KINDS, errors_in_force
from .needs import JobNeeds
from .provable import below_proof, largest_errors, provable_changes

Fit = Literal["fit", "fit-if", "not-fit"]
ROLES: dict[str, tuple[str, ...]] = {
    "angles": ANGLE_KINDS,
    "level": LEVEL_KINDS,
    "staff": ("staff",),
    "tribrach": ("tribrach",),
    "tripod": ("tripod",),
    "pole": ("pole",),
}
"""What a kit is made of, and the kinds of instrument that serve."""
ROLE_WORDS = {
    "angles": ("total station or theodolite", "total stations and theodolites"),
    "level": ("level", "levels"),
    "staff": ("staff", "staffs"),
    "tribrach": ("tribrach", "tribrachs"),
    "tripod": ("tripod", "tripods"),
    "pole": ("pole", "poles"),
}
"""One and several of each part of a kit."""


OUT_OF_REACH = "that takes another instrument, or shorter sights"


@dataclass(frozen=True, slots=True)
class Candidate:
    """An instrument that could go: what is known of it, and where it stands and what is due on the first day of the job."""

    tag: str
    model: str
    instrument: Instrument
    _: KW_ONLY
    standing: Standing
    due: Sequence[DueEntry] = ()
    limits: Mapping[str, LimitSet] | None = None
    before: Sequence[Earlier] = ()
    own: bool = True
    """Whether the crew holds it already."""
    place: str = ""


class CheckBefore(Answer):
    """A check that comes before the work: before leaving, or on site where the temperature asks for it there."""

    check: str
    title: str
    minutes: int
    where: Literal["before-leaving", "on-site"]
    why: str


class Fitness(Answer):
    """Whether one instrument is fit for the job, under which conditions, and what it can do there."""

    tag: str
    model: str
    kind: str
    role: str
    role_title: str
    place: str
    own: bool
    fit: Fit
    text: str
    """What comes before, and under which conditions; why it is not fit; empty where it is fit as it is."""
    reasons: list[Reason]
    """Why it is not fit, or what it depends on."""
    checks: list[CheckBefore]
    minutes: int
    conditions: list[Reason]
    budgets: list[Forecast]


def needed_roles(needs: JobNeeds) -> dict[str, int]:
    """How many of each part of a kit the job asks for."""
    numbers = {
        "angles": int(needs.by_angles),
        "level": int(needs.by_level),
        "staff": needs.staffs,
        "tribrach": needs.tribrachs,
        "tripod": needs.tripods,
        "pole": needs.poles,
    }
    return {role: number for role, number in numbers.items() if number}


def role_of(instrument: Instrument, needs: JobNeeds) -> str | None:
    """What an instrument would be in the kit; None where the job has no use for it."""
    wanted = needed_roles(needs)
    return next((role for role in wanted if instrument.kind in ROLES[role]), None)


def fitness_of(
    candidate: Candidate, needs: JobNeeds, practice: Practice, words: LengthWords, now: str
) -> Fitness | None:
    """Whether a candidate is fit for a job; None for what the job has no use for. now: ISO with offset."""
    role = role_of(candidate.instrument, needs)
    if role is None:
        return None
    checks = checks_before(candidate)
    if candidate.standing.state in ("hold", "away"):
        return _answer(candidate, role, "not-fit", checks=[], conditions=[], why=candidate.standing.reasons, budgets=[])
    conditions = [
        reason for reason in candidate.standing.reasons if reason.code in ("condition", "released", "skipped")
    ]
    if role not in ("angles", "level"):
        return _answer(
            candidate, role, _fit(checks, conditions), checks=checks, conditions=conditions, why=[], budgets=[]
        )
    return _measuring(
        candidate, role, needs, practice=practice, words=words, now=now, checks=checks, conditions=conditions
    )


def checks_before(candidate: Candidate) -> list[CheckBefore]:
    """What has to be checked before the work, in the order in which the checks depend on each other."""
    waits = {check.check: check for check in candidate.standing.checks if check.needed}
    found = []
    for entry in candidate.due:
        if entry.check not in KINDS:
            continue
        if entry.check in waits:
            found.append(_before(entry.check, "before-leaving", waits[entry.check].reasons[0].text))
        there = next((reason for reason in entry.reasons if reason.code == "job-temperature"), None)
        if there is not None and entry.state in ("due", "overdue"):
            found.append(_before(entry.check, "on-site", there.text))
    return found


def _before(check: str, where: Literal["before-leaving", "on-site"], why: str) -> CheckBefore:
    kind = KINDS[check]
    return CheckBefore(check=check, title=kind.title, minutes=kind.minutes, where=where, why=why)


def _measuring(
    candidate: Candidate,
    role: str,
    needs: JobNeeds,
    *,
    practice: Practice,
    words: LengthWords,
    now: str,
    checks: list[CheckBefore],
    conditions: list[Reason],
) -> Fitness:
    missing = _missing(candidate.instrument, needs)
    if missing:
        return _answer(candidate, role, "not-fit", checks=checks, conditions=conditions, why=[missing], budgets=[])
    errors = errors_in_force(candidate.instrument, candidate.limits or {}, candidate.before, now)
    way = working(candidate.instrument, errors, candidate.before, needs, practice)
    way = replace(way, renewed=frozenset(entry.check for entry in checks))
    changes, changed = _changes(way, needs, candidate.instrument, words)
    checks = _in_order([*checks, *(_renewed(way, change) for change in changes if _is_check(change))])
    conditions = [
        *conditions,
        *(Reason(code=change.code, text=change.text) for change in changes if not _is_check(change)),
    ]
    over = excess_of(changed, needs)
    why = _what_stands_in_the_way(over[0], words) if over else below_proof(changed, _names(checks), needs)
    if not why:
        conditions = [*conditions, *largest_errors(changed, _names(checks), needs)]
    return _answer(
        candidate,
        role,
        "not-fit" if why else _fit(checks, conditions),
        checks=checks,
        conditions=conditions,
        why=why,
        budgets=forecasts(way if over else changed, needs, words),
    )


def _changes(way: Working, needs: JobNeeds, instrument: Instrument, words: LengthWords) -> tuple[list[Change], Working]:
    """Return the changes of method that meet the job with provable conditions, and the work with them."""
    changes = changes_for(way, needs, instrument, words)
    changed = applied(way, changes)
    if excess_of(changed, needs):
        return [], changed
    more = provable_changes(changed, changed.renewed, needs, instrument, words)
    made = [*(change for change in changes if change.code not in {other.code for other in more}), *more]
    for change in list(made):
        # With these some of the others are no longer needed.
        others = applied(way, [other for other in made if other is not change])
        spared = more and change not in more and not _is_check(change)
        if spared and not excess_of(others, needs) and not below_proof(others, others.renewed, needs):
            made.remove(change)
    return made, applied(way, made)


def _is_check(change: Change) -> bool:
    return change.code.startswith("check-")


def _names(checks: Sequence[CheckBefore]) -> frozenset[str]:
    return frozenset(entry.check for entry in checks)


def _renewed(way: Working, change: Change) -> CheckBefore:
    check = change.code.removeprefix("check-")
    return _before(check, "before-leaving", _why_renewed(way, check))


def _missing(instrument: Instrument, needs: JobNeeds) -> Reason | None:
    if needs.position_mm is not None and instrument.kind in ANGLE_KINDS and instrument.kind == "theodolite":
        return Reason(code="no-distances", text="It measures no distances: a point cannot be set out with it alone.")
    return None


def _why_renewed(way: Working, check: str) -> str:
    ages = [error.days for error in way.errors if error.felt.check == check and error.days is not None]
    title = KINDS[check].title
    if not ages:
        return f"{title}: assumed, not measured: the job depends on it, so twice its limit is allowed for."
    return f"{title}: the last one is {count(round(min(ages)), 'day', 'days')} old, and the job depends on it."


def _in_order(checks: list[CheckBefore]) -> list[CheckBefore]:
    return sorted(checks, key=lambda entry: (entry.where, list(KINDS).index(entry.check)))


def _what_stands_in_the_way(over: Excess, words: LengthWords) -> list[Reason]:
    """The part that decides, and what would change it, where the crew can do no more."""
    name, unit = over.part.name, over.entry.quantity
    shown = arcsec if unit == "angle" else lambda value: words.small(value / 1000)
    total, wanted, left = (shown(v) for v in (over.entry.total95, over.wanted, over.entry.without(name)))
    texts: list[CodedText] = [
        ("beyond", f"At best {total} instead of {wanted}. Largest part: {LABELS[name]}, {shown(abs(over.part.value))}.")
    ]
    if over.needed:
        texts.append((name, f"It would have to be {shown(over.needed)}: {OUT_OF_REACH}."))
    else:
        texts.append((name, f"Even without it {left}: {OUT_OF_REACH}."))
    return reasons(texts)


def _fit(checks: Sequence[CheckBefore], conditions: Sequence[Reason]) -> Fit:
    return "fit-if" if checks or conditions else "fit"


def _answer(
    candidate: Candidate,
    role: str,
    fit: Fit,
    *,
    checks: list[CheckBefore],
    conditions: list[Reason],
    why: list[Reason],
    budgets: list[Forecast],
) -> Fitness:
    shown = [] if fit == "not-fit" else checks
    minutes = sum(entry.minutes for entry in shown)
    return Fitness(
        tag=candidate.tag,
        model=candidate.model,
        kind=candidate.instrument.kind or "",
        role=role,
        role_title=capital(ROLE_WORDS[role][1]),
        place=candidate.place,
        own=candidate.own,
        fit=fit,
        text=_text(shown, conditions, why),
        reasons=why,
        checks=shown,
        minutes=minutes,
        conditions=conditions,
        budgets=budgets,
    )


def _text(checks: Sequence[CheckBefore], conditions: Sequence[Reason], why: Sequence[Reason]) -> str:
    """'Check first: two-peg test, 15 minutes. Observe in both faces.', 'Dropped on 20 Mar …', ''."""
    if why:
        return closed(why[0].text)
    titles = [
        f"{check.title[0].lower()}{check.title[1:]}{' on site' if check.where == 'on-site' else ''}" for check in checks
    ]
    minutes = sum(check.minutes for check in checks)
    first = [f"Check first: {joined(titles)}, {count(minutes, 'minute', 'minutes')}."] if checks else []
    return " ".join([*first, *(closed(condition.text) for condition in conditions)])
