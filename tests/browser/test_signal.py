"""No signal, an ended session, a shared tablet: nothing typed is lost, and what is saved arrives once."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from .conftest import CORE_MS, Opens, begin, sheet, until

OUTBOX = "() => new Promise(done => { const r = indexedDB.open('naveta'); r.onsuccess = () => { const q = r.result.transaction('outbox').objectStore('outbox').count(); q.onsuccess = () => done(q.result); }; })"


HELD = """async () => {
  if (!navigator.serviceWorker.controller) return false;
  const held = (await (await caches.open('naveta-data')).keys()).map((one) => one.url);
  return %s.every((part) => held.some((url) => url.includes(part)));
}"""


def on_device(page: Page, *tags: str) -> None:
    """Wait until shell, session, kinds, yard and these instruments are on the device: without a reload, on the first visit."""
    parts = ["/api/session", "/api/kinds", "/api/fleet", *(f"/api/instruments/{tag}" for tag in tags)]
    until(page, HELD % parts, True, CORE_MS)


def records_of(page: Page, tag: str) -> list[str]:
    answer = page.request.get(f"/api/records?instrument={tag}&category=check&limit=5")
    return [record["id"] for record in answer.json()["records"]]


def test_finished_without_signal_and_on_record_once(opens: Opens, level: str) -> None:
    page = opens(away=True)
    on_device(page)
    page.goto(f"/instruments/{level}")
    page.wait_for_selector("[data-standing=check-first]")
    before = records_of(page, level)
    begin(page, level)
    sheet(page, "1.8851", "1.4020")
    expect(page.get_by_text("Next: second set-up, staff A")).to_be_visible()
    page.context.set_offline(True)
    page.keyboard.press("Enter")
    sheet(page, "1.8868", "1.4000")
    expect(page.get_by_text("Offline. Your readings are stored on this device.").first).to_be_visible()
    page.reload()
    expect(page.locator("#row-observations-setups-1-b-readings-0")).to_have_value("1.4000")
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-outbox=waiting]")).to_contain_text(f"Two-peg test of {level}")
    page.reload()
    expect(page.get_by_text("1 item waiting to be sent.")).to_be_visible()
    page.goto(f"/fleet?q={level}")
    expect(page.locator(f"[data-instrument={level}]")).to_be_visible()  # the yard as it was last seen
    page.context.set_offline(False)
    until(page, OUTBOX, 0)
    after = records_of(page, level)
    assert len(after) == len(before) + 1
    page.goto(f"/records/{after[0]}")
    expect(page.locator("[data-finding]")).to_contain_text("Line of sight 13.8″ up")
