"""A level with a hidden error, found through the screen by one who only looks and touches."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from naveta_practice.instruments import level_of

from .conftest import PHONE, Opens, until, visit

BAD = next(seed for seed in range(1, 100) if 30 < abs(level_of("two-peg", seed).collimation_arcsec) < 60)
GOOD = next(seed for seed in range(1, 100) if abs(level_of("two-peg", seed).collimation_arcsec) < 6)


def look_at(page: Page, staff: str, place: str) -> None:
    page.get_by_role("radio", name=f"Staff {staff}").click()
    page.get_by_role("radio", name=place).click()
    page.wait_for_timeout(250)


def focus(page: Page, known: dict[str, str], staff: str, place: str) -> None:
    """Turn the focus screw until the picture is sharp: over its whole range, then nearer; once for each distance."""
    control = page.get_by_label("Focus", exact=True)
    distance = "30" if place == "In the middle" else staff
    if distance not in known:
        low, high, best = 0.0, 100.0, 50.0
        for _ in range(3):
            steps = [round(2 * (low + (high - low) * i / 7)) / 2 for i in range(8)]
            seen = []
            for step in steps:
                control.fill(f"{step:g}")
                page.wait_for_timeout(140)
                seen.append(float(page.locator("[data-blur]").get_attribute("data-blur") or 99))
            best = steps[seen.index(min(seen))]
            width = (high - low) / 6
            low, high = max(0.0, best - width), min(100.0, best + width)
        known[distance] = f"{best:g}"
    control.fill(known[distance])
    page.wait_for_timeout(250)


def read(page: Page) -> str:
    """Where the middle hair lies between two lines of the staff, as an eye estimates it: to the millimetre."""
    lines, hair = page.evaluate(
        """() => [[...document.querySelectorAll('[data-line]')].map((each) => [Number(each.dataset.line), Number(each.dataset.y)]),
             Number(document.querySelector('[data-hair=middle]').dataset.y)]"""
    )
    below = min((each for each in lines if each[1] >= hair), key=lambda each: each[1])
    above = max((each for each in lines if each[1] < hair), key=lambda each: each[1])
    share = (below[1] - hair) / (below[1] - above[1])
    return f"{(below[0] + share) / 100:.3f}"


def read_all(page: Page, known: dict[str, str]) -> None:
    """The whole test: both staffs from both places, each read twice."""
    for number, place in enumerate(("In the middle", "Near B")):
        for staff in "AB":
            look_at(page, staff, place)
            focus(page, known, staff, place)
            for again in (0, 1):
                page.locator(f"#row-observations-setups-{number}-{staff.lower()}-readings-{again}").fill(read(page))
    page.get_by_label("Finding").wait_for()


def shown(page: Page) -> float:
    """The far staff through the telescope, m."""
    return float(read(page))


def test_a_hidden_fault_is_found_adjusted_and_tested_again(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    visit(page, f"/practice/instruments/two-peg?n={BAD}")
    page.locator("[data-hair=middle]").wait_for(state="attached", timeout=60_000)
    known: dict[str, str] = {}
    read_all(page, known)
    expect(page.get_by_label("Finding").locator("[data-finding]")).to_be_visible()
    # The screw is turned until the far staff reads what the page says it should.
    said = page.get_by_label("Through the telescope").get_by_text(re.compile(r"Bring staff A from")).inner_text()
    target = float(said.rstrip(".").split(" to ")[1])
    look_at(page, "A", "Near B")
    focus(page, known, "A", "Near B")
    slider = page.get_by_label("Turns of the reticle screw")
    before = shown(page)
    slider.fill("0.1")
    page.wait_for_timeout(300)
    per_turn = (shown(page) - before) / 0.1
    slider.fill(f"{round((target - before) / per_turn * 200) / 200:g}")
    page.wait_for_timeout(300)
    assert shown(page) == pytest.approx(target, abs=0.003)
    page.get_by_role("button", name="Test again, as left").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    read_all(page, known)
    page.get_by_role("button", name="Finish").click()
    expect(page.locator("[data-passed=true]")).to_be_visible()
    hidden = level_of("two-peg", BAD).collimation_arcsec
    expect(page.get_by_label("Hidden, found, left")).to_contain_text(f"{abs(hidden):.0f}″")
    # It is stored with the others, and looked at again.
    until(
        page,
        "fetch('/api/practice/progress').then((r) => r.json()).then((p) => p.lessons.find((l) => l.lesson === 'two-peg').passed > 0)",
    )
    visit(page, "/practice/progress")
    page.get_by_role("link", name=re.compile("Two-peg test")).first.wait_for()


def test_a_good_level_that_is_turned_is_said(opens: Opens) -> None:
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    visit(page, f"/practice/instruments/two-peg?n={GOOD}")
    page.locator("[data-hair=middle]").wait_for(state="attached", timeout=60_000)
    expect(page.get_by_role("button", name="Finish")).to_be_disabled()
    read_all(page, {})
    page.get_by_role("button", name="Clockwise, an eighth", exact=True).click()
    page.get_by_role("button", name="Finish").click()
    expect(page.locator("[data-passed=false]")).to_be_visible()
    expect(page.locator("[data-habits~=turned-a-good-one]")).to_be_visible()
