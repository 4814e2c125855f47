"""Angles as people type them, in decimal degrees, and back.

`dms`: packed `102.4305` is 102°43′05″ (after the point none, two, four or more digits), or spaced, dashed,
or with signs. One and three digits after the point are refused: 102.4 may be 4 or 40 minutes.
`gon`: 400 to the full circle.
"""

from __future__ import annotations

import re
from functools import lru_cache

from .numbers import CACHED, Numeral, numeral

ARCSEC_PER_RADIAN = 206264.80624709636
ARCSEC_PER_DEGREE = 3600.0
_SEPARATED = re.compile(
    r"([+\-−]?)(\d{1,3})(?:\s*°\s*|\s+|-)(\d{1,2})(?:(?:\s*['′]\s*|\s+|-)(\d{1,2}(?:[.,]\d+)?)?\s*(?:[\"″]|'')?|\s*['′])?\s*",
    re.ASCII,
)
_DEGREES = re.compile(r"([+\-−]?\d{1,3}(?:[.,]\d+)?)\s*°", re.ASCII)


@lru_cache(CACHED)
def parse_angle(text: str, unit: str = "dms") -> Numeral:
    """A typed angle in decimal degrees with the worth of its last digit. ValueError says what is wanted."""
    if match := _DEGREES.fullmatch(text.strip()):
        return numeral(match[1])  # a degree sign says what it is, whatever the rest is read in
    if unit in ("deg", "gon"):
        number = numeral(text)
        factor = 0.9 if unit == "gon" else 1.0
        return Numeral(number.value * factor, number.step * factor)
    text = text.strip()
    if match := _SEPARATED.fullmatch(text):
        return _joined(match[1], match[2], match[3], (match[4] or "").replace(",", "."))
    return _packed(text)


def _packed(text: str) -> Numeral:
    number = numeral(text)
    body = text.lstrip("+-−").replace(",", ".")
    whole, _, after = body.partition(".")
    if len(after) in (1, 3):
        raise ValueError(_unclear(whole or "0", after))
    seconds = after[2:4] + ("." + after[4:] if len(after) > 4 else "")
    sign = "-" if number.value < 0 or text[:1] in "-−" else ""
    return _joined(sign, whole or "0", after[:2] or "0", seconds)


def _unclear(whole: str, after: str) -> str:
    if len(after) == 1:
        return f"minutes in two digits: is {whole}.{after} {after}0 or {after} minutes? type {whole}.{after}0 or {whole}.0{after}"
    minutes, last = after[:2], after[2]
    if last == "0":
        return f"seconds in two digits: type {whole}.{minutes}00"
    return f"seconds in two digits: type {whole}.{minutes}{last}0 or {whole}.{minutes}0{last}"


def _joined(sign: str, degrees: str, minutes: str, seconds: str) -> Numeral:
    if int(minutes) >= 60:
        raise ValueError(f"minutes below 60, not {minutes}")
    if float(seconds or 0) >= 60:
        raise ValueError(f"seconds below 60, not {seconds}")
    value = int(degrees) + int(minutes) / 60 + float(seconds or 0) / 3600
    step = 1 / 60 if not seconds else 10.0 ** -len(seconds.partition(".")[2]) / 3600
    return Numeral(-value if sign in ("-", "−") else value, step)


def show_dms(degrees: float, decimals: int = 0) -> str:
    """Decimal degrees as 102°43′05″, rounded once so that 59.99″ never shows as 60″."""
    total = round(abs(degrees) * 3600, decimals)
    minutes, seconds = divmod(total, 60)
    whole, minutes = divmod(int(minutes), 60)
    width = 2 if decimals == 0 else 3 + decimals
    sign = "−" if degrees < 0 and total else ""
    return f"{sign}{whole}°{minutes:02d}′{seconds:0{width}.{decimals}f}″"
