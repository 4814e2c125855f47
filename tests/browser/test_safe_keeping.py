"""The manager keeps everything safe on screen: backup, verify, export, compare, and back to a backup, on a server of its own."""

from __future__ import annotations

import shutil
import subprocess
import sys
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from tests.written_demo import ROOT, demo_environment, written_demo

from .conftest import PATIENCE_MS, Device, serving


@pytest.fixture
def own_server(tmp_path: Path) -> Iterator[tuple[str, Path]]:
    """A demo of its own, served as it really is, that may be set back: its address and its folder."""
    data = tmp_path / "data"
    shutil.copytree(written_demo(), data)
    with serving({**demo_environment(data), "NAVETA_DEMO": "1"}) as address:
        yield address, data


RESTORED_MS = 90_000
"""Longest wait for a restore: the server waits for its old workers to end."""


def warned_and_led(page: Page) -> None:
    """A firm's own Naveta (the demo warns of nothing) says on any page that there is no backup, and leads to where one is
    made."""
    page.route("**/api/session", lambda route: route.fulfill(json={**route.fetch().json(), "demo": False}))
    page.goto("/fleet")
    expect(page.locator("[data-keeping]")).to_contain_text("There is no backup yet.")
    page.locator("[data-keeping]").get_by_role("link", name="Safe keeping").click()
    page.wait_for_url("**/settings/safe-keeping")


@pytest.mark.long
def test_back_to_a_backup_while_it_serves(own_server: tuple[str, Path], browser) -> None:
    address, data = own_server
    ines = Device(address, "ines")
    context = browser.new_context(base_url=address, locale="en-GB", timezone_id="UTC")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    token = context.request.get("/api/session").json()["csrf_token"]
    context.request.post("/api/session", data={"username": "ines"}, headers={"X-CSRFToken": token})
    warned_and_led(page)
    page.get_by_role("button", name="Back up now").click()
    page.locator("[data-file]").wait_for()
    page.goto("/fleet")
    expect(page.locator("[data-instrument]").first).to_be_visible()
    expect(page.locator("[data-keeping]")).to_have_count(0)
    page.unroute_all(behavior="wait")
    page.goto("/settings/safe-keeping")
    before = ines.call("GET", "ledger?limit=1")[1]["count"]
    identity = "6e617665-7461-4000-8000-00000000abcd"
    event = {"instrument": "LV-02", "event": "knock", "at": "2027-03-02T06:30:00+00:00", "note": "After the backup"}
    assert ines.call("PUT", f"events/{identity}", event)[0] == 201
    page.get_by_role("button", name="Restore").click()
    page.get_by_role("dialog").get_by_role("button", name="Restore").click()
    expect(page.locator("[data-restored=true]")).to_contain_text("The last restore was done", timeout=RESTORED_MS)
    expect(page.locator("[data-restored=true]")).not_to_contain_text("manage.py")  # that was done too
    again = Device(address, "ines")
    assert again.call("GET", "ledger?limit=1")[1]["count"] == before
    assert again.call("GET", f"records/{identity}")[0] == 404
    (aside,) = data.glob("before-restore-*")
    assert (aside / "naveta.sqlite3").exists(), "what was saved after it is set aside"
    assert again.call("PUT", f"events/{identity}", event)[0] == 201, "and saving goes on"
    second = subprocess.run(
        [sys.executable, "-m", "demo.run"],
        cwd=ROOT,
        env=demo_environment(data),
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert second.returncode != 0
    assert "Another Naveta serves from" in second.stderr
    context.close()
