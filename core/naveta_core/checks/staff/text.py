"""What a check of a staff says in words, and its drawing."""

from __future__ import annotations

from collections.abc import Sequence

from ...engine.comparing import Pairs, errors_along
from ...engine.rows import effect, line
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...results import CalculationLine, CodedText, DeviationsPicture, Effect
from ...stats.straight_line import Straight
from ...units.formatting import figure, length_words
from .document import Staff
from .solve import STANDARD_C, lengths_of


def looks_of(document: Staff) -> list[CodedText]:
    """What the inspections found, in words."""
    reasons: list[CodedText] = []
    o = document.observations
    if o.foot_firm == "no":
        reasons.append(("foot-loose", "The foot plate is loose: the zero is not defined."))
    if o.joints_firm == "no":
        reasons.append(("joints-loose", "A joint has play: every height read above it is uncertain."))
    return reasons


def finding_of(found: Straight, quantities: list[JudgedQuantity]) -> str:
    """The finding as one sentence: what it is, how much, ± (95 %)."""
    zero, scale = found.zero(), found.scale()
    parts = []
    if abs(zero.value) > zero.u95:
        parts.append(f"zero {figure(abs(zero.value), 1)} mm {'below' if zero.value > 0 else 'above'} the foot plate")
    if abs(scale.value) > scale.u95:
        parts.append(f"scale {figure(abs(scale.value), 0)} ppm too {'short' if scale.value > 0 else 'long'}")
    if not parts:
        return f"Staff: no error found, zero within {figure(zero.proved_to, 1)} mm, scale within {figure(scale.proved_to, 0)} ppm."
    good = all(abs(quantity.estimate.value) <= quantity.limits.use for quantity in quantities)
    lead = "Staff within its limits" if good else "Staff error"
    return f"{lead}: {' and '.join(parts)}, ± {figure(zero.u95, 1)} mm and ± {figure(scale.u95, 0)} ppm."


def worked_of(document: Staff, read: Pairs, found: Straight, errors: Sequence[float]) -> list[CalculationLine]:
    """The calculation; errors in metres, staff reads too large positive."""
    words = length_words(document.units.length)
    t = document.conditions.temperature_c
    lines = [line("error = graduation − taped length", "error = zero + scale · length")]
    if t is not None:
        lines.append(
            line(f"Steel tape at {t:g} °C, true at 20 °C", f"× (1 + 11.5·10⁻⁶ · {t - STANDARD_C:g})".replace("-", "−"))
        )
    for (_, graduation, tape), e in zip(read.listed, errors, strict=True):
        lines.append(
            line(
                f"Graduation {words.reading(graduation)}",
                f"taped {words.reading(tape)} {words.name}: error {figure(e, 2)} mm",
            )
        )
    lines.append(line("Regression line", f"zero {figure(found.zero_mm, 3)} mm, scale {figure(found.scale_ppm, 1)} ppm"))
    return lines


def work_of(found: Straight) -> list[Effect]:
    """What the error does to the work, at the sights or lengths named."""
    per_metre = found.scale_ppm / 1000
    return [
        effect(
            "per-metre-of-rise",
            f"Each metre of height difference between the sights adds {figure(abs(per_metre), 2)} mm.",
        ),
        effect(
            "with-another-staff",
            f"Used with another staff it adds {figure(abs(found.zero_mm), 1)} mm for an odd number of set-ups; used alone, nothing.",
        ),
    ]


def draw(document: Staff, read: Pairs, judgement: Judgement | None) -> DeviationsPicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    limit = judgement.quantities[0].limits.use if judgement else None
    lengths = lengths_of(document, read)
    return errors_along(
        lengths.error_mm,
        lengths.place_m,
        limit,
        zero="graduation and tape agree",
        along="up the staff",
        words=words_of(document),
    )
