"""What a tape's scale and zero mean: corrected, or put out of use; never adjusted.

Source: limits from the reading and the work, docs/judgement.md (Lengths compared).
"""

from __future__ import annotations

from functools import cache, partial

from ...engine.comparing import Compared, ComparisonVariances, compare, running_errors, without_each
from ...engine.conditions import Circumstances
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.reports import repeats_of
from ...engine.rows import shown
from ...engine.temperature import ask_temperature, report_compared, report_temperature
from ...engine.verdict import JudgedQuantity, Judgement, LeftOut
from ...engine.work import words_of
from ...stats.decision import Limits
from ...stats.straight_line import PPM
from ...units.formatting import figure
from .document import SCALE, ZERO, LengthError, Tape, TapeFigures, TapeRead, where
from .solve import estimates_of, lengths_of, variances_of
from .text import finding_of, tension_of, work_of, worked_of

CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("traffic", "tape"),
    "reading": ("tape",),
    "adjusting": ("tape",),
}


def _quantities(document: Tape, read: TapeRead, compared: Compared, how: ComparisonVariances) -> list[JudgedQuantity]:
    """Scale and zero against their limits, each also with every single length left out."""
    found, lengths = compared.line, lengths_of(document, read)
    paths = [read.pairs.listed[i][0] for i in compared.used]
    left_out = cache(lambda: without_each(lengths, how, compared.used, estimates_of))

    def without(at: int) -> list[LeftOut]:
        return [(path, entry[at] if entry else None) for path, entry in zip(paths, left_out(), strict=True)]

    words = words_of(document)
    steel = document.observations.material == "steel"
    source = f"default limit for a {document.observations.material} tape of site work"
    use, watch = (100.0, 300.0) if steel else (300.0, 600.0)
    text = f"{figure(-found.scale_ppm * 0.03, 1)} mm to every {words.distance(30)} read, {figure(-found.zero_mm, 1)} mm to every length"
    return [
        JudgedQuantity(
            SCALE,
            "the scale",
            "ppm",
            estimate=found.scale(),
            limits=limits_from(document, SCALE, Limits(use, watch, watch, source, adjustable=False)),
            q_within=found.solved.q_within(1) * PPM,
            q_between=how.scale_ppm2,
            condition=f"With its correction: add {text}.",
            without=partial(without, 0),
        ),
        JudgedQuantity(
            ZERO,
            "the zero",
            "mm",
            estimate=found.zero(),
            limits=limits_from(document, ZERO, Limits(1.0, 2.0, 2.0, source, adjustable=False)),
            q_within=found.solved.q_within(0),
            q_between=how.between,
            condition=f"Measure from the 1 {words.name} mark instead of the ring, and subtract 1 {words.name}.",
            without=partial(without, 1),
        ),
    ]


def judge(document: Tape, read: TapeRead, _circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    how, lengths = variances_of(document, read), lengths_of(document, read)
    compared, errors = compare(lengths, how), lengths.error_mm
    found = compared.line
    quantities = _quantities(document, read, compared, how)
    figures = TapeFigures(
        scale_ppm=found.scale_ppm,
        sigma_scale_ppm=found.scale().sigma,
        zero_offset_mm=found.zero_mm,
        sigma_zero_offset_mm=found.zero().sigma,
        correction_mm_per_30_m=-found.scale_ppm * 0.03,
        errors=[
            LengthError(known_m=known, error_mm=e) for (_, known, _), e in zip(read.pairs.listed, errors, strict=True)
        ],
        repeats=repeats_of(found.solved.spread),
    )
    judgement = Judgement(
        quantities,
        figures,
        finding_of(found, words_of(document)),
        shown=[shown(quantities[0], "Reads too much, scale"), shown(quantities[1], "Reads too much, zero")],
        worked=worked_of(document, read, found, errors),
        work=work_of(found, words_of(document)),
        repeats=found.solved.spread,
        more_readings=("reading at every length", "readings at every length"),
        repeat_text="Pull it again to the same tension and read once more. Both runs count together.",
        service_text="Take it out of use: a stretched tape cannot be repaired.",
    )
    judgement.reasons += tension_of(document, read)
    report_compared(judgement, compared, [path for path, _, _ in read.pairs.listed], where)
    with_it = compare(lengths, variances_of(document, read, with_temperature=True)).line.scale()
    report_temperature(judgement, document, quantities[0], found.scale(), with_it)
    return judgement


def progress_of(document: Tape, read: TapeRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    return SheetProgress(
        [*ask_temperature(document), *tension_of(document, read), *running_errors(lengths_of(document, read).error_mm)]
    )
