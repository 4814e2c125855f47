"""The core's dispatch: the same words as the server, and results two machines can be held against each other by."""

from __future__ import annotations

import json
from typing import Any

import pytest

from naveta_core import __version__
from naveta_core.checks import KINDS
from naveta_core.dispatch import VERBS, answer
from naveta_core.documents.fingerprint import device_notes, fingerprint
from naveta_core.documents.instrument_context import complete
from naveta_core.errors import Refused
from naveta_core.registry import document_of
from tests.core.plain import reduce_of

from .builders import exact
from .plain import before_of, context_of, noise_of

NEAR = [(30, 30), (56, 4)]
AT = "2027-03-02T06:40:00+00:00"
STATED = {"kind": "level", "reading": "optical", "levelling_accuracy_mm_per_km": 2.0}
LIMITS = {"collimation_arcsec": {"use": 8, "source": "the firm's"}}
MADE = [
    {
        "what": "check",
        "kind": "two-peg",
        "at": "2027-02-20T07:00:00+00:00",
        "stage": "as-found",
        "grade": "use",
        "result": {"collimation_arcsec": 1.0, "sigma_collimation_arcsec": 2.0},
        "repeats": {"squares": 9.0, "dof": 12},
    }
]
GIVEN = {"stated": STATED, "limits": LIMITS, "history": MADE}
KNOWN = context_of(STATED, LIMITS, MADE)


def ask(**question: Any) -> Any:
    return json.loads(answer(json.dumps(question)))


def test_it_says_who_it_is() -> None:
    data = ask(verb="hello")["data"]
    assert data["core_version"] == __version__
    assert [kind["kind"] for kind in data["kinds"]] == list(KINDS)


def test_preview_and_reduce_say_what_the_kind_itself_says() -> None:
    document = exact(8, *NEAR, copies=2)
    completed = complete(document, KNOWN, AT)
    result = reduce_of("two-peg", document_of(completed))
    data = ask(verb="reduce", document=document, instrument=GIVEN, at=AT)["data"]
    assert data["document"] == completed
    assert data["result"] == json.loads(json.dumps(result))
    previewed = ask(verb="preview", document=document, instrument=GIVEN, at=AT)["data"]
    assert previewed["reduced"] == data["result"]
    assert data["fingerprint"] == fingerprint(result)
    assert "fingerprint" not in previewed, "nobody compares what is still being typed"


def test_what_a_sheet_claims_of_the_instrument_is_not_taken() -> None:
    generous = {**exact(8, *NEAR), "limits": {"collimation_arcsec": {"use": 500}}, "before_at": "1990-01-01"}
    completed = complete(generous, KNOWN, AT)
    assert completed["limits"] == LIMITS
    assert completed["before_at"] == AT
    assert complete(generous, None, AT) == generous
    with pytest.raises(Refused):
        complete("a sheet", KNOWN, AT)


@pytest.mark.parametrize(
    ("question", "status", "path"),
    [
        ({"verb": "guess"}, 422, "verb"),
        ([], 422, "verb"),
        ({"verb": "preview", "document": {"kind": "three-peg"}, "at": AT}, 422, "kind"),
        (
            {"verb": "reduce", "document": {"kind": "two-peg", "observations": {}}, "at": AT},
            422,
            "observations.setups[0].a.distance",
        ),
        ({"verb": "schema", "kind": "three-peg"}, 422, "kind"),
        ({"verb": "read-document", "kind": "two-peg", "text": '{"kind":"two-peg","kind":"two-peg"}'}, 400, None),
        ({"verb": "read-table", "kind": "two-peg", "text": "setup;staff;reading\n1;C;1,2\n"}, 422, "line 2"),
    ],
)
def test_refusals_are_answers(question: Any, status: int, path: str | None) -> None:
    data = json.loads(answer(json.dumps(question)))
    assert not data["ok"]
    assert data["status"] == status
    assert data["title"]
    if path is not None:
        assert any(path in (fault["path"] + fault["where"]) for fault in data["faults"])


def test_a_fault_of_ours_is_an_answer_too(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(VERBS, "hello", lambda _: 1 / 0)
    found = ask(verb="hello")
    assert (found["ok"], found["status"], found["code"]) == (False, 500, "our-fault")


def test_tables_and_files_go_through_the_door() -> None:
    document = exact(8, *NEAR)
    table = ask(verb="write-table", kind="two-peg", document=document)["data"]["text"]
    back = ask(verb="read-table", kind="two-peg", text=table)["data"]
    assert back["observations"]["setups"] == document["observations"]["setups"]
    assert ask(verb="read-document", kind="two-peg", text=json.dumps(document))["data"] == document
    assert ask(verb="schema", kind="two-peg")["data"]["properties"]["kind"]["const"] == "two-peg"
    guide = ask(verb="adjusting", document=exact(24, *NEAR, copies=4), reads_now=["1.6010"])["data"]
    assert guide["prompt"] == "Staff A reads now"


class TestFingerprint:
    def test_is_blind_to_the_last_bits_and_to_the_version(self) -> None:
        fields = {"a": 1.23456789012, "b": [1e-17, "text"], "core_version": "1"}
        assert fingerprint(fields) == fingerprint({"a": 1.234567890123, "b": [0.0, "text"], "core_version": "2"})

    @pytest.mark.parametrize("other", [{"a": 1.2345678}, {"a": 1.23456789, "b": 1}, {"a": "1.23456789"}])
    def test_sees_everything_else(self, other: dict[str, Any]) -> None:
        assert fingerprint({"a": 1.23456789}) != fingerprint(other)


def test_what_is_said_of_a_device() -> None:
    agrees = {"core_version": "0.2.0", "grade": "use", "agrees": True}
    assert device_notes(agrees) == []
    (differs,) = device_notes({**agrees, "agrees": False})
    assert differs["code"] == "device-differs"
    assert "(use, core 0.2.0)" in differs["text"]
    (behind,) = device_notes({"clock_off_s": 3 * 3600})
    assert "3 hours behind" in behind["text"]
    (leading_reasons,) = device_notes({"clock_off_s": -20 * 60})
    assert "20 minutes ahead" in leading_reasons["text"]
    assert device_notes({"clock_off_s": 200}) == []


class TestSegment:
    EVENT = {"what": "event", "event": "adjusted", "at": AT}

    def check(self, **more: Any) -> dict[str, Any]:
        return {**MADE[0], **more}

    def test_newest_first_and_no_more_than_five(self) -> None:
        rows = [self.check(at=f"2027-02-{day:02}T07:00:00+00:00") for day in range(1, 9)]
        assert [earlier["at"] for earlier in before_of(rows)] == [
            f"2027-02-{day:02}T07:00:00+00:00" for day in (8, 7, 6, 5, 4)
        ]
        assert set(before_of(rows)[0]) == {"check", "at", "grade", "result", "passed"}
        assert before_of([self.check(temperature_c=4)])[0]["temperature_c"] == 4

    @pytest.mark.parametrize("event", ["adjusted", "knock", "drop", "held"])
    def test_an_event_cuts_and_a_day_out_does_not(self, event: str) -> None:
        cut = [self.check(), {**self.EVENT, "event": event}]
        assert before_of(cut) == []
        assert len(before_of([*cut, self.check()])) == 1
        assert len(before_of([self.check(), {**self.EVENT, "event": "out"}])) == 1

    def test_an_as_left_begins_a_new_one(self) -> None:
        rows = [
            self.check(),
            self.check(stage="as-left", at="2027-02-21T07:00:00+00:00"),
            self.check(at="2027-02-22T07:00:00+00:00"),
        ]
        assert [entry["at"] for entry in before_of(rows)] == ["2027-02-22T07:00:00+00:00", "2027-02-21T07:00:00+00:00"]

    def test_noise_is_learned_by_hand_from_accepted_tests_with_repeats(self) -> None:
        rows = [self.check(), self.check(), self.check(grade="repeat"), self.check(repeats={"squares": 0, "dof": 0})]
        assert noise_of(rows, "two-peg") is None
        learned = noise_of([*rows, self.check()], "two-peg")
        assert learned == {"factor": pytest.approx(((6 + 27) / (6 + 36)) ** 0.5), "dof": 12}

    def test_a_device_adds_what_it_made_itself(self) -> None:
        """As found, adjusted, as left on the slope: the as-left depends on nothing from before the screw was turned."""
        document = exact(4, *NEAR)
        plain = ask(verb="reduce", document=document, instrument=GIVEN, at=AT)["data"]
        assert plain["document"]["before"][0]["at"] == MADE[0]["at"]
        since = [plain["history_entry"], self.EVENT]
        left = ask(verb="reduce", document=document, instrument=GIVEN, pending=since, at=AT, stage="as-left")["data"]
        assert "before" not in left["document"]
        assert left["history_entry"]["stage"] == "as-left"
