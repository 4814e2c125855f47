"""Readings first: whole checks typed at a desk without one scroll, nothing clipped or covered on a phone."""

from __future__ import annotations

import random
import re
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from naveta_sim import simulate

from .conftest import PHONE, Fresh, Opens
from .test_bench import field

COVERED = """() => {
  const here = document.activeElement.getBoundingClientRect();
  const top = document.elementFromPoint(here.left + here.width / 2, here.top + here.height / 2);
  return [window.scrollY, document.activeElement === top, here.top >= 0 && here.bottom <= window.innerHeight];
}"""
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
