"""What was done with an instrument, as far as the next check depends on it: the entries of its history, oldest first.

The server makes the list from its records and stores it beside the instrument; a device without signal adds what it
made itself and has not sent yet.
"""

from __future__ import annotations

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field, TypeAdapter

from ..checks import KINDS
from ..engine.contradiction import CONTRADICTS
from ..results import Answer, Repeats
from ..stats.decision import Grade
from .facts import NOT_LOOKED, check_record_of, clears
from .summary import RecordSummary

Figure = float | str | bool | None


class PastCheck(Answer):
    """A check: its main figure, how its repeats scattered, and whether it passes by the rules of the yard."""

    what: Literal["check"] = "check"
    kind: str
    at: str
    stage: str
    grade: Grade
    result: dict[str, Figure]
    repeats: Repeats
    passed: bool | None = None
    as_left_passed: bool | None = None
    """The same by the stricter rule for an as-left."""
    disputed: bool = False
    """Whether a good result contradicted a bad one, so that another run had to decide."""
    looked: bool = True
    """Whether its quick checks were made."""
    looks: list[str] = []
    """What a look found wrong, by its codes."""
    temperature_c: float | None = None


class PastEvent(Answer):
    """An event; `kind` is the check whose error was adjusted."""

    what: Literal["event"] = "event"
    event: str
    at: str
    kind: str | None = None


class PastSetUp(Answer):
    """A set-up that found where the plate bubble rests, in divisions."""

    what: Literal["set-up"] = "set-up"
    at: str
    rest_div: float


class PastControl(Answer):
    """An orientation: how far control points disagreed, in millimetres."""

    what: Literal["control"] = "control"
    kind: str
    at: str
    grade: Grade
    result: dict[str, Figure]


HistoryEntry = Annotated[PastCheck | PastEvent | PastSetUp | PastControl, Field(discriminator="what")]
_HISTORY: TypeAdapter[list[HistoryEntry]] = TypeAdapter(list[HistoryEntry])


def read_history(data: object) -> list[HistoryEntry]:
    """A stored or submitted list of entries. Raises pydantic's ValidationError."""
    return _HISTORY.validate_python(data)


def entry_of(summary: RecordSummary, at: str, stage: str) -> PastCheck | PastSetUp | PastControl | None:
    """What later documents depend on of anything finished; None where nothing does.

    at: when it was observed, ISO with offset.
    """
    figures: dict[str, Figure] = dict(summary.figures)
    if summary.kind in KINDS:
        return _check_entry(summary, figures, at, stage)
    rest = figures.get("rest_div")
    if isinstance(rest, int | float):
        return PastSetUp(what="set-up", at=at, rest_div=rest)
    if "disagreement_mm" in figures:
        return PastControl(what="control", kind=summary.kind, at=at, grade=summary.grade, result=figures)
    return None  # the checks of a pre-work check are on record themselves


def _check_entry(summary: RecordSummary, figures: dict[str, Figure], at: str, stage: str) -> PastCheck:
    assert summary.repeats is not None, summary.kind
    done = check_record_of(summary, datetime.fromisoformat(at), stage)
    warmth = {} if summary.temperature_c is None else {"temperature_c": summary.temperature_c}
    return PastCheck(
        what="check",
        kind=summary.kind,
        at=at,
        stage=stage,
        grade=summary.grade,
        result=figures,
        repeats=summary.repeats,
        passed=clears(done),
        as_left_passed=clears(replace(done, stage="as-left")),
        looked=not any(code in NOT_LOOKED for code in done.codes),
        looks=[code for code in summary.codes if code in KINDS[summary.kind].bad_looks],
        disputed=CONTRADICTS in summary.codes,
        **warmth,
    )
