"""Rounds of a check: what is set afresh between them is solved afresh, what belongs to the instrument is common."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians, sin
from typing import Protocol, TypeVar

from pydantic import Field as Bounds

from ...envelope import Part
from ...readings import Sheet
from .fits import OPPOSITE_DEG, Observation, widest_deg

MOST_ROUNDS = 9


class InRound(Part):
    """A row that says in which round it was taken; without it, the first."""

    round: int | None = Bounds(default=None, ge=1, le=MOST_ROUNDS)


class Taken(Protocol):
    """Something read in a round, looking along a heading."""

    @property
    def round(self) -> int: ...
    @property
    def heading_deg(self) -> float: ...


T = TypeVar("T", bound=Taken)


@dataclass(frozen=True, slots=True)
class Equation:
    """One observation: its shares in what belongs to the instrument, and in what belongs to its round."""

    round: int
    common: list[float]
    own: list[float]
    value: float


def by_round(equations: Sequence[Equation]) -> list[Observation]:
    """A design with the common unknowns first, then those of each round; the last round's come last."""
    widths = {one.round: len(one.own) for one in equations}
    rows: list[Observation] = []
    for one in equations:
        own = [share for name in sorted(widths) for share in (one.own if name == one.round else [0.0] * widths[name])]
        rows.append(([*one.common, *own], one.value))
    return rows


def turned_vector(heading_deg: float, x: float, y: float, of_round: int = 1) -> list[Equation]:
    """x and y of something that turns with the instrument: common e_x, e_y; of the round T_x, T_y.

    y points along the heading, x 90° clockwise of it: y = T·u(θ) + e_y, x = T·u(θ + 90°) + e_x.
    """
    s, c = sin(radians(heading_deg)), cos(radians(heading_deg))
    return [Equation(of_round, [1.0, 0.0], [c, -s], x), Equation(of_round, [0.0, 1.0], [s, c], y)]


def standing_vector(x: float, y: float) -> list[Equation]:
    """x and y of something held against what is proved: they are its error."""
    return [Equation(1, [1.0, 0.0], [], x), Equation(1, [0.0, 1.0], [], y)]


def ground_mark(heading_deg: float, x: float, y: float, of_round: int = 1) -> list[Equation]:
    """A mark on a sheet, axis + Rot(θ)·o: common o_x, o_y (at heading 0); of the sheet axis_x, axis_y."""
    s, c = sin(radians(heading_deg)), cos(radians(heading_deg))
    return [Equation(of_round, [c, s], [1.0, 0.0], x), Equation(of_round, [-s, c], [0.0, 1.0], y)]


def last_round(taken: Sequence[T]) -> list[T]:
    """Those of the last round, in the order in which they were read."""
    last = max((one.round for one in taken), default=1)
    return [one for one in taken if one.round == last]


def demand_opposite(
    sheet: Sheet, path: str, what: str, taken: Sequence[Taken], wanted: str, least_deg: float = OPPOSITE_DEG
) -> None:
    """A fault where the headings of a round do not lie half a turn apart: each round has a tilt of its own."""
    for name in sorted({one.round for one in taken}):
        headings = [one.heading_deg for one in taken if one.round == name]
        if widest_deg(headings) < least_deg:
            given = "headings " + ", ".join(f"{one:g}°" for one in headings)
            sheet.fault(path, what, given if name == 1 else f"{given} in round {name}", wanted)
            return
