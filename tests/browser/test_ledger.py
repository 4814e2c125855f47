"""The ledger as its users walk it: filters in the address, words, the keyboard, the file, a record computed again."""

from __future__ import annotations

import csv
from pathlib import Path

from playwright.sync_api import expect

from .conftest import Opens
from .test_places import looked_at


def test_a_months_proof_from_the_ledger_to_a_record_computed_again(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.get_by_role("navigation", name="Places").get_by_role("link", name="Ledger").click()
    heading = page.get_by_role("heading", level=1)
    expect(heading).to_contain_text("records")
    everything = int(heading.inner_text().split()[0])
    assert everything > 500
    looked_at(page, "ledger")
    page.get_by_label("Every grade").select_option("adjust")
    page.get_by_label("Every check").select_option("two-peg")
    page.get_by_role("searchbox", name="Words").fill("lv-07 tam")
    expect(heading).not_to_contain_text(str(everything))
    rows = page.get_by_role("list", name="Records").get_by_role("listitem")
    expect(rows.first).to_contain_text("LV-07")
    assert "grade=adjust" in page.url
    assert "kind=two-peg" in page.url
    page.reload()
    expect(page.get_by_role("searchbox", name="Words")).to_have_value("lv-07 tam")
    expect(rows.first).to_contain_text("Two-peg test")
    shown = int(heading.inner_text().replace("One", "1").split()[0])
    with page.expect_download() as download:
        page.get_by_role("link", name="Export these").click()
    with Path(download.value.path()).open(newline="") as file:
        table = list(csv.DictReader(file))
    assert len(table) == shown
    assert {(row["instrument"], row["grade"], row["kind"]) for row in table} == {("LV-07", "adjust", "two-peg")}
    rows.first.locator("[data-open]").focus()
    page.keyboard.press("End")
    page.keyboard.press("Home")
    page.keyboard.press("Enter")
    page.wait_for_url("**/records/**")
    page.get_by_role("button", name="Calculate it again with today's Naveta").click()
    expect(page.locator("[data-recomputed=same]")).to_contain_text("The same result")


def test_filters_nobody_can_satisfy_say_so_and_are_cleared(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/ledger?grade=service&stage=as-left&words=nothing")
    expect(page.get_by_text("No record matches these filters.")).to_be_visible()
    page.get_by_role("button", name="Clear filters").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("records")
    page.get_by_label("from", exact=True).fill("2027-03-01")
    page.get_by_label("to", exact=True).fill("2027-03-01")
    expect(page.get_by_role("list", name="Records")).to_contain_text("excavator")


def test_filters_are_kept_by_name_and_come_back(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/ledger?instrument=LV-07&grade=adjust")
    page.locator("[data-record]").first.wait_for()
    found = page.locator("[data-record]").count()
    page.get_by_role("button", name="Views").click()
    page.get_by_role("menuitem", name="Keep this view…").click()
    page.get_by_role("textbox", name="Name").fill("Adjusted LV-07")
    page.get_by_role("button", name="Keep it").click()
    page.get_by_role("button", name="Clear filters").click()
    expect(page.get_by_role("button", name="Views")).to_be_visible()
    page.get_by_role("button", name="Views").click()
    page.get_by_role("menuitem", name="Adjusted LV-07", exact=True).click()
    expect(page.locator("[data-record]")).to_have_count(found)
    page.goto("/fleet")
    page.locator("[data-instrument]").first.wait_for()
    page.get_by_role("button", name="Views").click()
    expect(page.get_by_role("menuitem", name="Adjusted LV-07", exact=True)).to_have_count(0)
