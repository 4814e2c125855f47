"""Every named method of a set-up, done by dragging at the simulated stand, lands within the tolerance.

Plummet first and the plumb bob are walked in test_practice; the others here.
"""

from __future__ import annotations

import math

from playwright.sync_api import Page

from naveta_core.setup.methods import SET_UP_METHODS
from naveta_practice.lessons import LESSONS

from .conftest import DESK, Opens
from .stand_hands import (
    begun,
    bubble,
    by_opposing_pairs,
    by_the_plate_vial,
    carry_over_the_mark,
    finished,
    focus_plummet,
    laser_on,
    legs_until_in_ring,
    pair,
    press_in,
    rest,
    screws_until_level,
    slide_on_to_the_mark,
    spot,
    turned,
)  # fmt: skip

WALKED = {
    "plummet-first": "whole-set-up",
    "plumb-bob": "slope-and-wind",
    "level-first": "level-first",
    "shift-by-leg": "whole-set-up",
    "four-screws": "four-screw-set-up",
    "no-point": "no-point",
}


def test_every_method_is_walked_in_a_lesson_that_practises_it() -> None:
    assert set(WALKED) == set(SET_UP_METHODS)
    practises = {lesson.name: lesson.practises for lesson in LESSONS}
    assert all(method in practises[lesson] for method, lesson in WALKED.items())


def test_level_first_then_over_the_mark(opens: Opens) -> None:
    page = opens(DESK, "Jory Pell", core=True)
    begun(page, "level-first", 71)
    focus_plummet(page)
    legs_until_in_ring(page)
    carry_over_the_mark(page, 8.0)
    by_the_plate_vial(page)
    slide_on_to_the_mark(page, 0.8)
    by_the_plate_vial(page)
    finished(page)


def shift(page: Page) -> None:
    """The leg shortened that the plummet should move towards, then level again: a millimetre of it moves some two."""
    for _ in range(6):
        laser_on(page)
        rest(page)
        x, y = spot(page)
        if math.hypot(x, y) < 4.0:
            return
        towards = math.degrees(math.atan2(-x, -y)) % 360.0
        leg = min("ABC", key=lambda one: abs((towards - {"A": 0, "B": 120, "C": 240}[one] + 180) % 360 - 180))
        for _ in range(max(1, round(math.hypot(x, y) / 2.5))):
            page.get_by_role("button", name=f"Leg {leg} shorter by 1 mm").click()
        screws_until_level(page)


def test_level_then_shift_by_a_leg(opens: Opens) -> None:
    page = opens(DESK, "Jory Pell", core=True)
    begun(page, "whole-set-up", 73)
    laser_on(page)
    carry_over_the_mark(page, 14.0)
    press_in(page)
    legs_until_in_ring(page)
    screws_until_level(page)
    shift(page)
    slide_on_to_the_mark(page, 0.8)
    screws_until_level(page)
    finished(page)


def test_a_whole_set_up_on_four_screws(opens: Opens) -> None:
    page = opens(DESK, "Jory Pell", core=True)
    begun(page, "four-screw-set-up", 74)
    focus_plummet(page)
    carry_over_the_mark(page, 8.0)
    press_in(page)
    legs_until_in_ring(page)
    by_opposing_pairs(page)
    slide_on_to_the_mark(page, 0.8)
    by_opposing_pairs(page)
    finished(page)


def test_a_level_without_a_mark(opens: Opens) -> None:
    """Near its ring by the legs, into its middle by the screws: 240″ run the bubble a millimetre."""
    page = opens(DESK, "Jory Pell", core=True)
    begun(page, "no-point", 75)
    press_in(page)
    legs_until_in_ring(page)
    for _ in range(8):
        rest(page)
        x, y, _ = bubble(page)
        if math.hypot(x, y) < 0.25:
            break
        pair(page, "2 and 3")
        turned(page, "2", -240.0 * x / (1.4 / 86.6 * 206265) * 360.0)
        pair(page, "One alone")
        turned(page, "1", -240.0 * y / (0.7 / 75.0 * 206265) * 360.0)
    page.get_by_role("button", name="Turn by 180°").click()
    rest(page)
    assert math.hypot(*bubble(page)[:2]) < 0.5, "it stays when the level is turned round"
    finished(page)
