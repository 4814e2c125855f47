"""Tables made by others: which column is what, said once, looked at, opened as a sheet, and known the next time."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from .conftest import PHONE, Fresh, Opens, finding, visit
from .test_places import looked_at
from .test_signal import on_device

ROUNDS = """Job 17, north pier;;;;
Observer;Jory;;;
Round;Target;Hz I [gon];Hz II [gon];Remark
1;Mast;0,0012;200,0021;clear
;Spire;55,1234;255,1240;
;Tower;130,4410;330,4421;haze
2;Mast;100,0010;300,0022;
;Spire;155,1232;355,1236;
;Tower;230,4408;30,4420;
;Tower;again;x;
mean;;;;
"""


def load(page: Page, check: str, tag: str, table: Path) -> None:
    visit(page, "/bench")
    page.get_by_role("button", name="Load from a file").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Which check is in it").select_option(check)
    dialog.get_by_role("button", name=tag, exact=True).click()
    dialog.get_by_label("The file").set_input_files(table)


def test_rounds_of_another_program_are_read_and_known_the_next_time(opens: Opens, fresh: Fresh, tmp_path: Path) -> None:
    tag = fresh("Tessaly")
    page = opens()
    table = tmp_path / "rounds.csv"
    # As a spreadsheet of Western Europe writes it: a degree sign that is no UTF-8.
    table.write_bytes(ROUNDS.replace("north pier", "north pier 12°").encode("windows-1252"))
    load(page, "direction-rounds", tag, table)
    expect(page.get_by_role("heading", level=1)).to_have_text("Which column is what")
    expect(page.locator("[data-readings]")).to_have_text("14 readings in 7 lines")
    expect(page.get_by_label("Hz I [gon] is")).to_have_value("hz/left")
    expect(page.locator("[data-angle-unit]")).to_have_value("gon")
    expect(page.locator("[data-fault-line='10']").first).to_contain_text("again")
    expect(page.get_by_role("button", name="Open as a sheet")).to_be_disabled()
    looked_at(page, "which column is what")
    page.get_by_role("button", name="Leave out line 10").click()
    expect(page.locator("[data-readings]")).to_have_text("12 readings in 6 lines")
    page.get_by_role("button", name="Open as a sheet").click()
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    expect(page.locator("[data-finding]").first).to_contain_text("Two directions from target Mast")
    # Somebody else of the firm loads the next file of that program: it is read as last time.
    other = opens(who="Jory Pell")
    load(other, "direction-rounds", tag, table)
    expect(other.locator("[data-known]")).to_contain_text("Read as last time: Tam Brandreth")
    expect(other.get_by_label("Hz II [gon] is")).to_have_value("hz/right")
    other.get_by_label("Hz II [gon] is").select_option("")
    expect(other.locator("[data-known]")).to_have_count(0)
    expect(other.locator("[data-readings]")).to_have_text("7 readings in 7 lines")


def test_a_level_book_on_a_phone_without_signal(opens: Opens, fresh: Fresh, tmp_path: Path) -> None:
    """Headings nobody could guess, millimetres, no network: said by hand, computed by the browser's own core.

    (1.4000 − 1.3020) − (1.2340 − 1.1110) = −0.0250 m over 50 m of imbalance: 103″.
    """
    tag = fresh("Merrow")
    page = opens(PHONE, touch=True, core=True)
    on_device(page, tag)
    page.wait_for_function("() => document.documentElement.dataset.coreStored", timeout=90_000)
    visit(page, "/bench")
    page.get_by_role("button", name="Load from a file").click()
    page.context.set_offline(True)
    table = tmp_path / "book.txt"
    table.write_text("Stand\tp\tq\tfar p\tfar q\n1\t1234\t1111\t30\t30\n2\t1400\t1302\t5\t55\n")
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name=tag, exact=True).click()
    dialog.get_by_label("The file").set_input_files(table)
    expect(page.locator("[data-message=column-missing]").first).to_be_visible()
    for column, use, unit in (
        ("p", "reading/A", "mm"),
        ("q", "reading/B", "mm"),
        ("far p", "distance/A", "m"),
        ("far q", "distance/B", "m"),
    ):
        page.get_by_label(f"{column} is", exact=True).select_option(use)
        page.get_by_label(f"{column}: unit", exact=True).select_option(unit)
    expect(page.locator("[data-readings]")).to_have_text("4 readings in 2 lines")
    looked_at(page, "a level book on a phone")
    page.get_by_role("button", name="Open as a sheet").click()
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    finding(page, "adjust")
    expect(page.locator("[data-finding]").first).to_contain_text(re.compile("10[0-9]″"))


def test_control_points_with_headings_of_their_own(opens: Opens, tmp_path: Path) -> None:
    page = opens()
    visit(page, "/points")
    table = tmp_path / "points.csv"
    table.write_text("Pt;Northing;Easting;Elev\nXM-1;8800,1;4300,2;9\n")
    page.get_by_role("button", name="Import a table").click()
    page.get_by_label("The table").set_input_files(table)
    expect(page.get_by_label("Pt is")).to_have_value("name")
    page.get_by_label("Elev is").select_option("h")
    page.get_by_role("button", name="Look at the points").click()
    expect(page.locator("[data-looked]")).to_contain_text("1 new, 0 unchanged, 0 that would move.")
    page.get_by_role("button", name="Save these points").click()
    expect(page.locator("[data-point=XM-1]")).to_contain_text("4300.200")
    # Without a file in hand the page asks for one.
    page.goto("/points/table")
    expect(page.get_by_role("heading", name="No table is open")).to_be_visible()


def test_sights_go_out_as_a_table_and_come_in_again(opens: Opens, tmp_path: Path) -> None:
    page = opens()
    visit(page, "/orientation")
    page.get_by_role("radio", name="Free station").click()
    page.get_by_role("button", name="Load from a file").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="TS-03", exact=True).click()
    table = tmp_path / "sights.txt"
    table.write_text("QB-1 12,3045 89,5930\nQB-2 101,0010 90,1015\nQB-4 250,1010 90,0005\n")
    dialog.locator("input[type=file]").set_input_files(table)
    for column, use in (("Column 1", "point"), ("Column 2", "hz"), ("Column 3", "v")):
        page.get_by_label(f"{column} is").select_option(use)
    expect(page.locator("[data-message=angles-in]")).to_be_visible()
    page.locator("[data-angle-unit]").select_option("dms")
    page.get_by_role("button", name="Open as a sheet").click()
    page.wait_for_url(re.compile(r"/orientation/[0-9a-f-]{36}"))
    page.get_by_text("The sights as a file").click()
    with page.expect_download() as download:
        page.get_by_role("button", name="Save the readings as a table (CSV)").click()
    download.value.save_as(tmp_path / "out.csv")
    out = (tmp_path / "out.csv").read_text().splitlines()
    assert out[0].split(",")[:3] == ["point", "hz", "v"]
    assert out[1].startswith('QB-1,"12,3045","89,5930"')
