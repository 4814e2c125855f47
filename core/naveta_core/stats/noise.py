"""What a reading is worth before anybody has looked at its scatter.

Each observation has a part *within* a sight (w: repeats reduce it) and a part *between* sights (b: common to
one pointing of the instrument, which repeats do not reduce). Figures: common experience with each way of
reading, checked by simulation (docs/decisions.md). Lengths of sight in metres, spreads in millimetres.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import hypot, sqrt

from ..units.angles import ARCSEC_PER_RADIAN
from .estimate import PRIOR_DOF, Spread

MIN_SPREAD_MM = 0.05
FINE_CLASS_MM_PER_KM = 1.0
REST_OF_COMPENSATOR_ARCSEC = 0.7
THREE_WIRE_FACTOR = 0.7


@dataclass(frozen=True, slots=True)
class StaffSpread:
    """Spreads of one staff reading at one distance: w within, b between, mm."""

    within_mm: float
    between_mm: float


@dataclass(frozen=True, slots=True)
class _SetUpMethod:
    """A way of reading a staff: spread at the staff, growth with distance, the part common to the sight."""

    base_mm: float
    per_metre_mm: float
    between_mm: float


OPTICAL = _SetUpMethod(0.3, 0.010, 0.1)
MICROMETER = _SetUpMethod(0.05, 0.004, 0.05)
DIGITAL = _SetUpMethod(0.10, 0.006, 0.1)
DIGITAL_INVAR = _SetUpMethod(0.05, 0.003, 0.05)


def method_name(reading: str | None, class_mm_per_km: float | None) -> _SetUpMethod:
    """The way of reading of an instrument; a digital level of the fine class is read on invar."""
    if reading == "micrometer":
        return MICROMETER
    if reading == "digital":
        return DIGITAL_INVAR if (class_mm_per_km or 99) <= FINE_CLASS_MM_PER_KM else DIGITAL
    return OPTICAL


@lru_cache(maxsize=512)
def staff_spread(
    distance_m: float,
    reading: str | None = None,
    class_mm_per_km: float | None = None,
    own_within_mm: float | None = None,
) -> StaffSpread:
    """Spreads of one staff reading.

    A stated levelling accuracy s (mm per km double run) gives w = s*sqrt(2 D/1000) for a sight of D metres;
    a spread stated by the owner wins over both.
    """
    way = method_name(reading, class_mm_per_km)
    if own_within_mm is not None:
        within = own_within_mm
    elif class_mm_per_km is not None:
        within = max(MIN_SPREAD_MM, class_mm_per_km * sqrt(2 * distance_m / 1000))
    else:
        within = hypot(way.base_mm, way.per_metre_mm * distance_m)
    resting = REST_OF_COMPENSATOR_ARCSEC / ARCSEC_PER_RADIAN * distance_m * 1000
    return StaffSpread(within, hypot(way.between_mm, resting))


TUBULAR_DIV, TUBULAR_COARSE_DIV, TUBULAR_BETWEEN_DIV = 0.15, 0.3, 0.1
"""A bubble's end read on a tubular vial: to a tenth; typed in whole or half divisions; common to all headings."""
CIRCULAR_MM, CIRCULAR_BETWEEN_MM = 0.3, 0.1
PLUMMET_MM = {"optical": 0.3, "laser": 0.5}
PLUMMET_BETWEEN_MM = 0.1
TRIBRACH_TURNED_MM = 0.3
"""What turning and relevelling the tribrach between marks adds."""
BOB_MM, BOB_IN_WIND_MM = 1.0, 3.0
ELECTRONIC_BETWEEN_ARCSEC = 0.5
TAPE_READING_MM = {"steel": 0.3, "fibreglass": 1.0}
TAPE_BETWEEN_MM = 0.1


def electronic_within_arcsec(accuracy_arcsec: float | None) -> float:
    """How an electronic level's figure wanders, by the class of the instrument it sits in."""
    stated = accuracy_arcsec if accuracy_arcsec is not None else 5.0
    return 0.5 if stated <= 1 else 1.0 if stated <= 3 else 2.0


MAX_LEARNED_DOF = 12.0
LEARNING_TESTS = 3


def learned_noise(tests: Sequence[Spread]) -> tuple[float, float] | None:
    """What earlier accepted tests teach: the factor on w and the degrees of freedom it may be trusted with."""
    if len(tests) < LEARNING_TESTS:
        return None
    total = sum(tests, Spread())
    factor_squared = (PRIOR_DOF + total.squares) / (PRIOR_DOF + total.dof)
    return sqrt(factor_squared), min(MAX_LEARNED_DOF, PRIOR_DOF + total.dof)
