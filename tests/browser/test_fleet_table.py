"""Two thousand instruments in one table, by the keyboard alone; what is chosen is acted on; the palette finds any of them."""

from __future__ import annotations

import json
import re
from typing import Any

from playwright.sync_api import Page, Route, expect

from .conftest import PHONE, Opens, until
from .looks import axe, fits

STATES = ("hold", "check-first", "ready-if", "ready")
FOCUSED = "() => document.activeElement?.dataset.instrument ?? null"


def thousands(page: Page, count: int = 2_000) -> None:
    """The page is given a fleet of so many; everything else is the demo's."""
    checks = [{"check": "two-peg", "title": "Two-peg test", "minutes": 15}]
    rows = [
        {
            "tag": f"LV-{1000 + i}",
            "kind": "level" if i % 4 else "tribrach",
            "model": "Ondine Merrow",
            "place": f"Yard shelf {i % 9}",
            "crew": ("Bramble", "Thrift", None)[i % 3],
            "serial": f"{77000 + i}",
            "since": "2024-05-01",
            "state": STATES[i % 4],
            "reasons": [],
            "needed": checks if i % 4 < 2 else [],
            "due_on": f"2027-{3 + i % 9:02}-{1 + i % 28:02}",
            "due_check": "Two-peg test",
            "latest": None,
        }
        for i in range(count)
    ]

    def answer(route: Route) -> None:
        route.fulfill(content_type="application/json", body=json.dumps({"rows": rows}))

    page.route("**/api/fleet", answer)


def pressed(page: Page, *keys: str) -> Any:
    for key in keys:
        page.keyboard.press(key)
    page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    return page.evaluate(FOCUSED)


def test_two_thousand_are_sorted_filtered_and_chosen_by_keyboard(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    thousands(page)
    page.goto("/fleet")
    expect(page.locator("[data-rows='2000']")).to_be_visible()
    shown = page.evaluate(
        """() => { const grid = document.querySelector('[role=grid]').getBoundingClientRect();
        return [...document.querySelectorAll('[data-instrument]')].map((row) => row.getBoundingClientRect())
          .filter((box) => box.top >= grid.top + 30 && box.bottom <= Math.min(grid.bottom, innerHeight) + 1).length; }"""
    )
    assert shown >= 18, shown
    assert page.locator("[data-instrument]").count() < 80, "only what is in sight is drawn"
    axe(page, "fleet table of 2,000")

    page.locator("[data-index='0']").focus()
    assert pressed(page, "End") == "LV-2999"
    pressed(page, *["PageUp"] * 20)
    until(page, f"({FOCUSED})() !== null")
    assert pressed(page, "Home") == "LV-1000"
    pressed(page, "Space", "ArrowDown", "ArrowDown", "ArrowDown", "Shift+Space")
    expect(page.locator("[data-chosen]")).to_have_attribute("data-chosen", "4")
    pressed(page, "Escape")
    expect(page.locator("[data-chosen]")).to_have_count(0)
    pressed(page, "Control+a")
    expect(page.locator("[data-chosen]")).to_have_attribute("data-chosen", "2000")
    pressed(page, "Escape")

    sort = page.get_by_role("columnheader", name="Tag")
    sort.get_by_role("button").focus()
    page.keyboard.press("Enter")
    expect(sort).to_have_attribute("aria-sort", "ascending")
    page.keyboard.press("Enter")
    expect(sort).to_have_attribute("aria-sort", "descending")
    expect(page.locator("[data-index='0']")).to_have_attribute("data-instrument", "LV-2999")

    page.get_by_role("group", name="Filters").get_by_role("button", name="State").focus()
    page.keyboard.press("Enter")
    page.get_by_role("menuitemcheckbox", name=re.compile("On hold")).focus()
    page.keyboard.press("Enter")
    page.keyboard.press("Escape")
    expect(page.locator("[data-rows='500']")).to_be_visible()
    page.get_by_label("Find an instrument").fill("thrift shelf 4")
    # On hold, with Thrift, and a 4 in tag, shelf or serial number.
    fours = [i for i in range(2_000) if "4" in f"{1000 + i} {i % 9} {77000 + i}"]
    held = sum(i % 4 == 0 and i % 3 == 1 for i in fours)
    expect(page.locator(f"[data-rows='{held}']")).to_be_visible()
    expect(page.get_by_role("heading", level=1)).to_contain_text(f"{held} of 2000")
    # The view is in the address: reloaded it is the same.
    rows = page.locator("[role=grid]").get_attribute("data-rows")
    page.reload()
    expect(page.locator("[role=grid]")).to_have_attribute("data-rows", rows or "")


def test_a_phones_bar_is_low_and_more_holds_the_rest(opens: Opens) -> None:
    page = opens(PHONE, touch=True)
    bar = page.get_by_role("navigation", name="Places")
    box = bar.bounding_box()
    assert box
    assert box["height"] <= 64
    tops = {round(entry["y"]) for link in bar.get_by_role("link").all() if (entry := link.bounding_box())}
    assert len(tops) == 1
    page.get_by_role("button", name="More", exact=True).tap()
    axe(page, "more")
    page.get_by_role("dialog").get_by_role("button", name="Bright light: off").tap()
    expect(page.locator("html")).to_have_attribute("data-light", "bright")
    page.goto("/fleet")
    page.wait_for_selector("[role=grid]")
    fits(page, "fleet on a phone")
