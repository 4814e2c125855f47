"""Repeats of a check: what is set again between them is solved again, what belongs to the instrument is common."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin
from typing import Annotated, Protocol, TypeVar

from pydantic import Field as Bounds

from ..documents.envelope import Part
from ..geometry import OPPOSITE_DEG, widest_deg
from ..stats.row_fit import Observation
from .fields import Count
from .parser import Parser

MAX_REPEATS = 9


class Repeated(Part):
    """A row that says in which repeat it was taken; without it, the first."""

    repeat: Annotated[int | None, Bounds(ge=1, le=MAX_REPEATS), Count("Repeat", MAX_REPEATS)] = None


class Taken(Protocol):
    """Something read in a repeat, looking along a heading."""

    @property
    def repeat(self) -> int:
        """In which repeat it was taken, from 1."""
        ...

    @property
    def heading_deg(self) -> float:
        """The heading it was read at, degrees."""
        ...


T = TypeVar("T", bound=Taken)


@dataclass(frozen=True, slots=True)
class Equation:
    """One observation: its shares in what belongs to the instrument, and in what belongs to its repeat.

    In the readings' unit.
    """

    repeat: int
    common: list[float]
    own: list[float]
    value: float


def by_repeat(equations: Sequence[Equation]) -> list[Observation]:
    """A design with the common unknowns first, then those of each repeat; the last repeat's come last."""
    widths = {equation.repeat: len(equation.own) for equation in equations}
    rows: list[Observation] = []
    for entry in equations:
        own = [
            share for name in sorted(widths) for share in (entry.own if name == entry.repeat else [0.0] * widths[name])
        ]
        rows.append(([*entry.common, *own], entry.value))
    return rows


def turned_vector(heading_deg: float, x: float, y: float, of_repeat: int = 1) -> list[Equation]:
    """x and y of something that turns with the instrument: common e_x, e_y; of the repeat T_x, T_y.

    y points along the heading, x 90° clockwise of it: y = T·u(θ) + e_y, x = T·u(θ + 90°) + e_x.
    """
    s, c = sin(radians(heading_deg)), cos(radians(heading_deg))
    return [Equation(of_repeat, [1.0, 0.0], [c, -s], x), Equation(of_repeat, [0.0, 1.0], [s, c], y)]


def standing_vector(x: float, y: float) -> list[Equation]:
    """x and y of something held against what is proved: they are its error. Any unit, the same for both."""
    return [Equation(1, [1.0, 0.0], [], x), Equation(1, [0.0, 1.0], [], y)]


def ground_mark(heading_deg: float, x: float, y: float, of_repeat: int = 1) -> list[Equation]:
    """A mark on a sheet, axis + Rot(θ)·o: common o_x, o_y (at heading 0); of the sheet axis_x, axis_y.

    X and y in mm on the ground.
    """
    s, c = sin(radians(heading_deg)), cos(radians(heading_deg))
    return [Equation(of_repeat, [c, s], [1.0, 0.0], x), Equation(of_repeat, [-s, c], [0.0, 1.0], y)]


def last_repeat(taken: Sequence[T]) -> list[T]:
    """Those of the last repeat, in the order in which they were read."""
    last = max((entry.repeat for entry in taken), default=1)
    return [entry for entry in taken if entry.repeat == last]


def demand_opposite(
    parser: Parser, path: str, what: str, *, taken: Sequence[Taken], wanted: str, least_deg: float = OPPOSITE_DEG
) -> None:
    """A fault where the headings of a repeat do not lie half a turn apart: each repeat has a tilt of its own."""
    for name in sorted({entry.repeat for entry in taken}):
        headings = [entry.heading_deg for entry in taken if entry.repeat == name]
        if widest_deg(headings) < least_deg:
            given = "headings " + ", ".join(f"{heading:g}°" for heading in headings)
            parser.fault(path, what, given if name == 1 else f"{given} in repeat {name}", wanted)
            return
