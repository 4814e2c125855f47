"""Readings that arrive by a bridge whose link is cut, and live ones that guide the screws; the rest is in the pages' tests."""

from __future__ import annotations

import math
import random
import re
import subprocess
import sys
from collections.abc import Iterator

import pytest
from playwright.sync_api import Page, expect

from naveta_core.setup.mechanism import stood, turn_screw
from naveta_core.setup.tripod import even_feet
from naveta_practice.devices import LevelStandIn, yard_of
from tests.written_demo import ROOT

from .conftest import CORE_MS, Opens, begin, until
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
