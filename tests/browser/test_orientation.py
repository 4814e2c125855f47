"""Orientation as a crew does it: sights typed, a swapped pair found and fixed, a backsight after a set-up, the points."""

from __future__ import annotations

import csv
import io
import math
import random
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from demo.scenario import POINTS
from tests.core.orientation.world import World

from .conftest import DESK, PHONE, Opens, visit
from .set_up_crew import fill_quick
from .test_places import looked_at

KNOWN = {
    point["name"]: (float(point["e"]), float(point["n"]), float(point["h"]))
    for point in csv.DictReader(io.StringIO(POINTS), delimiter=";")
}


def packed(degrees: str) -> str:
    """Decimal degrees as they are read off: 212.2043 for 212°20′43″."""
    seconds = round(float(degrees) % 360 * 3600)
    return f"{seconds // 3600}.{seconds // 60 % 60:02d}{seconds % 60:02d}"


def creek(seed: int = 2) -> World:
    return World(KNOWN, (4160.0, 8725.0, 7.9), 212.345, noise=random.Random(seed), distance_mm=1.5)


def sight(page: Page, world: World, index: int, named: str, really: str | None = None) -> None:
    """Type one sight; `really` is what was sighted under that name."""
    if index:
        page.get_by_role("button", name="One more sight").click()
    page.locator("[data-pick-point] input").fill(named)
    shot = world.shot(really or named)
    page.locator(f"#shot-{index}-hz").fill(packed(shot["hz"]))
    page.locator(f"#shot-{index}-v").fill(packed(shot["v"]))
    page.locator(f"#shot-{index}-slope_distance").fill(f"{float(shot['slope_distance']):.3f}")
    page.locator(f"#shot-{index}-target_height").fill(shot["target_height"])


def begin_free(page: Page) -> None:
    visit(page, "/orientation")
    page.get_by_role("button", name="TS-03").click()
    page.get_by_role("radio", name="Free station").click()
    page.get_by_role("button", name="Start with the first sight").click()
    page.locator("#instrument-height").fill("1.550")


def answered(page: Page, grade: str) -> None:
    page.wait_for_selector(f"[data-fresh=true] [data-finding={grade}]")


@pytest.mark.parametrize("size", [DESK, PHONE])
def test_a_free_station_with_a_swapped_pair_found_and_fixed(opens: Opens, size: tuple[int, int]) -> None:
    page, world = opens(size, touch=size == PHONE), creek()
    begin_free(page)
    sight(page, world, 0, "QB-1")
    sight(page, world, 1, "QB-2")
    sight(page, world, 2, "PC-14", really="QB-4")
    sight(page, world, 3, "QB-4", really="PC-14")
    answered(page, "repeat")
    expect(page.get_by_text("PC-14 and QB-4 seem swapped: exchanged, everything agrees.")).to_be_visible()
    expect(page.locator("[data-suspect]")).to_have_count(2)
    expect(page.locator("[data-ellipse]")).to_have_count(1)
    page.get_by_role("button", name="Give PC-14 and QB-4 each other's name").click()
    answered(page, "use")
    page.get_by_text("Closing sight at the reference").click()
    page.locator("#closing-hz").fill(packed(world.shot("QB-1")["hz"]))
    answered(page, "use")
    page.get_by_role("button", name="Keep this").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("TS-03 free station")
    record = page.request.get(f"/api/records/{page.url.rsplit('/', 1)[1]}").json()
    figures = record["result"]["result"]
    assert math.hypot(figures["e_m"] - 4160.0, figures["n_m"] - 8725.0) < 0.005
    assert math.remainder(figures["orientation_deg"] - 212.345, 360) * 3600 == pytest.approx(0, abs=8)
    assert record["document"]["observations"]["shots"][2]["point"] == "QB-4"
    # At the end of the day one look more: the stand turned by 40″, which the first look did not know.
    page.get_by_role("button", name="Closing sight").click()
    page.wait_for_url(re.compile("closing"))
    page.locator("#closing-hz").fill(packed(f"{float(world.shot('QB-1')['hz']) + 40 / 3600:.6f}"))
    answered(page, "repeat")
    expect(page.get_by_text("the tripod has moved")).to_be_visible()
    first = record["id"]
    page.get_by_role("button", name="Keep this").click()
    page.wait_for_url(lambda url: "/records/" in url and first not in url)
    struck = page.request.get(f"/api/records/{first}").json()
    assert struck["amended_why"] == "Closing sight added."


def test_a_moved_point_is_left_out_with_one_touch_and_names_are_minded(opens: Opens) -> None:
    page, world = opens(), creek(3)
    begin_free(page)
    page.locator("[data-pick-point] input").fill("PC-41")
    page.locator("[data-near=PC-14]").click()
    expect(page.locator("[data-pick-point] input")).to_have_value("PC-14")
    true = KNOWN["PC-14"]
    world.points = {**KNOWN, "PC-14": (true[0] + 0.06, true[1], true[2])}
    sight(page, world, 0, "PC-14")
    for i, name in enumerate(("QB-1", "QB-2", "QB-3"), start=1):
        sight(page, world, i, name)
    answered(page, "repeat")
    page.get_by_role("button", name="Leave PC-14 out").click()
    answered(page, "use")
    expect(page.locator("[data-shot='0']")).to_contain_text("left out")
    page.reload()
    answered(page, "use")


def test_a_set_up_goes_on_to_its_backsight_and_its_budget(opens: Opens) -> None:
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="TS-03").click()
    page.locator("#mark").fill("PC-09")
    page.get_by_role("button", name="Already set up: record it").click()
    fill_quick(page, "0.0", ("1.5500", "1.5500"))
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    set_up = page.url.rsplit("/", 1)[1]
    page.get_by_role("link", name="Effect on work").click()
    expect(page.locator("#budget-tilt_arcsec")).to_have_value("5")
    page.locator("#budget-back_m").fill("10")
    page.locator("#budget-fore_m").fill("60")
    page.locator("#budget-allowed\\.position_mm").fill("5")
    budget = page.locator("[data-budget=position][data-enough=false]")
    expect(budget).to_contain_text("use a longer backsight")
    expect(page.locator("#budget-target_mm")).to_have_attribute("placeholder", "1")
    page.locator("#budget-back_m").fill("abc")
    expect(page.locator("[data-fault=back_m]")).to_contain_text("abc")
    page.get_by_role("link", name="To the set-up").click()
    page.get_by_role("link", name="Orientation").click()
    expect(page.get_by_label("Station point")).to_have_value("PC-09")
    page.get_by_role("button", name="Start with the first sight").click()
    expect(page.locator("#instrument-height")).to_have_value("1.5500 m")
    world = creek(5)
    world.stand, world.instrument = KNOWN["PC-09"], 1.55
    sight(page, world, 0, "QB-2")
    answered(page, "use")
    page.get_by_role("button", name="Keep this").click()
    page.wait_for_url(lambda url: "/records/" in url and not url.endswith(set_up))
    expect(page.locator("[data-finding]")).to_contain_text("At PC-09: QB-2 agrees within")
    page.get_by_role("link", name="Its set-up").click()
    page.wait_for_url(re.compile(set_up))
    expect(page.get_by_label("Orientation", exact=True)).to_contain_text("At PC-09: QB-2 agrees within")
    page.get_by_role("link", name="To TS-03").click()
    page.locator("[data-series=control]").click()
    expect(page.get_by_label("History").locator("[data-stage]").first).to_be_visible()


def test_known_points_come_in_from_a_table_looked_at_first(opens: Opens, tmp_path: Path) -> None:
    page = opens()
    visit(page, "/points")
    table = tmp_path / "points.csv"
    table.write_text("name;n;e;h\nXB-1;8800,1;4300,2;9\nQB-3;8648,955;4177,414;8,431\n")
    page.get_by_role("button", name="Import a table").click()
    page.get_by_label("The table").set_input_files(table)
    looked = page.locator("[data-looked]")
    expect(looked).to_contain_text("1 new, 0 unchanged, 1 that would move.")
    expect(looked).to_contain_text("QB-3 would move by 12.0 mm")
    page.keyboard.press("Escape")
    expect(page.locator("[data-point=XB-1]")).to_have_count(0)
    table.write_text("name;n;e\nXB-1;8800,1;4300,2\nXB-2;oops;4300,2\n")
    page.get_by_role("button", name="Import a table").click()
    page.get_by_label("The table").set_input_files(table)
    expect(page.locator("[data-fault='line 3, n']")).to_contain_text("oops")
    table.write_text("name;n;e\nXB-1;8800,1;4300,2\n")
    page.get_by_label("The table").set_input_files(table)
    page.get_by_role("button", name="Save these points").click()
    expect(page.locator("[data-point=XB-1]")).to_contain_text("4300.200")


def test_every_view_of_orientation(opens: Opens) -> None:
    page, world = opens(), creek(7)
    visit(page, "/orientation")
    page.get_by_role("button", name="TS-03").click()
    looked_at(page, "new orientation")
    begin_free(page)
    looked_at(page, "first sight")
    for i, name in enumerate(("QB-1", "PC-05", "QB-4")):
        sight(page, world, i, name)
    answered(page, "use")
    page.get_by_text("Closing sight at the reference").click()
    looked_at(page, "three sights")
    visit(page, "/points")
    page.wait_for_selector("[data-point=PC-01]")
    looked_at(page, "points")
    visit(page, "/forecast")
    page.wait_for_selector("[data-budget=height]")
    looked_at(page, "budget")


def test_angles_turned_and_to_turn_to(opens: Opens) -> None:
    """From 350°10′ clockwise to 20°40′ are 30°30′; a right angle on from 350°10′ reads 80°10′."""
    page = opens(PHONE, touch=True)
    visit(page, "/angles")
    found = page.get_by_label("Turned angle").locator("[data-answer]")
    page.locator("#angle-start").fill("350.10")
    page.locator("#angle-other").fill("20.40")
    expect(found).to_contain_text("30°30′00.0″ clockwise.")
    page.get_by_role("radio", name="Reading to turn to").click()
    page.get_by_role("button", name="A right angle").click()
    expect(found).to_contain_text("Turn clockwise until the circle reads 80°10′00.0″.")
    page.locator("#angle-other").fill("20.4")
    expect(page.locator("[data-fault=turn]")).to_contain_text("40 or 4 minutes")
    page.locator("#diagonal").fill("5.002")
    expect(page.get_by_label("Right angle by tape").locator("[data-answer]")).to_contain_text("too wide, 3.3 mm")
    looked_at(page, "angles")


def test_sights_open_from_a_table_with_the_firms_points_and_faults_by_line(opens: Opens, tmp_path: Path) -> None:
    page, world = opens(), creek(11)
    lines = ["point;hz;v;slope_distance;target_height;angle"]
    for name in ("QB-1", "QB-2", "QB-4"):
        shot = world.shot(name)
        lines.append(f"{name};{packed(shot['hz'])};{packed(shot['v'])};{float(shot['slope_distance']):.3f};1.300;dms")
    table = tmp_path / "sights.csv"
    visit(page, "/orientation")
    page.get_by_role("radio", name="Free station").click()
    page.get_by_role("button", name="Load from a file").click()
    dialog = page.get_by_role("dialog")
    table.write_text("\n".join([*lines, "QB-3;10.75;90;20;1.3;dms"]))
    dialog.locator("input[type=file]").set_input_files(table)
    expect(dialog.get_by_text("Choose the instrument first.")).to_be_visible()
    dialog.get_by_role("button", name="TS-03").click()
    dialog.locator("input[type=file]").set_input_files(table)
    expect(dialog.locator("[data-fault='line 5, hz']")).to_contain_text("minutes below 60")
    table.write_text("\n".join(lines))
    dialog.locator("input[type=file]").set_input_files(table)
    page.wait_for_url(re.compile("/orientation/"))
    expect(page.get_by_text("Next reading: the instrument height")).to_be_visible()
    page.locator("#instrument-height").fill("1.55")
    answered(page, "use")
    expect(page.locator("[data-finding=use]")).to_contain_text("Free station: largest residual")
