"""The site as it is drawn: feet and legs, screws, spot, and where the person stands."""

from __future__ import annotations

from collections.abc import Sequence

from ..geometry import angle_between_deg, less, polar
from ..units.numbers import rounded
from .advisors.legs import LegStep
from .advisors.shift import ShiftStep
from .document import Done, SetUpDocument
from .methods import SET_UP_METHODS
from .observations import bubble_of, spot_of
from .reading import centred_by
from .results import GuideAdvice, ObservedBubble, ObservedSpot, SiteDrawing, SiteLeg, SiteScrew
from .steps import SetUpStep
from .tripod import LEGS

WITH_SCREWS = ("plate", "four", "back-on", "circular-screws", "turn-round")


def leg_bearings(document: SetUpDocument) -> dict[str, float]:
    """Bearings of the legs as somebody stands, degrees."""
    state = document.observations.tripod.standing()
    fields = {}
    for leg, foot in zip(LEGS, state.feet, strict=True):
        out = less(foot, state.pose.at)
        fields[leg] = polar(out[0], out[1])[0]
    return fields


def site_of(document: SetUpDocument, step: SetUpStep, last: Done | None, advice: GuideAdvice | None) -> SiteDrawing:
    """Canonical geometry to draw: feet and legs in plan (metres from the middle of the head), spot and bubble as seen."""
    o = document.observations
    result = advice.result if advice else None
    moves = result.moves if result else ()
    bubble = bubble_of(document, last.saw) if last and last.saw else None
    spot = spot_of(document, last.saw) if last and last.saw else None
    return SiteDrawing(
        legs=_legs(document, [move for move in moves if isinstance(move, LegStep | ShiftStep)]),
        screws=_screws(document, result.screw_turns if result else {}) if step.name in WITH_SCREWS else [],
        stand_bearing_deg=o.stand_bearing_deg % 360.0,
        spot=ObservedSpot(bearing_deg=spot.bearing_deg % 360.0, distance_mm=spot.distance_mm) if spot else None,
        bubble=ObservedBubble(bearing_deg=bubble.bearing_deg, offset_mm=bubble.offset_mm, at_wall=bubble.at_wall)
        if bubble
        else None,
        over_point=not SET_UP_METHODS[o.method].for_levels and not o.mark.free,
        centred_by=centred_by(document),
        you=_between(document),
    )


def _legs(document: SetUpDocument, steps: Sequence[LegStep | ShiftStep]) -> list[SiteLeg]:
    o, state = document.observations, document.observations.tripod.standing()
    moved = {step.leg for step in steps}
    legs = []
    for leg, foot, long in zip(LEGS, state.feet, state.legs, strict=True):
        out = less(foot, state.pose.at)
        legs.append(
            SiteLeg(
                leg=leg,
                bearing_deg=rounded(polar(out[0], out[1])[0], 2),
                x_m=rounded(out[0], 4),
                y_m=rounded(out[1], 4),
                length_m=rounded(long, 3),
                left_mm=o.tripod.model_dump()["shorten_mm"].get(leg),
                moves=leg in moved,
                first=bool(steps) and steps[0].leg == leg,
            )
        )
    return legs


def _screws(document: SetUpDocument, turns: dict[str, float]) -> list[SiteScrew]:
    tribrach = document.observations.tribrach.as_tribrach()
    return [
        SiteScrew(screw=str(i + 1), bearing_deg=bearing, turns=turns.get(str(i + 1)))
        for i, bearing in enumerate(tribrach.bearings_deg)
    ]


def _between(document: SetUpDocument) -> str:
    """Where the person stands, given by the legs: 'between A and B', 'behind C'."""
    bearings = leg_bearings(document)
    stand = document.observations.stand_bearing_deg
    near = sorted(LEGS, key=lambda leg: angle_between_deg(bearings[leg], stand))
    if angle_between_deg(bearings[near[0]], stand) <= 20.0:
        return f"behind {near[0]}"
    return f"between {' and '.join(sorted(near[:2]))}"
