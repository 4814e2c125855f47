"""Every check of rows walked as its user walks it: choose, begin, type, save as found, adjust or fix, as left."""

from __future__ import annotations

import random
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from naveta_sim import simulate

from .conftest import DESK, PHONE, TABLET, Fresh, Opens, condition, finding, until, visit

Data = dict[str, Any]
FOUR = (0, 90, 180, 270)
CHOICES = {"yes": "Yes", "no": "No", "steel": "Steel"}
BAD: dict[str, tuple[str, Data, Data, str]] = {
    # kind: (model, true when found, true when left, grade as found): each geometry and each way of adjusting once
    "plate-vial": ("Aldreth", {"rest_div": -2.6, "sensitivity": 30}, {"rest_div": 0.0, "sensitivity": 30}, "adjust"),
    "dual-axis-level": (
        "Tessaly",
        {"index_arcsec": (14, -3), "headings": FOUR},
        {"index_arcsec": (0, 0), "headings": FOUR},
        "adjust",
    ),
    "plummet": ("Aldreth", {"offset_mm": (2.4, -1.0)}, {"offset_mm": (0.0, 0.0)}, "adjust"),
    "tripod": (
        "Strand",
        {"set_arcsec": 22.0, "twist_arcsec": 26.0},
        {"set_arcsec": 0.0, "twist_arcsec": 12.0},
        "adjust",
    ),
    "tape": ("Ribbon", {"scale_ppm": 900.0, "lengths": (1.0, 10.0, 30.0)}, {}, "service"),
}
BY_HAND = {"tripod": "clamps"}
"""What nothing is read of on the way, and a word of what is done."""
STORED = ("dual-axis-level",)
"""What is stored by the instrument's own routine, the old values noted first."""
SIZES = {"plummet": PHONE, "dual-axis-level": TABLET}


def leaves(held: Any, path: str = "observations") -> list[tuple[str, str]]:
    """Every figure of a document with its path, in the order in which it stands."""
    if isinstance(held, dict):
        return [pair for key, entry in held.items() for pair in leaves(entry, f"{path}.{key}")]
    if isinstance(held, list):
        return [pair for i, entry in enumerate(held) for pair in leaves(entry, f"{path}[{i}]")]
    return [(path, str(held))]


def field(page: Page, path: str) -> Any:
    return page.locator("#row-" + re.sub(r"-$", "", re.sub(r"[^\w]+", "-", path)))


def fill(page: Page, document: Data) -> None:
    """Type what was read, set by set where the sheet is long; what the way has filled in stays, a choice is touched."""
    sets = page.get_by_role("group", name="Sets of this sheet").get_by_role("button", name=re.compile(" readings"))
    for i in range(max(1, sets.count())):
        if sets.count():
            sets.nth(i).click()
        _fill(page, document)


def _fill(page: Page, document: Data) -> None:
    for path, value in leaves(document["observations"]):
        if value in CHOICES:
            name = path.rsplit(".", 1)[1]
            found = {"clamps_hold": 0, "hinges_firm": 1, "shoes_firm": 2, "foot_firm": 0, "joints_firm": 1}.get(name, 0)
            page.get_by_role("radiogroup").get_by_role("radio", name=CHOICES[value]).nth(found).click()
        elif field(page, path).count():
            field(page, path).fill(value)


def begin(page: Page, tag: str, kind: str) -> None:
    visit(page, f"/bench/new/{tag}")
    page.locator(f"[data-check={kind}]").get_by_role("link", name="Begin").click()
    if kind == "dual-axis-level":
        page.get_by_role("radio", name="Four headings, 90° apart").click()
    if kind == "two-face":
        page.get_by_role("radio", name="Full").click()
    page.get_by_role("button", name="Start reading").click()
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    page.get_by_label("Field sheet").wait_for()  # the address comes before the sheet
    if kind == "dual-axis-level":
        condition(page, "minutes_on", "1")
        expect(page.locator("[data-message=not-warm]")).to_contain_text("wait 2 minutes more")
        condition(page, "minutes_on", "12")


@pytest.mark.parametrize("kind", BAD)
def test_from_empty_to_as_left(opens: Opens, fresh: Fresh, kind: str) -> None:
    model, found, left, grade = BAD[kind]
    size = SIZES.get(kind, DESK)
    rng = random.Random(kind)
    page = opens(size, who="Ines Calder", touch=size == PHONE)
    tag = fresh(model)
    begin(page, tag, kind)
    expect(page.locator("[data-complete=false]")).to_be_visible()
    fill(page, simulate(kind, rng, {"noise": 0.4, **found}))
    finding(page, grade)
    expect(page.locator("[data-drawing]")).to_be_visible()
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    record = page.request.get(f"/api{page.url[page.url.index('/records/') :]}").json()
    assert (record["kind"], record["stage"], record["grade"]) == (kind, "as-found", grade)
    standing = page.request.get(f"/api/instruments/{tag}").json()["standing"]
    assert standing["state"] == "hold"
    if grade == "service":
        expect(page.locator("[data-step=without][data-open]")).to_be_visible()
        return
    turn(page, kind)
    page.get_by_role("button", name=re.compile("check again, as left|Test again|Adjusted: test again")).click()
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    again = simulate(kind, rng, {"noise": 0.4, **left})
    fill(page, again)
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.get_by_role("button", name="Save as left").click()
    page.wait_for_url(re.compile("/records/"))
    after = page.request.get(f"/api{page.url[page.url.index('/records/') :]}").json()
    assert (after["stage"], after["pair"]) == ("as-left", record["id"])
    assert after["grade"] in ("use", "watch")


def turn(page: Page, kind: str) -> None:
    """What is done with a bad finding: turned by what it reads now, or fixed by hand."""
    if kind in BY_HAND:
        expect(page.locator("[data-step=adjust]")).to_contain_text(BY_HAND[kind])
        expect(page.locator("[id^=reads-now]")).to_have_count(0)
        return
    page.locator("#reads-now").wait_for()
    inputs = page.locator("[id^=reads-now]")
    if kind in STORED:
        for i in range(inputs.count()):
            inputs.nth(i).fill("1.5")
        page.get_by_role("button", name="Note", exact=True).click()
        steps = page.locator("[aria-label='Readings since the first turn'] li")
        expect(steps).to_contain_text("After the instrument's own routine it should be:")
        return
    two = inputs.count() == 2
    for value in (("1.0", "0.8") if two else ("1.1",)), (("0.0", "0.1") if two else ("0.1",)):
        for i, entry in enumerate(value):
            inputs.nth(i).fill(entry)
        page.get_by_role("button", name="Enter", exact=True).click()
    steps = page.locator("[aria-label='Readings since the first turn'] li")
    expect(steps).to_have_count(2)
    if kind != "plummet":  # its target lies wherever the axis met the sheet
        expect(steps.nth(1)).to_contain_text("done.")


def test_the_chooser_says_what_is_due_in_order_and_why(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Tam Brandreth")
    tag = fresh("Aldreth")
    visit(page, f"/bench/new/{tag}")
    expect(page.get_by_role("heading", level=1)).to_contain_text("4 checks are due, about 27 minutes")
    checks = page.locator("[data-check]")
    assert [checks.nth(i).get_attribute("data-check") for i in range(4)] == [
        "circular-vial",
        "plate-vial",
        "plummet",
        "two-face",
    ]
    expect(checks.nth(2)).to_contain_text("puts every set-up off its mark")
    expect(page.locator(".btn.now")).to_have_count(1)


def test_rows_are_typed_by_the_keyboard_alone_and_fixed(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Tam Brandreth")
    begin(page, fresh("Aldreth"), "plate-vial")
    first = field(page, "observations.readings[0].bubble_div")
    first.focus()
    page.keyboard.type("-2,1")
    for value in ("-0.8", "-0.3", "-1.6"):
        page.keyboard.press("Enter")
        page.keyboard.type(value)
    finding(page, "watch")
    expect(page.locator("[data-finding]")).to_contain_text("reversing point 1.2 div left of the middle")
    page.keyboard.press("Shift+Enter")
    page.keyboard.type("1.x")
    row = page.locator("[data-row='observations.readings[2]']")
    expect(row.locator("[data-fault]")).to_contain_text("1.x. Enter a number")
    page.keyboard.press("Control+a")
    page.keyboard.type("-0.3;")  # one more row opens, its heading first
    expect(field(page, "observations.readings[4].heading_deg")).to_be_focused()
    page.get_by_role("button", name="Remove row 5").click()
    page.get_by_role("button", name="Undo").click()
    expect(page.locator("[data-row]")).to_have_count(5)
    page.reload()
    expect(first).to_have_value("-2,1")
    finding(page, "watch")


def test_a_chief_may_not_turn_a_plummet_and_is_given_whose_it_is(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Tam Brandreth")
    begin(page, fresh("Aldreth"), "plummet")
    fill(page, simulate("plummet", random.Random(2), {"offset_mm": (2.5, 0.0), "noise": 0.3}))
    finding(page, "adjust")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-step=adjust]")).to_contain_text("ask the equipment manager")
    expect(page.locator("[id^=reads-now]")).to_have_count(0)


def test_a_known_rest_position_reaches_the_stand(opens: Opens) -> None:
    """TD-01's plate bubble rests about 1.2 div left: the Stand says so at the act, without being given."""
    page = opens(who="Wren Adair")
    visit(page, "/set-up")
    page.get_by_role("button", name="TD-01").click()
    page.locator("#mark").fill("PC-07")
    page.get_by_role("button", name="Guide me").click()
    page.locator("[data-step=plate]").click()
    expect(page.locator("[data-at-hand]")).to_contain_text(re.compile(r"level vial: −1\.\d\sdiv"))


def test_a_file_of_any_kind_is_loaded_and_its_table_comes_back(opens: Opens, fresh: Fresh, tmp_path: Any) -> None:
    tag = fresh("Strand")
    page = opens(who="Tam Brandreth")
    path = tmp_path / "tripod.csv"
    path.write_text("distance;free_mm;loaded_mm;released_mm\n20;500;502;500,1\n;500,1;498;500\n")
    visit(page, "/bench")
    page.get_by_role("button", name="Load from a file").click()
    page.get_by_label("Which check is in it").select_option("tripod")
    page.get_by_role("button", name=tag).click()
    page.locator("input[type=file]").set_input_files(path)
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    expect(field(page, "observations.rounds[1].released_mm")).to_have_value("500")
    page.wait_for_selector("[data-complete=true] [data-finding]")


def test_a_check_of_rows_without_signal_is_calculated_stored_and_sent_by_itself(opens: Opens, fresh: Fresh) -> None:
    """Typed, judged, adjusted and left on a slope without signal; on the server both records, and device and server agree."""
    tag = fresh("Aldreth")
    page = opens(who="Ines Calder", core=True)
    page.wait_for_function("() => document.documentElement.dataset.coreStored", timeout=90_000)
    until(page, f"async () => (await (await fetch('/api/device')).json()).fleet.some((one) => one.tag === '{tag}')")
    visit(page, f"/bench/new/{tag}")
    page.locator("[data-check=plate-vial]").wait_for()
    page.context.set_offline(True)
    begin(page, tag, "plate-vial")
    fill(page, simulate("plate-vial", random.Random(5), {"rest_div": 2.8, "sensitivity": 30, "noise": 0.3}))
    finding(page, "adjust")
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-waits=waiting]")).to_contain_text("Stored on this device")
    turn(page, "plate-vial")
    page.get_by_role("button", name="Test again, as left").click()
    page.wait_for_url(re.compile(r"/bench/[0-9a-f-]{36}"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    fill(page, simulate("plate-vial", random.Random(6), {"rest_div": 0.0, "sensitivity": 30, "noise": 0.3}))
    finding(page, "use")
    page.get_by_role("button", name="Save as left").click()
    expect(page.locator("[data-waits=waiting]")).to_be_visible()
    page.goto("/bench")
    expect(page.locator("[data-outbox=waiting]")).to_have_count(3)
    page.context.set_offline(False)
    expect(page.locator("[data-outbox]")).to_have_count(0)
    after = page.request.get(f"/api/records?instrument={tag}&limit=5").json()["records"]
    assert [(entry["kind"], entry["stage"]) for entry in after] == [
        ("plate-vial", "as-left"),
        ("adjusted", ""),
        ("plate-vial", "as-found"),
    ]
    for entry in (after[0], after[2]):
        assert page.request.get(f"/api/records/{entry['id']}").json()["device"]["agrees"] is True


def test_the_history_of_each_check_is_drawn_and_the_passport_says_what_is_stated(opens: Opens) -> None:
    """TD-01: two years of a plate bubble at rest left of the middle, against the division it may be out."""
    page = opens(TABLET, who="Wren Adair")
    visit(page, "/instruments/TD-01")
    page.locator("[data-series=plate-vial]").or_(
        page.get_by_role("heading", name="Plate level check, each")
    ).first.click()
    history = page.get_by_label("History", exact=True)
    expect(history.get_by_role("heading")).to_contain_text("Plate level check, each result")
    points = page.request.get("/api/instruments/TD-01/series?of=plate-vial").json()["points"]
    assert len(points) > 20
    assert -1.6 < sum(point["value"] for point in points) / len(points) < -0.8
    expect(history.locator("[data-stage]")).to_have_count(len(points))
    expect(page.get_by_label("Passport")).to_contain_text("30″ a division")
    checks = page.get_by_label("Checks", exact=True).locator("[data-check]")
    assert [checks.nth(i).get_attribute("data-check") for i in range(4)] == [
        "circular-vial",
        "plate-vial",
        "plummet",
        "two-face",
    ]
