"""Instrument tags: two letters, hyphen, digits; `lv7` and `LV 07` are understood."""

from __future__ import annotations

import re

from naveta_core.errors import Fault, Refused, quote

_TAG = re.compile(r"([A-Za-z]{2})[\s\-_]*(\d{1,4})", re.ASCII)


def normalise_tag(text: str) -> str:
    """'lv7' as 'LV-07'. Raises Refused."""
    match = _TAG.fullmatch(text.strip())
    if match is None:
        raise Refused([Fault("tag", "the tag", quote(text), "two letters and a number, such as LV-07")])
    return f"{match[1].upper()}-{match[2].lstrip('0').rjust(2, '0')}"
