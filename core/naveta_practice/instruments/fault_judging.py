"""How somebody did who had to find a fault: what was named, and whether the checks that were run show it."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused
from naveta_core.results import Reason

from ..results import Figure
from .faults import FaultSituation, Named, fault_of, named_in
from .hidden import hidden_of
from .judging import HABITS, InstrumentJudged, JudgedError, figures_of, judged_error, often_blurred
from .way import CheckRun

FAULT_HABITS: dict[str, str] = {
    "named-unchecked": "Naming a fault without the check that shows it",
    "nothing-unchecked": "Clearing an instrument before every check was run",
}
ALL_HABITS = {**HABITS, **FAULT_HABITS}
GOOD_ENOUGH = "what is wrong is named after its check; that nothing is wrong, after every check"


class FaultWork(Part):
    """What was done: what was named, and the finished sheet of each check that was run, by the lesson it is practised in."""

    verb: str = ""
    lesson: str
    seed: int
    named: str
    checks: dict[str, dict[str, Any]] = Field(default={}, max_length=6)
    blurs: list[Figure] = Field(default=[], max_length=400)
    seconds: float = Field(ge=0, le=86_400)


def judge_fault(work: FaultWork) -> InstrumentJudged:
    """What was named against what is wrong. Raises Refused for a name or a check that is none, or an unfinished sheet."""
    situation = fault_of(work.lesson, work.seed)
    named = named_in(situation.lesson, work.named)
    for part in work.checks:
        if part not in situation.seeds:
            raise Refused([Fault(f"checks.{part}", "the check", part, "one of " + ", ".join(situation.seeds))])
    errors = [error for part, sheet in work.checks.items() for error in _errors(part, situation.seeds[part], sheet)]
    right = work.named == situation.name
    habits = _habits(work, situation, named)
    proven = not {"named-unchecked", "nothing-unchecked"} & set(habits)
    return InstrumentJudged(
        lesson=work.lesson,
        passed=right and proven,
        headline=_headline(right=right, proven=proven),
        seconds=work.seconds,
        errors=errors,
        habits=[Reason(code=code, text=f"{ALL_HABITS[code]}.") for code in habits],
        otherwise=_otherwise(situation, named, right=right, habits=habits),
        checks=_checks_run(work, situation),
    )


def _checks_run(work: FaultWork, situation: FaultSituation) -> list[CheckRun]:
    """The shortest way: the one check that shows the fault; every check where nothing is wrong."""
    needed = [situation.fault.part] if situation.fault else list(situation.seeds)
    taken = list(work.checks)
    return [
        CheckRun(
            title=KINDS[hidden_of(part, seed).lesson.check].title,
            taken=_place(part, taken),
            shortest=_place(part, needed),
        )
        for part, seed in situation.seeds.items()
    ]


def _place(part: str, order: list[str]) -> int:
    return order.index(part) + 1 if part in order else 0


def _errors(part: str, seed: int, sheet: dict[str, Any]) -> list[JudgedError]:
    hidden = hidden_of(part, seed)
    figures = figures_of(sheet, hidden)
    return [judged_error(error, float(figures[name]), {}) for name, error in hidden.errors.items()]


def _habits(work: FaultWork, situation: FaultSituation, named: Named | None) -> list[str]:
    found = []
    if often_blurred(work.blurs):
        found.append("not-focused")
    if named and named.part not in work.checks:
        found.append("named-unchecked")
    if named is None and set(situation.seeds) - set(work.checks):
        found.append("nothing-unchecked")
    return found


def _headline(*, right: bool, proven: bool) -> str:
    if right and proven:
        return "Found, and shown by its check"
    return "Named right, but not shown by a check" if right else "That was not the fault"


def _otherwise(situation: FaultSituation, named: Named | None, *, right: bool, habits: list[str]) -> str:
    fault = situation.fault
    truth = f"{fault.label} was wrong." if fault else "Nothing was wrong with it."
    if not right and fault:
        return f"{truth} “{fault.noticed}” is what its check is for: run that one first."
    if not right:
        return f"{truth} What was noticed came from a reading: check before you name something."
    if "named-unchecked" in habits or "nothing-unchecked" in habits:
        return f"{truth} Only a check shows that: run it before you name something."
    return (
        f"{truth} You showed it before you named it."
        if named
        else f"{truth} You checked everything before you decided."
    )
