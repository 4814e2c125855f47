"""What the core answers of a pre-work check."""

from __future__ import annotations

from ..errors import Fault
from ..results import Answer, Figures, NextReading, Result


class ProposedCheck(Answer):
    """A check the pre-work check could take; `taken` where it fits into the minutes."""

    check: str
    title: str
    method: str
    minutes: int
    taken: bool
    code: str
    why: str


class CheckTaken(Answer):
    """One check of it: the record it became, or none."""

    check: str
    title: str
    record: str | None
    grade: str | None
    stage: str


class ReadinessFigures(Figures):
    """How it ends, and what was taken."""

    outcome: str
    minutes: float
    checks: list[CheckTaken]


class ReadinessPreview(Answer):
    """What can be said already."""

    complete: bool
    missing: list[str]
    wanted: list[NextReading]
    faults: list[Fault]
    proposed: list[ProposedCheck]
    progress: str
    reduced: Result | None = None
