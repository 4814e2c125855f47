"""The demo, served on a port of its own with its clock stopped, and pages that open it as a person would."""

from __future__ import annotations

import http.cookiejar
import itertools
import json
import os
import re
import shutil
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from contextlib import closing, contextmanager
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect

from demo.scenario import PEOPLE
from tests.written_demo import NOW, ROOT, demo_environment, written_demo

DESK, TABLET, PHONE = (1280, 800), (820, 1180), (390, 844)
PATIENCE_MS = 60_000
"""How long a walk waits for what it looks at: several browsers share the processors, and a wait that is met costs nothing."""
expect.set_options(timeout=PATIENCE_MS)
SLOWER = float(os.environ.get("NAVETA_SLOWER", "1"))
"""How many times slower the pages run (`make slow`): what happens to go well between two steps on a quick device fails then."""
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


@pytest.fixture(scope="session")
def server_data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The folder the served demo keeps its database in: a copy of its own for each worker."""
    own = tmp_path_factory.mktemp("demo") / "data"
    shutil.copytree(written_demo(), own)
    shutil.copy(own / "naveta.sqlite3", own.parent)
    return own


@pytest.fixture(scope="session")
def server_url(server_data: Path) -> Iterator[str]:
    """The address of a freshly loaded demo."""
    port = _free_port()
    command = [sys.executable, "-m", "demo.run"]
    with serving(command, f"http://127.0.0.1:{port}", cwd=ROOT, env=demo_environment(server_data, port)) as address:
        yield address


@pytest.fixture(autouse=True)
def as_written(server_url: str, server_data: Path) -> None:
    """Each walk finds the demo as it was written, whichever walks came before it on this worker. SQLite's own copy
    goes into the database while it is served; what the server keeps in memory it keeps by its text."""
    with (
        closing(sqlite3.connect(server_data.parent / "naveta.sqlite3")) as written,
        closing(sqlite3.connect(server_data / "naveta.sqlite3", timeout=60)) as served,
    ):
        written.backup(served)


@contextmanager
def serving(command: list[str], address: str, **how: Any) -> Iterator[str]:
    """A server's address, from its first answer until it has stopped, however slow the machine."""
    served = subprocess.Popen(command, **how)
    try:
        _wait_for(address, served)
        yield address
    finally:
        served.terminate()
        served.wait(timeout=60)


def _wait_for(address: str, served: subprocess.Popen[bytes]) -> None:
    for _ in range(600):
        if served.poll() is not None:
            raise RuntimeError("the server stopped before it answered")
        try:
            urllib.request.urlopen(f"{address}/api/session", timeout=2)
            return
        except OSError:
            time.sleep(0.2)
    raise RuntimeError("the server did not answer within two minutes")


@pytest.fixture(scope="session")
def browser(playwright: Playwright) -> Iterator[Browser]:
    """Debian's own Chromium; Playwright brings none."""
    chromium = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=FLAGS)
    yield chromium
    chromium.close()


Opens = Callable[..., Page]


def _sign_in(context: BrowserContext, who: str) -> None:
    """Signed in before the page is opened, as somebody who was here this morning; a session of its own each time."""
    token = context.request.get("/api/session").json()["csrf_token"]
    answer = context.request.post("/api/session", data={"username": USERNAMES[who]}, headers={"X-CSRFToken": token})
    assert answer.ok, answer.text()


USERNAMES = {person[1]: person[0] for person in PEOPLE}


@pytest.fixture
def opens(server_url: str, browser: Browser) -> Iterator[Opens]:
    """Open the demo on a screen of some size, signed in as somebody. Faults of the page fail the test."""
    contexts: list[BrowserContext] = []
    faults: list[str] = []

    def opening(
        size: tuple[int, int] = DESK,
        who: str | None = "Tam Brandreth",
        *,
        touch: bool = False,
        core: bool = False,
        away: bool = False,
    ) -> Page:
        context = browser.new_context(
            viewport={"width": size[0], "height": size[1]},
            has_touch=touch,
            is_mobile=touch,
            locale="en-GB",
            timezone_id="UTC",
            accept_downloads=True,
            base_url=server_url,
        )
        contexts.append(context)
        page = context.new_page()
        page.set_default_timeout(PATIENCE_MS)
        # The browser's own core, and what is kept for a time without signal, cost seconds of both processors: only
        # where they are what is tested (`away`: the network goes, and the server is asked before and after).
        if not core:
            context.add_init_script("delete window.WebAssembly;")
        if not core and not away:
            context.add_init_script("delete Navigator.prototype.serviceWorker;")
        if SLOWER > 1:
            context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": SLOWER})
        page.clock.set_fixed_time(NOW)
        page.on("pageerror", lambda error: faults.append(str(error)))
        page.on("console", lambda messages: "Content Security Policy" in messages.text and faults.append(messages.text))
        if who:
            _sign_in(context, who)
        page.goto("/")
        if who:
            page.wait_for_selector("[data-instrument]")
        return page

    yield opening
    for context in contexts:
        context.close()
    assert not faults, faults


def until(page: Page, question: str, wanted: Any = True, seconds: float = 60.0) -> None:
    """Ask the page until it answers what is wanted. (Its own wait takes a promise for yes, whatever it resolves to.)"""
    end = time.monotonic() + seconds
    while (value := page.evaluate(question)) != wanted:
        assert time.monotonic() < end, f"still {value!r} instead of {wanted!r}"
        page.wait_for_timeout(100)


def visit(page: Page, path: str) -> None:
    """Go to a place as a link would: the page is not loaded again, so the browser's core stays warm."""
    page.evaluate(
        "(path) => { history.pushState(null, '', path); dispatchEvent(new PopStateEvent('popstate')); }", path
    )


def begin(page: Page, tag: str) -> None:
    """To the first reading of a two-peg test, both looks given."""
    visit(page, f"/bench/new/{tag}/two-peg")
    page.get_by_role("radio", name="Stays in the ring").click()
    page.get_by_role("radio", name="Returns").click()
    page.get_by_role("button", name="Start reading").click()
    page.locator("#row-observations-setups-0-a-readings-0").focus()


def sheet(page: Page, *sights: str) -> None:
    """Type sight after sight as one reads them: `1.468;1.469` is two readings."""
    for i, sight in enumerate(sights):
        if i:
            page.keyboard.press("Enter")
        page.keyboard.type(sight)


def finding(page: Page, grade: str) -> None:
    """Wait for the finding to answer what stands on the page."""
    page.wait_for_selector(f"[data-complete=true][data-fresh=true] [data-finding={grade}]")


class Device:
    """A device with its own session, as far as the network sees it."""

    def __init__(self, server_url: str, who: str) -> None:
        self.server_url, self.token = server_url, ""
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))
        self.token = self.call("GET", "session")[1]["csrf_token"]
        self.token = self.call("POST", "session", {"username": who})[1]["csrf_token"]

    def call(self, method: str, path: str, data: Any = None) -> tuple[int, Any]:
        """The status and what came back; of an answer in lines, the last one."""
        headers = {"Content-Type": "application/json", "X-CSRFToken": self.token}
        body = None if data is None else json.dumps(data).encode()
        request = urllib.request.Request(f"{self.server_url}/api/{path}", method=method, data=body, headers=headers)
        try:
            with self.opener.open(request, timeout=60) as answer:
                return answer.status, json.loads(answer.read().splitlines()[-1])
        except urllib.error.HTTPError as error:
            return error.code, json.loads(error.read())


PREFIX = {"Merrow": "LV", "Aldreth": "TD", "Tessaly": "TS", "Reed": "PO", "Strand": "TR", "Tally": "ST", "Ribbon": "TA"}
_numbers = itertools.count(30)
Fresh = Callable[[str], str]


@pytest.fixture
def fresh(server_url: str) -> Fresh:
    """Gives the tag of something of its own of a model, never checked: one test's checks teach another's nothing."""
    ines = Device(server_url, "ines")
    models = {model["name"]: model["id"] for model in ines.call("GET", "models")[1]}

    def make(model: str) -> str:
        tag = f"{PREFIX[model]}-{next(_numbers)}"
        data = {"tag": tag, "model": models[model], "serial": "", "place": "Yard", "crew": None}
        status, answer = ines.call("POST", "instruments", data)
        assert status == 201, answer
        return tag

    return make


@pytest.fixture
def level(fresh: Fresh) -> str:
    """The tag of a level of its own."""
    return fresh("Merrow")


def switch_user(page: Page) -> None:
    """Sign out by the person's button, or on a phone by More."""
    more = page.get_by_role("button", name="More", exact=True)
    if more.count():
        more.click()
        page.get_by_role("dialog").get_by_role("button", name="Switch user").click()
    else:
        page.get_by_role("button", name=re.compile("password, light, switch user")).click()
        page.get_by_role("menuitem", name="Switch user").click()


def condition(page: Page, name: str, answer: str) -> None:
    """One circumstance of the sheet at hand: its chip opened, answered and closed. answer: a number, or an option's label."""
    page.locator(f"[data-circumstance={name}]").click()
    typed = page.get_by_role("dialog").get_by_role("textbox")
    if typed.count():
        typed.fill(answer)
        typed.press("Enter")
    else:
        page.get_by_role("dialog").get_by_role("radio", name=answer, exact=True).click()
    expect(page.locator(f"[data-circumstance={name}][data-known=true]")).to_be_visible()
