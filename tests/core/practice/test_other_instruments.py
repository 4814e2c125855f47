"""Vial, plummet and theodolite with secrets: read by their check's own rule, adjusted by the screw one turns."""

from __future__ import annotations

import json
import math
import re
from typing import Any

import pytest

from naveta_practice.dispatch import answer
from naveta_practice.instruments import axis, circles, paper, vial
from naveta_practice.instruments.hidden import hidden_of

from .test_instruments import asked

Data = dict[str, Any]
LESSONS: dict[str, Data] = {lesson["name"]: lesson for lesson in asked("practice-instruments")}


def sheet(lesson: str) -> Data:
    """The sheet a lesson begins with, to be filled."""
    return dict(json.loads(json.dumps(LESSONS[lesson]["document"])))


def truth(lesson: str, seed: int, quantity: str) -> float:
    return hidden_of(lesson, seed).errors[quantity].value


def clear(lesson: str, seed: int) -> dict[str, float]:
    """The turns of the adjusting screws that take every hidden error away."""
    return {error.spec.screw: -error.value / error.per_turn for error in hidden_of(lesson, seed).errors.values()}


def judged(lesson: str, seed: int, found: Data, **more: Any) -> Data:
    return dict(asked("practice-instrument-judge", lesson=lesson, seed=seed, found=found, seconds=60.0, **more))


def bubble(seed: int, heading: float, **turns: float) -> float:
    """The bubble in divisions."""
    return float(
        asked("practice-look", lesson="half-and-whole", seed=seed, aim={"heading_deg": heading}, turns=turns)[
            "bubble_div"
        ]
    )


def bubbles(seed: int, **turns: float) -> Data:
    document = sheet("half-and-whole")
    for row in document["observations"]["readings"]:
        row["bubble_div"] = f"{bubble(seed, float(row['heading_deg']), **turns):.1f}"
    return document


def point(seed: int, heading: float, **turns: float) -> tuple[float, float]:
    """Where the plummet points on the paper, in focus, mm."""
    focus = paper.scene_of(hidden_of("plummet", seed)).focus
    look = asked(
        "practice-look", lesson="plummet", seed=seed, aim={"heading_deg": heading, "focus": focus}, turns=turns
    )
    return look["x_mm"], look["y_mm"]


def marks(seed: int, **turns: float) -> Data:
    document = sheet("plummet")
    for row in document["observations"]["sets"][0]["marks"]:
        row["x_mm"], row["y_mm"] = (f"{each:.1f}" for each in point(seed, float(row["heading_deg"]), **turns))
    return document


def typed(shown: str) -> str:
    """A circle as it is typed: 102°43′05″ as 102.4305."""
    degrees, minutes, seconds = (int(each) for each in re.findall(r"\d+", shown))
    return f"{degrees}.{minutes:02d}{seconds:02d}"


def degrees(shown: str) -> float:
    whole, minutes, seconds = (int(each) for each in re.findall(r"\d+", shown))
    return whole + minutes / 60 + seconds / 3600


def pointed(seed: int, face: str, **turns: float) -> Data:
    """The look once the hairs are on the target, by what is seen alone."""
    aim: Data = {"face": face, "focus": circles.scene_of(hidden_of("two-faces", seed)).focus}
    for _ in range(4):
        look = asked("practice-look", lesson="two-faces", seed=seed, aim=aim, turns=turns)
        up = look["up_arcsec"] if face == "left" else -look["up_arcsec"]
        aim |= {"hz_arcsec": look["hz_arcsec"] + look["right_arcsec"], "v_arcsec": look["v_arcsec"] - up}
    return dict(look)


def both_faces(seed: int, **turns: float) -> Data:
    document = sheet("two-faces")
    target = document["observations"]["targets"][0]
    for face in ("left", "right"):
        look = pointed(seed, face, **turns)
        for row in target[face]:
            row["hz"], row["v"] = typed(look["hz_text"]), typed(look["v_text"])
    return document


READ = {"half-and-whole": bubbles, "plummet": marks, "two-faces": both_faces}


@pytest.mark.parametrize("seed", range(8))
def test_half_of_what_a_bubble_moves_in_a_half_turn_is_its_vial(seed: int) -> None:
    """By hand: the middle of both bubbles is where it rests; one end of a vial may hide it."""
    here, round_ = bubble(seed, 0), bubble(seed, 180)
    assert max(abs(here), abs(round_)) < vial.END_DIV
    assert (here + round_) / 2 == pytest.approx(truth("half-and-whole", seed, "reversal_div"), abs=0.05)


def test_foot_screws_move_the_bubble_along_them_and_an_eighth_does_what_its_thread_says() -> None:
    seed = next(n for n in range(1, 20) if not hidden_of("half-and-whole", n).play)
    moved = bubble(seed, 0, pair=0.1) - bubble(seed, 0)
    assert moved == pytest.approx(0.1 * axis.FOOT_ARCSEC_PER_TURN / 30.0, abs=0.01)
    assert bubble(seed, 180, pair=0.1) - bubble(seed, 180) == pytest.approx(-moved, abs=0.01)
    assert bubble(seed, 0, third=0.1) == pytest.approx(bubble(seed, 0), abs=1e-3), "across the vial nothing is seen"
    assert bubble(seed, 90, third=0.1) - bubble(seed, 90) == pytest.approx(moved, abs=0.01)
    assert bubble(seed, 0, pair=2.0) == vial.END_DIV, "it stops at the end"


@pytest.mark.parametrize("seed", range(8))
def test_four_marks_lie_on_a_circle_about_the_axis_as_wide_as_the_plummet_is_off(seed: int) -> None:
    seen = [point(seed, heading) for heading in (0, 90, 180, 270)]
    middle = tuple(sum(each[i] for each in seen) / 4 for i in (0, 1))
    assert middle == pytest.approx(paper.scene_of(hidden_of("plummet", seed)).axis_mm, abs=0.05)
    off = math.hypot(truth("plummet", seed, "offset_x_mm"), truth("plummet", seed, "offset_y_mm"))
    assert [math.dist(each, middle) for each in seen] == pytest.approx([off] * 4, abs=0.08)
    # At 90° what pointed forward points right.
    assert seen[1][0] - middle[0] == pytest.approx(truth("plummet", seed, "offset_y_mm"), abs=0.06)


@pytest.mark.parametrize("seed", range(8))
def test_half_of_what_the_faces_differ_by_is_the_theodolite(seed: int) -> None:
    """c = (left - right ± 180°)/2 times the sine of the zenith angle, i = (sum of both verticals - 360°)/2."""
    left, right = pointed(seed, "left"), pointed(seed, "right")
    hz = (degrees(left["hz_text"]) - degrees(right["hz_text"])) % 360.0 - 180.0
    zenith = math.radians(degrees(left["v_text"]))
    assert abs(hz) * 1800 * math.sin(zenith) == pytest.approx(
        abs(truth("two-faces", seed, "collimation_arcsec")), abs=2.5
    )
    index = (degrees(left["v_text"]) + degrees(right["v_text"]) - 360.0) * 1800
    assert index == pytest.approx(truth("two-faces", seed, "index_arcsec"), abs=2.5)


def test_the_circle_is_set_to_zero_held_and_let_go() -> None:
    first = pointed(3, "left")
    aim = {"hz_arcsec": first["hz_arcsec"], "v_arcsec": first["v_arcsec"], "zero_arcsec": first["hz_arcsec"]}
    assert asked("practice-look", lesson="two-faces", seed=3, aim=aim)["hz_text"] == "0°00′00″"
    turned = {**aim, "hz_arcsec": first["hz_arcsec"] + 36_000.0}
    assert asked("practice-look", lesson="two-faces", seed=3, aim=turned)["hz_text"] == "10°00′00″"
    held = {**turned, "held_arcsec": first["hz_arcsec"]}
    assert asked("practice-look", lesson="two-faces", seed=3, aim=held)["hz_text"] == "0°00′00″"


def test_the_reticle_screw_moves_the_hair_and_the_index_screw_the_circle() -> None:
    first = pointed(3, "left")
    aim = {"face": "left", "hz_arcsec": first["hz_arcsec"], "v_arcsec": first["v_arcsec"]}
    hidden = hidden_of("two-faces", 3).errors

    def seen(**turns: float) -> Data:
        return dict(asked("practice-look", lesson="two-faces", seed=3, aim=aim, turns=turns))

    still, side, index = seen(), seen(reticle=0.1), seen(index=0.1)
    # c to the left: the hair looks further left, the target moves to the right of it.
    assert side["right_arcsec"] - still["right_arcsec"] == pytest.approx(
        0.1 * hidden["collimation_arcsec"].per_turn, abs=0.3
    )
    assert side["hz_text"] == still["hz_text"]
    assert index["up_arcsec"] == still["up_arcsec"]
    moved = (degrees(index["v_text"]) - degrees(still["v_text"])) * 3600
    assert moved == pytest.approx(0.1 * hidden["index_arcsec"].per_turn, abs=1.1)


@pytest.mark.parametrize("lesson", READ)
@pytest.mark.parametrize("seed", [1, 2, 3, 5])
def test_found_adjusted_and_tested_again_is_good_whatever_was_hidden(lesson: str, seed: int) -> None:
    read = READ[lesson]
    errors = hidden_of(lesson, seed).errors.values()
    wanted = {screw: by for screw, by in clear(lesson, seed).items() if not _good(errors, screw)}
    more = {"turns": wanted, "left": read(seed, **wanted)} if wanted else {}
    went = judged(lesson, seed, read(seed), **more)
    assert (went["passed"], went["habits"]) == (True, []), went["otherwise"]
    for error, hidden in zip(went["errors"], errors, strict=True):
        assert error["found"] == pytest.approx(hidden.value, abs=hidden.spec.within / 2)
        assert abs(error["left"]) <= hidden.spec.good
        assert error["most"] >= abs(error["truth"])


def _good(errors: Any, screw: str) -> bool:
    return next(abs(error.value) <= error.spec.bad for error in errors if error.spec.screw == screw)


def bad_of(lesson: str) -> int:
    """A situation in which every error is too much."""
    return next(
        seed
        for seed in range(200)
        if all(abs(each.value) > each.spec.bad for each in hidden_of(lesson, seed).errors.values())
    )


def test_one_error_adjusted_and_the_other_left_is_said() -> None:
    seed = bad_of("two-faces")
    turns = {"reticle": clear("two-faces", seed)["reticle"]}
    went = judged("two-faces", seed, both_faces(seed), turns=turns, left=both_faces(seed, **turns))
    assert not went["passed"]
    assert [habit["code"] for habit in went["habits"]] == ["left-as-found"]
    assert went["otherwise"].startswith("Vertical index i: hidden ")
    assert went["otherwise"].endswith("turn the vertical index screw until it is gone.")


def test_foot_screws_alone_adjust_nothing() -> None:
    seed = bad_of("half-and-whole")
    went = judged("half-and-whole", seed, bubbles(seed), turns={"pair": 0.05})
    assert [habit["code"] for habit in went["habits"]] == ["left-as-found"]


def test_a_face_misread_by_a_minute_is_not_found() -> None:
    document = both_faces(1)
    for row in document["observations"]["targets"][0]["right"]:
        row["v"] = f"{float(row['v']) + 0.01:.4f}"
    went = judged("two-faces", 1, document)
    assert went["headline"].startswith("Not found")
    assert went["otherwise"].startswith("Vertical index i")


def test_a_sheet_of_another_check_is_refused() -> None:
    said = json.loads(
        answer(
            json.dumps(
                {"verb": "practice-instrument-judge", "lesson": "plummet", "seed": 1, "found": bubbles(1), "seconds": 5}
            )
        )
    )
    assert [(fault["path"], fault["wanted"]) for fault in said["faults"]] == [("kind", "plummet")]
