"""Readings first: whole checks typed at a desk without one scroll, nothing clipped or covered on a phone."""

from __future__ import annotations

import random
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from naveta_sim import simulate

from .conftest import COVERED, PHONE, TABLET, Fresh, Opens, condition, field
from .set_up_crew import begin

CLIPPED = """() => [...document.querySelectorAll("[aria-label='Field sheet'] input.cell")]
  .filter((each) => each.value && each.scrollWidth > each.clientWidth).map((each) => `${each.id}: ${each.value}`)"""


def begun(page: Page, tag: str, kind: str, method: str | None = None) -> None:
    page.goto(f"/bench/new/{tag}/{kind}")
    if method:
        page.get_by_role("radio", name=re.compile(method)).click()
    page.get_by_role("button", name="Start reading").click()
    page.wait_for_selector("[aria-label='Field sheet'] input")


def typed(page: Page, cells: list[tuple[str, str]]) -> None:
    """Each cell is filled where it stands: the page has not moved and nothing lies over it."""
    for path, text in cells:
        field(page, path).focus()
        assert page.evaluate(COVERED) == [0, True, True], path
        field(page, path).fill(text)
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    assert page.evaluate("window.scrollY") == 0
    expect(page.get_by_role("button", name=re.compile("^Save as"))).to_be_in_viewport()


def leaves(found: Any, path: str) -> list[tuple[str, str]]:
    if isinstance(found, dict):
        return [leaf for name, each in found.items() for leaf in leaves(each, f"{path}.{name}")]
    if isinstance(found, list):
        return [leaf for i, each in enumerate(found) for leaf in leaves(each, f"{path}[{i}]")]
    return [(path, str(found))]


def test_a_full_two_face_check_without_one_scroll(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    begun(page, fresh("Tessaly"), "two-face", "^Full")
    observed = simulate("two-face", random.Random(5), {"c": 2.0, "i": -1.0})["observations"]
    targets, closing = observed["targets"][:2], observed["closing"][:2]
    faces = [{face: target[face][:5] for face in ("left", "right")} for target in targets]
    typed(page, leaves(faces, "observations.targets") + leaves(closing, "observations.closing"))
    left, right = field(page, "observations.targets[0].left[0].hz"), field(page, "observations.targets[0].right[0].hz")
    one, other = left.bounding_box(), right.bounding_box()
    assert one
    assert other
    assert (one["y"], one["x"] < other["x"], one["height"] >= 40) == (other["y"], True, True)


def test_a_plummet_of_four_headings_without_one_scroll(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    begun(page, fresh("Tessaly"), "plummet")
    marks = [("1.1", "0.2"), ("0.4", "1.2"), ("-0.5", "0.4"), ("0.2", "-0.5")]
    rows = [
        (f"observations.sets[0].marks[{i}].{name}", text)
        for i, mark in enumerate(marks)
        for name, text in zip(("x_mm", "y_mm"), mark, strict=True)
    ]
    typed(page, [("observations.sets[0].height_m", "1.55"), *rows])


def test_a_two_peg_test_of_three_set_ups_without_one_scroll(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    begun(page, fresh("Merrow"), "two-peg")
    page.get_by_role("button", name="One more set-up").click()
    page.evaluate("window.scrollTo(0, 0)")
    read = [("30", "1.8851", "30", "1.4020"), ("56", "1.8868", "4", "1.4000"), ("4", "1.8830", "56", "1.4012")]
    cells = [
        (f"observations.setups[{i}].{staff}.{name}", text)
        for i, (a, at_a, b, at_b) in enumerate(read)
        for staff, values in (("a", (a, at_a)), ("b", (b, at_b)))
        for name, text in zip(("distance", "readings[0]"), values, strict=True)
    ]
    typed(page, cells)


@pytest.mark.parametrize("text", ["102.43055", "-359.59599"])
def test_the_longest_angle_shows_whole_on_a_phone(opens: Opens, fresh: Fresh, text: str) -> None:
    page = opens(PHONE)
    begun(page, fresh("Tessaly"), "two-face", "^Full")
    field(page, "observations.targets[0].left[0].hz").fill(text)
    field(page, "observations.targets[1].right[4].v").fill(text)
    assert page.evaluate(CLIPPED) == []
    strip = page.locator("[data-strip]")
    expect(strip).to_be_in_viewport()
    expect(strip).to_contain_text("Finding")


def test_a_levelling_page_of_ten_rows_without_one_scroll_and_a_place_to_stop(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    tag = fresh("Merrow")
    begun(page, tag, "levelling-accuracy", "^Simplified")
    observed = simulate("levelling-accuracy", random.Random(4), {})["observations"]
    for i, pair in enumerate(observed["sets"][0]["pairs"]):
        for staff in ("a", "b"):
            cell = field(page, f"observations.sets[0].pairs[{i}].{staff}")
            cell.focus()
            assert page.evaluate(COVERED) == [0, True, True], (i, staff)
            cell.fill(str(pair[staff]))
    expect(page.locator("[data-set-done]")).to_contain_text("Complete. Stop here, or")
    field(page, "observations.sets[0].pairs[9].b").press("Enter")
    expect(field(page, "observations.sets[1].pairs[0].a")).to_be_focused()
    expect(page.locator("[data-page-progress]")).to_have_text("2 of 2, 0 of 20 readings")
    # After lunch the sheet opens where it was left.
    page.reload()
    expect(field(page, "observations.sets[1].pairs[0].a")).to_be_visible()
    page.get_by_role("button", name=re.compile("^From the middle.*20 of 20 readings")).click()
    expect(field(page, "observations.sets[0].pairs[9].b")).to_have_value(str(observed["sets"][0]["pairs"][9]["b"]))


def test_twenty_pairs_stand_in_two_columns_and_show_whole(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    begun(page, fresh("Merrow"), "levelling-accuracy", "^Full")
    assert page.evaluate("document.documentElement.scrollHeight") <= 800
    field(page, "observations.sets[0].pairs[0].a").fill("12.4022")
    field(page, "observations.sets[0].pairs[19].b").fill("-0.4022")
    assert page.evaluate(CLIPPED) == []


def test_circumstances_are_chips_that_say_what_is_unknown_and_what_it_would_change(opens: Opens, fresh: Fresh) -> None:
    page = opens()
    begun(page, fresh("Tessaly"), "two-face")
    chips = page.locator("[data-circumstance]")
    expect(chips).to_have_count(6)
    expect(page.locator("[data-circumstance][data-known=false]")).to_have_count(6)
    boxes = [chip.bounding_box() for chip in chips.all()]
    assert len({box["y"] for box in boxes if box}) == 1, "one line"
    condition(page, "minutes_on", "1")
    expect(page.locator("[data-message=not-warm]")).to_contain_text("wait 2 minutes more")
    page.locator("[data-circumstance=shimmer]").click()
    expect(page.get_by_role("dialog")).to_contain_text("the pointings scatter more")
    page.get_by_role("dialog").get_by_role("radio", name="Strong").click()
    expect(page.locator("[data-message=shimmer]")).to_contain_text("wait for cloud")
    condition(page, "shimmer", "None")
    expect(page.locator("[data-message=shimmer]")).to_have_count(0)
    page.locator("[data-circumstance=minutes_on]").click()
    page.get_by_role("button", name="Not known").click()
    expect(page.locator("[data-message=warm-up-not-entered]")).to_be_visible()


def test_on_an_upright_tablet_the_finding_folds_to_a_strip_while_typing(opens: Opens, fresh: Fresh) -> None:
    page = opens(TABLET, touch=True)
    begun(page, fresh("Merrow"), "two-peg")
    # The first reading has the focus from the start; away from the cells the finding stands open.
    first = field(page, "observations.setups[0].a.readings[0]")
    expect(first).to_be_focused()
    first.blur()
    expect(page.locator("#finding")).to_be_visible()
    first.fill("1.402")
    strip = page.locator("[data-strip]")
    expect(strip).to_be_in_viewport()
    expect(page.locator("#finding")).to_have_count(0)
    strip.click()
    expect(page.locator("#finding")).to_be_in_viewport()
    expect(strip).to_have_count(0)


@pytest.mark.parametrize(
    ("step", "drawing"), [("mount", "svg[aria-label^='The tripod']"), ("circular", "[data-field]")]
)
def test_act_drawing_and_done_share_a_phones_screen(opens: Opens, step: str, drawing: str) -> None:
    page = opens(PHONE, touch=True)
    begin(page, "plummet-first")
    page.locator(f"[data-step={step}]").click()
    page.wait_for_selector(f"[data-at-hand={step}][data-fresh=true]")
    if step == "circular":
        page.locator("[data-field]").click(position={"x": 100, "y": 60})
        page.wait_for_selector("[data-advice][data-fresh=true]")
    page.evaluate("window.scrollTo(0, 0)")
    done = page.get_by_role("button", name=re.compile("^Done"))
    for part in (page.locator("[data-headline]"), page.locator(drawing).first, done):
        expect(part).to_be_in_viewport(ratio=1)


def test_the_rings_labels_stand_clear_of_each_other(opens: Opens) -> None:
    page = opens(PHONE, touch=True)
    begin(page, "plummet-first")
    page.locator("[data-step=near]").click()
    labels = page.locator("[data-field] text", has_text=re.compile(r"^\s*\d+\smm\s*$"))
    expect(labels).to_have_count(2)
    tops = sorted((box["y"], box["y"] + box["height"]) for label in labels.all() if (box := label.bounding_box()))
    assert tops[1][0] - tops[0][1] > 20
