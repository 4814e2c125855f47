"""Rounds of directions reduced to the reference, and the collimation error at every target.

See engine/directions.py for the mean of both faces and the residuals; c at a target is half of (left − right ± 180°) times
sin z. What the trunnion axis puts in is taken out where targets of different height say it.

Source: textbook reduction of direction sets; c and t at each target as in the two-face check.
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import cos, fsum, hypot, radians, sin, sqrt

from ...engine.conditions import noise_factor, prior_dof
from ...engine.directions import Series, of_both_faces, reduced, twice_c_arcsec
from ...geometry import wrapped
from ...stats.estimate import Estimate, Spread, pooled
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.numbers import SEXAGESIMAL, finest, shown_step
from ..two_face.document import BETWEEN_SHARE, DEFAULT_ACCURACY_ARCSEC, POINTING_ARCSEC, TARGET_MM
from ..two_face.solve import UNKNOWN_AXIS_ARCSEC
from .document import FACES, DirectionRounds, DirectionsRead, ReadSet

USUAL_DISTANCE_M = 100.0
MIN_STEEPNESS = 0.26
"""Cosines of zenith angles that differ by as much as those of targets 15° apart in height say the trunnion axis."""
MIN_FOR_AXIS = 3


@dataclass(frozen=True, slots=True)
class DirectionsSolution:
    """Directions from the reference, and c at every target of every round, seconds.

    All in arcsec, variances in arcsec².
    """

    targets: list[str]
    series: Series
    c: list[list[float]]
    _: KW_ONLY
    own: list[list[float]]
    """The same without what the trunnion axis puts in, where that can be given."""
    closing: list[tuple[int, str, float]]
    """(round, face, last less first reading of the reference)."""
    collimation: Estimate
    q: tuple[float, float]
    repeats: Spread


def within_arcsec(document: DirectionRounds, read: DirectionsRead) -> float:
    """Spread of one pointing: circle, eye, target, last digit."""
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
    width = TARGET_MM["unknown"] / 1000 / USUAL_DISTANCE_M * ARCSEC_PER_RADIAN
    return sqrt((hypot(s, eye, width) * noise_factor(document)) ** 2 + step_arcsec(read) ** 2 / 12)


def step_arcsec(read: DirectionsRead) -> float:
    """The worth of the last digit of the sheet."""
    shots = [
        shot
        for round_ in read.rounds
        for face in (round_.left, round_.right)
        for listed in face.shots.values()
        for shot in listed
    ]
    step = finest(shot.step_arcsec for shot in shots)
    return shown_step([shot.value * 3600 for shot in shots], step, SEXAGESIMAL)


def solve(document: DirectionRounds, read: DirectionsRead) -> DirectionsSolution:
    """Every round must hold the same targets in both faces."""
    w = within_arcsec(document, read)
    between = (BETWEEN_SHARE * (document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC)) ** 2
    targets = read.rounds[0].targets
    series = reduced(
        [
            [of_both_faces(round_.left.direction(m), round_.right.direction(m)) for m in targets]
            for round_ in read.rounds
        ]
    )
    c = [[collimation_at(round_, m) for m in targets] for round_ in read.rounds]
    n, t = len(read.rounds), len(targets)
    cosines = [[cos(radians(round_.zenith_deg(m))) for m in targets] for round_ in read.rounds]
    axis = _axis(c, cosines)
    # What the trunnion axis puts into c at a steep target is taken out where it can be given, and counted where it cannot.
    own = [[value - axis.arcsec * k for value, k in zip(*pair, strict=True)] for pair in zip(c, cosines, strict=True)]
    means = [fsum(values) / t for values in own]
    squares = fsum(
        (value - middle) ** 2 / (w * w / 2) for values, middle in zip(own, means, strict=True) for value in values
    )
    spread = Spread(squares + series.squares / (w * w / 2), float(n * (t - 1) - axis.determined + series.dof))
    axis_share = fsum(k for cosine in cosines for k in cosine) / (n * t)
    q = (
        w * w / 2 * (1 / (n * t) + axis_share**2 * axis.variance),
        between / 2 / n + (0.0 if axis.determined else (UNKNOWN_AXIS_ARCSEC * axis_share) ** 2),
    )
    found = pooled(fsum(means) / n, *q, spread, prior_dof(document))
    return DirectionsSolution(
        targets, series, c, own=own, closing=_closings(read), collimation=found, q=q, repeats=spread
    )


@dataclass(frozen=True, slots=True)
class TrunnionAxis:
    """The trunnion axis's own error, seconds, with its variance for one c of variance 1; 0 where it cannot be given.

    In arcsec, the variance has no unit.
    """

    arcsec: float
    variance: float
    determined: bool


def _axis(c: list[list[float]], cosines: list[list[float]]) -> TrunnionAxis:
    """c at each target is c + t·cos z: t from how it changes with the height of the targets, round by round."""
    pairs = []
    for values, ks in zip(c, cosines, strict=True):
        middle_c, middle_k = fsum(values) / len(values), fsum(ks) / len(ks)
        pairs += [(value - middle_c, k - middle_k) for value, k in zip(values, ks, strict=True)]
    square = fsum(k * k for _, k in pairs)
    if max(max(ks) - min(ks) for ks in cosines) < MIN_STEEPNESS or len(c[0]) < MIN_FOR_AXIS:
        return TrunnionAxis(0.0, 0.0, determined=False)
    return TrunnionAxis(fsum(value * k for value, k in pairs) / square, 1 / square, determined=True)


def collimation_at(entry: ReadSet, target: str) -> float:
    """c at one target of one round, seconds: face left reads too large positive."""
    twice = twice_c_arcsec(entry.left.direction(target), entry.right.direction(target))
    return twice * sin(radians(entry.zenith_deg(target))) / 2


def _closings(read: DirectionsRead) -> list[tuple[int, str, float]]:
    found = []
    for round_ in read.rounds:
        for name, face in zip(FACES, (round_.left, round_.right), strict=True):
            last = face.closing(read.reference)
            if last is not None:
                first = face.shots[read.reference][0]
                found.append((round_.number, name, wrapped(last.value - first.value) * 3600))
    return found
