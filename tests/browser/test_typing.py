"""Typing a field sheet: every key of the bench, entries that are refused, and that nothing typed is lost."""

from __future__ import annotations

from playwright.sync_api import Locator, Page, expect

from .conftest import COVERED, PHONE, Opens, begin, until

TAG = "LV-03"


def cell(page: Page, name: str) -> Locator:
    """`0-b-reading`, `0-b-reading-1`, `1-b-distance`, `0-a-upper`."""
    setup, staff, what, *more = name.split("-")
    row = more[0] if more else "0"
    end = {"reading": f"readings-{row}", "distance": "distance"}.get(what, f"wires-{row}-{what}")
    return page.locator(f"#row-observations-setups-{setup}-{staff}-{end}")


WRONG = [
    ("1-b-reading", "1.4.2", "a number with one decimal mark"),
    ("1-b-reading", "1_4", "a number without marks between the digits"),
    ("1-b-reading", "91.4", "units are metres"),
    ("1-b-reading", "NaN", "a number"),
    ("1-b-distance", "-4", "a distance from 1 to 150 m"),
]


def test_a_telephone_has_a_bar_of_its_own(opens: Opens) -> None:
    page = opens(PHONE, touch=True)
    begin(page, TAG)
    bar = page.get_by_role("toolbar", name="Keys for readings")
    expect(bar).to_be_visible()
    expect(page.get_by_role("navigation", name="Places")).to_have_count(0)  # out of the way of the keypad
    until(page, COVERED, [0, True, True])
    page.keyboard.type("1.885")
    bar.get_by_role("button", name="Other sign").tap()
    expect(cell(page, "0-a-reading")).to_have_value("-1.885")
    bar.get_by_role("button", name="Other sign").tap()
    bar.get_by_role("button", name="One more").tap()
    bar.get_by_role("button", name="Same again").tap()
    expect(cell(page, "0-a-reading-1")).to_have_value("1.885")
    bar.get_by_role("button", name="Next").tap()
    expect(cell(page, "0-b-reading")).to_be_focused()
    assert page.evaluate(COVERED)[1:] == [True, True], "neither beneath the bar nor out of view"
    for button in bar.get_by_role("button").all():
        assert button.bounding_box()["height"] >= 56  # type: ignore[index]
