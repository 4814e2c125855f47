"""Series against simulated ones whose truth is known; the rates of alarms and the coverage of slopes and dates are in
attack/series.py."""

from __future__ import annotations

import random
from datetime import UTC, datetime, timedelta
from math import sqrt
from typing import ClassVar

import pytest

from naveta_core.history.drift import SeriesValue, fit, parts_of, warmth
from naveta_core.history.earned import earned_interval
from naveta_core.history.pooling import conflicts, model_series_of, pool_of, pooled
from naveta_core.history.series import SeriesCheck
from naveta_core.history.trend import Trend, trend_of
from naveta_core.stats.quantiles import t_quantile

from .attack.series import NOISE, TAU, fleet, series

SPREAD = sqrt(NOISE**2 + TAU**2)


def share(found: list[bool]) -> float:
    return sum(found) / len(found)


def test_a_level_by_hand() -> None:
    """Values 1, 2, 3 with v = 5 each: level 2, Σw r² = 2/5, f² = (4 + 0.4)/(4 + 2) = 0.7333, variance f²·5/3."""
    line = fit([SeriesValue(10.0 * i, float(i), 2.0) for i in (1, 2, 3)], 1.0)
    assert (line.level, line.slope, line.n) == (2.0, None, 3)
    assert line.f_squared == pytest.approx(4.4 / 6)
    assert line.variance(99.0) == pytest.approx(4.4 / 6 * 5 / 3)
    assert not line.drifts


def test_a_line_by_hand() -> None:
    """0, 1, 2, 3, 4, 5 every 30 days: a slope of 1/30 a day without residuals, f² = 4/(4 + 4), var b = f²·5/15 750."""
    line = fit([SeriesValue(30.0 * i, float(i), 2.0) for i in range(6)], 1.0)
    assert line.slope == pytest.approx(1 / 30)
    assert line.var_slope == pytest.approx(0.5 * 5 / 15_750)
    assert line.at(300.0) == pytest.approx(10.0)
    assert line.drifts


def test_one_value_far_off_is_left_out_and_no_other_series() -> None:
    values = [SeriesValue(30.0 * i, 0.1 * (-1) ** i, 1.0) for i in range(8)]
    values[3] = SeriesValue(90.0, 30.0, 1.0)
    assert fit(values, TAU).left_out == (3,)


def test_the_next_value_decides_whether_it_jumped() -> None:
    dice = random.Random(3)
    row = series(dice, 12, sigma=1.0)
    gone = [SeriesValue(v.day, v.value + (20.0 if i >= 7 else 0.0), v.sigma) for i, v in enumerate(row)]
    cut = parts_of(gone, TAU)
    assert [part[0] for part in cut.parts] == [0, 7]
    assert not cut.waiting
    back = [SeriesValue(v.day, v.value + (20.0 if i == 7 else 0.0), v.sigma) for i, v in enumerate(row)]
    assert parts_of(back, TAU).isolated == (7,)
    assert len(parts_of(back, TAU).parts) == 1
    last = [SeriesValue(v.day, v.value + (20.0 if i == 11 else 0.0), v.sigma) for i, v in enumerate(row)]
    assert parts_of(last, TAU).waiting


def test_what_goes_with_temperature_is_told_from_time_or_said_not_to_be() -> None:
    dice = random.Random(6)
    by_warmth = [
        SeriesValue(30.0 * i, 0.4 * c + dice.gauss(0, 1), 1.0, c)
        for i, c in enumerate([2, 20, 5, 25, 8, 18, 0, 22, 12, 4])
    ]
    found = warmth(by_warmth, 0.5)
    assert found is not None
    assert found.significant
    assert found.slope == pytest.approx(0.4, abs=2.6 * found.sigma)
    rising = [SeriesValue(30.0 * i, 0.4 * i, 1.0, 2.0 * i) for i in range(10)]
    together = warmth(rising, 0.5)
    assert together is not None
    assert together.together
    assert not together.significant
    assert warmth(by_warmth[:6], 0.5) is None


class TestPooling:
    """Forty levels of one model: slopes N(4″, 2″ a year), one check a month; the one looked at has seven."""

    def test_the_interval_is_narrower_at_the_same_coverage(self) -> None:
        dice = random.Random(7)
        alone, together, ratio = [], [], []
        for _ in range(250):
            pool = pool_of(fleet(dice, 8))
            slope = dice.gauss(4.0, 2.0)
            line = fit(series(dice, 7, slope=slope), TAU)
            shared = pooled(line, pool)
            assert line.slope is not None
            assert shared.slope is not None
            u, v = (t_quantile(0.975, one.freedom) * sqrt(one.var_slope) for one in (line, shared))
            alone.append(abs(line.slope - slope / 365.25) <= u)
            together.append(abs(shared.slope - slope / 365.25) <= v)
            ratio.append(v / u)
        assert share(alone) >= 0.92
        assert share(together) >= 0.91
        assert sum(ratio) / len(ratio) <= 0.75

    def test_the_others_say_how_they_drift_and_how_much_they_differ(self) -> None:
        pool = pool_of(fleet(random.Random(8)))
        assert pool is not None
        assert pool.mean * 365.25 == pytest.approx(4.0, abs=1.5)
        assert sqrt(pool.between) * 365.25 == pytest.approx(2.0, abs=1.3)

    def test_without_a_line_of_its_own_it_gets_no_drift_of_the_others(self) -> None:
        """Two, and five checks: their scatter is shared, their drift and with it a day are not."""
        dice = random.Random(8)
        pool = pool_of(fleet(dice))
        assert pool is not None
        for n in (2, 5):
            own = fit(series(dice, n, slope=4.0), TAU)
            shared = pooled(own, pool)
            assert (shared.slope, shared.level) == (None, own.level)
            assert shared.dof > own.dof

    def test_one_that_drifts_unlike_the_others_is_left_alone(self) -> None:
        """15″ a year on a straight line over eight checks, four still others: "No drift seen; up to 2.0″" it was."""
        others = [fit([SeriesValue(30.0 * i, 0.3 * (-1) ** i, 2.0) for i in range(8)], TAU) for _ in range(4)]
        pool = pool_of([found for line in others if (found := model_series_of(line))])
        assert pool is not None
        ill = fit([SeriesValue(30.0 * i, 15.0 * 30.0 * i / 365.25, 2.0) for i in range(8)], TAU)
        assert conflicts(ill, pool)
        assert pooled(ill, pool) is ill
        assert ill.drifts
        still = fit([SeriesValue(30.0 * i, 0.2, 2.0) for i in range(8)], TAU)
        assert not conflicts(still, pool)
        assert pooled(still, pool).var_slope < still.var_slope

    def test_alike_ones_say_more_and_two_say_nothing(self) -> None:
        dice = random.Random(9)
        alike, unlike = pool_of(fleet(dice, 20, 0.0)), pool_of(fleet(dice, 20, 20.0))
        assert alike is not None
        assert unlike is not None
        assert alike.between < unlike.between / 10
        assert pool_of(fleet(dice, 2)) is None
        line = fit(series(dice, 7), TAU)
        assert pooled(line, None) is line


class TestEarned:
    def test_a_still_one_earns_longer_and_a_drifting_one_shorter(self) -> None:
        still = fit([SeriesValue(30.0 * i, 0.2, 0.5) for i in range(10)], 0.2)
        longer = earned_interval(still, 10.0, 30, last=270.0, wander=0.0)
        assert (longer.days, longer.code) == (90, "longer")
        fast = fit([SeriesValue(30.0 * i, 1.0 * i, 0.5) for i in range(9)], 0.2)
        shorter = earned_interval(fast, 10.0, 90, last=240.0, wander=0.0)
        assert shorter.code == "shorter"
        assert 22 <= shorter.days < 60, "at 1″ a month and 8″ today, 10″ is two months away at the most"

    def test_wandering_alone_ends_it(self) -> None:
        """Level 0, almost no spread: t·wander·√d = L, so d = (10/(1.86·0.5))²."""
        still = fit([SeriesValue(30.0 * i, 0.0, 0.01) for i in range(5)], 0.0)
        found = earned_interval(still, 10.0, 90, last=120.0, wander=0.5)
        t = t_quantile(0.95, still.freedom)
        assert found.days == pytest.approx((10 / (t * 0.5)) ** 2, abs=2)

    def test_few_checks_earn_nothing(self) -> None:
        young = fit([SeriesValue(0.0, 0.0, 0.5)], 0.2)
        assert (
            earned_interval(young, 10.0, 30, last=0.0, wander=0.0).code,
            earned_interval(young, 10.0, 30, last=0.0, wander=0.0).days,
        ) == (
            "rule",
            30,
        )


class TestWhatATrendMaySay:
    """Nothing is earned without a line, nothing that is so already is put into the future, no season taken for a drift."""

    FIRST: ClassVar = datetime(2026, 1, 10, 7, tzinfo=UTC)

    def trend(
        self, rows: list[tuple[float, float]], *, warm: list[float] | None = None, sigma: float = 0.5, rule: int = 60
    ) -> Trend:
        """rows: (day, value), limit 10″, looked at on the last day."""
        checks = [
            SeriesCheck(
                str(i), self.FIRST + timedelta(days=day), value, sigma, 10.0, temperature_c=warm[i] if warm else None
            )
            for i, (day, value) in enumerate(rows)
        ]
        found = trend_of(checks, [], checks[-1].at, unit="arcsec", tau=1.0, rule_days=rule)
        assert found is not None
        return found

    def test_five_checks_that_climb_earn_no_more_than_the_rule(self) -> None:
        """1.5″ to 9.5″ a month apart, limit 10: it leaves in eight days, and was given 47."""
        found = self.trend([(30.0 * i, 1.5 + 2.0 * i) for i in range(5)], sigma=2.0, rule=30)
        assert found.earned_days <= 30

    def test_six_checks_of_one_day_earn_no_more_than_the_rule(self) -> None:
        found = self.trend([(i / 24, 0.2) for i in range(6)])
        assert (found.earned_days, found.earned_code) == (60, "as-rule")

    def test_six_over_three_months_may(self) -> None:
        assert self.trend([(30.0 * i, 0.2) for i in range(6)]).earned_code == "longer"

    def test_beyond_already_is_said_as_it_is(self) -> None:
        found = self.trend(
            [(20.0 * i, value) for i, value in enumerate((12.0, 12.4, 12.8, 12.2, 12.9, 13.0, 12.7, 13.2))]
        )
        assert found.earned_code == "beyond"
        assert found.earned.startswith("By its checks it is beyond its limit already")
        assert "After" not in found.earned

    def test_a_drift_that_has_left_the_limit_names_no_day(self) -> None:
        found = self.trend([(30.0 * i, 3.0 + 1.2 * i) for i in range(9)], sigma=0.2)
        assert found.drifting
        assert found.leaves == "It is beyond its limit already."

    def test_what_may_be_beyond_already_says_so_once_with_the_day_it_leaves(self) -> None:
        found = self.trend([(30.0 * i, 1.2 + 1.05 * i) for i in range(9)], sigma=2.0)
        assert found.leaves.startswith("It may be beyond its limit already, and leaves it about ")
        assert found.earned == "Check it sooner than the 60 days of the rule."

    def test_winter_to_summer_is_no_drift(self) -> None:
        """0.29″ per °C from 0 to 25 °C within half a year: 18″ a year by its line, and by the calendar nothing."""
        warm = [0.0, 5.0, 10.0, 15.0, 20.0, 25.0, 25.0]
        found = self.trend([(30.0 * i, 0.29 * degrees) for i, degrees in enumerate(warm)], warm=warm, sigma=0.2)
        assert not found.drifting
        assert (found.slope_per_year, found.leaves, found.expected) == (None, "", None)
        assert "a drift cannot be separated from the season" in found.text

    def test_a_whole_year_tells_them_apart(self) -> None:
        warm = [5.0, 12.0, 20.0, 25.0, 20.0, 12.0, 5.0, 12.0, 20.0]
        found = self.trend([(40.0 * i, 1.2 * i) for i in range(9)], warm=warm, sigma=0.2)
        assert found.drifting
