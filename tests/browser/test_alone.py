"""The browser's own core: a whole check with the network off, agreement with the server, and everything that can go wrong."""

from __future__ import annotations

import json
import random
import re
from datetime import timedelta
from typing import Any

from playwright.sync_api import Page, expect

from naveta_core.checks import KINDS
from naveta_core.dispatch import answer
from naveta_core.documents.fingerprint import fingerprint
from naveta_sim import simulate
from tests.amount import EVERYTHING
from tests.written_demo import NOW, ROOT

from .conftest import CORE_MS, Opens, begin, finding, sheet, switch_user
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
    page.wait_for_function("() => document.documentElement.dataset.core === 'ready'", timeout=CORE_MS)


def questions() -> list[dict[str, Any]]:
    """Every example, and (all of them where everything is run) hundreds of made-up documents of every kind: whole, part-filled, and spoiled."""
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
    made = [*rows, *orientations(rng, AT), *set_ups(rng, AT), *advice(rng)]
    return made if EVERYTHING else made[::5]


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
    assert sum(bool(entry["ok"] and entry["data"].get("complete")) for entry in here) > len(here) / 8
    assert [entry for entry in here if entry.get("code") == "our-fault"] == [], "nothing falls over"
    for entry, other in zip(here, there, strict=True):
        assert entry["ok"] == other["ok"]
        assert fingerprint(entry) == fingerprint(other)


def test_a_whole_check_with_the_network_off(opens: Opens, level: str) -> None:
    """From tag to outbox to as left, a reload in between; on the server each record once, in order, and both agree."""
    page = opens(core=True)
    on_device(page, level)
    ready(page)
    page.wait_for_function("() => document.documentElement.dataset.coreStored", timeout=CORE_MS)
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
    page = opens(core=True, delays="workerAnswer: 2_000, workerAgain: 0")
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
