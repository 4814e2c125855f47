"""A series says which results contradict each other, and leaves the odd one of three out of its line."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from naveta_core.history.series import SeriesCheck
from naveta_core.history.trend import Trend, trend_of

TODAY = datetime(2027, 3, 20, 8, tzinfo=UTC)


def check(day: int, value: float, grade: str = "use", against: str = "") -> SeriesCheck:
    at = datetime(2027, 3, 1, 8, tzinfo=UTC) + timedelta(days=day - 1)
    return SeriesCheck(str(day), at, value, 1.0, 10.0, grade=grade, against=against)


def trend(*checks: SeriesCheck, cuts: tuple[datetime, ...] = ()) -> Trend:
    found = trend_of(checks, cuts, TODAY, unit="arcsec", tau=1.0, rule_days=30)
    assert found is not None
    return found


BAD, GOOD = check(2, 24.0, "adjust"), check(3, 0.4, "repeat", "contradicts-record")


def test_nothing_contradicts_in_most_series() -> None:
    found = trend(check(1, 1.0), check(5, 2.0))
    assert (found.disputed, found.dispute) == ([], "")


def test_both_are_marked_until_a_third_run_decides() -> None:
    found = trend(check(1, 1.0), BAD, GOOD)
    assert found.disputed == ["2", "3"]
    assert found.jump == "", "what contradicts is not said to have jumped besides"
    assert found.dispute == "The results of 2 Mar 2027 and 3 Mar 2027 contradict each other: a third run decides."


def test_the_odd_one_counts_no_more() -> None:
    """Of 1.0″, 24.0″, 0.4″ and 0.6″ the second is the odd one: the level is that of 1.0 and 0.6, as the disputed run
    was graded to be repeated."""
    found = trend(check(1, 1.0), BAD, GOOD, check(4, 0.6, "use", "two-agree"))
    assert found.disputed == ["2"]
    assert found.dispute == "The result of 2 Mar 2027 is the odd one of three runs and does not count."
    assert found.n == 2
    assert found.line[0].value == pytest.approx(0.8)


def test_a_third_run_that_is_bad_leaves_the_good_one_out() -> None:
    found = trend(BAD, GOOD, check(4, 23.0, "adjust", "two-agree"))
    assert found.disputed == ["3"]
    assert "3 Mar 2027 is the odd one" in found.dispute
    assert found.n == 2


def test_an_event_ends_it() -> None:
    found = trend(BAD, GOOD, check(6, 1.0), cuts=(datetime(2027, 3, 5, tzinfo=UTC),))
    assert (found.disputed, found.dispute) == ([], "")
