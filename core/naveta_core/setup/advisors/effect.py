"""What an error does to the work: to an angle, a position and a height at given sights.

Centring: sigma_beta = rho·e·D3/(sqrt2·D1·D2) with D3^2 = D1^2 + D2^2 - 2·D1·D2·cos(beta), e the radial error in a
random direction; in the worst direction without the sqrt2. Targets off by e1, e2: rho/sqrt2·sqrt(e1^2/D1^2 + e2^2/D2^2).
Tilt v: T·u(H + 90°)·cot z on a direction, at most v·cot z. Line of sight c: c·imbalance on a height.
"""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ...documents.envelope import InMetres, InOwnUnit, Part
from ...geometry import ARCSEC
from ...results import Answer
from ...units.formatting import LengthWords, arcsec, length_words
from ...units.numbers import rounded
from ..context import AdviceQuery
from ..results import AdviceResult
from .advised import Advised

Metres = Annotated[float, Field(ge=0.1, le=20_000), InMetres]


class Sights(Part):
    """The two sights an angle is measured between, and the angle; how unequal the sights of levelling are."""

    back_m: Metres = 30.0
    fore_m: Metres = 30.0
    angle_deg: Annotated[float, Field(ge=0, le=360), InOwnUnit] = 90.0
    elevation_deg: Annotated[float, Field(ge=-89, le=89), InOwnUnit] = 20.0
    imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 10.0


NonNegative = Annotated[float, Field(ge=0, le=100_000), InOwnUnit]


class EffectQuery(AdviceQuery):
    """One or several errors."""

    advice: Literal["effect"]
    centring_mm: NonNegative | None = None
    target_back_mm: NonNegative | None = None
    target_fore_mm: NonNegative | None = None
    tilt_arcsec: NonNegative | None = None
    collimation_arcsec: NonNegative | None = None
    height_mm: NonNegative | None = None
    allowed_arcsec: NonNegative | None = None
    """What the angle may be off by: answered with the centring it allows."""
    sights: Sights = Sights()

    @model_validator(mode="after")
    def _something(self) -> EffectQuery:
        found = (self.centring_mm, self.target_back_mm, self.target_fore_mm, self.tilt_arcsec, self.collimation_arcsec)
        if all(entry is None for entry in (*found, self.height_mm, self.allowed_arcsec)):
            raise ValueError("at least one error: centring_mm, tilt_arcsec, collimation_arcsec, …")
        return self


def chord_m(sights: Sights) -> float:
    """D3: how far the two targets are from each other."""
    entry, two = sights.back_m, sights.fore_m
    return math.sqrt(max(0.0, entry**2 + two**2 - 2.0 * entry * two * math.cos(math.radians(sights.angle_deg))))


def centring_sigma_arcsec(centring_mm: float, sights: Sights) -> float:
    """Standard deviation of an angle from a radial centring error in a random direction."""
    return ARCSEC * centring_mm / 1000.0 * chord_m(sights) / (math.sqrt(2.0) * sights.back_m * sights.fore_m)


def centring_allowed_mm(angle_arcsec: float, sights: Sights) -> float:
    """The radial centring error that gives an angle this standard deviation."""
    return 1000.0 * math.sqrt(2.0) * angle_arcsec * sights.back_m * sights.fore_m / (ARCSEC * chord_m(sights))


def targets_sigma_arcsec(back_mm: float, fore_mm: float, sights: Sights) -> float:
    """Standard deviation of an angle from target centring."""
    return ARCSEC / 1000.0 / math.sqrt(2.0) * math.hypot(back_mm / sights.back_m, fore_mm / sights.fore_m)


def tilt_most_arcsec(tilt_arcsec: float, elevation_deg: float) -> float:
    """The most a direction suffers from an axis out of plumb, without compensator: v·cot z = v·tan(elevation)."""
    return tilt_arcsec * math.tan(math.radians(abs(elevation_deg)))


class EffectPart(Answer):
    """What one error does to one quantity of the work. In the unit given by `unit`."""

    quantity: str
    value: float
    unit: str
    text: str


class EffectAdvice(AdviceResult):
    """Every effect of the errors given."""

    parts: list[EffectPart]


def advise_effect(query: EffectQuery) -> Advised:
    """Each error's parts with their own value, unit and sentence."""
    words = length_words(query.units.length)
    parts = [*_centring(query, words), *_targets(query), *_tilt(query, words), *_heights(query, words)]
    if query.allowed_arcsec is not None:
        allowed = centring_allowed_mm(query.allowed_arcsec, query.sights)
        text = f"For {arcsec(query.allowed_arcsec)} in the angle, centre within {words.small(allowed / 1000.0)}."
        parts.append(_part("centring_allowed", allowed, "mm", text))
    return Advised(EffectAdvice(parts=parts), [part.text for part in parts])


def _part(quantity: str, value: float, unit: str, text: str) -> EffectPart:
    return EffectPart(quantity=quantity, value=rounded(value, 4), unit=unit, text=text)


def _centring(query: EffectQuery, words: LengthWords) -> list[EffectPart]:
    if query.centring_mm is None:
        return []
    sigma, off = centring_sigma_arcsec(query.centring_mm, query.sights), words.small(query.centring_mm / 1000.0)
    angle = f"{off} off the mark: an angle is out by {arcsec(sigma)} (one standard deviation), {arcsec(sigma * math.sqrt(2.0))} in the worst direction."
    return [
        _part("angle_from_centring", sigma, "arcsec", angle),
        _part("position_from_centring", query.centring_mm, "mm", f"Every point set out is off by up to {off}."),
    ]


def _targets(query: EffectQuery) -> list[EffectPart]:
    if query.target_back_mm is None and query.target_fore_mm is None:
        return []
    sigma = targets_sigma_arcsec(query.target_back_mm or 0.0, query.target_fore_mm or 0.0, query.sights)
    return [_part("angle_from_targets", sigma, "arcsec", f"Target centring: an angle is out by {arcsec(sigma)}.")]


def _tilt(query: EffectQuery, words: LengthWords) -> list[EffectPart]:
    if query.tilt_arcsec is None:
        return []
    sights, tilt = query.sights, arcsec(query.tilt_arcsec)
    far = max(sights.back_m, sights.fore_m)
    most = tilt_most_arcsec(query.tilt_arcsec, sights.elevation_deg)
    direction = f"Axis {tilt} out of plumb: without compensator a direction at {sights.elevation_deg:g}° elevation is out by up to {arcsec(most)}; both faces do not remove it."
    height = words.small(query.tilt_arcsec / ARCSEC * far)
    zenith = f"A zenith angle is out by up to {tilt}: {height} in height at {words.distance(far)}."
    return [
        _part("direction_from_tilt", most, "arcsec", direction),
        _part("zenith_from_tilt", query.tilt_arcsec, "arcsec", zenith),
    ]


def _heights(query: EffectQuery, words: LengthWords) -> list[EffectPart]:
    parts = []
    if query.collimation_arcsec is not None:
        off = query.collimation_arcsec / ARCSEC * query.sights.imbalance_m
        unequal = words.distance(query.sights.imbalance_m)
        text = f"Line of sight {arcsec(query.collimation_arcsec)} off: {words.small(off)} in a height for every {unequal} of sight imbalance."
        parts.append(_part("height_from_collimation", off * 1000.0, "mm", text))
    if query.height_mm is not None:
        text = f"Every height measured from here is out by {words.small(query.height_mm / 1000.0)}."
        parts.append(_part("height", query.height_mm, "mm", text))
    return parts
