"""The accuracy of directions and zenith angles by a full field procedure (after ISO 17123-3, simplified and full).

Directions: see sheet/directions.py; s = √(Σs_i²/4) over the series, 8 degrees of freedom each in the full procedure.
Zenith angles: x = (I − II)/2 + 180°, r = x − mean of its mark in the series, ν = (n − 1)·t a series; the index is half the
mean of I + II − 360°, and differs from nothing by more than chance when |δ| > t₀.₉₇₅(ν)·s/√N (N readings of both faces).
"""

from __future__ import annotations

from dataclasses import dataclass
from math import fsum, sqrt
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...blunders import find_apart
from ...numerals import SEXAGESIMAL, finest, shown_step
from ...quantiles import t_quantile
from ...readings import ordinal
from ...wording import arcsec, figure
from ..sheet.answer import SoFar
from ..sheet.campaign import Found, held_against
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.directions import mean as mean_of
from ..sheet.directions import of_both_faces, reduced, twice_c_arcsec, wrapped
from ..sheet.judged import Judged, Said, effect, line, name_apart, row, shown
from ..sheet.pictures import deviations
from .model import DirectionAccuracy
from .read import OneSet, Read

Data = dict[str, Any]
MAIN = "direction_sigma_arcsec"
USUAL_ARCSEC = 5.0
FAR_ARCSEC = 1800.0
"""Beyond it nothing is said of c or i: something was typed or sighted wrongly."""
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "hold", "no-plunge"),
    "reading": ("sun", "no-plunge"),
    "adjusting": ("hold",),
}


@dataclass(frozen=True, slots=True)
class Reduced:
    """Residuals by series, set and mark, seconds; how they scatter."""

    residuals: list[list[dict[str, float]]]
    spreads: list[float]
    dof: int
    s: float
    rounding: float
    """What the last digit puts into it: the mean of both faces, each rounded."""
    index: float
    collimation: float
    pairs: int


def _digit(read: Read) -> float:
    shots = [shot for sets in read.series for one in sets for face in (one.left, one.right) for shot in face.values()]
    step = finest(one.step_arcsec for one in shots)
    return sqrt(shown_step([one.value * 3600 for one in shots], step, SEXAGESIMAL) ** 2 / 24)


def needs(_document: DirectionAccuracy) -> Needs:
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True)


def reduce_all(document: DirectionAccuracy, read: Read) -> Reduced:
    """Every series by itself, then together."""
    horizontal = document.observations.circle == "horizontal"
    residuals, squares, spreads, dof = [], [], [], 0
    for sets in read.series:
        own, ss, redundant = _directions(sets) if horizontal else _zeniths(sets)
        residuals.append(own)
        squares.append(ss)
        spreads.append(sqrt(ss / redundant))
        dof += redundant
    pairs = [
        (one.left[name].value, one.right[name].value) for sets in read.series for one in sets for name in one.marks
    ]
    c = 0.0 if not horizontal else mean_of([twice_c_arcsec(a, b) for a, b in pairs]) / 2
    i = 0.0 if horizontal else mean_of([(a + b - 360.0) * 3600 for a, b in pairs]) / 2
    return Reduced(residuals, spreads, dof, sqrt(fsum(squares) / dof), _digit(read), i, c, len(pairs))


def _directions(sets: list[OneSet]) -> tuple[list[dict[str, float]], float, int]:
    names = list(sets[0].left)
    found = reduced([[of_both_faces(one.left[name].value, one.right[name].value) for name in names] for one in sets])
    return [dict(zip(names, one, strict=True)) for one in found.residuals], found.squares, found.dof


def _zeniths(sets: list[OneSet]) -> tuple[list[dict[str, float]], float, int]:
    names = list(sets[0].left)
    x = [{name: wrapped(one.left[name].value - one.right[name].value + 360.0) / 2 for name in names} for one in sets]
    means = {name: mean_of([one[name] for one in x]) for name in names}
    residuals = [{name: (one[name] - means[name]) * 3600 for name in names} for one in x]
    return residuals, fsum(r * r for one in residuals for r in one.values()), (len(sets) - 1) * len(names)


def judge(document: DirectionAccuracy, read: Read, _told: Circumstances) -> Judged:
    """s against what is stated and against the last campaign; the index of the vertical circle against chance."""
    o, found = document.observations, reduce_all(document, read)
    horizontal, full = o.circle == "horizontal", o.procedure == "full"
    noun = "one direction in both faces" if horizontal else "one zenith angle in both faces"
    stated = document.instrument.angle_accuracy_arcsec
    same = document.model_copy(
        update={"before": [one for one in document.before if one.result.get("circle") == o.circle]}
    )
    campaign = Found(found.s, found.dof, full, found.rounding)
    quantity = held_against(same, MAIN, noun, "arcsec", campaign, stated)
    figures: Data = {
        MAIN: found.s,
        f"sigma_{MAIN}": campaign.sigma,
        "degrees_of_freedom": found.dof,
        "circle": o.circle,
        "series_sigma_arcsec": found.spreads,
        "collimation_arcsec": found.collimation if horizontal else None,
        "index_arcsec": None if horizontal else found.index,
        "repeats": {"squares": 0.0, "dof": 0.0},
    }
    rows = [shown(quantity, noun.capitalize(), arcsec(found.s, found.s))]
    if horizontal:
        rows.append(
            row(
                "collimation_arcsec",
                "Sighting error c, mean of all",
                f"{figure(found.collimation, 1)}″",
                found.collimation,
                "arcsec",
            )
        )
    else:
        rows.append(
            row("index_arcsec", "Vertical index i, mean of all", f"{figure(found.index, 1)}″", found.index, "arcsec")
        )
    judged = Judged(
        [quantity], figures, _finding(found, noun, stated), rows, _worked(found, horizontal), [_work(document, found, horizontal)],
    )  # fmt: skip
    judged.reasons += _index(found, horizontal)
    _name_apart(judged, read, found, stated or USUAL_ARCSEC)
    return judged


def _index(found: Reduced, horizontal: bool) -> list[Said]:
    if horizontal:
        return []
    chance = t_quantile(0.975, found.dof) * found.s / sqrt(found.pairs)
    if abs(found.index) <= chance:
        return []
    text = f"The vertical index is {arcsec(abs(found.index), chance)} off nothing, more than chance ({arcsec(chance, chance)}): two faces says whether it is to be stored."
    return [("index-shown", text)]


def _name_apart(judged: Judged, read: Read, found: Reduced, spread: float) -> None:
    """A direction that does not fit those of the other sets: named, and nothing concluded."""
    groups, at = [], []
    for series, residuals in zip(read.series, found.residuals, strict=True):
        for name in series[0].left:
            groups.append([one[name] / spread for one in residuals])
            at.append((series, name))
    apart = find_apart(groups)
    if apart is None:
        return
    series, name = at[apart.group]
    one = series[apart.index]
    path = f"observations.series[{one.series}].sets[{one.number}]"
    text = f"Mark {name} of the {ordinal(one.number)} set ({one.left[name].text} and {one.right[name].text}) does not fit the other sets: take that set again."
    name_apart(judged, path if name not in one.left else one.left[name].path, text)


def _finding(found: Reduced, noun: str, stated: float | None) -> str:
    told = f", {stated:g}″ stated" if stated else ""
    return f"{noun.capitalize()} is good to {arcsec(found.s, found.s)}{told}, by {found.dof} degrees of freedom."


def _worked(found: Reduced, horizontal: bool) -> list[Data]:
    head = (
        line("Mean of both faces, from the first mark; r = d − d̄ of its set", "x = (I + II ± 180°)/2")
        if horizontal
        else line("Zenith angle of both faces; r from the mean of its mark", "x = (I − II)/2 + 180°")
    )
    lines = [head]
    for i, s in enumerate(found.spreads, start=1):
        lines.append(line(f"Series {i}, {found.dof // len(found.spreads)} degrees of freedom", f"s = {figure(s, 2)}″"))
    lines.append(line("All series, one measured once in both faces", f"s = {figure(found.s, 2)}″"))
    return lines


def _work(document: DirectionAccuracy, found: Reduced, horizontal: bool) -> Data:
    far = document.work.sight_m
    aside = found.s / ARCSEC_PER_RADIAN * far * 1000
    what = "aside" if horizontal else "of height"
    return effect(
        "one-sight",
        f"A point set out in both faces at {far:g} m is sure to {figure(2 * aside, 1)} mm {what}, nineteen times in twenty.",
    )


def drawn(document: DirectionAccuracy, read: Read, judged: Judged | None) -> Data | None:
    """Every residual, set by set and mark by mark."""
    if judged is None:
        return None
    marks: list[tuple[str, float, float | None]] = []
    for i, residuals in enumerate(reduce_all(document, read).residuals, start=1):
        for j, one in enumerate(residuals, start=1):
            for k, value in enumerate(one.values()):
                label = (f"set {j}" if len(read.series) == 1 else f"series {i}" if j == 1 else "") if k == 0 else ""
                marks.append((label, float(len(marks) + 1), value))
    return deviations("arcsec", marks, None, "the mean of all sets", "set by set")


def so_far(document: DirectionAccuracy, read: Read) -> SoFar:
    """c or i of the marks seen in both faces, and how it scatters, while the sets go in."""
    horizontal = document.observations.circle == "horizontal"
    pairs = [
        (one.left[name].value, one.right[name].value) for sets in read.series for one in sets for name in one.marks
    ]
    if not pairs:
        return SoFar([])
    values = [twice_c_arcsec(a, b) / 2 if horizontal else (a + b - 360.0) * 1800 for a, b in pairs]
    if any(abs(one) > FAR_ARCSEC for one in values):
        return SoFar([])
    name, count = ("c", len(values)) if horizontal else ("i", len(values))
    text = f"{name} so far {figure(mean_of(values), 1)}″ from {count} {'mark' if count == 1 else 'marks'}, {figure(min(values), 1)}″ to {figure(max(values), 1)}″."
    return SoFar([("running", text)])
