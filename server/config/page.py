"""The web's one page, with links to what the place at an address needs first: its own scripts and its figures."""

from __future__ import annotations

import html
import json
import re
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import quote

from django.conf import settings
from django.http import HttpRequest, HttpResponse


def page(request: HttpRequest) -> HttpResponse:
    """The single page; its own router finds the place."""
    index = settings.WEB_DIST / "index.html"
    if not index.exists():
        return HttpResponse("The web is not built yet: run `make setup`.", status=503, content_type="text/plain")
    text, places = _built(settings.WEB_DIST, index.stat().st_mtime_ns)
    signed_in = settings.SESSION_COOKIE_NAME in request.COOKIES
    links = "".join(_links(places, request.path, with_data=signed_in))
    response = HttpResponse(text.replace("</head>", f"{links}</head>", 1), content_type="text/html; charset=utf-8")
    response["Cache-Control"] = "no-cache"
    return response


@lru_cache(maxsize=2)
def _built(folder: Path, _written: int) -> tuple[str, list[dict[str, Any]]]:
    """The page and what each place needs (`web/ahead.ts`), read once while the page is not built again."""
    ahead = folder / "ahead.json"
    return (folder / "index.html").read_text(), json.loads(ahead.read_text()) if ahead.exists() else []


def _links(places: list[dict[str, Any]], address: str, *, with_data: bool) -> list[str]:
    """Links to the scripts of a place, and to its figures for somebody who is signed in."""
    for place in places:
        found = re.match(place["path"], address)
        if not found:
            continue
        named = quote(found.group(1), safe="") if found.groups() else ""
        data = [one.replace("$1", named) for one in place["data"]] if with_data else []
        return [
            *(f'<link rel="modulepreload" crossorigin href="{html.escape(one)}">' for one in place["scripts"]),
            *(f'<link rel="preload" as="fetch" crossorigin href="{html.escape(one)}">' for one in data),
        ]
    return []
