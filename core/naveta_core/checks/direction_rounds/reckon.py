"""Rounds of directions: reduced to the reference, their spread, the sighting error at every mark, what the reference did.

See sheet/directions.py for the mean of both faces and the residuals; c at a mark is half of (left − right ± 180°) times
sin z. A closing look at the reference that differs from its first one says that the circle or the stand turned in between.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import cos, fsum, hypot, radians, sin, sqrt
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...blunders import find_apart
from ...judgement import SCATTER_REFUSED, Estimate, Limits, Spread, pooled, scatter_factor
from ...quantiles import t_quantile
from ...wording import arcsec, capital, count, figure
from ..sheet.answer import SoFar
from ..sheet.circumstances import Circumstances, Needs
from ..sheet.directions import Series, of_both_faces, reduced, twice_c_arcsec, wrapped
from ..sheet.judged import (
    Judged,
    Quantity,
    Said,
    effect,
    limits_from,
    line,
    name_apart,
    noise_factor,
    prior_dof,
    row,
    shown,
)
from ..sheet.pictures import deviations
from ..sheet.typed import rounding
from ..two_face.read import BETWEEN_SHARE, DEFAULT_ACCURACY_ARCSEC, MARK_MM, POINTING_ARCSEC
from ..two_face.solve import UNKNOWN_AXIS_ARCSEC
from .model import DirectionRounds
from .read import FACES, Face, Read, Round

Data = dict[str, Any]
COLLIMATION = "collimation_arcsec"
USUAL_DISTANCE_M = 100.0
CLOSING_PROBABILITY = 0.9985
LEAST_STEEPNESS = 0.26
"""Cosines of zenith angles that differ by as much as those of marks 15° apart in height tell the trunnion axis."""
FEWEST_FOR_AXIS = 3
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "hold", "no-plunge"),
    "reading": ("sun", "no-plunge"),
    "adjusting": ("hold",),
}


@dataclass(frozen=True, slots=True)
class Solution:
    """Directions from the reference, and c at every mark of every round, seconds."""

    marks: list[str]
    series: Series
    c: list[list[float]]
    own: list[list[float]]
    """The same without what the trunnion axis puts in, where that can be told."""
    closing: list[tuple[int, str, float]]
    """(round, face, last less first reading of the reference)."""
    collimation: Estimate
    q: tuple[float, float]
    repeats: Spread


def needs(_document: DirectionRounds) -> Needs:
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True)


def within_arcsec(document: DirectionRounds, read: Read) -> float:
    """Spread of one pointing: circle, eye, mark, last digit."""
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    eye = POINTING_ARCSEC / (document.instrument.magnification or 30.0)
    mark = MARK_MM["unknown"] / 1000 / USUAL_DISTANCE_M * ARCSEC_PER_RADIAN
    steps = (
        shot.step_arcsec
        for one in read.rounds
        for face in (one.left, one.right)
        for listed in face.shots.values()
        for shot in listed
    )
    return sqrt((hypot(s, eye, mark) * noise_factor(document)) ** 2 + rounding(steps))


def solve(document: DirectionRounds, read: Read) -> Solution:
    """Every round must hold the same marks in both faces."""
    w = within_arcsec(document, read)
    between = (BETWEEN_SHARE * (document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC)) ** 2
    marks = read.rounds[0].marks
    series = reduced(
        [[of_both_faces(one.left.direction(m), one.right.direction(m)) for m in marks] for one in read.rounds]
    )
    c = [[_c(one, m) for m in marks] for one in read.rounds]
    n, t = len(read.rounds), len(marks)
    cosines = [[cos(radians(one.zenith_deg(m))) for m in marks] for one in read.rounds]
    axis = _axis(c, cosines)
    # What the trunnion axis puts into c at a steep mark is taken out where it can be told, and counted where it cannot.
    own = [[value - axis.arcsec * k for value, k in zip(*pair, strict=True)] for pair in zip(c, cosines, strict=True)]
    means = [fsum(values) / t for values in own]
    squares = fsum(
        (value - middle) ** 2 / (w * w / 2) for values, middle in zip(own, means, strict=True) for value in values
    )
    spread = Spread(squares + series.squares / (w * w / 2), float(n * (t - 1) - axis.told + series.dof))
    lean = fsum(k for one in cosines for k in one) / (n * t)
    q = (
        w * w / 2 * (1 / (n * t) + lean**2 * axis.variance),
        between / 2 / n + (0.0 if axis.told else (UNKNOWN_AXIS_ARCSEC * lean) ** 2),
    )
    found = pooled(fsum(means) / n, *q, spread, prior_dof(document))
    return Solution(marks, series, c, own, _closings(read), found, q, spread)


@dataclass(frozen=True, slots=True)
class Axis:
    """The trunnion axis's own error, seconds, with its variance for one c of variance 1; 0 where it cannot be told."""

    arcsec: float
    variance: float
    told: bool


def _axis(c: list[list[float]], cosines: list[list[float]]) -> Axis:
    """c at each mark is c + t·cos z: t from how it changes with the height of the marks, round by round."""
    pairs = []
    for values, ks in zip(c, cosines, strict=True):
        middle_c, middle_k = fsum(values) / len(values), fsum(ks) / len(ks)
        pairs += [(value - middle_c, k - middle_k) for value, k in zip(values, ks, strict=True)]
    square = fsum(k * k for _, k in pairs)
    if max(max(ks) - min(ks) for ks in cosines) < LEAST_STEEPNESS or len(c[0]) < FEWEST_FOR_AXIS:
        return Axis(0.0, 0.0, told=False)
    return Axis(fsum(value * k for value, k in pairs) / square, 1 / square, told=True)


def _c(one: Round, mark: str) -> float:
    twice = twice_c_arcsec(one.left.direction(mark), one.right.direction(mark))
    return twice * sin(radians(one.zenith_deg(mark))) / 2


def _closings(read: Read) -> list[tuple[int, str, float]]:
    found = []
    for one in read.rounds:
        for name, face in zip(FACES, (one.left, one.right), strict=True):
            last = face.closing(read.reference)
            if last is not None:
                first = face.shots[read.reference][0]
                found.append((one.number, name, wrapped(last.value - first.value) * 3600))
    return found


def judge(document: DirectionRounds, read: Read, _told: Circumstances) -> Judged:
    """c against its limits; scatter, single pointings and the reference's closing look as they fall out."""
    found = solve(document, read)
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    limits = limits_from(
        document, COLLIMATION,
        Limits(max(5.0, 2 * s), max(5.0, 4 * s), 180.0, f"opening value for angles of {s:g}″, for work in both faces"),
    )  # fmt: skip
    quantity = Quantity(
        COLLIMATION, "the sighting error c", "arcsec", found.collimation, limits, *found.q,
        condition="In both faces only, as here: the mean of both is free of it.",
    )  # fmt: skip
    sigma = _sigma_of_mean(document, read, found)
    figures: Data = {
        COLLIMATION: found.collimation.value,
        f"sigma_{COLLIMATION}": found.collimation.sigma,
        "directions": [
            {
                "target": mark,
                "direction_deg": value,
                "collimation_arcsec": fsum(one[k] for one in found.c) / len(found.c),
            }
            for k, (mark, value) in enumerate(zip(found.marks, found.series.means, strict=True))
        ],
        "direction_sigma_arcsec": found.series.s if found.series.dof else None,
        "sigma_mean_direction_arcsec": sigma,
        "closing_arcsec": [{"round": n, "face": face, "difference": value} for n, face, value in found.closing],
        "repeats": {"squares": found.repeats.squares, "dof": found.repeats.dof},
    }
    judged = Judged(
        [quantity], figures, _finding(found, sigma), _shown(quantity, found, sigma), _worked(read, found), [_work(document, sigma)], found.repeats,
        one_more=("round", "rounds"), taken=len(read.rounds), again="Take two faces, five pointings a face, before anything is stored.",
        send="Take two faces, five pointings a face: it says whether this is stored or sent.",
    )  # fmt: skip
    _said(judged, document, read, found)
    return judged


def _sigma_of_mean(document: DirectionRounds, read: Read, found: Solution) -> float:
    """Standard uncertainty of one reduced direction, the mean of all rounds: two directions, both faces, n rounds."""
    single = pooled(0.0, within_arcsec(document, read) ** 2 / 2, 0.0, found.repeats, prior_dof(document))
    return single.sigma * sqrt(2.0 / len(read.rounds))


def _said(judged: Judged, document: DirectionRounds, read: Read, found: Solution) -> None:
    w = within_arcsec(document, read)
    bound = t_quantile(CLOSING_PROBABILITY, prior_dof(document)) * w * sqrt(2.0)
    for number, face, value in found.closing:
        if abs(value) > bound:
            text = f"The reference reads {arcsec(abs(value))} otherwise at the end of round {number}, face {face}: the circle or the stand turned in between. Take that round again."
            judged.refused.append(("moved-between", text))
    if len(found.closing) < 2 * len(read.rounds):
        judged.reasons.append(
            (
                "no-closing-look",
                "Point at the reference again at the end of each face: a stand that turns shows nowhere else.",
            )
        )
    if len(read.rounds) == 1:
        judged.reasons.append(
            (
                "one-round",
                "One round only: nothing says how sure the directions are. A second one, the circle turned, does.",
            )
        )
    _name_apart(judged, read, found, w)
    factor = scatter_factor(found.repeats)
    if factor is not None:
        text = f"The rounds fit each other {factor:.1f} times worse than such pointings do: shimmer, a soft stand, parallax?"
        (judged.refused if factor > SCATTER_REFUSED else judged.reasons).append(("scatter", text))


def _name_apart(judged: Judged, read: Read, found: Solution, w: float) -> None:
    """A pointing in one face shows in c at that mark beside the others of its round."""
    apart = find_apart([[value / (w / sqrt(2.0)) for value in one] for one in found.own])
    if apart is None or apart.sole_pair:
        return
    one, mark = read.rounds[apart.group], found.marks[apart.index]
    left, right = one.left.shots[mark][0], one.right.shots[mark][0]
    text = f"Mark {mark} in round {one.number} ({left.text} and {right.text}): its faces differ otherwise than those of the other marks. Point at it again in both."
    name_apart(judged, left.path, text)


def _packed(degrees: float) -> str:
    """An angle to be read: '74°42′13″'."""
    total = round(degrees * 3600) % (360 * 3600)
    return f"{total // 3600}°{total // 60 % 60:02d}′{total % 60:02d}″"


def _finding(found: Solution, sigma: float) -> str:
    e = found.collimation
    told = (
        f"c {figure(e.value, 1)}″ ± {arcsec(e.u95, e.u95)}"
        if abs(e.value) > e.u95
        else f"no sighting error shown, within {arcsec(e.proved_to, e.proved_to)}"
    )
    directions, rounds = count(len(found.marks) - 1, "direction", "directions"), count(len(found.c), "round", "rounds")
    sure = f"{directions} from mark {found.marks[0]}, sure to ± {arcsec(2 * sigma, 2 * sigma)} by {rounds}"
    return f"{capital(sure)}; {told}."


def _shown(quantity: Quantity, found: Solution, sigma: float) -> list[Data]:
    rows = [
        row(
            f"direction_{k}",
            f"From {found.marks[0]} to {mark}",
            _packed(value),
            value,
            "deg",
            arcsec(2 * sigma, 2 * sigma),
        )
        for k, (mark, value) in enumerate(zip(found.marks, found.series.means, strict=True))
        if k
    ]
    rows.append(shown(quantity, "Sighting error c, all marks"))
    if found.series.dof:
        s = found.series.s
        rows.append(row("direction_sigma_arcsec", "One direction, once in both faces", arcsec(s, s), s, "arcsec"))
    return rows


def _worked(read: Read, found: Solution) -> list[Data]:
    lines = [line("Mean of both faces, then less the reference", "x = (L + R ± 180°)/2, x′ = x − x₁")]
    for one, c, residuals in zip(read.rounds, found.c, found.series.residuals, strict=True):
        told = "; ".join(
            f"{mark} c {figure(v, 1)}″, r {figure(r, 1)}″" for mark, v, r in zip(found.marks, c, residuals, strict=True)
        )
        lines.append(line(f"Round {one.number}", told))
    for number, face, value in found.closing:
        lines.append(line(f"Reference at the end of round {number}, face {face}", f"{figure(value, 1)}″"))
    lines.append(
        line(
            "Mean of c, degrees of freedom",
            f"{figure(found.collimation.value, 2)}″, {figure(found.collimation.dof, 1)}",
        )
    )
    return lines


def _work(document: DirectionRounds, sigma: float) -> Data:
    far = document.work.sight_m
    aside = 2 * sigma / ARCSEC_PER_RADIAN * far * 1000
    return effect("direction-at-sight", f"At {far:g} m these directions are sure to {figure(aside, 1)} mm aside.")


def drawn(document: DirectionRounds, read: Read, judged: Judged | None) -> Data | None:
    """Every direction of every round less its mean, round by round."""
    if judged is None:
        return None
    found = solve(document, read)
    marks: list[tuple[str, float, float | None]] = []
    for one, residuals in zip(read.rounds, found.series.residuals, strict=True):
        for k, value in enumerate(residuals):
            marks.append((f"round {one.number}, {found.marks[k]}", float(len(marks) + 1), -value))
    return deviations("arcsec", marks, None, "the mean of all rounds", "mark by mark")


def so_far(_document: DirectionRounds, read: Read) -> SoFar:
    said: list[Said] = []
    for one in read.rounds[-1:]:
        said += _closing_so_far(one.left, read.reference)
        values = [_c(one, mark) for mark in one.marks]
        if values and max(abs(v) for v in values) < 1800:
            text = f"Round {one.number}: c {', '.join(f'{figure(v, 1)}″ at {m}' for m, v in zip(one.marks, values, strict=True))}."
            said.append(("running", text))
    return SoFar(said)


def _closing_so_far(face: Face, reference: str) -> list[Said]:
    last = face.closing(reference)
    if last is None:
        return []
    value = wrapped(last.value - face.shots[reference][0].value) * 3600
    return [("closing", f"The reference reads {figure(value, 1)}″ otherwise at the end of face left.")]
