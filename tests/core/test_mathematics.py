"""Quantiles, least squares, pooling and the decision rule against independent calculation (numpy, scipy, by hand)."""

from __future__ import annotations

import mpmath
import numpy as np
import pytest
import scipy.stats as stats

from naveta_core.geometry import curvature_and_refraction_m
from naveta_core.stats.decision import Decision, Evidence, Limits, confirmed_by_record, decide, worst
from naveta_core.stats.estimate import Estimate, Spread, pooled, scatter_factor
from naveta_core.stats.least_squares import fit
from naveta_core.stats.noise import learned_noise, staff_spread
from naveta_core.stats.outliers import find_outlier, likely_slip
from naveta_core.stats.quantiles import chi2_quantile, f_quantile, incomplete_beta, incomplete_gamma, t_quantile

LEVEL = Limits(10, 20, 120, "test")


@pytest.mark.parametrize("dof", [1, 2, 3.5, 6, 7.55, 12, 30, 99.2, 400])
@pytest.mark.parametrize("p", [0.95, 0.975, 0.995, 0.9999])
def test_t_quantiles(p: float, dof: float) -> None:
    assert t_quantile(p, dof) == pytest.approx(stats.t.ppf(p, dof), rel=2e-6)


@pytest.mark.parametrize(("m", "n"), [(1, 6), (2, 7.5), (4, 2), (10, 30)])
def test_f_quantiles(m: float, n: float) -> None:
    for p in (0.5, 0.95, 0.99):
        assert f_quantile(p, m, n) == pytest.approx(stats.f.ppf(p, m, n), rel=1e-5)


def test_chi_square_quantiles() -> None:
    for dof in (0.5, 1, 3.3, 12, 60, 290):
        for p in (0.001, 0.05, 0.5, 0.95, 0.999):
            assert chi2_quantile(p, dof) == pytest.approx(stats.chi2.ppf(p, dof), rel=1e-9)


def test_the_incomplete_functions_against_a_library_of_any_precision() -> None:
    for a in (0.25, 0.5, 1.0, 3.7, 25.0, 150.0):
        for b in (0.5, 1.0, 4.2, 80.0):
            for x in (1e-6, 0.02, 0.3, 0.5, 0.77, 0.98, 1 - 1e-9):
                wanted = float(mpmath.betainc(a, b, 0, x, regularized=True))
                assert incomplete_beta(a, b, x) == pytest.approx(wanted, rel=1e-11, abs=1e-13)
        for x in (1e-5, 0.3, 1.0, 7.0, 30.0, 160.0, 400.0):
            wanted = float(mpmath.gammainc(a, 0, x, regularized=True))
            assert incomplete_gamma(a, x) == pytest.approx(wanted, rel=1e-11, abs=1e-13)
    assert (incomplete_beta(2, 3, 0), incomplete_beta(2, 3, 1), incomplete_gamma(2, 0)) == (0, 1, 0)


@pytest.mark.parametrize("call", [lambda: t_quantile(0.4, 5), lambda: t_quantile(0.9, 0), lambda: f_quantile(1, 2, 3)])
def test_quantiles_refuse_what_has_none(call) -> None:
    with pytest.raises(ValueError, match="quantile needs"):
        call()


def test_fit_against_numpy() -> None:
    rng = np.random.default_rng(7)
    design = np.column_stack([np.ones(6), rng.uniform(-50, 50, 6), rng.normal(size=6)])
    observed = rng.normal(size=6)
    found = fit(design.tolist(), observed.tolist())
    x, *_ = np.linalg.lstsq(design, observed, rcond=None)
    assert found.unknowns == pytest.approx(x.tolist())
    assert found.residuals == pytest.approx((observed - design @ x).tolist())
    hat = design @ np.linalg.inv(design.T @ design) @ design.T
    assert found.leverage == pytest.approx(np.diag(hat).tolist())
    variances = rng.uniform(0.5, 2, 6)
    covariance = np.linalg.pinv(design) @ np.diag(variances) @ np.linalg.pinv(design).T
    assert found.variance(1, variances) == pytest.approx(covariance[1, 1])
    assert found.residual_square_scale(variances) == pytest.approx(np.trace((np.eye(6) - hat) @ np.diag(variances)))
    assert found.redundancy == 3


def test_a_singular_design_is_an_error_not_an_answer() -> None:
    with pytest.raises(ZeroDivisionError):
        fit([[1.0, 5.0], [1.0, 5.0]], [0.0, 1.0])


def test_pooling_by_hand() -> None:
    entry = pooled(1.0, 4.0, 1.0, Spread(12, 4))
    f2 = (6 + 12) / (6 + 4)
    assert entry.sigma == pytest.approx((f2 * 4 + 1) ** 0.5)
    assert entry.dof == pytest.approx((f2 * 4 + 1) ** 2 / ((f2 * 4) ** 2 / 10 + 1 / 6))
    assert pooled(1.0, 4.0, 1.0, Spread(0, 0)).dof == pytest.approx(25 / (16 / 6 + 1 / 6))
    assert pooled(0, 1, 0, Spread(0, 600)).sigma == pytest.approx(0.1**0.5)


def test_scatter_is_named_beyond_chance_only() -> None:
    critical = stats.f.ppf(0.99, 4, 6) * 4
    assert scatter_factor(Spread(critical * 0.98, 4)) is None
    assert scatter_factor(Spread(critical * 1.02, 4)) == pytest.approx((critical * 1.02 / 4) ** 0.5)
    assert scatter_factor(Spread()) is None


def test_noise_is_learned_from_three_tests_on() -> None:
    quiet = Spread(1.0, 4)
    assert learned_noise([quiet, quiet]) is None
    factor, dof = learned_noise([quiet] * 3)
    assert factor == pytest.approx(((6 + 3) / (6 + 12)) ** 0.5)
    assert dof == 12


@pytest.mark.parametrize(
    ("value", "sigma", "grade", "codes"),
    [
        (2.0, 1.0, "use", ()),
        (9.5, 1.0, "watch", ("near-limit",)),
        (5.0, 5.0, "watch", ("not-proved",)),
        (-14.0, 1.0, "watch", ("near-limit", "conditional")),
        (14.0, 4.0, "watch", ("not-proved", "conditional")),
        (24.0, 1.0, "adjust", ()),
        (-60.0, 5.0, "adjust", ()),
        (21.0, 9.0, "repeat", ("confirm",)),
        (150.0, 2.0, "service", ("beyond-adjusting",)),
    ],
)
def test_the_rule_line_by_line(value: float, sigma: float, grade: str, codes: tuple) -> None:
    assert decide(Estimate(value, sigma, 1e6), LEVEL) == Decision(grade, codes)


def test_without_adjusting_beyond_the_limit_is_service_or_repeat() -> None:
    fixed = Limits(6, 6, 6, "compensator", adjustable=False)
    assert decide(Estimate(12, 1, 1e6), fixed).grade == "service"
    assert decide(Estimate(7, 1, 1e6), fixed).grade == "repeat"


def test_a_vector_needs_more_to_stand_out() -> None:
    tight = Limits(1.0, 1.0, 5.0, "plummet")
    estimate = Estimate(1.1, 0.5, 1e6)
    assert decide(estimate, tight).grade == "adjust"
    assert decide(estimate, tight, vector=True).grade == "repeat"


def test_a_sure_adjust_shows_through_a_repeat() -> None:
    assert worst(["use", "repeat"]) == "repeat"
    assert worst(["repeat", "adjust", "watch"]) == "adjust"


def test_record_as_evidence() -> None:
    today, good = Estimate(3.0, 3.6, 20), Evidence(2.5, 1.5, 20)
    joined = confirmed_by_record(today, LEVEL, good)
    v0 = 1.5**2 + max(9 * 20 / 30.4375 / 3, 1.0)
    weight = (1 / 3.6**2, 1 / v0)
    assert joined.value == pytest.approx((3.0 * weight[0] + 2.5 * weight[1]) / sum(weight))
    assert joined.sigma == pytest.approx(sum(weight) ** -0.5)
    assert confirmed_by_record(Estimate(3, 6, 20), LEVEL, good) is None, "today must be fine enough itself"
    assert confirmed_by_record(today, LEVEL, Evidence(2.5, 1.5, 91)) is None
    assert confirmed_by_record(today, LEVEL, Evidence(2.5, 1.5, 20, 11)) is None
    assert confirmed_by_record(today, LEVEL, Evidence(-9.0, 1.5, 20)) is None, "a change beyond noise is no evidence"


def test_apart_reading_is_named_and_quiet_groups_are_left_alone() -> None:
    quiet = [[0.0, 0.4, -0.3, 0.2, 0.1], [5.0, 5.2, 4.9, 5.1, 5.0]]
    assert find_outlier(quiet) is None
    found = find_outlier([quiet[0], [5.0, 5.2, 17.0, 5.1, 5.0]])
    assert (found.group, found.index) == (1, 2)
    pair = find_outlier([[0.0, 30.0], [1.0]])
    assert pair.sole_pair
    assert find_outlier([[1.0], [], [2.0]]) is None


def test_false_alarms_stay_near_one_in_a_hundred() -> None:
    rng = np.random.default_rng(11)
    alarms = sum(find_outlier(rng.normal(size=(4, 4)).tolist()) is not None for _ in range(3000))
    assert alarms / 3000 < 0.02


@pytest.mark.parametrize(
    ("text", "expected", "meant"),
    [("1.4284", 1.4824, "1.4824"), ("1.7210", 1.2210, "1.2210"), ("1.5000", 1.7777, None)],
)
def test_slips_of_the_finger(text: str, expected: float, meant: str | None) -> None:
    assert likely_slip(text, expected, 0.0005) == meant


def test_priors_by_hand() -> None:
    optical = staff_spread(50)
    assert optical.within_mm == pytest.approx((0.3**2 + 0.5**2) ** 0.5)
    assert optical.between_mm == pytest.approx((0.1**2 + (0.7 / 206264.806 * 50000) ** 2) ** 0.5)
    assert staff_spread(30, class_mm_per_km=2).within_mm == pytest.approx(2 * 0.06**0.5)
    assert staff_spread(30, "digital", 0.3).within_mm == pytest.approx(0.3 * 0.06**0.5)
    assert staff_spread(1, "micrometer", 0.1).within_mm == 0.05
    assert staff_spread(30, own_within_mm=0.2).within_mm == 0.2
    assert curvature_and_refraction_m(100) == pytest.approx(0.87 * 1e4 / (2 * 6.371e6))
