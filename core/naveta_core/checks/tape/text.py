"""What a comparison of a tape says in words, and its drawing."""

from __future__ import annotations

from collections.abc import Sequence

from ...engine.comparing import errors_along
from ...engine.rows import effect, line
from ...engine.verdict import Judgement
from ...engine.work import words_of
from ...results import CalculationLine, CodedText, DeviationsPicture, Effect
from ...stats.straight_line import PPM, Straight
from ...units.formatting import LengthWords, figure, length_words
from .document import Tape, TapeRead, beside
from .solve import PPM_PER_N, lengths_of, not_brought_back, strain_of

TENSION_REPORTED_N = 5.0


def tension_of(document: Tape, read: TapeRead) -> list[CodedText]:
    """What a tension that is not brought back to the standard one adds; newton and ppm."""
    off = not_brought_back(document, read)
    if off <= TENSION_REPORTED_N:
        return []
    per_million = PPM_PER_N[document.observations.material] * off
    why = "without its cross-section" if document.observations.material == "steel" else "for this tape"
    text = f"Pulled at {read.tension_n:g} N, standard is {read.standard_n:g} N: {why} this is not corrected, and the scale is {figure(per_million, 0)} ppm less certain. Use the standard tension."
    return [("tension-not-brought-back", text)]


def finding_of(found: Straight, words: LengthWords) -> str:
    """The finding as one sentence: what it is, how much, ± (95 %)."""
    long = words.distance(30)
    scale, zero = found.scale(), found.zero()
    if abs(scale.value) <= scale.u95 and abs(zero.value) <= zero.u95:
        return f"Tape: no error found, within {figure(scale.proved_to * 0.03, 1)} mm in {long} and {figure(zero.proved_to, 1)} mm at zero."
    at_30 = scale.value * 0.03 + zero.value
    return f"The tape reads {figure(abs(at_30), 1)} mm too {'much' if at_30 > 0 else 'little'} in {long}, ± {figure(scale.u95 * 0.03, 1)} mm at standard temperature and tension."


def worked_of(document: Tape, read: TapeRead, found: Straight, errors: Sequence[float]) -> list[CalculationLine]:
    """The calculation; errors in metres, tape reads too large positive."""
    words = length_words(document.units.length)
    warm, pulled, beside_it = strain_of(document, read)
    lines = [
        line("Corrected to standard temperature and tension", "read · (1 + α(T − T₀) + (P − P₀)/(A·E))"),
        line("Temperature, tension", f"{figure(warm * PPM, 1)} ppm, {figure(pulled * PPM, 1)} ppm"),
    ]
    if beside(document):
        lines.append(line("The tape beside it, by temperature", f"{figure(beside_it * PPM, 1)} ppm"))
    for (_, known, reads), e in zip(read.pairs.listed, errors, strict=True):
        lines.append(
            line(
                f"Known {words.reading(known)} {words.name}",
                f"reads {words.reading(reads)}: {figure(e, 2)} mm too much",
            )
        )
    lines.append(
        line(
            "error = zero + scale · length",
            f"zero {figure(found.zero_mm, 2)} mm, scale {figure(found.scale_ppm, 1)} ppm",
        )
    )
    return lines


def work_of(found: Straight, words: LengthWords) -> list[Effect]:
    """What the error does to the work, at the sights or lengths named."""
    return [
        effect(
            f"length-{d}-m",
            f"A distance of {words.distance(d)} is read {figure(abs(found.zero_mm + found.scale_ppm * d / 1000), 1)} mm too {'long' if found.zero_mm + found.scale_ppm * d / 1000 > 0 else 'short'}.",
        )
        for d in (5, 10, 30)
    ]


def draw(document: Tape, read: TapeRead, judgement: Judgement | None) -> DeviationsPicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    lengths = lengths_of(document, read)
    limit = judgement.quantities[1].limits.use if judgement else None
    return errors_along(
        lengths.error_mm,
        lengths.place_m,
        limit,
        zero="tape and known length agree",
        along="along the tape",
        words=words_of(document),
    )
