"""How somebody did with a simulated instrument: what was hidden, what was found, and how it was left."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from pydantic import Field

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused
from naveta_core.registry import check_of
from naveta_core.results import Answer, Reason
from naveta_core.units.formatting import signed

from ..results import Figure
from .hidden import Hidden, HiddenError, hidden_of, refuse_turns
from .lesson import Unit
from .looking import Turned

BLURRED = 1.5
"""A look more blurred than this moves with the eye by more than a reading may be wrong."""
HABITS: dict[str, str] = {
    "not-focused": "Reading before the picture is sharp",
    "turned-a-good-one": "Adjusting an instrument that is good",
    "left-as-found": "Leaving an instrument that should be adjusted",
    "not-checked-again": "Not checking again after adjusting",
}
SHOWN: dict[Unit, tuple[int, str]] = {"arcsec": (0, "″"), "div": (1, " div"), "mm": (1, " mm"), "ppm": (0, " ppm")}
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


def judge_instrument(work: InstrumentWork) -> InstrumentJudged:
    """Readings and screws against what was hidden. Raises Refused for a sheet that is not finished."""
    hidden = hidden_of(work.lesson, work.seed)
    refuse_turns(hidden.lesson, work.turns)
    figures = figures_of(work.found, hidden)
    errors = list(hidden.errors.values())
    found = [float(figures[error.spec.quantity]) for error in errors]
    missed = [abs(value - error.value) > error.spec.within for value, error in zip(found, errors, strict=True)]
    habits = _habits(work, hidden)
    right = not {"turned-a-good-one", "left-as-found"} & set(habits) and all(_left_well(e, work.turns) for e in errors)
    return InstrumentJudged(
        lesson=work.lesson,
        passed=not any(missed) and right,
        headline=_headline(right=right, near=not any(missed)),
        seconds=work.seconds,
        errors=[judged_error(error, value, work.turns) for error, value in zip(errors, found, strict=True)],
        habits=[Reason(code=code, text=f"{HABITS[code]}.") for code in habits],
        otherwise=_otherwise(hidden, found, missed, work, habits),
    )


def figures_of(document: dict[str, Any], hidden: Hidden) -> dict[str, Any]:
    """The result of a finished sheet of the lesson's check. Raises Refused."""
    parsed = check_of(document)
    if parsed.kind != hidden.lesson.check:
        raise Refused([Fault("kind", "the kind of check", parsed.kind, hidden.lesson.check)])
    return dict(KINDS[parsed.kind].reduce(parsed).plain()["result"])


def _left_well(error: HiddenError, turns: Turned) -> bool:
    """Whether it is left as it should be: adjusted, or never bad enough to adjust, or nothing on site adjusts it."""
    least = error.spec.good if turns.get(error.spec.screw) else error.spec.bad
    return not error.spec.screw or abs(error.after(turns)) <= least


def judged_error(error: HiddenError, found: float, turns: Turned) -> JudgedError:
    """One error as it was hidden, found and left, in its unit and as it is shown."""
    left = error.after(turns)
    values = (error.value, found, left)
    texts = [_text(value, error.spec.unit) for value in values]
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


def _text(value: float, unit: Unit) -> str:
    decimals, sign = SHOWN[unit]
    return f"{signed(value, decimals)}{sign}"


def _habits(work: InstrumentWork, hidden: Hidden) -> list[str]:
    found = []
    turned = {screw.name for screw in hidden.lesson.screws if screw.adjusting and work.turns.get(screw.name)}
    errors = hidden.errors.values()
    if often_blurred(work.blurs):
        found.append("not-focused")
    if any(error.good and error.spec.screw in turned for error in errors):
        found.append("turned-a-good-one")
    if any(abs(e.value) > e.spec.bad and e.spec.screw and e.spec.screw not in turned for e in errors):
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


def _otherwise(
    hidden: Hidden, found: list[float], missed: Sequence[bool], work: InstrumentWork, habits: list[str]
) -> str:
    """One thing to do otherwise, about the error that it is about most."""
    errors = list(hidden.errors.values())
    worst = max(range(len(errors)), key=lambda i: _weight(errors[i], work.turns, missed=missed[i]))
    error = errors[worst]
    unit = error.spec.unit
    finding = f"{error.spec.label}: hidden {_text(error.value, unit)}, found {_text(found[worst], unit)}."
    left, turned = error.after(work.turns), bool(work.turns.get(error.spec.screw))
    if missed[worst]:
        return f"{finding} Focus until nothing moves when your eye does, and read again."
    if not error.spec.screw and not error.good:
        return f"{finding} No screw on site takes that away: keep it away from this work, and send it to service."
    if error.good and turned:
        return f"{finding} That is good: leave the screw alone."
    if "left-as-found" in habits and not turned:
        return f"{finding} That is too much: turn the {_screw(hidden, error)} until it is gone."
    if turned and abs(left) > error.spec.good:
        return f"{finding} It is {_text(left, unit)} now: read again after each turn, and stop within {_text(error.spec.good, unit)[1:]}."
    if "not-checked-again" in habits:
        return f"{finding} Test again after adjusting: only that shows how it was left."
    return f"{finding} It is {_text(left, unit)} now."


def _weight(error: HiddenError, turns: Turned, *, missed: bool) -> tuple[bool, bool, float]:
    """What is said first: not found, a good one turned, then what is left furthest beyond good."""
    turned_good = error.good and bool(turns.get(error.spec.screw))
    return missed, turned_good, max(abs(error.after(turns)), abs(error.value) / 10) / error.spec.good


def _screw(hidden: Hidden, error: HiddenError) -> str:
    label = next(screw.label for screw in hidden.lesson.screws if screw.name == error.spec.screw)
    return label[0].lower() + label[1:]
