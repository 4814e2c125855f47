"""Every view on three screens: nothing wider than the page, nothing axe finds, targets large enough."""

from __future__ import annotations

import re
import sqlite3
from pathlib import Path

from playwright.sync_api import Page, expect

from .conftest import DESK, PHONE, ROOT, TABLET, Opens, begin, finding, sheet

AXE = (ROOT / "web/node_modules/axe-core/axe.min.js").read_text()


def axe(page: Page, view: str) -> None:
    """axe finds nothing; run from outside the page's own policy, as a browser's tool would be."""
    page.evaluate(AXE)
    found = page.evaluate("() => axe.run(document, { resultTypes: ['violations'] })")
    texts = [f"{view}: {violation['id']} {violation['nodes'][0]['html'][:120]}" for violation in found["violations"]]
    assert not texts, texts


def fits(page: Page, view: str) -> None:
    wide = page.evaluate("() => document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert wide <= 0, f"{view} is {wide} px too wide"


def looked_at(page: Page, view: str) -> None:
    """One view on every screen: the page is made narrower and wide again, as when a tablet is turned."""
    for width, height in (DESK, TABLET, PHONE):
        page.set_viewport_size({"width": width, "height": height})
        page.wait_for_timeout(150)
        fits(page, f"{view} at {width}")
        if width != TABLET[0]:
            axe(page, f"{view} at {width}")
    page.set_viewport_size({"width": DESK[0], "height": DESK[1]})


def seen(page: Page, view: str) -> None:
    """One view on the screen it is on."""
    page.wait_for_selector("h1")
    page.wait_for_timeout(150)
    fits(page, view)
    axe(page, view)


def test_every_view(opens: Opens) -> None:
    page = opens(who=None)
    page.wait_for_selector("text=Who is at work?")
    looked_at(page, "sign-in")
    page.get_by_role("button", name="Ines Calder").click()
    page.wait_for_selector("[data-instrument]")
    looked_at(page, "yard")
    page.get_by_role("button", name="Report what happened").click()
    looked_at(page, "note a knock")
    page.keyboard.press("Escape")
    page.goto("/instruments/LV-05")
    page.wait_for_selector("[data-stage]")
    page.wait_for_selector("[data-record]")
    looked_at(page, "instrument")
    page.get_by_role("link", name="Latest check").click()
    page.wait_for_selector("[data-finding]")
    page.get_by_text("Calculation").click()
    looked_at(page, "record")
    page.get_by_role("button", name="Something is wrong here").click()
    looked_at(page, "amend")
    page.goto("/bench/new/LV-05/two-peg")
    page.wait_for_selector("[data-look]")
    looked_at(page, "begin")
    begin(page, "LV-05")
    sheet(page, "1.4680;1.4682", "1.2104", "1.5x", "1.2515")
    page.wait_for_selector("[data-fault]")
    looked_at(page, "bench with a fault")
    page.locator("#row-observations-setups-1-a-readings-0").fill("1.5233")
    finding(page, "adjust")
    looked_at(page, "bench with a finding")
    page.get_by_role("button", name="Steps and method").click()
    looked_at(page, "layout")
    page.goto("/bench")
    page.wait_for_selector("text=Go on")
    looked_at(page, "bench list")


def test_a_bad_record_can_be_seen_through_on_a_tablet(opens: Opens) -> None:
    page = opens(TABLET, touch=True)
    answer = page.request.get("/api/records?instrument=LV-07&category=check&limit=200").json()["records"]
    bad = next(entry["id"] for entry in answer if entry["grade"] == "adjust" and entry["amended_by"] is None)
    page.goto(f"/records/{bad}")
    for step in ("real", "keep", "without", "impact-review", "adjust"):
        page.locator(f"[data-step={step}] > button").tap()
        page.wait_for_timeout(300)
        seen(page, f"bad finding, {step}")


def test_without_the_level_another_is_named(opens: Opens) -> None:
    page = opens()
    answer = page.request.get("/api/records?instrument=LV-07&category=check&limit=200").json()["records"]
    bad = next(entry["id"] for entry in answer if entry["grade"] == "adjust" and entry["amended_by"] is None)
    page.goto(f"/records/{bad}")
    page.locator("[data-step=without] > button").click()
    expect(page.locator("[data-stand-in=LV-02]")).to_contain_text("Bramble crew")
    expect(page.locator("[data-stand-in=LV-07]")).to_have_count(0)


def test_a_knock_is_noted_given_and_taken_back(opens: Opens) -> None:
    page = opens()
    page.get_by_role("link", name="Fleet").click()
    page.get_by_label("Find an instrument").fill("LV-09")
    page.get_by_role("button", name="Report what happened").click()
    page.get_by_role("button", name="Report it").click()
    expect(page.get_by_text("Choose the instrument first.")).to_be_visible()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="LV-09").click()
    dialog.get_by_label("Where and how").fill("rolled about in the van")
    dialog.get_by_role("button", name="Report it").click()
    row = page.locator("[data-instrument=LV-09]")
    expect(row).to_have_attribute("data-state", "check-first")
    page.get_by_role("button", name="Undo").click()
    expect(row).to_have_attribute("data-state", "ready")


def test_search_takes_a_tag_typed_any_way(opens: Opens) -> None:
    page = opens()
    page.get_by_role("link", name="Fleet").click()
    page.get_by_label("Find an instrument").fill("lv7")
    expect(page.locator("[data-instrument]")).to_have_count(1)
    page.get_by_label("Find an instrument").fill("thrift")
    expect(page.locator("[data-instrument=LV-05]")).to_be_visible()
    page.get_by_label("Find an instrument").fill("nothing like it")
    page.get_by_role("button", name="Show all").click()
    expect(page.locator("[data-instrument=LV-02]")).to_be_visible()


def test_hold_and_release_carry_their_reason_and_right(opens: Opens, level: str) -> None:
    page = opens()
    page.goto(f"/instruments/{level}")
    page.get_by_role("button", name="Hold", exact=True).click()
    page.get_by_role("button", name="Put on hold").click()
    expect(page.get_by_text("Enter a few words")).to_be_visible()
    page.get_by_label("Why").fill("focus slips")
    page.get_by_role("button", name="Put on hold").click()
    expect(page.locator("[data-standing=hold]")).to_contain_text("focus slips")
    expect(page.get_by_role("button", name=re.compile("^Release"))).to_have_attribute("aria-disabled", "true")
    ines = opens(who="Ines Calder")
    ines.goto(f"/instruments/{level}")
    ines.get_by_role("button", name="Release").click()
    ines.get_by_label("Why").fill("focus reset and tried")
    ines.get_by_role("button", name="Release").click()
    expect(ines.locator("[data-standing=ready-if]")).to_contain_text("Ines Calder: focus reset and tried")


# A press between two places of a control is nobody's: what comes on its own must not move what a finger is on.
MOVED = """
    window.moved = [];
    new PerformanceObserver((list) => list.getEntries().forEach((entry) => entry.sources.forEach(({ node, previousRect, currentRect }) => {
      const holds = node instanceof Element && (node.matches("button, input, select") || node.querySelector("button, input, select"));
      if (holds && Math.abs(previousRect.y - currentRect.y) > 4) window.moved.push(node.outerHTML.slice(0, 120));
    }))).observe({ type: "layout-shift", buffered: true });
"""


def test_nothing_moves_under_the_finger_while_answers_come(opens: Opens) -> None:
    page = opens()
    page.add_init_script(MOVED)
    page.route("**/api/**", lambda route: (page.wait_for_timeout(120), route.continue_()))
    for path in ("/bench/new/LV-03/two-peg", "/bench/new/LV-03", "/bench", "/set-up", "/orientation", "/points"):
        with page.expect_response("**/api/**"):
            page.goto(path)
        page.wait_for_selector("h1")
        page.wait_for_timeout(900)
        assert page.evaluate("window.moved") == [], path
    page.goto("/bench/new/LV-03/two-peg")
    page.get_by_role("button", name="Start reading").click()
    page.wait_for_selector("#row-observations-setups-0-a-readings-0")
    page.evaluate("window.moved = []")
    page.wait_for_timeout(1500)
    assert page.evaluate("window.moved") == [], "the sheet"


def test_a_sticking_line_is_held_before_anything_is_read(opens: Opens) -> None:
    page = opens()
    page.goto("/bench/new/LV-03/two-peg")
    page.get_by_role("radio", name="Does not return").click()
    expect(page.locator("[data-circumstances]")).to_contain_text("the compensator sticks")
    page.get_by_role("button", name="Hold LV-03").click()
    expect(page.locator("[data-standing=hold]")).to_contain_text("does not come back after a tap")
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-standing=check-first]")).to_be_visible()


def test_a_record_is_struck_with_its_reason_and_stays(opens: Opens, level: str) -> None:
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    page.get_by_role("button", name="Something is wrong here").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Strike the record").click()
    expect(dialog).to_contain_text("Enter a few words on what was wrong")
    dialog.get_by_label("What is wrong").fill("staff B on the wrong peg")
    dialog.get_by_role("button", name="Strike the record").click()
    expect(page.locator("[data-amended]")).to_contain_text("staff B on the wrong peg")
    page.get_by_role("link", name=f"To {level}").click()
    expect(page.locator("[data-struck]").first).to_contain_text("staff B on the wrong peg")


def test_files_that_cannot_be_read_say_why(opens: Opens, tmp_path: Path) -> None:
    page = opens()
    files = {
        "twice.json": (b'{"kind":"two-peg","kind":"two-peg","observations":{}}', "appears twice"),
        "latin.json": ('{"kind":"two-peg","remark":"é"}'.encode("latin-1"), "not UTF-8"),
        "large.json": (b'{"kind":"two-peg","remark":"' + b"x" * 2 * 1024 * 1024 + b'"}', "1 MiB"),
        "kind.json": (b'{"kind":"three-peg","observations":{}}', "one of two-peg"),
        "gap.csv": (b"setup;staff;reading\n1;A;1,5\n3;A;1,4\n", "a whole number from 1 on without gaps"),
        "empty.csv": (b"\n;;\n", "a table: lines of cells"),
    }
    for name, (content, wanted) in files.items():
        path = tmp_path / name
        path.write_bytes(content)
        page.goto("/bench")
        page.get_by_role("button", name="Load from a file").click()
        dialog = page.get_by_role("dialog")
        dialog.get_by_role("button", name="LV-02").click()
        dialog.get_by_label("The file").set_input_files(path)
        expect(dialog.locator(".fault").first).to_be_visible()
        expect(dialog).to_contain_text(wanted)


def test_the_manager_adds_an_instrument_of_a_new_model(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.get_by_role("button", name="Add an instrument").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Tag").fill("level nine")
    dialog.get_by_role("combobox").select_option(label="A new model")
    dialog.get_by_label("Maker").fill("Ondine")
    dialog.get_by_label("Model name").fill("Wherry")
    dialog.get_by_label("Stated accuracy").fill("1.5.2")
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.locator("[data-fault='stated.levelling_accuracy_mm_per_km']")).to_contain_text("one decimal mark")
    dialog.get_by_label("Stated accuracy").fill("1,5")
    dialog.get_by_role("button", name="Add it").click()
    expect(dialog.locator("[data-fault=tag]")).to_contain_text("two letters and a number")
    dialog.get_by_label("Tag").fill("lv 21")
    dialog.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("LV-21: check first")
    expect(page.get_by_label("Passport")).to_contain_text("1.5 mm per km")
    expect(page.get_by_label("History", exact=True)).to_contain_text("No check on record yet")


def test_the_manager_adds_a_base_and_its_checks_follow_from_what_is_stated(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.get_by_role("button", name="Add an instrument").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Tag").fill("tb 30")
    dialog.get_by_role("combobox").select_option(label="A new model")
    dialog.get_by_role("radio", name="Tribrach", exact=True).click()
    dialog.get_by_label("Maker").fill("Tolvan")
    dialog.get_by_label("Model name").fill("Curlew")
    dialog.get_by_role("radio", name="Optical").click()
    dialog.get_by_role("button", name="Add it").click()
    page.wait_for_url(re.compile("/instruments/TB-30"))
    checks = page.request.get("/api/instruments/TB-30").json()["checks"]
    assert checks == ["circular-vial", "plummet"]


def test_a_record_changed_behind_the_servers_back_says_so(opens: Opens, server_data: Path) -> None:
    """Somebody with the database in hand makes a bad level good: the record is shown, and says what happened to it."""
    page = opens()
    records = page.request.get("/api/records?instrument=LV-02&category=check&limit=5").json()["records"]
    identity = records[-1]["id"]
    with sqlite3.connect(server_data / "naveta.sqlite3") as database:
        key = identity.replace("-", "")
        (kept,) = database.execute("SELECT document FROM records_record WHERE id = ?", [key]).fetchone()
        database.execute("UPDATE records_record SET document = ? WHERE id = ?", [kept.replace("1.", "2.", 1), key])
    page.goto(f"/records/{identity}")
    expect(page.locator("[data-broken]")).to_contain_text("changed after saving")
    with sqlite3.connect(server_data / "naveta.sqlite3") as database:
        database.execute("UPDATE records_record SET document = ? WHERE id = ?", [kept, key])
    page.reload()
    page.wait_for_selector("[data-finding]")
    expect(page.locator("[data-broken]")).to_have_count(0)


STEP_BACK = """(() => {
  history.replaceState(null, "");
  const real = history.replaceState;
  history.replaceState = function (...state) {
    history.replaceState = real;
    real.apply(this, state);
    setTimeout(() => history.back());
  };
})()"""
"""A step back as soon as the page has looked at its address, before anything is drawn."""


def test_a_step_back_while_a_page_is_first_drawn_is_not_lost(opens: Opens) -> None:
    page = opens()
    page.get_by_role("link", name="Plan", exact=True).click()
    page.wait_for_url("**/plan")
    page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": 6})
    page.add_init_script(STEP_BACK)
    page.reload()
    page.wait_for_url(lambda address: address.endswith("/"))
    page.wait_for_selector("[data-instrument]")
