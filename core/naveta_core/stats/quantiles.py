"""Quantiles of Student's t, of F and of chi-square, for any degrees of freedom, whole or not.

All follow from two functions: the regularised incomplete beta function I (Abramowitz and Stegun 26.5.8, 26.7.1 and
26.6.2) by its continued fraction, and the regularised incomplete gamma function P (6.5.29 and 6.5.31) by its series
or its continued fraction. P(t) = 1 - I_x(v/2, 1/2)/2 with x = v/(v + t^2); P(F) = I_y(m/2, n/2) with
y = mF/(mF + n); P(chi^2) = P(v/2, chi^2/2). Both are held against an independent library to 1e-12 in the tests.
Degrees of freedom are rounded to 0.01 (whole numbers from 100) before solving so that answers can be kept:
this moves t by less than 2e-4 at 3 degrees of freedom, and less above.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import lru_cache
from math import exp, lgamma, log, log1p, pi
from statistics import NormalDist

_LARGE_DOF = 100.0
_MAX_DOF = 300.0
"""F is almost constant from there on."""
_TOLERANCE = 1e-10
_MAX_STEPS = 80
_EPS = 1e-15
_TINY = 1e-300
_MAX_TERMS = 2000


# The same few uncertainties are asked for again and again: shown, judged, explained.
@lru_cache(maxsize=4096)
def t_quantile(probability: float, dof: float) -> float:
    """t with P(T <= t) = probability (above 0.5), for `dof` > 0."""
    if not 0.5 < probability < 1 or dof <= 0:
        raise ValueError(f"t quantile needs 0.5 < p < 1 and dof > 0, not p={probability}, dof={dof}")
    return _t(probability, _rounded(dof))


@lru_cache(maxsize=4096)
def f_quantile(probability: float, dof_over: float, dof_under: float) -> float:
    """F with P(X <= F) = probability, for both degrees of freedom > 0."""
    if not 0 < probability < 1 or dof_over <= 0 or dof_under <= 0:
        raise ValueError(f"F quantile needs 0 < p < 1 and dof > 0, not p={probability}, dof={dof_over}, {dof_under}")
    return _f(probability, min(_rounded(dof_over), _MAX_DOF), min(_rounded(dof_under), _MAX_DOF))


def chi2_quantile(probability: float, dof: float) -> float:
    """x with P(X <= x) = probability, for `dof` > 0."""
    if not 0 < probability < 1 or dof <= 0:
        raise ValueError(f"chi-square quantile needs 0 < p < 1 and dof > 0, not p={probability}, dof={dof}")
    return _chi2(probability, min(_rounded(dof), _MAX_DOF))


def incomplete_beta(a: float, b: float, x: float) -> float:
    """I_x(a, b), regularised, for a, b > 0 and 0 <= x <= 1. Plain numbers, no unit."""
    if x <= 0 or x >= 1:
        return 0.0 if x <= 0 else 1.0
    front = exp(lgamma(a + b) - lgamma(a) - lgamma(b) + a * log(x) + b * log1p(-x))
    # The fraction converges quickly on the side of the mean where the tail is; the other follows by symmetry.
    if x < (a + 1) / (a + b + 2):
        return front * _beta_fraction(a, b, x) / a
    return 1.0 - front * _beta_fraction(b, a, 1 - x) / b


def _beta_fraction(a: float, b: float, x: float) -> float:
    """The continued fraction of the incomplete beta function, by Lentz's method."""
    c, d = 1.0, 1.0 / _away_from_zero(1 - (a + b) * x / (a + 1))
    value = d
    for m in range(1, _MAX_TERMS):
        even = m * (b - m) * x / ((a + 2 * m - 1) * (a + 2 * m))
        d = 1.0 / _away_from_zero(1 + even * d)
        c = _away_from_zero(1 + even / c)
        value *= d * c
        odd = -(a + m) * (a + b + m) * x / ((a + 2 * m) * (a + 2 * m + 1))
        d = 1.0 / _away_from_zero(1 + odd * d)
        c = _away_from_zero(1 + odd / c)
        value *= d * c
        if abs(d * c - 1) < _EPS:
            break
    return value


def _away_from_zero(value: float) -> float:
    return value if abs(value) > _TINY else _TINY


def incomplete_gamma(a: float, x: float) -> float:
    """P(a, x), regularised and lower, for a > 0 and x >= 0. Plain numbers, no unit."""
    if x <= 0:
        return 0.0
    front = exp(a * log(x) - x - lgamma(a))
    return front * _gamma_series(a, x) if x < a + 1 else 1.0 - front * _gamma_fraction(a, x)


def _gamma_series(a: float, x: float) -> float:
    term = total = 1.0 / a
    for n in range(1, _MAX_TERMS):
        term *= x / (a + n)
        total += term
        if term < total * _EPS:
            break
    return total


def _gamma_fraction(a: float, x: float) -> float:
    b = x + 1 - a
    c, d = 1 / _TINY, 1 / b
    value = d
    for n in range(1, _MAX_TERMS):
        share = -n * (n - a)
        b += 2
        d = 1 / _away_from_zero(share * d + b)
        c = _away_from_zero(b + share / c)
        value *= d * c
        if abs(d * c - 1) < _EPS:
            break
    return value


def _rounded(dof: float) -> float:
    return round(dof, 2) if dof < 100 else float(round(dof))


def _t_density(t: float, v: float) -> float:
    return exp(lgamma((v + 1) / 2) - lgamma(v / 2) - log(v * pi) / 2 - (v + 1) / 2 * log1p(t * t / v))


@lru_cache(maxsize=4096)
def _t(probability: float, v: float) -> float:
    t = NormalDist().inv_cdf(probability)
    if v >= _LARGE_DOF:
        return _t_large(t, v)
    # The normal quantile lies below t's and the distribution is concave there: Newton climbs without overshooting.
    for _ in range(_MAX_STEPS):
        reached = 1 - incomplete_beta(v / 2, 0.5, v / (v + t * t)) / 2
        step = (probability - reached) / _t_density(t, v)
        t += step
        if abs(step) <= _TOLERANCE * t:
            break
    return t


def _t_large(z: float, v: float) -> float:
    """Expansion in 1/v about the normal quantile z (Abramowitz and Stegun 26.7.5); from v = 100 on good to 1e-6."""
    first = (z**3 + z) / 4
    second = (5 * z**5 + 16 * z**3 + 3 * z) / 96
    third = (3 * z**7 + 19 * z**5 + 17 * z**3 - 15 * z) / 384
    return z + first / v + second / v**2 + third / v**3


@lru_cache(maxsize=4096)
def _f(probability: float, m: float, n: float) -> float:
    def density(y: float) -> float:
        a, b = m / 2, n / 2
        return exp(lgamma(a + b) - lgamma(a) - lgamma(b) + (a - 1) * log(y) + (b - 1) * log1p(-y))

    # y is bounded where F is not: solve for it, then go back.
    y = _inverse(lambda x: incomplete_beta(m / 2, n / 2, x), density, probability, 0.0, 1.0)
    return n * y / (m * (1 - y))


@lru_cache(maxsize=1024)
def _chi2(probability: float, v: float) -> float:
    def density(x: float) -> float:
        return exp((v / 2 - 1) * log(x / 2) - x / 2 - lgamma(v / 2)) / 2

    most = v + 20.0 * (v + 10.0) ** 0.5
    return _inverse(lambda x: incomplete_gamma(v / 2, x / 2), density, probability, 0.0, most)


def _inverse(
    reached: Callable[[float], float],
    density: Callable[[float], float],
    probability: float,
    low: float,
    high: float,
) -> float:
    """Where a distribution reaches a probability: Newton's steps, halving the interval where one would leave it."""
    x = (low + high) / 2
    for _ in range(_MAX_STEPS):
        away = reached(x) - probability
        low, high = (low, x) if away > 0 else (x, high)
        slope = density(x)
        step = x - away / slope if slope > 0 else low
        new = step if low < step < high else (low + high) / 2
        if abs(new - x) <= _TOLERANCE * new * 1e-3:
            return new
        x = new
    return x
