"""A plumb bob that swings, and a nail out of plumb."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ...documents.envelope import Finite, InMetres, InOwnUnit, Part, Work
from ...geometry import ARCSEC, polar, unit
from ...units.formatting import ROUND_SIGHTS, arcsec, length_words
from ...units.numbers import rounded
from ..context import AdviceQuery, Bearing
from ..results import AdviceResult
from .advised import Advised

SIGMA_VIEW_MM = 0.7
"""How well the end of a swing is read against a scale, one standard deviation."""


class View(Part):
    """One direction somebody looks from: the ends of the swing, left and right of the mark, right positive."""

    bearing_deg: Bearing
    left_mm: Finite | None = None
    right_mm: Finite | None = None
    extremes_mm: list[Finite] | None = Field(default=None, min_length=3, max_length=3)
    """Three ends in the order in which they came: left, right, left."""

    @model_validator(mode="after")
    def _one_of(self) -> View:
        if (self.extremes_mm is None) == (self.left_mm is None or self.right_mm is None):
            raise ValueError("either left_mm and right_mm, or three extremes_mm")
        return self

    def middle(self) -> tuple[float, float]:
        """The middle of the swing and its standard deviation, mm."""
        if self.extremes_mm is not None:
            a, b, c = self.extremes_mm
            return (a + 2.0 * b + c) / 4.0, SIGMA_VIEW_MM * math.sqrt(6.0) / 4.0
        assert self.left_mm is not None
        assert self.right_mm is not None
        return (self.left_mm + self.right_mm) / 2.0, SIGMA_VIEW_MM / math.sqrt(2.0)


class PlumbBobQuery(AdviceQuery):
    """The swing seen from two directions, as nearly square to each other as the place allows."""

    advice: Literal["bob"]
    views: list[View] = Field(min_length=1, max_length=6)


class PlumbBobAdvice(AdviceResult):
    """Where the string hangs from the mark; None throughout while it was seen from one side only."""

    centre_x_mm: float | None = None
    centre_y_mm: float | None = None
    offset_mm: float | None = None
    bearing_deg: float | None = None
    sigma_mm: float | None = None


FROM_ONE_SIDE = PlumbBobAdvice(centre_x_mm=None, centre_y_mm=None, offset_mm=None, bearing_deg=None, sigma_mm=None)


def advise_bob(query: PlumbBobQuery) -> Advised:
    """Where the string hangs from the mark, with its standard deviation; least squares over the views.

    A person looking in direction θ sees the part along θ + 90°, right positive.
    """
    directions = [unit(view.bearing_deg + 90.0) for view in query.views]
    seen = [view.middle() for view in query.views]
    weights = [1.0 / sigma**2 for _, sigma in seen]
    xx = math.fsum(w * u[0] * u[0] for w, u in zip(weights, directions, strict=True))
    xy = math.fsum(w * u[0] * u[1] for w, u in zip(weights, directions, strict=True))
    yy = math.fsum(w * u[1] * u[1] for w, u in zip(weights, directions, strict=True))
    det = xx * yy - xy * xy
    if det < 0.05 * (xx + yy) ** 2 / 4.0:
        return Advised(FROM_ONE_SIDE, ["From one side you see only part of it. Move by 90° and look again."])
    x = math.fsum(w * u[0] * m for w, u, (m, _) in zip(weights, directions, seen, strict=True))
    y = math.fsum(w * u[1] * m for w, u, (m, _) in zip(weights, directions, seen, strict=True))
    cx, cy = (yy * x - xy * y) / det, (xx * y - xy * x) / det
    sigma = math.sqrt((xx + yy) / det)
    bearing, size = polar(cx, cy)
    words = length_words(query.units.length)
    result = PlumbBobAdvice(
        centre_x_mm=rounded(cx, 2),
        centre_y_mm=rounded(cy, 2),
        offset_mm=rounded(size, 2),
        bearing_deg=rounded(bearing, 1),
        sigma_mm=rounded(sigma, 2),
    )
    hangs = f"The string hangs {words.small(size / 1000.0)} from the mark, ± {words.small(2.0 * sigma / 1000.0)}."
    return Advised(result, [hangs, "Equal swing to both sides, from two directions at 90°: that is the middle."])


class LeanQuery(AdviceQuery):
    """A nail out of plumb, or driven at an angle: how far its head is from its foot, or its angle and how much of it stands
    out; and the shortest sight of the work."""

    advice: Literal["lean"]
    offset_mm: Annotated[float, Field(ge=0, le=200), InOwnUnit] | None = None
    lean_deg: Annotated[float, Field(ge=0, le=60), InOwnUnit] | None = None
    stands_out_mm: Annotated[float, Field(ge=0, le=500), InOwnUnit] | None = None
    sight_m: Annotated[float, Field(ge=0.1, le=20_000), InMetres] | None = None
    """Where none is given 30 m, or 100 ft where feet are read."""

    @model_validator(mode="after")
    def _one_of(self) -> LeanQuery:
        if (self.offset_mm is None) == (self.lean_deg is None or self.stands_out_mm is None):
            raise ValueError("either offset_mm, or lean_deg and stands_out_mm")
        return self

    def head_off_mm(self) -> float:
        """Offset of the head from where the mark enters the ground: length · sin(angle out of plumb), mm."""
        if self.offset_mm is not None:
            return self.offset_mm
        return (self.stands_out_mm or 0.0) * math.sin(math.radians(self.lean_deg or 0.0))


class LeanAdvice(AdviceResult):
    """How far the top of a nail is from its foot, and what a direction is off by when it stands over the wrong one."""

    offset_mm: float
    direction_arcsec: float


def advise_lean(query: LeanQuery) -> Advised:
    """The offset of the head, mm, and the most it turns a direction over the shortest sight D: ρ · offset/D, arcsec."""
    words = length_words(query.units.length)
    offset_m = query.head_off_mm() / 1000.0
    sight_m = query.sight_m or ROUND_SIGHTS.get(query.units.length, Work().sight_m)
    direction = ARCSEC * offset_m / sight_m
    text = [
        f"Its top is {words.small(offset_m)} off its foot.",
        f"Set up over the wrong one, a direction over {words.height(sight_m)} is up to {arcsec(direction)} off.",
        "Agree which of the two is the point before you centre, and note it. Do not straighten a control mark.",
    ]
    return Advised(LeanAdvice(offset_mm=rounded(offset_m * 1000.0, 2), direction_arcsec=rounded(direction, 2)), text)
