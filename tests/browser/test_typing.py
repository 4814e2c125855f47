"""Typing a field sheet: every key of the bench, entries that are refused, and that nothing typed is lost."""

from __future__ import annotations

import re

from playwright.sync_api import Locator, Page, expect

from .conftest import DESK, PHONE, Opens, begin, finding, sheet

TAG = "LV-03"


def cell(page: Page, name: str) -> Locator:
    """`0-b-reading`, `0-b-reading-1`, `1-b-distance`, `0-a-upper`."""
    setup, staff, what, *more = name.split("-")
    row = more[0] if more else "0"
    end = {"reading": f"readings-{row}", "distance": "distance"}.get(what, f"wires-{row}-{what}")
    return page.locator(f"#row-observations-setups-{setup}-{staff}-{end}")


def test_the_keys_follow_the_order_of_reading(opens: Opens) -> None:
    page = opens()
    begin(page, TAG)
    page.keyboard.type("1.885")
    page.keyboard.press("Enter")
    expect(cell(page, "0-b-reading")).to_be_focused()  # the distance stands as in the layout: skipped
    page.keyboard.press("Shift+Enter")
    expect(cell(page, "0-a-reading")).to_be_focused()
    page.keyboard.type("1.8851;")
    expect(cell(page, "0-a-reading-1")).to_be_focused()
    expect(cell(page, "0-a-reading")).to_have_value("1.8851")
    page.keyboard.type("=")  # same again, into the empty input
    expect(cell(page, "0-a-reading-1")).to_have_value("1.8851")
    page.keyboard.type("=")
    expect(cell(page, "0-a-reading-2")).to_have_value("1.8851")
    page.get_by_role("button", name=re.compile("^Strike 1.8851")).click()
    expect(cell(page, "0-a-reading-2")).to_have_count(0)
    expect(page.get_by_role("button", name=re.compile("1.8851 is struck"))).to_be_visible()
    cell(page, "0-a-distance").fill("31.2")
    page.keyboard.press("Enter")
    expect(cell(page, "0-a-reading")).to_be_focused()


def test_three_wires_take_the_distance_from_the_wires(opens: Opens) -> None:
    page = opens()
    begin(page, TAG)
    page.keyboard.type("*")
    expect(cell(page, "0-a-upper")).to_be_focused()
    expect(cell(page, "1-b-lower")).to_be_visible()
    # Half-intervals of 0.15, 0.15, 0.28 and 0.02 m: sights of 30, 30, 56 and 4 m; no error, no height difference.
    readings = [(1.65, 1.5, 1.35), (1.65, 1.5, 1.35), (1.78021, 1.50021, 1.22021), (1.52, 1.5, 1.48)]
    for i, three in enumerate(readings):
        for j, entry in enumerate(three):
            if i or j:
                page.keyboard.press("Enter")
            page.keyboard.type(f"{entry:.5f}")
    expect(cell(page, "1-a-distance")).to_have_attribute("placeholder", "by three hairs")
    expect(page.locator("[data-column='observations.setups[1].a']")).to_contain_text("Stadia distance 56 m")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    expect(page.get_by_label("Finding")).to_contain_text("no error found")
    page.get_by_role("button", name="Steps and method").click()
    expect(page.get_by_role("radio", name="Metres", exact=True)).to_be_checked()


WRONG = [
    ("1-b-reading", "1.4.2", "a number with one decimal mark"),
    ("1-b-reading", "1_4", "a number without marks between the digits"),
    ("1-b-reading", "91.4", "units are metres"),
    ("1-b-reading", "NaN", "a number"),
    ("1-b-distance", "-4", "a distance from 1 to 150 m"),
]


def test_a_wrong_entry_says_what_is_wanted_and_is_stored(opens: Opens) -> None:
    page = opens()
    begin(page, TAG)
    sheet(page, "1.8851", "1.4020", "1.8868", "1.4000")
    finding(page, "watch")
    for field, typed, wanted in WRONG:
        right = cell(page, field).input_value()
        cell(page, field).fill(typed)
        fault = page.locator("[data-column='observations.setups[1].b'] [data-fault]")
        expect(fault).to_contain_text(typed)
        expect(fault).to_contain_text(wanted)
        expect(cell(page, field)).to_have_attribute("aria-invalid", "true")
        expect(cell(page, field)).to_have_value(typed)
        expect(page.get_by_role("button", name="Save as found")).to_have_count(0)
        if (field, typed) != WRONG[-1][:2]:
            cell(page, field).fill(right)
            finding(page, "watch")
    page.reload()
    expect(cell(page, "1-b-distance")).to_have_value("-4")
    expect(cell(page, "0-a-reading")).to_have_value("1.8851")


def test_set_ups_of_equal_imbalance_are_refused_by_name(opens: Opens) -> None:
    page = opens()
    begin(page, TAG)
    sheet(page, "1.8851", "1.4020", "1.8868", "1.4000")
    page.locator("#row-observations-setups-1-a-distance").fill("30")
    page.locator("#row-observations-setups-1-b-distance").fill("30")
    expect(page.locator("[data-fault='observations.setups']")).to_contain_text("differs by at least 2 m")


def test_feet_and_the_reading_that_lies_apart(opens: Opens) -> None:
    page = opens()
    page.goto(f"/bench/new/{TAG}/two-peg")
    page.get_by_role("radio", name="Feet", exact=True).click()
    page.get_by_role("button", name="Start reading").click()
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(page, "3.444;3.445;3.544;3.444", "4.589;4.588;4.590", "3.441;3.442;3.441", "4.585;4.586;4.585")
    apart = page.locator("[data-outlier]")
    expect(apart.get_by_role("textbox")).to_have_value("3.544")
    expect(page.locator("[data-column='observations.setups[0].a']")).to_contain_text("Typed 3.544 for 3.444?")
    apart.get_by_role("textbox").fill("3.444")
    expect(page.locator("[data-outlier]")).to_have_count(0)
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    expect(page.get_by_label("Finding")).to_contain_text("A 30 ft difference")


def test_a_telephone_has_a_bar_of_its_own(opens: Opens) -> None:
    page = opens(PHONE, touch=True)
    begin(page, TAG)
    bar = page.get_by_role("toolbar", name="Keys for readings")
    expect(bar).to_be_visible()
    expect(page.get_by_role("navigation", name="Places")).to_have_count(0)  # out of the way of the keypad
    page.keyboard.type("1.885")
    bar.get_by_role("button", name="Other sign").tap()
    expect(cell(page, "0-a-reading")).to_have_value("-1.885")
    bar.get_by_role("button", name="Other sign").tap()
    bar.get_by_role("button", name="One more").tap()
    bar.get_by_role("button", name="Same again").tap()
    expect(cell(page, "0-a-reading-1")).to_have_value("1.885")
    bar.get_by_role("button", name="Next").tap()
    expect(cell(page, "0-b-reading")).to_be_focused()
    for button in bar.get_by_role("button").all():
        assert button.bounding_box()["height"] >= 56  # type: ignore[index]


def test_a_finding_that_is_not_good_is_led_through_from_the_other_end(opens: Opens) -> None:
    page = opens(DESK)
    begin(page, TAG)
    sheet(page, "1.4680", "1.2104", "1.5233", "1.2515")
    finding(page, "adjust")
    page.locator("[data-led=real]").get_by_role("button").click()
    expect(page.locator("[data-entry]")).to_have_count(4)
    expect(page.locator("#row-observations-setups-3-b-distance")).to_have_value("56")
    page.locator("#row-observations-setups-2-a-readings-0").focus()
    # The same true error, read from the other end: 0.5 mm/m is in the far sight on B now.
    sheet(page, "1.4681", "1.2105", "1.5093", "1.2655")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.locator("[data-entry='3']").get_by_role("button", name="Remove").click()
    expect(page.locator("[data-entry]")).to_have_count(3)
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-entry]")).to_have_count(4)
    expect(page.locator("#row-observations-setups-3-b-readings-0")).to_have_value("1.2655")
