"""What a round ends in: go, go with care, take again, adjust first, or leave it here.

Source: the grades of its checks; no formula of its own.
"""

from __future__ import annotations

from dataclasses import dataclass

from .. import __version__
from ..cautions import cautions
from ..checks import KINDS
from ..documents.envelope import Instrument
from ..engine.parser import Parser, ordinal
from ..errors import path_in_words
from ..results import CodedText, Finding, Result, Verdict, reasons
from ..stats.decision import Grade
from ..units.formatting import capital, count, joined
from .choose import propose, title_of
from .document import ReadinessCheck, ReadinessStep
from .results import CheckTaken, ReadinessFigures, ReadinessPreview


@dataclass(frozen=True, slots=True)
class Outcome:
    """How it ends, with the grade a record of it carries."""

    code: str
    grade: Grade
    word: str


GO = Outcome("go", "use", "Go")
CARE = Outcome("go-with-care", "watch", "Go, with conditions")
AGAIN = Outcome("take-again", "repeat", "Repeat a check first")
ADJUST = Outcome("adjust-first", "adjust", "Adjust first")
LEAVE = Outcome("leave-it-here", "service", "Do not take it")
BY_GRADE = {"service": LEAVE, "adjust": ADJUST, "repeat": AGAIN}


def where(path: str) -> str:
    """A path of a round, for the person."""
    words = {
        "observations.minutes": "the minutes there are",
        "observations.steps": "the checks",
        "$": "the whole document",
    }
    if path.startswith("observations.steps["):
        index, _, field = path.removeprefix("observations.steps[").partition("]")
        if not (index.isascii() and index.isdigit()):
            return words["observations.steps"]
        return f"the {ordinal(int(index))} check" + (f", {field.lstrip('.').replace('_', ' ')}" if field else "")
    return words.get(path, path_in_words(path))


def _read(document: ReadinessCheck, parser: Parser) -> None:
    """What is at fault or still to come."""
    steps, seen = document.observations.steps, set[str]()
    for i, step in enumerate(steps):
        path = f"observations.steps[{i}]"
        if step.check not in KINDS:
            parser.fault(f"{path}.check", where(f"{path}.check"), step.check, "one of " + ", ".join(KINDS))
        elif step.check in seen:
            parser.fault(f"{path}.check", where(f"{path}.check"), title_of(step.check), "each check once")
        elif step.record is None and not step.left_out.strip():
            parser.want(path, title_of(step.check))
        elif step.record is not None and step.grade is None:
            parser.fault(f"{path}.grade", where(f"{path}.grade"), "nothing", "what its record says")
        seen.add(step.check)
    if not any(step.record for step in steps) and not parser.missing:
        parser.want("observations.steps", "a check that was done")


def preview(document: ReadinessCheck) -> ReadinessPreview:
    """What could be taken in the minutes there are, what is done, what comes next; the result once all is given."""
    parser = Parser()
    _read(document, parser)
    complete = not parser.missing and not parser.faults
    o = document.observations
    reduced = {"reduced": reduce(document)} if complete else {}
    return ReadinessPreview(
        complete=complete,
        missing=parser.missing,
        wanted=parser.wanted(),
        faults=parser.faults,
        proposed=propose(document.instrument, document.before, document.before_at, o.minutes, document.due),
        progress=_so_far(o.steps),
        **reduced,
    )


def _so_far(steps: list[ReadinessStep]) -> str:
    bad = [step for step in steps if step.grade in BY_GRADE]
    if bad:
        outcome = _outcome(steps)
        return f"{outcome.word}: {joined([title_of(step.check).lower() for step in bad])}."
    done = len([step for step in steps if step.record])
    text = f"{count(done, 'check', 'checks')} done, no errors found."
    return capital(text) if done else ""


def _outcome(steps: list[ReadinessStep]) -> Outcome:
    for grade in ("service", "adjust", "repeat"):
        if any(step.grade == grade for step in steps):
            return BY_GRADE[grade]
    care = any(step.grade == "watch" for step in steps) or any(_missed(step) for step in steps)
    return CARE if care else GO


def _missed(step: ReadinessStep) -> bool:
    """A check that decides about an instrument and was left out."""
    return step.record is None and step.check in KINDS and KINDS[step.check].blocks_release


def reduce(document: ReadinessCheck) -> Result:
    """A finished pre-work check to its result. Raises Refused with everything missing or at fault."""
    parser = Parser()
    _read(document, parser)
    parser.demand_complete()
    steps = document.observations.steps
    outcome = _outcome(steps)
    why = [(f"found-{step.grade}", _shown(step)) for step in steps if step.record]
    why += [
        ("left-out", f"{title_of(step.check)} was skipped: {step.left_out.strip()}.")
        for step in steps
        if step.record is None
    ]
    return Result(
        kind="pre-survey",
        result=_figures(document, outcome),
        finding=Finding(text=_finding(outcome, steps)),
        verdict=Verdict(
            grade=outcome.grade,
            reasons=reasons(why),
            next=reasons(_next(outcome, steps, document.instrument)),
            parts=[],
            set_aside=[],
        ),
        shown=[],
        picture=None,
        work=[],
        cautions=cautions(),
        worked=[],
        core_version=__version__,
    )


def _figures(document: ReadinessCheck, outcome: Outcome) -> ReadinessFigures:
    checks = [
        CheckTaken(check=step.check, title=title_of(step.check), record=step.record, grade=step.grade, stage=step.stage)
        for step in document.observations.steps
    ]
    return ReadinessFigures(outcome=outcome.code, minutes=document.observations.minutes, checks=checks)


def _shown(step: ReadinessStep) -> str:
    left = ", as left" if step.stage == "as-left" else ""
    return f"{title_of(step.check)}{left}: {step.finding}"


def _finding(outcome: Outcome, steps: list[ReadinessStep]) -> str:
    bad = [
        title_of(step.check).lower() for step in steps if step.grade is not None and BY_GRADE.get(step.grade) is outcome
    ]
    if outcome is GO:
        return f"Go: {count(len([step for step in steps if step.record]), 'check', 'checks')} good."
    if outcome is CARE:
        watched = [title_of(step.check).lower() for step in steps if step.grade == "watch"]
        missed = [title_of(step.check).lower() for step in steps if _missed(step)]
        parts = [f"observe {joined(watched)}"] if watched else []
        parts += [f"{joined(missed)} not checked"] if missed else []
        return f"Go, with conditions: {'; '.join(parts)}."
    return f"{outcome.word}: {joined(bad)}."


def _next(outcome: Outcome, steps: list[ReadinessStep], instrument: Instrument) -> list[CodedText]:
    if outcome is LEAVE:
        return [
            ("out-of-use", "Set it aside, label it, use another."),
            ("send-to-service", "Its record lists what goes with it to service."),
        ]
    if outcome is ADJUST:
        text = "Open the check graded adjust. If its ± is small enough, adjust and repeat it as left; otherwise do the full check first."
        return [("adjust-then-round", text)]
    if outcome is AGAIN:
        return [("take-again", "Repeat that check; the others remain valid.")]
    conditions = [
        ("condition", f"{title_of(step.check)}: {KINDS[step.check].condition_for(instrument)}")
        for step in steps
        if step.grade == "watch"
    ]
    return conditions or [("carry-on", "Fit for use.")]
