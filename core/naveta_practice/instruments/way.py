"""The way somebody took with a simulated instrument, one step after the other, beside the shortest through the same readings."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer

from ..results import Figure
from . import staff
from .hidden import Hidden
from .looking import Turned

Do = Literal["look", "focus", "point", "read", "turn", "again"]
STEPS: dict[Do, str] = {
    "look": "Looked elsewhere",
    "focus": "Focused",
    "point": "Pointed",
    "read": "Typed",
    "turn": "Turned or entered",
    "again": "Tested again",
}
NOT_A_PLACE = {"focus", "since", "hz_arcsec", "v_arcsec", "zero_arcsec", "held_arcsec"}
"""What of an aim is not where one looks."""
MAX_STEPS = 600
AimValue = Annotated[str, Field(max_length=40)] | Figure | bool | None


class InstrumentStep(Part):
    """One step: what was done at which second, to what, and where everything then stood. Of a figure `label` is its cell."""

    seconds: Annotated[Figure, Field(ge=0, le=86_400)]
    do: Do
    label: str = Field(default="", max_length=120)
    typed: str = Field(default="", max_length=40)
    aim: dict[str, AimValue] = Field(default={}, max_length=10)
    turns: Turned = Field(default={}, max_length=10)


class StepCount(Answer):
    """How often something was done, and how often it is on the shortest way."""

    do: Do
    label: str
    taken: int
    shortest: int


class CheckRun(Answer):
    """A check that could be run: as which it was, and as which on the shortest way; 0 where it was not, or need not be."""

    title: str
    taken: int
    shortest: int


def counts_of(steps: Sequence[InstrumentStep], hidden: Hidden) -> list[StepCount]:
    """Steps by what was done, where they were done at all or should have been."""
    if not steps:
        return []
    adjusted = sum(1 for error in hidden.errors.values() if error.spec.screw and abs(error.value) > error.spec.bad)
    tests = 2 if adjusted else 1
    first = steps[: next((i for i, step in enumerate(steps) if step.do == "again"), len(steps))]
    reads = [step for step in first if step.do == "read"]
    places = {_place(step) for step in reads}
    shortest: dict[Do, int] = {
        "look": (len(places) - 1) * tests + (tests - 1) if places else 0,
        "focus": _sharp(reads, hidden) * tests,
        "point": len({step.label.rpartition(".")[0] for step in reads}) * tests
        if hidden.lesson.view == "circles"
        else 0,
        "read": len({step.label for step in reads}) * tests,
        "turn": adjusted,
        "again": tests - 1,
    }
    counts = [
        StepCount(do=do, label=label, taken=sum(step.do == do for step in steps), shortest=shortest[do])
        for do, label in STEPS.items()
    ]
    return [count for count in counts if count.taken or count.shortest]


def _place(step: InstrumentStep) -> str:
    return repr(sorted((name, value) for name, value in step.aim.items() if name not in NOT_A_PLACE))


def _sharp(reads: Sequence[InstrumentStep], hidden: Hidden) -> int:
    """How often a telescope has to be focused: once for each distance it read at, one after the other."""
    if hidden.lesson.view != "staff":
        return int(bool(reads) and hidden.lesson.view in ("circles", "paper"))
    places = {(step.aim.get("place", ""), step.aim.get("staff", "a")) for step in reads}
    return len({_distance(str(place), str(name)) for place, name in places})


def _distance(place: str, name: str) -> float:
    return next((m for staff_name, m in staff.DISTANCES_M.get(place, staff.HELD_M).items() if staff_name == name), 0.0)
