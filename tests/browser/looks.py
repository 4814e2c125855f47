"""Checks of a whole view: no horizontal overflow, no violation found by axe."""

from __future__ import annotations

from playwright.sync_api import Page

from tests.written_demo import ROOT

AXE = (ROOT / "web/node_modules/axe-core/axe.min.js").read_text()


def axe(page: Page, view: str) -> None:
    """Assert that axe finds no violation. It is injected past the page's content policy, as browser tools are."""
    if not page.evaluate("'axe' in window"):
        page.evaluate(AXE)
    # Styles are the page's own: none has to be fetched again.
    found = page.evaluate("() => axe.run(document, { resultTypes: ['violations'], preload: false, elementRef: false })")
    texts = [f"{view}: {violation['id']} {violation['nodes'][0]['html'][:120]}" for violation in found["violations"]]
    assert not texts, texts


def fits(page: Page, view: str) -> None:
    wide = page.evaluate("() => document.documentElement.scrollWidth - document.documentElement.clientWidth")
    assert wide <= 0, f"{view} is {wide} px too wide"


def seen(page: Page, view: str) -> None:
    """Check a view after its next two frames."""
    page.wait_for_selector("h1")
    page.evaluate("new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)))")
    page.wait_for_selector("h1")  # a page that follows another may have taken its place
    fits(page, view)
    axe(page, view)
