"""The load levelled over quiet mornings, and stays at service summed."""

from __future__ import annotations

import random
from datetime import date, timedelta

import pytest

from naveta_core.history.levelling import MAX_EARLY_DAYS, DueWork, by_week, levelled
from naveta_core.history.service import ServiceEvent, by_year, stays

TUESDAY = date(2027, 3, 2)


def work(tag: str, days: int, minutes: int = 15, crew: str = "Bramble", check: str = "two-peg") -> DueWork:
    return DueWork(tag, check, crew, TUESDAY + timedelta(days=days), minutes)


def test_three_levels_of_one_day_go_to_three_mornings_the_latest_first() -> None:
    """Due on Friday 12 March: they may be made from 2 March on; each goes to the latest free weekday."""
    found = levelled([work(f"LV-0{n}", 10) for n in (1, 2, 3)], TUESDAY, TUESDAY + timedelta(days=30), {}, ["Bramble"])
    assert [(m.day, [w.tag for w in m.work]) for m in found] == [
        (date(2027, 3, 10), ["LV-03"]),
        (date(2027, 3, 11), ["LV-02"]),
        (date(2027, 3, 12), ["LV-01"]),
    ]


def test_a_job_makes_its_days_loud_and_where_all_are_loud_the_check_is_made_all_the_same() -> None:
    jobs = {"Bramble": [(date(2027, 3, 8), date(2027, 3, 12))]}
    (morning,) = levelled([work("LV-01", 10)], TUESDAY, TUESDAY + timedelta(days=30), jobs, ["Bramble"])
    assert (morning.day, morning.quiet) == (date(2027, 3, 5), True)
    always = {"": [(TUESDAY, TUESDAY + timedelta(days=60))]}
    (morning,) = levelled([work("LV-01", 10)], TUESDAY, TUESDAY + timedelta(days=30), always, ["Bramble"])
    assert (morning.day, morning.quiet) == (date(2027, 3, 12), False)


def test_checks_of_one_instrument_stay_together_and_what_nobody_holds_goes_to_who_has_least() -> None:
    found = levelled(
        [
            work("TS-01", 8, 12, "", "two-face"),
            work("TS-01", 9, 8, "", "plummet"),
            work("LV-01", 8, 60),
        ],
        TUESDAY,
        TUESDAY + timedelta(days=20),
        {},
        ["Bramble", "Thrift"],
    )
    (station,) = [m for m in found if any(w.tag == "TS-01" for w in m.work)]
    assert [w.check for w in station.work] == ["two-face", "plummet"]
    assert station.day <= TUESDAY + timedelta(days=8), "before the first of them is due"


def test_what_is_overdue_is_made_on_the_first_mornings() -> None:
    found = levelled(
        [work(f"LV-0{n}", -n) for n in range(1, 5)], TUESDAY, TUESDAY + timedelta(days=10), {}, ["Bramble"]
    )
    assert {m.day for m in found} <= {date(2027, 3, 2), date(2027, 3, 3), date(2027, 3, 4)}
    assert max(len(m.work) for m in found) == 2


def test_what_is_due_today_is_made_today() -> None:
    """26 of 360 were planned for a later day: a busy today, and twelve of one day."""
    busy = {"Bramble": [(TUESDAY, TUESDAY)]}
    items = [work(f"LV-{n:02}", 0) for n in range(12)]
    for jobs in ({}, busy):
        found = levelled(items, TUESDAY, TUESDAY + timedelta(days=30), jobs, ["Bramble"])
        assert [(m.day, len(m.work)) for m in found] == [(TUESDAY, 12)]
    saturday = TUESDAY + timedelta(days=4)
    (morning,) = levelled([work("LV-01", 4)], saturday, saturday + timedelta(days=9), {}, ["Bramble"])
    assert morning.day == saturday


@pytest.mark.parametrize("seed", range(60))
def test_nothing_is_lost_nothing_is_late_and_the_peak_is_no_higher(seed: int) -> None:
    dice = random.Random(seed)
    items = [
        work(f"LV-{n:02}", dice.randint(0, 30), dice.choice([4, 10, 15, 60]), dice.choice(["Bramble", "Thrift", ""]))
        for n in range(30)
    ]
    until = TUESDAY + timedelta(days=35)
    found = levelled(items, TUESDAY, until, {"Thrift": [(TUESDAY, TUESDAY + timedelta(days=5))]}, ["Bramble", "Thrift"])
    placed = [(w, m) for m in found for w in m.work]
    assert sorted(w.tag for w, _ in placed) == sorted(w.tag for w in items)
    for w, m in placed:
        on_time = m.day <= w.due_on
        assert on_time or not [
            d for d in range((w.due_on - TUESDAY).days + 1) if (TUESDAY + timedelta(d)).weekday() < 5
        ]
        assert (w.due_on - m.day).days <= MAX_EARLY_DAYS or not on_time
        assert m.crew == w.crew or w.crew == ""
        assert m.day.weekday() < 5
    on_their_day: dict[tuple[str, date], int] = {}
    for w in items:
        on_their_day[w.crew, w.due_on] = on_their_day.get((w.crew, w.due_on), 0) + w.minutes
    assert max(m.minutes for m in found) <= max(on_their_day.values()) + 60


def test_minutes_by_week() -> None:
    assert by_week([(date(2027, 3, 2), 10), (date(2027, 3, 7), 5), (date(2027, 3, 8), 1)]) == {
        date(2027, 3, 1): 15,
        date(2027, 3, 8): 1,
    }


def test_stays_and_what_they_cost() -> None:
    """Away from 1 to 11 February, 10 days; a coming back nobody sent counts no days; one is still away."""
    events = [
        ServiceEvent("LV-01", "Merrow", True, day=date(2027, 2, 1)),
        ServiceEvent("LV-01", "Merrow", True, day=date(2027, 2, 3)),
        ServiceEvent("LV-01", "Merrow", False, day=date(2027, 2, 11), cost=180.0, days_cost=50.0),
        ServiceEvent("LV-02", "Merrow", False, day=date(2027, 3, 1), cost=120.5),
        ServiceEvent("TS-01", "Tessaly", True, day=date(2027, 2, 25)),
        ServiceEvent("LV-02", "Merrow", False, day=date(2026, 5, 1), cost=99.0),
    ]
    found = stays(events)
    assert [(s.tag, s.days(TUESDAY)) for s in found] == [("LV-01", 10), ("LV-02", 0), ("LV-02", 0), ("TS-01", 5)]
    years = by_year(found, TUESDAY)
    assert [(y.year, y.model, y.services, y.days, y.cost, y.days_cost) for y in years] == [
        (2027, "Merrow", 2, 10, 300.5, 50.0),
        (2026, "Merrow", 1, 0, 99.0, 0.0),
    ]
