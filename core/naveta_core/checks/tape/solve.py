"""A tape against known lengths at standard temperature and tension.

read · (1 + α(T − T₀) + (P − P₀)/(A·E)). The rest is the tape's own: a zero that is worn, and a scale that has stretched.

Source: textbook temperature and tension corrections of a steel tape.
"""

from __future__ import annotations

from math import hypot

from ...engine.comparing import Compared, ComparisonVariances, Lengths
from ...engine.conditions import noise_factor, prior_dof
from ...engine.temperature import sigma_kelvin
from ...stats.estimate import Estimate
from ...stats.noise import TAPE_BETWEEN_MM, TAPE_READING_MM
from ...stats.straight_line import PPM
from .document import Tape, TapeRead, beside

PER_K = {"steel": 11.5e-6, "fibreglass": 8.0e-6}
STEEL_N_PER_MM2 = 2.0e5
PPM_PER_N = {"steel": 2.0, "fibreglass": 7.0}
"""What a newton stretches a usual band by, where its cross-section is not known, ppm."""
BALANCE_N = 3.0
"""How well a spring balance is held and read."""
KNOWN_PPM = 20.0
"""What the known lengths, or the proved tape beside it, may be out by in their own scale: one standard deviation."""
BESIDE_KELVIN = 1.0
"""By how much two bands side by side in the shade differ in temperature."""


def not_brought_back(document: Tape, read: TapeRead) -> float:
    """By how many newtons it was pulled otherwise than at its standard without that being calculated with."""
    if read.tension_n is None or (read.section_mm2 is not None and document.observations.material == "steel"):
        return 0.0
    return abs(read.tension_n - read.standard_n)


def strain_of(document: Tape, read: TapeRead) -> tuple[float, float, float]:
    """What temperature and tension stretch it by, and what temperature stretches the tape beside it by: shares of length."""
    t = document.conditions.temperature_c
    kelvin = (t if t is not None else read.standard_c) - read.standard_c
    warm = PER_K[document.observations.material] * kelvin
    if beside(document):  # both are pulled alike: what that stretches them by falls out
        return warm, 0.0, PER_K["steel"] * kelvin
    pulled = 0.0
    if read.section_mm2 is not None and read.tension_n is not None and document.observations.material == "steel":
        pulled = (read.tension_n - read.standard_n) / (read.section_mm2 * STEEL_N_PER_MM2)
    return warm, pulled, 0.0


def variances_of(document: Tape, read: TapeRead, *, with_temperature: bool | None = None) -> ComparisonVariances:
    """Variances: reading; of the scale what it was compared with, its temperature (`with_temperature`: as if known) and its pull."""
    material = document.observations.material
    readings = 2 if beside(document) else 1
    within = readings * ((TAPE_READING_MM[material] * noise_factor(document)) ** 2 + read.pairs.step_mm**2 / 12)
    kelvin = sigma_kelvin(document, with_temperature=with_temperature)
    warm = PER_K[material] * PPM * kelvin
    if beside(document):  # both lie at one temperature, but for a kelvin
        warm = hypot((PER_K[material] - PER_K["steel"]) * PPM * kelvin, PER_K[material] * PPM * BESIDE_KELVIN)
    pull = PPM_PER_N[material] * hypot(BALANCE_N, not_brought_back(document, read))
    return ComparisonVariances(within, TAPE_BETWEEN_MM**2, prior_dof(document), KNOWN_PPM**2 + warm**2 + pull**2)


def lengths_of(document: Tape, read: TapeRead) -> Lengths:
    """Known lengths, and what the tape reads too much there, brought to its standard."""
    warm, pulled, beside_it = strain_of(document, read)
    places = [known for _, known, _ in read.pairs.listed]
    known = [place * (1.0 + beside_it) for place in places]
    errors = [
        (reads * (1.0 + warm + pulled) - known_m) * 1000
        for (_, _, reads), known_m in zip(read.pairs.listed, known, strict=True)
    ]
    return Lengths(tuple(places), tuple(known), tuple(errors))


def estimates_of(found: Compared) -> list[Estimate]:
    """The estimates a set of lengths gives: scale and zero, or what else the kind judges."""
    return [found.line.scale(), found.line.zero()]
