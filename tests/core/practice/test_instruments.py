"""Instruments with secrets: what is seen through a telescope, what a screw moves, and how it is judged."""

from __future__ import annotations

import json
import math
from typing import Any

import pytest

from naveta_practice.dispatch import answer
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.instruments.staff import scene_of

EARTH_BENT_M = 6_371_000 / 0.87


def hidden_slope(seed: int) -> float:
    """The hidden line of sight of a level, seconds."""
    return hidden_of("two-peg", seed).errors["collimation_arcsec"].value


def per_turn(seed: int) -> float:
    """Seconds that a whole turn of its reticle screw does."""
    return hidden_of("two-peg", seed).errors["collimation_arcsec"].per_turn


def asked(verb: str, **question: Any) -> Any:
    said = json.loads(answer(json.dumps({"verb": verb, **question})))
    assert said["ok"], said
    return said["data"]


def seen(
    seed: int, place: str, staff: str, *, turned: float = 0.0, focus: float | None = None, seconds: float = 0.0
) -> Any:
    distance = {("middle", "a"): 30.0, ("middle", "b"): 30.0, ("near-b", "a"): 56.0, ("near-b", "b"): 4.0}[place, staff]
    sharp = scene_of(hidden_of("two-peg", seed)).focus[distance] if focus is None else focus
    return asked(
        "practice-look",
        lesson="two-peg",
        seed=seed,
        aim={"place": place, "staff": staff, "focus": sharp},
        turns={"reticle": turned},
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


BAD = next(seed for seed in range(100) if abs(hidden_slope(seed)) > 30)
GOOD = next(seed for seed in range(100) if abs(hidden_slope(seed)) < 6)


@pytest.mark.parametrize("seed", range(12))
def test_both_staffs_show_the_hidden_line_of_sight(seed: int) -> None:
    """By hand: what the far pair differs by more than the middle pair, over the difference of distances."""
    a, b, far, near = (seen(seed, place, staff)["middle_m"] for place in ("middle", "near-b") for staff in "ab")
    bent = (56.0**2 - 4.0**2) / (2 * EARTH_BENT_M)
    slope = ((far - near) - (a - b) - bent) / 52.0 * 206_264.8
    assert slope == pytest.approx(hidden_slope(seed), abs=1.5)


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
    before, after = (seen(BAD, "near-b", "a", turned=turned)["middle_m"] for turned in (0.0, 0.25))
    assert after - before == pytest.approx(56.0 * math.tan(0.25 * per_turn(BAD) / 206_264.8), abs=1e-5)
    near = seen(BAD, "near-b", "b", turned=0.25)["middle_m"] - seen(BAD, "near-b", "b")["middle_m"]
    assert abs(near) < abs(after - before) / 10


def judged(seed: int, found: dict[str, Any], **more: Any) -> Any:
    return asked("practice-instrument-judge", lesson="two-peg", seed=seed, found=found, seconds=200.0, **more)


def test_found_turned_and_tested_again_is_good() -> None:
    turned = -hidden_slope(BAD) / per_turn(BAD)
    went = judged(BAD, sheet(BAD), turns={"reticle": turned}, left=sheet(BAD, turned), blurs=[0.1] * 8)
    assert (went["passed"], went["habits"]) == (True, [])
    (error,) = went["errors"]
    assert error["left"] == pytest.approx(0.0, abs=1e-6)
    assert error["left_text"] == "0″"
    assert error["found"] == pytest.approx(hidden_slope(BAD), abs=5.0)


@pytest.mark.parametrize(
    ("seed", "more", "habit", "passed"),
    [
        (BAD, {}, "left-as-found", False),
        (GOOD, {"turns": {"reticle": 0.2}}, "turned-a-good-one", False),
        (GOOD, {"blurs": [5.0, 0.1]}, "not-focused", True),
        (GOOD, {}, "", True),
    ],
)
def test_what_was_done_otherwise(seed: int, more: dict[str, Any], habit: str, passed: bool) -> None:
    went = judged(seed, sheet(seed), **more)
    codes = [each["code"] for each in went["habits"]]
    assert habit in codes if habit else codes == [], codes
    assert went["passed"] is passed
    assert went["otherwise"].startswith("Line of sight: hidden ")


def test_a_misread_staff_is_not_found() -> None:
    went = judged(GOOD, sheet(GOOD, wrong_mm=10.0))
    assert not went["passed"]
    assert went["headline"].startswith("Not found")


def test_turned_and_not_tested_again_is_said() -> None:
    went = judged(BAD, sheet(BAD), turns={"reticle": -hidden_slope(BAD) / per_turn(BAD)})
    assert [each["code"] for each in went["habits"]] == ["not-checked-again"]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"lesson": "weather"}, "lesson"),
        ({"seed": -1}, "seed"),
        ({"aim": {"place": "far"}}, "aim.place"),
        ({"aim": {"focus": 1.5}}, "aim.focus"),
        ({"aim": {"heading_deg": 90}}, "aim.heading_deg"),
        ({"turns": {"reticle": 9.0}}, "turns.reticle"),
        ({"turns": {"index": 0.1}}, "turns"),
    ],
)
def test_a_look_that_is_none_is_refused_in_words(change: dict[str, Any], path: str) -> None:
    question = {"lesson": "two-peg", "seed": 1, **change}
    said = json.loads(answer(json.dumps({"verb": "practice-look", **question})))
    assert (said["ok"], said["status"]) == (False, 422)
    assert [fault["path"] for fault in said["faults"]] == [path]


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
                    "seconds": 9,
                }
            )
        )
    )
    assert not said["ok"]
    assert any("setups[1].a" in fault["path"] for fault in said["faults"])


@pytest.mark.parametrize("lesson", ["half-and-whole", "plummet", "two-peg", "two-faces"])
def test_two_people_meet_the_same_instrument_and_instruments_differ(lesson: str) -> None:
    first = hidden_of(lesson, 7).errors
    hidden_of.cache_clear()
    assert hidden_of(lesson, 7).errors == first
    found = [list(hidden_of(lesson, seed).errors.values()) for seed in range(80)]
    assert len({each[0].value for each in found}) == 80
    good = [errors for errors in found if all(error.good for error in errors)]
    assert len(good) in range(12, 40), "about a third are good as a whole"
    bad = [errors for errors in found if errors not in good]
    assert all(any(abs(error.value) > error.spec.bad for error in errors) for errors in bad), (
        "the others want adjusting"
    )
    assert sum(errors[0].value > 0 for errors in found) in range(24, 57)
