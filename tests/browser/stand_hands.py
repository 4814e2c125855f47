"""Eyes and hands at the simulated stand: what is seen of it, and how legs, screws and tribrach are dragged."""

from __future__ import annotations

import math

from playwright.sync_api import Page, expect

from .conftest import CORE_MS, until

REST_S = 1.6
"""So long a bubble is given to come to rest, by the stand's own clock: a slow machine gives it no less."""


def begun(page: Page, lesson: str, number: int) -> None:
    page.goto(f"/practice/{lesson}?n={number}")
    page.locator("[data-frame-ms]").wait_for(timeout=CORE_MS)
    page.locator("[data-bubble]").wait_for(timeout=CORE_MS)


def drawn(page: Page) -> None:
    """Wait until the last gesture is drawn."""
    page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")


def seconds(page: Page) -> float:
    return float(page.locator("[data-seconds]").get_attribute("data-seconds") or "0")


def rest(page: Page) -> None:
    end = seconds(page) + REST_S
    until(page, f"Number(document.querySelector('[data-seconds]').dataset.seconds) >= {end}")


def bubble(page: Page) -> tuple[float, float, bool]:
    seen = page.locator("[data-bubble]")
    x, y = (float(part) for part in (seen.get_attribute("data-at") or "0 0").split())
    return x, y, seen.get_attribute("data-bubble") == "in"


def dragged(page: Page, what: str, right: float, down: float) -> None:
    """Drag a thing by so many pixels."""
    thing = page.locator(what)
    thing.scroll_into_view_if_needed()
    box = thing.bounding_box()
    assert box
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + right / 2, y + down / 2)
    page.mouse.move(x + right, y + down)
    page.mouse.up()
    drawn(page)


def turned(page: Page, screw: str, degrees: float) -> None:
    """Drag round a screw, clockwise positive, along an arc some way from its middle."""
    thing = page.locator(f"[data-turn='{screw}']")
    thing.evaluate("(one) => one.ownerSVGElement.scrollIntoView({ block: 'center' })")  # clear of what stays on top
    box = thing.bounding_box()
    assert box
    x, y, far = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, box["width"] * 0.42

    def at(angle: float) -> tuple[float, float]:
        return x + far * math.cos(math.radians(angle)), y + far * math.sin(math.radians(angle))

    page.mouse.move(*at(-60.0))
    page.mouse.down()
    # Then away from its middle, where a hand turns finer.
    far *= 4.0
    page.mouse.move(*at(-60.0))
    steps = max(1, math.ceil(abs(degrees) / 12.0))
    for i in range(1, steps + 1):
        page.mouse.move(*at(-60.0 + degrees * i / steps))
    page.mouse.up()
    drawn(page)


def pair(page: Page, name: str) -> None:
    page.get_by_role("group", name="Which screws turn together").get_by_role("button", name=name).click()


def legs_until_in_ring(page: Page) -> None:
    """The bubble lies on the high side: the leg nearest to it is made shorter, a little at a time."""
    for _ in range(40):
        rest(page)
        x, y, inside = bubble(page)
        if inside:
            return
        bearing = math.degrees(math.atan2(x, y)) % 360.0
        near = min("ABC", key=lambda leg: abs((bearing - {"A": 0, "B": 120, "C": 240}[leg] + 180) % 360 - 180))
        far = math.hypot(x, y)
        size = "5" if far > 3.5 else "1"
        page.get_by_role("button", name=f"Leg {near} shorter by {size} mm").click()
    raise AssertionError("the bubble did not come into its ring")


def figure(page: Page, name: str) -> float | None:
    text = page.locator(f"[data-{name}]").inner_text().replace("−", "-").replace("″", "")
    return None if text.strip() == "—" else float(text)


def screws_until_level(page: Page) -> None:
    """By the electronic level: along the sight with screw 1, across it with 2 and 3 against each other."""
    for _ in range(20):
        rest(page)
        along, across = figure(page, "along"), figure(page, "across")
        if along is None or across is None:
            x, y, _ = bubble(page)  # out of its range: the circular bubble first, 240″ a millimetre
            along, across = 240.0 * y, 240.0 * x
        if abs(along) < 6 and abs(across) < 6:
            return
        # A turn is 0.7 mm: on one screw over 75 mm, on a pair over 86.6 mm with twice the difference.
        if abs(across) >= 6:
            pair(page, "2 and 3")
            turned(page, "2", -across / (1.4 / 86.6 * 206265) * 360.0)
        if abs(along) >= 6:
            pair(page, "One alone")
            turned(page, "1", -along / (0.7 / 75.0 * 206265) * 360.0)
    raise AssertionError("the axis did not come level")


def spot(page: Page) -> tuple[float, float]:
    x, y = (page.locator("[data-spot]").get_attribute("data-spot") or "0 0").split()
    return float(x), float(y)


def finished(page: Page) -> None:
    page.get_by_role("button", name="Finish").click()
    expect(page.locator("[data-passed]")).to_have_attribute("data-passed", "true")


def plate(page: Page) -> float:
    rest(page)
    return float(page.locator("[data-plate]").get_attribute("data-plate") or "0")


def by_the_plate_vial(page: Page, rests_at: float = 0.0) -> None:
    """Along two screws, turned by 90°, along the third; once more. `rests_at`: where the bubble is when it is level."""
    for _ in range(4):
        quiet = True
        for name, screw, per_turn in (("2 and 3", "2", 1.4 / 86.6), ("One alone", "1", 0.7 / 75.0)):
            for _ in range(4):
                shown = plate(page) - rests_at
                if abs(shown) < 0.3:
                    break
                quiet = False
                pair(page, name)
                heading = int(page.locator("[data-heading]").get_attribute("data-heading") or "0") % 360
                # Its right end lies a quarter round from the sight: to the right at first, then towards the person.
                sense = {0: -1.0, 90: 1.0, 180: 1.0, 270: -1.0}[heading]
                turned(page, screw, sense * shown * 20.0 / (per_turn * 206265) * 360.0)
            page.get_by_role("button", name="Turn by 90°").click()
        page.get_by_role("button", name="Turn by 180°").click()
        if quiet:
            return


def press_in(page: Page) -> None:
    """Every foot, with a foot on its spur."""
    for leg in "ABC":
        page.get_by_role("group", name=f"Leg {leg}").get_by_role("button", name="Press in").click()


def laser_on(page: Page) -> None:
    """The laser times out: switched on again where it did."""
    if page.get_by_role("button", name="Switch laser on").is_visible():
        page.get_by_role("button", name="Switch laser on").click()


def carry_over_the_mark(page: Page, within_mm: float) -> None:
    """The tripod as it stands, dragged until what the plummet shows is near the mark."""
    _drag_on_to_the_mark(page, "[data-carry]", "The tripod from above", 1640.0, within_mm)


def slide_on_to_the_mark(page: Page, within_mm: float) -> None:
    """The tribrach dragged on the head, a little at a time: it goes 0.15 mm for a millimetre of the hand."""
    _drag_on_to_the_mark(page, "[data-slide]", "The tribrach from above", 0.15 * 208.0, within_mm)


def _drag_on_to_the_mark(page: Page, what: str, drawing: str, width_mm: float, within_mm: float) -> None:
    """`width_mm`: how far a hand moves it across the whole drawing."""
    for _ in range(8):
        rest(page)
        x, y = spot(page)
        if math.hypot(x, y) < within_mm:
            return
        box = page.get_by_role("group", name=drawing).bounding_box()
        assert box
        dragged(page, what, -x * box["width"] / width_mm, y * box["width"] / width_mm)


def focus_plummet(page: Page) -> None:
    """First the index, then the ground."""
    page.get_by_label("Focus on the index").fill("62")
    page.get_by_label("Focus on the ground").fill("36")


def by_opposing_pairs(page: Page) -> None:
    """Four screws: along both diagonals, each pair against each other over 100 mm."""
    for _ in range(6):
        east = plate(page)
        page.get_by_role("button", name="Turn by 90°").click()
        north = -plate(page)  # turned by 90° its right end is towards the person
        for _ in range(3):
            page.get_by_role("button", name="Turn by 90°").click()
        if abs(east) < 0.3 and abs(north) < 0.3:
            return
        # Screw 1 at 45°, 2 at 135°.
        for name, screw, along in (("1 and 3", "1", east + north), ("2 and 4", "2", east - north)):
            pair(page, name)
            turned(page, screw, -along / math.sqrt(2.0) * 20.0 / (1.4 / 100.0 * 206265) * 360.0)
    raise AssertionError("the axis did not come level")
