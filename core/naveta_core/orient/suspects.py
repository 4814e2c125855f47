"""What may be wrong when a figure of known points does not close: one point, two swapped, a constant, a scale, feet.

Each supposition is solved for; the one is named that explains the sights with the least: SS + 2k for k more unknowns,
and it must pass the test that all of them together failed.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..priors import PRIOR_DOF
from ..quantiles import f_quantile
from .read import Known, Sight
from .solve import Observed, Solution, Spreads, observations, rough_squares, solve

PROBABILITY = 0.99
FEET = 3.2808398950131235
NEAR_FEET = 0.02
MOST_SWAPS = 4


@dataclass(frozen=True, slots=True)
class Suspect:
    """What is supposed: `kind` point, swapped, constant, scale; the names or the size; and the solution with it."""

    kind: str
    names: tuple[str, ...]
    size: float
    solution: Solution


def closes(solution: Solution) -> bool:
    """Whether chance explains the residuals, with the a-priori spreads trusted to about 30 percent."""
    if solution.dof <= 0:
        return True
    return solution.squares / solution.dof <= f_quantile(PROBABILITY, solution.dof, PRIOR_DOF)


def units_ratio(sights: Sequence[Sight]) -> float | None:
    """Measured distances over those between the coordinates; None without two points with distances."""
    both = [one for one in sights if one.horizontal_m is not None]
    pairs = [(a, b) for a, b in itertools.combinations(both, 2) if a.point.name != b.point.name]
    measured = known = 0.0
    for a, b in pairs:
        assert a.horizontal_m is not None
        assert b.horizontal_m is not None
        angle = math.radians(b.hz_deg - a.hz_deg)
        measured += math.sqrt(
            max(0.0, a.horizontal_m**2 + b.horizontal_m**2 - 2 * a.horizontal_m * b.horizontal_m * math.cos(angle))
        )
        known += math.hypot(a.point.e - b.point.e, a.point.n - b.point.n)
    return measured / known if known > 0.0 else None


def feet_for_metres(sights: Sequence[Sight]) -> str | None:
    """'feet' when distances look like feet beside metres, 'metres' the other way round."""
    ratio = units_ratio(sights)
    if ratio is None:
        return None
    if abs(ratio / FEET - 1.0) < NEAR_FEET:
        return "feet"
    return "metres" if abs(ratio * FEET - 1.0) < NEAR_FEET else None


def suspect(sights: Sequence[Sight], spreads: Spreads) -> Suspect | None:
    """The supposition that explains a figure that does not close; None when none does, or two points cannot tell."""
    points = {one.point.name: one.point for one in sights}
    if len(points) < 3:
        return None
    found = [
        *_left_out(sights, spreads, points),
        *_swapped(sights, spreads, points),
        *_extra(observations(sights, spreads)),
    ]
    passing = [(score, one) for score, one in found if closes(one.solution)]
    if not passing:
        return None
    return min(passing, key=lambda pair: pair[0])[1]


def _left_out(sights: Sequence[Sight], spreads: Spreads, points: dict[str, Known]) -> list[tuple[float, Suspect]]:
    told = []
    for name in points:
        kept = [one for one in sights if one.point.name != name]
        solution = solve(observations(kept, spreads), thorough=False)
        if solution is None or solution.dof < 1:
            continue
        gone = len(observations([one for one in sights if one.point.name == name], spreads))
        # One of so many points: that it could have been any of them counts against it.
        score = solution.squares + 2.0 * gone + 2.0 * math.log(len(points))
        told.append((score, Suspect("point", (name,), _miss_m(sights, name, solution), solution)))
    return told


def _miss_m(sights: Sequence[Sight], name: str, solution: Solution) -> float:
    """How far a point lies from where the others' solution sees it."""
    sight = next(one for one in sights if one.point.name == name)
    far = sight.horizontal_m
    point = sight.point
    turn = math.radians(sight.hz_deg) + solution.orientation_rad
    if far is None:
        far = math.hypot(point.e - solution.e, point.n - solution.n)
    return math.hypot(solution.e + far * math.sin(turn) - point.e, solution.n + far * math.cos(turn) - point.n)


def _swapped(sights: Sequence[Sight], spreads: Spreads, points: dict[str, Known]) -> list[tuple[float, Suspect]]:
    told = []
    pairs = list(itertools.combinations(points, 2))
    tried = [
        (pair, observations(sights, spreads, {pair[0]: points[pair[1]], pair[1]: points[pair[0]]})) for pair in pairs
    ]
    # Where a similarity gives a place at once, only the likeliest are solved.
    rough = [rough_squares(observed) for _, observed in tried]
    if None not in rough:
        tried = [one for _, one in sorted(zip(rough, tried, strict=True), key=lambda one: one[0] or 0.0)][:MOST_SWAPS]
    for (one, two), observed in tried:
        solution = solve(observed, thorough=False)
        if solution is not None and solution.dof >= 1:
            score = solution.squares + 2.0 * math.log(len(pairs))
            told.append((score, Suspect("swapped", (min(one, two), max(one, two)), 0.0, solution)))
    return told


def _extra(observed: tuple[Observed, ...]) -> list[tuple[float, Suspect]]:
    if sum(one.kind == "distance" for one in observed) < 3:
        return []
    told = []
    for kind in ("constant", "scale"):
        solution = solve(observed, extra=kind, thorough=False)
        if solution is None or solution.dof < 1 or solution.extra is None:
            continue
        sigma = math.sqrt(solution.covariance(3, 3))
        if abs(solution.extra) > 3.0 * sigma:
            told.append((solution.squares + 2.0, Suspect(kind, (), solution.extra, solution)))
    return told
