"""Documents of orientation: control points, what was sighted at them, where one stands."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ..documents.envelope import Envelope, InOwnUnit, Part, Typed

MAX_POINTS, MAX_SHOTS = 60, 60
Name = Annotated[str, Field(max_length=40)]


class ControlPoint(Part):
    """A control point: easting, northing, and its height where there is one."""

    name: Name
    e: Typed
    n: Typed
    h: Typed | None = None


class Shot(Part):
    """A sight to a control point, as read. Either distance, or none where only the direction was taken."""

    point: Name = ""
    hz: Typed | None = None
    v: Typed | None = None
    slope_distance: Typed | None = None
    horizontal_distance: Typed | None = None
    target_height: Typed | None = None
    face: Literal["left", "right"] = "left"
    left_out: bool = False
    """Set aside by a person: shown, and not calculated with."""


class Closing(Part):
    """The reviews at the reference before the stand is taken down."""

    point: Name = ""
    hz: Typed | None = None
    v: Typed | None = None


class Oriented(Part):
    """What free station and backsight have in common."""

    control: list[ControlPoint] = Field(default=[], max_length=MAX_POINTS)
    shots: list[Shot] = Field(default=[], max_length=MAX_SHOTS)
    instrument_height: Typed | None = None
    counts: Literal["clockwise", "anticlockwise"] = "clockwise"
    closing: Closing | None = None
    of_set_up: str | None = Field(default=None, max_length=40)
    """The record of the set-up it belongs to."""
    target_sigma_mm: Annotated[float, Field(ge=0, le=50), InOwnUnit] = 1.0
    """How well a target stands over its mark, one standard deviation a coordinate."""


class FreeStationObservations(Oriented):
    """Anywhere, with two control points or more in sight."""

    solve_scale: bool = False


class BacksightObservations(Oriented):
    """Over a control point, with another in sight."""

    station: ControlPoint | None = None


class FreeStation(Envelope):
    """A free station: where the instrument is follows from sights to control points."""

    kind: Literal["free-station"]
    observations: FreeStationObservations


class Backsight(Envelope):
    """An orientation over a control point by one sight or more."""

    kind: Literal["backsight"]
    observations: BacksightObservations
