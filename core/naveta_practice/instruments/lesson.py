"""What a lesson with a simulated instrument is: the check that finds what is wrong, what may be hidden, which screws there are."""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass, field
from typing import Any, Literal

from naveta_core.results import Answer, Reason

View = Literal["staff", "circles", "vial", "paper", "ring", "digits", "scale"]
Unit = Literal["arcsec", "div", "mm", "ppm", "mm_per_km"]
MAX_TURNS = 2.0
"""A screw goes so far to each side of where it was."""
MAX_STORED = 200.0
"""The largest value that can be stored, in the unit of its error."""
FOCUS = "Focus until nothing moves when your eye does, and read again."


@dataclass(frozen=True, slots=True)
class MayBeHidden:
    """An error a lesson may hide: the figure of the check's result that finds it, and the screw that moves it.

    `good`: up to here nothing is adjusted; `bad`: beyond it must be; `most`: the largest hidden; `within`: how near the
    finding must come; `per_turn`: least and most that a whole turn of the screw does. All in the unit. Without a screw
    nothing on site takes it away. `size`: it has no direction (a scatter, a twist), and its screw takes it away clockwise.
    """

    quantity: str
    label: str
    unit: Unit
    _: KW_ONLY
    screw: str
    good: float
    bad: float
    most: float
    within: float
    per_turn: tuple[float, float]
    size: bool = False


@dataclass(frozen=True, slots=True)
class ScrewOfLesson:
    """A screw that can be turned: a foot screw at any time, an adjusting screw once the finding stands. `stores`: no screw
    but a value the instrument keeps and takes off what it shows."""

    name: str
    label: str
    adjusting: bool = True
    stores: bool = False

    @property
    def most(self) -> float:
        """How far it can be turned to each side, or the largest value."""
        return MAX_STORED if self.stores else MAX_TURNS


@dataclass(frozen=True, slots=True)
class SetAgain:
    """What is done between one set of readings and the next: `label` on its button, what `each` is called, how many."""

    label: str
    each: str
    most: int


@dataclass(frozen=True, eq=False, slots=True)
class InstrumentLesson:
    """What is practised with a simulated instrument, and the check that finds what is wrong with it."""

    name: str
    title: str
    aim: str
    _: KW_ONLY
    view: View
    check: str
    method: str
    minutes: int
    cautions: tuple[str, ...]
    given: dict[str, Any]
    """Observations that are given: what is not practised here."""
    hides: tuple[MayBeHidden, ...]
    screws: tuple[ScrewOfLesson, ...]
    good_enough: str
    to_adjust: str = ""
    """What to do with the screws, where the check itself does not say it."""
    headings: tuple[int, ...] = (0, 90, 180, 270)
    """Where the instrument can be turned to, where its view asks for it."""
    places: tuple[tuple[str, str], ...] = ()
    """Where it can stand, how it can be held or what it can look at: a name and what that is called."""
    staffs: int = 1
    pointing: tuple[tuple[str, str], ...] = ()
    """How it points: by eye, by its target tracker."""
    set_again: SetAgain | None = None
    """What is done between sets, where the check repeats them."""
    reads: str = ""
    """How a scale is read."""
    stated: dict[str, Any] = field(default_factory=dict)
    """What its maker states of it, as in a document."""
    missed: str = FOCUS
    """What to do when the error was not found."""


TARGET_M, PLUMMET_M, VIAL_ARCSEC_PER_DIV, COMPENSATOR_M = 100.0, 1.5, 30.0, 30.0
LEVEL_SIGHT, STEEP_SIGHT = "level", "steep"
TURNED, LET_GO = "turned", "let-go"


class ScrewOut(Answer):
    """A screw of a lesson as it is offered."""

    name: str
    label: str
    adjusting: bool
    stores: str
    """The unit of a value that is stored; empty for a screw."""
    most: float


class SetAgainOut(Answer):
    """What is done between sets of readings."""

    label: str
    each: str
    most: int


class PlaceOut(Answer):
    """One place, position or target of a lesson."""

    name: str
    label: str


class InstrumentLessonOut(Answer):
    """A lesson with an instrument as it is offered."""

    name: str
    title: str
    aim: str
    view: View
    check: str
    document: dict[str, Any]
    """The sheet it begins with."""
    minutes: int
    good_enough: str
    to_adjust: str
    screws: list[ScrewOut]
    cautions: list[Reason]
    headings: list[int]
    places: list[PlaceOut]
    staffs: int
    pointing: list[PlaceOut]
    set_again: SetAgainOut | None
    reads: str
