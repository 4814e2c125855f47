"""Numbers typed into fields whose name ends in their unit; a unit of its own wins where one is typed behind it."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import Any

from ...angles import parse_angle
from ...errors import said
from ...lengths import parse_length
from ...numerals import Numeral, finest, numeral
from ...readings import Sheet

Value = str | int | float | None
SECONDS = {"″": 1.0, '"': 1.0, "''": 1.0, "′": 60.0, "'": 60.0, "°": 3600.0}
WRITTEN = {
    "mm": "millimetres",
    "arcsec": "seconds",
    "div": "divisions",
    "deg": "degrees",
    "m": "metres",
    "c": "degrees",
    "n": "newtons",
    "arcmin": "minutes of arc",
}


def number(
    sheet: Sheet, path: str, where: str, value: Value, unit: str, low: float, high: float, *, wanted: bool = True
) -> Numeral | None:
    """A typed number in `unit`, or None with the path noted as missing or the fault noted."""
    if blank(value):
        if wanted:
            sheet.want(path, where)
        return None
    try:
        found = Numeral(float(value), 0.0) if isinstance(value, int | float) else _read(str(value), unit)
    except ValueError as error:
        sheet.fault(path, where, said(value), str(error))
        return None
    if not low <= found.value <= high:
        sheet.fault(path, where, said(value), f"{WRITTEN[unit]} from {low:g} to {high:g}")
        return None
    return found


def _read(text: str, unit: str) -> Numeral:
    text = text.strip()
    if unit in ("mm", "m"):
        length = parse_length(text, unit)
        per = 1000.0 if unit == "mm" else 1.0
        return Numeral(length.m * per, length.step_m * per)
    if unit == "arcsec":
        for mark, seconds in SECONDS.items():
            if text.endswith(mark):
                one = numeral(text.removesuffix(mark))
                return Numeral(one.value * seconds, one.step * seconds)
    for mark in ("div", "°C", "°", "N", "′"):
        text = text.removesuffix(mark)
    return numeral(text)


def angle(sheet: Sheet, path: str, where: str, value: Value, unit: str) -> Numeral | None:
    """A typed angle in decimal degrees, a turn at the most; None with the path noted as missing or the fault noted."""
    if blank(value):
        sheet.want(path, where)
        return None
    try:
        found = parse_angle(value, unit) if isinstance(value, str) else Numeral(float(value or 0.0), 0.0)
    except ValueError as error:
        sheet.fault(path, where, said(value), str(error))
        return None
    if not -360.0 < found.value <= 360.0:
        gon = unit != "gon" and 360 < found.value <= 400
        wanted = "an angle up to 360°" + ("; is this in gon? change the unit" if gon else "")
        sheet.fault(path, where, said(value), wanted)
        return None
    return found


def blank(*values: Value) -> bool:
    """Whether nothing at all was typed: a row that was only opened is not a reading that is missing."""
    return all(value is None or not str(value).strip() for value in values)


def filled(rows: Sequence[Any], *names: str) -> int:
    """How many rows hold anything that was typed: one that was only opened at the end is no row."""
    return len([row for row in rows if not blank(*(getattr(row, name) for name in names))])


def rounding(steps: Iterable[float]) -> float:
    """What rounding to the last digit of the sheet adds to the variance of a reading: r²/12."""
    return finest(steps) ** 2 / 12
