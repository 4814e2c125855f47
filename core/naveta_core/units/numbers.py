"""Numbers as people type them: one sign, ASCII digits, one decimal mark, at most 15 digits."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache

MAX_DIGITS = 15
ON_GRID = 1e-3
MIN_ON_A_GRID, SURE = 4, 256
"""Fewest different values on a grid, and the odds (one in so many) against a grid by chance."""
SEXAGESIMAL, DECIMAL = (2, 5, 10, 20, 30, 60), (2, 5, 10)
"""Multiples of a last digit that displays count in: seconds of arc, and everything else."""
CACHED = 4096
"""So many typed texts are kept with what they were read as: a sheet is read again at every keystroke."""
_NUMBER = re.compile(r"([+\-−]?)(\d+(?:[.,]\d*)?|[.,]\d+)", re.ASCII)


@dataclass(frozen=True, slots=True)
class Numeral:
    """A typed number and its last digit's worth: 1.470 is value 1.47, step 0.001. In any unit."""

    value: float
    step: float


@lru_cache(CACHED)
def numeral(text: str) -> Numeral:
    """Read one plain number. Raises ValueError whose text says what is wanted."""
    match = _NUMBER.fullmatch(text.strip(" \t\u00a0"))
    if match is None:
        raise ValueError(_why_not(text))
    sign, body = match.groups()
    body = body.replace(",", ".")
    if sum(char.isdigit() for char in body) > MAX_DIGITS:
        raise ValueError(f"a number of at most {MAX_DIGITS} digits")
    decimals = len(body.partition(".")[2])
    value = float(body)
    return Numeral(-value if sign in ("-", "−") and value else value, 10.0**-decimals)


def as_typed(value: float) -> str:
    """A plain number as somebody would type it: no exponent, no more digits than `numeral` reads."""
    for digits in range(MAX_DIGITS, 0, -1):
        text = format(Decimal(f"{value:.{digits}g}"), "f")
        text = text.rstrip("0").rstrip(".") if "." in text else text
        if len(text.lstrip("-").replace(".", "")) <= MAX_DIGITS:
            return text
    return "0"


def rounded(value: float, decimals: int) -> float:
    """A figure rounded for an answer, without a negative zero. In any unit."""
    return round(value, decimals) + 0.0


def finest(steps: Iterable[float]) -> float:
    """The worth of the last digit of a whole sheet: the finest typed in it, 0 when every figure was a plain number.

    A spreadsheet drops zeros at the end (1.470 becomes 1.47): one such figure was not read more coarsely than its others.
    """
    return min([step for step in steps if step > 0], default=0.0)


def shown_step(values: Sequence[float], step: float, multiples: Sequence[int]) -> float:
    """The step an instrument shows, where it is coarser than the last digit typed: 20″ typed as 40″, 20″, 00″.

    values and step in one unit; `multiples` of the step to look for. Few different values lie on a coarser grid by chance:
    then the step stands as typed.

    Values and step in the same unit.
    """
    n = len(set(values))
    if step <= 0 or n < MIN_ON_A_GRID:
        return step
    for many in sorted(multiples, reverse=True):
        grid = many * step
        if many**n < SURE:
            break
        if all(abs(value / grid - round(value / grid)) < ON_GRID for value in values):
            return grid
    return step


def _why_not(text: str) -> str:
    if sum(text.count(mark) for mark in ".,") > 1:
        return "a number with one decimal mark"
    if "_" in text or "'" in text:
        return "a number without marks between the digits"
    if re.search(r"\d\s+\d", text):
        return "a number without blanks between the digits"
    if re.fullmatch(r"\s*[+\-−]?[\d.,]+[eE].*", text):
        return "a number without exponent"
    return "a number"
