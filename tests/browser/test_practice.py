"""A trainee at the simulated stand: everything is done by looking and touching, and lands within the tolerance."""

from __future__ import annotations

from playwright.sync_api import expect

from .conftest import DESK, Opens, visit
from .stand_hands import (
    begun,
    carry_over_the_mark,
    finished,
    laser_on,
    legs_until_in_ring,
    press_in,
    screws_until_level,
    slide_on_to_the_mark,
)


def test_a_whole_set_up_by_dragging_then_its_replay_and_progress(opens: Opens) -> None:
    page = opens(DESK, "Jory Pell", core=True)
    begun(page, "whole-set-up", 31)
    page.get_by_role("button", name="Switch laser on").click()
    carry_over_the_mark(page, 8.0)
    press_in(page)
    legs_until_in_ring(page)
    screws_until_level(page)
    laser_on(page)
    slide_on_to_the_mark(page, 0.8)
    screws_until_level(page)
    frame = float(page.locator("[data-frame-ms]").get_attribute("data-frame-ms") or "0")
    print(f"a picture every {frame:.1f} ms")
    assert frame > 0
    finished(page)
    expect(page.get_by_role("region", name="Where the time went")).to_contain_text("Legs")
    taken = int(page.locator("[data-replay]").get_attribute("data-replay") or "0")
    page.get_by_role("slider", name="Gesture").fill("1")
    expect(page.locator("[data-replay]")).to_have_attribute("data-replay", "2")
    page.get_by_role("button", name="Play").click()
    expect(page.locator("[data-replay]")).to_have_attribute("data-replay", str(taken))
    expect(page.locator("[data-outbox=waiting]")).to_have_count(0)
    visit(page, "/practice/progress")
    expect(page.get_by_role("heading", level=1)).to_contain_text("Jory Pell")
    page.locator("[data-run] a").first.click()
    expect(page.locator("[data-passed]")).to_be_visible()
