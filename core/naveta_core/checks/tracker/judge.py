"""What a tracker's offset means: stored by its own routine; what both faces share is at fault, not the tracker.

Source: as the two-face check.
"""

from __future__ import annotations

from math import fsum
from typing import Any

from ...engine.conditions import Circumstances, Needs, prior_dof
from ...engine.limits import limits_from
from ...engine.reports import repeats_of
from ...engine.storing import report_before, report_proved
from ...engine.verdict import JudgedQuantity, Judgement
from ...engine.work import words_of
from ...results import CodedText
from ...stats.decision import Limits
from ...stats.estimate import Estimate, pooled
from ...stats.outliers import find_outlier, repeats
from ...stats.quantiles import t_quantile
from ...units.formatting import arcsec
from ..two_face.document import DEFAULT_ACCURACY_ARCSEC
from .document import HZ, LISTS, STORED_FIGURES, Tracker, TrackerFigures, TrackerRead, V
from .solve import TrackerOffset, groups_of, offset_of, steps_of
from .text import finding_of, shown_of, work_of, worked_of

ALIKE_PROBABILITY = 0.9975
"""Two figures are looked at: one false alarm in a hundred."""
CAUTIONS: dict[str, tuple[str, ...]] = {
    "before": ("sun", "beam", "traffic", "turns-by-itself", "no-plunge"),
    "reading": ("sun", "beam", "turns-by-itself"),
    "adjusting": ("turns-by-itself",),
}


def needs(_document: Tracker) -> Needs:
    """The circumstances this check depends on."""
    return Needs(minutes_on=3.0, firm_stand=True, temperature=True, shaded=True, through_air=True, tracks=True)


def _quantity(document: Tracker, name: str, word: str, *, found: Estimate, q_w: float, q_b: float) -> JudgedQuantity:
    s = document.instrument.angle_accuracy_arcsec or DEFAULT_ACCURACY_ARCSEC
    default = Limits(max(5.0, 2 * s), max(5.0, 2 * s), 60.0, f"default limit for angles of {s:g}″")
    turn = f"Run the instrument's tracker calibration on a clean prism about {words_of(document).distance(100)} away and store; then check again, as left."
    limits = limits_from(document, name, default)
    return JudgedQuantity(
        name,
        f"the tracker {word}",
        "arcsec",
        estimate=found,
        limits=limits,
        q_within=q_w,
        q_between=q_b,
        turn=turn,
        careful=True,
        beyond="what the instrument can store",
    )


def judge(document: Tracker, read: TrackerRead, _circumstances: Circumstances) -> Judgement:
    """The mean over all prisms against the limit; what both faces share is at fault, not the tracker."""
    offsets = [offset_of(document, prism) for prism in read.prisms]
    n = len(offsets)
    groups = groups_of(document, read.prisms)
    spread = repeats(groups)
    q_w, q_b = fsum(o.q_within for o in offsets) / n**2, fsum(o.q_between for o in offsets) / n**2
    dof = prior_dof(document)

    def estimate(values: list[float]) -> Estimate:
        return pooled(fsum(values) / n, q_w, q_b, spread, dof)

    hz, v = estimate([o.hz for o in offsets]), estimate([o.v for o in offsets])
    quantities = [
        _quantity(document, name, word, found=found, q_w=q_w, q_b=q_b)
        for name, word, found in ((HZ, "across", hz), (V, "in height", v))
    ]
    judgement = Judgement(
        quantities,
        TrackerFigures(
            tracker_hz_arcsec=hz.value,
            tracker_v_arcsec=v.value,
            sigma_tracker_hz_arcsec=hz.sigma,
            sigma_tracker_v_arcsec=v.sigma,
            common_hz_arcsec=fsum(o.common_hz for o in offsets) / n,
            common_v_arcsec=fsum(o.common_v for o in offsets) / n,
            repeats=repeats_of(spread),
        ),
        finding_of(hz, v),
        shown=shown_of(quantities, read),
        worked=worked_of(read, offsets, hz),
        work=work_of(document, hz, v),
        repeats=spread,
        more_readings=("run of pointings", "runs of pointings"),
        repeat_text="Repeat it with three pointings a face before you store anything. Both runs count together.",
    )
    judgement.refused += _shared(offsets, estimate) + _outliers(read, groups, steps_of(document, read.prisms))
    report_before(judgement, document, read.before, STORED_FIGURES)
    report_proved(judgement, document, STORED_FIGURES)
    return judgement


def _shared(offsets: list[TrackerOffset], estimate: Any) -> list[CodedText]:
    """What both faces have in common is no tracker's."""
    for values in ([o.common_hz for o in offsets], [o.common_v for o in offsets]):
        e = estimate(values)
        if abs(e.value) > t_quantile(ALIKE_PROBABILITY, e.dof) * e.sigma:
            return [
                (
                    "both-faces-alike",
                    f"Eye and tracker differ by {arcsec(abs(e.value), e.u95)} equally in both faces: not a tracker error. Point again by eye. Is the prism clean and facing you?",
                )
            ]
    return []


def _outliers(read: TrackerRead, groups: list[list[float]], steps: list[float]) -> list[CodedText]:
    found = find_outlier(groups, steps)
    if found is None:
        return []
    how, face = LISTS[found.group % 8 // 2]
    called = f"{read.prisms[found.group // 8].name}, {'by eye' if how == 'manual' else 'by tracker'}, face {face}"
    if found.sole_pair:
        return [("readings-differ", f"The two pointings of {called} differ by more than pointing error: take a third.")]
    point = read.prisms[found.group // 8].lists[how, face][found.index]
    return [
        (
            "outlier",
            f"{point.texts[found.group % 2]} ({called}) does not agree with the others: point again there.",
        )
    ]
