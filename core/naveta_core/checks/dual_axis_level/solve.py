"""The index of an electronic level or compensator, apart from the tilt of the axis.

along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across. Turned by half a turn a perfect one shows the same figures
with opposite signs.

Source: textbook index by reversal; least squares over headings derived in docs/judgement.md (Vials).
"""

from __future__ import annotations

from itertools import product
from math import fsum, sqrt

from ...engine.conditions import noise_factor, prior_dof
from ...engine.parser import rounding
from ...engine.repeats import Equation, by_repeat, turned_vector
from ...results import CodedText
from ...stats.noise import ELECTRONIC_BETWEEN_ARCSEC, electronic_within_arcsec
from ...stats.row_fit import Solved, solve
from .document import DualAxisLevel, LevelRead


def solve_level(document: DualAxisLevel, read: LevelRead, factor: float) -> Solved:
    """Index error and tilt of the axis, along and across, in arcsec; factor multiplies the spread and has no unit."""
    stated = document.instrument.electronic_level_step_arcsec or 0.0
    own = (document.instrument.prior or {}).get(
        "electronic_level_arcsec", electronic_within_arcsec(document.instrument.angle_accuracy_arcsec)
    )
    within = (own * noise_factor(document) * factor) ** 2 + max(rounding(read.steps), stated**2 / 12)
    return solve(by_repeat(equations_of(read)), within, ELECTRONIC_BETWEEN_ARCSEC**2, prior_dof(document))


def equations_of(read: LevelRead, along: float = 1.0, across: float = 1.0) -> list[Equation]:
    """Unknowns: index across, index along, and each round's tilt; `along` and `across` turn a display's counting round."""
    return [
        equation
        for figure in read.figures
        for equation in turned_vector(figure.heading_deg, figure.across * across, figure.along * along, figure.repeat)
    ]


def rms(solved: Solved) -> float:
    """Root mean square of values in any unit."""
    return sqrt(fsum(v * v for v in solved.fit.residuals) / len(solved.fit.residuals))


OTHER_SENSE_SHARE = 0.25


def display_sense(read: LevelRead, solved: Solved) -> list[CodedText]:
    """Whether another sense of the display fits four headings much better."""
    if len(read.figures) < 4:
        return []
    mine = fsum(v * v for v in solved.fit.residuals)
    for along, across in product((1.0, -1.0), repeat=2):
        if along == across:
            continue  # both turned round is the same figure with the tilt the other way
        other = fsum(v * v for v in solve(by_repeat(equations_of(read, along, across)), 1.0, 0.0, 6.0).fit.residuals)
        if other < OTHER_SENSE_SHARE * mine and mine > 4 * (solved.within + solved.between):
            return [
                (
                    "display-sense",
                    "The values agree much better if one axis has the opposite sign: set the display signs on the model.",
                )
            ]
    return []
