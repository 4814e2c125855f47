"""Every view at a desk and on a phone: no horizontal overflow, no violation found by axe.

A test visits the views of one part of Naveta. Each entry gives the address and the steps that open the view.
"""

from __future__ import annotations

import random
import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Page

from naveta_sim import simulate
from tests.oracle import sights

from .conftest import CORE_MS, DESK, PHONE, Opens, begin, sheet, visit
from .looks import seen
from .set_up_crew import begin as begin_set_up

Act = Callable[[Page], object]
View = tuple[str, str | Act, str | Act]
"""Name; address, or a function that opens the view; selector to wait for, or a further step."""


def press(name: str, *, exact: bool = False) -> Act:
    def act(page: Page) -> None:
        page.get_by_role("button", name=name, exact=exact).first.click()

    return act


def dialog(name: str) -> Act:
    def act(page: Page) -> None:
        page.get_by_role("button", name=name).first.click()
        page.get_by_role("dialog").wait_for()

    return act


def bad_record(page: Page) -> None:
    rows = page.request.get("/api/records?instrument=LV-07&category=check&limit=200").json()["records"]
    bad = next(row["id"] for row in rows if row["grade"] == "adjust" and row["amended_by"] is None)
    page.goto(f"/records/{bad}")
    page.locator("[data-step]").first.wait_for()


def step(name: str) -> Act:
    return lambda page: page.locator(f"[data-step={name}] > button").click()


def latest(category: str, tag: str) -> Act:
    def act(page: Page) -> None:
        rows = page.request.get(f"/api/records?instrument={tag}&category={category}").json()["records"]
        page.goto(f"/records/{rows[0]['id']}")

    return act


def sheet_with_a_fault(page: Page) -> None:
    begin(page, "LV-05")
    sheet(page, "1.4680;1.4682", "1.2104", "1.5x", "1.2515")
    page.wait_for_selector("[data-fault]")


def with_a_finding(page: Page) -> None:
    page.locator("#row-observations-setups-1-a-readings-0").fill("1.5233")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")


def checked_off(page: Page) -> None:
    page.goto("/bench/new/TS-03/tracker")
    page.get_by_role("button", name="Start reading").click()
    page.locator("[data-details]").click()
    page.get_by_role("dialog", name="Checked off").wait_for()


def columns(page: Page) -> None:
    page.goto("/bench")
    page.get_by_role("button", name="Load from a file").click()
    opened = page.get_by_role("dialog")
    opened.get_by_role("button", name="LV-02", exact=True).click()
    table = b"Stand\tp\tq\tfar p\tfar q\n1\t1234\t1111\t30\t30\n2\t1400\t1302\t5\t55\n"
    chosen = {"name": "book.txt", "mimeType": "text/plain", "buffer": table}
    opened.get_by_label("The file").set_input_files(chosen)  # type: ignore[arg-type]
    page.locator("[data-message=column-missing]").first.wait_for()


def set_up_step(name: str, then: Act | None = None) -> Act:
    def act(page: Page) -> None:
        page.locator(f"[data-step={name}]").click()
        page.wait_for_selector(f"[data-at-hand={name}][data-fresh=true]")
        if then:
            then(page)

    return act


def touched_and_tried(page: Page) -> None:
    page.locator("[data-field]").click(position={"x": 120, "y": 80})
    page.get_by_text("Try a move before").click()
    page.get_by_role("button", name="As advised").click()
    page.wait_for_selector("[data-then]")


def too_near(page: Page) -> None:
    page.get_by_text("Slope, material").click()
    page.locator("#feet").fill("0.2")
    page.wait_for_selector("[data-fault$='tripod.foot_spacing_m']")


def chosen(page: Page) -> None:
    page.get_by_role("button", name="TS-03").click()
    page.get_by_text("Legs, screws, where you stand").click()


def three_sights(page: Page) -> None:
    for i, point in enumerate(("QB-1", "PC-05", "QB-4")):
        if i:
            page.get_by_role("button", name="One more sight").click()
        page.locator("[data-pick-point] input").fill(point)
        shot = sights(7, [point])[0]
        for name, text in shot.items():
            page.locator(f"#shot-{i}-{name}").fill(text)
    page.wait_for_selector("[data-fresh=true] [data-finding]")
    page.get_by_text("Closing sight at the reference").click()


def back_from_service(page: Page) -> None:
    page.goto("/instruments/LV-09")
    page.get_by_role("button", name="Send to service").click()
    asked = page.get_by_role("dialog")
    asked.get_by_label("Where, and what for").fill("Tolvan workshop, yearly")
    asked.get_by_role("button", name="Send to service").click()
    page.get_by_role("button", name="Back from service").click()
    asked.get_by_label("What was done").wait_for()


def kit_in_detail(page: Page) -> None:
    page.locator("[data-fitness]").first.get_by_role("button").click()
    page.locator("[data-fitness] [data-budget]").first.wait_for()


def first_sight(page: Page) -> None:
    page.goto("/orientation")
    page.get_by_role("button", name="TS-03").click()
    page.get_by_role("radio", name="Free station").click()
    page.get_by_role("button", name="Start with the first sight").click()
    page.locator("#instrument-height").fill("1.550")


def planned(page: Page) -> None:
    page.goto("/bench/plan/TS-01")
    for name, text in (("0-distance", "96"), ("1-distance", "74"), ("1-height", "31")):
        page.locator(f"#target-{name}").fill(text)
    page.wait_for_selector("[data-plan='0']")


def two_faces(page: Page) -> None:
    page.goto("/bench/new/TS-01/two-face")
    page.get_by_role("radio", name="Quick").click()
    page.get_by_role("button", name="Start reading").click()
    page.get_by_label("Field sheet").wait_for()
    target = simulate("two-face", random.Random(8), {"pointings": 1, "targets": ((90.1, 100.0),), "closing": 0})
    for face in ("left", "right"):
        for circle, text in target["observations"]["targets"][0][face][0].items():
            page.locator(f"#row-observations-targets-0-{face}-0-{circle}").fill(str(text))
    page.wait_for_selector("[data-complete=true][data-fresh=true]")


def stored_how(page: Page) -> None:
    page.goto("/instruments/TS-01")
    page.get_by_text("Passport", exact=True).click()
    page.get_by_role("button", name="Change how it stores values").click()


def palette(page: Page) -> None:
    """Open the palette; its key works after the first screen is complete, and opens what is open no second time."""
    while not page.get_by_role("dialog", name="Find anything").get_by_role("option").count():
        page.keyboard.press("Control+k")
        page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")


def take_out(page: Page) -> None:
    page.goto("/instruments/LV-09")
    page.get_by_role("button", name="Take out").click()


def fleet_file(page: Page) -> None:
    page.goto("/fleet")
    page.get_by_role("button", name="File", exact=True).click()
    table = b"tag,maker,model,kind,serial,place\nLV-21,Ondine,Merrow,,4410,Yard shelf 8\n"
    chosen = {"name": "f.csv", "mimeType": "text/csv", "buffer": table}
    page.get_by_role("dialog").get_by_label("The table").set_input_files(chosen)  # type: ignore[arg-type]
    page.locator("[data-look]").wait_for()


PLACES: dict[str, tuple[str, list[View]]] = {
    "yard and fleet": (
        "Ines Calder",
        [
            ("yard", "/", "[data-instrument]"),
            ("note a knock", "/", dialog("Report what happened")),
            ("fleet", "/fleet", "[role=grid] [data-instrument]"),
            ("fleet as a file", fleet_file, "[data-look]"),
            ("instrument", "/instruments/LV-05", "[data-record]"),
            (
                "label",
                "/instruments/LV-09",
                lambda page: (page.get_by_text("Passport").click(), dialog("Print its label")(page)),
            ),
            ("service", "/instruments/LV-09", dialog("Send to service")),
            ("back from service", back_from_service, "[role=dialog]"),
            ("how it stores", stored_how, "dialog, [role=dialog], form"),
            ("compare", "/compare?tags=LV-02,LV-05,TA-01&of=two-peg", "[data-compared] svg"),
            ("palette", "/", palette),
        ],
    ),
    "bench and records": (
        "Tam Brandreth",
        [
            ("begin", "/bench/new/LV-05/two-peg", "[data-look]"),
            ("chooser", "/bench/new/TD-01", "[data-check]"),
            ("with a fault", sheet_with_a_fault, "[data-fault]"),
            ("with a finding", with_a_finding, "[data-finding]"),
            ("layout", press("Steps and method"), "[role=dialog]"),
            ("bench list", "/bench", "text=Go on"),
            ("its case", take_out, "[role=dialog]"),
            ("checked off", checked_off, "[role=dialog]"),
            ("which column is what", columns, "[data-readings]"),
            ("targets planned", planned, "[data-plan]"),
            ("both faces", two_faces, "[data-finding]"),
            ("rounds of directions", "/bench/new/TS-01/direction-rounds", press("Start reading")),
            ("pre-work check", "/bench/readiness/new/TS-01", "[data-proposed]"),
            ("in hand", press("Begin:"), "[data-step][data-state=now]"),
            ("leave it out", press("Leave out"), "[role=dialog]"),
            ("a round on record", latest("round", "TS-01"), "[aria-label='Checks included']"),
            ("bad finding", bad_record, step("real")),
            ("as found kept", bad_record, step("keep")),
            ("without it", bad_record, step("without")),
            ("affected work", bad_record, step("impact-review")),
            ("adjusting", bad_record, step("adjust")),
            ("amend", bad_record, dialog("Something is wrong here")),
        ],
    ),
    "set-up and points": (
        "Tam Brandreth",
        [
            ("choose", "/set-up", chosen),
            ("lay out", lambda page: begin_set_up(page, "plummet-first", level_type="plate"), "[data-at-hand]"),
            ("tripod with a fault", set_up_step("tripod", too_near), "[data-fault]"),
            ("tried first", lambda page: page.locator("#feet").fill(""), set_up_step("circular", touched_and_tried)),
            ("plate", set_up_step("plate"), lambda page: page.get_by_text("This vial").click()),
            ("half round", set_up_step("turn-round"), "[data-at-hand]"),
            ("direction and keeping", set_up_step("zero"), "[data-at-hand]"),
            ("recorded at once", press("Already set up: record it"), "#round-0"),
            ("new orientation", "/orientation", press("TS-03")),
            ("first sight", first_sight, "#shot-0-hz"),
            ("three sights", three_sights, "#closing-hz"),
            ("points", "/points", "[data-point=PC-01]"),
            ("forecast", "/forecast", "[data-budget=height]"),
            ("angles", "/angles", "#angle-start"),
        ],
    ),
    "plan, ledger and settings": (
        "Ines Calder",
        [
            ("what is due", "/plan", "[data-due]"),
            ("load levelled", press("Level the load"), "[data-morning]"),
            ("week by e-mail", "/plan", dialog("By e-mail")),
            ("calendar", "/plan/calendar", "[data-day]"),
            ("add to my calendar", "/plan/calendar", dialog("Add to my calendar")),
            ("jobs", "/plan/jobs", "[data-job]"),
            ("needs of a job", "/plan/jobs", dialog("Plan a job")),
            (
                "kit",
                "/plan/jobs",
                lambda page: (page.locator("[data-job] a").first.click(), page.locator("[data-take]").first.wait_for()),
            ),
            ("kit in detail", kit_in_detail, "[data-budget]"),
            ("away", "/plan/service", "h1"),
            ("rules", "/plan/rules", "[data-rule]"),
            ("ledger", "/ledger", "[data-record]"),
            ("settings", "/settings", "text=Save settings"),
            ("models", "/settings/models", "text=Save this model"),
            ("people", "/settings/people", "text=Add a person"),
            ("limits", "/settings/limits", "text=Set a limit"),
            ("safe keeping", "/settings/safe-keeping", "text=Back up now"),
            ("own sign-in", "/settings/you", "text=Change password"),
            ("join", "/join/nobody.at-all", "h1"),
        ],
    ),
}
INSTRUMENTS = (
    "half-and-whole",
    "two-faces",
    "round-bubble",
    "compensator",
    "steep-target",
    "electronic-level",
    "tracker",
    "staff",
)
STANDS = ("whole-set-up", "slope-and-wind", "four-screws", "slide-and-level")
SHOWN = "[data-bubble], [data-target], [data-hair], [data-job], [data-shown], [data-mark]"


DIALOG = "[role=dialog][data-state=open]"


def look_at(page: Page, view: View) -> None:
    name, there, then = view
    if page.locator(DIALOG).count() and isinstance(there, str):
        page.keyboard.press("Escape")
        page.locator(DIALOG).wait_for(state="detached")
    visit(page, there) if isinstance(there, str) else there(page)
    page.locator(then).first.wait_for(state="attached") if isinstance(then, str) else then(page)
    seen(page, name)


@pytest.mark.parametrize("size", [DESK, PHONE], ids=["desk", "phone"])
@pytest.mark.parametrize("place", PLACES)
def test_every_view_of_a_place(opens: Opens, place: str, size: tuple[int, int]) -> None:
    who, views = PLACES[place]
    page = opens(size, who, touch=size == PHONE)
    for view in views:
        look_at(page, view)


@pytest.mark.parametrize("size", [DESK, pytest.param(PHONE, marks=pytest.mark.long)], ids=["desk", "phone"])
def test_every_view_of_practice(opens: Opens, size: tuple[int, int]) -> None:
    page = opens(size, None, touch=size == PHONE, core=True)
    page.get_by_text("Who is at work?").wait_for()
    seen(page, "sign-in")
    page.get_by_role("button", name=re.compile("Tam Brandreth")).click()
    page.wait_for_selector("[data-instrument]")
    visit(page, "/practice")
    page.locator("[data-lesson]").first.wait_for(timeout=CORE_MS)
    seen(page, "practice")
    for path, there in (("people", "[data-person=jory]"), ("progress?person=jory", "[data-run]")):
        look_at(page, (path, f"/practice/{path}", there))
    lessons = page.request.get("/api/practice/progress?person=jory").json()["lessons"]
    run = next(each["recent"][0]["id"] for each in lessons if each["lesson"] == "whole-set-up")
    paths = [f"runs/{run}", *(f"instruments/{each}?n=3" for each in INSTRUMENTS), "faults/finding-the-fault?n=3"]
    for path in [*paths, *(f"{each}?n=3" for each in STANDS)]:
        visit(page, f"/practice/{path}")
        page.locator("[data-replay]" if path.startswith("runs") else SHOWN).first.wait_for(
            state="attached", timeout=CORE_MS
        )
        seen(page, path)
