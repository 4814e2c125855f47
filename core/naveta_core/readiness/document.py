"""The document of a pre-survey round: the minutes there are, and each check with the record it became or why it was left out."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..documents.envelope import DueCheck, Envelope, InOwnUnit, Part
from ..stats.decision import Grade

MAX_STEPS = 12


class ReadinessStep(Part):
    """One check of the round. `grade`, `finding`, `stage` and `at` are those of its record."""

    check: str = Field(max_length=40)
    method: str = Field(default="", max_length=40)
    record: str | None = Field(default=None, max_length=40)
    stage: Literal["as-found", "as-left"] = "as-found"
    grade: Grade | None = None
    finding: str = Field(default="", max_length=2000)
    at: str | None = Field(default=None, max_length=40)
    left_out: str = Field(default="", max_length=200)
    """Why it was not taken, in a few words."""


class ReadinessObservations(Part):
    """How many minutes there are, and the checks in the order in which they are taken."""

    minutes: Annotated[float, Field(ge=0.01, le=240), InOwnUnit] = 10.0
    steps: list[ReadinessStep] = Field(default=[], max_length=MAX_STEPS)


class ReadinessCheck(Envelope):
    """A pre-work check."""

    kind: Literal["pre-survey"]
    due: list[DueCheck] = Field(default=[], max_length=40)
    """What was due for the instrument when; the server states it."""
    observations: ReadinessObservations
