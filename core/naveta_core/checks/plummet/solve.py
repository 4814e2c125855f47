"""A plummet's own offset apart from where the axis meets the sheet.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.

Source: textbook half-turn test; the fit of a circle of known headings is derived in docs/judgement.md (Plummet).
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import fsum

from ...engine.conditions import Circumstances, noise_factor, prior_dof
from ...engine.parser import rounding
from ...engine.repeats import by_repeat, ground_mark, standing_vector
from ...stats.noise import BOB_IN_WIND_MM, BOB_MM, PLUMMET_BETWEEN_MM, PLUMMET_MM, TRIBRACH_TURNED_MM
from ...stats.row_fit import Solved, solve
from .document import HEIGHTS_DIFFER_M, Plummet, TargetsRead


@dataclass(frozen=True, slots=True)
class SolvedSet:
    """A set solved: axis on its last sheet, offset at heading 0, mm."""

    height_m: float
    axis: tuple[float, float]
    offset: tuple[float, float]
    _: KW_ONLY
    solved: Solved
    q_within: float
    q_between: float


def _spreads(document: Plummet, steps: list[float], factor: float) -> tuple[float, float]:
    """Variances of one coordinate of a mark, mm²."""
    o, laser = document.observations, document.instrument.plummet == "laser"
    own = (document.instrument.prior or {}).get(
        "plummet_mark_mm", PLUMMET_MM["laser" if laser and document.conditions.support != "floor" else "optical"]
    )
    within = (own * noise_factor(document) * factor) ** 2 + rounding(steps)
    between = PLUMMET_BETWEEN_MM**2
    if o.method == "thirds":
        within += TRIBRACH_TURNED_MM**2
    if o.method == "bob":
        between += (BOB_MM if document.conditions.wind in (None, "calm") else BOB_IN_WIND_MM) ** 2
    if o.method == "proven":
        between += PLUMMET_MM["optical"] ** 2
    return within, between


def solve_sets(document: Plummet, read: TargetsRead, circumstances: Circumstances) -> list[SolvedSet]:
    """The axis and the offset of every sheet, millimetres."""
    within, between = _spreads(document, read.steps, circumstances.factor)
    found = []
    for height, spots in read.sets:
        assert height is not None
        equations = [
            equation
            for spot in spots
            for equation in (
                ground_mark(spot.heading_deg, spot.x, spot.y, spot.repeat)
                if read.turned
                else standing_vector(spot.x, spot.y)
            )
        ]
        solved = solve(by_repeat(equations), within, between, prior_dof(document))
        known = solved.fit.unknowns
        axis = (known[-2], known[-1]) if read.turned else (0.0, 0.0)
        q = (solved.q_within(0) + solved.q_within(1)) / 2
        found.append(SolvedSet(height, axis, (known[0], known[1]), solved=solved, q_within=q, q_between=between))
    return found


@dataclass(frozen=True, slots=True)
class ByHeight:
    """The offset as a sideways part and one that grows with height, from sets at two heights or more.

    Sideways in mm, per metre of height in mm, heights in m, variances in mm².
    """

    sideways: tuple[float, float]
    per_metre: tuple[float, float]
    gains: list[tuple[float, float]]
    heights: list[float]
    q: list[tuple[float, float]]

    def at(self, height_m: float) -> tuple[float, float]:
        """The offset at a height, millimetres; height in metres."""
        return (self.sideways[0] + self.per_metre[0] * height_m, self.sideways[1] + self.per_metre[1] * height_m)

    def variance(self, height_m: float) -> tuple[float, float]:
        """Variance of one coordinate of a mark, mm²."""
        shares = [a + b * height_m for a, b in self.gains]
        return fsum(s * s * q[0] for s, q in zip(shares, self.q, strict=True)), fsum(
            s * s * q[1] for s, q in zip(shares, self.q, strict=True)
        )


def by_height(sets: list[SolvedSet]) -> ByHeight | None:
    """Sideways offset and tilt parted by two heights; None where they are too close."""
    heights = [set_.height_m for set_ in sets]
    if len(sets) < 2 or max(heights) - min(heights) < HEIGHTS_DIFFER_M:
        return None
    mean = fsum(heights) / len(heights)
    square = fsum((h - mean) ** 2 for h in heights)
    gains = [(1 / len(heights) - mean * (h - mean) / square, (h - mean) / square) for h in heights]
    solved = [
        tuple(fsum(g[k] * gain.offset[i] for g, gain in zip(gains, sets, strict=True)) for i in (0, 1)) for k in (0, 1)
    ]
    return ByHeight(
        (solved[0][0], solved[0][1]),
        (solved[1][0], solved[1][1]),
        gains,
        heights,
        [(set_.q_within, set_.q_between) for set_ in sets],
    )
