"""The line of sight walked: targets planned, faces put right, values stored and proved, rounds of directions; and the pre-work check."""

from __future__ import annotations

import random
import re
from typing import Any

from playwright.sync_api import Page, expect

from naveta_sim import simulate

from .conftest import PHONE, TABLET, Fresh, Opens, condition, finding, sheet, visit
from .test_bench import field, fill
from .test_places import looked_at

Data = dict[str, Any]
ENTRY = re.compile(r"/bench/[0-9a-f-]{36}")
ROUND = re.compile(r"/bench/readiness/[0-9a-f-]{36}")


def start(page: Page, on_for: str = "12") -> None:
    page.get_by_role("button", name="Start reading").click()
    page.wait_for_url(ENTRY)
    page.get_by_label("Field sheet").wait_for()  # the address comes before the sheet
    if page.locator("[data-circumstance=minutes_on]").count():
        condition(page, "minutes_on", on_for)


def open_more(page: Page, faces: tuple[str, ...]) -> None:
    for face in faces:
        for i in range(2):
            last = field(page, f"observations.targets[0].{face}[{i}].v")
            last.fill("90")  # an empty row is used first
            last.press(";")


def take(page: Page, kind: str, seed: int, more: tuple[str, ...] = (), **truth: Any) -> None:
    """The check at hand of a round, from its Begin to the round again. more: faces that get two pointings more."""
    page.locator(f"[data-step={kind}]").get_by_role("link", name="Begin").click()
    start(page)
    open_more(page, more)
    fill(page, simulate(kind, random.Random(seed), truth))
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(ROUND)
    expect(page.locator(f"[data-step={kind}][data-state=done]")).to_be_visible()


def test_a_round_is_broken_off_taken_up_adjusted_and_ends_in_go(opens: Opens, fresh: Fresh) -> None:
    page = opens(TABLET, who="Ines Calder", touch=True)
    tag = fresh("Tessaly")
    visit(page, f"/bench/new/{tag}")
    page.get_by_role("link", name="Pre-work check").click()
    page.get_by_role("radio", name="5", exact=True).click()
    expect(page.locator("[data-taken=true]")).to_have_count(3)
    page.get_by_role("radio", name="10", exact=True).click()
    expect(page.locator("[data-taken=true]")).to_have_count(4)
    page.get_by_role("button", name="Begin: 4 checks, about 7 minutes").click()
    page.wait_for_url(ROUND)
    take(page, "circular-vial", 1, headings=(0, 180), noise=0.2)
    expect(page.get_by_role("heading", level=1)).to_contain_text("1 of 4 done")
    # Broken off, and taken up from the bench after the page was loaded again.
    page.goto("/bench")
    row = page.get_by_label("Open checks").locator("li", has_text=tag)
    expect(row).to_contain_text("1 of 4 checks done")
    row.get_by_role("link", name="Go on").click()
    page.wait_for_url(ROUND)
    take(page, "dual-axis-level", 2, headings=(0, 180), index_arcsec=(0.5, -0.5), noise=0.4)
    page.locator("[data-step=plummet]").get_by_role("button", name="Leave out").click()
    page.get_by_role("button", name="No time").click()
    expect(page.locator("[data-step=plummet]")).to_contain_text("Left out: no time.")
    # Two faces are bad: adjusted from the round, which takes up what was left.
    # One pointing a face would not prove c to half its limit, and nothing is stored from it: `;` opens two more.
    quick = {"pointings": 3, "targets": ((90.1, 100.0),), "closing": 0, "noise": 0.3}
    take(page, "two-face", 3, more=("left", "right"), c=40.0, i=0.0, **quick)
    expect(page.locator("[aria-label='Outcome'] [data-finding=adjust]")).to_contain_text(
        "Adjust first: two-face check."
    )
    page.get_by_role("link", name="Open it").click()
    page.locator("#reads-now").fill("2.0")
    page.locator("#reads-now-1").fill("-1.0")
    page.get_by_role("button", name="Note", exact=True).click()
    expect(page.locator("[aria-label='Readings since the first turn'] li")).to_contain_text(
        re.compile(r"c from \+2\.0″ to −3\d\.\d″\. It stores the correction")
    )
    page.get_by_role("button", name="Test again, as left").click()
    page.wait_for_url(ENTRY)
    page.get_by_label("Field sheet").wait_for()
    open_more(page, ("left", "right"))
    fill(page, simulate("two-face", random.Random(4), {"c": 0.5, "i": 0.0, **quick}))
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.locator("[data-strip]").tap()  # while typing the finding is one strip
    expect(page.locator("[data-reason=stored-and-proved]")).to_contain_text("stored correctly")
    page.get_by_role("button", name="Save as left").click()
    page.wait_for_url(ROUND)
    expect(page.locator("[data-step=two-face]")).to_contain_text("As left.")
    expect(page.locator("[aria-label='Outcome'] [data-finding=watch]")).to_contain_text("plummet not checked")
    page.get_by_role("button", name="Save this pre-work check").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.get_by_label("Checks included").locator("[data-check=two-face]")).to_contain_text("as left")
    record = page.request.get(f"/api{page.url[page.url.index('/records/') :]}").json()
    assert (record["category"], record["grade"]) == ("round", "watch")
    assert record["result"]["result"]["outcome"] == "go-with-care"


def test_targets_are_planned_and_the_full_test_begins_with_them(opens: Opens, fresh: Fresh) -> None:
    page = opens(PHONE, who="Tam Brandreth", touch=True)
    tag = fresh("Tessaly")
    visit(page, f"/bench/new/{tag}/two-face")
    page.get_by_role("link", name="Plan targets first").click()
    page.locator("#target-0-distance").fill("96")
    page.get_by_label("What it is").nth(1).fill("Chapel spire")
    page.locator("#target-1-distance").fill("74x")
    expect(page.locator("#target-1-distance-fault")).to_contain_text("74x. Enter a number")
    page.locator("#target-1-distance").fill("74")
    page.locator("#target-1-height").fill("31")
    expect(page.locator("[data-plan='0']")).to_contain_text("Use target 1 and Chapel spire: five pointings a face")
    expect(page.locator("[data-drawing=side] [data-taken]")).to_have_count(2)
    page.get_by_role("radio", name="1", exact=True).click()
    expect(page.get_by_label("Result")).to_contain_text("pointings a face.")
    page.get_by_role("button", name="Begin with").click()
    page.wait_for_url(ENTRY)
    expect(field(page, "observations.targets[1].distance_m")).to_have_value("74")


def test_pointings_typed_one_face_after_the_other_are_sorted_in_one_touch(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Tam Brandreth")
    visit(page, f"/bench/new/{fresh('Tessaly')}/two-face")
    page.get_by_role("radio", name="Quick").click()
    start(page)
    document = simulate(
        "two-face", random.Random(8), {"pointings": 1, "targets": ((90.1, 100.0),), "closing": 0, "noise": 0.3}
    )
    (target,) = document["observations"]["targets"]
    for face, other in (("left", "right"), ("right", "left")):
        for name in ("hz", "v"):
            field(page, f"observations.targets[0].{face}[0].{name}").fill(target[other][0][name])
    page.get_by_role("button", name="First target: swap the faces.").click()
    expect(field(page, "observations.targets[0].left[0].v")).to_have_value(target["left"][0]["v"])
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.get_by_role("button", name="Undo").click()
    expect(field(page, "observations.targets[0].left[0].v")).to_have_value(target["right"][0]["v"])


def test_rounds_of_directions_and_an_accuracy_full_test_are_walked(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Tam Brandreth")
    tag = fresh("Tessaly")
    for kind, truth in (("direction-rounds", {"c": 2.0, "noise": 0.6}), ("direction-accuracy", {"arcsec": 2.0})):
        visit(page, f"/bench/new/{tag}/{kind}")
        start(page)
        document = simulate(kind, random.Random(5), truth)
        fill(page, document)
        finding(page, "use")
        expect(page.locator("[data-drawing=deviations]")).to_be_visible()
        page.get_by_role("button", name="Save as found").click()
        page.wait_for_url(re.compile("/records/"))
    expect(page.locator("[data-reason=not-worse-than-stated]")).to_contain_text("3″ stated")
    assert page.request.get(f"/api/instruments/{tag}").json()["standing"]["state"] == "check-first", (
        "they decide nothing"
    )
    visit(page, f"/bench/new/{tag}")
    expect(page.locator("[data-check=direction-accuracy]")).to_contain_text("When needed")


def test_a_second_run_in_the_sheet_is_a_repeat_of_its_own(opens: Opens, fresh: Fresh) -> None:
    page = opens(who="Ines Calder")
    visit(page, f"/bench/new/{fresh('Merrow')}/circular-vial")
    page.get_by_role("radio", name="Two headings, 180° apart").click()
    start(page)
    rng = random.Random(6)
    fill(page, simulate("circular-vial", rng, {"error_mm": (2.0, 0.0), "headings": (0, 180), "noise": 0.3}))
    page.get_by_role("button", name="Repeat it").click()
    expect(page.get_by_role("heading", name="Repeat 2")).to_be_visible()
    again = simulate("circular-vial", rng, {"error_mm": (2.0, 0.0), "headings": (0, 180), "noise": 0.3})
    for i, row in enumerate(again["observations"]["readings"]):
        for name in ("x_mm", "y_mm"):
            field(page, f"observations.readings[{i + 2}].{name}").fill(row[name])
    finding(page, "adjust")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    record = page.request.get(f"/api{page.url[page.url.index('/records/') :]}").json()
    assert [reading.get("repeat") for reading in record["document"]["observations"]["readings"]] == [None, None, 2, 2]


def test_a_level_goes_through_its_two_peg_test_within_the_round(opens: Opens, level: str) -> None:
    page = opens(who="Tam Brandreth")
    visit(page, f"/instruments/{level}")
    page.get_by_role("link", name="Pre-work check").click()
    page.get_by_role("radio", name="15").click()
    page.get_by_role("button", name="Begin: 3 checks, about 15 minutes").click()
    page.wait_for_url(ROUND)
    for kind, why in (("circular-vial", "Equipment not available"), ("compensator-function", "Weather")):
        page.locator(f"[data-step={kind}]").get_by_role("button", name="Leave out").click()
        page.get_by_role("button", name=why).click()
    page.locator("[data-step=compensator-function]").get_by_role("button", name="Do it after all").click()
    expect(page.locator("[data-step=compensator-function][data-state=now]")).to_be_visible()
    page.locator("[data-step=compensator-function]").get_by_role("button", name="Leave out").click()
    page.get_by_label("Another reason").fill("done yesterday")
    page.get_by_role("dialog").get_by_role("button", name="Leave out").click()
    page.locator("[data-step=two-peg]").get_by_role("link", name="Begin").click()
    page.get_by_role("radio", name="Stays in the ring").click()
    page.get_by_role("radio", name="Returns").click()
    page.get_by_role("button", name="Start reading").click()
    expect(page.get_by_role("link", name="Back to the pre-work check")).to_be_visible()
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(
        page,
        "1.6412;1.6410;1.6413;1.6411",
        "1.3907;1.3905;1.3906;1.3906",
        "1.5730;1.5733;1.5731;1.5731",
        "1.3229;1.3228;1.3229;1.3227",
    )
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(ROUND)
    expect(page.locator("[data-step=two-peg][data-state=done]")).to_be_visible()
    expect(page.locator("[aria-label='Outcome'] [data-finding]")).to_contain_text("Go")
    expect(page.locator("[data-step=compensator-function]")).to_contain_text("Left out: done yesterday.")


def test_every_view_of_the_round_and_the_plan(opens: Opens) -> None:
    """Nothing wider than the screen, nothing axe finds: planning, a round begun and in hand, rounds of directions, how it stores."""
    page = opens(who="Ines Calder")
    visit(page, "/bench/plan/TS-01")
    page.locator("#target-0-distance").fill("96")
    page.locator("#target-1-distance").fill("74")
    page.locator("#target-1-height").fill("31")
    page.wait_for_selector("[data-plan='0']")
    looked_at(page, "plan")
    visit(page, "/bench/readiness/new/TS-01")
    page.wait_for_selector("[data-proposed]")
    looked_at(page, "round begun")
    page.get_by_role("button", name="Begin:").click()
    page.wait_for_selector("[data-step][data-state=now]")
    looked_at(page, "round in hand")
    page.get_by_role("button", name="Leave out").first.click()
    looked_at(page, "leave it out")
    page.get_by_role("button", name="No time").click()
    page.get_by_role("button", name="Discard this check").click()
    page.wait_for_url(re.compile("/bench$"))
    visit(page, "/bench/new/TS-01/direction-rounds")
    start(page)
    looked_at(page, "rounds of directions")
    visit(page, "/instruments/TS-01")
    page.get_by_role("link", name="Pre-work check", exact=True).last.click()
    record = page.request.get("/api/records?instrument=TS-01&category=round").json()["records"][0]
    visit(page, f"/records/{record['id']}")
    page.get_by_label("Checks included").wait_for()
    looked_at(page, "round on record")
    visit(page, "/instruments/TS-01")
    page.get_by_text("Passport", exact=True).click()
    page.get_by_role("button", name="Change how it stores values").click()
    looked_at(page, "how it stores")
