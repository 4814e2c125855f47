"""What rounds of directions mean: c against its limits; scatter, outliers and the reference's closing sight as they fall out.

Source: scatter against the stated accuracy, docs/judgement.md (Scatter).
"""

from __future__ import annotations

from math import fsum, sqrt

from ...engine.conditions import Circumstances, Needs, prior_dof
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.reports import repeats_of, report_outlier
from ...engine.verdict import JudgedQuantity, Judgement
from ...geometry import wrapped
from ...results import CodedText
from ...stats.decision import Limits
from ...stats.estimate import SCATTER_REFUSED, pooled, scatter_factor
from ...stats.outliers import find_outlier
from ...stats.quantiles import t_quantile
from ...units.formatting import arcsec, figure
from ..two_face.document import DEFAULT_ACCURACY_ARCSEC
from .document import (
    COLLIMATION,
    ClosingDifference,
    DirectionRounds,
    DirectionRoundsFigures,
    DirectionsRead,
    FaceOfSet,
    ReducedDirection,
)
from .solve import DirectionsSolution, collimation_at, solve, step_arcsec, within_arcsec
from .text import finding_of, shown_of, work_of, worked_of

CLOSING_PROBABILITY = 0.9985
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "traffic", "turns-by-itself", "hold", "no-plunge"),
    "reading": ("sun", "turns-by-itself", "no-plunge"),
    "adjusting": ("hold",),
}


def needs(_document: DirectionRounds) -> Needs:
    """The circumstances this check depends on."""
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True, shaded=True, through_air=True)


def judge(document: DirectionRounds, read: DirectionsRead, _circumstances: Circumstances) -> Judgement:
    """c against its limits; scatter, single pointings and the reference's closing sight as they fall out."""
    found = solve(document, read)
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    limits = limits_from(
        document, COLLIMATION,
        Limits(max(5.0, 2 * s), max(5.0, 4 * s), 180.0, f"default limit for angles of {s:g}″, for work in both faces"),
    )  # fmt: skip
    quantity = JudgedQuantity(
        COLLIMATION, "the collimation error c", "arcsec", estimate=found.collimation, limits=limits,
        q_within=found.q[0], q_between=found.q[1],
        condition="Both faces only, as here: the mean is free of it.",
    )  # fmt: skip
    sigma = _sigma_of_mean(document, read, found)
    directions = [
        ReducedDirection(
            target=target, direction_deg=value, collimation_arcsec=fsum(entry[k] for entry in found.c) / len(found.c)
        )
        for k, (target, value) in enumerate(zip(found.targets, found.series.means, strict=True))
    ]
    closing = [ClosingDifference(round=n, face=face, difference=value) for n, face, value in found.closing]
    figures = DirectionRoundsFigures(
        collimation_arcsec=found.collimation.value,
        sigma_collimation_arcsec=found.collimation.sigma,
        directions=directions,
        direction_sigma_arcsec=found.series.s if found.series.dof else None,
        sigma_mean_direction_arcsec=sigma,
        closing_arcsec=closing,
        repeats=repeats_of(found.repeats),
    )
    judgement = Judgement(
        [quantity],
        figures,
        finding_of(found, sigma),
        shown=shown_of(quantity, found, sigma),
        worked=worked_of(read, found),
        work=[work_of(document, sigma)],
        repeats=found.repeats,
        more_readings=("round", "rounds"),
        taken=len(read.rounds),
        repeat_text="Do a two-face check, five pointings a face, before you store anything.",
        service_text="Do a two-face check, five pointings a face: it shows whether to store a value or send it to service.",
    )
    _shown(judgement, document, read, found)
    return judgement


def _sigma_of_mean(document: DirectionRounds, read: DirectionsRead, found: DirectionsSolution) -> float:
    """Standard uncertainty of one reduced direction, the mean of all sets: two directions, both faces, n rounds."""
    single = pooled(0.0, within_arcsec(document, read) ** 2 / 2, 0.0, found.repeats, prior_dof(document))
    return single.sigma * sqrt(2.0 / len(read.rounds))


def _shown(judgement: Judgement, document: DirectionRounds, read: DirectionsRead, found: DirectionsSolution) -> None:
    w = within_arcsec(document, read)
    bound = t_quantile(CLOSING_PROBABILITY, prior_dof(document)) * w * sqrt(2.0)
    for number, face, value in found.closing:
        if abs(value) > bound:
            text = f"Reference {arcsec(abs(value))} different at the end of set {number}, face {face}: circle or tripod turned. Measure that set again."
            judgement.refused.append(("moved-between", text))
    if len(found.closing) < 2 * len(read.rounds):
        judgement.reasons.append(
            (
                "no-closing-look",
                "Sight the reference again at the end of each face: nothing else shows a tripod that turns.",
            )
        )
    if len(read.rounds) == 1:
        judgement.reasons.append(
            (
                "one-round",
                "One set only: the accuracy of the directions is unknown. Measure a second set with the circle turned.",
            )
        )
    _report_outlier(judgement, read, found, w)
    factor = scatter_factor(found.repeats)
    if factor is not None:
        text = f"The sets agree {factor:.1f} times worse than expected: shimmer, soft ground, parallax?"
        (judgement.refused if factor > SCATTER_REFUSED else judgement.reasons).append(("scatter", text))


def _report_outlier(judgement: Judgement, read: DirectionsRead, found: DirectionsSolution, w: float) -> None:
    """A pointing in one face shows in c at that target beside the others of its round."""
    spread = w / sqrt(2.0)
    # c is half a difference of two readings: rounded alike, it lies on a grid of half a step.
    outlier = find_outlier([[value / spread for value in entry] for entry in found.own], step_arcsec(read) / 2 / spread)
    if outlier is None or outlier.sole_pair:
        return
    entry, target = read.rounds[outlier.group], found.targets[outlier.index]
    left, right = entry.left.shots[target][0], entry.right.shots[target][0]
    text = f"Target {target} in set {entry.number} ({left.text} and {right.text}): its faces differ from those of the other targets. Sight it again in both faces."
    report_outlier(judgement, left.path, text)


def progress_of(_document: DirectionRounds, read: DirectionsRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    reasons: list[CodedText] = []
    for round_ in read.rounds[-1:]:
        reasons += _closing_progress(round_.left, read.reference)
        values = [collimation_at(round_, target) for target in round_.targets]
        if values and max(abs(v) for v in values) < 1800:
            text = f"Set {round_.number}: c {', '.join(f'{figure(v, 1)}″ at {m}' for m, v in zip(round_.targets, values, strict=True))}."
            reasons.append(("running", text))
    return SheetProgress(reasons)


def _closing_progress(face: FaceOfSet, reference: str) -> list[CodedText]:
    last = face.closing(reference)
    if last is None:
        return []
    value = wrapped(last.value - face.shots[reference][0].value) * 3600
    return [("closing", f"The reference reads {figure(value, 1)}″ differently at the end of face left.")]
