"""Releases, clocks that ran ahead, skips, and that standing and due list give one answer."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta, timezone
from typing import ClassVar

import pytest

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Instrument
from naveta_core.errors import Refused
from naveta_core.history.due_list import DueEntry, due, due_entries
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.standing import checks_due, standing_of
from tests.amount import tries
from tests.core.histories import TODAY, histories


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
        # A compensator never looked at blocks like the two-peg test, a circular level does not.
        assert [entry.check for entry in due if entry.needed] == ["compensator-function", "two-peg"]
        assert [entry.check for entry in due if entry.state == "overdue"] == ["compensator-function", "two-peg"]
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
    assert all(entry.state == "overdue" for entry in due_entries(found, stood, today) if entry.needed)


class TestOverdue:
    """Overdue means that the instrument may not go out before the check, and nothing else."""

    LEVEL: ClassVar = Instrument(kind="level", reading="optical")

    def entries(self, records: list[CheckRecord], events: list[EventRecord]) -> tuple[str, dict[str, DueEntry]]:
        found = checks_due(self.LEVEL, records, events, today=TODAY)
        stood = standing_of(found, events, TODAY, "watch")
        return stood.state, {entry.check: entry for entry in due_entries(found, stood, TODAY)}

    def passed(self, check: str, days: int) -> CheckRecord:
        at = datetime(2027, 3, 2, 7, tzinfo=UTC) - timedelta(days=days)
        return CheckRecord(check, at, "use", proved_within_watch=True)

    def test_a_compensator_never_looked_at_holds_a_level_back(self) -> None:
        state, due = self.entries([self.passed("two-peg", 1)], [])
        assert (state, due["compensator-function"].state) == ("check-first", "overdue")
        assert due["compensator-function"].reasons[0].text == (
            "Never checked here: compensator first, about 8 minutes."
        )
        assert (due["circular-vial"].state, due["circular-vial"].needed) == ("due", False)
        assert due["circular-vial"].reasons[0].text == "Never checked here."

    def test_once_it_passed_it_lapses_without_holding(self) -> None:
        # Compensators hold 91 days by the default rule: this one lapsed nine days ago.
        state, due = self.entries([self.passed("two-peg", 1), self.passed("compensator-function", 100)], [])
        entry = due["compensator-function"]
        assert (state, entry.state, entry.needed, entry.due_on) == ("ready", "due", False, "2027-02-21")

    def test_a_knock_of_sixty_days_ago_is_overdue_since_then(self) -> None:
        knock = EventRecord("knock", datetime(2027, 1, 1, 9, tzinfo=UTC), "rail")
        records = [self.passed("two-peg", 80), self.passed("compensator-function", 92)]
        state, due = self.entries(records, [knock])
        assert (state, due["two-peg"].state, due["two-peg"].due_on) == ("check-first", "overdue", "2027-01-01")
        assert due["compensator-function"].state == "due"

    def test_a_bad_finding_of_a_check_that_never_comes_due_is_overdue_until_released(self) -> None:
        total = Instrument(kind="total-station", plummet="none")
        at = datetime(2027, 3, 1, 7, tzinfo=UTC)
        needed = ("circular-vial", "dual-axis-level", "plate-vial", "two-face", "direction-rounds")
        records = [CheckRecord(name, at, "use", proved_within_watch=True) for name in needed]
        bad = CheckRecord("direction-accuracy", at, "service", finding="Twice what is stated.")
        released = EventRecord("released", at + timedelta(hours=3), "Ines Calder: levelling only")

        def answers(events: list[EventRecord]) -> tuple[str, DueEntry]:
            found = checks_due(total, [*records, bad], events, today=TODAY)
            stood = standing_of(found, events, TODAY, "watch")
            entries = due_entries(found, stood, TODAY)
            return stood.state, next(entry for entry in entries if entry.check == "direction-accuracy")

        state, entry = answers([])
        assert (state, entry.state, entry.needed, entry.due_on) == ("hold", "overdue", True, "2027-03-01")
        state, entry = answers([released])
        assert (state, entry.state, entry.needed, entry.due_on) == ("ready-if", "fresh", False, None)


def test_a_skip_of_two_years_is_refused_by_the_command_too() -> None:
    event = {"event": "skipped", "check": "two-peg", "at": "2027-03-02T08:00:00+00:00", "until": "2029-03-02"}
    with pytest.raises(Refused) as refused:
        due({"today": "2027-03-02", "instrument": {"kind": "level"}, "events": [event]})
    assert refused.value.faults[0].path == "events[0].until"
    assert "60 days at most" in refused.value.faults[0].wanted
    due({"today": "2027-03-02", "instrument": {"kind": "level"}, "events": [{**event, "until": "2027-05-01"}]})


def test_standing_and_due_list_agree_in_five_thousand_random_histories() -> None:
    """Whatever was done and happened: what the standing waits for is what the due list says is overdue, and nothing is
    needed of an instrument that may go out."""
    for number, (instrument, records, events, planned) in enumerate(histories(30, tries(5000, 400))):
        found = checks_due(instrument, records, events, today=TODAY, planned=planned)
        stood = standing_of(found, events, TODAY, "watch")
        entries = {entry.check: entry for entry in due_entries(found, stood, TODAY)}
        for check in stood.checks:
            entry = entries[check.check]
            assert check.needed == entry.needed == (entry.state == "overdue"), (number, check, entry)
        if stood.state in ("ready", "ready-if"):
            assert not [entry for entry in entries.values() if entry.needed], number
