"""What is due when and why: histories as tables, and what has to hold of any history."""

from __future__ import annotations

import json
import random
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest

from naveta_core.__main__ import main
from naveta_core.documents.envelope import DueCheck, Earlier, Instrument
from naveta_core.errors import Refused
from naveta_core.history.due_list import due
from naveta_core.history.events import BEARING_EVENTS
from naveta_core.history.rules import DueRule, RuleBook, default_rules, rules_in_force
from naveta_core.readiness.choose import propose
from tests.amount import tries

TODAY = date(2027, 3, 2)
Data = dict[str, Any]


def when(days_ago: float) -> str:
    moment = datetime(2027, 3, 2, 6, 40, tzinfo=UTC) - timedelta(days=days_ago)
    return moment.isoformat()


def passed(check: str, days_ago: float, **more: Any) -> Data:
    return {"check": check, "at": when(days_ago), "grade": "use", **more}


def happened(event: str, days_ago: float, **more: Any) -> Data:
    return {"event": event, "at": when(days_ago), **more}


def asked(kind: str, records: list[Data], events: list[Data] | None = None, **more: Any) -> Data:
    stated = {"kind": kind, "plummet": "none" if "level" in kind else "optical", "plunges": True}
    return due(
        {"today": TODAY.isoformat(), "instrument": stated, "records": records, "events": events or [], **more}
    ).plain()


def entry(answer: Data, check: str) -> Data:
    return next(found for found in answer["due"] if found["check"] == check)


def day(ago: int) -> str:
    return (TODAY - timedelta(days=ago)).isoformat()


DEFAULTS = [
    # check, instrument, how long a pass holds by the default rules, and whether it then holds the instrument back
    ("two-peg", "level", 30, "overdue"),
    ("circular-vial", "level", 182, "due"),
    ("compensator-function", "level", 91, "due"),
    ("two-face", "total-station", 91, "overdue"),
    ("dual-axis-level", "total-station", 91, "overdue"),
    ("plate-vial", "theodolite", 182, "overdue"),
    ("plummet", "total-station", 182, "overdue"),
    ("tracker", "robotic-total-station", 30, "due"),
]


@pytest.mark.parametrize(("check", "kind", "days", "lapsed"), DEFAULTS)
def test_a_pass_holds_for_its_time_and_no_day_longer(check: str, kind: str, days: int, lapsed: str) -> None:
    found = [entry(asked(kind, [passed(check, ago)]), check) for ago in (days - 8, days - 7, days, days + 1)]
    assert [each["state"] for each in found] == ["fresh", "soon", "due", lapsed]
    assert found[0]["due_on"] == (TODAY + timedelta(days=8)).isoformat()
    assert found[3]["due_on"] == day(1)
    assert [reason["code"] for reason in found[3]["reasons"]] == ["interval"]


def test_every_applying_check_is_listed_once_and_what_is_only_wanted_never_comes_due() -> None:
    listed = [each["check"] for each in asked("level", [])["due"]]
    assert sorted(listed) == ["circular-vial", "compensator-function", "levelling-accuracy", "two-peg"]
    full = entry(asked("level", []), "levelling-accuracy")
    assert (full["state"], full["due_on"], full["reasons"][0]["code"]) == ("fresh", None, "when-wanted")


LATE = ("due", "overdue")
BEARS = [
    # event, and of two-face, plummet, tracker and two-peg those it makes due
    ("knock", ["two-face", "plummet", "tracker"]),
    ("topple", ["two-face", "plummet", "tracker"]),
    ("returned", ["two-face", "plummet", "tracker"]),
    ("service-in", ["two-face", "plummet", "tracker"]),
    ("transport", ["two-face", "plummet", "tracker"]),
    ("soaked", ["two-face", "plummet", "tracker"]),
    ("temperature-step", ["two-face"]),
    ("tracker-off", ["tracker"]),
    ("control-jump", ["two-face", "plummet"]),
    ("out", []),
    ("lent", []),
    ("service-out", []),
]


@pytest.mark.parametrize(("event", "due_then"), BEARS)
def test_an_event_makes_due_what_it_bears_on(event: str, due_then: list[str]) -> None:
    done = [passed(check, 10) for check in ("two-face", "plummet", "tracker")]
    answer = asked("robotic-total-station", done, [happened(event, 2)])
    found = [check for check in ("two-face", "plummet", "tracker") if entry(answer, check)["state"] in LATE]
    assert found == due_then
    for check in found:
        assert entry(answer, check)["due_on"] == day(2)
        assert [reason["code"] for reason in entry(answer, check)["reasons"]] == [event]
    before = asked("robotic-total-station", done, [happened(event, 12)])
    assert all(entry(before, check)["state"] == "fresh" for check in ("two-face", "plummet", "tracker"))


def test_other_people_taking_it_out_is_a_hand_over_the_same_crew_is_none() -> None:
    done = [passed("two-peg", 10)]
    same = [happened("out", 6, crew="Bramble"), happened("in", 5), happened("out", 2, crew="Bramble")]
    assert entry(asked("level", done, same), "two-peg")["state"] == "fresh"
    other = [happened("out", 6, crew="Bramble"), happened("in", 5), happened("out", 2, crew="Thrift")]
    found = entry(asked("level", done, other), "two-peg")
    assert (found["state"], found["reasons"][0]["code"]) == ("overdue", "handed-over")
    assert "from Bramble to Thrift" in found["reasons"][0]["text"]
    assert entry(asked("level", [*done, passed("two-peg", 1)], other), "two-peg")["state"] == "fresh"


TEMPERATURES = [
    # made at, later reading, due
    (20.0, 5.0, True),
    (20.0, 5.1, False),
    (-4.0, 12.0, True),
    (20.0, None, False),
]


@pytest.mark.parametrize(("made_at", "later", "due_then"), TEMPERATURES)
def test_fifteen_degrees_from_where_it_was_made(made_at: float, later: float | None, due_then: bool) -> None:
    warmth = {} if later is None else {"temperature_c": later}
    done = [passed("two-face", 20, temperature_c=made_at), passed("plate-vial", 3, **warmth)]
    found = entry(asked("total-station", done), "two-face")
    assert found["state"] == ("overdue" if due_then else "fresh")
    assert found["reasons"][0]["code"] == ("temperature" if due_then else "interval")
    # The same said by an event; a step whose figure is not known counts as one.
    event = happened("temperature-step", 3, **warmth)
    found = entry(asked("total-station", done[:1], [event]), "two-face")
    assert found["state"] == ("overdue" if due_then or later is None else "fresh")


def test_a_temperature_that_has_come_back_is_no_step() -> None:
    done = [
        passed("two-face", 20, temperature_c=18),
        passed("plate-vial", 9, temperature_c=1),
        passed("plate-vial", 2, temperature_c=15),
    ]
    assert entry(asked("total-station", done), "two-face")["state"] == "fresh"


def test_a_skipped_check_waits_for_its_day_and_never_after_a_fall() -> None:
    skip = happened("skipped", 1, check="two-peg", until=(TODAY + timedelta(days=3)).isoformat(), note="Ines: rain.")
    looked_at = passed("compensator-function", 50, proved_within_watch=True)
    overdue = [passed("two-peg", 40), looked_at]
    found = asked("level", overdue, [skip])
    assert (entry(found, "two-peg")["state"], entry(found, "two-peg")["due_on"]) == ("soon", skip["until"])
    assert "Ines: rain." in entry(found, "two-peg")["reasons"][0]["text"]
    assert (found["standing"]["state"], found["standing"]["reasons"][0]["code"]) == ("ready-if", "skipped")
    for event, state in (("drop", "hold"), ("knock", "check-first")):
        found = asked("level", [passed("two-peg", 10)], [happened(event, 2), skip])
        assert (found["standing"]["state"], entry(found, "two-peg")["state"]) == (state, "overdue")
    later = asked("level", [passed("two-peg", 10)], [skip, happened("transport", 0.5)])
    assert entry(later, "two-peg")["state"] == "overdue", "what happened after it was not known then"


def test_service_comes_round_each_year_and_is_asked_for_when_adjusting_does_not_help() -> None:
    def service(records: list[Data], events: list[Data]) -> Data:
        return asked("level", records, events)["service"]

    assert service([], [])["due_on"] is None
    assert service([passed("two-peg", 100)], [])["due_on"] == (TODAY + timedelta(days=265)).isoformat()
    assert service([passed("two-peg", 800)], [happened("service-in", 366)])["state"] == "due"
    bad = {"grade": "adjust", "stage": "as-left"}
    twice = [passed("two-peg", 9, **bad), passed("two-peg", 8, **bad)]
    found = service(twice, [])
    assert (found["state"], found["reasons"][0]["code"]) == ("due", "beyond-again")
    assert service(twice[:1], [])["state"] == "fresh"
    assert service([twice[0], passed("two-peg", 8.5, stage="as-left"), twice[1]], [])["state"] == "fresh"
    since = asked("level", [passed("two-peg", 20)], since="2026-03-01")["service"]
    assert (since["state"], since["due_on"]) == ("due", "2027-03-01"), "its first day counts, not the first entry"
    assert service(twice, [happened("service-in", 7)])["state"] == "fresh"
    assert asked("tripod", [])["service"] is None


def test_what_holds_it_is_said_first_whatever_happened_after_it() -> None:
    found = asked("level", [passed("two-peg", 10)], [happened("drop", 3, note="off the wall"), happened("soaked", 1)])
    assert found["standing"]["state"] == "hold"
    assert "off the wall" in found["standing"]["reasons"][0]["text"]


def test_at_service_or_lent_it_is_away_and_what_is_held_stays_held() -> None:
    done = [passed("two-peg", 10)]
    assert asked("level", done, [happened("service-out", 2)])["standing"]["state"] == "away"
    assert asked("level", done, [happened("lent", 2, note="to the harbour.")])["standing"]["reasons"] == [
        {"code": "lent", "text": "Lent since 28 Feb 2027: to the harbour."}
    ]
    back = asked("level", done, [happened("service-out", 9), happened("service-in", 2)])
    assert back["standing"]["state"] == "check-first"
    dropped = asked("level", done, [happened("drop", 3), happened("service-out", 2)])
    assert (dropped["standing"]["state"], dropped["hold"]) == ("hold", True)


class TestRules:
    def test_of_all_that_fit_the_shortest_time_and_every_event_count(self) -> None:
        rules = [
            DueRule(check="two-peg", every_days=60, after=["knock"]),
            DueRule(check="two-peg", every_days=20, model="Ondine Merrow"),
            DueRule(check="two-peg", every_days=10, climate="hot", after=["transport"]),
            DueRule(check="two-peg", every_days=5, kinds=["digital-level"]),
        ]
        book = RuleBook(rules, "hot")
        found = book.requirement("two-peg", "level", "Ondine Merrow")
        assert found is not None
        assert (found.every_days, found.after) == (10, {"knock", "transport", "drop", "topple", "held"})
        assert [
            RuleBook(rules).requirement("two-peg", kind, model).every_days  # type: ignore[union-attr]
            for kind, model in (("level", ""), ("level", "Ondine Merrow"), ("digital-level", "Ondine Skerrow"))
        ] == [60, 20, 5]

    def test_what_a_firm_sets_takes_the_place_of_the_default_rule_and_of_no_other(self) -> None:
        own = DueRule(check="two-peg", every_days=14)
        found = {rule.check: rule.every_days for rule in rules_in_force([own])}
        assert (found["two-peg"], found["two-face"]) == (14, 91)
        scoped = DueRule(check="two-peg", every_days=7, model="Ondine Merrow")
        assert [rule.every_days for rule in rules_in_force([scoped]) if rule.check == "two-peg"] == [30, 7]

    def test_without_a_rule_a_check_never_comes_due(self) -> None:
        found = entry(asked("level", [], rules=[{"check": "circular-vial", "every_days": 30}]), "two-peg")
        assert (found["state"], found["due_on"]) == ("fresh", None)

    @pytest.mark.parametrize(
        ("rule", "path", "wanted"),
        [
            ({"check": "two-peg", "every_days": 0}, "rules[0].every_days", "1"),
            ({"check": "two-pegs", "every_days": 9}, "rules[0].check", "two-peg"),
            ({"check": "two-peg", "after": ["earthquake"]}, "rules[0].after[0]", "knock"),
            ({"check": "two-peg", "temperature_step_c": 0.5}, "rules[0].temperature_step_c", "1"),
        ],
    )
    def test_a_rule_that_cannot_be_is_refused_by_its_field(self, rule: Data, path: str, wanted: str) -> None:
        with pytest.raises(Refused) as refused:
            asked("level", [], rules=[rule])
        assert [fault.path for fault in refused.value.faults] == [path]
        assert wanted in refused.value.faults[0].wanted

    def test_a_skip_without_its_day_and_an_adjustment_of_nothing_are_refused(self) -> None:
        with pytest.raises(Refused) as refused:
            asked("level", [], [happened("skipped", 1, check="two-peg"), happened("adjusted", 1)])
        assert [fault.path for fault in refused.value.faults] == ["events[0].until", "events[1].check"]


# What has to hold of any history.

EVENTS = (
    "knock",
    "drop",
    "transport",
    "returned",
    "lent",
    "out",
    "in",
    "service-in",
    "temperature-step",
    "control-jump",
)
KINDS = ("level", "total-station", "robotic-total-station", "theodolite")


def random_history(dice: random.Random) -> tuple[str, list[Data], list[Data]]:
    kind = dice.choice(KINDS)
    checks = [rule.check for rule in default_rules() if rule.check != "service"]
    records = [
        {
            "check": dice.choice(checks),
            "at": when(dice.uniform(0, 220)),
            "grade": dice.choice(("use", "use", "use", "watch", "adjust", "repeat")),
            "stage": dice.choice(("as-found", "as-found", "as-left")),
            "proved_within_watch": dice.random() < 0.5,
        }
        for _ in range(dice.randrange(12))
    ]
    events = []
    for _ in range(dice.randrange(5)):
        crew = {"crew": dice.choice(("Bramble", "Thrift"))}
        name = dice.choice(EVENTS)
        events.append(happened(name, dice.uniform(0, 120), **(crew if name == "out" else {})))
    return kind, records, events


def test_standing_due_list_and_the_check_before_the_work_agree_on_random_histories() -> None:
    dice = random.Random(17)
    seen = set()
    for _ in range(tries(2000, 500)):
        kind, records, events = random_history(dice)
        answer = asked(kind, records, events)
        states = {check["check"]: check for check in answer["standing"]["checks"]}
        due_now = []
        for found in answer["due"]:
            state = states[found["check"]]["state"]
            seen.add((found["state"], state))
            has_come = found.get("has_come", False)
            due_now += [found] if found["due_on"] else []
            if found["reasons"][0]["code"] != "when-wanted":
                assert has_come == (state in ("check-first", "hold")), (found, states[found["check"]])
            assert not has_come or found["state"] in ("due", "overdue")
            assert found.get("needed", False) == states[found["check"]].get("needed", False)
        proposed = before_work(kind, due_now)
        for check, code in proposed.items():
            has_come = next(found for found in due_now if found["check"] == check).get("has_come", False)
            assert (code == "due") == has_come, (check, code)
    assert {("overdue", "check-first"), ("due", "check-first"), ("overdue", "hold"), ("fresh", "ready")} <= seen


def before_work(kind: str, due_now: list[Data]) -> dict[str, str]:
    """Why a pre-work check, with time for all, takes each check that passed some time ago; by check."""
    stated = Instrument(kind=kind, plummet="optical", plunges=True) if kind != "level" else Instrument(kind=kind)
    due_checks = [
        DueCheck(check=d["check"], due_on=d["due_on"], needed=d.get("has_come", False), text="x") for d in due_now
    ]
    good = [Earlier(check=d["check"], at=when(5), grade="use", result={}, passed=True) for d in due_now]
    found = propose(stated, good, when(0), 240, due_checks)
    return {entry.check: entry.code for entry in found if any(d["check"] == entry.check for d in due_now)}


def test_one_more_pass_never_makes_more_due() -> None:
    """Where it is made at the temperature of the others: a colder day is news of its own."""
    dice = random.Random(18)
    for _ in range(tries(400, 150)):
        kind, records, events = random_history(dice)
        before = asked(kind, records, events)
        check = dice.choice(before["due"])["check"]
        after = asked(kind, [*records, passed(check, 0)], events)
        for old, new in zip(before["due"], after["due"], strict=True):
            rank = ["fresh", "soon", "due", "overdue"].index
            assert rank(new["state"]) <= rank(old["state"]), (check, old, new)
            assert new["check"] != check or new["state"] in ("fresh", "soon")


def test_the_order_in_which_entries_are_listed_changes_nothing() -> None:
    dice = random.Random(19)
    for _ in range(tries(300, 100)):
        kind, records, events = random_history(dice)
        shuffled = (dice.sample(records, len(records)), dice.sample(events, len(events)))
        assert asked(kind, *shuffled) == asked(kind, records, events)


def test_every_reason_is_true() -> None:
    """Each reason is looked up again in the history it was given for."""
    dice = random.Random(20)
    for _ in range(tries(500, 200)):
        kind, records, events = random_history(dice)
        for found in asked(kind, records, events)["due"]:
            own = [record for record in records if record["check"] == found["check"]]
            for reason in found["reasons"]:
                if reason["code"] in BEARING_EVENTS and reason["code"] != "handed-over":
                    assert any(event["event"] == reason["code"] for event in events)
                if reason["code"] == "interval":
                    days = [datetime.fromisoformat(record["at"]).date() for record in own]
                    assert any(f"{d.day} {d:%b %Y}" in reason["text"] for d in days)
                if reason["code"] == "never-passed":
                    assert ("Never checked" in reason["text"]) == (not own)


def test_by_command(tmp_path: Any, capsys: pytest.CaptureFixture[str]) -> None:
    file = tmp_path / "due.json"
    file.write_text(
        json.dumps({"today": "2027-03-01", "instrument": {"kind": "level", "plummet": "none"}, "rules": None})
    )
    assert main(["due", str(file)]) == 0
    answer = json.loads(capsys.readouterr().out)
    assert (answer["hold"], answer["standing"]["state"], answer["due"][0]["state"]) == (False, "check-first", "due")
    file.write_text(json.dumps({"today": "tomorrow", "instrument": {"kind": "level"}}))
    assert main(["due", str(file)]) == 2
    assert "today: given" in capsys.readouterr().err
