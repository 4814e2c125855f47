"""Where a plate bubble rests when the axis is plumb, and how far the axis is tilted.

b·s = T·u(heading) + e·s, u = (sin, cos), b towards the vial's right end. Two opposite headings give e and one part of
the tilt; four give all of it and what does not fit.

Source: textbook reversal of a plate level; derived in docs/judgement.md (Vials).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import cos, radians

from ...documents.envelope import Envelope
from ...engine.conditions import noise_factor
from ...engine.parser import rounding
from ...engine.repeats import Equation, by_repeat, last_repeat
from ...geometry import unit
from ...stats.noise import TUBULAR_BETWEEN_DIV, TUBULAR_COARSE_DIV, TUBULAR_DIV
from ...stats.row_fit import Solved, solve
from ...units.numbers import finest
from .document import OPPOSITE_WITHIN_DEG, Tube


@dataclass(frozen=True, slots=True)
class PlateVialSolution:
    """Rest positions in divisions; of the last round the tilt's high-side vector in seconds, or only what lies along
    the vial."""

    solved: Solved
    tilt: tuple[float, float]
    whole: bool
    second: bool
    seconds: float

    @property
    def residuals(self) -> list[float]:
        """What each reading leaves, divisions."""
        return self.solved.fit.residuals

    def rest(self, vial: int) -> float:
        """The reversing point of a vial, divisions: where its bubble is when the axis is plumb."""
        return self.solved.fit.unknowns[vial - 1]


def _whole(tubes: list[Tube]) -> bool:
    """Whether a repeat gives its tilt in both directions: three readings, not all along one line."""
    lines = {round(tube.heading_deg % 180 / OPPOSITE_WITHIN_DEG) % 12 for tube in tubes}
    return len(tubes) > 2 and len(lines) > 1


def find(tubes: list[Tube], seconds: float, within: float, between: float, dof: float) -> PlateVialSolution:
    """Rest position of each vial, and the tilt of each round. Spreads in divisions."""
    second = any(tube.vial == 2 for tube in tubes)
    of_round = {name: [tube for tube in tubes if tube.repeat == name] for name in {tube.repeat for tube in tubes}}
    equations = []
    for entry in tubes:
        mine, u = of_round[entry.repeat], unit(entry.heading_deg)
        own = [u[0], u[1]] if _whole(mine) else [cos(radians(entry.heading_deg - mine[0].heading_deg))]
        rest = [1.0, 0.0] if entry.vial == 1 else [0.0, 1.0]
        equations.append(Equation(entry.repeat, rest if second else rest[:1], own, entry.bubble))
    solved = solve(by_repeat(equations), within, between, dof)
    last, known = last_repeat(tubes), solved.fit.unknowns
    if _whole(last):
        return PlateVialSolution(
            solved, (known[-2] * seconds, known[-1] * seconds), whole=True, second=second, seconds=seconds
        )
    u = unit(last[0].heading_deg)
    return PlateVialSolution(
        solved, (u[0] * known[-1] * seconds, u[1] * known[-1] * seconds), whole=False, second=second, seconds=seconds
    )


def spreads(document: Envelope, tubes: Sequence[Tube], steps: list[float], factor: float) -> tuple[float, float]:
    """Variances of one bubble, in divisions²: a tenth is estimated, or only halves are kept separate.

    Steps in divisions; factor has no unit.
    """
    coarse = finest(steps) >= 0.5 or (len(tubes) > 1 and all(tube.bubble % 0.5 == 0 for tube in tubes))
    own = (document.instrument.prior or {}).get("plate_vial_div", TUBULAR_COARSE_DIV if coarse else TUBULAR_DIV)
    return (own * noise_factor(document) * factor) ** 2 + (0.0 if coarse else rounding(steps)), TUBULAR_BETWEEN_DIV**2
