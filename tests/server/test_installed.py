"""Naveta as something installed: what a phone asks for is there and is what it claims to be."""

from __future__ import annotations

import json
import re
import struct
import zlib

from django.test import Client


def body(path: str) -> tuple[bytes, str]:
    answer = Client().get(path)
    assert answer.status_code == 200, path
    content = b"".join(answer.streaming_content) if answer.streaming else answer.content
    return content, answer.headers["content-type"]


def test_it_can_be_installed_with_pictures_of_its_own(db) -> None:
    """A name, a way in, icons that are there and have the size they claim."""
    found = re.search(r'<link rel="manifest" href="([^"]+)"', body("/")[0].decode())
    assert found, "the page names its manifest: is the web built (make setup)?"
    manifest = json.loads(body(found[1])[0])
    assert (manifest["name"], manifest["start_url"], manifest["display"]) == ("Naveta", "/", "standalone")
    sizes = set()
    for icon in manifest["icons"]:
        picture, kind = body(icon["src"])
        assert kind.startswith(icon["type"])
        if icon["type"] == "image/png":
            width, height = struct.unpack(">II", picture[16:24])
            assert f"{width}x{height}" == icon["sizes"]
            assert zlib.crc32(picture[12:29]) == struct.unpack(">I", picture[29:33])[0]
            sizes.add((width, icon["purpose"]))
    assert sizes == {(192, "any"), (512, "any"), (512, "maskable")}
