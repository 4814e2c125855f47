"""How a lesson is judged: hand-made courses with one habit each, and the shortest way of every situation."""

from __future__ import annotations

import math
from typing import Any

import pytest

from naveta_core.errors import Refused
from naveta_core.setup.mechanism import see
from naveta_practice.advice import next_move
from naveta_practice.judging import good_enough, judge
from naveta_practice.lessons import BY_NAME, LESSONS
from naveta_practice.moves import Move, moved
from naveta_practice.results import Gesture
from naveta_practice.shortest import shortest_way
from naveta_practice.situations import situation_of
from naveta_practice.stand import begun


def course(*rows: tuple[float, str, tuple[float, float], tuple[float, float]], **more: Any) -> list[Gesture]:
    """Gestures as (seconds, what, axis mm, tilt arcsec)."""
    return [Gesture(seconds=s, do=do, axis_mm=axis, tilt_arcsec=tilt, **more) for s, do, axis, tilt in rows]


def codes(found: Any) -> list[str]:
    return [habit.code for habit in found.habits]


@pytest.mark.parametrize("lesson", LESSONS, ids=lambda lesson: lesson.name)
def test_the_shortest_way_is_good_enough_in_every_situation(lesson: Any) -> None:
    lengths = []
    for seed in range(25):
        way = shortest_way(lesson.name, seed)
        last = way[-1]
        assert math.hypot(*last.tilt_arcsec) <= (lesson.within_arcsec or math.inf)
        assert math.hypot(*last.axis_mm) <= (lesson.within_mm or math.inf)
        gestures = [
            Gesture(seconds=i + 1.0, do="leg", axis_mm=step.axis_mm, tilt_arcsec=step.tilt_arcsec)
            for i, step in enumerate(way)
        ]
        assert judge(lesson.name, seed, gestures, len(way) + 2.0).passed
        lengths.append(len(way))
    assert min(lengths) >= 1
    assert max(lengths) <= 10


def test_a_course_with_its_figures_by_hand() -> None:
    found = judge(
        "slide-and-level",
        1,
        course(
            (10.0, "screws", (4.0, 0.0), (6.0, 0.0)),
            (15.0, "slide", (0.3, 0.4), (6.0, 8.0)),
            (21.0, "screws", (0.3, 0.4), (3.0, 4.0)),
            (25.0, "slide", (0.0, 0.1), (3.0, 4.0)),
        ),
        32.0,
    )
    assert found.passed
    assert (found.off_mm, found.tilt_arcsec, found.measure) == (pytest.approx(0.1), pytest.approx(5.0), 2)
    assert {stage.label: stage.seconds for stage in found.stages} == {
        "Foot screws": 16.0,
        "Sliding": 9.0,
        "Looking": 7.0,
    }
    assert found.headline == "Good: axis 5.0″ out of plumb and 0.1 mm off the mark."
    assert found.measure_text == "two times round"


def test_nothing_done_is_not_good_even_where_it_stood_well() -> None:
    assert not judge("slide-and-level", 1, [], 5.0).passed


def test_past_the_middle_twice_is_a_habit_and_once_is_not() -> None:
    swings = [(400.0, 0.0), (-300.0, 0.0), (250.0, 0.0), (10.0, 0.0)]
    rows = [(3.0 * (i + 1), "screws", (0.0, 0.0), tilt) for i, tilt in enumerate(swings)]
    found = judge("left-thumb", 1, course(*rows), 12.0)
    assert codes(found) == ["over-correcting"]
    assert "half of what you think" in found.otherwise
    once = judge("left-thumb", 1, course(*rows[:2], (9.0, "screws", (0.0, 0.0), (-10.0, 0.0))), 9.0)
    assert codes(once) == []


def test_what_lies_across_is_not_past_the_middle() -> None:
    rows = [(1.0, "screws", (0.0, 0.0), (300.0, 0.0)), (2.0, "screws", (0.0, 0.0), (0.0, 300.0)),
            (3.0, "screws", (0.0, 0.0), (300.0, 20.0)), (4.0, "screws", (0.0, 0.0), (5.0, 5.0))]  # fmt: skip
    assert "over-correcting" not in codes(judge("left-thumb", 1, course(*rows), 4.0))


def test_turns_the_wrong_way_are_counted_and_named() -> None:
    rows = [(1.0, "screws", (0.0, 0.0), (500.0, 0.0)), (2.0, "screws", (0.0, 0.0), (700.0, 0.0)),
            (3.0, "screws", (0.0, 0.0), (10.0, 0.0))]  # fmt: skip
    found = judge("left-thumb", 1, course(*rows), 4.0)
    assert found.measure == 2
    assert found.measure_text == "two turns the wrong way"
    assert codes(found) == ["wrong-way"]


def test_legs_after_screws_and_a_foot_left_loose() -> None:
    rows = [(5.0, "screws", (0.5, 0.0), (900.0, 0.0)), (30.0, "leg", (0.5, 0.0), (90.0, 0.0)),
            (34.0, "screws", (0.5, 0.0), (9.0, 0.0))]  # fmt: skip
    found = judge("whole-set-up", 1, course(*rows, pressed=1), 40.0)
    assert codes(found) == ["legs-after-screws", "not-pressed"]
    assert found.passed
    assert found.habits[1].text.startswith("2 feet") or found.habits[1].text.startswith("Two feet")


def test_the_plummet_forgotten_after_levelling() -> None:
    rows = [(5.0, "slide", (0.2, 0.0), (90.0, 0.0)), (9.0, "screws", (2.5, 0.0), (5.0, 0.0))]
    found = judge("slide-and-level", 1, course(*rows), 12.0)
    assert (found.passed, codes(found)) == (False, ["forgot-the-plummet"])
    slid = judge("slide-and-level", 1, course(*rows, (11.0, "slide", (0.2, 0.0), (5.0, 0.0))), 12.0)
    assert (slid.passed, codes(slid)) == (True, [])


def test_who_never_turned_trusted_the_vial() -> None:
    rows = [(5.0, "screws", (0.0, 0.0), (200.0, 0.0))]
    assert codes(judge("turn-and-trust", 1, course(*rows), 6.0)) == ["never-turned"]
    assert codes(judge("turn-and-trust", 1, course(*rows, heading_deg=180.0), 6.0)) == []


@pytest.mark.parametrize(
    ("gestures", "seconds", "path"),
    [
        (course((5.0, "leg", (0, 0), (0, 0)), (4.0, "leg", (0, 0), (0, 0))), 9.0, "gestures[1].seconds"),
        (course((5.0, "leg", (0, 0), (0, 0))), 4.0, "seconds"),
        (course(*[(1.0, "leg", (0.0, 0.0), (0.0, 0.0))] * 3001), 4.0, "gestures"),
    ],
)
def test_gestures_that_cannot_be_are_refused(gestures: list[Gesture], seconds: float, path: str) -> None:
    with pytest.raises(Refused) as refused:
        judge("left-thumb", 1, gestures, seconds)
    assert refused.value.faults[0].path == path


def test_what_is_good_enough_is_said() -> None:
    assert good_enough(BY_NAME["slide-and-level"]) == "axis within 20.0″ of plumb and within 1 mm of the mark"
    assert good_enough(BY_NAME["bubble-and-leg"]) == "axis within 4′ of plumb"


class TestAdvice:
    def said(self, lesson: str, seed: int, *moves: Move) -> str:
        situation = situation_of(lesson, seed)
        stand = begun(situation)
        for move in moves:
            stand, refused = moved(situation, stand, move)
            assert refused == ""
        return next_move(situation, stand).headline

    def test_the_order_of_a_whole_set_up(self) -> None:
        situation = situation_of("whole-set-up", 3)
        off = see(situation.equipment, situation.start).axis_mm
        carry = Move(do="carry", right_mm=-off[0], away_mm=-off[1])
        assert self.said("whole-set-up", 3).startswith(f"Carry the whole tripod {math.hypot(*off):.0f} mm")
        assert self.said("whole-set-up", 3, carry) == "Press foot A in."
        pressed = [Move(do="press", leg=leg) for leg in "ABC"]  # type: ignore[arg-type]
        assert "eg" in self.said("whole-set-up", 3, carry, *pressed)
        assert self.said("whole-set-up", 3, Move(do="open", leg="B")).startswith("Close the clamp of leg B")

    def test_screws_are_named_by_thumbs_and_each_by_how_much(self) -> None:
        said = next_move(situation_of("left-thumb", 4), begun(situation_of("left-thumb", 4)))
        assert said.headline == "Both thumbs away from each other, equally. About an eighth of a turn."
        assert said.lines == ["Turn the screw beyond clockwise, seen from above. About an eighth of a turn."]

    def test_when_it_is_good_it_says_so(self) -> None:
        assert self.said("slide-and-level", 1) != "Good enough."
        situation = situation_of("left-thumb", 1)
        level = situation.start
        stand = begun(situation)
        turns = {str(i + 1): -at / 0.7 for i, at in enumerate(level.screws)}
        stand, _ = moved(situation, stand, Move(do="screws", turns=turns))  # type: ignore[arg-type]
        assert next_move(situation, stand).headline == "Good enough."
