"""Pages while they are drawn: nothing moves under the finger, and no step is lost."""

from __future__ import annotations

from playwright.sync_api import Page

from .conftest import Opens

# A press between two places of a control is nobody's: what comes on its own must not move what a finger is on.
MOVED = """
    window.moved = [];
    new PerformanceObserver((list) => list.getEntries().forEach((entry) => entry.sources.forEach(({ node, previousRect, currentRect }) => {
      const holds = node instanceof Element && (node.matches("button, input, select") || node.querySelector("button, input, select"));
      if (holds && Math.abs(previousRect.y - currentRect.y) > 4) window.moved.push(node.outerHTML.slice(0, 120));
    }))).observe({ type: "layout-shift", buffered: true });
"""


LATE = """
    const real = window.fetch;
    window.asked = 0;
    window.fetch = async (...what) => {
      window.asked += 1;
      try {
        const answer = await real(...what);
        for (let i = 0; i < 8; i += 1) await new Promise((done) => requestAnimationFrame(done));
        return answer;
      } finally {
        window.asked -= 1;
      }
    };
"""
"""Script that delays every answer by eight frames and counts the requests in progress."""


def quiet(page: Page) -> None:
    """Wait until no request has been in progress for thirty frames."""
    page.evaluate(
        """async () => {
          for (let still = 0; still < 30; still = window.asked ? 0 : still + 1)
            await new Promise((done) => requestAnimationFrame(done));
        }"""
    )


def test_nothing_moves_under_the_finger_while_answers_come(opens: Opens) -> None:
    page = opens()
    page.add_init_script(MOVED)
    page.add_init_script(LATE)
    for path in ("/bench/new/LV-03/two-peg", "/bench/new/LV-03", "/bench", "/set-up", "/orientation", "/points"):
        with page.expect_response("**/api/**"):
            page.goto(path)
        page.wait_for_selector("h1")
        quiet(page)
        assert page.evaluate("window.moved") == [], path
    page.goto("/bench/new/LV-03/two-peg")
    page.get_by_role("button", name="Start reading").click()
    page.wait_for_selector("#row-observations-setups-0-a-readings-0")
    page.evaluate("window.moved = []")
    quiet(page)
    assert page.evaluate("window.moved") == [], "the sheet"


STEP_BACK = """(() => {
  history.replaceState(null, "");
  const real = history.replaceState;
  history.replaceState = function (...state) {
    history.replaceState = real;
    real.apply(this, state);
    setTimeout(() => history.back());
  };
})()"""
"""A step back as soon as the page has looked at its address, before anything is drawn."""


def test_a_step_back_while_a_page_is_first_drawn_is_not_lost(opens: Opens) -> None:
    page = opens()
    page.get_by_role("link", name="Plan", exact=True).click()
    page.wait_for_url("**/plan")
    page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": 6})
    page.add_init_script(STEP_BACK)
    page.reload()
    page.wait_for_url(lambda address: address.endswith("/"))
    page.wait_for_selector("[data-instrument]")
