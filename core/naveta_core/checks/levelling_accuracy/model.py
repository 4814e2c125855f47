"""The document of a levelling accuracy procedure: pairs of readings of two staffs, in two sets."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...envelope import Envelope, Part, Typed

PAIRS = {"simplified": 10, "full": 20}


class Pair(Part):
    """Staff A and staff B, the level lifted and set afresh before each pair."""

    a: Typed | None = None
    b: Typed | None = None


class PairSet(Part):
    """Pairs taken in one arrangement."""

    pairs: list[Pair] = Field(default=[], max_length=24)


class Observations(Part):
    """Simplified: ten pairs from the middle, ten from nearer one staff. Full: twenty, staffs exchanged, twenty."""

    procedure: Literal["simplified", "full"] = "simplified"
    base_m: Typed | None = None
    permitted_mm: Typed | None = None
    sets: list[PairSet] = Field(default=[], max_length=2)


class LevellingAccuracy(Envelope):
    """What a level, its staffs and those who use them reach, by a full field procedure."""

    kind: Literal["levelling-accuracy"]
    observations: Observations
