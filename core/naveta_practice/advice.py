"""Advice during a lesson: the next move, by the advisors of a real set-up, from how it truly stands."""

from __future__ import annotations

import math

from naveta_core.geometry import polar
from naveta_core.results import Answer
from naveta_core.setup.advisors import advice_for
from naveta_core.setup.advisors.legs import LegsQuery
from naveta_core.setup.advisors.screws import ScrewsQuery
from naveta_core.setup.advisors.slide import SlideQuery
from naveta_core.setup.context import BubblePlace, PlanMove, TiltVector, TribrachGeometry, TripodGeometry
from naveta_core.setup.mechanism import InstrumentView, see
from naveta_core.setup.tips import plummet_level_text

from .results import PracticeAdvice
from .shortest import NEAR_MM
from .situations import Situation
from .stand import Stand
from .stated import plummet_shows

STANDS_AT_DEG = 180.0
ENOUGH_ARCSEC, ENOUGH_MM = 8.0, 0.5


def next_move(situation: Situation, stand: Stand) -> PracticeAdvice:
    """The next move, or that it is good."""
    can, seen = situation.lesson.controls, see(situation.equipment, stand.state)
    off = math.hypot(*seen.axis_mm)
    if stand.open_leg:
        return _advice(f"Close the clamp of leg {stand.open_leg}: the leg slips.")
    if "legs" in can and not plummet_shows(situation.instrument, seen) and not seen.in_ring:
        first = _by_legs(situation, stand, seen)
        return _advice(first.headline, plummet_level_text(situation.instrument), *first.lines)
    if "carry" in can and off > NEAR_MM and not any(stand.pressed):
        bearing, size = polar(-seen.axis_mm[0], -seen.axis_mm[1])
        return _advice(f"Carry the whole tripod {size:.0f} mm {_direction(bearing)}.", "Legs and feet come after that.")
    if "press" in can and situation.ground.press_mm and not all(stand.pressed):
        leg = "ABC"[stand.pressed.index(False)]
        return _advice(f"Press foot {leg} in.", "All three before you level: what sinks later takes the level with it.")
    if "legs" in can and not seen.in_ring:
        return _by_legs(situation, stand, seen)
    tilt = math.hypot(*seen.tilt_arcsec)
    if "screws" in can and tilt > ENOUGH_ARCSEC:
        return _by_screws(situation, seen)
    if "slide" in can and off > ENOUGH_MM:
        return _by_slide(seen)
    return _advice("Good enough.", "Turn by 180° to be sure, then finish.")


def _advice(headline: str, *lines: str) -> PracticeAdvice:
    return PracticeAdvice(headline=headline, lines=list(lines))


def _by_legs(situation: Situation, stand: Stand, seen: InstrumentView) -> PracticeAdvice:
    vial = situation.equipment.circular
    place = (
        BubblePlace(bearing_deg=seen.bubble_bearing_deg, at_wall=True)
        if seen.at_wall
        else BubblePlace(bearing_deg=seen.bubble_bearing_deg, offset_mm=seen.bubble_mm)
    )
    place = place.model_copy(update={"sensitivity_arcmin_per_2mm": vial.sensitivity_arcmin_per_2mm})
    feet = [list(foot) for foot in stand.state.feet]
    tripod = TripodGeometry(feet=feet, head_height_m=min(2.5, max(0.3, stand.state.pose.at[2])))
    return _first(advice_for(LegsQuery(advice="legs", bubble=place, tripod=tripod, may="either")))


def _by_screws(situation: Situation, seen: InstrumentView) -> PracticeAdvice:
    bearing, size = polar(*seen.tilt_arcsec)
    tribrach = situation.equipment.tribrach
    geometry = TribrachGeometry(
        screws=4 if tribrach.screws == 4 else 3,
        radius_mm=tribrach.radius_mm,
        pitch_mm=tribrach.pitch_mm,
        screw_bearings_deg=list(tribrach.bearings_deg),
    )
    tilt = TiltVector(bearing_deg=bearing, arcsec=min(size, 28_800.0))
    query = ScrewsQuery(advice="screws", tribrach=geometry, tilt=tilt, stand_bearing_deg=STANDS_AT_DEG)
    return _first(advice_for(query))


def _by_slide(seen: InstrumentView) -> PracticeAdvice:
    bearing, size = polar(*seen.axis_mm)
    offset = PlanMove(bearing_deg=bearing, distance_mm=size)
    return _first(advice_for(SlideQuery(advice="slide", offset=offset, stand_bearing_deg=STANDS_AT_DEG)))


def _first(advice: Answer) -> PracticeAdvice:
    """An advisor's sentences, the first in front."""
    text = list(advice.text)  # type: ignore[attr-defined]
    return PracticeAdvice(headline=text[0], lines=text[1:3])


DIRECTIONS = ("away from you", "away and to your right", "to your right", "towards you and to your right",
        "towards you", "towards you and to your left", "to your left", "away and to your left")  # fmt: skip


def _direction(bearing: float) -> str:
    """A direction as the person sees it who stands at the lower edge."""
    return DIRECTIONS[round(bearing / 45.0) % 8]
