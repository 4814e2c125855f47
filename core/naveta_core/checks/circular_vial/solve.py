"""A vial's own error apart from the tilt: what stays when the instrument is turned is the vial's, what turns is the tilt.

x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y. A vial on the tribrach does not turn: levelled by something proved, what it
shows is its error.

Source: textbook reversal of a level vial; its form as plane vectors is derived in docs/judgement.md (Vials).
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import hypot

from ...documents.envelope import Envelope
from ...engine.conditions import Circumstances, noise_factor, prior_dof
from ...engine.parser import rounding
from ...engine.repeats import by_repeat, standing_vector, turned_vector
from ...stats.estimate import Estimate, pooled, vector_bound
from ...stats.noise import CIRCULAR_BETWEEN_MM, CIRCULAR_MM
from ...stats.row_fit import Solved, outlier_in, solve
from .document import Bubble

USUAL_SENSITIVITY = 8.0
PROVABLE_DOF = 12.0


def provable_mm(*, turns: bool, more_mm: float = 0.0) -> float:
    """The smallest error a careful test of a circular vial can show: four headings, or four readings held plumb."""
    sigma = hypot(CIRCULAR_MM / 2, CIRCULAR_BETWEEN_MM, 0.0 if turns else more_mm)
    return vector_bound(Estimate(0.0, sigma, PROVABLE_DOF))


@dataclass
class VialError:
    """A vial's own error, and the tilt of the last round, mm in the vial."""

    x: float
    y: float
    tilt: tuple[float, float] | None
    _: KW_ONLY
    estimate: Estimate
    q_within: float
    q_between: float
    solved: Solved
    outlier: str | None


def find(
    document: Envelope,
    bubbles: list[Bubble],
    steps: list[float],
    *,
    turns: bool,
    conditions: Circumstances,
    more_mm: float,
) -> VialError:
    """Solve a vial. more_mm: what an unproved level adds where the vial does not turn."""
    own = (document.instrument.prior or {}).get("circular_vial_mm", CIRCULAR_MM)
    within = (own * noise_factor(document) * conditions.factor) ** 2 + rounding(steps)
    between = CIRCULAR_BETWEEN_MM**2 + more_mm**2
    equations = [
        equation
        for bubble in bubbles
        for equation in (
            turned_vector(bubble.heading_deg, bubble.x, bubble.y, bubble.repeat)
            if turns
            else standing_vector(bubble.x, bubble.y)
        )
    ]
    solved = solve(by_repeat(equations), within, between, prior_dof(document))
    at = outlier_in(solved)
    x, y = solved.fit.unknowns[:2]
    q = (solved.q_within(0) + solved.q_within(1)) / 2
    estimate = pooled(hypot(x, y), q, between, solved.spread, prior_dof(document))
    tilt = (solved.fit.unknowns[-2], solved.fit.unknowns[-1]) if turns else None
    return VialError(
        x,
        y,
        tilt,
        estimate=estimate,
        q_within=q,
        q_between=between,
        solved=solved,
        outlier=None if at is None else bubbles[at // 2].path,
    )
