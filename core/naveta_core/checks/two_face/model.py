"""The document of a two-face measurement: which marks, and what the circles read in both faces."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...envelope import Envelope, Part, Typed
from ..sheet.rounds import InRound
from ..sheet.stored import Kept, Stores

MarkKind = Literal["plate", "sticker", "prism", "round-about-prism", "nail", "pole", "edge", "unknown"]


class Pointing(InRound):
    """Both circles at one pointing, in the document's angle unit."""

    hz: Typed | None = None
    v: Typed | None = None


class Target(Part):
    """One mark, seen in face left and in face right."""

    name: str = Field(default="", max_length=40)
    distance_m: Typed | None = None
    mark: MarkKind | None = None
    left: list[Pointing] = Field(default=[], max_length=20)
    right: list[Pointing] = Field(default=[], max_length=20)


COLLIMATION, INDEX, AXIS = "collimation_arcsec", "index_arcsec", "tilting_axis_arcsec"
KEPT = (
    Kept(COLLIMATION, "before_collimation_arcsec", "c"),
    Kept(INDEX, "before_index_arcsec", "i"),
    Kept(AXIS, "before_tilting_axis_arcsec", "t"),
)


class Observations(Stores):
    """Targets in the order in which they were first sighted; a closing look at the first, face left."""

    before_collimation_arcsec: Typed | None = None
    before_index_arcsec: Typed | None = None
    before_tilting_axis_arcsec: Typed | None = None

    targets: list[Target] = Field(default=[], max_length=6)
    closing: list[Pointing] = Field(default=[], max_length=10)


class TwoFace(Envelope):
    """Horizontal collimation, vertical index and, with a steep mark, the tilting axis."""

    kind: Literal["two-face"]
    observations: Observations
