"""Checks that come due before a job, and the end of the job."""

from __future__ import annotations

from datetime import timedelta

import pytest

from naveta_core.errors import Refused

from .test_due import TODAY, asked, entry, passed

JOBS = [
    # days since the pass, days until the job, large, state
    (20, 3, True, "soon"),
    (20, 9, True, "fresh"),
    (20, 1, True, "due"),
    (20, 0, True, "overdue"),
    (4, 3, True, "fresh"),
    (5, 3, True, "soon"),
    (20, 3, False, "fresh"),
]


@pytest.mark.parametrize(("since", "until", "large", "state"), JOBS)
def test_before_a_large_job_a_pass_of_the_week_before_it(since: int, until: int, large: bool, state: str) -> None:
    job = {"job_start": (TODAY + timedelta(days=until)).isoformat(), "large": large, "name": "flood wall line"}
    found = entry(asked("total-station", [passed("two-face", since)], planned=[job]), "two-face")
    assert found["state"] == state
    if state != "fresh":
        assert found["due_on"] == (TODAY + timedelta(days=until - 1)).isoformat()
        assert "flood wall line" in found["reasons"][0]["text"]
    assert entry(asked("total-station", [passed("plummet", since)], planned=[job]), "plummet")["state"] == "fresh"


@pytest.mark.parametrize(
    ("first", "last", "state"), [(-10, 2, "overdue"), (-10, 0, "overdue"), (-10, -1, "fresh"), (-10, None, "fresh")]
)
def test_a_large_job_is_over_with_its_last_day(first: int, last: int | None, state: str) -> None:
    job = {"job_start": (TODAY + timedelta(days=first)).isoformat(), "large": True}
    if last is not None:
        job["job_end"] = (TODAY + timedelta(days=last)).isoformat()
    found = entry(asked("total-station", [passed("two-face", 20)], planned=[job]), "two-face")
    assert found["state"] == state


def test_a_job_that_ends_before_it_begins_is_refused() -> None:
    with pytest.raises(Refused) as refused:
        asked("level", [], planned=[{"job_start": "2027-03-08", "job_end": "2027-03-07"}])
    assert [(fault.path, fault.wanted) for fault in refused.value.faults] == [
        ("planned[0].job_end", "a day from 8 Mar 2027 on")
    ]
