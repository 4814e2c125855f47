"""Eyes and hands at a simulated instrument: what is read off the drawing, and how its screws and circles are moved."""

from __future__ import annotations

import math
import re
from collections.abc import Callable

from playwright.sync_api import Page, expect

from .conftest import visit

PLAY_TURNS = 0.1
"""More than any screw can be turned before it takes hold."""
MIDDLE = 210.0
"""Where the hairs cross, in the drawing's own units."""


def go_to(page: Page, lesson: str, seed: int) -> None:
    visit(page, f"/practice/instruments/{lesson}?n={seed}")
    page.get_by_role("button", name="Finish").wait_for(timeout=90_000)
    page.locator("[data-blur], [data-bubble], [data-shown], [data-mark]").first.wait_for(
        state="attached", timeout=90_000
    )


def settled(page: Page) -> None:
    """Until the picture shows what was just turned, however slow the machine."""
    page.wait_for_timeout(60)
    page.wait_for_selector("[data-looking][data-fresh=true]")


def focus(page: Page, *, known: str | None = None) -> str:
    """Turn the focus screw until the picture is sharp: over its whole range, then nearer. What was found."""
    control = page.get_by_label("Focus", exact=True)
    if known is None:
        low, high, best = 0.0, 100.0, 50.0
        for _ in range(3):
            steps = [round(2 * (low + (high - low) * i / 7)) / 2 for i in range(8)]
            seen = []
            for step in steps:
                control.fill(f"{step:g}")
                settled(page)
                seen.append(float(page.locator("[data-blur]").get_attribute("data-blur") or 99))
            best = steps[seen.index(min(seen))]
            width = (high - low) / 6
            low, high = max(0.0, best - width), min(100.0, best + width)
        known = f"{best:g}"
    control.fill(known)
    settled(page)
    return known


def between(page: Page, selector: str, number: str, place: str, at: float) -> float:
    """Where a place lies between the two lines next to it, as an eye estimates it."""
    lines = sorted(
        (float(drawn), float(counted))
        for counted, drawn in page.eval_on_selector_all(
            selector, f"(all) => all.map((each) => [each.dataset.{number}, each.dataset.{place}])"
        )
    )
    below = max(each for each in lines if each[0] <= at)
    above = min(each for each in lines if each[0] > at)
    return below[1] + (above[1] - below[1]) * (at - below[0]) / (above[0] - below[0])


def bubble(page: Page) -> float:
    """The middle of the bubble between the divisions, to a tenth."""
    at = float(page.locator("[data-bubble]").get_attribute("data-bubble") or "nan")
    return round(between(page, "[data-division]", "division", "x", at), 1)


def on_staff(page: Page) -> str:
    """Where the middle hair lies between two lines of the staff, as an eye estimates it: to the millimetre."""
    hair = float(page.locator("[data-hair=middle]").get_attribute("data-y") or "nan")
    return f"{between(page, '[data-line]', 'line', 'y', hair) / 100:.3f}"


def on_paper(page: Page) -> tuple[float, float]:
    """Where the index lies on the paper, to a tenth of a millimetre."""
    x = between(page, "[data-right]", "right", "x", MIDDLE)
    y = between(page, "[data-away]", "away", "y", MIDDLE)
    return round(x, 1), round(y, 1)


def off_hairs(page: Page) -> tuple[float, float]:
    """The target's middle from the hairs, in the drawing's units, right and down."""
    x, y = (page.locator("[data-target]").get_attribute("data-target") or "").split()
    return float(x) - MIDDLE, float(y) - MIDDLE


def drag_on_to_hairs(page: Page) -> None:
    """Take the target and drag it to the middle."""
    box = page.get_by_label("Target, through the telescope", exact=False).locator("circle").last.bounding_box()
    assert box is not None
    scale = box["width"] / (2 * MIDDLE - 6)
    x, y = off_hairs(page)
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(middle[0] + x * scale, middle[1] + y * scale)
    page.mouse.down()
    page.mouse.move(*middle, steps=4)
    page.mouse.up()
    settled(page)


def nearer(page: Page, within: float) -> None:
    """Drag until the target is near the hairs: a hand that lets go on a slow device drags again."""
    for _ in range(8):
        if max(map(abs, off_hairs(page))) < within:
            return
        drag_on_to_hairs(page)


def closer(page: Page, name: str = "Look closer") -> None:
    page.get_by_role("button", name=name, exact=True).click()
    settled(page)


def point(page: Page) -> None:
    """The hairs on to the target: by hand over the whole field, looking closer, then a second at a time."""
    nearer(page, 12.0)
    closer(page)
    nearer(page, 5.0)
    page.get_by_role("radio", name="1″", exact=True).click()
    for _ in range(6):
        x, y = off_hairs(page)
        if max(abs(x), abs(y)) < 1.2:
            break
        for way in [
            *(["Right" if x > 0 else "Left"] if abs(x) >= 1.2 else []),
            *(["Down" if y > 0 else "Up"] if abs(y) >= 1.2 else []),
        ]:
            page.get_by_role("button", name=way, exact=True).click()
        settled(page)
    assert max(map(abs, off_hairs(page))) < 5.0, "the hairs are on the target"
    closer(page, "Whole field")


def circle(page: Page, name: str) -> str:
    """A circle as it is typed."""
    shown = page.locator(f"[data-circle={name}]").inner_text()
    degrees, minutes, seconds = (int(each) for each in re.findall(r"\d+", shown))
    return f"{degrees}.{minutes:02d}{seconds:02d}"


def seconds_of(packed: str) -> int:
    """102.4305 as seconds."""
    degrees, after = packed.split(".")
    return int(degrees) * 3600 + int(after[:2]) * 60 + int(after[2:4])


def turn_until(page: Page, screw: str, seen: Callable[[], float], wanted: float) -> None:
    """Turn a screw a little, see what it does, then as much as is wanted; look again and turn by what is left. A screw has
    play: who has turned too far goes back beyond and comes again from the same side."""
    slider = page.get_by_label(f"Turns of the {screw}", exact=True)

    def to(turns: float) -> float:
        slider.fill(f"{turns:g}")
        settled(page)
        return seen()

    before = seen()
    per_turn = (to(0.1) - before) / 0.1
    turns = round((wanted - before) / per_turn * 200) / 200
    left = wanted - to(turns)
    last = round((turns + left / per_turn) * 200) / 200
    side = math.copysign(PLAY_TURNS, turns - 0.1)
    if (last - turns) * side < 0:
        to(last - side)
    to(last)


def finish(page: Page, *, passed: bool) -> None:
    page.get_by_role("button", name="Finish").click()
    expect(page.locator(f"[data-passed={'true' if passed else 'false'}]")).to_be_visible()
