"""Worn screws, soft ground, values that are stored, and what scatters: each by hand from what is seen."""

from __future__ import annotations

import json
import math
from statistics import stdev
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_practice.dispatch import answer
from naveta_practice.instruments import staff
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.instruments.lessons import INSTRUMENT_LESSONS

from .test_instruments import asked
from .test_more_instruments import pairs_of_staffs, pointed, seen, shown_level, turned_by_hand
from .test_other_instruments import degrees, judged, sheet, truth

Data = dict[str, Any]
WORN = next(n for n in range(1, 60) if hidden_of("half-and-whole", n).play)
PER_TURN_DIV = 20.0
"""A foot screw tilts by 600″ a turn, and a division is 30″."""


def bubble(*path: float) -> float:
    look = seen("half-and-whole", WORN, {"heading_deg": 0}, {"pair": list(path)} if path else {})
    return float(look["bubble_div"])


def test_a_worn_screw_moves_nothing_until_its_play_is_taken_up() -> None:
    play, before = hidden_of("half-and-whole", WORN).play, bubble()
    assert 0.02 <= play <= 0.05
    turned = math.copysign(0.1, -before)
    moved = bubble(turned) - before
    assert abs(moved) == pytest.approx((0.1 - play / 2) * PER_TURN_DIV, abs=0.01)
    back = turned - math.copysign(play, turned)
    assert bubble(turned, back) == pytest.approx(bubble(turned), abs=1e-6), "turned round, nothing moves"
    further = back - math.copysign(0.03, turned)
    assert bubble(turned, further) - bubble(turned) == pytest.approx(
        -math.copysign(0.03 * PER_TURN_DIV, turned), abs=0.01
    )
    assert bubble(turned, further) != bubble(further), "what counts is the way it went"


def test_a_quarter_of_all_instruments_have_worn_screws() -> None:
    worn = [bool(hidden_of("half-and-whole", n).play) for n in range(2_000)]
    assert 0.22 < sum(worn) / len(worn) < 0.28


def middle_hair(seed: int, seconds: float, since: float = 0.0) -> tuple[float, str]:
    """Staff A from the middle, in focus, some seconds after the beginning; what stands there of the ground."""
    focus = staff.scene_of(hidden_of("two-peg", seed)).focus[30.0]
    aim = {"place": "middle", "staff": "a", "focus": focus, "since": since}
    look = asked("practice-look", lesson="two-peg", seed=seed, aim=aim, turns={}, seconds=seconds)
    return float(look["middle_m"]), str(look["ground"])


@pytest.mark.parametrize("soft", [True, False])
def test_a_level_on_soft_ground_sinks_and_again_where_it_is_set_up_next(soft: bool) -> None:
    """After one time constant 1 − 1/e of the whole is gone, and nothing of it on firm ground."""
    seed = next(n for n in range(1, 40) if bool(staff.scene_of(hidden_of("two-peg", n)).sinks_m) == soft)
    sinks = staff.scene_of(hidden_of("two-peg", seed)).sinks_m
    assert (0.0003 <= sinks <= 0.0009) == soft
    (first, ground), (later, _), (elsewhere, _) = (middle_hair(seed, *at) for at in ((0.0,), (25.0,), (525.0, 500.0)))
    assert bool(ground) == soft
    assert first - later == pytest.approx(sinks * (1 - 1 / math.e), abs=3e-4)
    assert elsewhere == pytest.approx(later, abs=3e-4)


@pytest.mark.parametrize("seed", range(5))
def test_ten_pairs_scatter_as_much_as_is_hidden(seed: int) -> None:
    """A kilometre levelled twice over 60 m is the spread of one difference by √(1000/60)/√2."""
    focus = staff.scene_of(hidden_of("levelling-accuracy", seed)).focus[30.0]
    differences = []
    for again in range(10):
        aims = ({"place": "middle", "staff": name, "focus": focus, "again": again} for name in "ab")
        a, b = (seen("levelling-accuracy", seed, aim, {})["middle_m"] for aim in aims)
        differences.append(1000 * (a - b))
    hidden = truth("levelling-accuracy", seed, "levelling_sigma_mm_per_km")
    assert stdev(differences) * math.sqrt(1000 / 60) / math.sqrt(2) == pytest.approx(hidden, abs=0.4)


@pytest.mark.parametrize("seed", range(5))
def test_three_sets_scatter_as_much_as_is_hidden(seed: int) -> None:
    """Residuals of 3 sets of 4 directions, orientation and direction taken out: 6 degrees of freedom."""
    sets = []
    for again in range(3):
        directions = []
        for target in "1234":
            left, right = (
                degrees(
                    pointed("direction-accuracy", seed, {"face": face, "target": target, "again": again}, {})["hz_text"]
                )
                for face in ("left", "right")
            )
            directions.append((left + ((right - left) % 360.0 - 180.0) / 2) * 3600)
        sets.append([(each - directions[0] + 648_000) % 1_296_000 for each in directions])
    rows = [sum(each) / 4 for each in sets]
    columns = [sum(column) / 3 for column in zip(*sets, strict=True)]
    whole = sum(rows) / 3
    squares = sum((sets[i][j] - rows[i] - columns[j] + whole) ** 2 for i in range(3) for j in range(4))
    hidden = truth("direction-accuracy", seed, "direction_sigma_arcsec")
    assert math.sqrt(squares / 6) == pytest.approx(hidden, abs=2.5)


def test_ten_pairs_of_one_set_up_find_nothing_and_say_what_to_do() -> None:
    bad = next(n for n in range(1, 40) if truth("levelling-accuracy", n, "levelling_sigma_mm_per_km") > 6)
    document = pairs_of_staffs("levelling-accuracy", bad, {})
    for each in document["observations"]["sets"]:
        each["pairs"] = [each["pairs"][0]] * 10
    outcome = judged("levelling-accuracy", bad, document)
    assert not outcome["passed"]
    assert "set the level again between all pairs" in outcome["otherwise"]


def test_a_value_that_is_stored_is_taken_off() -> None:
    bad = next(n for n in range(1, 40) if abs(truth("electronic-level", n, "index_along_arcsec")) > 20)
    index = truth("electronic-level", bad, "index_along_arcsec")
    before, after = (
        seen("electronic-level", bad, {"heading_deg": 0}, turns)["along_text"] for turns in ({}, {"along": [index]})
    )
    assert float(before.replace("−", "-")) - float(after.replace("−", "-")) == pytest.approx(index, abs=1.1)
    good = all(
        error.good for name, error in hidden_of("electronic-level", bad).errors.items() if name != "index_along_arcsec"
    )
    turns = {
        "along": [round(index)],
        **({} if good else {"across": [round(truth("electronic-level", bad, "index_across_arcsec"))]}),
    }
    left = shown_level("electronic-level", bad, turns)
    assert judged("electronic-level", bad, shown_level("electronic-level", bad, {}), turns=turns, left=left)["passed"]


def test_a_value_with_the_wrong_sign_doubles_the_error_and_one_left_alone_is_named() -> None:
    bad = next(n for n in range(1, 40) if abs(truth("electronic-level", n, "index_along_arcsec")) > 20)
    index, found = truth("electronic-level", bad, "index_along_arcsec"), shown_level("electronic-level", bad, {})
    turns = {"along": [-round(index)]}
    wrong = judged("electronic-level", bad, found, turns=turns, left=shown_level("electronic-level", bad, turns))
    assert not wrong["passed"]
    assert wrong["errors"][0]["left"] == pytest.approx(2 * index, abs=0.6)
    alone = judged("electronic-level", bad, found)
    assert "enter it as the stored index" in alone["otherwise"]


@pytest.mark.parametrize("seed", range(5))
def test_a_tripod_by_hand(seed: int) -> None:
    """A second of arc at 20 m is 0.097 mm; what a hand turns differs by a tenth, and a tenth of it stays."""
    document = turned_by_hand("tripod", seed, {})
    moved = [float(each["loaded_mm"]) - float(each["free_mm"]) for each in document["observations"]["rounds"]]
    assert [each > 0 for each in moved[:2]] == [True, False] or max(map(abs, moved)) < 0.8
    twist = sum(map(abs, moved)) / 4 / 20_000 * 206_265
    hidden = truth("tripod", seed, "twist_arcsec")
    assert twist == pytest.approx(hidden * 0.975, abs=0.1 * hidden + 2.0)
    tight = turned_by_hand("tripod", seed, {"hinges": [2.0]})["observations"]["rounds"]
    assert all(abs(float(each["loaded_mm"]) - float(each["free_mm"])) < 0.2 for each in tight)


@pytest.mark.parametrize(
    ("lesson", "turns", "path"),
    [
        ("tripod", {"hinges": [0.5, 2.5]}, "turns.hinges"),
        ("tripod", {"reticle": [0.5]}, "turns"),
        ("electronic-level", {"along": [201.0]}, "turns.along"),
        ("electronic-level", {"pair": 2.01}, "turns.pair"),
    ],
)
def test_a_screw_turned_too_far_is_refused(lesson: str, turns: Data, path: str) -> None:
    query = {"verb": "practice-look", "lesson": lesson, "seed": 1, "aim": {}, "turns": turns}
    refused = json.loads(answer(json.dumps(query)))
    assert [fault["path"] for fault in refused["faults"]] == [path]


def test_all_fifteen_checks_can_be_practised_and_each_begins_with_its_own_sheet() -> None:
    assert {lesson.check for lesson in INSTRUMENT_LESSONS} == set(KINDS)
    assert all(sheet(lesson.name)["kind"] == lesson.check for lesson in INSTRUMENT_LESSONS)
