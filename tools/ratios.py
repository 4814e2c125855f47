"""`make bench`: how the server stands, as ratios to an empty call of the same API measured in the same run.

These machines are shared and noisy: the calls are taken in turn, the median of each is compared, and no time is
ever asserted. Also prints the first script's size, gzipped, against what it may be.
"""

from __future__ import annotations

import gzip
import json
import os
import random
import statistics
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
ROUNDS = 150
MAX_SCRIPT_KB = 200
DOCUMENT = {
    "kind": "two-peg",
    "observations": {
        "setups": [
            {
                "a": {"distance": "30", "readings": ["1.8851", "1.8852", "1.8850"]},
                "b": {"distance": "30", "readings": ["1.4020", "1.4021", "1.4019"]},
            },
            {
                "a": {"distance": "56", "readings": ["1.8868", "1.8867", "1.8868"]},
                "b": {"distance": "4", "readings": ["1.4000", "1.4000", "1.4001"]},
            },
        ]
    },
}


def main() -> None:
    os.environ.update(NAVETA_DATA=tempfile.mkdtemp(prefix="naveta-bench-"), NAVETA_DEMO="1")
    os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"
    os.environ.pop("DATABASE_URL", None)
    import django

    django.setup()
    from django.core.management import call_command

    call_command("migrate", verbosity=0)
    calls = _calls()
    for act in calls.values():
        act()
    times: dict[str, list[float]] = {name: [] for name in calls}
    for _ in range(ROUNDS):
        for name, act in calls.items():
            start = time.perf_counter()
            act()
            times[name].append(time.perf_counter() - start)
    medians = {name: statistics.median(all_) for name, all_ in times.items()}
    empty = medians["an empty call"]
    for name, median in medians.items():
        print(f"{name:<44}{median * 1000:8.2f} ms   {median / empty:5.2f} times an empty call")
    _stand(empty)
    _sizes()
    _browser(empty)


def _stand(empty_s: float) -> None:
    """The Stand's mechanism: an act and what is then seen; one advice of each that inverts it."""
    from naveta_core.setup.advisors import advise
    from naveta_core.setup.equipment import Equipment
    from naveta_core.setup.mechanism import move_leg, see, stood, turn_screw
    from naveta_core.setup.tripod import even_feet

    equipment = Equipment()
    state = stood(equipment, even_feet(1.0), 1.4)
    bubble = {"advice": "legs", "bubble": {"bearing_deg": 225, "offset_mm": 3}}
    shift = {"advice": "shift", "move": {"bearing_deg": 40, "distance_mm": 20}}
    calls: dict[str, Callable[[], Any]] = {
        "a leg moved and seen": lambda: see(equipment, move_leg(equipment, state, "B", -5.0)),
        "screws turned and seen": lambda: see(equipment, turn_screw(equipment, state, {1: 0.3, 2: -0.2})),
        "advice: legs": lambda: advise(bubble),
        "advice: shift": lambda: advise(shift),
    }
    for name, call in calls.items():
        took = statistics.median(_once(call) for _ in range(60))
        print(f"{name:<44}{took * 1000:8.2f} ms   {took / empty_s:5.2f} times an empty call")


def _once(call: Callable[[], Any]) -> float:
    started = time.perf_counter()
    call()
    return time.perf_counter() - started


ASK = """async ({ worker, base, text }) => {
  const run = async () => {
    const started = performance.now();
    const one = new Worker(worker, { type: "module" });
    const answered = (want) => new Promise((done) => { one.onmessage = ({ data }) => want(data) && done(data); });
    one.postMessage({ boot: base });
    await answered((data) => data.ready);
    const boot = performance.now() - started;
    const times = [];
    for (let id = 0; id < 300; id += 1) {
      const asked = performance.now();
      one.postMessage({ id, text });
      await answered((data) => data.id === id);
      times.push(performance.now() - asked);
    }
    one.terminate();
    const median = (list) => list.sort((a, b) => a - b)[list.length >> 1];
    return [boot, times[0], median(times.slice(200))];
  };
  return [await run(), await run()];
}"""


def _browser(empty_s: float) -> None:
    """The browser's own core: cold and warm boot, and one preview, beside the server's empty call."""
    import shutil
    import threading
    from functools import partial
    from http.server import SimpleHTTPRequestHandler, ThreadingHTTPServer

    from playwright.sync_api import sync_playwright

    class Quiet(SimpleHTTPRequestHandler):
        def log_message(self, *_: Any) -> None:
            pass

    dist = ROOT / "web/dist"
    server = ThreadingHTTPServer(("127.0.0.1", 0), partial(Quiet, directory=str(dist)))
    threading.Thread(target=server.serve_forever, daemon=True).start()
    folder = json.loads((dist / "core/pack.json").read_text())["folder"]
    worker = next((dist / "assets").glob("worker-*.js")).name
    text = json.dumps({"verb": "preview", "document": DOCUMENT, "at": "2027-03-02T06:40:00+00:00"})
    fields = {"worker": f"/assets/{worker}", "base": f"/core/{folder}/", "text": text}
    flags = ["--no-sandbox", "--disable-gpu", "--disable-background-networking"]
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=flags)
        page = browser.new_page()
        page.goto(f"http://127.0.0.1:{server.server_port}/manifest.webmanifest")
        cold, warm = page.evaluate(ASK, fields)
        browser.close()
    server.shutdown()
    print(
        f"The browser's own core: boot {cold[0] / 1000:.1f} s the first time, {warm[0] / 1000:.1f} s later; the first preview "
        f"{cold[1]:.0f} ms, one of many {cold[2]:.1f} ms, {cold[2] / 1000 / empty_s:.2f} times an empty call of the server."
    )


def _calls() -> dict[str, Callable[[], Any]]:
    """Each call goes through the whole stack: middleware, session, token, API, answer."""
    from django.test import Client

    from config.api import api
    from fleet.models import Instrument, InstrumentModel
    from naveta_core.checks import KINDS
    from naveta_core.registry import parse
    from naveta_sim import simulate
    from people.models import Person

    @api.post("/bench-nothing")
    def nothing(request: Any) -> dict[str, bool]:  # noqa: ARG001  Ninja fixes the signature
        return {"ok": True}

    person = Person.objects.create(username="bench", name="Bench", role="crew")
    model = InstrumentModel.objects.create(maker="Ondine", name="Merrow", kind="level", stated={"reading": "optical"})
    Instrument.objects.create(tag="LV-01", model=model, since="2025-03-01")
    client = Client(enforce_csrf_checks=True, headers={"host": "localhost"})
    client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
    token = client.get("/api/session").json()["csrf_token"]
    raw = json.dumps(DOCUMENT).encode()

    def post(path: str, data: Any) -> Callable[[], Any]:
        body = json.dumps(data).encode()

        def call() -> Any:
            answer = client.post(path, body, content_type="application/json", headers={"x-csrftoken": token})
            assert answer.status_code == 200, answer.content
            return answer

        return call

    def simulated(kind: Any) -> Any:
        return simulate(kind.name, random.Random(1), {"collimation_arcsec": 4.0} if kind.name == "two-peg" else {})

    def core_alone() -> Any:
        document = parse(raw)
        return KINDS["two-peg"].preview(document)

    return {
        "an empty call": post("/api/bench-nothing", {}),
        "preview of a complete two-peg test": post("/api/preview", {"document": DOCUMENT}),
        "the same, of a known level": post("/api/preview", {"instrument": "LV-01", "document": DOCUMENT}),
        **{
            f"preview of {kind.title.lower()}": post("/api/preview", {"document": simulated(kind)})
            for kind in KINDS.values()
        },
        "the core alone: parse, reduce, judge": core_alone,
        "the yard with 2,000 instruments": _yard(client),
    }


def _yard(client: Any) -> Callable[[], Any]:
    """Facts are kept beside each instrument, so the length of its history costs the yard nothing."""
    from fleet.models import Instrument, InstrumentModel
    from naveta_core.checks import KINDS
    from naveta_core.registry import parse

    part = KINDS["two-peg"].reduce(parse(json.dumps(DOCUMENT).encode())).plain()
    at = "2027-02-20T07:00:00+00:00"
    done = {
        "check": "two-peg",
        "at": at,
        "grade": "use",
        "stage": "as-found",
        "codes": [],
        "proved_within_watch": True,
        "finding": part["finding"]["text"],
    }
    latest = {
        "id": "0",
        "value": 1.0,
        "u95": 4.0,
        "limit": 10.0,
        "text": "+1.0″",
        "unit": "arcsec",
        "title": "Two-peg test",
        **done,
    }
    model = InstrumentModel.objects.get()
    Instrument.objects.bulk_create(
        Instrument(
            tag=f"LV-{n}",
            model=model,
            since="2025-03-01",
            derived={"done": [done], "events": [], "latest": latest},
            derived_stamp=str(n),
        )
        for n in range(100, 2100)
    )

    def call() -> Any:
        answer = client.get("/api/fleet")
        assert answer.status_code == 200
        return answer

    return call


def _sizes() -> None:
    assets = ROOT / "web/dist/assets"
    page = (ROOT / "web/dist/index.html").read_text()
    first = [path for path in assets.glob("*.js") if path.name in page]
    size = sum(len(gzip.compress(path.read_bytes())) for path in first) / 1000
    everything = sum(len(gzip.compress(path.read_bytes())) for path in assets.glob("*.js")) / 1000
    print(f"First script {size:.0f} kB gzipped (at most {MAX_SCRIPT_KB}); all scripts {everything:.0f} kB.")
    if size > MAX_SCRIPT_KB:
        sys.exit(f"The first script is larger than {MAX_SCRIPT_KB} kB.")


if __name__ == "__main__":
    main()
