"""What a round ends in: go, go with care, take again, adjust first, or leave it here."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from .. import __version__
from ..cautions import cautions
from ..checks import KINDS
from ..judgement import Grade
from ..readings import Sheet, ordinal
from ..wording import capital, count, joined
from .choose import propose, title_of
from .model import PreSurvey, Step

Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class Outcome:
    """How it ends, with the grade a record of it carries."""

    code: str
    grade: Grade
    word: str


GO = Outcome("go", "use", "Go")
CARE = Outcome("go-with-care", "watch", "Go, with care")
AGAIN = Outcome("take-again", "repeat", "Take again first")
ADJUST = Outcome("adjust-first", "adjust", "Adjust first")
LEAVE = Outcome("leave-it-here", "service", "Leave it here")
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
    return words.get(path, path.removeprefix("observations.").replace("_", " "))


def _read(document: PreSurvey, sheet: Sheet) -> None:
    """What is at fault or still to come."""
    steps, seen = document.observations.steps, set[str]()
    for i, step in enumerate(steps):
        path = f"observations.steps[{i}]"
        if step.check not in KINDS:
            sheet.fault(f"{path}.check", where(f"{path}.check"), step.check, "one of " + ", ".join(KINDS))
        elif step.check in seen:
            sheet.fault(f"{path}.check", where(f"{path}.check"), title_of(step.check), "each check once in a round")
        elif step.record is None and not step.left_out.strip():
            sheet.want(path, title_of(step.check))
        elif step.record is not None and step.grade is None:
            sheet.fault(f"{path}.grade", where(f"{path}.grade"), "nothing", "what its record says")
        seen.add(step.check)
    if not any(step.record for step in steps) and not sheet.missing:
        sheet.want("observations.steps", "a check that was taken")


def preview(document: PreSurvey) -> Data:
    """What could be taken in the minutes there are, what is done, what comes next; the result once all is told."""
    sheet = Sheet()
    _read(document, sheet)
    complete = not sheet.missing and not sheet.faults
    o = document.observations
    known = document.instrument.model_dump(mode="json", exclude_none=True)
    told: Data = {
        "complete": complete,
        "missing": sheet.missing,
        "wanted": sheet.wanted(),
        "faults": [fault.as_dict() for fault in sheet.faults],
        "proposed": [one.as_dict() for one in propose(known, document.before, document.before_at, o.minutes)],
        "sofar": _so_far(o.steps),
    }
    return {**told, "reduced": reduce(document)} if complete else told


def _so_far(steps: list[Step]) -> str:
    bad = [step for step in steps if step.grade in BY_GRADE]
    if bad:
        outcome = _outcome(steps)
        return f"{outcome.word}: {joined([title_of(step.check).lower() for step in bad])}."
    done = len([step for step in steps if step.record])
    text = f"{count(done, 'check', 'checks')} done, nothing found."
    return capital(text) if done else ""


def _outcome(steps: list[Step]) -> Outcome:
    for grade in ("service", "adjust", "repeat"):
        if any(step.grade == grade for step in steps):
            return BY_GRADE[grade]
    care = any(step.grade == "watch" for step in steps) or any(_missed(step) for step in steps)
    return CARE if care else GO


def _missed(step: Step) -> bool:
    """A check that decides about an instrument and was left out."""
    return step.record is None and step.check in KINDS and KINDS[step.check].gates


def reduce(document: PreSurvey) -> Data:
    """A finished round to its result. Raises Refused with everything missing or at fault."""
    sheet = Sheet()
    _read(document, sheet)
    sheet.demand_complete()
    steps = document.observations.steps
    outcome = _outcome(steps)
    reasons = [{"code": f"found-{step.grade}", "text": _said(step)} for step in steps if step.record]
    reasons += [
        {"code": "left-out", "text": f"{title_of(step.check)} was left out: {step.left_out.strip()}."}
        for step in steps
        if step.record is None
    ]
    return {
        "kind": "pre-survey",
        "result": {
            "outcome": outcome.code,
            "minutes": document.observations.minutes,
            "checks": [
                {
                    "check": step.check,
                    "title": title_of(step.check),
                    "record": step.record,
                    "grade": step.grade,
                    "stage": step.stage,
                }
                for step in steps
            ],
        },
        "finding": {"text": _finding(outcome, steps)},
        "verdict": {
            "grade": outcome.grade,
            "reasons": reasons,
            "next": _next(outcome, steps),
            "parts": [],
            "set_aside": [],
        },
        "shown": [],
        "picture": None,
        "work": [],
        "cautions": cautions(),
        "worked": [],
        "core_version": __version__,
    }


def _said(step: Step) -> str:
    left = ", as left" if step.stage == "as-left" else ""
    return f"{title_of(step.check)}{left}: {step.finding}"


def _finding(outcome: Outcome, steps: list[Step]) -> str:
    bad = [
        title_of(step.check).lower() for step in steps if step.grade is not None and BY_GRADE.get(step.grade) is outcome
    ]
    if outcome is GO:
        return f"Go: {count(len([step for step in steps if step.record]), 'check', 'checks')} good."
    if outcome is CARE:
        minded = [title_of(step.check).lower() for step in steps if step.grade == "watch"]
        missed = [title_of(step.check).lower() for step in steps if _missed(step)]
        parts = [f"mind {joined(minded)}"] if minded else []
        parts += [f"{joined(missed)} not looked at"] if missed else []
        return f"Go, with care: {'; '.join(parts)}."
    return f"{outcome.word}: {joined(bad)}."


def _next(outcome: Outcome, steps: list[Step]) -> list[Data]:
    if outcome is LEAVE:
        return [
            {"code": "out-of-use", "text": "Put it aside, mark it, take another."},
            {"code": "send-to-service", "text": "Its record says what goes to service with it."},
        ]
    if outcome is ADJUST:
        return [
            {
                "code": "adjust-then-round",
                "text": "Open the check marked adjust. If it is proved well enough, adjust and repeat it as left; if not, take it again in full first.",
            }
        ]
    if outcome is AGAIN:
        return [{"code": "take-again", "text": "Take that check again; the others stand."}]
    conditions = [
        {"code": "condition", "text": f"{title_of(step.check)}: {KINDS[step.check].watch_condition}"}
        for step in steps
        if step.grade == "watch"
    ]
    return conditions or [{"code": "carry-on", "text": "Take it."}]
