"""Releases, clocks that ran ahead, skips, and that standing and due list give one answer."""

from __future__ import annotations

import random
from datetime import UTC, date, datetime, timedelta, timezone
from typing import ClassVar

import pytest

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Instrument
from naveta_core.errors import Refused
from naveta_core.history.due import Planned
from naveta_core.history.due_list import DueEntry, due, due_entries
from naveta_core.history.events import EVENT_KINDS
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.standing import checks_due, standing_of
from tests.amount import tries


class TestReleases:
    """A release answers what was on record then; what lapses later comes through."""

    LEVEL: ClassVar = Instrument(kind="level", reading="optical")
    AT: ClassVar = datetime(2027, 3, 1, 9, tzinfo=UTC)

    def both(self, day: date, *records: CheckRecord) -> tuple[str, list[DueEntry]]:
        drop = EventRecord("drop", self.AT)
        released = EventRecord("released", self.AT + timedelta(days=1), "Ines Calder: emergency")
        found = checks_due(self.LEVEL, records, [drop, released], today=day)
        stood = standing_of(found, [drop, released], day, "watch")
        return stood.state, due_entries(found, stood, day)

    def test_a_year_after_a_release_it_may_not_go_out(self) -> None:
        state, due = self.both(date(2028, 3, 1))
        assert state == "check-first"
        assert [entry.check for entry in due if entry.needed] == [
            entry.check for entry in due if entry.state == "overdue" and KINDS[entry.check].blocks_release
        ]
        two_peg = next(entry for entry in due if entry.check == "two-peg")
        # Two-peg tests hold 30 days: from the release on 2 March until 1 April.
        assert (two_peg.due_on, two_peg.needed) == ("2027-04-01", True)

    def test_the_day_after_it_is_free_and_nothing_is_needed(self) -> None:
        state, due = self.both(date(2027, 3, 3))
        assert state == "ready-if"
        assert not [entry for entry in due if entry.needed]
        assert next(entry for entry in due if entry.check == "two-peg").state == "fresh"

    def test_an_interval_that_lapses_after_the_release_comes_through(self) -> None:
        """Passed on 20 February, dropped and released in March: the pass lapses on 22 March, before the release does."""
        passed = CheckRecord("two-peg", datetime(2027, 2, 20, 7, tzinfo=UTC), "use")
        assert self.both(date(2027, 3, 22), passed)[0] == "ready-if"
        assert self.both(date(2027, 3, 23), passed)[0] == "check-first"


def test_what_happened_tomorrow_by_its_own_clock_has_happened() -> None:
    level, today = Instrument(kind="level"), date(2027, 3, 2)
    knock = EventRecord("knock", datetime(2027, 3, 3, 1, tzinfo=timezone(timedelta(hours=13))))
    passed = [CheckRecord(kind.name, datetime(2027, 3, 1, 7, tzinfo=UTC), "use") for kind in KINDS.values()]
    found = checks_due(level, passed, [knock], today=today)
    stood = standing_of(found, [knock], today, "watch")
    assert stood.state == "check-first"
    assert {entry.check for entry in due_entries(found, stood, today) if entry.needed} == {
        check.check for check in stood.checks if check.needed
    }
    assert all(entry.state == "due" for entry in due_entries(found, stood, today) if entry.needed)


def test_a_skip_of_two_years_is_refused_by_the_command_too() -> None:
    event = {"event": "skipped", "check": "two-peg", "at": "2027-03-02T08:00:00+00:00", "until": "2029-03-02"}
    with pytest.raises(Refused) as refused:
        due({"today": "2027-03-02", "instrument": {"kind": "level"}, "events": [event]})
    assert refused.value.faults[0].path == "events[0].until"
    assert "60 days at most" in refused.value.faults[0].wanted
    due({"today": "2027-03-02", "instrument": {"kind": "level"}, "events": [{**event, "until": "2027-05-01"}]})


def test_standing_and_due_list_agree_in_five_thousand_random_histories() -> None:
    """Whatever was done and happened: what the standing waits for is what the due list says is needed, its day has come,
    and nothing is needed of an instrument that may go out."""
    rng = random.Random(30)
    names = [event.name for event in EVENT_KINDS]
    for number in range(tries(5000, 400)):
        kind = rng.choice(["level", "total-station", "tripod", "staff", "tribrach", "robotic-total-station"])
        instrument = Instrument(kind=kind)
        today = date(2027, 3, 2)

        def moment() -> datetime:
            return datetime(2027, 3, 2, 12, tzinfo=UTC) - timedelta(
                hours=rng.choice((-9, 1, 30, 400, 2000, 9000)) * rng.random()
            )

        records = [
            CheckRecord(
                rng.choice(list(KINDS)), moment(), rng.choice(("use", "watch", "adjust", "service", "repeat")),
                stage=rng.choice(("as-found", "as-left")), codes=rng.choice(((), ("near-limit",), ("not-looked",))),
                temperature_c=rng.choice((None, 10.0, 28.0)),
            )
            for _ in range(rng.randint(0, 9))
        ]  # fmt: skip
        events = [
            EventRecord(
                rng.choice(names), moment(), "note", check=rng.choice(list(KINDS)), crew=rng.choice(("", "Bramble", "Fell")),
                until=today + timedelta(days=rng.randint(-5, 40)),
            )
            for _ in range(rng.randint(0, 7))
        ]  # fmt: skip
        planned = [Planned(today + timedelta(days=rng.randint(0, 12)), large=True)] if rng.random() < 0.3 else []
        found = checks_due(instrument, records, events, today=today, planned=planned)
        stood = standing_of(found, events, today, "watch")
        entries = {entry.check: entry for entry in due_entries(found, stood, today)}
        for check in stood.checks:
            entry = entries[check.check]
            assert check.needed == entry.needed, (number, check.check)
            gone_wrong = any(each.code in ("adjust", "service") for each in check.reasons)
            if check.needed and not gone_wrong:
                assert entry.state in ("due", "overdue"), (number, check, entry)
        if stood.state in ("ready", "ready-if"):
            assert not [entry for entry in entries.values() if entry.needed], number
