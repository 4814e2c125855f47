"""The document of a tracker check: the same prism pointed by eye and by the tracker, in both faces."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...envelope import Envelope, Part, Typed
from ..sheet.stored import Kept, Stores
from ..two_face.model import Pointing


class BothFaces(Part):
    """Pointings in face left and in face right."""

    left: list[Pointing] = Field(default=[], max_length=20)
    right: list[Pointing] = Field(default=[], max_length=20)


class Prism(Part):
    """One prism, by eye and by the tracker."""

    name: str = Field(default="", max_length=40)
    distance_m: Typed | None = None
    manual: BothFaces = BothFaces()
    auto: BothFaces = BothFaces()


KEPT = (
    Kept("tracker_hz_arcsec", "before_hz_arcsec", "across"),
    Kept("tracker_v_arcsec", "before_v_arcsec", "in height"),
)


class Observations(Stores):
    """Prisms, and the tracker's stored values where they were noted."""

    targets: list[Prism] = Field(default=[], max_length=4)
    before_hz_arcsec: Typed | None = None
    before_v_arcsec: Typed | None = None


class Tracker(Envelope):
    """A tracker's offset from the telescope's line of sight."""

    kind: Literal["tracker"]
    observations: Observations
