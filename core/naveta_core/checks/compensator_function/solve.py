"""How far the line moves with the bubble run to each side: (mean there − mean in the middle) / distance.

Source: derived in docs/judgement.md (Compensator), from the definition of the line's angle.
"""

from __future__ import annotations

from math import fsum, sqrt

from ...engine.conditions import noise_factor
from ...engine.parser import rounding
from ...engine.reader import PlainRow
from ...stats.noise import staff_spread
from .document import PLACES, CompensatorFunction, CompensatorRead


def variances(document: CompensatorFunction, read: CompensatorRead) -> tuple[float, float]:
    """Variances of one reading, m²: within, and common to a position (the compensator's rest)."""
    entry = document.instrument
    reading = entry.reading or ("digital" if entry.kind == "digital-level" else None)
    spread = staff_spread(
        read.distance_m or 45.0,
        reading,
        entry.levelling_accuracy_mm_per_km,
        (entry.prior or {}).get("staff_reading_mm"),
    )
    digit = rounding(s.step for group in read.at.values() for s in group)
    return (spread.within_mm / 1000 * noise_factor(document)) ** 2 + digit, (spread.between_mm / 1000) ** 2


def standardised(at: dict[str, list[PlainRow]], within: float) -> list[list[float]]:
    """Readings over their own spread; within is a variance in mm²."""
    return [[entry.value / sqrt(within) for entry in at[name]] for name in PLACES]


def mean_of(group: list[PlainRow]) -> float:
    """The mean of the readings of a place, metres."""
    return fsum(entry.value for entry in group) / len(group)
