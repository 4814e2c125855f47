"""Passwords, leavers and lost tablets by screen; two tabs of one tablet."""

from __future__ import annotations

import re
from typing import Any

from playwright.sync_api import expect

from .conftest import PHONE, Device, Opens, switch_user
from .test_places import looked_at, seen


def username(server_url: str) -> str:
    """Somebody of this test's own, with a password."""
    ines = Device(server_url, "ines")
    person = {
        "username": "merryn",
        "name": "Merryn Oake",
        "role": "crew",
        "crew": "Thrift",
        "password": "heron-quarry-basalt",
    }
    status, answer = ines.call("POST", "people", person)
    assert status == 201, answer
    return "merryn"


def test_a_manager_gives_a_password_and_lets_a_leaver_go(opens: Opens, server_url: str) -> None:
    name = username(server_url)
    page = opens(who="Ines Calder")
    page.get_by_role("button", name=re.compile("^Ines Calder: password")).click()
    page.get_by_role("menuitem", name="Password and sessions").click()
    looked_at(page, "own sign-in")
    page.get_by_role("navigation", name="Settings").get_by_role("link", name="People").click()
    looked_at(page, "people")
    row = page.locator(f"[data-person={name}]")
    row.get_by_role("button", name="Change").click()
    dialog = page.get_by_role("dialog", name="Merryn Oake")
    dialog.get_by_label("New password (pass it on in person)").fill("merryn")
    dialog.get_by_role("button", name="Set this password").click()
    expect(dialog.locator(".fault").first).to_be_visible()
    expect(dialog.get_by_label("New password (pass it on in person)")).to_have_value("merryn")
    dialog.get_by_label("New password (pass it on in person)").fill("stone-lichen-coral")
    dialog.get_by_role("button", name="Set this password").click()
    expect(page.get_by_text("Merryn Oake has a new password")).to_be_visible()
    row.get_by_role("button", name="Change").click()
    dialog.get_by_role("button", name="Has left").click()
    expect(row).to_contain_text("Has left: cannot sign in")
    row.get_by_role("button", name="Change").click()
    dialog.get_by_role("button", name="Is back").click()
    expect(row).to_contain_text("Crew chief, Thrift crew")


def test_a_chief_sees_only_their_own_and_a_wrong_password_is_named(opens: Opens) -> None:
    page = opens(PHONE, touch=True)
    page.goto("/settings/you")
    seen(page, "people on a phone")
    expect(page.get_by_role("heading", name="Everyone")).to_have_count(0)
    page.get_by_label("Current password").fill("not-the-old-one")
    page.get_by_label("New password").fill("stone-lichen-coral")
    page.get_by_role("button", name="Change password").tap()
    expect(page.locator(".fault").first).to_be_visible()
    expect(page.get_by_label("New password")).to_have_value("stone-lichen-coral")


def test_signed_out_in_one_tab_the_other_shows_nothing_more(opens: Opens) -> None:
    page: Any = opens()
    other = page.context.new_page()
    other.goto("/instruments/LV-02")
    expect(other.get_by_role("heading", level=1)).to_contain_text("LV-02")
    switch_user(page)
    expect(page.get_by_text("Who is at work?")).to_be_visible()
    expect(other.get_by_text("Who is at work?")).to_be_visible()
    expect(other.get_by_text("LV-02")).to_have_count(0)
