"""The practice stand against a rigid body computed another way, and against what a hand would feel."""

from __future__ import annotations

import json
import math
import random
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from scipy.optimize import fsolve
from scipy.spatial.transform import Rotation

from naveta_core.setup.methods import SET_UP_METHODS
from naveta_practice.dispatch import answer
from naveta_practice.ground import GROUNDS, sinks_mm
from naveta_practice.lessons import LESSONS
from naveta_practice.moves import Move, moved
from naveta_practice.seen import seen_of
from naveta_practice.situations import Situation, situation_of
from naveta_practice.stand import Stand, advanced, begun, bob_mm

ARCSEC = 206264.806


def asked(verb: str, **fields: Any) -> Any:
    found = json.loads(answer(json.dumps({"verb": verb, **fields})))
    assert found["ok"], found
    return found["data"]


def independent(situation: Situation, stand: Stand) -> tuple[np.ndarray, np.ndarray]:
    """Axis at the mark's height (mm) and its tilt (arcsec, high side), from feet, legs and screws by other means: rotation
    vectors and a general solver for the head, a plane through the tips of the screws for the tribrach."""
    equipment, state = situation.equipment, stand.state
    radius = equipment.hinge_radius_mm / 1000.0
    angles = np.radians([0.0, 120.0, 240.0])
    hinges = np.stack([radius * np.sin(angles), radius * np.cos(angles), np.zeros(3)], axis=1)
    across = np.stack([np.cos(angles), -np.sin(angles), np.zeros(3)], axis=1)
    feet = np.array(state.feet)

    def wrong(unknown: np.ndarray) -> np.ndarray:
        turn = Rotation.from_rotvec(unknown[3:]).as_matrix()
        spans = np.linalg.norm(feet - unknown[:3] - hinges @ turn.T, axis=1) - np.array(state.legs)
        planes = ((feet - unknown[:3]) * (across @ turn.T)).sum(axis=1)
        return np.concatenate([spans, planes])

    middle = feet.mean(axis=0)
    start = np.array([middle[0], middle[1], middle[2] + 1.4, 0.0, 0.0, 0.0])
    found = fsolve(wrong, start, xtol=1e-13)
    head = Rotation.from_rotvec(found[3:]).as_matrix()
    tribrach = equipment.tribrach
    at = np.radians(np.array(tribrach.bearings_deg))
    tips = np.stack([np.sin(at), np.cos(at), np.array(state.screws) / tribrach.radius_mm], axis=1)
    # z = a x + b y + c through the heights: the plate stands on the screws, parallel to that plane.
    (a, b, _), *_ = np.linalg.lstsq(np.column_stack([tips[:, :2], np.ones(len(tips))]), tips[:, 2], rcond=None)
    turn = math.radians(state.tribrach_turn_deg)
    spin = np.array([[math.cos(turn), math.sin(turn), 0], [-math.sin(turn), math.cos(turn), 0], [0, 0, 1]])
    normal = np.array([-a, -b, 1.0]) / math.sqrt(1 + a * a + b * b)
    up = head @ spin @ normal
    pivot = found[:3] + head @ np.array([state.slide[0], state.slide[1], equipment.pivot_height_mm / 1000.0])
    reach = (state.mark[2] - pivot[2]) / up[2]
    axis = (pivot + reach * up - np.array(state.mark))[:2] * 1000.0
    return axis, -up[:2] / up[2] * ARCSEC


def any_move(rng: random.Random, situation: Situation) -> Move:
    leg = rng.choice("ABC")
    moves = {
        "carry": Move(do="carry", right_mm=rng.uniform(-40, 40), away_mm=rng.uniform(-40, 40)),
        "feet": Move(do="foot", leg=leg, right_mm=rng.uniform(-30, 30), away_mm=rng.uniform(-30, 30)),
        "legs": Move(do="leg", leg=leg, mm=rng.uniform(-12, 12)),
        "press": Move(do="press", leg=leg),
        "screws": Move(do="screws", turns={"1": rng.uniform(-1, 1), "2": rng.uniform(-1, 1)}),
        "slide": Move(do="slide", right_mm=rng.uniform(-4, 4), away_mm=rng.uniform(-4, 4), turn_deg=rng.uniform(-3, 3)),
        "heading": Move(do="heading", turn_deg=rng.uniform(-180, 180)),
    }
    return moves[rng.choice(situation.lesson.controls)]


@pytest.mark.parametrize("lesson", [lesson.name for lesson in LESSONS])
def test_every_stand_is_the_rigid_body_another_solver_finds(lesson: str) -> None:
    rng = random.Random(lesson)
    compared, worst_mm, worst_arcsec = 0, 0.0, 0.0
    for seed in range(4):
        situation = situation_of(lesson, seed)
        stand = begun(situation)
        for _ in range(12):
            stand, _ = moved(situation, stand, any_move(rng, situation))
            stand = advanced(situation, stand, 0.2)
        seen = seen_of(situation, stand)
        axis, tilt = independent(situation, stand)
        worst_mm = max(worst_mm, float(np.abs(axis - np.array(seen.axis_mm)).max()))
        worst_arcsec = max(worst_arcsec, float(np.abs(tilt - np.array(seen.tilt_arcsec)).max()))
        compared += 1
    assert compared == 4
    assert worst_mm <= 0.05
    assert worst_arcsec <= 1.0


@pytest.mark.parametrize("lesson", LESSONS, ids=lambda lesson: lesson.name)
def test_the_same_number_is_the_same_tripod_and_another_is_another(lesson: Any) -> None:
    situation_of.cache_clear()
    one = seen_of(situation_of(lesson.name, 5), begun(situation_of(lesson.name, 5)))
    situation_of.cache_clear()
    assert seen_of(situation_of(lesson.name, 5), begun(situation_of(lesson.name, 5))) == one
    assert seen_of(situation_of(lesson.name, 6), begun(situation_of(lesson.name, 6))).tilt_arcsec != one.tilt_arcsec


def test_a_loose_foot_sinks_on_earth_a_pressed_one_hardly_and_concrete_never() -> None:
    earth, stone = GROUNDS["earth"], GROUNDS["stone"]
    # Two thirds of the whole after the time of rest: 1 − e⁻¹ = 0.632.
    assert sinks_mm(earth, pressed=False, sunk_mm=0.0, seconds=earth.rest_s) == pytest.approx(8.0 * 0.63212, abs=1e-3)
    assert sinks_mm(earth, pressed=True, sunk_mm=0.0, seconds=1e6) == pytest.approx(0.4)
    assert sinks_mm(earth, pressed=False, sunk_mm=8.0, seconds=1e6) == 0.0
    assert sinks_mm(stone, pressed=False, sunk_mm=0.0, seconds=1e6) == 0.0


def whole_set_up(seed: int = 1) -> tuple[Situation, Stand]:
    situation = situation_of("whole-set-up", seed)
    return situation, begun(situation)


def test_while_one_waits_loose_feet_take_the_level_with_them() -> None:
    situation, stand = whole_set_up()
    height = stand.state.pose.at[2]
    for _ in range(400):
        stand = advanced(situation, stand, 0.25)
    assert stand.seconds == pytest.approx(100.0)
    sunk = height - stand.state.pose.at[2]
    assert 0.006 < sunk < situation.ground.loose_mm / 1000 * 1.05
    assert all(leg.sinking for leg in seen_of(situation, begun(situation)).legs)


def test_pressing_in_goes_deep_once_and_lifting_the_foot_brings_it_back_to_the_ground() -> None:
    situation, stand = whole_set_up()
    before = stand.state.feet[1][2]
    stand, _ = moved(situation, stand, Move(do="press", leg="B"))
    deep = before - stand.state.feet[1][2]
    assert deep == pytest.approx(situation.ground.press_mm / 1000)
    again, _ = moved(situation, stand, Move(do="press", leg="B"))
    assert stand.state.feet[1][2] - again.state.feet[1][2] == pytest.approx(0.05 * situation.ground.press_mm / 1000)
    back, _ = moved(situation, again, Move(do="foot", leg="B"))
    assert back.state.feet[1][2] == pytest.approx(before)
    assert back.pressed == (False, False, False)


def test_an_open_clamp_lets_the_leg_slip_until_it_is_closed() -> None:
    situation, stand = whole_set_up()
    length = stand.state.legs[0]
    stand, _ = moved(situation, stand, Move(do="open", leg="A"))
    stand = advanced(situation, stand, 0.25)
    assert length - stand.state.legs[0] == pytest.approx(0.02)
    stand, _ = moved(situation, stand, Move(do="close"))
    held = advanced(situation, stand, 0.25)
    assert held.state.legs == stand.state.legs
    assert seen_of(situation, stand).legs[0].open is False


def test_a_bubble_follows_late_and_comes_to_rest_where_it_belongs() -> None:
    situation = situation_of("left-thumb", 3)
    stand = begun(situation)
    was = stand.bubble_mm
    stand, _ = moved(situation, stand, Move(do="screws", turns={"1": 0.05}))
    assert stand.bubble_mm == was
    early = advanced(situation, stand, 0.1)
    late = stand
    for _ in range(40):
        late = advanced(situation, late, 0.25)
    whole = math.dist(was, late.bubble_mm)
    # One screw 0.05 turns up: 0.035 mm over a lever of 75 mm is 96″, 0.4 mm in a vial of 8′ per 2 mm.
    assert whole == pytest.approx(0.035 / 75.0 * ARCSEC / 60.0 / 8.0 * 2.0, rel=0.01)
    assert math.dist(was, early.bubble_mm) == pytest.approx(whole * (1 - math.exp(-0.4)), rel=1e-6)


def test_the_bubble_goes_with_the_left_thumb() -> None:
    """Left thumb to the right is the left screw clockwise from above where clockwise raises: its corner goes up."""
    situation = situation_of("left-thumb", 3)
    stand = begun(situation)
    # Screw 3 is at the left of the person, screw 2 at the right: against each other.
    turned, _ = moved(situation, stand, Move(do="screws", turns={"3": 0.1, "2": -0.1}))
    before, after = seen_of(situation, stand).tilt_arcsec, seen_of(situation, turned).tilt_arcsec
    assert after[0] - before[0] == pytest.approx(-0.14 / (50.0 * math.sqrt(3.0)) * ARCSEC, rel=1e-3)
    assert after[1] - before[1] == pytest.approx(0.0, abs=0.5)


def test_a_level_that_is_far_out_goes_off_after_a_while_and_comes_back() -> None:
    situation = situation_of("whole-set-up", 2)
    stand = begun(situation)
    assert seen_of(situation, stand).along_arcsec is None
    # Stated of this one: beyond 4′ it shuts off after 6 seconds.
    assert (situation.instrument.tilt_limit_arcmin, situation.instrument.tilt_delay_s) == (4.0, 6.0)
    for seconds in range(1, 8):
        for _ in range(4):
            stand = advanced(situation, stand, 0.25)
        assert seen_of(situation, stand).level_lost is (seconds >= 6)
    level = situation_of("slide-and-level", 2)
    near = begun(level)
    assert seen_of(level, near).along_arcsec is not None


def test_a_laser_shows_nothing_until_it_is_on_and_goes_off_by_itself() -> None:
    situation, stand = whole_set_up(3)
    assert seen_of(situation, stand).spot is None
    stand, _ = moved(situation, stand, Move(do="laser"))
    assert seen_of(situation, stand).spot is not None
    for _ in range(241):
        stand = advanced(situation, stand, 0.25)
    assert seen_of(situation, stand).spot is None


def test_the_index_moves_with_the_eye_until_the_ground_is_sharp() -> None:
    situation = situation_of("slide-and-level", 1)
    stand = begun(situation)
    blurred = seen_of(situation, stand).optical
    assert blurred is not None
    assert blurred.parallax_mm == pytest.approx(6.0 * (0.9 - 0.36))
    for do, share in (("focus-index", 0.62), ("focus-ground", 0.36)):
        stand, _ = moved(situation, stand, Move(do=do, share=share))  # type: ignore[arg-type]
    sharp = seen_of(situation, stand).optical
    assert sharp is not None
    assert (sharp.index_blur, sharp.ground_blur, sharp.parallax_mm) == pytest.approx((0.0, 0.0, 0.0))


def test_a_bob_swings_as_a_pendulum_about_where_the_head_is() -> None:
    situation = situation_of("slope-and-wind", 1)
    stand = begun(situation)
    xs = []
    for _ in range(1200):
        stand = advanced(situation, stand, 0.05)
        xs.append(bob_mm(situation, stand)[0])
    middle = np.mean(xs)
    head = stand.state.pose.at[0] * 1000
    assert middle == pytest.approx(head, abs=0.6)
    crossings = sum((a - middle) * (b - middle) < 0 for a, b in pairwise(xs))
    length = stand.state.pose.at[2]
    # 60 s of a pendulum: two crossings in every 2π√(L/g).
    assert crossings == pytest.approx(2 * 60.0 / (2 * math.pi * math.sqrt(length / 9.81)), abs=3)


@pytest.mark.parametrize(
    ("lesson", "move", "said"),
    [
        ("left-thumb", {"do": "leg", "leg": "A", "mm": 1}, "Not part of this lesson"),
        ("left-thumb", {"do": "screws", "turns": {"1": 8}}, "at its stop"),
        ("left-thumb", {"do": "screws", "turns": {"4": 0.1}}, "three foot screws"),
        ("whole-set-up", {"do": "leg", "leg": "A", "mm": 400}, "Leg A would be"),
        ("whole-set-up", {"do": "slide", "right_mm": 30}, "slides 20"),
        ("whole-set-up", {"do": "press"}, "Choose a leg"),
        ("bubble-and-leg", {"do": "leg", "leg": "B", "mm": -300}, "falls over"),
        ("slope-and-wind", {"do": "foot", "leg": "B", "right_mm": -700}, "too near"),
    ],
)  # fmt: skip
def test_what_is_in_the_way_is_said_and_nothing_moves(lesson: str, move: dict[str, Any], said: str) -> None:
    begun_ = asked("practice-step", lesson=lesson, seed=3)
    after = asked("practice-step", lesson=lesson, seed=3, state=begun_["state"], moves=[move])
    assert said in after["refused"]
    assert after["state"] == begun_["state"]


def test_four_screws_out_of_step_strain_the_plate() -> None:
    situation = situation_of("four-screws", 1)
    stand = begun(situation)
    assert seen_of(situation, stand).strain_mm == pytest.approx(0.0, abs=1e-9)
    stand, _ = moved(situation, stand, Move(do="screws", turns={"1": 0.2}))
    assert seen_of(situation, stand).strain_mm == pytest.approx(0.2 * 0.7 / 4)


@pytest.mark.parametrize(
    ("fields", "path"),
    [
        ({"lesson": "juggling", "seed": 1}, "lesson"),
        ({"lesson": "left-thumb", "seed": -1}, "seed"),
        ({"lesson": "left-thumb", "seed": 10**7}, "seed"),
        ({"lesson": "left-thumb", "seed": 1, "moves": [{"do": "kick"}]}, "moves[0].do"),
        ({"lesson": "left-thumb", "seed": 1, "moves": [{"do": "leg", "mm": 5000}]}, "moves[0].mm"),
        ({"lesson": "left-thumb", "seed": 1, "moves": [{"do": "heading"}] * 41}, "moves"),
        ({"lesson": "left-thumb", "seed": 1, "state": {"seconds": 1}}, "state.feet"),
    ],
)
def test_bad_questions_are_refused_by_their_field(fields: dict[str, Any], path: str) -> None:
    found = json.loads(answer(json.dumps({"verb": "practice-step", **fields})))
    assert (found["ok"], found["faults"][0]["path"]) == (False, path)


def test_every_method_of_a_set_up_can_be_practised() -> None:
    """And with what it needs: a mark only where there is one, four screws where it is for four."""
    by = {name: [lesson for lesson in LESSONS if name in lesson.practises] for name in SET_UP_METHODS}
    assert [name for name, lessons in by.items() if not lessons] == []
    for name, lessons in by.items():
        for lesson in lessons:
            assert (lesson.screws == 4) == (SET_UP_METHODS[name].needs == "four"), (name, lesson.name)
            assert (lesson.within_mm is None) == SET_UP_METHODS[name].for_levels, (name, lesson.name)
