"""What may be wrong when a figure of control points does not close: one point, two swapped, a constant, a scale, feet.

Each supposition is solved for; the one is named that explains the sights with the least: SS + 2k for k more unknowns,
and it must pass the test that all of them together failed.
"""

from __future__ import annotations

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..stats.estimate import PRIOR_DOF
from ..stats.quantiles import f_quantile
from .read import FixedPoint, Sight
from .solve import Observed, Solution, Spreads, Trusted, observations, solve, solve_from, trusted, wrapped

PROBABILITY = 0.99
FEET = 3.2808398950131235
NEAR_FEET = 0.02
MAX_SWAPS, MAX_POINTS, MAX_PAIRS = 4, 6, 60
"""Only the likeliest suppositions are solved: a sheet is looked at again at every keystroke."""
MIN_PAIRS = 15
"""Up to this number all pairs are solved, from every start if none fits from the trusted place."""
CERTAIN_DOF = 4
"""Degrees of freedom from which a figure that closes ends the search."""
ABSURD_M = 1.0
"""Beyond this a point is unlikely to be a disturbed mark: two exchanged names come first."""


@dataclass(frozen=True, slots=True)
class Suspect:
    """What is supposed: `kind` point, swapped, constant, scale; the names or the size; and the solution with it.

    The size in metres, of a scale in ppm.
    """

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
    both = [sight for sight in sights if sight.horizontal_m is not None]
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
    """The supposition that explains a figure that does not close; None when none does, or two points cannot say."""
    points = {sight.point.name: sight.point for sight in sights}
    if len(points) < 3:
        return None
    observed = observations(sights, spreads)
    at = trusted(observed)
    found = [*_left_out(sights, spreads, points, at), *_extra(observed)]
    certain = any(closes(entry.solution) and entry.solution.dof >= CERTAIN_DOF for _, entry in found)
    found += _swapped(sights, spreads, points, at, thorough=not certain)
    passing = [(score, entry) for score, entry in found if closes(entry.solution)]
    if not passing:
        return None
    best = min(passing, key=lambda pair: pair[0])[1]
    swaps = [pair for pair in passing if pair[1].kind == "swapped"]
    if best.kind == "point" and abs(best.size) >= ABSURD_M and swaps:
        return min(swaps, key=lambda pair: pair[0])[1]
    return best


def _supposed(observed: tuple[Observed, ...], at: Trusted | None) -> Solution | None:
    """A supposition solved: from where most sights put the stand, else from where a similarity does."""
    found = solve_from(observed, (at.e, at.n)) if at else None
    return found or solve(observed, thorough=False, grid=at is None)


def _left_out(
    sights: Sequence[Sight], spreads: Spreads, points: dict[str, FixedPoint], at: Trusted | None
) -> list[tuple[float, Suspect]]:
    rows = []
    for name in _furthest_off(sights, points, at):
        kept = [sight for sight in sights if sight.point.name != name]
        solution = _supposed(observations(kept, spreads), at)
        if solution is None or solution.dof < 1:
            continue
        gone = len(observations([sight for sight in sights if sight.point.name == name], spreads))
        # One of so many points: that it could have been any of them counts against it.
        score = solution.squares + 2.0 * gone + 2.0 * math.log(len(points))
        rows.append((score, Suspect("point", (name,), _miss_m(sights, name, solution), solution)))
    return rows


def _furthest_off(sights: Sequence[Sight], points: dict[str, FixedPoint], at: Trusted | None) -> list[str]:
    """The points that lie furthest from where they were sighted: of many only these are worth solving for."""
    if at is None or len(points) <= MAX_POINTS:
        return list(points)
    worst: dict[str, float] = {}
    for sight in sights:
        worst[sight.point.name] = max(worst.get(sight.point.name, 0.0), _off_m(sight, sight.point, at))
    return sorted(worst, key=lambda name: -worst[name])[:MAX_POINTS]


def _off_m(sight: Sight, point: FixedPoint, at: Trusted) -> float:
    """How far a point lies from where a sight goes, as seen from the trusted place, m."""
    far = math.hypot(point.e - at.e, point.n - at.n)
    turn = wrapped(math.radians(sight.hz_deg) + at.turn - math.atan2(point.e - at.e, point.n - at.n))
    along = 0.0 if sight.horizontal_m is None else sight.horizontal_m - far
    return math.hypot(turn * far, along)


def _miss_m(sights: Sequence[Sight], name: str, solution: Solution) -> float:
    """How far a point lies from where the others' solution sees it."""
    sight = next(sight for sight in sights if sight.point.name == name)
    far = sight.horizontal_m
    point = sight.point
    turn = math.radians(sight.hz_deg) + solution.orientation_rad
    if far is None:
        far = math.hypot(point.e - solution.e, point.n - solution.n)
    return math.hypot(solution.e + far * math.sin(turn) - point.e, solution.n + far * math.cos(turn) - point.n)


def _swapped(
    sights: Sequence[Sight],
    spreads: Spreads,
    points: dict[str, FixedPoint],
    at: Trusted | None,
    *,
    thorough: bool,
) -> list[tuple[float, Suspect]]:
    pairs = list(itertools.combinations(points, 2))
    exchanged = {
        (a, b): observations(sights, spreads, {a: points[b], b: points[a]})
        for a, b in _likeliest(sights, points, pairs, at)
    }
    solutions = {pair: _supposed(observed, at) for pair, observed in exchanged.items()}
    fits = any(entry is not None and closes(entry) for entry in solutions.values())
    if thorough and len(pairs) <= MIN_PAIRS and not fits:
        # The trusted place may be far off, where a few exchanged names are half of all.
        solutions = {pair: solve(observed) for pair, observed in exchanged.items()}
    return [
        (
            solution.squares + 2.0 * math.log(len(pairs)),
            Suspect("swapped", (min(pair), max(pair)), 0.0, solution),
        )
        for pair, solution in solutions.items()
        if solution is not None and solution.dof >= 1
    ]


def _likeliest(
    sights: Sequence[Sight], points: dict[str, FixedPoint], pairs: list[tuple[str, str]], at: Trusted | None
) -> list[tuple[str, str]]:
    """The pairs of names that, the other way round, bring most together as seen from the trusted place."""
    if at is None or len(pairs) <= MIN_PAIRS:
        return pairs[:MAX_PAIRS]
    of: dict[str, list[Sight]] = {}
    for sight in sights:
        of.setdefault(sight.point.name, []).append(sight)

    def gain(pair: tuple[str, str]) -> float:
        here, there = pair
        now = math.fsum(_off_m(s, points[name], at) for name in pair for s in of[name])
        other = math.fsum(_off_m(s, points[there if name == here else here], at) for name in pair for s in of[name])
        return other - now

    return sorted(pairs, key=gain)[:MAX_SWAPS]


def _extra(observed: tuple[Observed, ...]) -> list[tuple[float, Suspect]]:
    if sum(entry.kind == "distance" for entry in observed) < 3:
        return []
    rows = []
    for kind in ("constant", "scale"):
        solution = solve(observed, extra=kind, thorough=False)
        if solution is None or solution.dof < 1 or solution.extra is None:
            continue
        sigma = math.sqrt(solution.covariance(3, 3))
        if abs(solution.extra) > 3.0 * sigma:
            rows.append((solution.squares + 2.0, Suspect(kind, (), solution.extra, solution)))
    return rows
