"""`make pictures`: the main views, from the demo's data with its clock stopped, into docs/screenshots/.

Serves the demo from a folder of its own, walks to each view, and takes it at the size it is meant for.
"""

from __future__ import annotations

import os
import random
import shutil
import subprocess
import sys
import tempfile
import time
import urllib.request
from pathlib import Path

from playwright.sync_api import Browser, Page, sync_playwright

from naveta_sim import simulate

ROOT = Path(__file__).resolve().parents[1]
SHOTS = ROOT / "docs/screenshots"
NOW = "2027-03-02T06:40:00+00:00"
PORT = "8041"
FLAGS = "--no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-sync"


def main() -> None:
    environment = {**os.environ, "NAVETA_DATA": tempfile.mkdtemp(), "NAVETA_NOW": NOW, "NAVETA_PORT": PORT}
    served = subprocess.Popen([sys.executable, "-m", "demo.run"], cwd=ROOT, env=environment)
    try:
        _wait()
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(
                executable_path=shutil.which("chromium-headless-shell"), args=FLAGS.split()
            )
            for take in VIEWS:
                take(browser)
            browser.close()
    finally:
        served.terminate()


def _wait() -> None:
    for _ in range(300):
        try:
            urllib.request.urlopen(f"http://127.0.0.1:{PORT}/api/session", timeout=2)
            return
        except OSError:
            time.sleep(0.3)
    raise SystemExit("the demo did not answer")


def _page(browser: Browser, width: int, height: int, *, touch: bool = False, who: str = "Tam Brandreth") -> Page:
    context = browser.new_context(
        viewport={"width": width, "height": height},
        has_touch=touch,
        is_mobile=touch,
        locale="en-GB",
        timezone_id="UTC",
        base_url=f"http://127.0.0.1:{PORT}",
    )
    page = context.new_page()
    page.clock.set_fixed_time(NOW)
    page.goto("/")
    page.get_by_role("button", name=who).click()
    page.wait_for_selector("[data-instrument]")
    return page


def _take(page: Page, name: str) -> None:
    page.wait_for_timeout(500)
    page.screenshot(path=SHOTS / f"{name}.png")
    print(f"  {name}.png")


def _begin(page: Page, tag: str) -> None:
    page.goto(f"/bench/new/{tag}/two-peg")
    page.get_by_role("radio", name="Stays in the ring").click()
    page.get_by_role("radio", name="Returns").click()


def _sheet(page: Page, *sights: str) -> None:
    page.locator("#row-observations-setups-0-a-readings-0").focus()
    for i, sight in enumerate(sights):
        if i:
            page.keyboard.press("Enter")
        page.keyboard.type(sight)
    page.wait_for_selector("[data-fresh=true]")


def _desk(browser: Browser) -> None:
    page = _page(browser, 1280, 800)
    _take(page, "yard")
    _manager(browser)
    page.goto("/instruments/LV-05")
    page.wait_for_selector("[data-trend]")
    _take(page, "instrument")
    page.goto("/instruments/LV-07")
    page.wait_for_selector("[data-stage]")
    page.get_by_role("link", name="Adjust or review").click()
    page.wait_for_selector("[data-step=adjust] .number-field")
    page.locator("#reads-now").fill("2.0110")
    page.keyboard.press("Enter")
    _take(page, "record")
    _begin(page, "LV-11")
    page.get_by_role("button", name="Start reading").click()
    _sheet(page, "1.6412;1.6410;1.6413;1.6411", "1.3907;1.3905;1.3906;1.3906", "1.5730;1.5733")
    _take(page, "bench")


def _manager(browser: Browser) -> None:
    """The whole fleet to compare, and the plan of what is due."""
    page = _page(browser, 1280, 800, who="Ines Calder")
    _take(page, "fleet")
    page.goto("/plan?crew=all")
    page.wait_for_selector("[data-due]")
    _take(page, "plan")
    page.goto("/plan/jobs/1")
    page.wait_for_selector("[data-take]")
    page.get_by_role("button", name="TS-03, LV-02").click()
    _take(page, "kit")
    page.goto("/ledger?kind=two-peg&grade=adjust")
    page.wait_for_selector("[data-record]")
    _take(page, "ledger")
    page.goto("/settings/safe-keeping")
    page.get_by_role("button", name="Back up now").click()
    page.wait_for_selector("[data-file]")
    page.get_by_role("button", name="Verify all records").click()
    page.wait_for_selector("[data-verified]")
    page.get_by_role("button", name="Close").click()
    _take(page, "safe-keeping")
    _report(page)


def _report(page: Page) -> None:
    """The first page of a check's report, as it is printed."""
    found = page.request.get("/api/ledger?kind=two-peg&grade=adjust&instrument=LV-07&limit=5").json()["records"]
    report = page.request.get(f"/api/records/{found[-1]['id']}/report").body()
    with tempfile.TemporaryDirectory() as folder:
        (Path(folder) / "report.pdf").write_bytes(report)
        command = ["pdftoppm", "-png", "-r", "100", "-singlefile", "-f", "1", "report.pdf", "report"]
        subprocess.run(command, cwd=folder, check=True)
        shutil.copy(Path(folder) / "report.png", SHOTS / "report.png")
    print("  report.png")


def _stand(browser: Browser) -> None:
    """The bubble by the legs."""
    page = _page(browser, 1280, 800)
    page.goto("/set-up")
    page.get_by_role("button", name="TS-03").click()
    page.locator("#mark").fill("PC-14")
    page.wait_for_selector("[data-method=plummet-first]")
    page.get_by_role("radio", name="One plate vial").click()
    page.get_by_role("button", name="Guide me").click()
    for _ in range(4):
        page.wait_for_selector("[data-at-hand][data-fresh=true]")
        page.get_by_role("button", name="Done.").click()
    page.wait_for_selector("[data-at-hand=near][data-fresh=true]")
    page.get_by_role("button", name="On the mark", exact=True).click()
    page.get_by_role("button", name="Next").click()
    page.get_by_role("button", name="Done.").click()
    page.wait_for_selector("[data-at-hand=back-on][data-fresh=true]")
    page.get_by_role("button", name="On the mark", exact=True).click()
    page.get_by_role("button", name="Next").click()
    page.wait_for_selector("[data-at-hand=circular]")
    page.locator("[data-field]").click(position={"x": 80, "y": 150})
    page.wait_for_selector("[data-at-hand=circular][data-advice][data-fresh=true]")
    _take(page, "set-up-legs")


def _phone(browser: Browser) -> None:
    page = _page(browser, 390, 844, touch=True)
    _begin(page, "LV-03")
    page.get_by_role("button", name="Start reading").click()
    _sheet(page, "1.4680;1.4682;1.4684", "1.2104;1.2106")
    _take(page, "phone")


def _orient(browser: Browser) -> None:
    """A free station whose names were swapped, and what may be expected of the work."""
    page = _page(browser, 1280, 800)
    page.goto("/orientation")
    page.get_by_role("button", name="TS-03").click()
    page.get_by_role("radio", name="Free station").click()
    page.get_by_role("button", name="Start with the first sight").click()
    page.locator("#instrument-height").fill("1.550")
    for i, (point, *read) in enumerate(SIGHTS):
        if i:
            page.get_by_role("button", name="One more sight").click()
        page.locator("[data-pick-point] input").fill(point)
        for name, text in zip(("hz", "v", "slope_distance", "target_height"), read, strict=True):
            page.locator(f"#shot-{i}-{name}").fill(text)
    page.wait_for_selector("[data-fresh=true] [data-finding=repeat]")
    page.evaluate("scrollTo(0, 0)")
    _take(page, "orientation")
    page.goto("/forecast")
    for name, text in (("back_m", "12"), ("fore_m", "45"), ("elevation_deg", "15"), ("allowed\\.position_mm", "8")):
        page.locator(f"#budget-{name}").fill(text)
    page.wait_for_selector("[data-budget=position][data-enough=false]")
    _take(page, "budget")


SIGHTS = (
    ("QB-1", "36.3057", "89.0045", "98.425", "1.300"),
    ("QB-2", "221.0406", "88.3729", "127.258", "1.300"),
    ("PC-14", "140.4548", "86.4040", "77.830", "1.300"),
    ("QB-4", "203.1814", "93.0039", "28.840", "1.300"),
)
"""Of a stand at the creek; the last two are named the wrong way round."""


def _rows(browser: Browser) -> None:
    """A two-face check."""
    page = _page(browser, 1280, 800)
    _two_face(page)


def _two_face(page: Page) -> None:
    """A level and a steep target, five pointings a face, made up with an error of c and of i."""
    page.goto("/bench/new/TS-03/two-face")
    page.get_by_role("radio", name="Full").click()
    page.get_by_role("button", name="Start reading").click()
    truth = {"c": -7.5, "i": 5.0, "t": 10.0, "noise": 0.8}
    created = simulate("two-face", random.Random(3), truth)["observations"]
    for i, target in enumerate(created["targets"]):
        page.locator(f"#row-observations-targets-{i}-distance_m").fill(target["distance_m"])
        for face in ("left", "right"):
            rows = tuple((entry["hz"], entry["v"]) for entry in target[face])
            _fill(page, f"targets-{i}-{face}", ("hz", "v"), rows)
    _fill(page, "closing", ("hz", "v"), tuple((sight["hz"], sight["v"]) for sight in created["closing"]))
    page.wait_for_selector("[data-fresh=true] [data-finding]")
    page.evaluate("scrollTo(0, 0)")
    _take(page, "two-face")


def _fill(
    page: Page, path: str, names: tuple[str, ...], rows: tuple[tuple[str, ...], ...], *, one: bool = False
) -> None:
    for i, row in enumerate(rows):
        for name, value in zip(names, row, strict=True):
            page.locator(f"#row-observations-{path}{'' if one else f'-{i}'}-{name}").fill(value)


def _practice(browser: Browser) -> None:
    """A trainee's simulated stand, a run afterwards, and three months of practice."""
    page = _page(browser, 1280, 800, who="Jory Pell")
    page.goto("/practice/whole-set-up?n=7")
    page.wait_for_selector("[data-foot=A]", timeout=120_000)
    page.get_by_role("button", name="Switch laser on").click()
    page.get_by_role("button", name="What now?").click()
    page.wait_for_selector("[data-advice]:not(:empty)")
    _take(page, "practice")
    page.goto("/practice/instruments/two-peg?n=3")
    page.wait_for_selector("[data-hair=middle]", state="attached", timeout=120_000)
    page.get_by_label("Focus", exact=True).fill("43")
    page.locator("#row-observations-setups-0-a-readings-0").fill("1.803")
    page.wait_for_timeout(1_000)
    _take(page, "practice-telescope")
    page.goto("/practice/progress")
    page.wait_for_selector("[data-lesson=whole-set-up] svg", timeout=120_000)
    _take(page, "practice-progress")
    found = page.evaluate("fetch('/api/practice/progress').then((answer) => answer.json())")["lessons"]
    run = next(lesson for lesson in found if lesson["lesson"] == "whole-set-up")["recent"][-1]
    page.goto(f"/practice/runs/{run['id']}")
    page.wait_for_selector("[data-replay]", timeout=120_000)
    _take(page, "practice-replay")


VIEWS = (_desk, _rows, _phone, _stand, _orient, _practice)


if __name__ == "__main__":
    main()
