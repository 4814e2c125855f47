"""A quantity over time: a level or a straight line, its outliers, where it jumped, when it leaves its limit.

Source: docs/judgement.md, *Series and drift*. v = σ² + τ² for each value; f² = max(0.1, (ν₀ + Σw r²)/(ν₀ + ν)), ν₀ = 4;
var a = f²/Σw, var b = f²/Σw(t − t₀)². Times in days, values in any unit, the same throughout.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import KW_ONLY, dataclass
from math import fsum, sqrt
from statistics import correlation

from ..stats.estimate import MIN_F_SQUARED
from ..stats.quantiles import t_quantile
from .series import JUMP_PROBABILITY, PRIOR_DOF

LINE_FROM = 6
"""A line wants so many values,"""
LINE_DAYS = 90.0
"""over so many days."""
DELETION_FROM = 4
HORIZON_DAYS = 5 * 365.25
WEEK = 7.0


@dataclass(frozen=True, slots=True)
class SeriesValue:
    """One value of a part of a series: its day, one standard deviation, the temperature it was made at.

    Value and sigma in the unit of the series.
    """

    day: float
    value: float
    sigma: float
    temperature_c: float | None = None


@dataclass(frozen=True, slots=True)
class Line:
    """A level (slope None) or a straight line through values: at day `t0` it is `level`.

    Level in the unit of the series, slope in that per day, variances in its square; f² has no unit. `left_out`:
    places of outliers.
    """

    t0: float
    level: float
    slope: float | None
    _: KW_ONLY
    var_level: float
    var_slope: float
    f_squared: float
    dof: float
    n: int
    left_out: tuple[int, ...] = ()

    def at(self, day: float) -> float:
        """The value on a day, in the unit of the series."""
        return self.level + (self.slope or 0.0) * (day - self.t0)

    def variance(self, day: float) -> float:
        """Of the value on a day, in the square of its unit."""
        return self.var_level + (day - self.t0) ** 2 * self.var_slope

    @property
    def freedom(self) -> float:
        """Degrees of freedom of every quantile."""
        return PRIOR_DOF + self.dof

    @property
    def drifts(self) -> bool:
        """Whether the slope is more than chance explains, two-sided 95 percent."""
        return self.slope is not None and abs(self.slope) > t_quantile(0.975, self.freedom) * sqrt(self.var_slope)

    @property
    def drifts_one_sided(self) -> bool:
        """The same one-sided: from here on a day of leaving the limit is named."""
        return self.slope is not None and abs(self.slope) > t_quantile(0.95, self.freedom) * sqrt(self.var_slope)


def fit(values: Sequence[SeriesValue], tau: float, *, as_level: bool = False) -> Line:
    """The level or line of at least one value, robust by deletion. tau: how much it wanders on its own, one sigma.

    In the unit of the series. as_level: no line, however many there are.
    """
    kept = list(range(len(values)))
    most = max(1, len(values) // 5)
    while len(kept) >= DELETION_FROM and len(values) - len(kept) < most:
        outlier = _outlier([values[i] for i in kept], tau)
        if outlier is None:
            break
        del kept[outlier]
    line = _fitted([values[i] for i in kept], tau, as_level=as_level)
    left_out = tuple(i for i in range(len(values)) if i not in kept)
    return Line(
        line.t0,
        line.level,
        line.slope,
        var_level=line.var_level,
        var_slope=line.var_slope,
        f_squared=line.f_squared,
        dof=line.dof,
        n=line.n,
        left_out=left_out,
    )


def _fitted(values: Sequence[SeriesValue], tau: float, *, as_level: bool = False) -> Line:
    weights = [1.0 / (v.sigma**2 + tau**2) for v in values]
    total = fsum(weights)
    t0 = fsum(w * v.day for w, v in zip(weights, values, strict=True)) / total
    level = fsum(w * v.value for w, v in zip(weights, values, strict=True)) / total
    spread = fsum(w * (v.day - t0) ** 2 for w, v in zip(weights, values, strict=True))
    long = len(values) >= LINE_FROM and values[-1].day - values[0].day >= LINE_DAYS and spread > 0
    by_line = long and not as_level
    slope = fsum(w * (v.day - t0) * v.value for w, v in zip(weights, values, strict=True)) / spread if by_line else None
    squares = fsum(
        w * (v.value - level - (slope or 0.0) * (v.day - t0)) ** 2 for w, v in zip(weights, values, strict=True)
    )
    dof = len(values) - (2 if by_line else 1)
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + squares) / (PRIOR_DOF + dof))
    return Line(
        t0,
        level,
        slope,
        var_level=f2 / total,
        var_slope=f2 / spread if by_line else 0.0,
        f_squared=f2,
        dof=dof,
        n=len(values),
    )


def _outlier(values: Sequence[SeriesValue], tau: float) -> int | None:
    """The place of the largest outlier, by its deleted residual; None when chance explains all."""
    line = _fitted(values, tau)
    variances = [v.sigma**2 + tau**2 for v in values]
    total = fsum(1 / v for v in variances)
    spread = fsum((v.day - line.t0) ** 2 / var for v, var in zip(values, variances, strict=True))
    squares = fsum((v.value - line.at(v.day)) ** 2 / var for v, var in zip(values, variances, strict=True))
    worst, place = 0.0, None
    bound = t_quantile(1 - 0.01 / (2 * len(values)), PRIOR_DOF + line.dof - 1)
    for i, (value, var) in enumerate(zip(values, variances, strict=True)):
        hat = (1 / total + ((value.day - line.t0) ** 2 / spread if line.slope is not None else 0.0)) / var
        if hat >= 1 - 1e-9:
            continue
        residual = value.value - line.at(value.day)
        own = residual**2 / (var * (1 - hat))
        f2 = max(MIN_F_SQUARED, (PRIOR_DOF + squares - own) / (PRIOR_DOF + line.dof - 1))
        size = abs(residual) / sqrt(var * (1 - hat) * f2)
        if size > max(worst, bound):
            worst, place = size, i
    return place


def jumps_to(earlier: Sequence[SeriesValue], new: SeriesValue, tau: float) -> bool:
    """Whether a new value leaves what the earlier ones foretell: their line where it drifts, else their level.

    tau in the unit of the series.
    """
    if not earlier:
        return False
    line = fit(earlier, tau)
    if not line.drifts:
        line = _fitted([v for i, v in enumerate(earlier) if i not in line.left_out], tau, as_level=True)
    away = abs(new.value - line.at(new.day))
    bound = t_quantile(JUMP_PROBABILITY, line.freedom)
    return away > bound * sqrt(line.variance(new.day) + line.f_squared * (new.sigma**2 + tau**2))


@dataclass(frozen=True, slots=True)
class SeriesParts:
    """A series without known events, in the parts between its jumps; `isolated`: values that jumped and came back.

    `waiting`: whether the last value jumped and the next one has to decide.
    """

    parts: tuple[tuple[int, ...], ...]
    isolated: tuple[int, ...]
    waiting: bool


def parts_of(values: Sequence[SeriesValue], tau: float) -> SeriesParts:
    """Where values jumped: the one after a jump decides whether it was one. tau in the unit of the series."""
    parts: list[list[int]] = [[]]
    isolated: list[int] = []
    i, waiting = 0, False
    while i < len(values):
        held = [values[j] for j in parts[-1]]
        if not jumps_to(held, values[i], tau):
            parts[-1].append(i)
        elif i + 1 == len(values):
            waiting = True
            parts[-1].append(i)
        elif jumps_to(held, values[i + 1], tau):
            parts.append([i])
        else:
            isolated.append(i)
        i += 1
    return SeriesParts(tuple(tuple(part) for part in parts), tuple(isolated), waiting)


@dataclass(frozen=True, slots=True)
class Leaving:
    """When a drifting quantity leaves its limit, in days of the series: not before `early` with 95 percent confidence.

    `late` None: not certain that it ever does within five years.
    """

    early: float
    expected: float | None
    late: float | None


def leaving(line: Line, limit: float, today: float) -> Leaving | None:
    """When a line leaves its limit within five years; None where it does not drift, or not so far.

    limit in the unit of the series, today in its days.
    """
    if not line.drifts_one_sided:
        return None
    t = t_quantile(0.95, line.freedom)

    def upper(day: float) -> float:
        return abs(line.at(day)) + t * sqrt(line.variance(day))

    def lower(day: float) -> float:
        return abs(line.at(day)) - t * sqrt(line.variance(day))

    early = first_day(upper, limit, today)
    if early is None:
        return None
    return Leaving(early, first_day(lambda d: abs(line.at(d)), limit, today), first_day(lower, limit, today))


def first_day(size: Callable[[float], float], limit: float, today: float) -> float | None:
    """The first day from today on which a size reaches a limit, within five years: by weeks, then by halves.

    limit in the unit of the size, today in days.
    """
    if size(today) >= limit:
        return today
    day = today
    while day < today + HORIZON_DAYS:
        if size(day + WEEK) >= limit:
            low, high = day, day + WEEK
            for _ in range(8):
                middle = (low + high) / 2
                low, high = (low, middle) if size(middle) >= limit else (middle, high)
            return high
        day += WEEK
    return None


MIN_RANGE_K = 10.0
TEMPERATURE_FROM = 8
SEASON_FROM = 4
MAX_TOGETHER = 0.8


@dataclass(frozen=True, slots=True)
class Warmth:
    """How a quantity changes with temperature: `slope` in its unit per kelvin, one sigma of it; `together`: time and
    temperature cannot be separated here."""

    slope: float
    sigma: float
    freedom: float
    together: bool = False

    @property
    def significant(self) -> bool:
        """Whether chance does not explain it, two-sided 95 percent."""
        return not self.together and abs(self.slope) > t_quantile(0.975, self.freedom) * self.sigma


def season(values: Sequence[SeriesValue]) -> bool:
    """Return whether time and temperature changed together, so that a drift and a change with temperature look alike.

    At least four temperatures over 10 K or more, correlated with time by 0.8 or more.
    """
    known = [v for v in values if v.temperature_c is not None]
    degrees = [v.temperature_c or 0.0 for v in known]
    if len(known) < SEASON_FROM or max(degrees) - min(degrees) < MIN_RANGE_K:
        return False
    days = [v.day for v in known]
    return max(days) > min(days) and abs(correlation(days, degrees)) >= MAX_TOGETHER


def warmth(values: Sequence[SeriesValue], tau: float) -> Warmth | None:
    """The part that changes with temperature, beside a straight line in time; None where too little is known of it.

    tau in the unit of the series.
    """
    known = [v for v in values if v.temperature_c is not None]
    if len(known) < TEMPERATURE_FROM:
        return None
    degrees = [v.temperature_c or 0.0 for v in known]
    if max(degrees) - min(degrees) < MIN_RANGE_K:
        return None
    weights = [1.0 / (v.sigma**2 + tau**2) for v in known]
    total = fsum(weights)

    def centred(xs: Sequence[float]) -> list[float]:
        mean = fsum(w * x for w, x in zip(weights, xs, strict=True)) / total
        return [x - mean for x in xs]

    def product(xs: Sequence[float], ys: Sequence[float]) -> float:
        return fsum(w * x * y for w, x, y in zip(weights, xs, ys, strict=True))

    days, warm, found = centred([v.day for v in known]), centred(degrees), centred([v.value for v in known])
    dd, tt, dt = product(days, days), product(warm, warm), product(days, warm)
    if dd <= 0:
        return None
    together = abs(dt) / sqrt(dd * tt) >= MAX_TOGETHER
    determinant = dd * tt - dt**2
    if together or determinant <= 0:
        return Warmth(0.0, 0.0, PRIOR_DOF, together=True)
    g = (dd * product(warm, found) - dt * product(days, found)) / determinant
    b = (tt * product(days, found) - dt * product(warm, found)) / determinant
    squares = fsum(w * (x - b * d - g * k) ** 2 for w, x, d, k in zip(weights, found, days, warm, strict=True))
    dof = len(known) - 3
    f2 = max(MIN_F_SQUARED, (PRIOR_DOF + squares) / (PRIOR_DOF + dof))
    return Warmth(g, sqrt(f2 * dd / determinant), PRIOR_DOF + dof)
