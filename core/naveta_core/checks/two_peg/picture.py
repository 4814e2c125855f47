"""Canonical geometry of the peg line: the web scales, exaggerates and places it."""

from __future__ import annotations

from typing import Any

from ...readings import ordinal
from ...wording import LengthWords
from .layouts import baseline_m, place_m
from .read import Seen
from .solve import Setups

Data = dict[str, Any]


def picture(setups: Setups, words: LengthWords, layout: str | None, c: float | None, dh: float | None) -> Data:
    """Pegs, set-ups and sight lines, in metres; heights above peg A, errors along the staff (up positive)."""
    known = [(a.distance_m, b.distance_m) for a, b in setups if a.distance_m and b.distance_m]
    if not known:
        return {"baseline_m": None, "pegs": [], "setups": []}
    base = baseline_m(known, layout)
    rise = dh if dh is not None else _first_rise(setups)
    pegs = [{"name": "A", "x_m": 0.0, "height_m": 0.0}, {"name": "B", "x_m": base, "height_m": rise or 0.0}]
    drawn = [_setup(a, b, base, c, rise, words) for a, b in setups if a.distance_m and b.distance_m]
    return {"baseline_m": base, "pegs": pegs, "setups": drawn}


def _first_rise(setups: Setups) -> float | None:
    for a, b in setups:
        if a.pointings and b.pointings:
            return a.mean_m - b.mean_m
    return None


def _setup(a: Seen, b: Seen, base: float, c: float | None, rise: float | None, words: LengthWords) -> Data:
    return {
        "index": a.setup,
        "label": f"{ordinal(a.setup)} set-up",
        "x_m": place_m(base, a.sight_m, b.sight_m),
        "line_height_m": _line_height(a, b, c, rise),
        "a": _staff(a, c, words),
        "b": _staff(b, c, words),
    }


def _line_height(a: Seen, b: Seen, c: float | None, rise: float | None) -> float | None:
    """Height of the level's own line of sight above peg A, from whichever staff has been read."""
    for seen, ground in ((a, 0.0), (b, rise or 0.0)):
        if seen.pointings and seen.distance_m is not None:
            return seen.mean_m + ground - (c or 0.0) * seen.distance_m
    return None


def _staff(seen: Seen, c: float | None, words: LengthWords) -> Data:
    read = seen.mean_m if seen.pointings else None
    error = c * seen.distance_m if c is not None and seen.distance_m is not None else None
    text = None
    if error is not None:
        text = f"{words.small(abs(error))} too {'high' if error > 0 else 'low'} on {seen.staff}"
    return {
        "distance_m": seen.distance_m,
        "distance_text": words.distance(seen.sight_m),
        "read_m": read,
        "error_m": error,
        "error_text": text,
    }
