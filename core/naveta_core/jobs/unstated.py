"""What is not stated of an instrument, and what depends on it: it is asked for, and never taken as absent.

Only what is stated as none is none: an instrument whose plummet is not stated has its plummet checked.
"""

from __future__ import annotations

from ..documents.envelope import Instrument
from ..results import CodedText
from .errors_in_force import ANGLE_KINDS, LEVEL_KINDS

ANGLES = "Stated accuracy of angles: 5″ is assumed. Limits, ± and what a job allows depend on it."
LEVELLING = "Stated accuracy of levelling: limits, ± and what a job allows depend on it; 10″ is taken as the limit."
PLUMMET = "Plummet: whether it has one, and of which kind. Its check is due until then; the steps and methods of a set-up depend on it."
DISTANCES = "Stated accuracy of distances: 2 mm + 2 ppm is assumed. What a job allows depends on it."
READING = "How the staff is read: by eye is assumed. The ± of every levelling depends on it."
SCREWS = "Number of foot screws: three are assumed. Fine levelling and the methods of a set-up depend on it."
FACTS: tuple[tuple[str, tuple[str, ...], str], ...] = (
    ("plummet", (*ANGLE_KINDS, "tribrach"), PLUMMET),
    ("angle_accuracy_arcsec", ANGLE_KINDS, ANGLES),
    ("distance_accuracy_mm", ("total-station", "robotic-total-station"), DISTANCES),
    ("levelling_accuracy_mm_per_km", LEVEL_KINDS, LEVELLING),
    ("reading", ("level",), READING),
    ("foot_screw_count", ("tribrach",), SCREWS),
)
"""(fact, kinds of instrument that have it, what depends on it)."""


def unstated(instrument: Instrument) -> list[CodedText]:
    """Return the facts that are not stated of an instrument, each with what depends on it."""
    kind = instrument.kind or ""
    return [(name, text) for name, kinds, text in FACTS if kind in kinds and getattr(instrument, name) is None]
