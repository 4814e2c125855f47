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

from .conftest import DESK, PATIENCE_MS, Device, Opens, _free_port, serving


@pytest.fixture
def own_server(tmp_path: Path) -> Iterator[tuple[str, Path]]:
    """A demo of its own, that may be set back: its address and its folder."""
    data, port = tmp_path / "data", _free_port()
    shutil.copytree(written_demo(), data)
    command = [sys.executable, "-m", "demo.run"]
    with serving(command, f"http://127.0.0.1:{port}", cwd=ROOT, env=demo_environment(data, port)) as address:
        yield address, data


def test_backup_verify_export_compare(opens: Opens) -> None:
    page = opens(DESK, "Ines Calder")
    page.goto("/settings/safe-keeping")
    page.get_by_role("button", name="Back up now").click()
    expect(page.get_by_role("heading", name="Last backup: less than a day old")).to_be_visible()
    page.get_by_role("button", name="Verify all records").click()
    expect(page.locator("[data-verified=true]")).to_contain_text("records are whole", timeout=60_000)
    page.get_by_role("button", name="Export everything").click()
    expect(page.locator("[data-ended]")).to_contain_text("instruments written", timeout=60_000)
    with page.expect_download() as download:
        page.get_by_role("region", name="Open formats").locator("[data-file] a").first.click()
    assert download.value.suggested_filename.startswith("export-")
    line = page.evaluate("fetch('/api/chain-ends').then((answer) => answer.json())")["text"]
    page.get_by_label("Lines of earlier days").fill(line)
    page.get_by_role("button", name="Compare").click()
    expect(page.locator("[data-same]")).to_be_visible()
    page.get_by_label("Lines of earlier days").fill(line.replace(line[-10:], "0123456789"))
    page.get_by_role("button", name="Compare").click()
    expect(page.locator("[data-differs]")).to_contain_text("are not those of that day")
    page.get_by_label("Import everything").set_input_files(
        {"name": "a.zip", "mimeType": "application/zip", "buffer": b"no zip"}
    )
    expect(page.get_by_role("alert")).to_contain_text("This Naveta is not empty")
    remove = page.get_by_role("region", name="Open formats").get_by_role("button", name="Remove")
    remove.first.click()
    page.get_by_role("dialog").get_by_role("button", name="Remove").click()
    expect(page.get_by_role("dialog")).to_have_count(0)


def warned_and_led(page: Page) -> None:
    """A firm's own Naveta (the demo warns of nothing) says on any page that there is no backup, and leads to where one is
    made."""
    page.route("**/api/session", lambda route: route.fulfill(json={**route.fetch().json(), "demo": False}))
    page.goto("/fleet")
    expect(page.locator("[data-keeping]")).to_contain_text("There is no backup yet.")
    page.locator("[data-keeping]").get_by_role("link", name="Safe keeping").click()
    page.wait_for_url("**/settings/safe-keeping")


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
    page.locator("[data-file]").wait_for(timeout=60_000)
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
    expect(page.locator("[data-restored=true]")).to_contain_text("The last restore was done", timeout=240_000)
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
        env=demo_environment(data, _free_port()),
        capture_output=True,
        text=True,
        timeout=60,
        check=False,
    )
    assert second.returncode != 0
    assert "Another Naveta serves from" in second.stderr
    context.close()
