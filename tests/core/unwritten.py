"""Strings of an answer that read like a sentence or a figure and would reach a reader without the firm's words."""

from __future__ import annotations

import re
from typing import Any

from naveta_core.wording import VERBATIM, is_sentence

_STAFF_OR_POINT = re.compile(r"\b[Ss]taffs?\b|\d\.\d")


def unwritten(answer: Any, within: str = "", name: str = "") -> set[str]:
    """`within.name` of each such member, with what it holds."""
    if isinstance(answer, dict):
        members = [(each, value) for each, value in answer.items() if each not in VERBATIM]
        return {found for each, value in members for found in unwritten(value, name, each)}
    if isinstance(answer, list):
        return {found for value in answer for found in unwritten(value, within, name)}
    if not isinstance(answer, str) or is_sentence(name, within):
        return set()
    return {f"{within}.{name}: {answer[:60]}"} if " " in answer.strip() or _STAFF_OR_POINT.search(answer) else set()
