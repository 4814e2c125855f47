"""What the scatter of angles means: held against what is stated and against the last full test.

Source: statistical tests of ISO 17123-3, clauses 5 and 6 (chi square and F).
"""

from __future__ import annotations

from math import sqrt

from ...engine.conditions import Circumstances, Needs
from ...engine.full_test import FullTest, held_against
from ...engine.parser import ordinal
from ...engine.reports import report_outlier
from ...engine.rows import row, shown
from ...engine.verdict import Judgement
from ...results import CodedText, Repeats
from ...stats.outliers import find_outlier
from ...stats.quantiles import t_quantile
from ...units.formatting import arcsec, figure
from .document import MAIN, AccuracyRead, DirectionAccuracy, DirectionAccuracyFigures
from .solve import USUAL_ARCSEC, ReducedSeries, reduce_all, step_arcsec
from .text import finding_of, work_of, worked_of

CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "turns-by-itself", "weather", "hold", "no-plunge"),
    "reading": ("sun", "turns-by-itself", "no-plunge"),
    "adjusting": ("hold",),
}


def needs(_document: DirectionAccuracy) -> Needs:
    """The circumstances this check depends on."""
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True, shaded=True, through_air=True)


def judge(document: DirectionAccuracy, read: AccuracyRead, _circumstances: Circumstances) -> Judgement:
    """s against what is stated and against the last full test; the index of the vertical circle against chance."""
    o, found = document.observations, reduce_all(document, read)
    horizontal, full = o.circle == "horizontal", o.procedure == "full"
    noun = "one direction in both faces" if horizontal else "one zenith angle in both faces"
    stated = document.instrument.angle_accuracy_arcsec
    same = document.model_copy(
        update={"before": [earlier for earlier in document.before if earlier.result.get("circle") == o.circle]}
    )
    full_test = FullTest(found.s, found.dof, full, found.rounding)
    quantity = held_against(same, MAIN, noun, unit="arcsec", found=full_test, stated=stated)
    figures = DirectionAccuracyFigures(
        direction_sigma_arcsec=found.s,
        sigma_direction_sigma_arcsec=full_test.sigma,
        degrees_of_freedom=found.dof,
        circle=o.circle,
        series_sigma_arcsec=found.spreads,
        collimation_arcsec=found.collimation if horizontal else None,
        index_arcsec=None if horizontal else found.index,
        repeats=Repeats(squares=0.0, dof=0.0),
    )
    rows = [shown(quantity, noun.capitalize(), arcsec(found.s, found.s))]
    name, label, value = (
        ("collimation_arcsec", "Collimation error c, mean of all", found.collimation)
        if horizontal
        else ("index_arcsec", "Vertical index error i, mean of all", found.index)
    )
    rows.append(row(name, label, f"{figure(value, 1)}″", value=value, unit="arcsec"))
    judgement = Judgement(
        [quantity],
        figures,
        finding_of(found, noun, stated),
        shown=rows,
        worked=worked_of(found, horizontal=horizontal),
        work=[work_of(document, found, horizontal=horizontal)],
    )
    judgement.reasons += _index(found, horizontal=horizontal)
    _report_outlier(judgement, read, found, stated or USUAL_ARCSEC)
    return judgement


def _index(found: ReducedSeries, *, horizontal: bool) -> list[CodedText]:
    if horizontal:
        return []
    chance = t_quantile(0.975, found.dof) * found.s / sqrt(found.pairs)
    if abs(found.index) <= chance:
        return []
    text = f"The vertical index error is {arcsec(abs(found.index), chance)} , more than chance explains ({arcsec(chance, chance)}): do a two-face check."
    return [("index-shown", text)]


def _report_outlier(judgement: Judgement, read: AccuracyRead, found: ReducedSeries, spread: float) -> None:
    """A direction that does not fit those of the other sets: named, and nothing concluded."""
    groups, at = [], []
    for series, residuals in zip(read.series, found.residuals, strict=True):
        for name in series[0].left:
            groups.append([residual[name] / spread for residual in residuals])
            at.append((series, name))
    outlier = find_outlier(groups, step_arcsec(read) / spread)
    if outlier is None:
        return
    series, name = at[outlier.group]
    entry = series[outlier.index]
    path = f"observations.series[{entry.series}].sets[{entry.number}]"
    text = f"Target {name} of the {ordinal(entry.number)} set ({entry.left[name].text} and {entry.right[name].text}) does not agree: measure that set again."
    report_outlier(judgement, path if name not in entry.left else entry.left[name].path, text)
