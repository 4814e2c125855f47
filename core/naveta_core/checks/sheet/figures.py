"""Figures of checks as people read them: millimetres, seconds, divisions, parts in a million."""

from __future__ import annotations

from ...wording import arcsec, figure

UNITS = {"mm": " mm", "arcsec": "″", "div": " div", "ppm": " ppm", "mm/km": " mm per km"}
UNITS_SAID = {
    "mm": "millimetres",
    "arcsec": "seconds",
    "div": "divisions",
    "ppm": "parts in a million",
    "mm/km": "millimetres per kilometre",
}


def size(value: float, u: float, unit: str) -> str:
    """A figure rounded by how sure it is, with its unit."""
    if unit == "arcsec":
        return arcsec(value, u)
    if unit == "ppm":
        return figure(value, 0) + UNITS[unit]
    return figure(value, 2 if abs(u) < 1 else 1) + UNITS[unit]


def bound(value: float, unit: str) -> str:
    """A limit as it was set."""
    return f"{value:.3g}{UNITS[unit]}"
