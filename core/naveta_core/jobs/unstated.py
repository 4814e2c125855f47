"""Facts missing from an instrument's model, each with the results that depend on it.

A missing fact is unknown, not absent: a plummet is checked unless the model states *none*.
"""

from __future__ import annotations

from ..checks.two_face.document import DEFAULT_ACCURACY_ARCSEC
from ..documents.envelope import Instrument
from ..orientation.solve import DISTANCE_MM, DISTANCE_PPM
from ..results import CodedText
from .errors_in_force import ANGLE_KINDS, LEVEL_KINDS

ANGLES = f"Stated accuracy of angles: {DEFAULT_ACCURACY_ARCSEC:g}″ is assumed. Limits, uncertainty and what a job allows depend on it."
LEVELLING = "Stated accuracy of levelling: limits, uncertainty and what a job allows depend on it."
PLUMMET = "Plummet: whether it has one, and of which kind. Its check is due until then; the steps and methods of a set-up depend on it."
DISTANCES = f"Stated accuracy of distances: {DISTANCE_MM:g} mm + {DISTANCE_PPM:g} ppm is assumed. What a job allows depends on it."
READING = "How the staff is read: by eye is assumed. The uncertainty of every levelling depends on it."
ELECTRONIC = "Electronic level: whether it has one. A total station is taken to have one, a theodolite none. Its check and the means of fine levelling depend on it."
PLATE = "Plate vial: whether it has one. A theodolite is taken to have one, a total station none. Its check and the means of fine levelling depend on it."
SCREWS = "Number of foot screws: three are assumed. Fine levelling and the methods of a set-up depend on it."
FACTS: tuple[tuple[str, tuple[str, ...], str], ...] = (
    ("plummet", (*ANGLE_KINDS, "tribrach"), PLUMMET),
    ("electronic_level", ANGLE_KINDS, ELECTRONIC),
    ("plate_vial", ANGLE_KINDS, PLATE),
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
    known = {"electronic_level": instrument.has_electronic_level, "plate_vial": instrument.has_plate_vial}
    return [
        (name, text)
        for name, kinds, text in FACTS
        if kind in kinds and known.get(name, getattr(instrument, name)) is None
    ]
