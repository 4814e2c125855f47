"""How somebody did with a simulated instrument: what was hidden, what was found, and how it was left."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import Field

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused
from naveta_core.registry import check_of
from naveta_core.results import Answer, Reason
from naveta_core.units.formatting import figure, signed

from ..results import Figure
from .hidden import Hidden, HiddenError, Turns, hidden_of, moved_by
from .lesson import Unit
from .looking import Turned
from .way import MAX_STEPS, CheckRun, InstrumentStep, StepCount, counts_of

BLURRED = 1.5
"""A look more blurred than this moves with the eye by more than a reading may be wrong."""
HABITS: dict[str, str] = {
    "not-focused": "Reading before the picture is sharp",
    "turned-a-good-one": "Adjusting an instrument that is good",
    "left-as-found": "Leaving an instrument that should be adjusted",
    "not-checked-again": "Not checking again after adjusting",
}
WORN = " Its screw is worn: it moves nothing at first when it is turned round, so turn to each place the same way."
SHOWN: dict[Unit, tuple[int, str]] = {
    "arcsec": (0, "″"), "div": (1, " div"), "mm": (1, " mm"), "ppm": (0, " ppm"), "mm_per_km": (1, " mm/km"),
}  # fmt: skip
"""Decimals and sign of each unit."""


class InstrumentWork(Part):
    """What was done: the sheet as found, turns of the screws, the sheet as left where there is one, and how blurred each look
    was at which something was typed."""

    verb: str = ""
    lesson: str
    seed: int
    found: dict[str, Any]
    turns: Turned = Field(default={}, max_length=10)
    left: dict[str, Any] | None = None
    blurs: list[Figure] = Field(default=[], max_length=400)
    steps: list[InstrumentStep] = Field(default=[], max_length=MAX_STEPS)
    seconds: float = Field(ge=0, le=86_400)


class JudgedError(Answer):
    """One error in its unit: `truth` was hidden, `found` is what the readings say, `left` is hidden now; each also as it is
    shown. `most`: the end of a scale that shows all three."""

    label: str
    truth: float
    found: float
    left: float
    truth_text: str
    found_text: str
    left_text: str
    most: float


class InstrumentJudged(Answer):
    """How it went, error by error."""

    lesson: str
    passed: bool
    headline: str
    seconds: float
    errors: list[JudgedError]
    habits: list[Reason]
    otherwise: str
    counts: list[StepCount] = []
    """How often each thing was done, beside the shortest way; empty where no steps were sent."""
    checks: list[CheckRun] = []
    """Where a fault is looked for: which checks were run, beside the shortest way."""


def judge_instrument(work: InstrumentWork) -> InstrumentJudged:
    """Readings and screws against what was hidden. Raises Refused for a sheet that is not finished."""
    hidden = hidden_of(work.lesson, work.seed)
    turns = moved_by(hidden, work.turns)
    result = result_of(work.found, hidden)
    errors = list(hidden.errors.values())
    found = [float(result["result"][error.spec.quantity]) for error in errors]
    advice = {error.spec.quantity: advice_of(result, error.spec.quantity) for error in errors}
    missed = [
        abs(value - error.value) > max(error.spec.within, advice[error.spec.quantity].u95)
        for value, error in zip(found, errors, strict=True)
    ]
    habits = _habits(work, hidden, turns, advice)
    left = all(_left_well(error, turns, advice[error.spec.quantity]) for error in errors)
    right = left and not {"turned-a-good-one", "left-as-found"} & set(habits)
    return InstrumentJudged(
        lesson=work.lesson,
        passed=not any(missed) and right,
        headline=_headline(right=right, near=not any(missed)),
        seconds=work.seconds,
        errors=[judged_error(error, value, turns) for error, value in zip(errors, found, strict=True)],
        habits=[Reason(code=code, text=f"{HABITS[code]}.") for code in habits],
        otherwise=_otherwise(hidden, found, missed, turns, habits),
        counts=counts_of(work.steps, hidden),
    )


@dataclass(frozen=True, slots=True)
class CheckAdvice:
    """Advice of the check on one error: uncertainty and limit in its unit, and whether to adjust it."""

    u95: float
    limit: float
    to_adjust: bool
    may_adjust: bool


def advice_of(result: dict[str, Any], quantity: str) -> CheckAdvice:
    """Return the advice of a result on one figure: from its own part of the verdict, else from the first part."""
    parts = result["verdict"]["parts"]
    part = next((part for part in parts if part["quantity"] == quantity), parts[0])
    to_adjust = part["grade"] in ("adjust", "service")
    beyond = abs(part["value"]) > part["limits"]["use"]
    return CheckAdvice(
        part["u95"], part["limits"]["use"], to_adjust, to_adjust or (part["grade"] == "watch" and beyond)
    )


def figures_of(document: dict[str, Any], hidden: Hidden) -> dict[str, Any]:
    """Return the figures of a finished sheet of the lesson's check. Raises Refused."""
    return dict(result_of(document, hidden)["result"])


def result_of(document: dict[str, Any], hidden: Hidden) -> dict[str, Any]:
    """Return the result of a finished sheet of the lesson's check, with its verdict. Raises Refused."""
    parsed = check_of(document)
    if parsed.kind != hidden.lesson.check:
        raise Refused([Fault("kind", "the kind of check", parsed.kind, hidden.lesson.check)])
    return KINDS[parsed.kind].reduce(parsed).plain()


def _left_well(error: HiddenError, turns: Turns, advice: CheckAdvice) -> bool:
    """Return whether the error was left well: adjusted to within the limit, or not to be adjusted by the check or on site."""
    if not error.spec.screw:
        return True
    if turns.get(error.spec.screw):
        return abs(error.after(turns)) <= max(error.spec.good, advice.limit)
    return abs(error.value) <= error.spec.bad or not advice.to_adjust


def judged_error(error: HiddenError, found: float, turns: Turns) -> JudgedError:
    """One error as it was hidden, found and left, in its unit and as it is shown."""
    left = error.after(turns)
    values = (error.value, found, left)
    texts = [_text(value, error) for value in values]
    return JudgedError(
        label=error.spec.label,
        truth=error.value,
        found=found,
        left=left,
        truth_text=texts[0],
        found_text=texts[1],
        left_text=texts[2],
        most=max(error.spec.bad, *map(abs, values)),
    )


def _text(value: float, error: HiddenError) -> str:
    decimals, sign = SHOWN[error.spec.unit]
    return f"{figure(value, decimals) if error.spec.size else signed(value, decimals)}{sign}"


def _habits(work: InstrumentWork, hidden: Hidden, turns: Turns, advice: dict[str, CheckAdvice]) -> list[str]:
    found = []
    turned = {screw.name for screw in hidden.lesson.screws if screw.adjusting and turns.get(screw.name)}
    errors = hidden.errors.values()
    if often_blurred(work.blurs):
        found.append("not-focused")
    if any(e.good and e.spec.screw in turned and not advice[e.spec.quantity].may_adjust for e in errors):
        found.append("turned-a-good-one")
    asked = [e for e in errors if e.spec.screw and advice[e.spec.quantity].to_adjust]
    if any(abs(e.value) > e.spec.bad and e.spec.screw not in turned for e in asked):
        found.append("left-as-found")
    if turned and work.left is None:
        found.append("not-checked-again")
    return found


def often_blurred(blurs: list[float]) -> bool:
    """Whether more than a quarter of the readings were typed while the picture was not sharp."""
    return sum(blur > BLURRED for blur in blurs) * 4 > len(blurs)


def _headline(*, near: bool, right: bool) -> str:
    if near and right:
        return "Found, and left as it should be"
    if near:
        return "Found, but not left as it should be"
    return "Not found: the readings say something else than the instrument does"


def _otherwise(hidden: Hidden, found: list[float], missed: Sequence[bool], turns: Turns, habits: list[str]) -> str:
    """One thing to do otherwise, about the error that it is about most."""
    errors = list(hidden.errors.values())
    worst = max(range(len(errors)), key=lambda i: _weight(errors[i], turns, missed=missed[i]))
    error = errors[worst]
    finding = f"{error.spec.label}: hidden {_text(error.value, error)}, found {_text(found[worst], error)}."
    left, turned = error.after(turns), bool(turns.get(error.spec.screw))
    if missed[worst]:
        return f"{finding} {hidden.lesson.missed}"
    if not error.spec.screw and not error.good:
        return f"{finding} No screw on site takes that away: keep it away from this work, and send it to service."
    if error.good and turned:
        return f"{finding} That is good: leave it alone."
    if "left-as-found" in habits and not turned:
        return f"{finding} That is too much: {_remedy(hidden, error)}."
    if turned and abs(left) > error.spec.good:
        within = _text(error.spec.good, error).lstrip("+")
        return f"{finding} It is {_text(left, error)} now: {_nearer(hidden)}, and stop within {within}."
    if "not-checked-again" in habits:
        return f"{finding} Test again after adjusting: only that shows how it was left."
    return f"{finding} It is {_text(left, error)} now.{WORN if hidden.play and turned else ''}"


def _weight(error: HiddenError, turns: Turns, *, missed: bool) -> tuple[bool, bool, float]:
    """What is stated first: not found, a good one turned, then what is left furthest beyond good."""
    turned_good = error.good and bool(turns.get(error.spec.screw))
    return missed, turned_good, max(abs(error.after(turns)), abs(error.value) / 10) / error.spec.good


def _nearer(hidden: Hidden) -> str:
    """How to come nearer with a screw."""
    return (
        "its screw has play, so come to each place turning the same way"
        if hidden.play
        else "read again after each turn"
    )


def _remedy(hidden: Hidden, error: HiddenError) -> str:
    """What to do about an error that has a screw or a stored value."""
    screw = next(screw for screw in hidden.lesson.screws if screw.name == error.spec.screw)
    label = screw.label[0].lower() + screw.label[1:]
    return f"enter it as the {label}" if screw.stores else f"turn the {label} until it is gone"
