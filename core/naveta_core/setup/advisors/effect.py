"""What an error does to the work: to an angle, a position and a height at given sights.

Centring: sigma_beta = rho·e·D3/(sqrt2·D1·D2) with D3^2 = D1^2 + D2^2 - 2·D1·D2·cos(beta), e the radial error in a
random direction; in the worst direction without the sqrt2. Targets off by e1, e2: rho/sqrt2·sqrt(e1^2/D1^2 + e2^2/D2^2).
Tilt v: T·u(H + 90°)·cot z on a direction, at most v·cot z. Line of sight c: c·imbalance on a height.
"""

from __future__ import annotations

import math
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...documents.envelope import InMetres, InOwnUnit, Part
from ...geometry import ARCSEC
from ...units.formatting import LengthWords, arcsec, length_words
from ..context import Asked

Data = dict[str, Any]
Metres = Annotated[float, Field(ge=0.1, le=20_000), InMetres]


class Sights(Part):
    """The two sights an angle is measured between, and the angle; how unequal the sights of levelling are."""

    back_m: Metres = 30.0
    fore_m: Metres = 30.0
    angle_deg: Annotated[float, Field(ge=0, le=360), InOwnUnit] = 90.0
    elevation_deg: Annotated[float, Field(ge=-89, le=89), InOwnUnit] = 20.0
    imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 10.0


NonNegative = Annotated[float, Field(ge=0, le=100_000), InOwnUnit]


class EffectAsked(Asked):
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
    def _something(self) -> EffectAsked:
        told = (self.centring_mm, self.target_back_mm, self.target_fore_mm, self.tilt_arcsec, self.collimation_arcsec)
        if all(one is None for one in (*told, self.height_mm, self.allowed_arcsec)):
            raise ValueError("at least one error: centring_mm, tilt_arcsec, collimation_arcsec, …")
        return self


def chord_m(sights: Sights) -> float:
    """D3: how far the two targets are from each other."""
    one, two = sights.back_m, sights.fore_m
    return math.sqrt(max(0.0, one**2 + two**2 - 2.0 * one * two * math.cos(math.radians(sights.angle_deg))))


def centring_sigma_arcsec(centring_mm: float, sights: Sights) -> float:
    """Standard deviation of an angle from a radial centring error in a random direction."""
    return ARCSEC * centring_mm / 1000.0 * chord_m(sights) / (math.sqrt(2.0) * sights.back_m * sights.fore_m)


def centring_allowed_mm(angle_arcsec: float, sights: Sights) -> float:
    """The radial centring error that costs an angle this standard deviation."""
    return 1000.0 * math.sqrt(2.0) * angle_arcsec * sights.back_m * sights.fore_m / (ARCSEC * chord_m(sights))


def targets_sigma_arcsec(back_mm: float, fore_mm: float, sights: Sights) -> float:
    """Standard deviation of an angle from target centring."""
    return ARCSEC / 1000.0 / math.sqrt(2.0) * math.hypot(back_mm / sights.back_m, fore_mm / sights.fore_m)


def tilt_most_arcsec(tilt_arcsec: float, elevation_deg: float) -> float:
    """The most a direction suffers from an axis out of plumb, without compensator: v·cot z = v·tan(elevation)."""
    return tilt_arcsec * math.tan(math.radians(abs(elevation_deg)))


def advise_effect(asked: EffectAsked) -> Data:
    """Each error's parts with their own value, unit and sentence."""
    words = length_words(asked.units.length)
    parts = [*_centring(asked, words), *_targets(asked), *_tilt(asked, words), *_heights(asked, words)]
    if asked.allowed_arcsec is not None:
        allowed = centring_allowed_mm(asked.allowed_arcsec, asked.sights)
        text = f"For {arcsec(asked.allowed_arcsec)} in the angle, centre within {words.small(allowed / 1000.0)}."
        parts.append(_part("centring_allowed", allowed, "mm", text))
    return {"result": {"parts": parts}, "text": [part["text"] for part in parts]}


def _part(quantity: str, value: float, unit: str, text: str) -> Data:
    return {"quantity": quantity, "value": round(value, 4), "unit": unit, "text": text}


def _centring(asked: EffectAsked, words: LengthWords) -> list[Data]:
    if asked.centring_mm is None:
        return []
    sigma, off = centring_sigma_arcsec(asked.centring_mm, asked.sights), words.small(asked.centring_mm / 1000.0)
    angle = f"{off} off the mark: an angle is out by {arcsec(sigma)} (one standard deviation), {arcsec(sigma * math.sqrt(2.0))} in the worst direction."
    return [
        _part("angle_from_centring", sigma, "arcsec", angle),
        _part("position_from_centring", asked.centring_mm, "mm", f"Every point set out is off by up to {off}."),
    ]


def _targets(asked: EffectAsked) -> list[Data]:
    if asked.target_back_mm is None and asked.target_fore_mm is None:
        return []
    sigma = targets_sigma_arcsec(asked.target_back_mm or 0.0, asked.target_fore_mm or 0.0, asked.sights)
    return [_part("angle_from_targets", sigma, "arcsec", f"Target centring: an angle is out by {arcsec(sigma)}.")]


def _tilt(asked: EffectAsked, words: LengthWords) -> list[Data]:
    if asked.tilt_arcsec is None:
        return []
    sights, tilt = asked.sights, arcsec(asked.tilt_arcsec)
    far = max(sights.back_m, sights.fore_m)
    most = tilt_most_arcsec(asked.tilt_arcsec, sights.elevation_deg)
    direction = f"Axis {tilt} out of plumb: without compensator a direction at {sights.elevation_deg:g}° elevation is out by up to {arcsec(most)}; both faces do not remove it."
    height = words.small(asked.tilt_arcsec / ARCSEC * far)
    zenith = f"A zenith angle is out by up to {tilt}: {height} in height at {words.distance(far)}."
    return [
        _part("direction_from_tilt", most, "arcsec", direction),
        _part("zenith_from_tilt", asked.tilt_arcsec, "arcsec", zenith),
    ]


def _heights(asked: EffectAsked, words: LengthWords) -> list[Data]:
    parts = []
    if asked.collimation_arcsec is not None:
        off = asked.collimation_arcsec / ARCSEC * asked.sights.imbalance_m
        unequal = words.distance(asked.sights.imbalance_m)
        text = f"Line of sight {arcsec(asked.collimation_arcsec)} off: {words.small(off)} in a height for every {unequal} of sight imbalance."
        parts.append(_part("height_from_collimation", off * 1000.0, "mm", text))
    if asked.height_mm is not None:
        text = f"Every height measured from here is out by {words.small(asked.height_mm / 1000.0)}."
        parts.append(_part("height", asked.height_mm, "mm", text))
    return parts
