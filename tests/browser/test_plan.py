"""The plan as its users walk it: the morning, the knock at noon, the service, a rule and a job, on wide and small screens."""

from __future__ import annotations

from playwright.sync_api import expect

from .conftest import PHONE, Fresh, Opens
from .test_places import looked_at, seen


def test_every_page_of_the_plan(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.get_by_role("navigation", name="Places").get_by_role("link", name="Plan").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("checks are due")
    expect(page.get_by_role("region", name="Now").locator("[data-due=LV-07]")).to_contain_text("excavator")
    looked_at(page, "what is due")
    page.get_by_role("navigation", name="Plan").get_by_role("link", name="Calendar").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("March 2027")
    expect(page.locator("[data-day='2027-03-04']")).to_contain_text("East abutment pile heads")
    expect(page.locator("[aria-current=date]")).to_have_attribute("data-day", "2027-03-02")
    looked_at(page, "calendar")
    page.get_by_role("button", name="Add to my calendar").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Make an address").click()
    address = dialog.get_by_label("Address", exact=True).input_value()
    assert page.request.get(address).text().startswith("BEGIN:VCALENDAR")
    looked_at(page, "add to my calendar")
    dialog.get_by_role("button", name="Revoke: All instruments").click()
    expect(dialog.get_by_role("button", name="Revoke: All instruments")).to_have_count(0)
    assert page.request.get(address).status == 404
    page.keyboard.press("Escape")
    page.get_by_role("button", name="Month after").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("April 2027")
    page.get_by_role("navigation", name="Plan").get_by_role("link", name="Jobs").click()
    expect(page.locator("[data-job]")).to_have_count(3)
    looked_at(page, "jobs")
    page.get_by_role("navigation", name="Plan").get_by_role("link", name="Rules").click()
    expect(page.locator("[data-rule=two-peg]")).to_contain_text("30 days")
    looked_at(page, "rules")


def test_a_rule_is_tried_before_it_is_set_and_what_cannot_be_is_said(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/plan/rules")
    page.get_by_role("button", name="Change: Tape check").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("A pass holds, days").fill("0")
    dialog.get_by_role("button", name="See what it would change").click()
    expect(dialog.locator("[data-fault=every_days]")).to_contain_text("1")
    dialog.get_by_label("A pass holds, days").fill("60")
    dialog.get_by_role("button", name="See what it would change").click()
    expect(dialog.get_by_role("status")).to_contain_text("Due now: 0. With this rule: 1.")
    expect(dialog.get_by_role("status")).to_contain_text("TA-01")
    dialog.get_by_role("button", name="Save this rule").click()
    expect(page.locator("[data-rule=tape]")).to_contain_text("60 days")
    expect(page.locator("[data-rule=tape]")).to_contain_text("Ines Calder")
    page.get_by_role("button", name="Change: Tape check").click()
    page.get_by_role("button", name="Remove this rule").click()
    expect(page.locator("[data-rule=tape]")).to_contain_text("default rule")


def test_a_job_is_planned_and_its_checks_come_due_before_it(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/plan/jobs")
    page.get_by_role("button", name="Plan a job").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Name of the job").fill("Sluice gate")
    dialog.get_by_label("First day").fill("2027-05-20")
    dialog.get_by_label("Last day").fill("2027-05-10")
    dialog.get_by_label("A large job").check()
    dialog.get_by_role("button", name="Plan it").click()
    expect(dialog.locator("[data-fault=ends_on]")).to_contain_text("20 May 2027")
    dialog.get_by_label("Last day").fill("2027-05-24")
    dialog.get_by_role("button", name="Plan it").click()
    expect(page.locator("[data-job='Sluice gate']")).to_contain_text(
        "20 May 2027 to 24 May 2027. All crews, large job."
    )
    page.goto("/plan?crew=all&days=91")
    expect(page.get_by_role("region", name="Weeks")).to_contain_text("Sluice gate")
    page.goto("/plan/jobs")
    page.get_by_role("button", name="Change: Sluice gate").click()
    page.get_by_role("button", name="Take it off the plan").click()
    expect(page.locator("[data-job='Sluice gate']")).to_have_count(0)


def test_a_check_is_skipped_with_a_reason_and_that_is_taken_back(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/plan?crew=all")
    page.get_by_role("button", name="Skip: Two-peg test of LV-03").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Skip it until then").click()
    expect(dialog.get_by_text("Enter a few words")).to_be_visible()
    dialog.get_by_label("Why").fill("On the shelf until the wall line.")
    dialog.get_by_role("button", name="Skip it until then").click()
    skipped = page.get_by_text("Ines Calder: On the shelf until the wall line.")
    expect(skipped).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(skipped).to_have_count(0)
    now = page.get_by_role("region", name="Now")
    expect(now.locator("[data-due=LV-07]").get_by_role("button", name="Skip")).to_have_count(0)


def test_the_morning_on_a_phone_a_reason_then_out_a_knock_at_noon_and_in_at_five(opens: Opens, fresh: Fresh) -> None:
    tag = fresh("Merrow")
    page = opens(PHONE, touch=True)
    page.goto(f"/instruments/{tag}")
    page.get_by_role("button", name="Take out").tap()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Never checked here")
    dialog.get_by_role("button", name="Take out").tap()
    expect(dialog.get_by_text("Enter a few words")).to_be_visible()
    dialog.get_by_label("Why").fill("Its test is made at the creek.")
    seen(page, "a reason to take it out")
    dialog.get_by_role("button", name="Take out").tap()
    expect(page.get_by_role("button", name="Hand in")).to_be_visible()
    # Three touches: what happened, which, report.
    page.get_by_role("button", name="Report what happened").tap()
    seen(page, "what happened")
    page.get_by_role("radio", name="Soaked").tap()
    page.get_by_role("button", name="Report it").tap()
    expect(page.locator("[data-standing]")).to_contain_text("Soaked on 2 Mar 2027")
    page.get_by_role("button", name="Hand in").tap()
    dialog.get_by_role("button", name="Hand in").tap()
    expect(page.get_by_role("button", name="Take out")).to_be_visible()


def test_a_label_is_printed_for_one_and_for_several(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/instruments/LV-09")
    page.get_by_text("Passport").click()
    page.get_by_role("button", name="Print its label").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("First free label").fill("24")
    seen(page, "a label")
    found = dialog.get_by_role("link", name="Open the labels").get_attribute("href") or ""
    assert page.request.get(found).body().startswith(b"%PDF")
    assert "first=24" in found
    page.goto("/fleet?sort=tag")
    for tag in ("LV-02", "LV-03"):
        page.locator(f"[data-instrument={tag}]").focus()
        page.keyboard.press("Space")
    page.get_by_role("button", name="Labels").click()
    dialog.get_by_label("Printed on").select_option("single")
    found = dialog.get_by_role("link", name="Open the labels").get_attribute("href") or ""
    assert page.request.get(found).body().startswith(b"%PDF")
    assert "LV-02%2CLV-03" in found


def test_to_service_and_back(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    page.goto("/instruments/LV-09")
    page.get_by_role("button", name="Send to service").click()
    page.get_by_role("dialog").get_by_label("Where, and what for").fill("Tolvan workshop: yearly.")
    page.get_by_role("dialog").get_by_role("button", name="Send to service").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("away")
    expect(page.locator("[data-standing]")).to_contain_text("At service since 2 Mar 2027: Tolvan workshop: yearly.")
    expect(page.get_by_role("button", name="Take out")).to_have_count(0)
    page.get_by_role("button", name="Back from service").click()
    page.get_by_role("dialog").get_by_label("What was done").fill("Cleaned.")
    page.get_by_role("dialog").get_by_role("button", name="It is back").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("check first")
    expect(page.locator("[data-standing]")).to_contain_text("Back from service on 2 Mar 2027")
    page.get_by_role("button", name="Undo").click()
