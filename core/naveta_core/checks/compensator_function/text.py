"""What a check of a compensator says in words, and its drawing."""

from __future__ import annotations

from ...engine.reader import PlainRow
from ...engine.rows import effect, line, row, shown
from ...engine.verdict import JudgedQuantity
from ...engine.work import words_of, work_sight_m
from ...results import CalculationLine, CodedText, Effect, Shown
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure, length_words
from .document import SIDES, WORDS, CompensatorFigures, CompensatorFunction, CompensatorRead
from .solve import mean_of


def pattern_of(fore_aft: float, across: float, u: float) -> list[CodedText]:
    """How the shifts lie, fore and aft against across; all in arcsec, line of sight up positive."""
    if abs(fore_aft) > u and abs(fore_aft) > 2 * abs(across):
        return [
            (
                "fore-and-aft",
                "The shift is along the sight: the compensator over- or undercorrects. Keep the bubble centred along the sight.",
            )
        ]
    if abs(across) > u and abs(across) > 2 * abs(fore_aft):
        return [
            (
                "left-and-right",
                "The shift is across the sight: the compensator is tilted sideways. Always centre the bubble from the same side.",
            )
        ]
    return []


def finding_of(value: float, u: float, position: str) -> str:
    """The finding as one sentence; value and u in arcsec."""
    if abs(value) <= u:
        return f"Compensator works: no shift above {arcsec(abs(value) + u, u)} anywhere in the ring."
    return f"Bubble {position} line of sight points {arcsec(abs(value), u)} {'up' if value > 0 else 'down'}, ± {arcsec(u, u)}: compensation error."


def shown_of(quantity: JudgedQuantity, figures: CompensatorFigures) -> list[Shown]:
    """The figures of the result as rows: what it is, its value, its ±."""
    rows = [shown(quantity, "Largest shift")]
    for shift in figures.shifts:
        text = f"{arcsec(shift.shift_arcsec)}, {figure(shift.shift_mm, 1)} mm"
        rows.append(
            row(
                f"shift_{shift.position}_arcsec",
                WORDS[shift.position].capitalize(),
                text,
                value=shift.shift_arcsec,
                unit="arcsec",
            )
        )
    if figures.arcsec_per_arcmin is not None:
        rows.append(
            row(
                "arcsec_per_arcmin",
                "Per minute of tilt",
                f"{figure(figures.arcsec_per_arcmin, 2)}″",
                value=figures.arcsec_per_arcmin,
                unit="arcsec",
            )
        )
    return rows


def worked_of(
    document: CompensatorFunction, groups: dict[str, list[PlainRow]], shifts: dict[str, float]
) -> list[CalculationLine]:
    """The calculation, place by place; shifts in arcsec, up positive."""
    words = length_words(document.units.length)
    lines = [
        line(
            "Each position minus centred, over the distance",
            "shift = (mean there − mean in the middle) / D · 206 265",
        )
    ]
    for name, group in groups.items():
        text = f"{words.reading(mean_of(group), 1)} {words.name}, mean of {len(group)}"
        lines.append(
            line(WORDS[name].capitalize(), text if name == "centre" else f"{text}: {figure(shifts[name], 2)}″")
        )
    return lines


def work_of(document: CompensatorFunction, value: float) -> list[Effect]:
    """The effect of the shift, the bubble let run to its ring: as an error of the line of sight in unbalanced sights.

    Value in arcsec.
    """
    far, words = work_sight_m(document), words_of(document)
    text = f"With the bubble at its ring: {words.small(abs(value) / ARCSEC_PER_RADIAN * far)} at {words.height(far)}; within the inner quarter of the ring, a quarter of that."
    return [effect("bubble-at-ring", text)]


def running(read: CompensatorRead, scale: float) -> list[CodedText]:
    """The largest shift so far, while places are still to come. Scale in arcsec per metre of staff."""
    seen = [name for name in SIDES if read.at[name] and read.at["centre"]]
    if not seen or len(seen) == len(SIDES):
        return []
    shifts = {name: (mean_of(read.at[name]) - mean_of(read.at["centre"])) * scale for name in seen}
    name = max(seen, key=lambda entry: abs(shifts[entry]))
    return [("running", f"Largest shift so far: {arcsec(shifts[name])}, {WORDS[name]}.")]
