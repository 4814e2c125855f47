"""No signal, an ended session, a shared tablet: nothing typed is lost, and what is saved arrives once."""

from __future__ import annotations

import http.client
import re
import time

from playwright.sync_api import Page, expect

from .conftest import Opens, begin, finding, sheet, switch_user, until

OUTBOX = "() => new Promise(done => { const r = indexedDB.open('naveta'); r.onsuccess = () => { const q = r.result.transaction('outbox').objectStore('outbox').count(); q.onsuccess = () => done(q.result); }; })"


HELD = """async () => {
  if (!navigator.serviceWorker.controller) return false;
  const held = (await (await caches.open('naveta-data')).keys()).map((one) => one.url);
  return %s.every((part) => held.some((url) => url.includes(part)));
}"""


def on_device(page: Page, *tags: str) -> None:
    """Wait until shell, session, kinds, yard and these instruments are on the device: without a reload, on the first visit."""
    parts = ["/api/session", "/api/kinds", "/api/fleet", *(f"/api/instruments/{tag}" for tag in tags)]
    until(page, HELD % parts)


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


def test_a_session_that_ends_stores_what_is_typed(opens: Opens, level: str) -> None:
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852")
    page.wait_for_selector("[data-fresh=true]")
    page.context.clear_cookies(name="sessionid")
    # At once, not key by key: the answer to the first keys opens the dialog, which takes the rest.
    page.locator("#row-observations-setups-1-b-readings-0").fill("1.4001")
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog).to_contain_text("Your entries are kept")
    dialog.get_by_role("button", name="Tam Brandreth").click()
    expect(dialog).to_have_count(0)
    expect(page.locator("#row-observations-setups-1-b-readings-0")).to_have_value("1.4001")
    page.locator("#row-observations-setups-1-b-readings-0").fill("1.4002")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")


def test_a_trainee_leaves_it_for_the_chief_who_saves_it(opens: Opens, level: str) -> None:
    page = opens(who="Jory Pell")
    begin(page, level)
    sheet(page, "1.8851;1.8852", "1.4020;1.4021", "1.8841;1.8842", "1.4012;1.4011")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    expect(page.get_by_role("button", name="Save as found")).to_have_attribute("aria-disabled", "true")
    expect(page.get_by_text("A crew chief saves it; the record names you both.")).to_be_visible()
    page.get_by_role("button", name="Leave it for my crew chief").click()
    switch_user(page)
    page.get_by_role("button", name="Tam Brandreth").click()
    page.get_by_role("link", name="Bench").click()
    expect(page.get_by_label("Open checks")).to_contain_text("Left by jory")
    page.get_by_role("link", name="Go on").first.click()
    finding(page, "use")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    expect(page.get_by_text("Jory Pell, saved by Tam Brandreth.")).to_be_visible()


def test_a_refused_check_stays_with_its_reason_and_opens_again(opens: Opens, level: str) -> None:
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.clock.set_fixed_time(
        "2020-01-01T00:00:00Z"
    )  # this device's clock is years behind, before the level was bought
    page.get_by_role("button", name="Save as found").click()
    refused = page.locator("[data-outbox=refused]")
    expect(refused).to_contain_text("is this device's clock right?")
    refused.get_by_role("button", name="Open again").click()
    expect(page.locator("#row-observations-setups-1-b-readings-0")).to_have_value("1.4021")


def test_while_two_clocks_disagree_it_waits_with_the_reason(opens: Opens, level: str) -> None:
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.clock.set_fixed_time("2029-01-01T00:00:00Z")
    page.get_by_role("button", name="Save as found").click()
    expect(page.get_by_role("status").filter(has_text="waiting to be sent")).to_contain_text(
        "one of the two clocks is wrong"
    )


def test_the_same_id_with_other_content_is_refused(opens: Opens, level: str) -> None:
    """Two devices that made the same id, or a tampered outbox: the first stays, the second is given so."""
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    identity = page.url.rsplit("/", 1)[1]
    session = page.request.get("/api/session").json()
    stored = page.request.get(f"/api/records/{identity}").json()
    document = {key: stored["document"][key] for key in ("kind", "units", "observations")}
    document["observations"]["setups"][0]["a"]["readings"] = ["1.8"]
    answer = page.request.put(
        f"/api/checks/{identity}",
        data={"instrument": level, "observed_at": stored["observed_at"], "document": document},
        headers={"X-CSRFToken": session["csrf_token"], "Referer": page.url},
    )
    assert (answer.status, answer.json()["code"]) == (409, "other-content")
    page.reload()
    expect(page.get_by_label("Readings")).to_contain_text("1.8851")


def test_a_connection_is_kept_while_somebody_reads_the_staff(server_url: str) -> None:
    """After two seconds, as before, each reading on a slow line needed a new connection, and a request sent as the server
    closed the old one was lost."""
    line = http.client.HTTPConnection(server_url.removeprefix("http://"), timeout=60)
    line.request("GET", "/api/session")
    first = line.getresponse()
    assert (first.status, first.will_close) == (200, False)
    first.read()
    held = line.sock
    time.sleep(6)
    line.request("GET", "/api/session")
    assert line.getresponse().status == 200
    assert line.sock is held is not None
    line.close()
