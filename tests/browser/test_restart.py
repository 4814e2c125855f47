"""The browser closed and opened again where there is no signal; Naveta as something installed."""

from __future__ import annotations

import re
import shutil
from pathlib import Path

from playwright.sync_api import Page, Playwright, expect

from tests.written_demo import NOW

from .conftest import CORE_MS, DELAYS, DESK, FLAGS, PATIENCE_MS, Opens, begin, sheet, until
from .test_alone import ready
from .test_signal import on_device, records_of

KEPT = """async (pattern) => {
  const held = (await (await caches.open('naveta-data')).keys()).map((one) => one.url);
  return held.filter((url) => new RegExp(pattern).test(url));
}"""


def _started(playwright: Playwright, profile: Path, server_url: str, *, offline: bool) -> Page:
    context = playwright.chromium.launch_persistent_context(
        profile,
        executable_path=shutil.which("chromium-headless-shell"),
        args=FLAGS,
        viewport={"width": DESK[0], "height": DESK[1]},
        locale="en-GB",
        timezone_id="UTC",
        base_url=server_url,
        offline=offline,
    )
    context.add_init_script(DELAYS)
    page = context.pages[0]
    page.clock.set_fixed_time(NOW)
    page.set_default_timeout(PATIENCE_MS)
    page.goto("/")
    return page


def arrived(page: Page, tag: str, count: int) -> None:
    """Wait until so many checks are on record: what was made offline is sent in the background."""
    address = f"/api/records?instrument={tag}&category=check&limit=5"
    until(page, f"async () => (await (await fetch('{address}')).json()).records.length", count)


def test_a_browser_started_again_without_signal(
    playwright: Playwright, server_url: str, level: str, tmp_path: Path
) -> None:
    """Opened once on the server; begun, closed, opened on the slope, finished, closed; on the server it arrives once."""
    page = _started(playwright, tmp_path, server_url, offline=False)
    page.get_by_role("button", name="Tam Brandreth").click()
    on_device(page)
    ready(page)
    page.wait_for_function("() => document.documentElement.dataset.coreStored", timeout=CORE_MS)
    begin(page, level)
    sheet(page, "1.8851;1.8852", "1.4020;1.4021")
    page.wait_for_selector("[data-fresh=true]")
    before, draft = records_of(page, level), page.url
    page.context.close()

    page = _started(playwright, tmp_path, server_url, offline=True)
    page.goto(f"/fleet?q={level}")
    expect(page.locator(f"[data-instrument={level}]")).to_be_visible()
    page.goto(draft)
    expect(page.locator("#row-observations-setups-0-b-readings-1")).to_have_value("1.4021")
    ready(page)
    page.locator("#row-observations-setups-1-a-readings-0").focus()
    sheet(page, "1.8868;1.8867", "1.4000;1.4001")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-waits=waiting]")).to_be_visible()
    page.context.close()

    page = _started(playwright, tmp_path, server_url, offline=False)
    page.goto(f"/fleet?q={level}")
    expect(page.locator(f"[data-instrument={level}]")).to_be_visible()
    page.goto("/bench")
    expect(page.get_by_label("Begin a check").get_by_role("searchbox", name="Find an instrument")).to_be_visible()
    expect(page.locator("[data-outbox]")).to_have_count(0)
    arrived(page, level, len(before) + 1)
    after = records_of(page, level)
    assert page.request.get(f"/api/records/{after[0]}").json()["device"]["agrees"]
    page.context.close()


def test_what_the_crew_holds_is_there_before_it_was_looked_at(opens: Opens) -> None:
    """The history of an instrument and one's own last records, neither ever opened on this device."""
    page = opens(away=True)
    # A level that the crew holds whatever other walks did: others stand among the first of the fleet only at times.
    rows = page.request.get("/api/fleet").json()["rows"]
    tag = next(
        row["tag"] for row in rows if row["crew"] == "Bramble" and (row["latest"] or {}).get("check") == "two-peg"
    )
    on_device(page)
    until(page, f"() => ({KEPT})('instrument={tag}').then((one) => one.length)", 1, CORE_MS)
    until(page, f"() => ({KEPT})('{tag}/history').then((one) => one.length)", 1, CORE_MS)
    until(page, f"() => ({KEPT})('/api/records/[0-9a-f-]{{36}}$').then((one) => one.length > 5)", True, CORE_MS)
    kept = page.evaluate(KEPT, "/api/records/[0-9a-f-]{36}$")
    page.context.set_offline(True)
    page.goto(f"/instruments/{tag}")
    expect(page.get_by_role("group", name=re.compile(r"\d+ findings against the limit"))).to_be_visible()
    expect(page.locator("[data-record=two-peg]").first).to_be_visible()
    page.goto(f"/records/{kept[0].rsplit('/', 1)[1]}")
    expect(page.locator("[data-finding]")).to_be_visible()
    expect(page.get_by_text(re.compile("What you see is as of "))).to_be_visible()


def test_what_it_is_as_of_is_given_by_the_servers_clock(opens: Opens) -> None:
    """The server stands still on 2 March 2027; the device's service worker goes by today's date."""
    page = opens(away=True)
    on_device(page)
    page.context.set_offline(True)
    page.reload()
    expect(page.get_by_text("What you see is as of 2 Mar 2027, 06:40.")).to_be_visible()
