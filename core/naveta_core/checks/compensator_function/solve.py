"""How far the line moves with the bubble run to each side: (mean there − mean in the middle) / distance.

Source: derived in docs/judgement.md (Compensator), from the definition of the line's angle.
"""

from __future__ import annotations

from math import fsum, sqrt

from ...engine.conditions import noise_factor
from ...engine.reader import PlainRow
from ...stats.estimate import rounded_alike
from ...stats.noise import staff_spread
from ...stats.outliers import Outlier, find_outlier
from ...units.numbers import DECIMAL, finest, shown_step
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
    step, noise = step_of(read), spread.within_mm / 1000 * noise_factor(document)
    n = min((len(group) for group in read.at.values() if group), default=1)
    return noise**2 + step**2 / 12, (spread.between_mm / 1000) ** 2 + rounded_alike(noise, step, n)


def step_of(read: CompensatorRead) -> float:
    """The worth of the last digit of the sheet, metres."""
    listed = [entry for group in read.at.values() for entry in group]
    return shown_step([entry.value for entry in listed], finest(entry.step for entry in listed), DECIMAL)


def standardised(at: dict[str, list[PlainRow]], within: float) -> list[list[float]]:
    """Readings over their own spread; within is a variance in mm²."""
    return [[entry.value / sqrt(within) for entry in at[name]] for name in PLACES]


def outlier_of(read: CompensatorRead, within: float) -> Outlier | None:
    """The reading that is an outlier most in its place; within is the variance of one, in square metres."""
    return find_outlier(standardised(read.at, within), step_of(read) / sqrt(within))


def mean_of(group: list[PlainRow]) -> float:
    """The mean of the readings of a place, metres."""
    return fsum(entry.value for entry in group) / len(group)
