"""Canonical geometry of the drawings of checks of rows: points on a circle, a tube, deviations along a line."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

from ..results import (
    CirclePicture,
    CirclePoint,
    Deviation,
    DeviationsPicture,
    PlanePoint,
    TubePicture,
    TubePictureRow,
)

Plane = tuple[float, float]


def circle(
    unit: str,
    points: Sequence[tuple[float, float, str, str]],
    centre: Plane | None,
    *,
    radius: float | None,
    centre_label: str,
    radius_label: str,
    ring: float | None = None,
    x: str,
    y: str,
    limit: float | None = None,
    limit_about: Literal["origin", "centre"] = "origin",
    view: str = "",
) -> CirclePicture:
    """Points `(x, y, label, path)` that lie on a circle: its centre is one thing, its radius the other.

    ring: the radius of the ring drawn round the origin, for a vial. limit: what the centre may be away from the origin, or
    (`limit_about` the centre) the radius.

    All in mm of the ground or the bubble.
    """
    above = "View from above; you stand at the lower edge."
    return CirclePicture(
        draws="circle",
        unit=unit,
        points=[CirclePoint(x=a, y=b, label=label, path=path) for a, b, label, path in points],
        centre=None if centre is None else PlanePoint(x=centre[0], y=centre[1]),
        radius=radius,
        centre_label=centre_label,
        radius_label=radius_label,
        ring=ring,
        limit=limit,
        limit_about=limit_about,
        x_label=x,
        y_label=y,
        view=view or (above if x == "right" else f"Up is {y} the sight, right is {x} it."),
    )


def tube(
    rows: Sequence[tuple[str, float, str]], rest: float | None, tilt: Sequence[float | None], half: float
) -> TubePicture:
    """A tubular vial, once a heading: `(label, bubble in divisions, path)`, its reversing point, the tilt's share."""
    found = [
        TubePictureRow(label=label, bubble_div=bubble, path=path, tilt_div=share)
        for (label, bubble, path), share in zip(rows, tilt, strict=True)
    ]
    return TubePicture(draws="tube", rows=found, rest_div=rest, half_div=half)


def deviations(
    unit: str, points: Sequence[tuple[str, float, float | None]], limit: float | None, zero: str, along: str
) -> DeviationsPicture:
    """Deviations along a line: `(label, where along it, deviation or None)`; the web exaggerates and says by how much.

    Deviations and limit in the same unit.
    """
    rows = [Deviation(label=label, at=at, value=value) for label, at, value in points]
    return DeviationsPicture(
        draws="deviations", unit=unit, points=rows, limit=limit, zero_label=zero, along_label=along
    )
