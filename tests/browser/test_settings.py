"""A firm set up from nothing on screen alone; limits looked at before they are set; two managers at once."""

from __future__ import annotations

import os
import re
import subprocess
import sys
import uuid
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import PATIENCE_MS, ROOT, Device, Opens, _free_port, serving, sheet
from .test_places import looked_at


@pytest.fixture
def empty_server(tmp_path: Path) -> Iterator[str]:
    """A server of its own with nobody in it but the first manager, made by command as the guide says."""
    port = _free_port()
    environment = {
        **os.environ,
        "NAVETA_DATA": str(tmp_path / "data"),
        "PYTHONPATH": f"{ROOT / 'server'}:{ROOT}",
        "NAVETA_SECURE": "0",
    }
    environment.pop("DJANGO_SETTINGS_MODULE", None)
    environment.pop("NAVETA_NOW", None)
    manage = [sys.executable, str(ROOT / "server/manage.py")]
    subprocess.run([*manage, "migrate", "-v", "0"], env=environment, check=True, cwd=ROOT)
    made = (
        "import django; django.setup(); from people.services import add_person; "
        "add_person(actor=None, username='ines', name='Ines Calder', role='manager', crew=None, password='limestone and sea')"
    )
    subprocess.run(
        [sys.executable, "-c", made],
        env={**environment, "DJANGO_SETTINGS_MODULE": "config.settings"},
        check=True,
        cwd=ROOT / "server",
    )
    command = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--bind", f"127.0.0.1:{port}"]
    command += ["--workers", "1", "--threads", "4"]
    with serving(command, f"http://127.0.0.1:{port}", env=environment, cwd=ROOT / "server") as address:
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
    expect(page.get_by_role("heading", name="No instruments yet")).to_be_visible()

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


def test_two_managers_at_once_lose_nothing(opens: Opens, server_url: str) -> None:
    ines = Device(server_url, "ines")
    name = f"Curlew {uuid.uuid4().hex[:6]}"
    status, model = ines.call(
        "POST", "models", {"maker": "Tolvan", "name": name, "kind": "tribrach", "stated": {}, "tips": ""}
    )
    assert status == 201, model
    page = opens(who="Ines Calder")
    page.goto(f"/settings/models?model={model['id']}")
    page.get_by_label("A note for whoever uses it").fill("check the lock first")
    facts = {
        "maker": "Tolvan",
        "name": name,
        "stated": {},
        "tips": "another note",
        "adjusting_tips": {},
        "version": model["version"],
    }
    assert ines.call("PUT", f"models/{model['id']}", facts)[0] == 200
    page.get_by_role("button", name="Save this model").click()
    expect(page.locator("[data-meanwhile]")).to_contain_text("another note")
    expect(page.get_by_label("A note for whoever uses it")).to_have_value("check the lock first")
    page.get_by_role("button", name="Save this model").click()
    expect(page.get_by_text(re.compile(f"Saved for every Tolvan {name}"))).to_be_visible()
    looked_at(page, "models")


def test_every_page_of_the_settings(opens: Opens) -> None:
    page = opens(who="Ines Calder")
    for place, word in (
        ("", "Save settings"),
        ("/people", "Add a person"),
        ("/limits", "Set a limit"),
        ("/safe-keeping", "Back up now"),
        ("/you", "Change password"),
    ):
        page.goto(f"/settings{place}")
        expect(page.get_by_role("button", name=word)).to_be_visible()
        looked_at(page, f"settings{place}")
    page.goto("/join/nobody.at-all")
    looked_at(page, "join")
