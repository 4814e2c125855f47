"""Standing of a level through knocks, failed and passed checks, and time."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, date, datetime
from typing import Any

import pytest

from naveta_core.history.facts import CheckRecord, EventRecord, clears
from naveta_core.history.impact import impact_review
from naveta_core.history.standing import summary
from tests.core import plain

TODAY = date(2027, 3, 2)
LEVEL = {"kind": "level"}


def standing(
    instrument: dict[str, Any], records: Sequence[CheckRecord], events: Sequence[EventRecord], today: date, **more: Any
) -> Any:
    """Of a level whose compensator passed in January, so that its two-peg test alone decides."""
    seen = CheckRecord("compensator-function", at(2, 1), "use")
    return plain.standing(instrument, [seen, *records], events, today, **more)


def at(day: int, month: int = 2, hour: int = 7, year: int = 2027) -> datetime:
    return datetime(year, month, day, hour, 10, tzinfo=UTC)


def test_never_checked_is_check_first() -> None:
    entry = standing(LEVEL, [], [], TODAY)
    assert entry.state == "check-first"
    assert entry.reasons[0].code == "never-passed"


def test_passed_and_fresh_is_ready() -> None:
    entry = standing(LEVEL, [CheckRecord("two-peg", at(20), "use", finding="No error found.")], [], TODAY)
    assert entry.state == "ready"
    assert "20 Feb 2027" in entry.reasons[0].text
    assert entry.checks[0].due_on == "2027-03-22"


def test_due_within_a_week_is_said() -> None:
    entry = standing(LEVEL, [CheckRecord("two-peg", at(5), "use")], [], TODAY)
    assert [reason.code for reason in entry.reasons] == ["passed", "due-soon"]


@pytest.mark.parametrize(("day", "state"), [(31, "ready"), (30, "check-first")])
def test_older_than_its_month_is_check_first(day: int, state: str) -> None:
    assert standing(LEVEL, [CheckRecord("two-peg", at(day, 1), "use")], [], TODAY).state == state


def test_a_conditional_watch_is_ready_if_with_its_condition() -> None:
    entry = standing(LEVEL, [CheckRecord("two-peg", at(20), "watch", codes=("near-limit",))], [], TODAY)
    assert entry.state == "ready-if"
    assert "equal" in entry.reasons[0].text


def test_a_knock_after_the_pass_asks_for_a_check_and_a_drop_holds() -> None:
    passed = CheckRecord("two-peg", at(20), "use")
    knocked = standing(LEVEL, [passed], [EventRecord("knock", at(1, 3, 14), "against the rail")], TODAY)
    assert knocked.state == "check-first"
    assert knocked.reasons[0].text == "Knocked on 1 Mar 2027 at 14:10: against the rail"
    assert standing(LEVEL, [passed], [EventRecord("drop", at(1, 3))], TODAY).state == "hold"
    assert standing(LEVEL, [passed], [EventRecord("knock", at(19))], TODAY).state == "ready", (
        "before the pass it is answered"
    )


def test_a_bad_check_holds_until_a_later_one_passes() -> None:
    bad = CheckRecord("two-peg", at(1, 3), "adjust", finding="Line of sight 24″ up.")
    assert standing(LEVEL, [CheckRecord("two-peg", at(20), "use"), bad], [], TODAY).state == "hold"
    left = CheckRecord("two-peg", at(1, 3, 9), "use", stage="as-left")
    assert standing(LEVEL, [bad, left], [], TODAY).state == "ready"


def test_a_repeat_after_a_pass_is_no_pass() -> None:
    entry = standing(
        LEVEL, [CheckRecord("two-peg", at(20), "use"), CheckRecord("two-peg", at(1, 3), "repeat")], [], TODAY
    )
    assert (entry.state, entry.reasons[0].code) == ("check-first", "last-not-passed")


@pytest.mark.parametrize(
    ("done", "expected"),
    [
        (CheckRecord("two-peg", at(1), "use"), True),
        (CheckRecord("two-peg", at(1), "watch", codes=("near-limit",)), True),
        (CheckRecord("two-peg", at(1), "watch", codes=("not-proved",)), False),
        (CheckRecord("two-peg", at(1), "watch", codes=("not-proved",), proved_within_watch=True), True),
        (CheckRecord("two-peg", at(1), "watch", stage="as-left", codes=("near-limit", "conditional")), False),
        (CheckRecord("two-peg", at(1), "watch", stage="as-left", codes=("near-limit",)), True),
        (CheckRecord("two-peg", at(1), "adjust"), False),
    ],
)
def test_what_clears_a_due_check(done: CheckRecord, expected: bool) -> None:
    assert clears(done) is expected


def test_a_kind_without_any_check_says_so() -> None:
    entry = standing({"kind": "prism"}, [], [], TODAY)
    assert (entry.state, entry.reasons[0].code) == ("ready-if", "no-check")
    assert entry.plain().get("checks", []) == []


def test_a_manager_may_release_a_hold_with_a_reason_that_shows() -> None:
    drop, released = (
        EventRecord("drop", at(1, 3)),
        EventRecord("released", at(1, 3, 9), "Ines Calder: spare only, rough grading"),
    )
    entry = standing(LEVEL, [], [drop, released], TODAY)
    assert entry.state == "ready-if"
    assert "spare only" in entry.reasons[0].text
    again = EventRecord("knock", at(1, 3, 12))
    assert standing(LEVEL, [], [drop, released, again], TODAY).state == "hold", "a later knock ends the release"
    bad = CheckRecord("two-peg", at(1, 3, 11), "adjust")
    assert standing(LEVEL, [bad], [drop, released], TODAY).state == "hold", "so does a later bad check"


def test_held_back_by_hand_until_a_check_passes() -> None:
    held = EventRecord("held", at(1, 3), "feels loose")
    assert standing(LEVEL, [CheckRecord("two-peg", at(20), "use")], [held], TODAY).state == "hold"
    assert standing(LEVEL, [CheckRecord("two-peg", at(2, 3), "use")], [held], TODAY).state == "ready"


def test_looking_back_counts_what_depends_on_a_bad_level() -> None:
    good, bad = CheckRecord("two-peg", at(9), "use"), CheckRecord("two-peg", at(2, 3), "adjust")
    events = [
        EventRecord("out", at(5)),
        EventRecord("out", at(10)),
        EventRecord("out", at(20)),
        EventRecord("knock", at(1, 3, 14)),
        EventRecord("out", at(3, 3)),
    ]
    found = impact_review(bad, [good, bad], events)
    assert found.taken_out == 2
    assert found.sentence() == "Last good on 9 Feb 2027; out then, and taken out two times since."
    assert "1 Mar 2027" in found.advice()[1].text


def test_looking_back_without_a_good_check_or_without_work() -> None:
    bad = CheckRecord("two-peg", at(2, 3), "adjust")
    assert "No good check" in impact_review(bad, [bad], []).sentence()
    assert impact_review(bad, [CheckRecord("two-peg", at(1), "use")], []).advice()[0].code == "not-in-use"
    unexplained = impact_review(bad, [CheckRecord("two-peg", at(1), "use")], [EventRecord("out", at(3))])
    assert "all work since" in unexplained.advice()[1].text


@pytest.mark.parametrize(
    ("counts", "text"),
    [
        ({}, "No instruments yet"),
        ({"ready": 3}, "All instruments are ready"),
        ({"ready": 3, "away": 1}, "Three instruments ready"),
        ({"hold": 1, "check-first": 2, "ready": 4}, "One instrument is on hold and two need a check first"),
        ({"check-first": 1}, "One instrument needs a check first"),
        ({"hold": 2}, "Two instruments are on hold"),
        ({"ready": 4, "ready-if": 1}, "All instruments are ready, one with a condition"),
    ],
)
def test_the_yard_in_a_sentence(counts: dict, text: str) -> None:
    assert summary(counts) == text


def test_the_yards_sentence_counts_the_minutes_of_what_waits() -> None:
    assert summary({"check-first": 2}, 27) == "Two instruments need a check first: 27 minutes"
    assert summary({"hold": 1}, 15) == "One instrument is on hold", "what is on hold is not checked before leaving"


class TestManyChecks:
    """A theodolite with a plate bubble and a plummet; its circular bubble is listed, and stops nothing by its absence."""

    THEODOLITE = {"kind": "theodolite", "plummet": "optical", "plunges": False}
    PASSED = (CheckRecord("plate-vial", at(25), "use"), CheckRecord("plummet", at(20, 1), "use"))

    def of(self, *done: CheckRecord, events: tuple[EventRecord, ...] = ()) -> Any:
        return standing(self.THEODOLITE, [*self.PASSED, *done], list(events), TODAY)

    def test_every_check_that_decides_must_have_passed(self) -> None:
        assert standing(self.THEODOLITE, [self.PASSED[0]], [], TODAY).state == "check-first"
        entry = self.of()
        assert entry.state == "ready"
        assert {check.check: check.state for check in entry.checks} == {
            "plate-vial": "ready",
            "plummet": "ready",
            "circular-vial": "check-first",
        }

    def test_a_bad_finding_of_any_check_holds(self) -> None:
        bad = self.of(CheckRecord("circular-vial", at(26), "adjust", finding="It rests 2 mm off."))
        assert (bad.state, bad.checks[0].check) == ("hold", "circular-vial")
        mended = self.of(
            CheckRecord("circular-vial", at(26), "adjust"),
            CheckRecord("circular-vial", at(26, 2, 9), "use", stage="as-left"),
        )
        assert mended.state == "ready"

    def test_each_kind_has_its_own_interval(self) -> None:
        old = standing(
            self.THEODOLITE,
            [CheckRecord("plate-vial", at(30, 8, year=2026), "use"), CheckRecord("plummet", at(20, 1), "use")],
            [],
            TODAY,
        )
        assert (old.state, old.checks[0].check) == ("check-first", "plate-vial")
        assert {check.check: check.due_on for check in old.checks}["plummet"] == "2027-07-21"

    def test_a_knock_wants_all_of_them_again(self) -> None:
        knocked = self.of(events=(EventRecord("knock", at(28)),))
        assert knocked.state == "check-first"
        assert {check.check for check in knocked.checks if check.state == "check-first"} == {
            "plate-vial",
            "plummet",
            "circular-vial",
        }
        again = self.of(CheckRecord("plate-vial", at(1, 3), "use"), events=(EventRecord("knock", at(28)),))
        assert (again.state, again.checks[0].check) == ("check-first", "plummet")

    def test_where_nothing_decides_what_there_is_does(self) -> None:
        tribrach = {"kind": "tribrach", "plummet": "none"}
        assert standing(tribrach, [], [], TODAY).state == "check-first"
        assert standing(tribrach, [CheckRecord("circular-vial", at(20), "use")], [], TODAY).state == "ready"


class TestAfterAdjusting:
    """Whatever was turned or stored is proved before it goes out."""

    PASSED = CheckRecord("two-peg", at(20), "use")

    def adjusted(self, *done: CheckRecord, check: str = "two-peg") -> Any:
        event = EventRecord("adjusted", at(1, 3), check=check)
        return standing(LEVEL, [self.PASSED, *done], [event], TODAY)

    def test_it_is_check_first_until_an_as_left_passes(self) -> None:
        entry = self.adjusted()
        assert (entry.state, entry.reasons[0].code) == ("check-first", "adjusted-not-proved")
        assert "as left" in entry.reasons[0].text
        assert self.adjusted(CheckRecord("two-peg", at(1, 3, 9), "use", stage="as-left")).state == "ready"

    def test_what_passes_as_found_only_does_not_prove_it(self) -> None:
        loose = CheckRecord("two-peg", at(1, 3, 9), "watch", codes=("not-proved",), proved_within_watch=True)
        assert clears(loose)
        assert self.adjusted(loose).state == "check-first"
        assert self.adjusted(loose, CheckRecord("two-peg", at(1, 3, 10), "use")).state == "ready"

    def test_in_the_same_second_as_left_comes_after_it_and_as_found_before(self) -> None:
        assert self.adjusted(CheckRecord("two-peg", at(1, 3), "use", stage="as-left")).state == "ready"
        assert self.adjusted(CheckRecord("two-peg", at(1, 3), "use")).reasons[0].code == "adjusted-not-proved"

    def test_in_the_same_second_a_release_comes_after_the_hold_and_before_a_drop(self) -> None:
        events = [EventRecord("released", at(1, 3), "spare only"), EventRecord("held", at(1, 3), "feels loose")]
        passed = [CheckRecord("two-peg", at(20), "use")]
        assert standing(LEVEL, passed, events, TODAY).state == "ready-if"
        assert standing(LEVEL, passed, [*events, EventRecord("drop", at(1, 3))], TODAY).state == "hold"

    def test_another_check_adjusted_bears_only_on_what_was_measured_through_it(self) -> None:
        states = {check.check: check.reasons[0].code for check in self.adjusted(check="circular-vial").checks}
        assert states["two-peg"] == "passed"

    def test_a_check_that_gates_nothing_counts_once_it_was_adjusted(self) -> None:
        theodolite = {"kind": "theodolite", "plummet": "optical", "plunges": False}
        done = [
            CheckRecord("plate-vial", at(25), "use"),
            CheckRecord("plummet", at(25), "use"),
            CheckRecord("circular-vial", at(20), "use"),
        ]
        turned = EventRecord("adjusted", at(26), check="circular-vial")
        assert standing(theodolite, done, [], TODAY).state == "ready"
        assert standing(theodolite, done, [turned], TODAY).state == "check-first"
        left = CheckRecord("circular-vial", at(26, 2, 9), "use", stage="as-left")
        assert standing(theodolite, [*done, left], [turned], TODAY).state == "ready"


class TestAfterAFall:
    """All that a drop or topple bears on must pass, quick looks made."""

    DROP = EventRecord("drop", at(1, 3))

    def of(self, *done: CheckRecord, event: EventRecord = DROP) -> Any:
        return standing(LEVEL, list(done), [event], TODAY)

    def everything(self, hour: int, codes: tuple[str, ...] = ()) -> list[CheckRecord]:
        kinds = ("two-peg", "circular-vial", "compensator-function")
        return [CheckRecord(kind, at(1, 3, hour), "use", codes=codes if kind == "two-peg" else ()) for kind in kinds]

    @pytest.mark.parametrize("event", ["drop", "topple"])
    def test_one_pass_releases_nothing(self, event: str) -> None:
        fell = EventRecord(event, at(1, 3))
        entry = self.of(CheckRecord("two-peg", at(1, 3, 9), "use"), event=fell)
        assert entry.state == "hold"
        assert {check.check for check in entry.checks if check.state == "hold"} == {
            "circular-vial",
            "compensator-function",
        }
        assert self.of(*self.everything(9), event=fell).state == "ready"

    def test_looks_that_were_not_made_release_nothing(self) -> None:
        assert self.of(*self.everything(9, ("not-looked",))).state == "hold"
        again = CheckRecord("two-peg", at(1, 3, 10), "use")
        assert self.of(*self.everything(9, ("not-looked",)), again).state == "ready"
        later = CheckRecord("two-peg", at(1, 3, 11), "use", codes=("not-looked",))
        assert self.of(*self.everything(9, ("not-looked",)), again, later).state == "ready", "answered, it stays so"

    def test_accuracy_procedures_are_not_asked_for(self) -> None:
        assert "levelling-accuracy" not in [check.check for check in self.of().checks if check.state == "hold"]

    def test_a_tie_goes_against_the_instrument(self) -> None:
        same = self.of(*self.everything(7))
        assert self.DROP.at == at(1, 3, 7)
        assert same.state == "hold"
        knocked = standing(LEVEL, [CheckRecord("two-peg", at(1, 3), "use")], [EventRecord("knock", at(1, 3))], TODAY)
        assert knocked.state == "check-first"
