"""What a staff's zero, divisions and joints mean: replaced, not adjusted; what a look found is repaired by hand.

Source: limits from the reading and the work, docs/judgement.md (Lengths compared).
"""

from __future__ import annotations

from functools import cache

from ...engine.comparing import Compared, ComparisonVariances, Pairs, compare, running_errors, without_each
from ...engine.conditions import Circumstances
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.reports import repeats_of
from ...engine.rows import row, shown
from ...engine.temperature import ask_temperature, report_compared, report_temperature
from ...engine.verdict import JudgedQuantity, Judgement, LeftOut
from ...stats.decision import Limits
from ...stats.straight_line import PPM
from ...units.formatting import figure, length_words
from .document import SCALE, STEP, ZERO, GraduationError, Staff, StaffFigures, where
from .solve import estimates_of, lengths_of, scale_with_temperature, variances_of
from .text import finding_of, looks_of, work_of, worked_of

ZERO_WATCH_MM = 1.5
SOURCE = "default limit for a staff of site work"
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("overhead-lines", "storm", "tape"),
    "reading": ("tape",),
    "adjusting": ("tape",),
}


def _quantities(document: Staff, read: Pairs, found: Compared, how: ComparisonVariances) -> list[JudgedQuantity]:
    left_out = cache(lambda: without_each(lengths_of(document, read), how, found.used, estimates_of))
    paths = [read.listed[i][0] for i in found.used]

    def quantity(
        at: int, name: str, noun: str, *, unit: str, use: float, q: tuple[float, float], condition: str
    ) -> JudgedQuantity:
        watch = ZERO_WATCH_MM if name == ZERO else 2 * use
        default = Limits(use, watch, watch, SOURCE, adjustable=False)

        def without() -> list[LeftOut]:
            return [(path, entry[at] if entry else None) for path, entry in zip(paths, left_out(), strict=True)]

        limits, estimate = limits_from(document, name, default), estimates_of(found)[at]
        return JudgedQuantity(
            name, noun, unit, estimate=estimate, limits=limits, q_within=q[0], q_between=q[1], condition=condition,
            without=without,
        )  # fmt: skip

    solved = found.line.solved
    return [
        quantity(
            0,
            ZERO,
            "the zero of the foot plate",
            unit="mm",
            use=0.7,
            q=(solved.q_within(0), how.between),
            condition="Use only this staff for backsight and foresight: its zero then cancels. Never mix it with another in one line.",
        ),
        quantity(
            1,
            SCALE,
            "the graduation",
            unit="ppm",
            use=300.0,
            q=(solved.q_within(1) * PPM, how.scale_ppm2),
            condition="On flat ground only: the error grows with the height difference.",
        ),
        quantity(
            2,
            STEP,
            "the largest single graduation error",
            unit="mm",
            use=1.0,
            q=(found.misfit_variance, 0.0),
            condition="Do not read across the faulty joint.",
        ),
    ]


def judge(document: Staff, read: Pairs, _circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    how = variances_of(document, read)
    lengths = lengths_of(document, read)
    compared, errors = compare(lengths, how), lengths.error_mm
    found, at, misfit = compared.line, compared.at, compared.misfit.value
    quantities = _quantities(document, read, compared, how)
    words, o = length_words(document.units.length), document.observations
    figures = StaffFigures(
        zero_offset_mm=found.zero_mm,
        sigma_zero_offset_mm=found.zero().sigma,
        scale_ppm=found.scale_ppm,
        sigma_scale_ppm=found.scale().sigma,
        largest_step_mm=misfit,
        errors=[
            GraduationError(graduation_m=graduation, error_mm=e, misfit_mm=v)
            for (_, graduation, _), e, v in zip(read.listed, errors, compared.residuals, strict=True)
        ],
        repeats=repeats_of(found.solved.spread),
    )
    place = words.reading(read.listed[at][1])
    judgement = Judgement(
        quantities,
        figures,
        finding_of(found, quantities),
        shown=[
            shown(quantities[0], "Zero of the foot plate"),
            shown(quantities[1], "Scale, too short is plus"),
            row(STEP, "Largest residual", f"{figure(misfit, 2)} mm at {place}", value=misfit, unit="mm"),
        ],
        worked=worked_of(document, read, found, errors),
        work=work_of(found),
        repeats=found.solved.spread,
        taken=1,
        repeat_text="Lay the tape again and read once more. Both runs count together.",
        service_text="Take it out of use: a staff is replaced, not adjusted.",
    )
    judgement.reasons += looks_of(document)
    report_compared(judgement, compared, [path for path, _, _ in read.listed], where)
    report_temperature(judgement, document, quantities[1], found.scale(), scale_with_temperature(document, read))
    if o.foot_firm == "no":
        judgement.to_fix.append(("fix-foot", "Fix the foot plate, then measure again: its zero has moved."))
    if o.joints_firm == "no":
        judgement.to_fix.append(
            ("clean-joints", "Clean the joints, check that each section locks, then measure again.")
        )
    return judgement


def progress_of(document: Staff, read: Pairs) -> SheetProgress:
    """What can be said while readings are still to come."""
    return SheetProgress(
        [*looks_of(document), *ask_temperature(document), *running_errors(lengths_of(document, read).error_mm)]
    )
