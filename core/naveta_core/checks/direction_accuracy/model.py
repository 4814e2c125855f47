"""The document of an angle accuracy procedure: series of sets, each set all marks in face left and back in face right."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...envelope import Envelope, Part, Typed


class Sighted(Part):
    """One circle reading at a mark."""

    target: str = Field(default="", max_length=12)
    reading: Typed | None = None


class FaceSet(Part):
    """All marks once in each face."""

    left: list[Sighted] = Field(default=[], max_length=8)
    right: list[Sighted] = Field(default=[], max_length=8)


class SetSeries(Part):
    """Three sets, one after the other."""

    sets: list[FaceSet] = Field(default=[], max_length=4)


class Observations(Part):
    """Which circle, which procedure, and its series: one for simplified, four for full."""

    circle: Literal["horizontal", "vertical"] = "horizontal"
    procedure: Literal["simplified", "full"] = "simplified"
    series: list[SetSeries] = Field(default=[], max_length=4)


class DirectionAccuracy(Envelope):
    """What an instrument, its stand and those who use it reach in directions or zenith angles."""

    kind: Literal["direction-accuracy"]
    observations: Observations
