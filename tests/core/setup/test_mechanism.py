"""The mechanism against what practitioners know of tripods, and against an independent solution."""

from __future__ import annotations

import math
import random
from dataclasses import replace

import numpy as np
import pytest
from scipy.optimize import fsolve
from scipy.spatial.transform import Rotation

from naveta_core.setup.equipment import CircularVial, ElectronicLevel, Equipment, PlateVial, Plummet, Tribrach
from naveta_core.setup.mechanism import (
    OutOfReachError,
    axis_height_m,
    carry_over,
    move_foot,
    move_leg,
    see,
    slide,
    stood,
    strain_mm,
    turn_screw,
    turn_to,
)
from naveta_core.setup.tripod import CannotStandError, even_feet, level_pose

from .world import PLUMB, random_feet, random_state, tilt_of

EVEN = stood(PLUMB, even_feet(1.0), 1.45)
ARCSEC = 206264.806


def off(spot: tuple[float, float] | None) -> float:
    assert spot is not None
    return math.hypot(*spot)


def test_a_pose_is_the_one_another_solver_finds() -> None:
    """Leg lengths and radial planes, written again with rotation vectors and solved by scipy."""
    rng = random.Random(5)
    for _ in range(20):
        state = random_state(rng, tilt_deg=3.0)
        radius = PLUMB.hinge_radius_mm / 1000.0
        angles = np.radians([0.0, 120.0, 240.0])
        hinges = np.stack([radius * np.sin(angles), radius * np.cos(angles), np.zeros(3)], axis=1)
        across = np.stack([np.cos(angles), -np.sin(angles), np.zeros(3)], axis=1)
        feet = np.array(state.feet)

        def wrong(unknown: np.ndarray, hinges=hinges, across=across, feet=feet, state=state) -> np.ndarray:
            turn = Rotation.from_rotvec(unknown[3:]).as_matrix()
            spans = np.linalg.norm(feet - unknown[:3] - hinges @ turn.T, axis=1) - np.array(state.legs)
            planes = ((feet - unknown[:3]) * (across @ turn.T)).sum(axis=1)
            return np.concatenate([spans, planes])

        start = np.array([*(np.array(state.pose.at) + 0.01), 0.02, -0.01, 0.03])
        found = fsolve(wrong, start, xtol=1e-13)
        assert found[:3] == pytest.approx(state.pose.at, abs=1e-9)
        assert Rotation.from_rotvec(found[3:]).as_matrix()[:, 2] == pytest.approx(state.pose.normal, abs=1e-9)


def test_stood_up_on_any_ground_the_head_is_level() -> None:
    rng = random.Random(6)
    for _ in range(50):
        seen = see(PLUMB, stood(PLUMB, random_feet(rng), 1.4))
        assert seen.tilt_arcsec == pytest.approx((0, 0), abs=1e-6)
        assert seen.in_ring


def test_leg_changes_level_the_head_while_the_spot_stays() -> None:
    """'With the plummet on the mark, legs level the head and the spot hardly moves': a fraction of a millimetre a degree."""
    rng = random.Random(7)
    for _ in range(40):
        state = stood(PLUMB, random_feet(rng), 1.4)
        mark = see(PLUMB, state).spot_mm
        assert mark is not None
        moved = move_leg(PLUMB, state, rng.choice("ABC"), rng.choice((-1, 1)) * 8.0)
        spot = see(PLUMB, moved).spot_mm
        assert spot is not None
        tilt = tilt_of(PLUMB, moved)
        assert tilt > 1500
        assert math.dist(spot, mark) < 1.5
        # The same tilt made by the foot screws moves the spot by tilt × height: tens of times as much.
        assert tilt / ARCSEC * 1400 > 10


def test_a_lowered_leg_lets_the_bubble_run_away_from_it() -> None:
    for leg, bearing in (("A", 0.0), ("B", 120.0), ("C", 240.0)):
        seen = see(PLUMB, move_leg(PLUMB, EVEN, leg, -3.0))
        assert abs((seen.bubble_bearing_deg - bearing - 180.0 + 180.0) % 360.0 - 180.0) < 1e-3
        # 3 mm on a lever of one and a half foot circles: 3·(L/H)/(1.5·577 mm).
        drop = 3.0 * EVEN.legs[0] / EVEN.pose.at[2]
        assert tilt_of(PLUMB, move_leg(PLUMB, EVEN, leg, -3.0)) == pytest.approx(
            drop / (1.5 * 577.35) * ARCSEC, rel=0.02
        )


def test_screws_move_the_spot_by_tilt_times_height() -> None:
    turned = turn_screw(PLUMB, EVEN, {1: 0.5, 2: -0.25, 3: -0.25})
    seen = see(PLUMB, turned)
    tilt = math.hypot(*seen.tilt_arcsec)
    # Screw 1 rises 0.35 mm against the other two's 0.175 mm: 0.525 mm on 75 mm.
    assert tilt == pytest.approx(0.525 / 75.0 * ARCSEC, rel=1e-4)
    assert seen.bubble_bearing_deg == pytest.approx(0.0, abs=1e-6)
    assert off(seen.spot_mm) == pytest.approx(0.007 * 1450, rel=1e-3)


def test_a_pair_turned_equally_leaves_the_middle_where_it_is() -> None:
    turned = turn_screw(PLUMB, EVEN, {2: 1.0, 3: -1.0})
    assert axis_height_m(PLUMB, turned) == pytest.approx(axis_height_m(PLUMB, EVEN), abs=3e-5)
    # 0.7 mm up and 0.7 mm down across 86.6 mm, the right-hand screw raised: bubble at 90°.
    seen = see(PLUMB, turned)
    assert math.hypot(*seen.tilt_arcsec) == pytest.approx(1.4 / 86.6025 * ARCSEC, rel=1e-3)
    assert seen.bubble_bearing_deg == pytest.approx(90.0)


def test_screws_that_lower_clockwise_do_the_opposite() -> None:
    left_handed = replace(PLUMB, tribrach=replace(Tribrach(), clockwise_raises=False))
    entry, other = (
        see(PLUMB, turn_screw(PLUMB, EVEN, {1: 0.4})),
        see(left_handed, turn_screw(left_handed, EVEN, {1: -0.4})),
    )
    assert entry.tilt_arcsec == other.tilt_arcsec


def test_a_slide_on_a_level_head_stores_the_level_and_moves_the_spot_by_itself() -> None:
    seen = see(PLUMB, slide(PLUMB, EVEN, 6.0, -3.0, turn_deg=4.0))
    assert seen.tilt_arcsec == pytest.approx((0, 0), abs=1e-6)
    assert seen.spot_mm == pytest.approx((6.0, -3.0), abs=1e-9)


def test_turning_the_base_while_sliding_spoils_the_level_in_proportion_to_the_head() -> None:
    """A head 40′ off, levelled by the screws, tribrach turned by 5°: 40′·2·sin 2.5° = 209″."""
    tilted = move_leg(PLUMB, EVEN, "A", 9.6)
    head = see(PLUMB, tilted).head_tilt_arcsec
    size = math.hypot(*head)
    rises = [-50.0 * (head[0] * math.sin(b) + head[1] * math.cos(b)) / ARCSEC / 0.7 for b in np.radians([0, 120, 240])]
    level = turn_screw(PLUMB, tilted, {1: rises[0], 2: rises[1], 3: rises[2]})
    assert tilt_of(PLUMB, level) < 1.0
    assert tilt_of(PLUMB, slide(PLUMB, level, 5.0, 5.0)) < 1.0
    spoiled = tilt_of(PLUMB, slide(PLUMB, level, 5.0, 5.0, turn_deg=5.0))
    assert spoiled == pytest.approx(size * 2 * math.sin(math.radians(2.5)), rel=0.02)


def test_treading_a_foot_in_tilts_the_head_and_carrying_over_does_not() -> None:
    trodden = move_foot(PLUMB, EVEN, "B", right_mm=0.0, up_mm=0.0, rise_mm=-10.0)
    assert see(PLUMB, trodden).bubble_bearing_deg == pytest.approx(300.0, abs=0.2)
    over = see(PLUMB, carry_over(EVEN, 30.0, 40.0))
    assert over.tilt_arcsec == pytest.approx((0, 0), abs=1e-9)
    assert over.spot_mm == pytest.approx((30.0, 40.0), abs=1e-9)


def test_a_plummet_in_the_alidade_draws_a_circle_and_one_in_the_base_does_not() -> None:
    error = 2.0 / 1450.0 * ARCSEC
    for place in ("turning", "tribrach"):
        equipment = replace(PLUMB, plummet=Plummet(place=place, error_x_arcsec=error, height_mm=0.0))  # type: ignore[arg-type]
        north, south = (see(equipment, turn_to(EVEN, heading)).spot_mm for heading in (0.0, 180.0))
        assert north == pytest.approx((2.0, 0.0), abs=0.01)
        assert south == pytest.approx((-2.0, 0.0) if place == "turning" else (2.0, 0.0), abs=0.01)


def test_vials_show_their_own_error_whichever_way_they_are_turned() -> None:
    equipment = replace(PLUMB, plate=PlateVial(error_div=1.5), circular=CircularVial(error_x_mm=0.6))
    for heading, bearing in ((0.0, 90.0), (90.0, 180.0), (180.0, 270.0)):
        seen = see(equipment, turn_to(EVEN, heading))
        assert seen.plate_div == pytest.approx(1.5)
        assert (seen.bubble_bearing_deg, seen.bubble_mm) == pytest.approx((bearing, 0.6))


def test_an_electronic_level_shows_tilt_and_index_apart_and_nothing_beyond_its_range() -> None:
    equipment = replace(PLUMB, electronic=ElectronicLevel(9.0, -4.0, range_arcmin=3.0))
    tilted = turn_screw(PLUMB, EVEN, {1: 0.006})
    tilt = see(PLUMB, tilted).tilt_arcsec[1]
    assert tilt > 5.0
    assert see(equipment, tilted).along_arcsec == pytest.approx(9.0 + tilt)
    assert see(equipment, turn_to(tilted, 180.0)).along_arcsec == pytest.approx(9.0 - tilt)
    assert see(equipment, turn_to(tilted, 90.0)).across_arcsec == pytest.approx(-4.0 - tilt)
    assert see(equipment, turn_screw(PLUMB, EVEN, {1: 0.5})).along_arcsec is None


def test_four_screws_against_each_other_are_a_strain() -> None:
    four = replace(PLUMB, tribrach=Tribrach(screws=4, bearings_deg=(0.0, 90.0, 180.0, 270.0)))
    state = stood(four, even_feet(1.0), 1.45)
    good, bad = turn_screw(four, state, {1: 1.0, 3: -1.0}), turn_screw(four, state, {1: 1.0, 3: 1.0})
    assert (strain_mm(good), strain_mm(bad)) == (pytest.approx(0.0), pytest.approx(0.35))
    assert math.hypot(*see(four, good).tilt_arcsec) == pytest.approx(0.7 / 50.0 * ARCSEC, rel=1e-3)


def test_what_cannot_be_done_is_refused() -> None:
    equipment = Equipment()
    state = stood(equipment, even_feet(1.0), 1.45)
    with pytest.raises(OutOfReachError, match="leg B would be"):
        move_leg(equipment, state, "B", 900.0)
    with pytest.raises(OutOfReachError, match="screw 2 is at its stop"):
        turn_screw(equipment, state, {2: 7.0})
    with pytest.raises(OutOfReachError, match="slides"):
        slide(equipment, state, 15.0, 15.0)
    with pytest.raises(CannotStandError):
        level_pose(((0.0, 0.5, 0.0), (0.0, 0.0, 0.0), (0.0, -0.5, 0.0)), 1.4)
