"""The browser's own core: a whole check with the network off, agreement with the server, and everything that can go wrong."""

from __future__ import annotations

import json
import random
import re
from datetime import timedelta
from typing import Any

import pytest
from playwright.sync_api import Page, Route, expect

from naveta_core.checks import KINDS
from naveta_core.dispatch import answer
from naveta_core.documents.fingerprint import fingerprint
from naveta_sim import simulate

from .conftest import NOW, ROOT, Opens, begin, finding, sheet, switch_user
from .questions import advice, orientations, set_ups
from .test_signal import on_device, records_of

AT = NOW.isoformat()
ASK = """async ({ worker, base, texts }) => {
  const one = new Worker(worker, { type: "module" });
  const answered = (want) => new Promise((done, fail) => {
    one.onerror = () => fail(new Error("the worker fell over"));
    one.onmessage = ({ data }) => (data.failed ? fail(new Error(data.failed)) : want(data) && done(data));
  });
  one.postMessage({ boot: base });
  const { ms } = await answered((data) => data.ready);
  const answers = [];
  const started = performance.now();
  for (const [id, text] of texts.entries()) {
    one.postMessage({ id, text });
    answers.push((await answered((data) => data.id === id)).text);
  }
  one.terminate();
  return { answers, ms, each: (performance.now() - started) / texts.length };
}"""


def ready(page: Page) -> None:
    """Wait until the browser's own core answers."""
    page.wait_for_function("() => document.documentElement.dataset.core === 'ready'", timeout=90_000)


def questions() -> list[dict[str, Any]]:
    """Every example, and hundreds of made-up documents of every kind: whole, part-filled, and spoiled."""
    rng = random.Random(20270302)
    rows = [
        {"verb": "preview", "document": json.loads(path.read_text())["document"], "at": AT}
        for path in sorted((ROOT / "tests/core/examples").glob("*.json"))
    ]
    for kind in KINDS.values():
        for _ in range(240 if kind.name == "two-peg" else 40):
            truth = {
                "collimation_arcsec": rng.gauss(0, 25),
                "readings": rng.randrange(1, 7),
                "noise": rng.choice((0.5, 1.0, 3.0)),
                "instrument": {"reading": rng.choice(("optical", "digital", "micrometer"))},
            }
            document = simulate(kind.name, rng, truth)
            setups = document["observations"].get("setups", [])
            spoil = rng.random()
            if not setups:
                document["instrument"] = {"angle_accuracy_arcsec": rng.choice((1, 3, 5))}
            elif spoil < 0.15:
                setups[-1]["b"].pop("readings")
            elif spoil < 0.3:
                setups[0]["a"]["readings"][0] = rng.choice(("1.4.2", "1_4", "91.4", "1,5", "5'3 1/4\"", ""))
            elif spoil < 0.4:
                document["units"] = {"length": rng.choice(("ft", "usft", "cm"))}
            fields = {"stated": truth["instrument"], "limits": {}, "history": []} if rng.random() < 0.5 else None
            rows.append({"verb": "preview", "document": document, "instrument": fields, "at": AT})
    return [*rows, *orientations(rng, AT), *set_ups(rng, AT), *advice(rng)]


def test_server_and_browser_give_the_same_answers(opens: Opens, server_url: str) -> None:
    """Equal text but for a figure's last bits, measured here; the fingerprints are equal without exception."""
    page = opens(who=None, core=True)
    strangers: list[str] = []
    page.on(
        "request", lambda entry: entry.url.startswith((server_url, "data:", "blob:")) or strangers.append(entry.url)
    )
    folder = json.loads((ROOT / "web/public/core/pack.json").read_text())["folder"]
    (worker,) = (ROOT / "web/dist/assets").glob("worker-*.js")
    rows = [json.dumps(question) for question in questions()]
    value = page.evaluate(ASK, {"worker": f"/assets/{worker.name}", "base": f"/core/{folder}/", "texts": rows})
    there = [json.loads(text) for text in value["answers"]]
    here = [json.loads(answer(text)) for text in rows]
    exact = sum(entry == other for entry, other in zip(here, there, strict=True))
    print(
        f"\n{exact} of {len(here)} answers are equal to the last bit; boot {value['ms']:.0f} ms, each {value['each']:.1f} ms."
    )
    assert strangers == [], "everything comes from the server"
    assert sum(entry["ok"] for entry in here) > 250
    assert sum(bool(entry["ok"] and entry["data"].get("complete")) for entry in here) > 250
    assert [entry for entry in here if entry.get("code") == "our-fault"] == [], "nothing falls over"
    for entry, other in zip(here, there, strict=True):
        assert entry["ok"] == other["ok"]
        assert fingerprint(entry) == fingerprint(other)


def test_a_whole_check_with_the_network_off(opens: Opens, level: str) -> None:
    """From tag to outbox to as left, a reload in between; on the server each record once, in order, and both agree."""
    page = opens(core=True)
    on_device(page, level)
    ready(page)
    page.wait_for_function("() => document.documentElement.dataset.coreStored")
    page.context.set_offline(True)
    begin(page, level)
    sheet(page, "1.4680;1.4681", "1.2105;1.2106", "1.5170;1.5171")
    page.reload()
    expect(page.get_by_text(re.compile("What you see is as of "))).to_be_visible()
    ready(page)
    page.locator("#row-observations-setups-1-b-readings-0").focus()
    page.keyboard.type("1.2515;1.2515")
    finding(page, "adjust")
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-waits=waiting]")).to_contain_text("Stored on this device")
    expect(page.locator("[data-finding=adjust]")).to_be_visible()
    target = page.get_by_text(re.compile(r"Bring staff A from 1\.517\d+ to (\d\.\d+)")).inner_text()
    now = page.get_by_label("Staff A reads now", exact=True)
    now.fill(re.search(r"to (\d\.\d+)", target).group(1))  # type: ignore[union-attr]
    now.press("Enter")
    expect(page.locator("[data-done]")).to_be_visible()
    page.get_by_role("button", name="Test again, as left").click()
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    sheet(page, "1.4680;1.4681", "1.2105;1.2106", "1.5092;1.5092", "1.2515;1.2515")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as left").click()
    expect(page.locator("[data-waits=waiting]")).to_be_visible()
    page.goto("/bench")
    expect(page.locator("[data-outbox=waiting]")).to_have_count(3)
    page.context.set_offline(False)
    expect(page.locator("[data-outbox]")).to_have_count(0)
    after = page.request.get(f"/api/records?instrument={level}&limit=3").json()["records"]
    assert [entry["kind"] for entry in after] == ["two-peg", "adjusted", "two-peg"]
    assert [entry["stage"] for entry in after] == ["as-left", "", "as-found"]
    assert after[0]["pair"] == after[2]["id"]
    assert len(records_of(page, level)) == 2
    for entry in (after[0], after[2]):
        whole = page.request.get(f"/api/records/{entry['id']}").json()
        assert whole["device"]["agrees"], whole["device"]
        assert whole["broken"] is None


def test_a_worker_that_dies_in_the_middle_is_not_noticed(opens: Opens) -> None:
    page = opens(core=True)
    ready(page)
    begin(page, "LV-03")
    sheet(page, "1.8851", "1.4020", "1.8868")
    page.workers[0].evaluate("() => { self.onmessage = () => undefined; }")  # hears, and never answers again
    page.keyboard.press("Enter")
    page.keyboard.type("1.4000")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    ready(page)  # another one has been started
    page.keyboard.type(";1.4001")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")


def test_a_browser_that_cannot_asks_the_server(opens: Opens) -> None:
    page = opens()
    begin(page, "LV-03")
    sheet(page, "1.8851", "1.4020", "1.8868", "1.4000")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    assert page.evaluate("() => document.documentElement.dataset.core ?? 'off'") == "off"


def test_a_full_device_says_so_while_it_is_typed(opens: Opens) -> None:
    page = opens()
    begin(page, "LV-03")
    page.evaluate(
        "() => { IDBObjectStore.prototype.put = () => { throw new DOMException('full', 'QuotaExceededError'); }; }"
    )
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    expect(page.locator("[data-no-room]")).to_contain_text("Device storage is full")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    expect(page.get_by_text("your readings are still here")).to_be_visible()
    expect(page.locator("#row-observations-setups-1-b-readings-0")).to_have_value("1.4021")


def test_storage_that_was_cleared_is_said(opens: Opens) -> None:
    page = opens()
    begin(page, "LV-03")
    sheet(page, "1.8851")
    page.goto("/api/session")  # no page of ours holds the storage open
    page.evaluate(
        """() => new Promise((done, failed) => {
          localStorage.clear();
          Object.assign(indexedDB.deleteDatabase('naveta'), { onsuccess: done, onerror: failed });
        })"""
    )
    page.goto("/bench/11111111-1111-4111-8111-111111111111")
    expect(page.get_by_role("heading", level=1)).to_contain_text("not on this device")
    expect(page.get_by_text("storage was cleared")).to_be_visible()


def test_a_clock_that_is_hours_off_is_said_and_noted(opens: Opens, level: str) -> None:
    page = opens()
    page.clock.set_fixed_time(NOW - timedelta(hours=3))
    page.reload()
    expect(page.get_by_text("This device's clock is 3 hours behind")).to_be_visible()
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-device=clock-off]")).to_contain_text("3 hours behind")


@pytest.mark.parametrize(("status", "code", "kept"), [(500, "our-fault", "waiting"), (409, "other-content", "refused")])
def test_an_answer_that_is_no_success_leaves_everything_here(
    opens: Opens, status: int, code: str, kept: str, level: str
) -> None:
    page = opens(core=kept == "waiting")

    def fail(route: Route) -> None:
        body = {
            "type": "about:blank",
            "title": "Of this id, with other content.",
            "status": status,
            "code": code,
            "faults": [],
        }
        route.fulfill(status=status, content_type="application/problem+json", body=json.dumps(body))

    page.route("**/api/checks/*-*", fail)
    if kept == "waiting":
        ready(page)
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.get_by_role("button", name="Save as found").click()
    if kept == "waiting":
        expect(page.locator("[data-waits=waiting]")).to_contain_text("Stored on this device")
        page.get_by_role("link", name="View outbox").click()
    item = page.locator(f"[data-outbox={kept}]")
    expect(item).to_contain_text("Line of sight" if kept == "waiting" else "with other content")
    page.unroute("**/api/checks/*-*")
    if kept == "waiting":
        page.get_by_role("button", name="Send now").click()
        expect(page.locator("[data-outbox]")).to_have_count(0)
    else:
        item.get_by_role("button", name="Open again").click()
        expect(page.locator("#row-observations-setups-1-b-readings-0")).to_have_value("1.4021")


def test_a_session_that_ended_while_away_sends_after_signing_in(opens: Opens, level: str) -> None:
    page = opens(away=True)
    on_device(page)
    begin(page, level)
    sheet(page, "1.8851", "1.4020", "1.8852", "1.4021")
    page.wait_for_selector("[data-complete=true][data-fresh=true]")
    page.context.set_offline(True)
    page.get_by_role("button", name="Save as found").click()
    expect(page.locator("[data-outbox=waiting]")).to_be_visible()
    page.context.clear_cookies(name="sessionid")
    page.context.set_offline(False)
    dialog = page.get_by_role("dialog", name="Sign in again")
    expect(dialog).to_be_visible()
    dialog.get_by_role("button", name="Tam Brandreth").click()
    expect(page.locator("[data-outbox]")).to_have_count(0)


def test_the_next_person_on_the_tablet_reads_nothing_of_the_last(opens: Opens, level: str) -> None:
    page = opens()
    begin(page, level)
    sheet(page, "1.8851", "1.4020")
    address = page.url
    switch_user(page)
    page.get_by_role("button", name="Wren Adair").click()
    page.wait_for_selector("[data-instrument]")
    page.goto(address)
    expect(page.get_by_role("heading", level=1)).to_contain_text("not on this device")
    raw = page.evaluate("() => JSON.stringify(localStorage)")
    assert "1.8851" not in raw
    switch_user(page)
    page.get_by_role("button", name="Tam Brandreth").click()
    page.wait_for_selector("[data-instrument]")
    page.goto(address)
    expect(page.locator("#row-observations-setups-0-a-readings-0")).to_have_value("1.8851")
    page.context.set_offline(True)
    switch_user(page)
    expect(page.get_by_text("Switching user needs a connection")).to_be_visible()
