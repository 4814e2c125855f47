"""How somebody did with a simulated instrument: what was hidden, what was found, and how it was left."""

from __future__ import annotations

from typing import Any

from pydantic import Field

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Part
from naveta_core.errors import Fault, Refused
from naveta_core.registry import check_of
from naveta_core.results import Answer, Reason
from naveta_core.units.formatting import signed

from .instruments import BAD_ARCSEC, FOUND_WITHIN_ARCSEC, GOOD_ARCSEC, MOST_TURNED, HiddenLevel, level_of
from .results import Figure

BLURRED = 1.5
"""A look more blurred than this moves with the eye by more than a reading may be wrong."""
HABITS: dict[str, str] = {
    "not-focused": "Reading before the picture is sharp",
    "turned-a-good-one": "Adjusting an instrument that is good",
    "left-as-found": "Leaving an instrument that should be adjusted",
    "not-checked-again": "Not checking again after adjusting",
}


class InstrumentWork(Part):
    """What was done: the sheet as found, turns of the reticle screw, the sheet as left where there is one, and how blurred
    each look was at which something was typed."""

    verb: str = ""
    lesson: str
    seed: int
    found: dict[str, Any]
    turned: float = Field(ge=-MOST_TURNED, le=MOST_TURNED)
    left: dict[str, Any] | None = None
    blurs: list[Figure] = Field(default=[], max_length=400)
    seconds: float = Field(ge=0, le=86_400)


class InstrumentJudged(Answer):
    """How it went. `truth_arcsec` was hidden, `found_arcsec` is what the readings say, `left_arcsec` what is hidden now."""

    lesson: str
    passed: bool
    headline: str
    seconds: float
    truth_arcsec: float
    found_arcsec: float
    left_arcsec: float
    habits: list[Reason]
    otherwise: str


def judge_instrument(work: InstrumentWork) -> InstrumentJudged:
    """Readings and screw against what was hidden. Raises Refused for a sheet that is not finished."""
    level = level_of(work.lesson, work.seed)
    truth, left = level.collimation_arcsec, level.slope_arcsec(work.turned)
    found = _found(work.found, level)
    near = abs(found - truth) <= FOUND_WITHIN_ARCSEC
    habits = _habits(work, truth)
    right = not {"turned-a-good-one", "left-as-found"} & set(habits) and (
        abs(truth) <= BAD_ARCSEC or abs(left) <= GOOD_ARCSEC
    )
    return InstrumentJudged(
        lesson=work.lesson,
        passed=near and right,
        headline=_headline(near, right),
        seconds=work.seconds,
        truth_arcsec=truth,
        found_arcsec=found,
        left_arcsec=left,
        habits=[Reason(code=code, text=f"{HABITS[code]}.") for code in habits],
        otherwise=_otherwise(truth, found, left, habits, near=near),
    )


def _found(document: dict[str, Any], level: HiddenLevel) -> float:
    parsed = check_of(document)
    if parsed.kind != level.lesson.check:
        raise Refused([Fault("kind", "the kind of check", parsed.kind, level.lesson.check)])
    return float(KINDS[parsed.kind].reduce(parsed).plain()["result"]["collimation_arcsec"])


def _habits(work: InstrumentWork, truth: float) -> list[str]:
    found = []
    if sum(blur > BLURRED for blur in work.blurs) * 4 > len(work.blurs):
        found.append("not-focused")
    if abs(truth) <= GOOD_ARCSEC and work.turned:
        found.append("turned-a-good-one")
    if abs(truth) > BAD_ARCSEC and not work.turned:
        found.append("left-as-found")
    if work.turned and work.left is None:
        found.append("not-checked-again")
    return found


def _headline(near: bool, right: bool) -> str:
    if near and right:
        return "Found, and left as it should be"
    if near:
        return "Found, but not left as it should be"
    return "Not found: the readings say something else than the level does"


def _otherwise(truth: float, found: float, left: float, habits: list[str], *, near: bool) -> str:
    hidden = f"Its line of sight was {signed(truth, 0)}″, you found {signed(found, 0)}″."
    if not near:
        return f"{hidden} Focus until the hairs stand still when your eye moves, and read each staff again."
    if "turned-a-good-one" in habits:
        return f"{hidden} That is good: leave the screw alone."
    if "left-as-found" in habits:
        return f"{hidden} That is too much: turn the reticle screw until the staff far away reads what it should."
    if abs(left) > GOOD_ARCSEC and abs(truth) > BAD_ARCSEC:
        return f"{hidden} It is {signed(left, 0)}″ now: read again after each turn, and stop within {GOOD_ARCSEC:g}″."
    if "not-checked-again" in habits:
        return f"{hidden} Test again after adjusting: only that shows how it was left."
    return f"{hidden} It is {signed(left, 0)}″ now."
