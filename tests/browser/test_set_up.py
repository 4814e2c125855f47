"""The Stand otherwise than led from end to end: a level, steps skipped, noted quickly, habits, files, bad input."""

from __future__ import annotations

import random
import re

import pytest
from playwright.sync_api import expect

from naveta_core.setup.mechanism import State, move_leg, see
from tests.core.setup.world import bearing_of

from .conftest import DESK, PHONE, Opens, visit
from .set_up_crew import WORLD, Crew, begin, wild


@pytest.mark.parametrize("size", [pytest.param(DESK, marks=pytest.mark.long), PHONE])
def test_a_level_is_set_up_over_no_point(opens: Opens, size: tuple[int, int]) -> None:
    rng = random.Random(5)
    page = opens(size, touch=size == PHONE)
    visit(page, "/set-up")
    page.get_by_role("button", name="LV-02").click()
    page.get_by_role("button", name="Guide me").click()
    page.wait_for_selector("[data-at-hand][data-fresh=true]")
    crew = Crew(page, wild(rng), rng)
    while crew.step != "ring-round":
        assert len(crew.steps) < 30, crew.steps
        crew.take_step()
    assert see(WORLD, crew.state).in_ring
    crew.take_step()
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-finding=use]")).to_contain_text("the bubble stays in its ring when turned")


def test_a_move_tried_first_does_what_was_foretold(opens: Opens) -> None:
    """The crew says the bubble, tries the advised move on the page, makes it in the world: it ends where it was drawn."""
    rng = random.Random(9)
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=circular]").click()
    crew = Crew(page, wild(rng), rng)
    crew.state = turn_level(crew)
    crew.enter_bubble()
    page.get_by_text("Try a move before").click()
    foretold = page.locator("[data-foretold]")
    expect(foretold).to_contain_text("The level stays as it is.")
    page.get_by_role("button", name="As advised").click()
    expect(foretold).to_contain_text("The bubble will be in its ring.")
    expect(foretold).to_contain_text("The plummet does not move.")
    for leg, mm in crew.advice()["legs"].items():
        crew.state = move_leg(WORLD, crew.state, leg, mm)
    assert see(WORLD, crew.state).in_ring
    page.get_by_role("button", name="Reset").click()
    page.get_by_role("button", name="Leg A more").click()
    expect(page.locator("[data-move=A]")).to_contain_text("+1.0")


def turn_level(crew: Crew) -> State:
    """The wild tripod with its bubble brought off the wall: legs moved until it shows."""
    state = crew.state
    for _ in range(400):
        seen = see(WORLD, state)
        if not seen.at_wall:
            return state
        near = min("ABC", key=lambda leg: abs((bearing_of(state, leg) - seen.bubble_bearing_deg + 180) % 360 - 180))
        state = move_leg(WORLD, state, near, -0.5)
    raise AssertionError("it never came off the wall")
