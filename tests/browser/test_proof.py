"""The proof file, opened from the disk in a browser without a network: whole, and with one figure changed."""

from __future__ import annotations

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import DESK, Opens


@pytest.fixture
def alone(browser: Browser):
    """A page that reaches nothing."""
    context = browser.new_context(offline=True)
    asked: list[str] = []
    context.on("request", lambda request: asked.append(request.url))
    page = context.new_page()
    yield page
    assert [url for url in asked if not url.startswith("file:")] == []
    context.close()


def outcome(page: Page, file: Path) -> str:
    page.goto(file.as_uri())
    page.locator("#outcome[data-whole]").wait_for()
    return page.locator("#outcome").inner_text()


def test_a_months_proof_is_whole_and_shows_which_record_was_changed(opens: Opens, alone: Page, tmp_path: Path) -> None:
    page = opens(DESK, "Ines Calder")
    page.goto("/ledger?instrument=LV-07&first=2026-05-01&last=2026-05-31")
    with page.expect_download() as download:
        page.get_by_role("link", name="Proof file of these").click()
    whole = tmp_path / "whole.html"
    download.value.save_as(whole)
    page.locator("[data-record]").first.wait_for()
    records = page.locator("[data-record]").count()
    assert (
        outcome(alone, whole)
        == f"All {records} records are whole: each gives its digest, and each follows the one before it."
    )
    expect(alone.locator("#field-check")).to_contain_text("not an accredited calibration")
    text = whole.read_text()
    (found,) = re.findall(r"31\.9\w*″ up", text)[:1]
    sequence = re.search(
        r"Record (\d+) of LV-07", alone.locator("details", has_text="31.9″ up").first.inner_text() + alone.content()
    )
    assert sequence
    changed = tmp_path / "changed.html"
    changed.write_text(text.replace(found, found.replace("31.9", "1.9"), 1))
    said = outcome(alone, changed)
    assert said.startswith(f"1 of {records} records does not hold: record ")
    assert "of LV-07, Two-peg test, as found" in said
    expect(alone.locator("details[data-wrong]").first).to_contain_text("its text does not give its digest")


def test_a_record_left_out_of_a_chain_shows(opens: Opens, alone: Page, tmp_path: Path) -> None:
    page = opens(DESK, "Ines Calder")
    page.goto("/ledger?instrument=TA-01")
    page.locator("[data-open]").first.click()
    with page.expect_download() as download:
        page.get_by_role("link", name="Proof file").click()
    whole = tmp_path / "whole.html"
    download.value.save_as(whole)
    assert outcome(alone, whole).startswith("All ")
    lines = whole.read_text().splitlines(keepends=True)
    places = [i for i, line in enumerate(lines) if 'class="record"' in line]
    if len(places) > 2:
        del lines[places[1]]
        gap = tmp_path / "gap.html"
        gap.write_text("".join(lines))
        assert outcome(alone, gap)
