"""Instruments with secrets: what is seen through a telescope, what a screw moves, and how it is judged."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest

from naveta_practice.dispatch import answer
from naveta_practice.instruments import level_of

EARTH_BENT_M = 6_371_000 / 0.87


def asked(verb: str, **question: Any) -> Any:
    said = json.loads(answer(json.dumps({"verb": verb, **question})))
    assert said["ok"], said
    return said["data"]


def seen(
    seed: int, place: str, staff: str, *, turned: float = 0.0, focus: float | None = None, seconds: float = 0.0
) -> Any:
    level = level_of("two-peg", seed)
    distance = {("middle", "a"): 30.0, ("middle", "b"): 30.0, ("near-b", "a"): 56.0, ("near-b", "b"): 4.0}[place, staff]
    sharp = level.focus[distance] if focus is None else focus
    return asked(
        "practice-look",
        lesson="two-peg",
        seed=seed,
        place=place,
        staff=staff,
        focus=sharp,
        turned=turned,
        seconds=seconds,
    )


def sheet(seed: int, turned: float = 0.0, wrong_mm: float = 0.0) -> dict[str, Any]:
    """A two-peg test read to the millimetre."""
    setups = []
    for place, distances in (("middle", ("30", "30")), ("near-b", ("56", "4"))):
        sights = {}
        for staff, distance in zip("ab", distances, strict=True):
            reading = seen(seed, place, staff, turned=turned)["middle_m"]
            reading += wrong_mm / 1000 if (place, staff) == ("near-b", "a") else 0.0
            sights[staff] = {"distance": distance, "readings": [f"{reading:.3f}"]}
        setups.append(sights)
    looks = {"bubble_holds": "yes", "line_returns": "yes"}
    return {
        "kind": "two-peg",
        "method": "middle-then-near",
        "units": {"length": "m"},
        "observations": {"setups": setups, "looks": looks},
    }


BAD = next(seed for seed in range(100) if abs(level_of("two-peg", seed).collimation_arcsec) > 30)
GOOD = next(seed for seed in range(100) if abs(level_of("two-peg", seed).collimation_arcsec) < 6)


@pytest.mark.parametrize("seed", range(12))
def test_both_staffs_show_the_hidden_line_of_sight(seed: int) -> None:
    """By hand: what the far pair differs by more than the middle pair, over the difference of distances."""
    a, b, far, near = (seen(seed, place, staff)["middle_m"] for place in ("middle", "near-b") for staff in "ab")
    bent = (56.0**2 - 4.0**2) / (2 * EARTH_BENT_M)
    slope = ((far - near) - (a - b) - bent) / 52.0 * 206_264.8
    assert slope == pytest.approx(level_of("two-peg", seed).collimation_arcsec, abs=1.5)


def test_hairs_lie_a_hundredth_of_the_distance_apart_and_the_middle_in_the_middle() -> None:
    for place, staff, distance in (("middle", "a", 30.0), ("near-b", "a", 56.0), ("near-b", "b", 4.0)):
        look = seen(BAD, place, staff)
        assert look["upper_m"] - look["lower_m"] == pytest.approx(distance / 100)
        assert (look["lowest_m"] + look["highest_m"]) / 2 == pytest.approx(look["middle_m"], abs=0.0003)
        assert look["highest_m"] > look["upper_m"], "all three hairs are seen"


def test_out_of_focus_the_hairs_move_with_the_eye_and_in_focus_they_stand() -> None:
    def spread(focus: float | None) -> float:
        reads = [seen(BAD, "near-b", "a", focus=focus, seconds=i / 10)["middle_m"] for i in range(40)]
        return 1000 * (max(reads) - min(reads))

    assert spread(None) < 0.5, "shimmer only, mm"
    assert spread(0.9) > 8.0
    assert seen(BAD, "near-b", "a")["blur"] == 0
    assert seen(BAD, "near-b", "a", focus=0.9)["blur"] > 4


def test_the_reticle_screw_moves_the_far_staff_and_hardly_the_near_one() -> None:
    level = level_of("two-peg", BAD)
    before, after = (seen(BAD, "near-b", "a", turned=turned)["middle_m"] for turned in (0.0, 0.25))
    assert after - before == pytest.approx(56.0 * math.tan(0.25 * level.arcsec_per_turn / 206_264.8), abs=1e-5)
    near = seen(BAD, "near-b", "b", turned=0.25)["middle_m"] - seen(BAD, "near-b", "b")["middle_m"]
    assert abs(near) < abs(after - before) / 10


def judged(seed: int, found: dict[str, Any], **more: Any) -> Any:
    return asked(
        "practice-instrument-judge", lesson="two-peg", seed=seed, found=found, seconds=200.0, **{"turned": 0.0, **more}
    )


def test_found_turned_and_tested_again_is_good() -> None:
    level = level_of("two-peg", BAD)
    turned = -level.collimation_arcsec / level.arcsec_per_turn
    went = judged(BAD, sheet(BAD), turned=turned, left=sheet(BAD, turned), blurs=[0.1] * 8)
    assert (went["passed"], went["habits"]) == (True, [])
    assert went["left_arcsec"] == pytest.approx(0.0, abs=1e-6)
    assert went["found_arcsec"] == pytest.approx(level.collimation_arcsec, abs=5.0)


@pytest.mark.parametrize(
    ("seed", "more", "habit", "passed"),
    [
        (BAD, {}, "left-as-found", False),
        (GOOD, {"turned": 0.2}, "turned-a-good-one", False),
        (GOOD, {"blurs": [5.0, 0.1]}, "not-focused", True),
        (GOOD, {}, "", True),
    ],
)
def test_what_was_done_otherwise(seed: int, more: dict[str, Any], habit: str, passed: bool) -> None:
    went = judged(seed, sheet(seed), **more)
    codes = [each["code"] for each in went["habits"]]
    assert habit in codes if habit else codes == [], codes
    assert went["passed"] is passed
    assert went["otherwise"].startswith("Its line of sight was ")


def test_a_misread_staff_is_not_found() -> None:
    went = judged(GOOD, sheet(GOOD, wrong_mm=10.0))
    assert not went["passed"]
    assert went["headline"].startswith("Not found")


def test_turned_and_not_tested_again_is_said() -> None:
    level = level_of("two-peg", BAD)
    went = judged(BAD, sheet(BAD), turned=-level.collimation_arcsec / level.arcsec_per_turn)
    assert [each["code"] for each in went["habits"]] == ["not-checked-again"]


@pytest.mark.parametrize(
    "change", [{"lesson": "weather"}, {"seed": -1}, {"place": "far"}, {"focus": 1.5}, {"turned": 9.0}]
)
def test_a_look_that_is_none_is_refused_in_words(change: dict[str, Any]) -> None:
    question = {"lesson": "two-peg", "seed": 1, "place": "middle", "staff": "a", "focus": 0.5, **change}
    said = json.loads(answer(json.dumps({"verb": "practice-look", **question})))
    assert (said["ok"], said["status"]) == (False, 422)
    assert said["faults"][0]["path"] in change


def test_a_sheet_that_is_not_finished_is_refused() -> None:
    unread = sheet(BAD)
    unread["observations"]["setups"][1]["a"]["readings"] = [""]
    said = json.loads(
        answer(
            json.dumps(
                {
                    "verb": "practice-instrument-judge",
                    "lesson": "two-peg",
                    "seed": BAD,
                    "found": unread,
                    "turned": 0,
                    "seconds": 9,
                }
            )
        )
    )
    assert not said["ok"]
    assert any("setups[1].a" in fault["path"] for fault in said["faults"])


def test_two_people_meet_the_same_level_and_levels_differ() -> None:
    assert level_of("two-peg", 7) == level_of("two-peg", 7)
    found = [level_of("two-peg", seed).collimation_arcsec for seed in range(60)]
    assert len(set(found)) == 60
    assert sum(abs(each) < 10 for each in found) in range(8, 30), "about a third are good"
    assert sum(each > 0 for each in found) in range(18, 43)
