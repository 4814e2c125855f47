"""The document of a two-peg test: what was set up where, and what was read."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...envelope import Envelope, InOwnUnit, Part, Typed

MOST_SETUPS = 8
MOST_READINGS = 30
LayoutName = Literal[
    "middle-then-near", "middle-then-three-quarter", "middle-then-beyond", "thirds-inside", "outside-both", "free"
]
Look = Literal["yes", "no", "not-looked"]


class Wires(Part):
    """One reading of the three stadia wires, in either order."""

    upper: Typed | None = None
    middle: Typed | None = None
    lower: Typed | None = None


class Sight(Part):
    """One staff seen from one set-up. Either `readings` or `wires`; struck readings are kept but not used."""

    distance: Typed | None = None
    readings: list[Typed] = Field(default=[], max_length=MOST_READINGS)
    wires: list[Wires] = Field(default=[], max_length=MOST_READINGS)
    struck: list[Typed] = Field(default=[], max_length=MOST_READINGS)


class SetUp(Part):
    """The level in one place, both staffs read."""

    a: Sight = Sight()
    b: Sight = Sight()


class Looks(Part):
    """Two looks before any reading: does the circular bubble hold when turned, does the line return after a tap."""

    bubble_holds: Look = "not-looked"
    line_returns: Look = "not-looked"


class Observations(Part):
    """Set-ups in the order in which they were made. `layout` only helps the drawing."""

    layout: LayoutName | None = None
    setups: list[SetUp] = Field(default=[], max_length=MOST_SETUPS)
    curvature: bool = True
    stadia_constant: Annotated[float, Field(ge=10, le=500), InOwnUnit] = 100.0
    looks: Looks = Looks()


class TwoPeg(Envelope):
    """A two-peg test."""

    kind: Literal["two-peg"]
    observations: Observations
