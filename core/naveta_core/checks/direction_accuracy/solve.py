"""The accuracy of directions and zenith angles by a full field procedure (after ISO 17123-3, simplified and full).

Directions: see engine/directions.py; s = √(Σs_i²/4) over the series, 8 degrees of freedom each in the full procedure.
Zenith angles: x = (I − II)/2 + 180°, r = x − mean of its target in the series, ν = (n − 1)·t a series; the index is half the
mean of I + II − 360°, and differs from nothing by more than chance when |δ| > t₀.₉₇₅(ν)·s/√N (N readings of both faces).

Source: ISO 17123-3, clauses 5 (directions) and 6 (zenith angles).
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import fsum, sqrt

from ...engine.directions import of_both_faces, reduced, twice_c_arcsec
from ...geometry import mean, wrapped
from ...units.numbers import SEXAGESIMAL, finest, shown_step
from .document import AccuracyRead, AccuracySet, DirectionAccuracy

USUAL_ARCSEC = 5.0


@dataclass(frozen=True, slots=True)
class ReducedSeries:
    """Residuals by series, set and target, seconds; how they scatter. All in seconds of arc."""

    residuals: list[list[dict[str, float]]]
    spreads: list[float]
    dof: int
    _: KW_ONLY
    s: float
    rounding: float
    """What the last digit puts into it: the mean of both faces, each rounded."""
    index: float
    collimation: float
    pairs: int


def step_arcsec(read: AccuracyRead) -> float:
    """The worth of the last digit, as far as the readings show it."""
    shots = [
        shot for sets in read.series for set_ in sets for face in (set_.left, set_.right) for shot in face.values()
    ]
    step = finest(shot.step_arcsec for shot in shots)
    return shown_step([shot.value * 3600 for shot in shots], step, SEXAGESIMAL)


def reduce_all(document: DirectionAccuracy, read: AccuracyRead) -> ReducedSeries:
    """Every series on its own, then together."""
    horizontal = document.observations.circle == "horizontal"
    residuals, squares, spreads, dof = [], [], [], 0
    for sets in read.series:
        own, ss, redundant = _directions(sets) if horizontal else _zeniths(sets)
        residuals.append(own)
        squares.append(ss)
        spreads.append(sqrt(ss / redundant))
        dof += redundant
    pairs = [
        (set_.left[name].value, set_.right[name].value)
        for sets in read.series
        for set_ in sets
        for name in set_.targets
    ]
    c = 0.0 if not horizontal else mean([twice_c_arcsec(a, b) for a, b in pairs]) / 2
    i = 0.0 if horizontal else mean([(a + b - 360.0) * 3600 for a, b in pairs]) / 2
    return ReducedSeries(
        residuals,
        spreads,
        dof,
        s=sqrt(fsum(squares) / dof),
        rounding=sqrt(step_arcsec(read) ** 2 / 24),
        index=i,
        collimation=c,
        pairs=len(pairs),
    )


def _directions(sets: list[AccuracySet]) -> tuple[list[dict[str, float]], float, int]:
    names = list(sets[0].left)
    found = reduced([[of_both_faces(set_.left[name].value, set_.right[name].value) for name in names] for set_ in sets])
    return [dict(zip(names, residual, strict=True)) for residual in found.residuals], found.squares, found.dof


def _zeniths(sets: list[AccuracySet]) -> tuple[list[dict[str, float]], float, int]:
    names = list(sets[0].left)
    x = [{name: wrapped(set_.left[name].value - set_.right[name].value + 360.0) / 2 for name in names} for set_ in sets]
    means = {name: mean([entry[name] for entry in x]) for name in names}
    residuals = [{name: (entry[name] - means[name]) * 3600 for name in names} for entry in x]
    return residuals, fsum(r * r for residual in residuals for r in residual.values()), (len(sets) - 1) * len(names)
