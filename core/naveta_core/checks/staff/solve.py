"""A staff against a steel tape: error = graduation − taped length, and the line through the errors.

The tape's zero lies at the foot plate. The line gives the zero offset and the scale; what lies off it is a division or a
joint.

Source: straight line by least squares (textbook); variances derived in docs/judgement.md (Lengths compared).
"""

from __future__ import annotations

from ...engine.comparing import Compared, ComparisonVariances, Lengths, Pairs, compare
from ...engine.conditions import noise_factor, prior_dof
from ...engine.temperature import sigma_kelvin
from ...stats.estimate import Estimate
from ...stats.noise import TAPE_BETWEEN_MM, TAPE_READING_MM
from ...stats.straight_line import PPM
from .document import Staff

STEEL_PER_K = 11.5e-6
STANDARD_C = 20.0
STEEL_TAPE_PPM = 50.0
"""What a steel tape that was compared may still be out by, its pull not given: one standard deviation."""


def variances_of(document: Staff, read: Pairs, *, with_temperature: bool | None = None) -> ComparisonVariances:
    """Variances: reading the tape; of the scale the tape's own and its temperature (`with_temperature`: as if it were known)."""
    within = (TAPE_READING_MM["steel"] * noise_factor(document)) ** 2 + read.step_mm**2 / 12
    kelvin = sigma_kelvin(document, with_temperature=with_temperature)
    scale = STEEL_TAPE_PPM**2 + (STEEL_PER_K * PPM * kelvin) ** 2
    return ComparisonVariances(within, TAPE_BETWEEN_MM**2, prior_dof(document), scale)


def lengths_of(document: Staff, read: Pairs) -> Lengths:
    """True lengths by the tape, and what the graduations are out by."""
    t = document.conditions.temperature_c
    warm = 1.0 + STEEL_PER_K * ((t if t is not None else STANDARD_C) - STANDARD_C)
    lengths = [tape * warm for _, _, tape in read.listed]
    graduations = [graduation for _, graduation, _ in read.listed]
    errors = [(graduation - length) * 1000 for graduation, length in zip(graduations, lengths, strict=True)]
    return Lengths(tuple(graduations), tuple(lengths), tuple(errors))


def estimates_of(found: Compared) -> list[Estimate]:
    """The estimates a set of lengths gives: scale and zero, or what else the kind judges."""
    return [found.line.zero(), found.line.scale(), found.misfit]


def scale_with_temperature(document: Staff, read: Pairs) -> Estimate:
    """The scale as sure as it would be with the temperature."""
    return compare(lengths_of(document, read), variances_of(document, read, with_temperature=True)).line.scale()
