"""What practitioners watch for: ticked off, on record, told again in time, on the side of the working hand."""

from __future__ import annotations

import random
import re

from playwright.sync_api import expect

from naveta_sim import simulate

from .conftest import DESK, PHONE, Fresh, Opens, visit
from .set_up_crew import begin, fill_quick
from .test_bench import begin as begin_check
from .test_bench import fill
from .test_places import axe


def test_what_is_ticked_off_and_how_it_was_done_is_on_record(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    tag = fresh("Tessaly")
    begin_check(page, tag, "tracker")
    page.locator("[data-details]").click()
    dialog = page.get_by_role("dialog", name="Checked off")
    for code in ("cross-sharp", "target-sharp", "face-known"):
        dialog.locator(f"[data-check-off={code}] input").check()
    expect(dialog.get_by_role("img", name=re.compile("circle stands on the left in face left"))).to_be_visible()
    dialog.locator("[data-detail=prism]").get_by_role("radio", name="Mini prism").click()
    dialog.locator("[data-detail=regained]").get_by_role("radio", name="Not found again").click()
    axe(page, "checked off")
    page.keyboard.press("Escape")
    expect(page.locator("[data-details]")).to_contain_text("5 of 11")
    expect(page.locator("[data-message=not-regained]")).to_contain_text("clean its glass")
    fill(page, simulate("tracker", random.Random(5), {}))
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-checked-off]")).to_contain_text("Crosshair sharp")
    expect(page.get_by_label("Readings")).to_contain_text("prism mini prism")


def test_a_set_up_keeps_its_mark_and_direction_and_settling_ground_is_looked_at_again(opens: Opens) -> None:
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=lay-out]").click()
    page.get_by_role("radio", name="Grass").click()
    page.get_by_text("The mark: kind and condition").click()
    page.get_by_role("radio", name="Nail", exact=True).click()
    page.get_by_role("radio", name="Out of plumb").click()
    # 20 mm at 8.6°: 20 · sin 8.6° = 2.99 mm, which over 30 m is 2.99/30,000 · 206,265″ = 20.6″.
    page.get_by_label("Or: tilted by").fill("8.6")
    page.get_by_label("And stands out by").fill("20")
    expect(page.locator("[data-out-of-plumb]")).to_contain_text("3.0 mm off its foot")
    expect(page.locator("[data-out-of-plumb]")).to_contain_text("a direction over 30 m is up to 20.6″ off")
    page.get_by_role("button", name="Note 2.99 mm").click()
    expect(page.get_by_label("Its head is off where it enters the ground by")).to_have_value("2.99")
    page.get_by_label("Its head is off where it enters the ground by").fill("3")
    expect(page.locator("[data-out-of-plumb]")).to_contain_text("Do not straighten a control mark.")
    page.locator("[data-check-off=battery] input").check()
    page.locator("[data-step=zero]").click()
    page.get_by_role("radio", name="By compass").click()
    page.get_by_label("Sighted").fill("north")
    page.locator("#zero-reading").fill("0.0000")
    page.locator("[data-check-off=case-picture] input").check()
    page.get_by_role("button", name="Already set up: record it").click()
    fill_quick(page)
    page.get_by_label("I checked bubble and mark together").check()
    expect(page.get_by_text("you are reminded in 10 minutes")).to_be_visible()
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    main = page.get_by_role("main")
    expect(main).to_contain_text("a nail, out of plumb, its head 3 mm from where it enters the ground")
    expect(main).to_contain_text("by compass")
    expect(main).to_contain_text("Battery charged")
    # Ten minutes later, on whatever page.
    page.evaluate(
        """() => { const list = JSON.parse(localStorage.getItem('naveta-recheck'));
        localStorage.setItem('naveta-recheck', JSON.stringify(list.map((each) => ({ ...each, at: Date.now() - 1 })))); }"""
    )
    page.goto("/bench")
    expect(page.locator("[data-recheck]")).to_contain_text("TS-03 over PC-14 has stood 10 minutes")
    page.get_by_role("button", name="Taken down").click()
    expect(page.locator("[data-recheck]")).to_have_count(0)


def test_a_head_tilt_says_whether_the_screws_reach(opens: Opens) -> None:
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=mount]").click()
    page.get_by_text("Head tilt, by a phone").click()
    page.get_by_label("Largest tilt of the head").fill("2")
    expect(page.locator("[data-head-tilt=true]")).to_contain_text("2.3 mm of their way stays")
    page.get_by_label("Largest tilt of the head").fill("6")
    expect(page.locator("[data-head-tilt=false]")).to_contain_text(
        "Level the head with the legs first, to 3.4° or less"
    )
    page.get_by_label("Largest tilt of the head").fill("about 2")
    expect(page.locator("[data-fault=tilt_deg]")).to_be_visible()


def test_controls_stand_on_the_side_of_the_working_hand(opens: Opens, level: str) -> None:
    page = opens(PHONE, touch=True)
    page.get_by_role("button", name="More", exact=True).tap()
    page.get_by_role("dialog").get_by_role("button", name="Controls: right hand").tap()
    visit(page, f"/bench/new/{level}/two-peg")
    page.get_by_role("button", name="Start reading").click()
    page.locator("#row-observations-setups-0-a-readings-0").tap()
    bar = page.get_by_role("toolbar", name="Keys for readings")
    following, back = (bar.get_by_role("button", name=name, exact=True).bounding_box() for name in ("Next", "Back"))
    assert following
    assert back
    assert following["x"] < back["x"]


def test_the_set_ups_tabs_lead_to_each_page(opens: Opens) -> None:
    page = opens(DESK)
    page.goto("/set-up")
    tabs = page.get_by_role("navigation", name="Set-up")
    for name, path in (
        ("Orientation", "/orientation"),
        ("Angles", "/angles"),
        ("Accuracy forecast", "/forecast"),
        ("Control points", "/points"),
        ("Set up", "/set-up"),
    ):
        tabs.get_by_role("link", name=name, exact=True).click()
        page.wait_for_url(f"**{path}")
        expect(tabs.get_by_role("link", name=name, exact=True)).to_have_attribute("aria-current", "page")
