"""A level with a hidden error, found through the screen by one who only looks and touches."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from naveta_practice.instruments.hidden import hidden_of

from .conftest import PHONE, Opens, until, visit
from .instrument_eye import finish, focus, go_to, on_staff, settled, turn_until


def hidden(seed: int) -> float:
    return hidden_of("two-peg", seed).errors["collimation_arcsec"].value


BAD = next(seed for seed in range(1, 100) if 30 < abs(hidden(seed)) < 60)
GOOD = next(seed for seed in range(1, 100) if abs(hidden(seed)) < 6)


def look_at(page: Page, staff: str, place: str) -> None:
    page.get_by_role("radio", name=f"Staff {staff}").click()
    page.get_by_role("radio", name=place).click()
    settled(page)


def read_all(page: Page, known: dict[str, str]) -> None:
    """The whole test: both staffs from both places, each read twice."""
    for number, place in enumerate(("In the middle", "Near B")):
        for staff in "AB":
            look_at(page, staff, place)
            distance = "30" if number == 0 else staff
            known[distance] = focus(page, known=known.get(distance))
            for again in (0, 1):
                page.locator(f"#row-observations-setups-{number}-{staff.lower()}-readings-{again}").fill(on_staff(page))
    page.get_by_label("Finding").wait_for()


def shown(page: Page) -> float:
    """The far staff through the telescope, m."""
    return float(on_staff(page))


def test_a_hidden_fault_is_found_adjusted_and_tested_again(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    go_to(page, "two-peg", BAD)
    known: dict[str, str] = {}
    read_all(page, known)
    expect(page.get_by_label("Finding").locator("[data-finding]")).to_be_visible()
    # The screw is turned until the far staff reads what the page says it should.
    said = page.get_by_label("Through the telescope").get_by_text(re.compile(r"Bring staff A from")).inner_text()
    target = float(said.rstrip(".").split(" to ")[1])
    look_at(page, "A", "Near B")
    focus(page, known=known["A"])
    turn_until(page, "reticle screw", lambda: shown(page), target)
    assert shown(page) == pytest.approx(target, abs=0.003)
    page.get_by_role("button", name="Test again, as left").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    read_all(page, known)
    finish(page, passed=True)
    expect(page.get_by_label("Line of sight: hidden, found, left")).to_contain_text(f"{abs(hidden(BAD)):.0f}″")
    # It is stored with the others, and looked at again.
    until(
        page,
        "fetch('/api/practice/progress').then((r) => r.json()).then((p) => p.lessons.find((l) => l.lesson === 'two-peg').passed > 0)",
    )
    visit(page, "/practice/progress")
    page.get_by_role("link", name=re.compile("Two-peg test")).first.wait_for()


def test_a_good_level_that_is_turned_is_said(opens: Opens) -> None:
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    go_to(page, "two-peg", GOOD)
    expect(page.get_by_role("button", name="Finish")).to_be_disabled()
    read_all(page, {})
    page.get_by_role("button", name="Reticle screw: clockwise, an eighth").click()
    finish(page, passed=False)
    expect(page.locator("[data-habits~=turned-a-good-one]")).to_be_visible()
