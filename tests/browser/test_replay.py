"""After a lesson with an instrument: every step again, what was seen at it, and how often each was done beside the shortest way."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .conftest import PHONE, TABLET, Opens, visit
from .instrument_eye import finish, go_to
from .test_other_instruments import bad, turned_to
from .test_stored_and_worn import read_level, shown


def counts(page: Page) -> dict[str, tuple[str, str]]:
    rows = page.locator("[data-beside]").all()
    return {str(row.get_attribute("data-beside")): tuple(row.locator("td").all_inner_texts()[1:]) for row in rows}


def at_step(page: Page, number: int) -> str:
    """The slider moved to a step; what the line below says of it."""
    page.get_by_role("slider", name="Step").fill(str(number - 1))
    expect(page.locator("[data-replay]")).to_have_attribute("data-replay", str(number))
    line = page.get_by_label("The way taken").get_by_role("status")
    expect(line).to_contain_text(re.compile(rf"^{number} of "))
    return line.inner_text()


def test_every_step_is_seen_again(opens: Opens) -> None:
    """Two headings of two figures, a value entered, both again; and once looked round for nothing."""
    page = opens(TABLET, who="Jory Pell", core=True)
    go_to(page, "electronic-level", bad("electronic-level", "index_along_arcsec"))
    seen = read_level(page)
    turned_to(page, 0)
    turned_to(page, 180)
    index = round(sum(seen["along"]) / 2)
    form = page.get_by_role("form", name="Stored index, along")
    form.get_by_role("textbox").fill(f"{index}")
    form.get_by_role("button").click()
    page.get_by_role("button", name="Test again, as left").click()
    again = read_level(page)
    finish(page, passed=True)
    # A look more than the three between the readings, there and back.
    assert counts(page) == {"look": ("5", "3"), "read": ("8", "8"), "turn": ("1", "1"), "again": ("1", "1")}
    typed = [*(seen[name][i] for i in range(2) for name in ("along", "across"))]
    typed += [again[name][i] for i in range(2) for name in ("along", "across")]
    lines = [at_step(page, number + 1) for number in range(15)]
    assert [line.split("typed ")[1] for line in lines if "typed" in line] == [str(figure) for figure in typed]
    # What stands in the picture is what was seen when the last figure was typed, with the value taken off; it is live,
    # so that it moves by a second of arc or two.
    last = max(i for i, line in enumerate(lines) if "typed" in line)
    at_step(page, last + 1)
    page.wait_for_load_state("networkidle")
    for name in ("along", "across"):
        assert abs(shown(page, name) - again[name][1]) <= 2
    at_step(page, 1)
    expect(page.get_by_role("button", name="Step before")).to_be_disabled()
    page.get_by_role("button", name="Next step").click()
    expect(page.locator("[data-replay]")).to_have_attribute("data-replay", "2")
    # Saved with the run, and seen again from there.
    expect(page.locator("[data-outbox=waiting]")).to_have_count(0)
    visit(page, "/practice/progress")
    page.locator("[data-run] a").first.click()
    expect(page.locator("[data-replay]")).to_have_attribute("data-replay", "15")
    assert counts(page)["look"] == ("5", "3")


def test_a_chief_sees_the_way_a_trainee_took(opens: Opens) -> None:
    """A run of the demo, on a phone: nothing wider than the page, and nothing in the picture to be worked with."""
    page = opens(PHONE, who="Wren Adair", touch=True, core=True)
    lessons = page.request.get("/api/practice/progress?person=jory").json()["lessons"]
    run = next(each["recent"][0]["id"] for each in lessons if each["lesson"] == "two-peg")
    visit(page, f"/practice/runs/{run}")
    picture = page.get_by_label("What was seen")
    expect(picture.get_by_role("img", name="through the telescope")).to_be_visible()
    expect(picture.get_by_label("Focus", exact=True)).to_be_hidden()
    assert page.evaluate("document.documentElement.scrollWidth <= innerWidth")
    taken, shortest = counts(page)["read"]
    assert int(taken) >= int(shortest) > 0
