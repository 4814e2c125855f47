"""A stand as a person sees it: behind the truth by what a bubble lags, hidden where a plummet is off or a level has gone."""

from __future__ import annotations

import math

from naveta_core.geometry import polar
from naveta_core.setup.equipment import MM
from naveta_core.setup.mechanism import see, strain_mm
from naveta_core.setup.tripod import HINGES, LEGS

from .results import LegSeen, OpticalSeen, ScrewSeen, StandSeen
from .situations import Situation
from .stand import Stand, bob_mm, level_is_on
from .stated import in_steps, plummet_shows, said

INDEX_FOCUS, GROUND_FOCUS = 0.62, 0.36
"""Where the plummet's two focuses are sharp, as shares of their way."""
PARALLAX_MM = 6.0
SINKS_STILL_MM = 0.3


def seen_of(situation: Situation, stand: Stand) -> StandSeen:
    """What is seen."""
    equipment, state, shows = situation.equipment, stand.state, situation.lesson.shows
    truth = see(equipment, state)
    head = state.pose.point((state.slide[0], state.slide[1], equipment.pivot_height_mm * MM))
    laser = "laser" in shows and stand.seconds < stand.laser_until_s
    stated = situation.instrument
    hidden = not plummet_shows(stated, truth)
    spot = truth.spot_mm if (laser or "optical" in shows) and not hidden else None
    lost = not level_is_on(situation, stand) and equipment.electronic is not None
    return StandSeen(
        seconds=stand.seconds,
        legs=_legs(situation, stand),
        screws=_screws(situation, stand),
        head_right_mm=head[0] / MM,
        head_away_mm=head[1] / MM,
        head_height_mm=head[2] / MM,
        bubble_right_mm=stand.bubble_mm[0],
        bubble_away_mm=stand.bubble_mm[1],
        wall_mm=equipment.circular.wall_mm,
        ring_mm=equipment.circular.ring_mm,
        plate_div=None if equipment.plate is None else stand.plate_div,
        plate_end_div=equipment.plate.end_div if equipment.plate else 0.0,
        heading_deg=state.heading_deg,
        along_arcsec=None if lost else in_steps(stated, truth.along_arcsec),
        across_arcsec=None if lost else in_steps(stated, truth.across_arcsec),
        level_lost=lost,
        spot=spot,
        plummet_off=hidden,
        stated=said(stated),
        laser_on=laser,
        optical=_optical(stand) if "optical" in shows else None,
        bob=bob_mm(situation, stand) if "bob" in shows else None,
        strain_mm=strain_mm(state),
        slid_mm=math.hypot(*state.slide) / MM,
        slide_most_mm=equipment.slide_range_mm,
        axis_mm=truth.axis_mm,
        tilt_arcsec=truth.tilt_arcsec,
    )


def _legs(situation: Situation, stand: Stand) -> list[LegSeen]:
    state, equipment, ground = stand.state, situation.equipment, situation.ground
    rows = []
    for i, (leg, (x, y)) in enumerate(zip(LEGS, HINGES, strict=True)):
        foot, radius = state.feet[i], equipment.hinge_radius_mm * MM
        top = state.pose.point((radius * x, radius * y, 0.0))
        most = ground.pressed_mm if stand.pressed[i] else ground.loose_mm
        rows.append(
            LegSeen(
                leg=leg,  # type: ignore[arg-type]
                right_mm=foot[0] / MM,
                away_mm=foot[1] / MM,
                foot_height_mm=foot[2] / MM,
                top_right_mm=top[0] / MM,
                top_away_mm=top[1] / MM,
                top_height_mm=top[2] / MM,
                length_m=state.legs[i],
                shorten_mm=(state.legs[i] - equipment.leg_shortest_m) / MM,
                lengthen_mm=(equipment.leg_longest_m - state.legs[i]) / MM,
                pressed=stand.pressed[i],
                open=stand.open_leg == leg,
                sinking=most - stand.sunk_mm[i] > SINKS_STILL_MM,
            )
        )
    return rows


def _screws(situation: Situation, stand: Stand) -> list[ScrewSeen]:
    """Screws as they sit now: on the head, which may be turned, on a tribrach that may be turned on it."""
    pose, tribrach = stand.state.pose, situation.equipment.tribrach
    sense = 1.0 if tribrach.clockwise_raises else -1.0
    turn = polar(pose.turn[0][1], pose.turn[1][1])[0] + stand.state.tribrach_turn_deg
    return [
        ScrewSeen(
            screw=str(i + 1),
            turned_deg=sense * at / tribrach.pitch_mm * 360.0,
            bearing_deg=(bearing + turn) % 360.0,
            at_mm=at,
            most_mm=tribrach.travel_mm / 2.0,
        )
        for i, (bearing, at) in enumerate(zip(tribrach.bearings_deg, stand.state.screws, strict=True))
    ]  # fmt: skip


def _optical(stand: Stand) -> OpticalSeen:
    ground = stand.focus_ground - GROUND_FOCUS
    return OpticalSeen(
        index_blur=abs(stand.focus_index - INDEX_FOCUS),
        ground_blur=abs(ground),
        parallax_mm=PARALLAX_MM * ground,
    )
