"""The demo, served on a port of its own with its clock stopped, and pages that open it as a person would."""

from __future__ import annotations

import os
import re
import shutil
from collections.abc import Callable, Iterator
from typing import Any

import pytest
from playwright.sync_api import Browser, BrowserContext, Locator, Page, Playwright, expect

from demo.scenario import PEOPLE
from tests.conftest import Device, Fresh  # noqa: F401
from tests.patience import slower
from tests.served import serving  # noqa: F401
from tests.written_demo import NOW

DESK, TABLET, PHONE = (1280, 800), (820, 1180), (390, 844)
SLOWER = float(os.environ.get("NAVETA_SLOWER", "1"))
"""Slow-down of the pages (`make test-all`): steps that depend on a quick device fail then."""
PATIENCE_MS = int(10_000 * SLOWER * slower())
"""Longest wait for a state of the page, ten seconds of a usual computer; a longer one is a fault."""
CORE_MS = 4 * PATIENCE_MS
"""Longest wait for the start of Python in the browser."""
expect.set_options(timeout=PATIENCE_MS)
FLAGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


@pytest.fixture(scope="session")
def browser(playwright: Playwright) -> Iterator[Browser]:
    """Debian's own Chromium; Playwright brings none."""
    chromium = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=FLAGS)
    yield chromium
    chromium.close()


Opens = Callable[..., Page]
DELAYS = "globalThis.navetaDelays = { firstScreen: 0, idle: 0, soonIdle: 0, linkAgain: 100 };"
"""Script that removes the delays before a page stores data for offline use."""


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
        delays: str = "",
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
        context.add_init_script(f"{DELAYS} Object.assign(globalThis.navetaDelays, {{ {delays} }});")
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


COVERED = """() => {
  const here = document.activeElement.getBoundingClientRect();
  const top = document.elementFromPoint(here.left + here.width / 2, here.top + here.height / 2);
  return [window.scrollY, document.activeElement === top, here.top >= 0 && here.bottom <= window.innerHeight];
}"""
"""How far the page is scrolled, whether the cell at hand lies on top, and whether it is in view."""


def until(page: Page, question: str, wanted: Any = True, patience_ms: int = PATIENCE_MS) -> None:
    """Evaluate a question in the page, frame after frame, until its answer (awaited if it is a promise) is the wanted one."""
    ask = question if question.startswith(("() =>", "async")) else f"() => ({question})"
    looking = f"""async ([wanted, patience]) => {{
        const ask = {ask};
        const end = performance.now() + patience;
        let value;
        do {{
          value = await ask();
          if (JSON.stringify(value) === JSON.stringify(wanted)) return {{ done: true }};
          await new Promise((done) => requestAnimationFrame(() => done()));
        }} while (performance.now() < end);
        return {{ done: false, value }};
      }}"""
    answer = page.evaluate(looking, [wanted, patience_ms])
    assert answer["done"], f"still {answer.get('value')!r} instead of {wanted!r}"


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


def field(page: Page, path: str) -> Locator:
    """A cell of the sheet by its path in the document."""
    return page.locator("#row-" + re.sub(r"-$", "", re.sub(r"[^\w]+", "-", path)))


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
