"""A tracker against the telescope it sits in.

By face, automatic less by eye: half the faces' difference is the tracker's (across, times sin z), half the sum in the
vertical circle too. What both faces have in common across is no tracker's: bad pointing, or a prism turned away.

Source: mean of both faces (textbook); derived in docs/judgement.md (Target tracker).
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import hypot, sqrt

from ...engine.conditions import noise_factor
from ...geometry import mean, mean_direction, wrapped
from ...stats.estimate import rounded_alike
from ...units.angles import ARCSEC_PER_RADIAN
from ..two_face.document import BETWEEN_SHARE, DEFAULT_ACCURACY_ARCSEC, POINTING_ARCSEC, TARGET_MM, sine
from .document import LISTS, SightedPrism, Tracker

AUTO_SHARE, AUTO_MM, AUTO_BETWEEN = 0.5, 1.0, 0.3
USUAL_DISTANCE_M = 100.0


def _step_arcsec(prism: SightedPrism, how: str) -> float:
    """The worth of the last digit of the pointings by eye or by tracker."""
    return max(p.step_arcsec for face in ("left", "right") for p in prism.lists[how, face])


def _spreads(document: Tracker, prism: SightedPrism, how: str) -> tuple[float, float]:
    """Variances of one pointing, and common to a face, by eye or by tracker."""
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    per_mm = ARCSEC_PER_RADIAN / 1000 / (prism.distance_m or USUAL_DISTANCE_M)
    if how == "auto":
        within, between = hypot(AUTO_SHARE * s, AUTO_MM * per_mm), AUTO_BETWEEN * s
    else:
        eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
        within, between = sqrt(s**2 + eye**2 + (TARGET_MM["prism"] * per_mm) ** 2), BETWEEN_SHARE * s
    step, noise = _step_arcsec(prism, how), within * noise_factor(document)
    n = min(len(prism.lists[how, face]) for face in ("left", "right"))
    return noise**2 + step**2 / 12, between**2 + rounded_alike(noise, step, n)


def groups_of(document: Tracker, seen: list[SightedPrism]) -> list[list[float]]:
    """Pointings over their own spread: prism by prism, list by list, Hz then V."""
    groups = []
    for prism in seen:
        for how, face in LISTS:
            listed, spread = prism.lists[how, face], sqrt(_spreads(document, prism, how)[0])
            groups.append([wrapped(p.hz - listed[0].hz) * 3600 / spread for p in listed])
            groups.append([(p.v - listed[0].v) * 3600 / spread for p in listed])
    return groups


def steps_of(document: Tracker, seen: list[SightedPrism]) -> list[float]:
    """The last digit of those groups, over their spread."""
    return [
        _step_arcsec(prism, how) / sqrt(_spreads(document, prism, how)[0])
        for prism in seen
        for how, _ in LISTS
        for _ in range(2)
    ]


@dataclass(frozen=True, slots=True)
class TrackerOffset:
    """What the tracker is out by, and what both faces have in common, seconds; variances of either.

    In arcsec, variances in arcsec²; automatic less by eye.
    """

    hz: float
    v: float
    common_hz: float
    _: KW_ONLY
    common_v: float
    q_within: float
    q_between: float


def offset_of(document: Tracker, prism: SightedPrism) -> TrackerOffset:
    """The equations above for one prism."""
    z = sine(prism.zenith_deg)
    d_hz, d_v = {}, {}
    for face in ("left", "right"):
        by_eye, by_tracker = prism.lists["manual", face], prism.lists["auto", face]
        d_hz[face] = (
            wrapped(mean_direction([p.hz for p in by_tracker]) - mean_direction([p.hz for p in by_eye])) * 3600 * z
        )
        d_v[face] = (mean([p.v for p in by_tracker]) - mean([p.v for p in by_eye])) * 3600
    q_w = q_b = 0.0
    for how, face in LISTS:
        within, between = _spreads(document, prism, how)
        q_w += within / len(prism.lists[how, face]) / 4
        q_b += between / 4
    return TrackerOffset(
        (d_hz["left"] - d_hz["right"]) / 2,
        (d_v["left"] + d_v["right"]) / 2,
        (d_hz["left"] + d_hz["right"]) / 2,
        common_v=(d_v["left"] - d_v["right"]) / 2,
        q_within=q_w,
        q_between=q_b,
    )
