"""What a tripod's twist and set mean, and what a look found: repaired by hand, or put out of use.

Source: experience, not a standard; see docs/judgement.md (Tripod).
"""

from __future__ import annotations

from math import hypot

from ...engine.conditions import Circumstances, Needs, noise_factor, prior_dof
from ...engine.kind import SheetProgress
from ...engine.limits import limits_from
from ...engine.parser import rounding
from ...engine.reports import repeats_of, report_outlier
from ...engine.rows import effect, shown
from ...engine.verdict import JudgedQuantity, Judgement, LeftOut
from ...engine.work import words_of
from ...results import CodedText, Effect
from ...stats.decision import Limits
from ...stats.estimate import SCATTER_REFUSED, Spread, scatter_factor
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, arcsec
from ...units.numbers import finest
from .document import LOOKS, SET, TWIST, HeadMove, Tripod, TripodFigures, TripodRead, where
from .solve import HeadMoves, estimates_of, moves_of, outlier_of
from .text import finding_of, worked_of

SCALE_MM = 0.2
"""A mark on a scale with millimetres, estimated through the telescope."""
SOURCE = "default limit for angles"
CAUTIONS = {"before": ("pinch", "press-feet", "lift"), "reading": ("hold", "sun"), "adjusting": ("pinch", "leg-drops")}


def _report_scatter(judgement: Judgement, spread: Spread, dof: float) -> None:
    factor = scatter_factor(spread, dof)
    if factor is not None:
        text = f"The load cycles agree {factor:.1f} times worse than expected: repeat them with the feet pressed in."
        (judgement.refused if factor > SCATTER_REFUSED else judgement.reasons).append(("scatter", text))


def needs(_document: Tripod) -> Needs:
    """The circumstances this check depends on."""
    return Needs(wind=True)


def _quantities(
    document: Tripod, read: TripodRead, moves: HeadMoves, *, residual: list[int], within: float, scale: float
) -> list[JudgedQuantity]:
    """Residual twist, and the twist under load; each also with every single round left out."""
    estimates = estimates_of(document, moves, within, scale)
    q = 2 * within / len(moves.sets) * scale**2

    def quantity(at: int, name: str, noun: str, *, default: Limits, condition: str, turn: str) -> JudgedQuantity:
        def without() -> list[LeftOut]:
            alone = len(residual) < 2
            rest = [None if alone else estimates_of(document, moves.without(i), within, scale)[at] for i in residual]
            return [(read.rounds[i][0], other) for i, other in zip(residual, rest, strict=True)]

        limits = limits_from(document, name, default)
        return JudgedQuantity(
            name,
            noun,
            "arcsec",
            estimate=estimates[at],
            limits=limits,
            q_within=q,
            condition=condition,
            turn=turn,
            without=without,
        )

    return [
        quantity(
            0,
            SET,
            "the residual twist",
            default=Limits(5.0, 10.0, 60.0, SOURCE),
            condition="For levelling and short sights; hands off between the faces.",
            turn="Press the feet in again, tighten clamps and hinges, then check again, as left.",
        ),
        quantity(
            1,
            TWIST,
            "the twist under load",
            default=Limits(30.0, 60.0, 120.0, SOURCE),
            condition="For levelling; hands off the head while reading angles.",
            turn="Tighten hinges and clamps until nothing moves, then check again, as left.",
        ),
    ]


def _at_50_m(arcsec_stored: float, words: LengthWords) -> Effect:
    aside = words.small(abs(arcsec_stored) / ARCSEC_PER_RADIAN * 50)
    text = f"The residual twist is {aside} at {words.distance(50)}, in every angle after a touch."
    return effect("at-50-m", text)


def judge(document: Tripod, read: TripodRead, circumstances: Circumstances) -> Judgement:
    """What the figures mean: quantities against their limits, what is refused, what to do. Figures in the units of their names."""
    assert read.distance_m is not None
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    pointing = hypot(SCALE_MM, 30.0 / (document.instrument.magnification or 30.0) / scale)
    within = (pointing * noise_factor(document) * circumstances.factor) ** 2 + rounding(read.steps)
    moves = moves_of(read, within)
    residual_e, twist_e = estimates_of(document, moves, within, scale)
    outlier = outlier_of(moves, finest(read.steps))
    residual = [i for i in range(len(read.rounds)) if i != outlier]
    quantities = _quantities(document, read, moves, residual=residual, within=within, scale=scale)
    figures = TripodFigures(
        set_arcsec=residual_e.value,
        sigma_set_arcsec=residual_e.sigma,
        twist_arcsec=twist_e.value,
        sigma_twist_arcsec=twist_e.sigma,
        rounds=[
            HeadMove(twist_mm=abs(loaded - free), set_mm=released - free) for _, free, loaded, released in read.rounds
        ],
        repeats=repeats_of(moves.spread),
    )
    judgement = Judgement(
        quantities,
        figures,
        finding_of(residual_e, twist_e.value, document),
        shown=[shown(quantities[0], "Residual twist"), shown(quantities[1], "Twist under load")],
        worked=worked_of(read, scale, residual_e.value, twist_e.value, words_of(document)),
        work=[_at_50_m(residual_e.value, words_of(document))],
        more_readings=("round", "rounds"),
        repeat_text="Press the feet in again and repeat the check. Both runs count together.",
        service_text="Take it out of use: replace joints that stay twisted.",
    )
    judgement.repeats = moves.spread
    judgement.reasons += _looked(document, judgement)
    if outlier is not None:
        path = read.rounds[outlier][0]
        text = f"The {where(path)} does not agree with the others: probably one mistake. Repeat it."
        report_outlier(judgement, path, text)
    elif len(moves.sets) > 1:
        _report_scatter(judgement, moves.spread, prior_dof(document))
    return judgement


def _looked(document: Tripod, judgement: Judgement) -> list[CodedText]:
    reasons: list[CodedText] = []
    o = document.observations
    for name, _, code, text, fix_code, fix in LOOKS:
        if getattr(o, name) == "no":
            reasons.append((code, text))
            judgement.to_fix.append((fix_code, fix))
    if any(getattr(o, name) is None for name, *_ in LOOKS):
        reasons.append(("not-looked", "Clamps, hinges and shoes were not all checked."))
    return reasons


def progress_of(document: Tripod, read: TripodRead) -> SheetProgress:
    """What can be said while readings are still to come."""
    looked = [(code, text) for name, _, code, text, *_ in LOOKS if getattr(document.observations, name) == "no"]
    if not read.rounds or read.distance_m is None:
        return SheetProgress(looked)
    _, free, loaded, released = read.rounds[-1]
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    gave, stays = arcsec(abs(loaded - free) * scale, 10), arcsec(abs(released - free) * scale, 1)
    return SheetProgress([*looked, ("running", f"Last load cycle: twist {gave}, residual {stays}.")])
