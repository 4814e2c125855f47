"""The rates of what a series says, against simulated series whose truth is known."""

from __future__ import annotations

import random
from math import sqrt

from naveta_core.history.drift import SeriesValue, fit, jumps_to, leaving
from naveta_core.history.pooling import ModelSeries, model_series_of, pool_of, pooled
from naveta_core.stats.quantiles import t_quantile

from .crews import Rng
from .rates import Rate, Sample

TAU = 1.0
NOISE = 2.0
YEAR = 365.25


def series(
    dice: random.Random, n: int, *, slope: float = 0.0, level: float = 0.0, every: float = 30.0, sigma: float = NOISE
) -> list[SeriesValue]:
    """Checks every so many days; slope a year; each off by its own noise and what the quantity wanders."""
    days = [i * every + dice.uniform(-5, 5) for i in range(n)]
    return [
        SeriesValue(day, level + slope * day / YEAR + dice.gauss(0, sigma) + dice.gauss(0, TAU), sigma) for day in days
    ]


def fleet(dice: random.Random, n: int = 20, differ: float = 2.0) -> list[ModelSeries]:
    """Others of one model: slopes of 4 seconds a year, `differ` from each other, fourteen checks each."""
    lines = (fit(series(dice, 14, slope=dice.gauss(4.0, differ)), TAU) for _ in range(n))
    return [other for line in lines if (other := model_series_of(line)) is not None]


def _dice(rng: Rng) -> random.Random:
    return random.Random(int(rng.integers(2**31)))


def _jump(n: int, by: float) -> Sample:
    def once(rng: Rng) -> bool:
        *before, last = series(_dice(rng), n + 1)
        return jumps_to(before, SeriesValue(last.day, last.value + by, last.sigma), TAU)

    return once


def _slope(n: int) -> Sample:
    def once(rng: Rng) -> bool:
        dice = _dice(rng)
        slope = dice.uniform(-12, 12)
        line = fit(series(dice, n, slope=slope), TAU)
        assert line.slope is not None
        return abs(line.slope - slope / YEAR) <= t_quantile(0.975, line.freedom) * sqrt(line.var_slope)

    return once


def _drifts(slope: float) -> Sample:
    return lambda rng: fit(series(_dice(rng), 12, slope=slope), TAU).drifts


def _day(rng: Rng) -> bool:
    """Truth: 10 seconds at 8 a year from 0, after 456 days; ten checks in 270 days. No day named counts as right."""
    found = leaving(fit(series(_dice(rng), 10, slope=8.0), TAU), 10.0, 275.0)
    return found is None or found.early <= 10 / 8 * YEAR <= (found.late or 1e9)


def _together(rng: Rng) -> bool:
    dice = _dice(rng)
    pool, slope = pool_of(fleet(dice, 8)), dice.gauss(4.0, 2.0)
    line = pooled(fit(series(dice, 7, slope=slope), TAU), pool)
    assert line.slope is not None
    return abs(line.slope - slope / YEAR) <= t_quantile(0.975, line.freedom) * sqrt(line.var_slope)


def _among_still(n: int, own: float) -> Sample:
    """Four others of its model that keep still, eight checks each; its own slope is `own` a year."""

    def once(rng: Rng) -> bool:
        dice = _dice(rng)
        others = [found for _ in range(4) if (found := model_series_of(fit(series(dice, 8), TAU)))]
        line = pooled(fit(series(dice, n, slope=own), TAU), pool_of(others))
        assert line.slope is not None
        return abs(line.slope - own / YEAR) <= t_quantile(0.975, line.freedom) * sqrt(line.var_slope)

    return once


SERIES_RATES = (
    *(Rate(f"series: chance called a jump, {n} checks", 0.0, 0.02, _jump(n, 0.0), 1000) for n in (3, 6, 12)),
    *(
        Rate(f'series: a jump of 10" found, {n} checks', least, 1.0, _jump(n, 10.0))
        for n, least in ((3, 0.40), (5, 0.60), (8, 0.68), (12, 0.72))
    ),
    *(Rate(f"series: the slope inside its interval, {n} checks", 0.92, 0.99, _slope(n)) for n in (8, 12, 16)),
    Rate("series: no drift called drift, 12 checks", 0.0, 0.08, _drifts(0.0)),
    Rate('series: a drift of 12" a year seen, 12 checks', 0.80, 1.0, _drifts(12.0)),
    Rate("series: the day it leaves its limit inside its interval", 0.87, 1.0, _day),
    Rate("series: the slope inside, with eight others of its model, 7 checks", 0.93, 1.0, _together),
    *(Rate(f"series: still among four still ones, {n} checks", 0.93, 1.0, _among_still(n, 0.0)) for n in (7, 12)),
    *(
        Rate(f'series: {own:g}" a year among four still ones, {n} checks', 0.85, 1.0, _among_still(n, own), 1000)
        for own in (8.0, 15.0)
        for n in (8, 12)
    ),
)
