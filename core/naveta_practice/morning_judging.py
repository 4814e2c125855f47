"""How a morning's choice went: the instrument, the checks, and the minutes, against what the rules and budgets say."""

from __future__ import annotations

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused, quote
from naveta_core.jobs.fitness import Fitness
from naveta_core.results import Answer, Reason
from naveta_core.units.formatting import closed, count, joined

from .mornings import Morning, morning_of

HABITS: dict[str, str] = {
    "took-an-unfit-one": "Taking an instrument that is not fit for the job",
    "left-without-a-check": "Leaving without a check that is needed",
    "needless-check": "Making checks that nothing asks for",
    "longer-than-needed": "Taking one that needs longer checks than another",
}


class MorningWork(Part):
    """What was taken, and the checks that are made before leaving."""

    verb: str = ""
    lesson: str
    seed: int
    tag: str
    checks: list[str] = Field(default=[], max_length=20)
    seconds: float = Field(ge=0, le=86_400)


class MorningVerdict(Answer):
    """What one of the instruments would have been, in words; `fit` as on a real job."""

    tag: str
    fit: str
    text: str
    minutes: int
    taken: bool


class MorningJudged(Answer):
    """How it went, and what each instrument would have been."""

    lesson: str
    passed: bool
    headline: str
    seconds: float
    instruments: list[MorningVerdict]
    habits: list[Reason]
    otherwise: str


def judge_morning(work: MorningWork) -> MorningJudged:
    """A choice against the core's own answer. Raises Refused for an instrument or a check that is none."""
    morning = morning_of(work.lesson, work.seed)
    taken = morning.fitness(work.tag)
    _refuse_unknown_checks(morning, work)
    habits = _habits(morning, taken, set(work.checks))
    return MorningJudged(
        lesson=work.lesson,
        passed=not habits,
        headline=_headline(habits),
        seconds=work.seconds,
        instruments=[_verdict(each.fitness, taken=tag == work.tag) for tag, each in morning.instruments.items()],
        habits=[Reason(code=code, text=f"{HABITS[code]}.") for code in habits],
        otherwise=_otherwise(morning, taken, set(work.checks), habits),
    )


def _refuse_unknown_checks(morning: Morning, work: MorningWork) -> None:
    known = [kind.name for kind in morning.instruments[work.tag].checks]
    for check in work.checks:
        if check not in known:
            raise Refused([Fault("checks", "the check", quote(check), "one of " + ", ".join(known))])


def _habits(morning: Morning, taken: Fitness, made: set[str]) -> list[str]:
    if taken.fit == "not-fit":
        return ["took-an-unfit-one"]
    needed = {check.check for check in taken.checks}
    kit = morning.kit.kit
    found = {
        "left-without-a-check": bool(needed - made),
        "needless-check": bool(made - needed),
        "longer-than-needed": kit is not None and taken.minutes > kit.minutes,
    }
    return [code for code, seen in found.items() if seen]


def _verdict(entry: Fitness, *, taken: bool) -> MorningVerdict:
    text = entry.text or "Fit as it is."
    return MorningVerdict(tag=entry.tag, fit=entry.fit, text=text, minutes=entry.minutes, taken=taken)


def _headline(habits: list[str]) -> str:
    if not habits:
        return "Fit, with the checks it needs and no other"
    if "took-an-unfit-one" in habits:
        return "Not fit for this job"
    if "left-without-a-check" in habits:
        return "A check is missing before it may go"
    return "Fit, but not the shortest way there"


def _otherwise(morning: Morning, taken: Fitness, made: set[str], habits: list[str]) -> str:
    """One thing to do otherwise, the most serious first."""
    kit = morning.kit.kit
    assert kit is not None, "a morning has a kit"
    titles = {kind.name: kind.title for kind in morning.instruments[taken.tag].checks}
    best = f"{joined(kit.tags)}: {_minutes(kit.minutes)}"
    if "took-an-unfit-one" in habits:
        return f"{taken.tag}: {taken.text} The one to take was {best}."
    missing = [check for check in taken.checks if check.check not in made]
    if missing:
        return f"{closed(missing[0].why)} That check takes {_minutes(missing[0].minutes)}."
    if "longer-than-needed" in habits:
        return f"{taken.tag} needs {_minutes(taken.minutes)} of checks. The shortest way was {best}."
    needless = [titles[check] for check in made if check not in {each.check for each in taken.checks}]
    if needless:
        return f"Nothing asks for the {joined([each[0].lower() + each[1:] for each in sorted(needless)])}: what was passed in time still holds."
    return f"Nothing: {best}."


def _minutes(minutes: int) -> str:
    return count(minutes, "minute", "minutes") if minutes else "no check"
