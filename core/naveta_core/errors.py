"""The core's errors.

NavetaError
  +-- NotJson(NavetaError, ValueError)     the bytes are not a JSON object we may read
  +-- Refused(NavetaError, ValueError)     read, but with faults; carries all of them
  +-- UnknownKind(Refused)                 no such check
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import asdict, dataclass
from typing import Any

MAX_FAULTS = 50
GIVEN_LENGTH = 80


@dataclass(frozen=True, slots=True)
class Fault:
    """One thing that is wrong with a document: where, what was given, what is wanted."""

    path: str
    where: str
    given: str
    wanted: str

    def __str__(self) -> str:
        return f"{self.path}: given {self.given}, wanted {self.wanted}"

    def as_dict(self) -> dict[str, str]:
        """As plain data."""
        return asdict(self)


UNITS = {"m": "m", "mm": "mm", "c": "°C", "deg": "°", "arcsec": "″", "arcmin": "′", "ppm": "ppm", "div": "divisions"}


def in_words(name: str) -> str:
    """A field's name as it is stated: `temperature_c` is 'temperature, °C'."""
    words, _, unit = name.rpartition("_")
    return f"{words.replace('_', ' ')}, {UNITS[unit]}" if words and unit in UNITS else name.replace("_", " ")


def path_in_words(path: str) -> str:
    """A path as it is stated: `conditions.temperature_c` is 'conditions, temperature, °C'."""
    return ", ".join(in_words(name) for name in path.removeprefix("observations.").split("."))


def plain_number(value: float) -> str:
    """A bound as a person writes it, in any unit: 10 000, 0.5, −60; never an exponent."""
    text = f"{value:,.10g}".replace(",", " ") if abs(value) >= 10_000 else f"{value:.10g}"
    if "e" in text:
        text = f"{value:,.0f}".replace(",", " ") if abs(value) >= 1 else f"{value:.10f}".rstrip("0")
    return text.replace("-", "−")


def meant(text: str, low: float, high: float) -> str:
    """What may have been meant by a typed number out of its range: ' Did you mean 1.4020?', or nothing.

    The sign left out, or the decimal mark moved by as few places as bring it into the range. low and high in the unit typed.
    """
    found = re.fullmatch(r"\s*([-−+]?)(\d+)(?:([.,])(\d*))?\s*", text)
    if not found:
        return ""
    sign, whole, mark, decimals = found[1], found[2], found[3] or ".", found[4] or ""
    if sign in "-−" and sign and low <= float(f"{whole}.{decimals or 0}") <= high:
        return f". Did you mean {whole}{mark + decimals if decimals else ''}?"
    digits, at = whole + decimals, len(whole)
    for moved in (1, 2, 3, -1, -2, -3):
        place = at - moved
        shown = digits.rjust(len(digits) + max(0, 1 - place), "0") if place < 1 else digits.ljust(place, "0")
        place = max(1, place)
        front = shown[:place].lstrip("0") or "0"
        candidate = front + (mark + shown[place:] if shown[place:] else "")
        if low <= float(candidate.replace(",", ".")) <= high and not sign:
            return f". Did you mean {candidate}?"
    return ""


def quote(value: object) -> str:
    """A value as it is repeated to the person: their own characters, cut when very long."""
    if value is None:
        return "nothing"
    if isinstance(value, bool):
        return "true" if value else "false"
    if isinstance(value, dict):
        return "an object"
    if isinstance(value, list):
        return "a list"
    text = str(value)
    if text == "":
        return "nothing"
    return text if len(text) <= GIVEN_LENGTH else text[: GIVEN_LENGTH - 1] + "…"


class NavetaError(Exception):
    """Root of everything the core raises on purpose."""


class NotJson(NavetaError, ValueError):
    """The bytes are no JSON text this server reads; `reason` says why in one sentence."""

    def __init__(self, reason: str) -> None:
        self.reason = reason
        super().__init__(reason)


class Refused(NavetaError, ValueError):
    """A document with faults: all of them at once, at most 50."""

    def __init__(self, faults: Iterable[Fault]) -> None:
        self.faults = tuple(faults)[:MAX_FAULTS]
        super().__init__("; ".join(str(f) for f in self.faults))


class UnknownKind(Refused):
    """There is no check of this kind."""


def refusal(error: NotJson | Refused) -> dict[str, Any]:
    """An error as it is answered: status, code, title and every fault, the same from server and device."""
    if isinstance(error, Refused):
        count = len(error.faults)
        title = (
            "One thing is wrong; nothing was saved." if count == 1 else f"{count} things are wrong; nothing was saved."
        )
        return {"status": 422, "code": "faults", "title": title, "faults": [fault.as_dict() for fault in error.faults]}
    if "too many" in error.reason:
        return {"status": 413, "code": "too-large", "title": error.reason, "faults": []}
    return {"status": 400, "code": "not-json", "title": error.reason, "faults": []}
