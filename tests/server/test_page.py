"""The web's one page: what the place at an address needs first stands in its head, and nothing of it can be written there."""

from __future__ import annotations

import json
import os
from pathlib import Path

import pytest
from django.test import Client

PLACES = [
    {"path": "^/(?:fleet)?$", "scripts": [], "data": ["/api/fleet"]},
    {
        "path": "^/instruments/([^/]+)$",
        "scripts": ["/assets/i-1.js", "/assets/d-2.js"],
        "data": ["/api/instruments/$1"],
    },
]


@pytest.fixture
def built(tmp_path: Path, settings: object) -> Path:
    settings.WEB_DIST = tmp_path  # type: ignore[attr-defined]
    (tmp_path / "index.html").write_text("<html><head><title>Naveta</title></head><body></body></html>")
    (tmp_path / "ahead.json").write_text(json.dumps(PLACES))
    return tmp_path


def head(client: Client, address: str) -> str:
    answer = client.get(address)
    assert answer.status_code == 200
    assert answer["Cache-Control"] == "no-cache"
    return answer.content.decode().partition("</title>")[2].partition("</head>")[0]


def test_scripts_for_anybody_and_figures_for_those_signed_in(built: Path, client: Client) -> None:
    scripts = "".join(f'<link rel="modulepreload" crossorigin href="/assets/{name}.js">' for name in ("i-1", "d-2"))
    assert head(client, "/instruments/LV-05") == scripts
    client.cookies["sessionid"] = "anything"
    assert head(client, "/instruments/LV-05") == (
        f'{scripts}<link rel="preload" as="fetch" crossorigin href="/api/instruments/LV-05">'
    )
    assert head(client, "/fleet") == '<link rel="preload" as="fetch" crossorigin href="/api/fleet">'
    assert head(client, "/practice/rounds") == "", "a place without anything is the page as it was built"


def test_an_address_cannot_write_into_the_page(built: Path, client: Client) -> None:
    client.cookies["sessionid"] = "anything"
    written = head(client, "/instruments/%22%3E%3Cscript%3Ealert(1)%3C%2Fscript%3E")
    assert "<script" not in written
    assert "%22%3E%3Cscript" in written or written == ""


def test_a_page_built_again_is_read_again_and_one_without_a_list_is_served(built: Path, client: Client) -> None:
    assert head(client, "/instruments/LV-05")
    (built / "ahead.json").unlink()
    index = built / "index.html"
    index.write_text(index.read_text().replace("<body>", "<body>again"))
    os.utime(index, ns=(1, 1))
    assert head(client, "/instruments/LV-05") == ""


def test_a_web_that_is_not_built_says_what_to_do(tmp_path: Path, client: Client, settings: object) -> None:
    settings.WEB_DIST = tmp_path / "none"  # type: ignore[attr-defined]
    answer = client.get("/fleet")
    assert (answer.status_code, b"make setup" in answer.content) == (503, True)
