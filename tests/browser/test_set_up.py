"""The Stand otherwise than led from end to end: a level, steps skipped, noted quickly, habits, files, bad input."""

from __future__ import annotations

import json
import random
import re
from pathlib import Path

import pytest
from playwright.sync_api import expect

from naveta_core.setup.mechanism import State, move_leg, see
from tests.core.setup.world import bearing_of

from .conftest import DESK, PHONE, Opens, switch_user, visit
from .set_up_crew import QUICK, WORLD, Crew, begin, fill_quick, wild
from .test_places import looked_at


@pytest.mark.parametrize("size", [DESK, PHONE])
def test_a_level_is_set_up_over_no_point(opens: Opens, size: tuple[int, int]) -> None:
    rng = random.Random(5)
    page = opens(size, touch=size == PHONE)
    visit(page, "/set-up")
    page.get_by_role("button", name="LV-02").click()
    page.get_by_role("button", name="Guide me").click()
    page.wait_for_selector("[data-at-hand][data-fresh=true]")
    crew = Crew(page, wild(rng), rng)
    while crew.step != "ring-round":
        assert len(crew.steps) < 30, crew.steps
        crew.take_step()
    assert see(WORLD, crew.state).in_ring
    crew.take_step()
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-finding=use]")).to_contain_text("the bubble stays in its ring when turned")


def test_what_was_passed_over_stays_open_in_the_record(opens: Opens) -> None:
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=final-check]").click()
    page.locator("#centring").fill("0.2")
    page.locator("[data-step=turn-round]").click()
    for i, figure in enumerate(("9", "9", "9", "9")):
        page.locator(f"#round-{i}").fill(figure)
    page.locator("[data-step=heights]").click()
    page.locator("#height-0").fill("1.5621")
    page.locator("[data-step=zero]").click()
    keep = page.get_by_role("button", name="Save this set-up")
    expect(page.get_by_text("Make the final check of bubble and mark")).to_be_visible()
    expect(keep).to_be_disabled()
    page.locator("[data-step=final-check]").click()
    page.get_by_label("I checked bubble and mark together").check()
    page.locator("[data-step=zero]").click()
    keep.click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-reason=not-confirmed]")).to_contain_text("feet pressed in")
    expect(page.locator("[data-reason=not-confirmed]")).to_contain_text("height measured twice")


def test_noted_in_half_a_minute_by_keyboard(opens: Opens) -> None:
    """Ten fields and a tick: 60 strokes, at two a second half a minute."""
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="TS-03").click()
    page.locator("#mark").fill("PC-03")
    page.get_by_role("button", name="Already set up: record it").click()
    strokes = 0
    for name, text in zip(QUICK, ("4", "-2", "-2", "6", "0.0", "1.603", "1.604"), strict=True):
        page.locator(f"#{name}").focus()
        page.keyboard.type(text)
        strokes += len(text) + 1
    page.get_by_label("I checked bubble and mark together").check()
    assert strokes < 60
    # Calculated to the last stroke: while it is not, the button comes and goes.
    page.wait_for_load_state("networkidle")
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    # (4 − −2)/2 = 3 and (−2 − 6)/2 = −4: 5.0″ out of plumb; with a compensator at work the limit is 30″.
    expect(page.locator("[data-finding=use]")).to_contain_text("axis 5.0″ out of plumb, 0.0 mm off the mark")


def test_a_way_that_cannot_work_says_so_and_bad_input_is_named(opens: Opens) -> None:
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="Guide me").click()
    expect(page.get_by_text("Choose the instrument first.")).to_be_visible()
    page.get_by_role("button", name="LV-02").click()
    expect(page.locator("[data-method=plummet-first]")).to_be_disabled()
    expect(page.locator("[data-method=plummet-first]")).to_contain_text("A level is not set up over a mark.")
    page.get_by_role("button", name="TS-03").click()
    page.get_by_role("button", name="Already set up: record it").click()
    expect(page.get_by_text("Enter the point, or choose free station.")).to_be_visible()
    page.locator("#mark").fill("PC-14")
    page.get_by_role("button", name="Already set up: record it").click()
    page.locator("#height-0").fill("1562")
    expect(page.locator("[data-fault='observations.height.readings[0]']")).to_contain_text("units are metres")
    page.locator("#height-0").fill("1562 mm")
    expect(page.locator("[data-fault='observations.height.readings[0]']")).to_have_count(0)
    page.reload()
    expect(page.locator("#height-0")).to_have_value("1562 mm")


def test_every_view_of_the_stand(opens: Opens) -> None:
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="TS-03").click()
    page.get_by_text("Legs, screws, where you stand").click()
    looked_at(page, "choose")
    begin(page, "plummet-first", level_type="plate")
    looked_at(page, "lay out")
    page.locator("[data-step=tripod]").click()
    page.get_by_text("Slope, material").click()
    page.locator("#feet").fill("0.2")
    page.wait_for_selector("[data-fault$='tripod.foot_spacing_m']")
    looked_at(page, "tripod with a fault")
    page.locator("#feet").fill("")
    page.locator("[data-step=circular]").click()
    page.locator("[data-field]").click(position={"x": 120, "y": 80})
    page.get_by_text("Try a move before").click()
    page.get_by_role("button", name="As advised").click()
    page.wait_for_selector("[data-then]")
    looked_at(page, "circular bubble, tried")
    page.locator("[data-step=plate]").click()
    page.get_by_text("This vial").click()
    looked_at(page, "plate")
    page.locator("[data-step=turn-round]").click()
    looked_at(page, "half round")
    page.locator("[data-step=zero]").click()
    looked_at(page, "direction and keeping")
    page.get_by_role("button", name="Already set up: record it").click()
    looked_at(page, "quick")


def test_a_move_tried_first_does_what_was_foretold(opens: Opens) -> None:
    """The crew says the bubble, tries the advised move on the page, makes it in the world: it ends where it was drawn."""
    rng = random.Random(9)
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=circular]").click()
    crew = Crew(page, wild(rng), rng)
    crew.state = turn_level(crew)
    crew.enter_bubble()
    page.get_by_text("Try a move before").click()
    foretold = page.locator("[data-foretold]")
    expect(foretold).to_contain_text("The level stays as it is.")
    page.get_by_role("button", name="As advised").click()
    expect(foretold).to_contain_text("The bubble will be in its ring.")
    expect(foretold).to_contain_text("The plummet does not move.")
    for leg, mm in crew.advice()["legs"].items():
        crew.state = move_leg(WORLD, crew.state, leg, mm)
    assert see(WORLD, crew.state).in_ring
    page.get_by_role("button", name="Reset").click()
    page.get_by_role("button", name="Leg A more").click()
    expect(page.locator("[data-move=A]")).to_contain_text("+1.0")


def turn_level(crew: Crew) -> State:
    """The wild tripod with its bubble brought off the wall: legs moved until it shows."""
    state = crew.state
    for _ in range(400):
        seen = see(WORLD, state)
        if not seen.at_wall:
            return state
        near = min("ABC", key=lambda leg: abs((bearing_of(state, leg) - seen.bubble_bearing_deg + 180) % 360 - 180))
        state = move_leg(WORLD, state, near, -0.5)
    raise AssertionError("it never came off the wall")


def test_the_place_is_minded(opens: Opens) -> None:
    page = opens()
    begin(page, "plummet-first")
    page.get_by_role("radio", name="Asphalt").click()
    page.get_by_role("radio", name="Strong wind").click()
    page.locator("#warm").fill("31")
    page.get_by_role("button", name=re.compile("^Done")).click()
    expect(page.locator("[data-hint=hot-asphalt]")).to_contain_text("Hot asphalt keeps yielding")
    expect(page.locator("[data-hint=low-in-wind]")).to_be_visible()
    page.locator("#feet").fill("0.3")
    expect(page.locator("[data-fault$='tripod.foot_spacing_m']")).to_contain_text("at least 0.4")
    page.locator("#feet").fill("1.1")
    expect(page.locator("[data-fault]")).to_have_count(0)
    # A leg that has nothing left to be shortened: the other way is offered, and said.
    page.get_by_text("Slope, material").click()
    for leg in "ABC":
        page.locator(f"#shorten_mm-{leg}").fill("0")
    page.locator("[data-step=circular]").click()
    page.locator("[data-field]").click(position={"x": 115, "y": 70})
    expect(page.locator("[data-headline]")).to_contain_text("Raise leg")
    expect(page.get_by_text("The usual leg has too little travel left")).to_be_visible()


def test_a_trainee_stores_the_order_and_leaves_it_for_the_chief(opens: Opens) -> None:
    page = opens(who="Jory Pell")
    begin(page, "plummet-first")
    expect(page.locator("[data-step=plate]")).to_be_disabled()
    crew = Crew(page, wild(random.Random(3)), random.Random(3))
    for step in ("lay-out", "tripod", "mount", "laser-on"):
        assert crew.step == step
        crew.press("^Done")
    # Near the mark it goes on only once the plummet is near.
    expect(page.get_by_text("Strict order: this first")).to_be_visible()
    page.get_by_role("button", name="On the mark", exact=True).click()
    crew.press("^Next")
    assert crew.step == "press-feet"
    page.get_by_role("button", name="Already set up: record it").click()
    fill_quick(page)
    expect(page.get_by_role("button", name="Save this set-up")).to_be_disabled()
    page.get_by_role("button", name="Leave it for my crew chief").click()
    switch_user(page)
    page.get_by_role("button", name="Tam Brandreth").click()
    page.wait_for_selector("[data-instrument], h1")
    visit(page, "/set-up")
    expect(page.get_by_text("Left by jory for you to save.")).to_be_visible()
    page.get_by_role("link", name="Go on").first.click()
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    record = page.request.get(f"/api/records/{page.url.rsplit('/', 1)[1]}").json()
    assert (record["observed_by"], record["entered_by"]) == ("Jory Pell", "Tam Brandreth")


def test_a_vials_rest_is_known_the_next_time_and_a_file_opens_again(opens: Opens, tmp_path: Path) -> None:
    """2 and 1.4 divisions, turned 1 and 1.8: the bubble rests at (1.5 + 1.6)/2 = 1.55, said as +1.6."""
    page = opens()
    begin(page, "plummet-first", tag="TD-01", level_type="plate")
    page.get_by_role("button", name="Already set up: record it").click()
    fill_quick(page)
    for i, text in enumerate(("2", "1.4", "1", "1.8")):
        page.locator(f"#round-{i}").fill(text)
    page.locator("#sight").fill("12")
    expect(page.locator("[data-complete=true]")).to_contain_text("With sights of 12 m, centring adds")
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    with page.expect_download() as kept:
        page.get_by_role("link", name="Document").click()
    file = tmp_path / "set-up.json"
    kept.value.save_as(file)
    begin(page, "plummet-first", tag="TD-01", level_type="plate")
    page.locator("[data-step=plate]").click()
    expect(page.locator("[data-hint=rest-known]")).to_contain_text("Reversing point of this level vial: +1.6 div")
    visit(page, "/set-up")
    page.get_by_role("button", name="Load from a file").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="TD-01").click()
    dialog.locator("input[type=file]").set_input_files(file)
    page.wait_for_url(re.compile("/set-up/"))
    expect(page.locator("#round-3")).to_have_value("1.8")
    expect(page.locator("#sight")).to_have_value("12")
    broken = tmp_path / "broken.json"
    broken.write_text(json.dumps({"kind": "set-up", "observations": {"method": "upside-down"}}))
    visit(page, "/set-up")
    page.get_by_role("button", name="Load from a file").click()
    dialog.get_by_role("button", name="TD-01").click()
    dialog.locator("input[type=file]").set_input_files(broken)
    expect(dialog.locator("[data-fault='observations.method']")).to_contain_text("upside-down")


def test_the_firms_way_is_offered_first(opens: Opens) -> None:
    ines = opens(who="Ines Calder")
    visit(ines, "/set-up")
    ines.get_by_role("button", name="TS-03").click()
    ines.locator("[data-method=level-first]").click()
    ines.get_by_role("button", name="Make this the firm's method").click()
    expect(ines.locator("[data-method=level-first]")).to_contain_text("the firm's method")
    tam = opens()
    visit(tam, "/set-up")
    tam.get_by_role("button", name="TS-03").click()
    expect(tam.locator("[data-method=level-first]")).to_have_attribute("aria-checked", "true")
    ines.get_by_role("button", name="Remove as firm's method").click()
    expect(ines.get_by_role("button", name="Make this the firm's method")).to_be_visible()


def test_a_theodolite_without_an_electronic_level_is_not_offered_one(opens: Opens) -> None:
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="TD-01").click()
    expect(page.get_by_text("No electronic level is stated for this instrument.")).to_be_visible()
    expect(page.get_by_role("radio", name="Electronic level")).to_have_count(0)
    expect(page.get_by_role("radio", name="One plate vial")).to_have_attribute("data-state", "checked")


def test_places_may_be_typed_and_what_cannot_be_read_is_said(opens: Opens) -> None:
    page = opens()
    begin(page, "plummet-first")
    page.locator("[data-step=circular]").click()
    page.get_by_text("Type: where the bubble is").click()
    page.locator("#aside-right").fill("9")
    page.locator("#aside-away").fill("0")
    tell = page.get_by_role("button", name="Enter", exact=True)
    tell.click()
    expect(page.locator("[data-fault$='bubble_aside.right']")).to_contain_text("-5 to 5")
    page.locator("#aside-right").fill("2.5")
    tell.click()
    expect(page.locator("[data-fault]")).to_have_count(0)
    expect(page.locator("[data-headline]")).to_contain_text("Lower leg B slowly")
    page.locator("[data-step=slide]").click()
    page.get_by_text("Type: where it points").click()
    page.locator("#aside-right").fill("3")
    page.locator("#aside-away").fill("-4")
    tell.click()
    expect(page.locator("[data-headline]")).to_contain_text("by 5.0 mm without turning it")
    page.get_by_text("Try a move before").click()
    for _ in range(3):
        page.get_by_label("To your right less").click()
    for _ in range(4):
        page.get_by_label("Away from you more").click()
    expect(page.locator("[data-foretold]")).to_contain_text("It will then be 0.0 mm off the mark.")
    for _ in range(30):
        page.get_by_label("Away from you more").click()
    expect(page.get_by_text("Not possible")).to_contain_text("slides 20.0 mm")


def test_a_chief_takes_the_strict_order_off_and_a_wrong_figure_is_found_at_the_end(opens: Opens) -> None:
    page = opens()
    visit(page, "/set-up")
    page.get_by_role("button", name="TS-03").click()
    page.locator("#mark").fill("PC-41")
    page.locator("[data-near=PC-14]").click()
    expect(page.locator("#mark")).to_have_value("PC-14")
    page.get_by_text("Legs, screws, where you stand").click()
    page.get_by_label("In strict order").check()
    page.get_by_role("button", name="Guide me").click()
    expect(page.locator("[data-step=zero]")).to_be_disabled()
    page.get_by_role("button", name="Any order").click()
    page.locator("[data-step=plate]").click()
    page.locator("#level-along").fill("12..5")
    page.get_by_role("button", name="Enter", exact=True).click()
    expect(page.locator("[data-fault$='saw.level.along']")).to_contain_text("12..5")
    page.locator("[data-step=zero]").click()
    keep = page.locator("[data-complete=false]")
    expect(keep).to_contain_text("instrument height")
    expect(keep).to_contain_text("12..5")


def test_a_set_up_with_something_wrong_is_opened_again_and_one_that_waits_is_taken_back(opens: Opens) -> None:
    page = opens(away=True)
    visit(page, "/set-up")
    page.get_by_role("button", name="TS-01").click()
    page.locator("#mark").fill("PC-07")
    page.get_by_role("button", name="Already set up: record it").click()
    fill_quick(page)
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    first = page.url.rsplit("/", 1)[1]
    page.get_by_role("button", name="Something is wrong here").click()
    page.get_by_label("What is wrong").fill("height read on the wrong side")
    page.get_by_role("button", name="Correct a reading").click()
    page.wait_for_url(re.compile("/set-up/"))
    expect(page.locator("#height-1")).to_have_value("1.604")
    page.locator("#height-1").fill("1.605")
    page.context.set_offline(True)
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/bench"))
    page.get_by_role("button", name="Undo").click()
    page.wait_for_url(re.compile("/set-up/"))
    expect(page.get_by_text("Offline, and the calculation is not yet stored")).to_be_visible()
    page.context.set_offline(False)
    expect(page.locator("#height-1")).to_have_value("1.605")
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(lambda url: "/records/" in url and first not in url)
    assert page.request.get(f"/api/records/{first}").json()["amended_why"] == "height read on the wrong side"
