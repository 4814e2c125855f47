"""Figures as people read them: rounded by how sure they are, in the units of the document."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from math import hypot

from .lengths import METRES, in_unit

MINUS = "−"


def figure(value: float, decimals: int) -> str:
    """A number with a fixed count of decimals, a true minus sign, and no negative zero. Value in any unit."""
    text = f"{value:.{decimals}f}"
    if text[0] != "-":
        return text
    return text[1:] if float(text) == 0 else MINUS + text[1:]


def signed(value: float, decimals: int) -> str:
    """The same with its sign; zero has none. Value in any unit."""
    text = figure(value, decimals)
    return text if text.startswith(MINUS) or float(text) == 0 else f"+{text}"


def arcsec(value: float, uncertainty: float | None = None) -> str:
    """'13.8″'; whole seconds once the uncertainty reaches ten."""
    decimals = 1 if uncertainty is None or abs(uncertainty) < 10 else 0
    return figure(value, decimals) + "″"


def limit(value: float) -> str:
    """A limit as it was set: '10″', '4.5″'. Value in arcsec."""
    return f"{value:g}″"


@dataclass(frozen=True, slots=True)
class LengthWords:
    """How lengths are worded in one length unit: for distances, readings and small errors."""

    unit: str
    small_unit: str
    small_decimals: int
    reading_decimals: int

    @property
    def name(self) -> str:
        """The unit as it is written behind a number."""
        return _WRITTEN.get(self.unit, self.unit)

    def small(self, metres: float, extra: int = 0) -> str:
        """An error or spread: '2.0 mm', '0.007 ft'; from a metre on '366.05 m'."""
        if abs(metres) >= 1.0 and self.small_unit == "mm":
            return f"{figure(in_unit(metres, 'm'), 2 + extra)} m"
        return f"{figure(in_unit(metres, self.small_unit), self.small_decimals + extra)} {_WRITTEN.get(self.small_unit, self.small_unit)}"

    def distance(self, metres: float) -> str:
        """A distance without needless zeros: '30 m', '45.5 m', '100 ft'."""
        text = figure(in_unit(metres, self.unit), 1)
        return f"{text.removesuffix('.0')} {self.name}"

    def height(self, metres: float) -> str:
        """A height or length that was measured, to a centimetre or its like: '1.55 m', '5.09 ft', '30 m'."""
        text = figure(in_unit(metres, self.unit), 2)
        return f"{text.rstrip('0').rstrip('.')} {self.name}"

    def reading(self, metres: float, extra: int = 0) -> str:
        """A staff reading to a tenth of a millimetre or its like, without its unit."""
        return figure(in_unit(metres, self.unit), self.reading_decimals + extra)


_WRITTEN = {"usft": "US ft"}
_WORDS = {
    "m": LengthWords("m", "mm", 1, 4),
    "mm": LengthWords("mm", "mm", 1, 1),
    "cm": LengthWords("cm", "mm", 1, 2),
    "ft": LengthWords("ft", "ft", 4, 4),
    "usft": LengthWords("usft", "usft", 4, 4),
    "in": LengthWords("in", "in", 3, 3),
}
ROUND_SIGHTS = {"ft": 100 * METRES["ft"], "usft": 100 * METRES["usft"], "in": 1200 * METRES["in"]}
"""The sight an error is given for when the work names none: 30 m, or 100 ft where feet are read."""


def length_words(unit: str) -> LengthWords:
    """How lengths are worded in a unit."""
    return _WORDS[unit]


def count(number: int, text: str, many: str) -> str:
    """'one reading', 'two readings', '12 readings'."""
    words = ("no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine")
    named = words[number] if number < len(words) else str(number)
    return f"{named} {text if number == 1 else many}"


def capital(text: str) -> str:
    """A sentence's first letter large."""
    return text[:1].upper() + text[1:]


def closed(text: str) -> str:
    """A sentence with its full stop."""
    return text if text.endswith((".", "!", "?")) else f"{text}."


def joined(parts: list[str]) -> str:
    """'a', 'a and b', 'a, b and c'."""
    if len(parts) < 2:
        return "".join(parts)
    return ", ".join(parts[:-1]) + " and " + parts[-1]


UNITS = {"mm": " mm", "arcsec": "″", "div": " div", "ppm": " ppm", "mm/km": " mm per km"}

UNITS_SHOWN = {
    "mm": "millimetres",
    "arcsec": "seconds",
    "div": "divisions",
    "ppm": "ppm",
    "mm/km": "millimetres per kilometre",
}


def size(value: float, u: float, unit: str) -> str:
    """A figure rounded by how sure it is, with its unit. Value and u in the same unit."""
    if unit == "arcsec":
        return arcsec(value, u)
    if unit == "ppm":
        return figure(value, 0) + UNITS[unit]
    return figure(value, 2 if abs(u) < 1 else 1) + UNITS[unit]


def bound(value: float, unit: str) -> str:
    """A limit as it was set. Value in the unit given."""
    return f"{value:.3g}{UNITS[unit]}"


MIN_OFFSET_MM = 0.05


def aside(x: float, y: float, decimals: int = 1) -> str:
    """'0.6 mm right and 0.3 mm towards you'; x right, y away, looking along the heading."""
    parts = []
    if abs(x) >= MIN_OFFSET_MM:
        parts.append(f"{figure(abs(x), decimals)} mm {'right' if x > 0 else 'left'}")
    if abs(y) >= MIN_OFFSET_MM:
        parts.append(f"{figure(abs(y), decimals)} mm {'away from you' if y > 0 else 'towards you'}")
    return " and ".join(parts) if parts else f"in the middle within {figure(max(MIN_OFFSET_MM, hypot(x, y)), 2)} mm"


def day_words(day: date) -> str:
    """'1 Mar 2027'."""
    return f"{day.day} {day:%b %Y}"
