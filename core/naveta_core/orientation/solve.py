"""Free station by least squares: position and orientation from directions and distances to control points.

Unknown: E, N, orientation ω; on request the scale of the distances or a constant added to them. Observed: hz = bearing
− ω with σ_hz, D = (1 + k)·distance + c with σ_D. Gauss and Newton, weighted by 1/σ; the start from a plane similarity
over the points with distances, else from the best places of a grid. Residuals are observed minus computed.

Source: textbook least squares of directions and distances; start by similarity transformation derived in
docs/judgement.md (Free station).
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import KW_ONLY, dataclass
from statistics import median

from ..documents.envelope import Instrument
from ..stats.least_squares import Fit, fit, step
from ..units.angles import ARCSEC_PER_RADIAN
from .read import FixedPoint, Sight

ANGLE_ARCSEC, DISTANCE_MM, DISTANCE_PPM = 3.0, 2.0, 2.0
MAX_ROUNDS, SUPPOSED_ROUNDS, CLOSE_M = 30, 12, 1e-6
GRID = 15
DISTINCT_M = 0.1
SEARCHED = 24
TRUSTED_SHARE, TRIMMED_ROUNDS, MAX_MISFIT = 0.7, 12, 25.0
"""Of a figure that does not close so many observations are trusted; how often they are chosen again; a bound on one."""


@dataclass(frozen=True, slots=True)
class Spreads:
    """Stated accuracies of the instrument and of how targets stand: one standard deviation."""

    angle_arcsec: float
    distance_mm: float
    distance_ppm: float
    target_mm: float

    def direction_arcsec(self, distance_m: float) -> float:
        """A-priori standard deviation of a direction at a distance in metres, seconds."""
        return math.hypot(self.angle_arcsec, self.target_mm / 1000.0 / distance_m * ARCSEC_PER_RADIAN)

    def distance_m(self, distance_m: float) -> float:
        """Distance in plan, metres."""
        return math.hypot(self.distance_mm, self.distance_ppm * distance_m / 1000.0, self.target_mm) / 1000.0

    def height_m(self, horizontal_m: float) -> float:
        """Of a height difference by zenith angle: the angle at that distance, and half a millimetre for each end."""
        return math.hypot(self.angle_arcsec / ARCSEC_PER_RADIAN * horizontal_m, 0.001)


def spreads_of(instrument: Instrument, target_mm: float) -> Spreads:
    """A-priori standard deviations of a document's sights: seconds and metres."""
    return Spreads(
        instrument.angle_accuracy_arcsec or ANGLE_ARCSEC,
        instrument.distance_accuracy_mm or DISTANCE_MM,
        instrument.distance_accuracy_ppm or DISTANCE_PPM,
        target_mm,
    )


@dataclass(frozen=True, slots=True)
class Observed:
    """One observation: of which sight, a direction in radians or a distance in metres, and its σ in that unit."""

    sight: int
    kind: str
    value: float
    sigma: float
    point: FixedPoint


@dataclass(frozen=True, slots=True)
class Solution:
    """Where and which way, with the standardised fit at that place."""

    e: float
    n: float
    orientation_rad: float
    _: KW_ONLY
    extra: float | None
    observed: tuple[Observed, ...]
    fit: Fit

    @property
    def squares(self) -> float:
        """Sum of squared standardised residuals."""
        return math.fsum(v * v for v in self.fit.residuals)

    @property
    def dof(self) -> int:
        """Degrees of freedom of the fit."""
        return self.fit.redundancy

    def covariance(self, i: int, j: int) -> float:
        """Of two unknowns (0 E, 1 N in metres, 2 orientation in radians), before any scaling by the scatter found."""
        return math.fsum(a * b for a, b in zip(self.fit.gain[i], self.fit.gain[j], strict=True))

    @property
    def orientation_deg(self) -> float:
        """What has to be added to the circle to get bearings, degrees."""
        return math.degrees(self.orientation_rad) % 360.0

    def residual(self, sight: int, kind: str) -> tuple[float, float] | None:
        """Residual of one observation and its own standard deviation, in its unit; None when it was not taken."""
        for entry, v, h in zip(self.observed, self.fit.residuals, self.fit.leverage, strict=True):
            if entry.sight == sight and entry.kind == kind:
                return v * entry.sigma, entry.sigma * math.sqrt(max(0.0, 1.0 - h))
        return None


def bearing_rad(e: float, n: float, point: FixedPoint) -> float:
    """Bearing from the station to a point, radians clockwise from north."""
    return math.atan2(point.e - e, point.n - n)


def distance_m(e: float, n: float, point: FixedPoint) -> float:
    """Distance in plan, metres."""
    return math.hypot(point.e - e, point.n - n)


def wrapped(angle: float) -> float:
    """An angle in radians, brought into (−π, π]."""
    return (angle + math.pi) % (2.0 * math.pi) - math.pi


def observations(
    sights: Sequence[Sight], spreads: Spreads, names: dict[str, FixedPoint] | None = None
) -> tuple[Observed, ...]:
    """Directions and distances of sights; `names` puts other points under the names sighted."""
    rows = []
    for sight in sights:
        point = (names or {}).get(sight.point.name, sight.point)
        far = sight.horizontal_m or 50.0
        rows.append(
            Observed(
                sight.index, "hz", math.radians(sight.hz_deg), spreads.direction_arcsec(far) / ARCSEC_PER_RADIAN, point
            )
        )
        if sight.horizontal_m is not None:
            rows.append(Observed(sight.index, "distance", sight.horizontal_m, spreads.distance_m(far), point))
    return tuple(rows)


def solve(
    observed: tuple[Observed, ...], *, extra: str | None = None, thorough: bool = True, grid: bool = True
) -> Solution | None:
    """The best solution, or None when the figure does not hold one. `extra`: 'scale' or 'constant' solved for as well.

    Not `thorough`: only from where a similarity puts the stand; enough for a supposition that fits. Without `grid` no
    other places are tried at all.
    """
    found = solutions(observed, extra=extra, thorough=thorough, grid=grid)
    return found[0] if found else None


def solutions(
    observed: tuple[Observed, ...], *, extra: str | None = None, thorough: bool = True, grid: bool = True
) -> list[Solution]:
    """Every distinct place the iteration ends at, the best first."""
    unknowns = 3 + (extra is not None)
    if len(observed) < unknowns:
        return []
    found: list[Solution] = []
    similar = _similarity(observed)
    for searching in (False, True):
        if searching and (not grid or (similar is not None and not thorough)):
            break
        for start in _grid(observed) if searching else [similar] if similar is not None else []:
            iterate = _iterate(observed, start, extra)
            if iterate is not None and all(
                math.hypot(iterate.e - other.e, iterate.n - other.n) > DISTINCT_M for other in found
            ):
                found.append(iterate)
        if found:
            break
    return sorted(found, key=lambda iterate: iterate.squares)


def solve_from(observed: tuple[Observed, ...], start: tuple[float, float]) -> Solution | None:
    """The solution the iteration reaches from one place; None when it reaches none.

    Start: easting, northing in metres, orientation in radians.
    """
    return _iterate(observed, start, None, SUPPOSED_ROUNDS) if len(observed) > 3 else None


@dataclass(frozen=True, slots=True)
class Trusted:
    """A place that most sights agree on, whatever a few others say: E, N, orientation in radians, and their misfit."""

    e: float
    n: float
    turn: float
    misfit: float


def trusted(observed: tuple[Observed, ...]) -> Trusted | None:
    """Where most observations put the stand: from the likeliest places, fitting the better part of them each time.

    A few sights to wrong points pull a least-squares place away from all others; here they are left out of the fit.
    """
    similar = _similarity(observed)
    starts = [*([similar] if similar else []), *_grid(observed, most=MAX_MISFIT)]
    found = [trimmed for start in starts if (trimmed := _trimmed(observed, start)) is not None]
    return min(found, key=lambda trimmed: trimmed.misfit, default=None)


def _trimmed(observed: tuple[Observed, ...], start: tuple[float, float]) -> Trusted | None:
    e, n = start
    trusted_count = max(4, math.ceil(TRUSTED_SHARE * len(observed)))
    for _ in range(TRIMMED_ROUNDS):
        turn = _middle_turn(observed, e, n)
        off = _misfits(observed, e, n, turn)
        order = sorted(range(len(observed)), key=lambda i: abs(off[i]) / observed[i].sigma)
        kept = [observed[i] for i in sorted(order[:trusted_count])]
        rows, misses = _equations(tuple(kept), e, n, turn=turn, more=0.0, extra=None)
        try:
            moved = step(rows, misses)
        except ZeroDivisionError:
            return None
        size = math.hypot(moved[0], moved[1])
        if not math.isfinite(size) or size > 1e6:
            return None
        longest = 0.5 * max(distance_m(e, n, record.point) for record in kept)
        share = min(1.0, longest / size) if size > 0.0 else 1.0
        e, n = e + share * moved[0], n + share * moved[1]
        if size < CLOSE_M:
            break
    turn = _middle_turn(observed, e, n)
    off = sorted(abs(v) / misfit.sigma for v, misfit in zip(_misfits(observed, e, n, turn), observed, strict=True))
    return Trusted(e, n, turn, math.fsum(v * v for v in off[:trusted_count]))


def _middle_turn(observed: tuple[Observed, ...], e: float, n: float) -> float:
    """The middle one of bearing minus circle reading: a few wrong names do not move it."""
    turns = [bearing_rad(e, n, entry.point) - entry.value for entry in observed if entry.kind == "hz"]
    mean = math.atan2(math.fsum(map(math.sin, turns)), math.fsum(map(math.cos, turns)))
    return mean + median(wrapped(turn - mean) for turn in turns)


def _similarity(observed: tuple[Observed, ...]) -> tuple[float, float] | None:
    """From points with both direction and distance: the plane similarity from the stand's own frame to theirs."""
    hz = {entry.sight: entry.value for entry in observed if entry.kind == "hz"}
    both = [
        (hz[entry.sight], entry.value, entry.point)
        for entry in observed
        if entry.kind == "distance" and entry.sight in hz
    ]
    if len({point.name for _, _, point in both}) < 2:
        return None
    local = [(d * math.sin(a), d * math.cos(a)) for a, d, _ in both]
    size = len(both)
    lx, ly = (math.fsum(entry[i] for entry in local) / size for i in (0, 1))
    ge, gn = math.fsum(p.e for _, _, p in both) / size, math.fsum(p.n for _, _, p in both) / size
    a = b = w = 0.0
    for (x, y), (_, _, p) in zip(local, both, strict=True):
        dx, dy, de, dn = x - lx, y - ly, p.e - ge, p.n - gn
        a, b, w = a + dx * de + dy * dn, b + dy * de - dx * dn, w + dx * dx + dy * dy
    if w <= 0.0 or a == b == 0.0:
        return None
    turn = math.atan2(b, a)
    # The stand is the origin of its own frame: turned and shifted, without the scale.
    return ge - (lx * math.cos(turn) + ly * math.sin(turn)), gn - (ly * math.cos(turn) - lx * math.sin(turn))


def _grid(observed: tuple[Observed, ...], most: float = math.inf) -> list[tuple[float, float]]:
    """The likeliest places on a grid round the points; no observation counts for more than `most` of its coarse spread²."""
    points = [entry.point for entry in observed]
    mid_e, mid_n = (math.fsum(values) / len(points) for values in ([p.e for p in points], [p.n for p in points]))
    reach = (
        max(
            *(distance_m(mid_e, mid_n, p) for p in points),
            *(entry.value for entry in observed if entry.kind == "distance"),
            5.0,
        )
        * 1.8
    )
    # A search this coarse needs no more than a few of many sights.
    few = observed[:: max(1, len(observed) // SEARCHED)]
    places = []
    for i in range(GRID):
        for j in range(GRID):
            e, n = mid_e + reach * (2.0 * i / (GRID - 1) - 1.0), mid_n + reach * (2.0 * j / (GRID - 1) - 1.0)
            places.append((_cost(few, e, n, most), e, n))
    places.sort()
    return [(e, n) for _, e, n in places[:4]]


def _orientation(observed: tuple[Observed, ...], e: float, n: float) -> float:
    """The mean of bearing minus circle reading, round the circle."""
    turns = [bearing_rad(e, n, entry.point) - entry.value for entry in observed if entry.kind == "hz"]
    return math.atan2(math.fsum(map(math.sin, turns)), math.fsum(map(math.cos, turns)))


def _misfits(observed: tuple[Observed, ...], e: float, n: float, turn: float) -> list[float]:
    return [
        wrapped(entry.value - bearing_rad(e, n, entry.point) + turn)
        if entry.kind == "hz"
        else entry.value - distance_m(e, n, entry.point)
        for entry in observed
    ]


def _cost(observed: tuple[Observed, ...], e: float, n: float, most: float) -> float:
    # Coarse: a place a few metres off must not be thrown away for seconds of arc.
    turn = _orientation(observed, e, n) if most == math.inf else _middle_turn(observed, e, n)
    off = _misfits(observed, e, n, turn)
    coarse = [0.02 if entry.kind == "hz" else 0.05 * entry.value + 1.0 for entry in observed]
    return math.fsum(min(most, (v / c) ** 2) for v, c in zip(off, coarse, strict=True))


def _iterate(
    observed: tuple[Observed, ...], start: tuple[float, float], extra: str | None, rounds: int = MAX_ROUNDS
) -> Solution | None:
    e, n = start
    turn, more = _orientation(observed, e, n), 0.0
    if min(distance_m(e, n, entry.point) for entry in observed) < 0.01:
        e, n = e + 0.5, n + 0.3
    for _ in range(rounds):
        rows, misses = _equations(observed, e, n, turn=turn, more=more, extra=extra)
        try:
            moved = step(rows, misses)
        except ZeroDivisionError:
            return None
        size = math.hypot(moved[0], moved[1])
        if not math.isfinite(size) or size > 1e6:
            return None
        longest = 0.5 * max(distance_m(e, n, entry.point) for entry in observed)
        share = min(1.0, longest / size) if size > 0.0 else 1.0
        e, n, turn = e + share * moved[0], n + share * moved[1], turn + share * moved[2]
        more += share * moved[3] if extra else 0.0
        if size < CLOSE_M and abs(moved[2]) < 1e-10:
            return Solution(e, n, turn, extra=more if extra else None, observed=observed, fit=fit(rows, misses))
    return None


def _equations(
    observed: tuple[Observed, ...], e: float, n: float, *, turn: float, more: float, extra: str | None
) -> tuple[list[list[float]], list[float]]:
    """Rows and misclosures, each divided by the observation's own σ."""
    rows, misses = [], []
    for entry in observed:
        de, dn = entry.point.e - e, entry.point.n - n
        d = max(math.hypot(de, dn), 1e-6)
        if entry.kind == "hz":
            row = [-dn / d**2, de / d**2, -1.0]
            last, miss = 0.0, wrapped(entry.value - math.atan2(de, dn) + turn)
        else:
            row = [-de / d, -dn / d, 0.0]
            last = d if extra == "scale" else 1.0
            miss = entry.value - d - (more * d if extra == "scale" else more if extra else 0.0)
        full = [*row, last] if extra else row
        rows.append([a / entry.sigma for a in full])
        misses.append(miss / entry.sigma)
    return rows, misses
