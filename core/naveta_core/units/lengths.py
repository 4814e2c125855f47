"""Lengths as people type them, in metres, and back.

A typed length is in the document's unit unless it ends in its own (`330 ft`, `12 mm`, `5'3 1/4"`), which wins.
The international foot is 0.3048 m, the US survey foot 1200/3937 m.
"""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from .numbers import CACHED, numeral

METRES: dict[str, float] = {
    "m": 1.0,
    "mm": 0.001,
    "cm": 0.01,
    "ft": 0.3048,
    "usft": 1200 / 3937,
    "in": 0.0254,
}
NAMES = {
    "m": "metres",
    "mm": "millimetres",
    "cm": "centimetres",
    "ft": "feet",
    "usft": "US survey feet",
    "in": "inches",
}
_OWN_UNIT = re.compile(r"(?P<number>.*?)\s*(?P<unit>usft|mm|cm|ft|in|m)", re.DOTALL)
_FEET_INCHES = re.compile(
    r"""\s*(?P<sign>[+\-−]?)\s*(?:(?P<feet>\d+)\s*['′]\s*-?\s*)?"""
    r"""(?:(?P<inches>\d+(?:\.\d+)?)?\s*(?:(?P<over>\d+)\s*/\s*(?P<under>\d+))?\s*["″])?\s*""",
    re.ASCII,
)


@dataclass(frozen=True, slots=True)
class Length:
    """A length in metres, the worth of its last digit in metres (0 when it was given as a plain number)."""

    m: float
    step_m: float = 0.0


@lru_cache(CACHED)
def parse_length(text: str, unit: str = "m") -> Length:
    """A typed length in metres; `unit` counts where the text has none. ValueError says what is wanted."""
    if any(mark in text for mark in "'′\"″"):
        return _feet_and_inches(text)
    match = _OWN_UNIT.fullmatch(text.strip())
    if match and match["number"].strip():
        text, unit = match["number"], match["unit"]
    number, factor = numeral(text), METRES[unit]
    return Length(number.value * factor, number.step * factor)


def _feet_and_inches(text: str) -> Length:
    match = _FEET_INCHES.fullmatch(text)
    if match is None or not any(match[name] for name in ("feet", "inches", "over")):
        raise ValueError("feet and inches such as 5'3 1/4\"")
    inches, step = float(match["inches"] or 0), 1.0
    if match["over"]:
        over, under = int(match["over"]), int(match["under"])
        if not 0 < over < under <= 64:
            raise ValueError("a fraction of an inch below one, such as 1/4")
        inches, step = inches + over / under, 1 / under
    elif match["inches"] and "." in match["inches"]:
        step = 10.0 ** -len(match["inches"].partition(".")[2])
    if match["feet"] and inches >= 12:
        raise ValueError("inches below 12")
    value = (int(match["feet"] or 0) * 12 + inches) * METRES["in"]
    return Length(-value if match["sign"] in ("-", "−") else value, step * METRES["in"])


def in_unit(metres: float, unit: str) -> float:
    """Metres in another unit."""
    return metres / METRES[unit]
