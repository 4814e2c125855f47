"""A firm set up from nothing on screen alone; limits looked at before they are set; two managers at once."""

from __future__ import annotations

import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.written_demo import ROOT, demo_environment

from .conftest import CORE_MS, PATIENCE_MS, serving, sheet


@pytest.fixture
def empty_server(tmp_path: Path) -> Iterator[str]:
    """A server of its own with nobody in it but the first manager, made by command as the guide says."""
    data = tmp_path / "data"
    own = {**demo_environment(data), "NAVETA_SECURE": "0"}
    del own["NAVETA_NOW"]
    manage = [sys.executable, str(ROOT / "server/manage.py")]
    subprocess.run([*manage, "migrate", "-v", "0"], env=own, check=True, cwd=ROOT)
    made = (
        "import django; django.setup(); from people.services import add_person; "
        "add_person(actor=None, username='ines', name='Ines Calder', role='manager', crew=None, password='limestone and sea')"
    )
    named = {**own, "DJANGO_SETTINGS_MODULE": "config.settings"}
    subprocess.run([sys.executable, "-c", made], env=named, check=True, cwd=ROOT / "server")
    with serving(own) as address:
        yield address


def signed_in(page: Page, name: str, password: str) -> None:
    page.get_by_label("Name").fill(name)
    page.get_by_label("Password").fill(password)
    page.get_by_role("button", name="Sign in").click()


def test_a_firm_is_set_up_from_nothing_on_screen_alone(browser: Browser, empty_server: str) -> None:
    context = browser.new_context(base_url=empty_server, viewport={"width": 1280, "height": 800}, locale="en-GB")
    context.add_init_script("delete window.WebAssembly; delete Navigator.prototype.serviceWorker;")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.goto("/")
    signed_in(page, "ines", "limestone and sea")
    # The first page of a server that has just begun.
    expect(page.get_by_role("heading", name="No instruments yet")).to_be_visible(timeout=CORE_MS)

    page.get_by_role("link", name="Settings").click()
    page.get_by_label("Name", exact=True).fill("Sorrel & Quay")
    page.get_by_label("Time zone").fill("Europe/Nowhere")
    page.get_by_role("button", name="Save settings").click()
    expect(page.locator("[data-fault=time_zone]").first).to_contain_text("a zone such as")
    expect(page.get_by_label("Name", exact=True)).to_have_value("Sorrel & Quay")
    page.get_by_label("Time zone").fill("Europe/London")
    page.get_by_label("Sights, m").fill("45")
    with page.expect_navigation():
        page.get_by_role("button", name="Save settings").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Settings of Sorrel & Quay")
    page.get_by_text("Changes on record").click()
    expect(page.locator("[data-changes]")).to_contain_text("Europe/London")

    page.get_by_role("navigation", name="Settings").get_by_role("link", name="People").click()
    page.get_by_role("button", name="Add a person").click()
    page.get_by_label("Name", exact=True).fill("Tam Brandreth")
    page.get_by_label("Sign-in name").fill("tam")
    page.get_by_label("Crew").fill("Bramble")
    page.get_by_role("button", name="Add this person").click()
    page.locator("[data-person=tam]").get_by_role("button", name="Change").click()
    page.get_by_role("button", name="Make a one-time link").click()
    link = page.locator("[data-link]").input_value()

    page.goto("/fleet")
    page.get_by_role("button", name="Add an instrument").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Tag").fill("lv 2")
    dialog.get_by_role("combobox").select_option(label="A new model")
    dialog.get_by_label("Maker").fill("Ondine")
    dialog.get_by_label("Model name").fill("Merrow")
    dialog.get_by_label("Stated accuracy").fill("2.0")
    dialog.get_by_role("button", name="Add it").click()
    expect(page.get_by_role("heading", level=1)).to_contain_text("LV-02: check first")

    page.goto("/settings/models")
    page.get_by_label("Compensator range").fill("15")
    page.get_by_role("button", name="Save this model").click()
    expect(page.get_by_text("Saved for every Ondine Merrow.")).to_be_visible()
    page.goto("/settings/limits")
    page.get_by_role("button", name="Set a limit").click()
    page.get_by_label("Quantity").select_option("collimation_arcsec")
    page.get_by_label("Use up to").fill("8")
    page.get_by_label("Watch up to").fill("5")
    page.get_by_label("Source").fill("our own levelling rules")
    page.get_by_role("button", name="See what it would change").click()
    expect(page.locator("[data-fault=watch]")).to_contain_text("rising order")
    page.get_by_label("Watch up to").fill("16")
    page.get_by_role("button", name="See what it would change").click()
    expect(page.locator("[data-altered='0']")).to_be_visible()
    page.get_by_role("button", name="Save this limit").click()
    expect(page.locator("[data-limit=collimation_arcsec]")).to_contain_text("our own levelling rules")

    # The crew chief comes in by the link and takes the first check.
    other = browser.new_context(base_url=empty_server, viewport={"width": 1280, "height": 800}, locale="en-GB")
    other.add_init_script("delete window.WebAssembly; delete Navigator.prototype.serviceWorker;")
    chief = other.new_page()
    chief.goto(link)
    chief.get_by_label("Password").fill("stone-lichen-coral")
    chief.get_by_role("button", name="Set password and sign in").click()
    chief.wait_for_selector("[data-instrument=LV-02]")
    chief.goto("/bench/new/LV-02/two-peg")
    chief.get_by_role("button", name="Start reading").click()
    expect(chief.locator("[data-work]")).to_contain_text("45 m sights")
    chief.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(chief, "1.8851;1.8852", "1.4020;1.4021", "1.8868;1.8867", "1.4000;1.4001")
    chief.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    expect(chief.get_by_label("Finding")).to_contain_text("our own levelling rules")
    expect(chief.get_by_label("Finding")).to_contain_text("45 m")
    context.close()
    other.close()
