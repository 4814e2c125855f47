"""Readings that arrive: stand-ins with hidden errors, the bridge, and a sheet that nobody types into."""

from __future__ import annotations

import math
import random
import re
import subprocess
import sys
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from naveta_core.devices.lines import written_line
from naveta_core.setup.mechanism import stood, turn_screw
from naveta_core.setup.tripod import even_feet
from naveta_practice.devices import LevelStandIn, yard_of
from tests.written_demo import ROOT

from .conftest import CORE_MS, PHONE, Opens, begin, until, visit
from .set_up_crew import WORLD, Crew
from .set_up_crew import begin as begin_set_up

SEED = 4


class Yard:
    """Stand-ins that shoot when somebody presses, and a bridge in front of them."""

    def __init__(self) -> None:
        self.shown: list[str] = []
        self.stand_ins = self._start(
            "naveta_practice.serving", "serve", "--by-hand", "--seed", str(SEED), "--port", "0"
        )
        self.ports = [int(self._line(self.stand_ins).rsplit(" ", 1)[1]) for _ in range(3)]
        self.bridge_port = 0
        self.bridge: subprocess.Popen[str] | None = None
        self.connect_bridge()

    def _start(self, *command: str) -> subprocess.Popen[str]:
        return subprocess.Popen(
            [sys.executable, "-m", *command], cwd=ROOT, text=True, stdin=subprocess.PIPE, stdout=subprocess.PIPE
        )

    @staticmethod
    def _line(process: subprocess.Popen[str]) -> str:
        assert process.stdout
        return process.stdout.readline()

    def connect_bridge(self) -> None:
        sources = [f"tcp:127.0.0.1:{port}" for port in self.ports]
        self.bridge = self._start("bridge", *sources, "--port", str(self.bridge_port))
        said = self._line(self.bridge)
        assert said.startswith("bridge:"), said
        self.bridge_port = int(said.rsplit(":", 1)[1])

    def cut(self) -> None:
        assert self.bridge
        self.bridge.kill()
        self.bridge.wait(timeout=10)

    def press(self, device: int, times: int = 1) -> None:
        assert self.stand_ins.stdin
        for _ in range(times):
            self.stand_ins.stdin.write(f"{device}\n")
            self.stand_ins.stdin.flush()
            self.shown.append(self._line(self.stand_ins))

    def tilt(self, along: str, across: str) -> None:
        assert self.stand_ins.stdin
        self.stand_ins.stdin.write(f"3 tilt {along} {across}\n")
        self.stand_ins.stdin.flush()
        assert self._line(self.stand_ins).endswith("is tilted\n")

    def stop(self) -> None:
        for process in (self.stand_ins, self.bridge):
            if process:
                process.kill()
                process.wait(timeout=10)


@pytest.fixture
def yard() -> Iterator[Yard]:
    found = Yard()
    yield found
    found.stop()


def connect(page: Page, yard: Yard) -> None:
    page.locator("[data-link]").click()
    page.get_by_label("Bridge", exact=False).fill(f"ws://127.0.0.1:{yard.bridge_port}")
    page.get_by_role("button", name="Connect to the bridge").click()
    page.get_by_text("tcp:127.0.0.1", exact=False).first.wait_for()
    page.keyboard.press("Escape")
    # The electronic level sends all the time: once its name is there, the browser's own core reads.
    expect(page.locator("[data-link=connected]")).to_contain_text(
        re.compile("electronic-level-1|devices"), timeout=CORE_MS
    )


def arrived(page: Page, count: int) -> None:
    """The first reading waits until the browser's own core stands."""
    try:
        until(page, "Number(document.querySelector('[data-count]')?.dataset.count)", count, CORE_MS)
    except AssertionError as late:
        shown = [page.locator(each).inner_text() for each in ("[data-link]", "[data-count]")]
        raise AssertionError(f"{late}; the page says {shown}") from late


def value(page: Page, path: str) -> str:
    return page.locator(f"#row-{re.sub(r'[^a-z0-9_]+', '-', path).rstrip('-')}").input_value()


def sent(yard: Yard, member: str = "value") -> list[str]:
    return re.findall(rf'"{member}":"([^"]+)"', "".join(yard.shown))


def test_a_two_peg_test_is_filled_by_a_level_with_the_link_cut_in_between(opens: Opens, yard: Yard, level: str) -> None:
    page = opens(core=True)
    begin(page, level)
    connect(page, yard)
    yard.press(1)
    arrived(page, 1)
    expect(page.get_by_label("Readings that arrive")).to_contain_text("from level-1")
    # Taken back, and shot again: the reading after it goes into the same cell.
    page.get_by_label("Readings that arrive").get_by_role("button", name="Undo").click()
    assert value(page, "observations.setups[0].a.readings[0]") == ""
    page.locator("#row-observations-setups-0-a-readings-0").fill(sent(yard)[0])
    yard.press(1)
    arrived(page, 1)
    yard.cut()
    expect(page.locator("[data-link=lost]")).to_be_visible()
    assert value(page, "observations.setups[0].b.readings[0]") == sent(yard)[1]
    yard.press(1, 2)
    yard.connect_bridge()
    arrived(page, 3)
    read = [value(page, f"observations.setups[{i}].{staff}.readings[0]") for i in (0, 1) for staff in "ab"]
    assert read == sent(yard), "nothing lost, nothing doubled"
    page.wait_for_selector("[data-complete=true][data-fresh=true] [data-finding]")
    yard.press(1)
    expect(page.locator("[data-message=sheet-full]")).to_contain_text("every cell for staff readings is filled")
    page.get_by_role("button", name="Save as found").click()
    page.wait_for_url(re.compile("/records/"))
    record = page.request.get(f"/api{page.url[page.url.index('/records/') :]}").json()
    stand_in = next(device for device in yard_of(SEED) if isinstance(device, LevelStandIn))
    assert record["result"]["result"]["collimation_arcsec"] == pytest.approx(stand_in.collimation_arcsec, abs=6.0)


def test_both_faces_are_filled_by_a_total_station_and_a_wrong_face_is_said(opens: Opens, yard: Yard) -> None:
    page = opens(who="Ines Calder", core=True)
    visit(page, "/bench/new/TS-03/two-face")
    page.get_by_role("radio", name=re.compile("^Full")).click()
    page.get_by_role("button", name="Start reading").click()
    page.get_by_label("Field sheet").wait_for()
    connect(page, yard)
    yard.press(2, 10)
    arrived(page, 20)
    yard.press(2)
    arrived(page, 22)
    # Somebody goes to a cell of face left; the instrument is in face right still.
    page.get_by_label("Readings that arrive").get_by_role("button", name="Undo").click()
    for circle in ("hz", "v"):
        page.locator(f"#row-observations-targets-0-left-4-{circle}").fill("")
    yard.press(2)
    expect(page.locator("[data-message=other-face]")).to_contain_text("in face right; the next cell is for face left")
    assert value(page, "observations.targets[0].left[4].v") == "", "a shot is placed or left out as one"
    assert value(page, "observations.targets[0].left[4].hz") == ""
    assert value(page, "observations.targets[0].left[0].hz") == sent(yard)[0]
    assert re.fullmatch(r"\d+\.\d{5}", sent(yard)[0]), "as the instrument shows it: ddd.mmsss"


def test_a_sheet_in_gon_says_what_the_station_sends_and_keeps_what_it_had(opens: Opens, yard: Yard) -> None:
    page = opens(who="Ines Calder", core=True)
    visit(page, "/bench/new/TS-03/two-face")
    page.get_by_role("radio", name="gon").click()
    page.get_by_role("button", name="Start reading").click()
    page.get_by_label("Field sheet").wait_for()
    first = page.locator("#row-observations-targets-0-left-0-hz")
    first.fill("16.6850")
    connect(page, yard)
    yard.press(2)
    expect(page.locator("[data-message=other-unit]")).to_contain_text(
        "sends degrees, minutes and seconds, this sheet is read in gon"
    )
    # A device the sheet does not ask is stated once and passed over.
    yard.press(1)
    expect(page.locator("[data-message=not-asked-for]")).to_contain_text("level-1 sends staff readings")
    assert first.input_value() == "16.6850"
    assert page.locator("[data-count]").get_attribute("data-count") == "0"


def test_an_electronic_level_is_live_and_taken_when_one_wants_it(opens: Opens, yard: Yard) -> None:
    page = opens(PHONE, who="Ines Calder", touch=True, core=True)
    visit(page, "/bench/new/TS-03/dual-axis-level")
    page.get_by_role("button", name="Start reading").click()
    page.get_by_label("Field sheet").wait_for()
    connect(page, yard)
    take = page.get_by_role("button", name="Take this reading")
    take.wait_for()
    assert value(page, "observations.readings[0].along_arcsec") == "", "nothing is filled by itself"
    take.click()
    arrived(page, 2)
    along, across = (float(value(page, f"observations.readings[0].{axis}_arcsec")) for axis in ("along", "across"))
    level = yard_of(SEED)[2]
    assert along == pytest.approx(level.along_arcsec, abs=8.0)  # type: ignore[attr-defined]
    assert across == pytest.approx(level.across_arcsec, abs=8.0)  # type: ignore[attr-defined]
    assert value(page, "observations.readings[1].along_arcsec") == ""


FOLLOWED = """(() => {
  const at = document.querySelector('[data-at-hand]');
  const read = at.innerText.match(/axis ([0-9.]+)(″|′)/);
  if (!read) return at.dataset.enough === 'true';
  return Math.abs(read[1] * (read[2] === '′' ? 60 : 1) - WANTED) < 6 + 0.05 * WANTED;
})()"""
"""Whether what the page says is about the tilt it has now: a moment behind the level."""


def test_the_screws_are_guided_by_what_the_level_sends(opens: Opens, yard: Yard) -> None:
    """Nothing is typed: the level follows the screws, the page names screw and sense until it stands."""
    page = opens(core=True)
    begin_set_up(page, "plummet-first")
    page.locator("[data-step=plate]").click()
    page.wait_for_selector("[data-at-hand=plate][data-fresh=true]")
    state = turn_screw(WORLD, stood(WORLD, even_feet(1.0), 1.45), {0: 0.2, 1: -0.12})
    crew = Crew(page, state, random.Random(1))
    yard.tilt(*crew.figures(0.0))
    connect(page, yard)
    turned = 0
    for _ in range(10):
        along, across = (float(figure) for figure in crew.figures(0.0))
        yard.tilt(f"{along}", f"{across}")
        until(page, FOLLOWED.replace("WANTED", f"{math.hypot(along, across):.1f}"))
        if crew.within_tolerance():
            break
        if not crew.advice().get("turns"):
            yard.tilt(*crew.figures(0.0))  # less is left than a hand can turn, and the level wanders
            continue
        expect(page.locator("[data-at-hand]")).to_contain_text("clockwise")
        crew.turn_screws()
        turned += 1
    assert turned, "screw and sense were named"
    assert max(abs(float(figure)) for figure in crew.figures(0.0)) < 30
    assert crew.within_tolerance()
    page.get_by_role("button", name=re.compile("^Next")).first.click()
    page.wait_for_selector("[data-step=plate][data-state=done]")


def test_an_address_where_nobody_answers_is_said_and_left(opens: Opens) -> None:
    page = opens()
    begin(page, "LV-02")
    page.locator("[data-link]").click()
    page.get_by_role("button", name="Connect to the bridge").click()
    expect(page.get_by_role("dialog")).to_contain_text("Nothing answers at this address")
    page.get_by_role("button", name="Disconnect").click()
    expect(page.locator("[data-link=off]")).to_be_visible()


SERIAL = """
const sent = [];
let deliver = (piece) => sent.push(piece);
let take = () => undefined;
window.portSends = (text) => deliver(new TextEncoder().encode(text));
window.portGoes = () => take();
const port = {
  open: async ({ baudRate }) => { window.baud = baudRate; },
  close: async () => undefined,
  readable: new ReadableStream({ start(stream) {
    deliver = (piece) => stream.enqueue(piece);
    take = () => stream.error(new DOMException("gone", "NetworkError"));
  } }),
};
Object.defineProperty(navigator, "serial", { value: { requestPort: async () => port } });
"""


def test_a_serial_port_fills_the_sheet_and_is_taken_away(opens: Opens) -> None:
    page = opens(core=True)
    page.add_init_script(SERIAL)
    page.reload()
    begin(page, "LV-02")
    page.locator("[data-link]").click()
    page.get_by_label("Bits per second", exact=False).select_option("19200")
    page.get_by_role("button", name="Choose a serial port").click()
    page.keyboard.press("Escape")
    level = next(device for device in yard_of(SEED) if isinstance(device, LevelStandIn))
    shots = level.shots()
    for _ in range(2):
        text = written_line(level.line("2027-03-02T06:40:12+00:00", *next(shots)[0]))
        # A serial port gives what has come: a line in two pieces, wherever it is cut.
        for piece in (text[:40], text[40:]):
            page.evaluate("(piece) => window.portSends(piece)", piece)
    arrived(page, 2)
    kept = value(page, "observations.setups[0].a.readings[0]")
    assert re.fullmatch(r"\d\.\d{5}", kept)
    assert page.evaluate("window.baud") == 19200
    page.evaluate("window.portGoes()")
    expect(page.locator("[data-message=port-gone]")).to_contain_text("The serial port is gone")
    assert value(page, "observations.setups[0].a.readings[0]") == kept
