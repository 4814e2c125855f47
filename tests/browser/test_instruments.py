"""A level with a hidden error, found through the screen by one who only looks and touches."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from naveta_practice.instruments import level_of

from .conftest import DESK, PHONE, Opens, until, visit

BAD = next(seed for seed in range(1, 100) if 30 < abs(level_of("two-peg", seed).collimation_arcsec) < 60)
GOOD = next(seed for seed in range(1, 100) if abs(level_of("two-peg", seed).collimation_arcsec) < 6)


def look_at(page: Page, staff: str, place: str) -> None:
    page.get_by_role("radio", name=f"Staff {staff}").click()
    page.get_by_role("radio", name=place).click()
    page.wait_for_timeout(250)


def focus(page: Page) -> None:
    """Turn the focus screw until the picture is sharp: over its whole range, then nearer and nearer."""
    low, high = 0.0, 100.0
    for _ in range(4):
        steps = [low + (high - low) * i / 6 for i in range(7)]
        seen = []
        for step in steps:
            page.get_by_label("Focus", exact=True).fill(f"{round(step * 2) / 2:g}")
            page.wait_for_timeout(140)
            seen.append(float(page.locator("[data-blur]").get_attribute("data-blur") or 99))
        best = steps[seen.index(min(seen))]
        width = (high - low) / 5
        low, high = max(0.0, best - width), min(100.0, best + width)
    page.get_by_label("Focus", exact=True).fill(f"{round(best * 2) / 2:g}")
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


def read_all(page: Page) -> None:
    """The whole test: both staffs from both places, each read in its own cell."""
    for number, place in enumerate(("In the middle", "Near B")):
        for staff in "AB":
            look_at(page, staff, place)
            focus(page)
            page.locator(f"#row-observations-setups-{number}-{staff.lower()}-readings-0").fill(read(page))
    page.get_by_label("Finding").wait_for()


def shown(page: Page) -> float:
    """The far staff through the telescope, m."""
    return float(read(page))


@pytest.mark.parametrize("size", [DESK, PHONE], ids=["desk", "phone"])
def test_a_hidden_fault_is_found_adjusted_and_tested_again(opens: Opens, size: tuple[int, int]) -> None:
    page = opens(size, who="Jory Pell", touch=size == PHONE, core=True)
    visit(page, f"/practice/instruments/two-peg?n={BAD}")
    page.locator("[data-hair=middle]").wait_for(state="attached", timeout=60_000)
    read_all(page)
    expect(page.get_by_label("Finding").locator("[data-finding]")).to_be_visible()
    # The screw is turned until the far staff reads what the page says it should.
    target = float(re.search(r"(\d\.\d{3,})", page.get_by_label("Finding").inner_text().split("reticle screw")[-1])[1])  # type: ignore[index]
    look_at(page, "A", "Near B")
    focus(page)
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
    read_all(page)
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
    page = opens(who="Jory Pell", core=True)
    visit(page, f"/practice/instruments/two-peg?n={GOOD}")
    page.locator("[data-hair=middle]").wait_for(state="attached", timeout=60_000)
    expect(page.get_by_role("button", name="Finish")).to_be_disabled()
    read_all(page)
    page.get_by_role("button", name="Clockwise, an eighth").click()
    page.get_by_role("button", name="Finish").click()
    expect(page.locator("[data-passed=false]")).to_be_visible()
    expect(page.locator("[data-habits~=turned-a-good-one]")).to_be_visible()
