"""The document of rounds of directions: several marks, both faces, the first mark again at the end of each face."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...envelope import Envelope, Part, Typed
from ..sheet.rounds import InRound


class Sight(InRound):
    """One pointing: which mark, which face, the circles."""

    target: str = Field(default="", max_length=40)
    face: Literal["left", "right"] = "left"
    hz: Typed | None = None
    v: Typed | None = None


class OneRound(Part):
    """Pointings in the order in which they were taken."""

    pointings: list[Sight] = Field(default=[], max_length=60)


class Observations(Part):
    """Rounds, the circle set afresh between them; the first mark pointed at is the reference."""

    rounds: list[OneRound] = Field(default=[], max_length=9)


class DirectionRounds(Envelope):
    """Directions to several marks from a reference, and what the instrument shows in them."""

    kind: Literal["direction-rounds"]
    observations: Observations
