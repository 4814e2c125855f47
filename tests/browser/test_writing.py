"""The firm's words: rod and comma on every screen, the glossary by any name, a check begun from what was found."""

from __future__ import annotations

import re
from collections.abc import Iterator

import pytest
from playwright.sync_api import expect

from .conftest import Device, Fresh, Opens, sheet

PLAIN = {"staff_word": "staff", "decimal_mark": ".", "length_unit": "m", "angle_unit": "dms"}


@pytest.fixture
def ines(server_url: str) -> Iterator[Device]:
    """The manager; how the firm writes is put back afterwards."""
    manager = Device(server_url, "ines")
    yield manager
    assert manager.call("PUT", "organisation", PLAIN)[0] == 200


def test_a_firm_of_rods_and_commas(opens: Opens, ines: Device, fresh: Fresh) -> None:
    tag = fresh("Merrow")
    manager = opens(who="Ines Calder")
    manager.goto("/settings")
    manager.get_by_role("radio", name="Rod", exact=True).click()
    manager.get_by_role("radio", name="Comma").click()
    with manager.expect_navigation():
        manager.get_by_role("button", name="Save settings").click()
    expect(manager.get_by_role("radio", name="Rod", exact=True)).to_be_checked()

    page = opens()
    page.goto(f"/bench/new/{tag}/two-peg")
    expect(page.get_by_role("complementary")).to_contain_text("rod")
    page.get_by_role("button", name="Start reading").click()
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(page, "14.020")
    fault = page.locator("[data-fault='observations.setups[0].a.readings[0]']")
    expect(fault).to_contain_text("14.020")  # as typed
    page.locator("#row-observations-setups-0-a-readings-0").fill("1.8851")
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    page.keyboard.press("End")
    sheet(page, "", "1.4020", "1.8868", "1.4000")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    finding = page.get_by_label("Finding").inner_text()
    assert re.search(r"Line of sight \d+,\d″", finding), finding
    assert not re.search(r"\d\.\d", finding), finding
    page.get_by_text("Calculation").click()
    everything = page.locator("main").inner_text()
    assert "taff" not in everything, everything
    as_typed = {"1.8851", "1.4020", "1.8868", "1.4000"}
    assert set(re.findall(r"\d+\.\d+", everything)) <= as_typed, everything
    assert "1,8851 − 1,4020" in everything
    assert "od A" in everything


def test_a_firm_of_feet_is_asked_and_answered_in_feet(opens: Opens, ines: Device) -> None:
    assert ines.call("PUT", "organisation", {**PLAIN, "length_unit": "ft"})[0] == 200
    page = opens()
    page.goto("/forecast")
    expect(page.get_by_label("Backsight, ft")).to_have_attribute("placeholder", "100")
    page.get_by_label("Centring, ft").fill("0.01")
    expect(page.locator("[data-budget=position]")).to_contain_text(re.compile(r"within 0\.0\d+\sft"))
    page.goto("/bench/plan/TS-03")
    page.get_by_label("Distance, ft").first.fill("100")
    page.get_by_label("Higher by, ft").first.fill("57.735")
    expect(page.locator("[data-planned]").first).to_contain_text("30° up")
    page.goto("/angles")
    page.get_by_label("Diagonal, ft").fill("5")
    expect(page.get_by_label("Right angle by tape")).to_contain_text("should be 5.0000 ft")
    page.goto("/points")
    expect(page.get_by_role("columnheader", name="Easting, ft")).to_be_visible()
    page.goto("/bench/new/TS-03/tracker")
    expect(page.get_by_role("complementary")).to_contain_text("about 330 ft away")


def test_a_term_is_found_by_another_name_and_leads_to_its_check(opens: Opens) -> None:
    page = opens()
    page.keyboard.press("?")
    search = page.get_by_role("searchbox", name="Find a check")
    search.fill("tilting axis")
    expect(page.locator("[data-term]")).to_have_count(1)
    expect(page.locator("[data-term='trunnion axis']")).to_contain_text("The horizontal axis the telescope tilts about")
    search.fill("peg test")
    page.get_by_role("link", name="Check Two-peg test").click()
    page.get_by_label("Begin a check").get_by_role("searchbox").fill("lv7")
    page.get_by_label("Begin a check").get_by_role("button", name="LV-07").click()
    page.wait_for_url("**/bench/new/LV-07/two-peg")
    page.get_by_role("button", name="line of sight").first.click()
    expect(page.locator("[data-term='line of sight']")).to_contain_text("reticle")
