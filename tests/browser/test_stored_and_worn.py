"""A value that is entered instead of a screw, and a tripod that is worn: found, put right and tested again by looking and touching."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from naveta_practice.instruments.hidden import hidden_of

from .conftest import PHONE, Opens
from .instrument_eye import between, finish, go_to, settled
from .test_other_instruments import bad, turned_to


def shown(page: Page, name: str) -> int:
    """A figure of the electronic level, in whole seconds."""
    return int(page.locator(f"[data-shown={name}]").inner_text().replace("−", "-").replace("″", ""))


def read_level(page: Page) -> dict[str, list[int]]:
    seen: dict[str, list[int]] = {"along": [], "across": []}
    for i, heading in enumerate((0, 180)):
        turned_to(page, heading)
        for name, figures in seen.items():
            figures.append(shown(page, name))
            page.locator(f"#row-observations-readings-{i}-{name}_arcsec").fill(f"{figures[-1]}")
    page.get_by_label("Finding").wait_for()
    return seen


def test_an_index_is_entered_and_taken_off(opens: Opens) -> None:
    """Half of the sum of two readings half a turn apart; a value that cannot be is refused beside its field."""
    page = opens(PHONE, who="Jory Pell", touch=True, core=True)
    seed = bad("electronic-level", "index_along_arcsec")
    go_to(page, "electronic-level", seed)
    index = round(sum(read_level(page)["along"]) / 2)
    assert abs(index - hidden_of("electronic-level", seed).errors["index_along_arcsec"].value) < 3.0
    form = page.get_by_role("form", name="Stored index, along")
    form.get_by_role("textbox").fill("900")
    expect(form).to_contain_text("wanted a number from −200 to 200")
    form.get_by_role("textbox").fill(f"−{abs(index)}" if index < 0 else f"{index}")
    form.get_by_role("button").click()
    expect(form.get_by_role("button")).to_have_text("Entered")
    page.get_by_role("button", name="Test again, as left").click()
    assert abs(sum(read_level(page)["along"])) / 2 < 3.0
    finish(page, passed=True)


def on_scale(page: Page) -> float:
    """Where the hair crosses the scale between two millimetres, to a tenth."""
    hair = float(page.locator("[data-mark]").get_attribute("data-mark") or "nan")
    return round(between(page, "[data-line]", "line", "x", hair), 1)


def at(page: Page, place: str) -> float:
    page.get_by_role("radio", name=place, exact=True).click()
    settled(page)
    return on_scale(page)


def read_cycles(page: Page) -> None:
    """Four load cycles, each the other way, from the first."""
    for i in range(4):
        for field, place in (("free", "Nobody touches it"), ("loaded", "Turned by hand"), ("released", "Let go")):
            page.locator(f"#row-observations-rounds-{i}-{field}_mm").fill(f"{at(page, place):.1f}")
        page.get_by_role("button", name="The next one, the other way" if i < 3 else "Back to load cycle 1").click()
        settled(page)
    page.get_by_label("Finding").wait_for()


def gives(page: Page) -> float:
    return abs(at(page, "Turned by hand") - at(page, "Nobody touches it"))


def test_a_worn_tripod_is_tightened(opens: Opens) -> None:
    page = opens(who="Jory Pell", core=True)
    seed = bad("tripod", "twist_arcsec")
    go_to(page, "tripod", seed)
    read_cycles(page)
    hinges = page.get_by_label("Turns of the hinge bolts", exact=True)
    turned = 0.0
    for _ in range(12):
        left = gives(page)
        if left < 0.6:
            break
        turned += 0.05 if left < 2.0 else 0.12
        hinges.fill(f"{turned:g}")
        settled(page)
    page.get_by_role("button", name="Test again, as left").click()
    read_cycles(page)
    finish(page, passed=True)
    expect(page.get_by_label("Twist under the hand: hidden, found, left")).to_contain_text("″")
