"""A label looked at by a camera, from wherever one can be scanned."""

from __future__ import annotations

import shutil
from collections.abc import Iterator
from pathlib import Path

import pypdfium2
import pytest
from PIL import Image
from playwright.sync_api import Browser, BrowserContext, Page, Playwright, expect

from .conftest import FLAGS, PATIENCE_MS, PHONE, _sign_in


def label_film(context: BrowserContext, path: Path) -> None:
    """What a camera would see: the label of LV-07 as the server prints it, as an uncompressed film of one picture."""
    pdf = context.request.get("/api/labels?tags=LV-07&size=a4-24").body()
    sheet = pypdfium2.PdfDocument(pdf)[0].render(scale=4).to_pil().convert("L")
    label = sheet.crop(sheet.point(lambda value: 255 * (value < 128)).getbbox())
    label.thumbnail((560, 400))
    frame = Image.new("L", (640, 480), 235)
    frame.paste(label, (40, 60))
    with path.open("wb") as file:
        file.write(b"YUV4MPEG2 W640 H480 F10:1 Ip A1:1 C420jpeg\n")
        for _ in range(4):
            file.write(b"FRAME\n" + frame.tobytes() + bytes([128]) * (320 * 240 * 2))


@pytest.fixture
def scanning(playwright: Playwright, browser: Browser, server_url: str, tmp_path: Path) -> Iterator[Page]:
    """A phone whose camera looks at a label."""
    printing = browser.new_context(base_url=server_url)
    _sign_in(printing, "Tam Brandreth")
    label_film(printing, tmp_path / "label.y4m")
    printing.close()
    film = f"--use-file-for-fake-video-capture={tmp_path / 'label.y4m'}"
    flags = [*FLAGS, "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream", film]
    phone = playwright.chromium.launch(executable_path=shutil.which("chromium-headless-shell"), args=flags)
    context = phone.new_context(
        base_url=server_url, viewport={"width": PHONE[0], "height": PHONE[1]}, permissions=["camera"]
    )
    context.add_init_script("delete window.WebAssembly; delete Navigator.prototype.serviceWorker;")
    _sign_in(context, "Tam Brandreth")
    page = context.new_page()
    page.set_default_timeout(PATIENCE_MS)
    page.goto("/")
    page.wait_for_selector("[data-instrument]")
    yield page
    phone.close()


def test_a_label_is_scanned_from_yard_bench_set_up_and_palette(scanning: Page) -> None:
    page = scanning
    page.get_by_role("button", name="Scan a label").first.click()
    page.wait_for_url("**/instruments/LV-07")
    page.goto("/bench")
    page.get_by_role("button", name="Scan a label").first.click()
    page.wait_for_url("**/bench/new/LV-07")
    page.goto("/set-up")
    page.get_by_role("button", name="Scan a label").first.click()
    expect(page.get_by_role("button", name="LV-07", exact=True)).to_have_attribute("aria-pressed", "true")
    page.goto("/today")
    page.wait_for_selector("[data-instrument]")
    page.keyboard.press("Control+k")
    page.get_by_role("dialog").get_by_role("button", name="Scan a label").click()
    page.wait_for_url("**/instruments/LV-07")
