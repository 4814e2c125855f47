"""The line-of-sight error from two or more set-ups.

For each set-up  a - b = dh + c (Da - Db) + (1-k)(Da^2 - Db^2)/2R,  c > 0 when line of sight points up.
One equation serves every layout. dh and c by least squares, set-ups weighted equally; the spreads of the
readings enter only the uncertainty.

Source: textbook two-peg test; least squares over any set-ups derived in docs/judgement.md (Two-peg test).
"""

from __future__ import annotations

from dataclasses import KW_ONLY, dataclass
from math import fsum, sqrt

from ...engine.conditions import noise_factor
from ...geometry import EARTH_RADIUS_M, SIGMA_REFRACTION, curvature_and_refraction_m
from ...stats.estimate import PRIOR_DOF, Estimate, Spread, pooled, rounded_alike
from ...stats.least_squares import Fit, fit
from ...stats.noise import THREE_WIRE_FACTOR, StaffSpread, staff_spread
from ...stats.outliers import Outlier, find_outlier
from ...units.angles import ARCSEC_PER_RADIAN
from .document import Setups, StaffSight, TwoPeg

BEYOND = {"middle-then-beyond": (False, True), "outside-both": (True, True)}
TOLERANCE_M, TOLERANCE_SHARE = 1.0, 0.02


@dataclass(frozen=True, slots=True)
class ReadingPriors:
    """How this instrument is read: enough to say what any reading of it is worth. The factor has no unit."""

    reading: str | None = None
    class_mm_per_km: float | None = None
    own_within_mm: float | None = None
    factor: float = 1.0
    dof: float = PRIOR_DOF

    @classmethod
    def of(cls, document: TwoPeg) -> ReadingPriors:
        """The priors of a document: from its level, its readings and what earlier tests taught."""
        entry = document.instrument
        noise = entry.noise
        return cls(
            entry.reading or ("digital" if entry.kind == "digital-level" else None),
            entry.levelling_accuracy_mm_per_km,
            (entry.prior or {}).get("staff_reading_mm"),
            noise_factor(document),
            noise.dof if noise else PRIOR_DOF,
        )

    def spread(self, distance_m: float) -> StaffSpread:
        """A-priori spread of one sight at a distance in metres: within and between set-ups, millimetres."""
        return staff_spread(distance_m, self.reading, self.class_mm_per_km, self.own_within_mm)


@dataclass(frozen=True, slots=True)
class PegSolution:
    """What a complete test says, before it is judged. Lengths in metres, c in metres per metre."""

    setups: Setups
    c: float
    height_difference_m: float
    _: KW_ONLY
    fit: Fit
    estimate: Estimate  # of c, in arcsec
    repeats: Spread
    redundant: Spread
    q_within: float  # arcsec^2, a-priori
    q_between: float
    imbalances_m: list[float]
    reduced_m: list[float]  # a - b free of curvature and refraction

    @property
    def spread(self) -> Spread:
        """A-priori spread of one sight at a distance in metres: within and between set-ups, millimetres."""
        return self.repeats + self.redundant

    @property
    def weak(self) -> float:
        """How far apart the differences of sights lie, m."""
        return max(self.imbalances_m) - min(self.imbalances_m)


def within_variance(seen: StaffSight, priors: ReadingPriors) -> float:
    """Variance of one pointing of a sight, m^2: a-priori spread and rounding of the last digit typed."""
    return _noise_m(seen, priors) ** 2 + _step_m(seen) ** 2 / 12


def between_variance(seen: StaffSight, priors: ReadingPriors) -> float:
    """Variance common to all pointings of a sight, m^2, with what a coarse last digit gives them alike."""
    alike = rounded_alike(_noise_m(seen, priors), _step_m(seen), len(seen.readings))
    return (priors.spread(seen.sight_m).between_mm / 1000) ** 2 + alike


def _noise_m(seen: StaffSight, priors: ReadingPriors) -> float:
    """How one pointing of a sight scatters before it is rounded, m."""
    share = THREE_WIRE_FACTOR if seen.three_wire else 1.0
    return priors.spread(seen.sight_m).within_mm / 1000 * priors.factor * share


def _step_m(seen: StaffSight) -> float:
    """The worth of the last digit of a pointing, m; a mean of three wires has a finer one."""
    return max(p.step_m for p in seen.readings) / (sqrt(3) if seen.three_wire else 1.0)


def standardised(setups: Setups, priors: ReadingPriors) -> list[list[float]]:
    """Readings over their own spread, a list a sight, in reading order."""
    return [_over_spread(seen, priors) if seen.complete else [] for seen in _sights(setups)]


def outlier_among(setups: Setups, priors: ReadingPriors) -> Outlier | None:
    """The reading that is an outlier most among its sight's others; none that is one step of the last digit off."""
    steps = [_step_m(s) / sqrt(within_variance(s, priors)) if s.complete else 0.0 for s in _sights(setups)]
    return find_outlier(standardised(setups, priors), steps)


def _sights(setups: Setups) -> list[StaffSight]:
    return [seen for setup in setups for seen in setup]


def _over_spread(seen: StaffSight, priors: ReadingPriors) -> list[float]:
    spread = sqrt(within_variance(seen, priors))
    return [p.m / spread for p in seen.readings]


def _repeat_spread(setups: Setups, priors: ReadingPriors) -> Spread:
    squares, dof = 0.0, 0
    for group in standardised(setups, priors):
        if len(group) > 1:
            mean = fsum(group) / len(group)
            squares += fsum((value - mean) ** 2 for value in group)
            dof += len(group) - 1
    return Spread(squares, dof)


def curvature_m(setup: tuple[StaffSight, StaffSight]) -> float:
    """What curvature and refraction add to a - b of one set-up, m."""
    a, b = setup
    return curvature_and_refraction_m(a.sight_m) - curvature_and_refraction_m(b.sight_m)


def observed_m(setup: tuple[StaffSight, StaffSight], *, curvature: bool, middle: bool = False) -> float:
    """a - b of one set-up, m, free of curvature and refraction when that is on."""
    a, b = setup
    difference = a.middle_m - b.middle_m if middle else a.mean_m - b.mean_m
    return difference - (curvature_m(setup) if curvature else 0.0)


def _design(setups: Setups) -> tuple[list[float], list[list[float]]]:
    imbalances = []
    for a, b in setups:
        imbalances.append(a.sight_m - b.sight_m)
    return imbalances, [[1.0, imbalance] for imbalance in imbalances]


def solve_pegs(setups: Setups, priors: ReadingPriors, *, curvature: bool) -> PegSolution:
    """Solve a complete test. Every sight must have a distance and a reading, imbalances must differ."""
    imbalances, design = _design(setups)
    reduced = [observed_m(setup, curvature=curvature) for setup in setups]
    found = fit(design, reduced)
    dh, c = found.unknowns
    v_within, v_between = _variances(setups, priors)
    scale = ARCSEC_PER_RADIAN**2
    q_within = found.variance(1, v_within) * scale
    q_between = (found.variance(1, v_between) + refraction_variance(setups, found)) * scale
    repeats = _repeat_spread(setups, priors)
    redundant = _redundant_spread(found, [w + b for w, b in zip(v_within, v_between, strict=True)])
    estimate = pooled(c * ARCSEC_PER_RADIAN, q_within, q_between, repeats + redundant, priors.dof)
    return PegSolution(
        setups,
        c,
        dh,
        fit=found,
        estimate=estimate,
        repeats=repeats,
        redundant=redundant,
        q_within=q_within,
        q_between=q_between,
        imbalances_m=imbalances,
        reduced_m=reduced,
    )


def _variances(setups: Setups, priors: ReadingPriors) -> tuple[list[float], list[float]]:
    """Within and between variance of each set-up's a - b, m^2."""
    within = [fsum(within_variance(s, priors) / len(s.readings) for s in setup) for setup in setups]
    return within, [fsum(between_variance(s, priors) for s in setup) for setup in setups]


def refraction_variance(setups: Setups, found: Fit) -> float:
    """Variance of c from an unknown refraction, alike in all sights: (sigma_k sum g (Da^2 - Db^2)/2R)^2."""
    total = 0.0
    for g, (a, b) in zip(found.gain[1], setups, strict=True):
        total += g * (a.sight_m**2 - b.sight_m**2) / (2 * EARTH_RADIUS_M)
    return (SIGMA_REFRACTION * total) ** 2


def _redundant_spread(found: Fit, variances: list[float]) -> Spread:
    if found.redundancy < 1:
        return Spread()
    squares = fsum(v * v for v in found.residuals)
    return Spread(found.redundancy * squares / found.residual_square_scale(variances), found.redundancy)


def middle_wire_c(setups: Setups, *, curvature: bool) -> float | None:
    """c from the middle wires alone, where three wires were read at every sight; metres per metre."""
    if not all(seen.three_wire for setup in setups for seen in setup):
        return None
    _, design = _design(setups)
    return fit(design, [observed_m(setup, curvature=curvature, middle=True) for setup in setups]).unknowns[1]


def expected_u95(pairs: list[tuple[float, float]], readings: int, priors: ReadingPriors) -> float:
    """What a layout can prove before anything is read: U in arcsec with so many readings a sight."""
    design = [[1.0, da - db] for da, db in pairs]
    found = fit(design, [0.0] * len(pairs))
    spreads = [[priors.spread(d) for d in pair] for pair in pairs]
    within = [fsum((s.within_mm * priors.factor / 1000) ** 2 / readings for s in pair) for pair in spreads]
    between = [fsum((s.between_mm / 1000) ** 2 for s in pair) for pair in spreads]
    bent = fsum(g * (da**2 - db**2) / (2 * EARTH_RADIUS_M) for g, (da, db) in zip(found.gain[1], pairs, strict=True))
    scale = ARCSEC_PER_RADIAN**2
    q_between = (found.variance(1, between) + (SIGMA_REFRACTION * bent) ** 2) * scale
    return pooled(0.0, found.variance(1, within) * scale, q_between, Spread(), priors.dof).u95


def bound_with(solution: PegSolution, factor: float, priors: ReadingPriors) -> float:
    """The one-sided bound B in arcsec if every sight had `factor` times the readings it has."""
    expected = Spread(solution.spread.squares, solution.spread.dof)
    return pooled(0.0, solution.q_within / factor, solution.q_between, expected, priors.dof).b95


@dataclass(frozen=True, slots=True)
class PegFinding:
    """A solved test with what its reticle shows: c of the middle wire where it differs, and c the target follows from."""

    solution: PegSolution
    priors: ReadingPriors
    target_c: float
    middle_c: float | None = None

    def target_m(self, seen: StaffSight) -> float:
        """What a staff must read, level untouched, once the line of sight is right: reading less c times distance."""
        return (seen.middle_m if self.middle_c is not None else seen.mean_m) - self.target_c * seen.sight_m

    @property
    def longest_last(self) -> StaffSight:
        """The sight to adjust by: the longer one of the last set-up, where the level still stands."""
        return max(self.solution.setups[-1], key=lambda seen: seen.sight_m)


def by_middle_wire(solution: PegSolution, priors: ReadingPriors, *, curvature: bool) -> PegFinding:
    """c of the middle wires where it differs from that of all three: the reticle is not symmetrical."""
    middle = middle_wire_c(solution.setups, curvature=curvature)
    if middle is None or abs(middle - solution.c) * ARCSEC_PER_RADIAN <= solution.estimate.u95:
        return PegFinding(solution, priors, solution.c)
    return PegFinding(solution, priors, middle, middle)


def baseline_m(pairs: list[tuple[float, float]], layout: str | None) -> float:
    """Distance of the pegs that fits most set-ups, given (Da, Db) each; between the pegs wins over beyond them."""
    beyond = BEYOND.get(layout or "", ())
    if beyond and beyond[0]:
        return abs(pairs[0][0] - pairs[0][1])
    candidates = [da + db for da, db in pairs] + [abs(da - db) for da, db in pairs]
    return max(candidates, key=lambda base: len([pair for pair in pairs if _fits(base, pair)]))


def _fits(base: float, pair: tuple[float, float]) -> bool:
    slack = TOLERANCE_M + TOLERANCE_SHARE * base
    return abs(fsum(pair) - base) <= slack or abs(abs(pair[0] - pair[1]) - base) <= slack


def place_m(base: float, da: float, db: float) -> float:
    """Where the level stands along the line from A (0) to B (base): negative beyond A, above base beyond B."""
    if abs(da + db - base) <= abs(abs(da - db) - base):
        return base * da / (da + db)
    return -da if da < db else da
