"""Every method carried from wild to done by following the advice, on desk and phone."""

from __future__ import annotations

import math
import random
import re

import pytest
from playwright.sync_api import expect

from naveta_core.setup.mechanism import see

from .conftest import DESK, PHONE, Opens
from .set_up_crew import DIVISION, FOUR, INDEX, RESTS_DIV, SECOND_RESTS_DIV, WORLD, Crew, begin, wild

WALKS = [("plummet-first", "electronic", PHONE), ("four-screws", "plate", DESK)]
"""Two ways, two means of levelling, two screens; the core's own tests walk all of them together."""
RESTS = {
    "electronic": INDEX,
    "plate": (RESTS_DIV * DIVISION,) * 2,
    "two-plates": (RESTS_DIV * DIVISION, SECOND_RESTS_DIV * DIVISION),
}


@pytest.mark.parametrize(
    ("method", "level_type", "size"),
    [WALKS[0], pytest.param(*WALKS[1], marks=pytest.mark.long)],
    ids=[f"{method}-{level_type}-{size[0]}" for method, level_type, size in WALKS],
)
def test_from_wild_to_done_by_following_the_advice(
    opens: Opens, method: str, level_type: str, size: tuple[int, int]
) -> None:
    rng = random.Random(f"{method} {level_type}")
    page = opens(size, touch=size == PHONE)
    begin(page, method, level_type=level_type)
    equipment = FOUR if method == "four-screws" else WORLD
    crew = Crew(page, wild(rng, equipment), rng, equipment, level_type=level_type, swings=size == DESK)
    while crew.step != "final-check":
        assert len(crew.steps) < 45, crew.steps
        crew.take_step()
    at_end = see(equipment, crew.state)
    assert math.hypot(*at_end.tilt_arcsec) < 30.0
    assert at_end.spot_mm is not None
    assert math.hypot(*at_end.spot_mm) < (2.0 if method == "plumb-bob" else 1.0)
    page.locator("#centring").fill(f"{math.hypot(*at_end.spot_mm):.1f}")
    page.get_by_label("I checked bubble and mark together").check()
    crew.press("^Next")
    if method != "plumb-bob":
        crew.press("^Done")  # laser off
    page.locator("#height-0").fill("1.5621")
    page.locator("#height-1").fill("1.5624")
    crew.press("^Next")
    page.get_by_label("Sighted").fill("QB-2")
    page.locator("#zero-reading").fill("0.0000")
    page.get_by_role("button", name="Save this set-up").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.get_by_role("heading", level=1)).to_contain_text("TS-03 over PC-14")
    expect(page.locator("[data-finding]")).to_contain_text(re.compile(r"Over PC-14: axis \d+\.\d″ out of plumb"))
    expect(page.locator("[data-reason=not-confirmed]")).to_have_count(0)
    record = page.request.get(f"/api/records/{page.url.rsplit('/', 1)[1]}").json()
    assert record["category"] == "set-up"
    result = record["result"]["result"]
    assert result["height_m"] == pytest.approx(1.56225)
    index = (result["index_along_arcsec"], result["index_across_arcsec"])
    assert index == pytest.approx(RESTS[level_type], abs=1.0 if level_type == "electronic" else 2.0)
