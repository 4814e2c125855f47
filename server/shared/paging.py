"""Paging by cursor: where the last page ended, as an opaque text."""

from __future__ import annotations

import base64
import binascii
import json
from typing import Any

from naveta_core.errors import Fault, Refused, quote

MAX_ROWS = 200


def encode(key: list[Any]) -> str:
    return base64.urlsafe_b64encode(json.dumps(key).encode()).decode().rstrip("=")


def decode(cursor: str | None, shape: tuple[type, ...]) -> list[Any] | None:
    """The key in a cursor, or None. Raises Refused when it is none of ours."""
    if not cursor:
        return None
    try:
        if len(cursor) > 400:
            raise ValueError("longer than any of ours")
        key = json.loads(base64.urlsafe_b64decode(cursor + "=" * (-len(cursor) % 4)))
    except (ValueError, binascii.Error, RecursionError):
        key = None
    if not isinstance(key, list) or tuple(type(entry) for entry in key) != shape or not all(map(_held, key)):
        raise Refused([Fault("cursor", "the page mark", quote(cursor), "a page mark from an earlier answer")])
    return key


def _held(entry: Any) -> bool:
    """Whether a database can hold it: no figure of ours is larger, no text longer."""
    return abs(entry) < 2**62 if isinstance(entry, int) else len(str(entry)) <= 200


def page_size(limit: int) -> int:
    """How many rows a page may have. Raises Refused outside 1 to 200."""
    if not 1 <= limit <= MAX_ROWS:
        raise Refused([Fault("limit", "rows a page", str(limit), f"1 to {MAX_ROWS}")])
    return limit
