"""What the scatter of a level means: held against what is stated and against the last full test; what the sets say.

Source: statistical tests of ISO 17123-2, clause 6 (chi square, F and t).
"""

from __future__ import annotations

from math import fsum, sqrt

from ...engine.conditions import Circumstances, Needs
from ...engine.full_test import FullTest, held_against
from ...engine.parser import ordinal
from ...engine.reports import report_outlier
from ...engine.rows import row, shown
from ...engine.verdict import Judgement
from ...geometry import mean
from ...results import CodedText, Repeats
from ...stats.outliers import find_outlier
from ...stats.quantiles import t_quantile
from ...units.formatting import figure, size
from ...units.numbers import DECIMAL, finest, shown_step
from .document import MAIN, LevellingAccuracy, LevellingAccuracyFigures, LevellingRead
from .solve import PERMITTED_S, per_km, squares, sum_of_dof
from .text import finding_of, work_of, worked_of

USUAL_MM_PER_KM = 2.0
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "overhead-lines", "storm", "traffic", "weather"),
    "reading": ("sun", "overhead-lines"),
    "adjusting": (),
}


def needs(_document: LevellingAccuracy) -> Needs:
    """The circumstances this check depends on."""
    return Needs(firm_stand=True, temperature=True, shaded=True, through_air=True, by_hand=True)


def _digit_mm(read: LevellingRead) -> float:
    """Two readings a difference, each rounded: that is taken out of what is held against the stated accuracy."""
    return sqrt(_step_mm(read) ** 2 / 6)


def _step_mm(read: LevellingRead) -> float:
    """The worth of the last digit, as far as the readings show it."""
    step = finest(entry.step_mm for listed in read.sets for entry in listed)
    return shown_step([value for listed in read.sets for entry in listed for value in entry.read_mm], step, DECIMAL)


def judge(document: LevellingAccuracy, read: LevellingRead, _circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    full = document.observations.procedure == "full"
    first, second = ([entry.mm for entry in listed] for listed in read.sets)
    counted = [first, second] if full else [first]
    dof = sum_of_dof(counted)
    s = sqrt(fsum(squares(entry) for entry in counted) / dof)
    found = FullTest(s * per_km(read.base_m), dof, full, _digit_mm(read) * per_km(read.base_m))
    kilometre = found.s
    gap = mean(first) - mean(second)
    stated = document.instrument.levelling_accuracy_mm_per_km
    more, first_actions, bound_mm = _between(
        full=full, s=s, dof=dof, pairs=len(first), gap=gap, permitted=read.permitted_mm
    )
    quantity = held_against(
        document, MAIN, "the standard deviation", unit="mm/km", found=found, stated=stated,
        more=() if full else more, then=first_actions,
    )  # fmt: skip
    figures = LevellingAccuracyFigures(
        levelling_sigma_mm_per_km=kilometre,
        sigma_levelling_sigma_mm_per_km=found.sigma,
        difference_sigma_mm=s,
        degrees_of_freedom=dof,
        set_difference_mm=gap,
        means_mm=[mean(first), mean(second)],
        repeats=Repeats(squares=0.0, dof=0.0),
    )
    label = "Difference of staff zeros" if full else "Middle minus near staff"
    judgement = Judgement(
        [quantity],
        figures,
        finding_of(kilometre, dof, stated),
        shown=[
            shown(quantity, "Standard deviation, 1 km of double-run levelling", size(kilometre, kilometre, "mm/km")),
            row("difference_sigma_mm", "One height difference", size(s, s, "mm"), value=s, unit="mm"),
            row(
                "set_difference_mm",
                label,
                f"{figure(gap, 2)} mm, up to {figure(bound_mm, 2)} mm is possible by chance",
                value=gap,
                unit="mm",
            ),
        ],
        worked=worked_of(document, read, s, dof=dof, kilometre=kilometre, gap=gap),
        work=[work_of(kilometre)],
    )
    if full:
        judgement.reasons += more
    _report_outlier(judgement, read, stated)
    return judgement


def _between(
    *, full: bool, s: float, dof: int, pairs: int, gap: float, permitted: float | None
) -> tuple[list[CodedText], list[CodedText], float]:
    """What the two sets' means say: the staffs, or the line of sight; what to do; by how much they may differ."""
    if full:
        allowed = t_quantile(0.975, dof) * s * sqrt(2.0 / pairs)
        if abs(gap) <= allowed:
            return [], [], allowed
        text = f"The staff zeros differ by {figure(abs(gap), 2)} mm, more than chance ({figure(allowed, 2)} mm): use an even number of set-ups in each line, or one staff only."
        return [("staffs-differ", text)], [], allowed
    allowed = permitted if permitted is not None else PERMITTED_S * s
    if abs(gap) <= allowed:
        return [], [], allowed
    why = "permitted" if permitted is not None else "2.5 times the scatter"
    text = f"From the middle and from near one staff the height differences disagree by {figure(abs(gap), 2)} mm, allowed {figure(allowed, 2)} mm ({why}): the line of sight is not level."
    return [("set-ups-disagree", text)], [("two-peg", "Do a two-peg test to find the collimation error.")], allowed


def _report_outlier(judgement: Judgement, read: LevellingRead, stated: float | None) -> None:
    """A pair that does not fit its set: named, and nothing concluded."""
    spread = (stated or USUAL_MM_PER_KM) / per_km(read.base_m)
    found = find_outlier([[entry.mm / spread for entry in listed] for listed in read.sets], _step_mm(read) / spread)
    if found is None:
        return
    entry = read.sets[found.group][found.index]
    others = [other.mm for other in read.sets[found.group] if other is not entry]
    away = entry.mm - mean(others)
    text = f"The {ordinal(found.index)} pair of the {ordinal(found.group)} set ({entry.texts[0]} and {entry.texts[1]}) is {figure(abs(away), 1)} mm from the others: measure it again."
    report_outlier(judgement, entry.path, text)
