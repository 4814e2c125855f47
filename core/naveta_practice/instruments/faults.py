"""Finding the fault: an instrument about which something was noticed, checks to choose from, and one thing to name.

What was noticed is a hint and no proof: where nothing is wrong with the instrument, something was noticed too.
"""

from __future__ import annotations

import random
from dataclasses import KW_ONLY, dataclass
from functools import lru_cache

from naveta_core.errors import Fault, Refused, quote
from naveta_core.results import Answer

from ..situations import refuse_unknown
from .hidden import Hidden, hidden_of
from .lesson import InstrumentLessonOut

NOTHING = "nothing"
SEEDS = 9_999


@dataclass(frozen=True, slots=True)
class Named:
    """One thing that may be wrong: the lesson with the check that finds it, its figures there, what is noticed of it."""

    name: str
    label: str
    part: str
    quantities: tuple[str, ...]
    noticed: str


@dataclass(frozen=True, slots=True)
class FaultLesson:
    """A lesson in which a fault is named."""

    name: str
    title: str
    aim: str
    _: KW_ONLY
    minutes: int
    may_be: tuple[Named, ...]
    nothing_label: str

    @property
    def parts(self) -> tuple[str, ...]:
        """The lessons whose checks can be chosen, each once."""
        return tuple(dict.fromkeys(each.part for each in self.may_be))


FAULT_LESSONS: tuple[FaultLesson, ...] = (
    FaultLesson(
        "is-it-me",
        "Is it me or the instrument",
        "Somebody says the level is wrong. Test it, and say whether it is the level or the one who read it.",
        minutes=8,
        may_be=(
            Named(
                "line-of-sight",
                "The level: its line of sight",
                "two-peg",
                ("collimation_arcsec",),
                "A line closed well with equal sights, and came out wrong where one sight was long and one short.",
            ),
        ),
        nothing_label="Nothing: it was the reading",
    ),
    FaultLesson(
        "finding-the-fault",
        "Finding the fault",
        "Something was noticed about this theodolite. Choose the check that can show it, run it, and name what is wrong. It may be nothing.",
        minutes=15,
        may_be=(
            Named(
                "level-vial",
                "The level vial",
                "half-and-whole",
                ("reversal_div",),
                "The bubble leaves its middle when the instrument is turned round.",
            ),
            Named(
                "plummet",
                "The plummet",
                "plummet",
                ("offset_x_mm", "offset_y_mm"),
                "Two set-ups over the same mark differ by some millimetres.",
            ),
            Named(
                "collimation",
                "Collimation c",
                "two-faces",
                ("collimation_arcsec",),
                "A direction laid out in face left is not the one laid out in face right.",
            ),
            Named(
                "index",
                "Vertical index i",
                "two-faces",
                ("index_arcsec",),
                "Heights carried in one face do not agree with the level's.",
            ),
        ),
        nothing_label="Nothing is wrong with it",
    ),
)
FAULT_BY_NAME = {lesson.name: lesson for lesson in FAULT_LESSONS}


@dataclass(frozen=True, slots=True)
class FaultSituation:
    """What is wrong, what was noticed, and the number of the situation in each part."""

    lesson: FaultLesson
    fault: Named | None
    noticed: str
    seeds: dict[str, int]

    @property
    def name(self) -> str:
        """What has to be named."""
        return self.fault.name if self.fault else NOTHING


@lru_cache(maxsize=64)
def fault_of(lesson: str, seed: int) -> FaultSituation:
    """The situation of a lesson and a number. Raises Refused for what is none."""
    refuse_unknown(lesson, seed, FAULT_BY_NAME)
    which = FAULT_BY_NAME[lesson]
    rng = random.Random(f"fault {lesson} {seed}")
    fault = rng.choice((None, *which.may_be))
    noticed = (fault or rng.choice(which.may_be)).noticed
    seeds = {part: _seed_of(part, fault, rng.randrange(1, SEEDS)) for part in which.parts}
    return FaultSituation(which, fault, noticed, seeds)


def _seed_of(part: str, fault: Named | None, first: int) -> int:
    """The next number from here in which this part has the fault and nothing else."""
    wanted = fault.quantities if fault and fault.part == part else ()
    return next(
        seed for seed in ((first + i) % SEEDS + 1 for i in range(SEEDS)) if _fits(hidden_of(part, seed), wanted)
    )


def _fits(hidden: Hidden, wanted: tuple[str, ...]) -> bool:
    bad = [name for name, error in hidden.errors.items() if abs(error.value) > error.spec.bad]
    rest = [error for name, error in hidden.errors.items() if name not in wanted]
    return bool(bad) == bool(wanted) and all(error.good for error in rest)


def named_in(lesson: FaultLesson, name: str) -> Named | None:
    """What somebody named; None for nothing. Raises Refused for what the lesson does not have."""
    by_name = {each.name: each for each in lesson.may_be}
    if name != NOTHING and name not in by_name:
        raise Refused([Fault("named", "what is wrong", quote(name), "one of " + ", ".join([*by_name, NOTHING]))])
    return by_name.get(name)


class NameOut(Answer):
    """One thing that can be named."""

    name: str
    label: str


class PartOut(Answer):
    """A check that can be chosen: its title, the lesson it is practised in, and the number of the situation there."""

    title: str
    lesson: InstrumentLessonOut
    seed: int


class FaultLessonOut(Answer):
    """A lesson in which a fault is named, as it is offered."""

    name: str
    title: str
    aim: str
    minutes: int
    good_enough: str
    names: list[NameOut]


class FaultSituationOut(Answer):
    """What was noticed, and the checks to choose from."""

    noticed: str
    parts: list[PartOut]
