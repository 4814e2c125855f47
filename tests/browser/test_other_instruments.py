"""A vial, a plummet and a theodolite with hidden errors, found and adjusted by one who only looks and touches."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from naveta_practice.instruments.faults import fault_of
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.mornings import morning_of

from .conftest import PHONE, Opens, until, visit
from .instrument_eye import (
    between,
    bubble,
    circle,
    finish,
    focus,
    go_to,
    off_hairs,
    on_paper,
    on_staff,
    point,
    seconds_of,
    settled,
    turn_until,
)


def bad(lesson: str, *quantities: str) -> int:
    """A situation in which these errors are too much, and no other."""
    return next(
        seed
        for seed in range(1, 400)
        if all(
            (abs(error.value) > error.spec.bad) == (name in quantities)
            for name, error in hidden_of(lesson, seed).errors.items()
        )
    )


def turned_to(page: Page, heading: int) -> None:
    page.get_by_role("radio", name=f"{heading}°", exact=True).click()
    settled(page)


def read_bubbles(page: Page) -> list[float]:
    seen = []
    for i, heading in enumerate((0, 180)):
        turned_to(page, heading)
        seen.append(bubble(page))
        page.locator(f"#row-observations-readings-{i}-bubble_div").fill(f"{seen[-1]:.1f}")
    page.get_by_label("Finding").wait_for()
    return seen


def test_half_of_a_bubble_is_taken_away_with_each_screw(opens: Opens) -> None:
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    seed = bad("half-and-whole", "reversal_div")
    go_to(page, "half-and-whole", seed)
    here, round_ = read_bubbles(page)
    rests = (here + round_) / 2
    assert rests == pytest.approx(hidden_of("half-and-whole", seed).errors["reversal_div"].value, abs=0.15)
    turned_to(page, 0)
    turn_until(page, "foot screws 1 and 2", lambda: bubble(page), rests)
    turn_until(page, "level vial screw", lambda: bubble(page), 0.0)
    page.get_by_role("button", name="Test again, as left").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("as left")
    # Both screws are turned by an eye that reads a tenth, of a bubble that wanders; what is good enough the lesson says.
    assert max(abs(each) for each in read_bubbles(page)) < 1.0, "near the middle at both headings"
    finish(page, passed=True)
    expect(page.get_by_label("Level vial: hidden, found, left")).to_contain_text("div")


def read_marks(page: Page) -> list[tuple[float, float]]:
    seen = []
    for i, heading in enumerate((0, 90, 180, 270)):
        turned_to(page, heading)
        seen.append(on_paper(page))
        for axis, figure in zip("xy", seen[-1], strict=True):
            page.locator(f"#row-observations-sets-0-marks-{i}-{axis}_mm").fill(f"{figure:.1f}")
    page.get_by_label("Finding").wait_for()
    return seen


def test_a_plummet_is_moved_on_to_the_axis(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    seed = bad("plummet", "offset_x_mm", "offset_y_mm")
    go_to(page, "plummet", seed)
    focus(page)
    seen = read_marks(page)
    middle = [sum(each[i] for each in seen) / 4 for i in (0, 1)]
    turned_to(page, 0)
    turn_until(page, "plummet side screw", lambda: on_paper(page)[0], middle[0])
    turn_until(page, "plummet front screw", lambda: on_paper(page)[1], middle[1])
    page.get_by_role("button", name="Test again, as left").click()
    for each in read_marks(page):
        assert each == pytest.approx(middle, abs=0.6)
    finish(page, passed=True)


def in_ring(page: Page) -> tuple[float, float]:
    """Where the cross in the bubble stands between the millimetres, to a tenth."""
    x, y = (page.locator("[data-bubble]").get_attribute("data-bubble") or "").split()
    right, up = between(page, "[data-mm]", "mm", "x", float(x)), between(page, "[data-mm]", "mm", "y", float(y))
    return round(right, 1), round(up, 1)


def read_ring(page: Page) -> list[tuple[float, float]]:
    seen = []
    for i, heading in enumerate((0, 90, 180, 270)):
        turned_to(page, heading)
        seen.append(in_ring(page))
        for axis, figure in zip("xy", seen[-1], strict=True):
            page.locator(f"#row-observations-readings-{i}-{axis}_mm").fill(f"{figure:.1f}")
    page.get_by_label("Finding").wait_for()
    return seen


def test_a_circular_level_on_a_phone(opens: Opens) -> None:
    """What turns with the instrument is the vial's: the mean of opposite readings; it goes with the vial's own screws."""
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    seed = bad("round-bubble", "vial_error_x_mm")
    go_to(page, "round-bubble", seed)
    seen = read_ring(page)
    error = (seen[0][0] + seen[2][0]) / 2
    assert error == pytest.approx(hidden_of("round-bubble", seed).errors["vial_error_x_mm"].value, abs=0.15)
    turned_to(page, 0)
    turn_until(page, "vial side screw", lambda: in_ring(page)[0], seen[0][0] - error)
    page.get_by_role("button", name="Test again, as left").click()
    again = read_ring(page)
    assert (again[0][0] + again[2][0]) / 2 == pytest.approx(0.0, abs=0.3)
    finish(page, passed=True)
    expect(page.get_by_label("Circular level, to the right: hidden, found, left")).to_contain_text("mm")


def test_a_compensator_that_hangs_has_no_screw(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    seed = bad("compensator", "fore_and_aft_arcsec")
    go_to(page, "compensator", seed)
    focus(page)
    for name, label in (
        ("centre", "Bubble in the middle"),
        ("toward", "Towards the staff"),
        ("away", "Away from it"),
        ("left", "To the left"),
        ("right", "To the right"),
    ):
        page.get_by_role("radio", name=label, exact=True).click()
        settled(page)
        for i in range(2):
            page.locator(f"#row-observations-positions-{name}-{i}").fill(on_staff(page))
    page.get_by_label("Finding").wait_for()
    expect(page.get_by_role("heading", name="Adjusting")).to_have_count(0)
    finish(page, passed=True)
    expect(page.get_by_text(re.compile("send it to service"))).to_be_visible()


def read_faces(page: Page) -> dict[str, list[int]]:
    """Three pointings a face, face right first where the telescope stands there; seconds of the last."""
    seen = {}
    for face in ("left", "right"):
        if not page.get_by_role("button", name=f"Turn over face {face}").is_visible():
            page.get_by_role("button", name=re.compile("^Turn over")).click()
            settled(page)
        for i in range(3):
            point(page)
            for name in ("hz", "v"):
                page.locator(f"#row-observations-targets-0-{face}-{i}-{name}").fill(circle(page, name))
        seen[face] = [seconds_of(circle(page, name)) for name in ("hz", "v")]
    page.get_by_label("Finding").wait_for()
    return seen


def set_circle(page: Page, wanted: int) -> None:
    """Turn the alidade until the horizontal circle shows so many seconds, whichever way it counts."""
    backwards = page.get_by_text("counts anticlockwise").count() > 0
    for step, size in (("1′", 60), ("10″", 10), ("1″", 1)):
        page.get_by_role("radio", name=step, exact=True).click()
        for _ in range(12):
            short = (wanted - seconds_of(circle(page, "hz")) + 648_000) % 1_296_000 - 648_000
            if abs(short) < size:
                break
            page.get_by_role("button", name="Right" if (short > 0) != backwards else "Left", exact=True).click()
            settled(page)


def test_a_collimation_error_is_found_in_two_faces_and_turned_out(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    seed = bad("two-faces", "collimation_arcsec")
    go_to(page, "two-faces", seed)
    focus(page)
    seen = read_faces(page)
    half = ((seen["right"][0] - 648_000 - seen["left"][0] + 648_000) % 1_296_000 - 648_000) / 2
    hidden = hidden_of("two-faces", seed).errors["collimation_arcsec"].value
    assert abs(half) == pytest.approx(abs(hidden), abs=6.0)
    page.get_by_role("button", name=re.compile("^Turn over")).click()
    settled(page)
    point(page)
    set_circle(page, round(seen["left"][0] + half) % 1_296_000)
    turn_until(page, "reticle side screw", lambda: off_hairs(page)[0], 0.0)
    page.get_by_role("button", name="Test again, as left").click()
    read_faces(page)
    finish(page, passed=True)
    expect(page.get_by_label("Collimation c: hidden, found, left")).to_contain_text(f"{abs(hidden):.0f}″")


def test_a_fault_is_named_after_the_check_that_shows_it(opens: Opens) -> None:
    """A plummet that is off: the level vial is looked at first and is good, then the plummet shows it."""
    page = opens(who="Jory Pell", core=True)
    seed = next(seed for seed in range(1, 200) if fault_of("finding-the-fault", seed).name == "plummet")
    visit(page, f"/practice/faults/finding-the-fault?n={seed}")
    expect(page.locator("[data-noticed]")).to_contain_text("differ by some millimetres", timeout=90_000)
    page.locator("[data-bubble]").wait_for(state="attached", timeout=60_000)
    here, round_ = read_bubbles(page)
    assert abs(here + round_) / 2 < 0.6
    page.get_by_role("radio", name="Plummet", exact=True).click()
    page.locator("[data-blur]").wait_for(state="attached")
    focus(page)
    seen = read_marks(page)
    assert max(abs(seen[0][i] - seen[2][i]) for i in (0, 1)) > 1.5, "the marks lie on a circle"
    expect(page.get_by_role("radio", name="Plate level check done")).to_be_visible()
    page.get_by_role("radio", name="The plummet").click()
    finish(page, passed=True)
    expect(page.get_by_label("What to do otherwise")).to_contain_text("You showed it before you named it.")
    # The way taken beside the shortest: the vial first, for nothing; the plummet second; the circles not at all.
    rows = [row.locator("td").all_inner_texts() for row in page.locator("[data-beside]").all()]
    assert rows == [["Plate level check", "first", "–"], ["Plummet", "second", "first"], ["Two-face check", "–", "–"]]
    until(
        page,
        "fetch('/api/practice/progress').then((r) => r.json()).then((p) => p.lessons.find((l) => l.lesson === 'finding-the-fault').passed > 0)",
    )
    visit(page, "/practice/progress")
    page.get_by_role("link", name=re.compile("Finding the fault")).first.click()
    expect(page.get_by_role("heading", level=1)).to_be_visible()


def test_the_morning_kit_is_chosen_from_the_book(opens: Opens) -> None:
    """First without its checks, then as it should be; a chief finds both among the runs."""
    seed = next(n for n in range(1, 60) if morning_of("morning-kit", n).kit.kit.minutes > 0)  # type: ignore[union-attr]
    morning = morning_of("morning-kit", seed)
    assert morning.kit.kit is not None
    (best,) = morning.kit.kit.tags
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    visit(page, f"/practice/mornings/morning-kit?n={seed}")
    expect(page.locator("[data-job]")).to_contain_text("wanted", timeout=90_000)
    page.get_by_role("button", name=f"Take {best}").click()
    page.get_by_role("button", name=f"Leave with {best}").click()
    expect(page.locator("[data-passed=false]")).to_contain_text("A check is missing before it may go")
    page.get_by_role("button", name="The same again").click()
    page.get_by_role("button", name=f"Take {best}").click()
    for check in morning.fitness(best).checks:
        page.get_by_role("checkbox", name=check.title).check()
    page.get_by_role("button", name=f"Leave with {best}").click()
    expect(page.locator("[data-passed=true]")).to_contain_text("Fit, with the checks it needs and no other")
    expect(page.locator("[data-outbox=waiting]")).to_have_count(0)
    visit(page, "/practice/progress")
    page.get_by_role("link", name=re.compile("The morning's choice of kit")).last.click()
    expect(page.get_by_role("heading", name="What each would have been")).to_be_visible()
