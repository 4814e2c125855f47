"""The whole walk of a crew chief with a bad level, at a desk's screen, typing as a person does."""

from __future__ import annotations

import json
import math
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect
from pypdfium2 import PdfDocument

from .conftest import PHONE, TABLET, Opens, begin, finding, sheet

RHO = 648000 / math.pi


def test_from_the_yard_to_as_left(opens: Opens, tmp_path: Path) -> None:
    page = opens()
    expect(page.locator("[data-instrument=LV-07]")).to_contain_text("On hold")
    page.locator("[data-instrument=LV-07]").get_by_role("link", name="LV-07", exact=True).click()
    expect(page.locator("[data-standing=hold]")).to_contain_text("caught by the excavator's bucket")
    begin(page, "LV-07")

    # 30/30 then 56/4 without curvature in the head: c = (0.2719 - 0.2577 + tiny)/52 m is about 55 seconds up.
    sheet(page, "1.4680;1.4682;1.4684")
    expect(page.locator("[data-column='observations.setups[0].a']")).to_contain_text("range 0.4 mm")
    expect(page.get_by_text("Next: first set-up, staff B, first reading")).to_be_visible()
    page.keyboard.press("Enter")
    sheet(page, "1.2104;1.2106", "1.5233;1.5236;1.5234", "1.2515;1.2516")
    finding(page, "adjust")
    bent = 0.87 / (2 * 6_371_000)
    c = ((1.523433333 - 1.25155 - bent * (56**2 - 4**2)) - (1.4682 - 1.2105)) / 52 * RHO
    expect(page.locator("[data-finding=adjust]")).to_contain_text(f"Line of sight {c:.1f}″ up")
    expect(page.locator("[data-drawing=peg-line]")).to_contain_text(f"{c / RHO * 56 * 1000:.1f} mm too high on A")
    page.get_by_text("Calculation").click()
    expect(page.get_by_text("Da − Db = 52 m")).to_be_visible()
    expect(page.locator("[data-sensitivity]")).to_have_count(4)

    page.keyboard.press("Control+Enter")  # nothing has the focus: nothing is saved
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    found = page.url
    _adjust(page)
    _as_left(page)
    _history(page)
    page.goto(found)
    page.get_by_role("button", name="Review affected work").click()
    expect(page.locator("[data-impact-review]")).to_contain_text("Last good on 9 Feb 2027")
    _review(page, found)
    _files(page, tmp_path)


@pytest.mark.parametrize("size", [pytest.param(TABLET, marks=pytest.mark.long), PHONE])
def test_the_same_walk_by_touch(opens: Opens, size: tuple[int, int], level: str) -> None:
    """Looks, readings with the bar's own keys, as found, adjusted, as left, both on the level's history."""
    page = opens(size, touch=True)
    page.goto(f"/fleet?q={level}")
    page.locator(f"[data-instrument={level}]").get_by_role("link", name=level, exact=True).tap()
    # A compensator nobody looked at waits too: the checks of the level lead to its two-peg test.
    page.locator("[aria-label=Checks]").get_by_role("link", name="Two-peg test").tap()
    page.get_by_role("radio", name="Stays in the ring").tap()
    page.get_by_role("radio", name="Returns").tap()
    page.get_by_role("button", name="Start reading").tap()
    page.locator("#row-observations-setups-0-a-readings-0").tap()
    bar = page.get_by_role("toolbar", name="Keys for readings")
    for i, sight in enumerate((("1.4680", "1.4682"), ("1.2104", "1.2106"), ("1.5233", "1.5236"), ("1.2515", "1.2516"))):
        if i:
            bar.get_by_role("button", name="Next").tap()
        for j, reading in enumerate(sight):
            if j:
                bar.get_by_role("button", name="One more").tap()
            page.keyboard.type(reading)
    finding(page, "adjust")
    page.get_by_role("button", name="Save as found").tap()
    page.wait_for_url(re.compile("/records/"))
    _adjust(page, "1.5234")
    _as_left(page)
    page.get_by_role("link", name=f"To {level}").tap()
    expect(page.locator("[data-check=two-peg][data-state=ready]")).to_be_visible()
    expect(page.locator("[data-check=compensator-function][data-state=check-first]")).to_be_visible()
    expect(page.locator("[data-stage=as-left]").last).to_be_visible()
    expect(page.locator("[data-pair-line]").last).to_be_attached()


def _adjust(page: Page, read: str = "1.5234") -> None:
    """As found is on record; the reticle is turned towards its target, 'it reads now' twice."""
    expect(page.locator("[data-step=keep]")).to_contain_text("done")
    target = page.get_by_text(re.compile(rf"Bring staff A from {read[:4]}\d+ to (\d\.\d{{4}})"))
    to = float(re.search(r"to (\d\.\d{4})", target.inner_text()).group(1))  # type: ignore[union-attr]
    now = page.get_by_label("Staff A reads now", exact=True)
    now.fill(f"{to + 0.003:.4f}")
    now.press("Enter")
    expect(page.get_by_text("3.0 mm too high")).to_be_visible()
    now.fill("1.2")
    now.press("Enter")
    expect(page.get_by_text("too far for a reticle")).to_be_visible()
    page.get_by_role("button", name="take away").click()
    page.reload()
    now.fill(f"{to:.4f}")
    now.press("Enter")
    expect(page.locator("[data-done]")).to_contain_text("Check the near staff")
    page.get_by_role("button", name="Test again, as left").click()
    page.wait_for_url(re.compile("/bench/"))


def _as_left(page: Page) -> None:
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(page, "1.4680;1.4682;1.4684;1.4682", "1.2104;1.2106;1.2105;1.2105")
    page.keyboard.press("Enter")
    # The far sight as it must read without error: a - b of the first set-up plus curvature of 56 and 4 m.
    sheet(page, "1.5094;1.5095;1.5096;1.5095", "1.2516;1.2515;1.2516;1.2517")
    finding(page, "use")
    page.keyboard.press("Control+Enter")
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-pair]")).to_contain_text("After adjusting")


def _history(page: Page) -> None:
    page.get_by_role("link", name="To LV-07").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("LV-07: ready")
    expect(page.locator("[data-stage=as-left]")).to_have_count(2)
    expect(page.locator("[data-record=adjusted]").first).to_be_visible()


def _review(page: Page, record: str) -> None:
    """One piece of affected work is ticked with a remark, the review is signed, and the report prints both."""
    page.locator("[data-work] input[type=checkbox]").first.check()
    page.get_by_label(re.compile("^Remark on")).fill("Closed within 2 mm")
    page.get_by_label("What you reviewed").fill("The blinding; the flood wall tomorrow")
    page.get_by_role("button", name="Sign the review").click()
    expect(page.locator("[data-signed]")).to_contain_text("Tam Brandreth")
    expect(page.locator("[data-reviewed]")).to_contain_text("Closed within 2 mm")
    expect(page.locator("[data-impact-review]")).to_contain_text("1 of 2 open")
    answer = page.request.get(f"/api/records/{record.rsplit('/', 1)[-1]}/report")
    printed = " ".join(one.get_textpage().get_text_bounded() for one in PdfDocument(answer.body()))
    assert "Work it may have affected" in printed
    assert "Closed within 2 mm" in " ".join(printed.split())


def _files(page: Page, folder: Path) -> None:
    """The check saved out as a document and as a table loads again as it was."""
    document, table = folder / "check.json", folder / "check.csv"
    for name, path in (("Document", document), ("Table", table)):
        with page.expect_download() as download:
            page.get_by_role("link", name=name, exact=True).click()
        download.value.save_as(path)
    assert json.loads(document.read_text())["observations"]["setups"][1]["a"]["readings"] == [
        "1.5233",
        "1.5236",
        "1.5234",
    ]
    table.write_text(table.read_text().replace(",", ";").replace(".", ","))
    for path in (document, table):
        page.goto("/bench")
        page.get_by_role("button", name="Load from a file").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("button", name="LV-07").click()
        dialog.get_by_label("The file").set_input_files(path)
        page.wait_for_url(re.compile("/bench/[0-9a-f-]{36}"))
        finding(page, "adjust")
        expect(page.locator("#row-observations-setups-1-a-readings-2")).to_have_value(
            "1.5234" if path is document else "1,5234"
        )
