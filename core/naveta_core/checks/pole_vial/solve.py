"""A pole's vial is solved as an instrument's circular vial is; an error of it tilts the pole.

At the top of a pole of height h the target is out by h times the angle.

Source: textbook reversal; the top is out of plumb by height times the angle.
"""

from __future__ import annotations

from ...units.angles import ARCSEC_PER_RADIAN

AGAINST_MM = 0.1
"""What a plumb line or a proved instrument leaves open, seen in the vial."""


def lean_mm(error_mm: float, sensitivity: float, height_m: float) -> float:
    """How far the top of what is held by a vial is out of plumb: error in the vial, minutes of arc per 2 mm, height."""
    return error_mm * sensitivity * 30 / ARCSEC_PER_RADIAN * height_m * 1000
