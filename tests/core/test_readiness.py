"""The pre-work check: which checks it takes in the minutes there are, and what it ends in."""

from __future__ import annotations

import json
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest

from naveta_core import dispatch
from naveta_core.checks import KINDS
from naveta_core.documents.fingerprint import fingerprint
from naveta_core.errors import Refused
from naveta_core.readiness.results import ReadinessPreview
from naveta_core.registry import DOCUMENTS, parse
from naveta_core.results import Result

from .plain import methods_for, of_round

Data = dict[str, Any]
NOW = datetime(2027, 3, 2, 6, 40, tzinfo=UTC)
STATION = {"kind": "total-station", "plummet": "optical", "plummet_place": "turning", "plate_vial_arcsec_per_div": 30}
LEVEL = {"kind": "level"}


def earlier(check: str, days: float, grade: str = "use") -> Data:
    return {"check": check, "at": (NOW - timedelta(days=days)).isoformat(), "grade": grade, "result": {}}


def document(
    minutes: float = 10,
    steps: list[Data] | None = None,
    before: list[Data] | None = None,
    instrument: Data | None = None,
) -> Data:
    return {
        "kind": "pre-survey",
        "instrument": instrument or STATION,
        "before": before or [],
        "before_at": NOW.isoformat(),
        "observations": {"minutes": minutes, "steps": steps or []},
    }


def preview(fields: Data) -> Data:
    found = DOCUMENTS["pre-survey"].preview(parse(json.dumps(fields).encode()))
    assert isinstance(found, ReadinessPreview)
    return found.plain()


def reduce(fields: Data) -> Data:
    result = DOCUMENTS["pre-survey"].reduce(parse(json.dumps(fields).encode()))
    assert isinstance(result, Result)
    return result.plain()


def taken(fields: Data) -> list[str]:
    return [each["check"] for each in preview(fields)["proposed"] if each["taken"]]


def done(check: str, grade: str = "use", **more: Any) -> Data:
    return {"check": check, "record": f"r-{check}", "grade": grade, "finding": f"{grade} it is.", **more}


class TestChoosing:
    def test_each_instrument_has_its_own_in_the_order_in_which_they_lean(self) -> None:
        assert [kind.name for kind in of_round(STATION)] == [
            "circular-vial",
            "plate-vial",
            "dual-axis-level",
            "plummet",
            "two-face",
        ]
        assert [kind.name for kind in of_round(LEVEL)] == ["circular-vial", "compensator-function", "two-peg"]
        assert of_round({"kind": "tape"}) == []
        assert sum(kind.quick[1] for kind in of_round(STATION) if kind.quick) <= 10, "a round is five to ten minutes"

    def test_with_ten_minutes_all_are_taken(self) -> None:
        assert taken(document(10)) == ["circular-vial", "plate-vial", "dual-axis-level", "plummet", "two-face"]

    def test_what_passed_today_is_fresh_and_what_is_oldest_comes_first(self) -> None:
        before = [
            earlier("dual-axis-level", 0.1),
            earlier("two-face", 25),
            earlier("plummet", 20),
            earlier("circular-vial", 3),
            earlier("plate-vial", 12),
        ]
        found = {value["check"]: value for value in preview(document(4, before=before))["proposed"]}
        assert (found["dual-axis-level"]["taken"], found["dual-axis-level"]["code"]) == (False, "passed-today")
        # Shares of their intervals gone by: 25/91, 20/182, 12/182, 3/182.
        assert [name for name, entry in found.items() if entry["taken"]] == ["plummet", "two-face"]
        assert found["plate-vial"]["code"] == "no-time"
        assert "Passed 12 days ago; due every 182." in found["plate-vial"]["why"]

    def test_what_was_bad_last_time_goes_before_what_was_never_done(self) -> None:
        before = [earlier("plummet", 2, "adjust"), earlier("plummet", 30, "use")]
        proposed = preview(document(2, before=before))["proposed"]
        assert [entry["check"] for entry in proposed if entry["taken"]] == ["plummet"]
        assert next(entry for entry in proposed if entry["check"] == "plummet")["code"] == "not-good-last"

    def test_two_faces_are_measured_through_the_electronic_level_which_comes_along(self) -> None:
        before = [
            *(earlier(name, 1) for name in ("circular-vial", "plate-vial", "plummet", "dual-axis-level")),
            earlier("two-face", 29),
        ]
        assert taken(document(4, before=before)) == ["dual-axis-level", "two-face"]
        fresh = [earlier("dual-axis-level", 0.05), *before[:3], before[4]]
        assert taken(document(2, before=fresh)) == ["two-face"], "proved an hour ago it need not"

    def test_at_least_one_is_taken_however_short_the_time(self) -> None:
        assert (
            len(
                taken(
                    document(
                        1, instrument=LEVEL, before=[earlier("circular-vial", 1), earlier("compensator-function", 1)]
                    )
                )
            )
            == 1
        )

    def test_everything_fresh_means_nothing_is_wanted(self) -> None:
        before = [earlier(kind.name, 0.05) for kind in of_round(STATION)]
        proposed = preview(document(before=before))["proposed"]
        assert not any(entry["taken"] for entry in proposed)
        assert {entry["code"] for entry in proposed} == {"passed-today"}

    def test_each_is_taken_in_a_way_this_instrument_can(self) -> None:
        based = {**STATION, "plummet_place": "tribrach", "circular_vial_on": "tribrach"}
        ways = {value["check"]: value["method"] for value in preview(document(instrument=based))["proposed"]}
        assert ways["plummet"] in methods_for(KINDS["plummet"], based)
        assert ways["plummet"] != "half-turn"
        assert ways["circular-vial"] == "on-tribrach"
        assert ways["two-face"] == "quick"


class TestEnding:
    @pytest.mark.parametrize(
        ("steps", "outcome", "grade", "sentence"),
        [
            ([done("plummet"), done("two-face")], "go", "use", "Go: two checks good."),
            (
                [done("plummet", "watch"), done("two-face")],
                "go-with-care",
                "watch",
                "Go, with conditions: observe plummet.",
            ),
            (
                [done("two-face"), {"check": "plummet", "left_out": "no time"}],
                "go-with-care",
                "watch",
                "Go, with conditions: plummet not checked.",
            ),
            ([done("two-face"), {"check": "circular-vial", "left_out": "no time"}], "go", "use", "Go: one check good."),
            (
                [done("plummet", "adjust"), done("two-face", "repeat")],
                "adjust-first",
                "adjust",
                "Adjust first: plummet.",
            ),
            (
                [done("plummet", "repeat"), done("two-face", "watch")],
                "take-again",
                "repeat",
                "Repeat a check first: plummet.",
            ),
            (
                [done("plummet", "service"), done("two-face", "adjust")],
                "leave-it-here",
                "service",
                "Do not take it: plummet.",
            ),
            ([done("plummet", "use", stage="as-left"), done("two-face")], "go", "use", "Go: two checks good."),
        ],
    )
    def test_the_worst_decides_and_a_deciding_check_left_out_is_said(
        self, steps: list[Data], outcome: str, grade: str, sentence: str
    ) -> None:
        result = reduce(document(steps=steps))
        assert (result["result"]["outcome"], result["verdict"]["grade"], result["finding"]["text"]) == (
            outcome,
            grade,
            sentence,
        )

    def test_what_each_found_and_why_one_was_left_out_stand_in_it(self) -> None:
        result = reduce(
            document(steps=[done("plummet", "watch", stage="as-left"), {"check": "two-face", "left_out": "no time"}])
        )
        assert [reason["text"] for reason in result["verdict"]["reasons"]] == [
            "Plummet, as left: watch it is.",
            "Two-face check was skipped: no time.",
        ]
        assert result["verdict"]["next"][0]["text"].startswith("Plummet: ")
        assert result["result"]["checks"][1]["record"] is None

    def test_half_a_round_is_not_finished_and_says_what_is_next(self) -> None:
        found = preview(document(steps=[done("plummet", "adjust"), {"check": "two-face"}]))
        assert (found["complete"], found["missing"]) == (False, ["observations.steps[1]"])
        assert found["wanted"] == [{"path": "observations.steps[1]", "where": "Two-face check"}]
        assert found["progress"] == "Adjust first: plummet."
        with pytest.raises(Refused):
            reduce(document(steps=[{"check": "two-face"}]))
        assert (
            preview(document(steps=[done("plummet"), {"check": "two-face"}]))["progress"]
            == "One check done, no errors found."
        )
        assert "reduced" in preview(document(steps=[done("plummet")]))

    @pytest.mark.parametrize(
        ("steps", "path"),
        [
            ([{"check": "boiling", "record": "x", "grade": "use"}], "observations.steps[0].check"),
            ([done("plummet"), done("plummet")], "observations.steps[1].check"),
            ([{"check": "plummet", "record": "x"}], "observations.steps[0].grade"),
        ],
    )
    def test_what_cannot_be_is_a_fault_at_its_place(self, steps: list[Data], path: str) -> None:
        assert [fault["path"] for fault in preview(document(steps=steps))["faults"]] == [path]

    def test_a_round_of_nothing_but_what_was_left_out_is_none(self) -> None:
        found = preview(document(steps=[{"check": "plummet", "left_out": "no time"}]))
        assert found["missing"] == ["observations.steps"]


def test_the_device_reckons_a_round_as_the_server_does_and_nothing_later_depends_on_it() -> None:
    known = {"stated": STATION, "limits": {}, "history": []}
    bare = {"kind": "pre-survey", "observations": {"minutes": 5, "steps": [done("plummet")]}}
    question = {"verb": "reduce", "document": bare, "instrument": known, "at": NOW.isoformat()}
    data = json.loads(dispatch.answer(json.dumps(question)))["data"]
    assert data["history_entry"] is None
    assert data["fingerprint"] == fingerprint(data["result"])
    shown = json.loads(dispatch.answer(json.dumps({**question, "verb": "preview"})))["data"]
    assert shown["reduced"] == data["result"]
