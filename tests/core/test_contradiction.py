"""A good result after a bad one with nothing between them decides nothing: for every kind of check, on the yard too."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.documents.envelope import Instrument
from naveta_core.documents.instrument_context import complete
from naveta_core.history.context import earlier_checks, instrument_context
from naveta_core.history.entries import PastCheck, PastEvent, entry_of
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.summary import summary_of
from tests.core.builders import codes, exact, reduce
from tests.core.plain import standing

EXAMPLES = Path(__file__).parent / "examples"
NEAR = ((30.0, 30.0), (56.0, 4.0))
BAD_DAY, GOOD_DAY, THIRD_DAY = "2027-03-01T08:00:00+00:00", "2027-03-02T08:00:00+00:00", "2027-03-02T10:00:00+00:00"


def earlier(value: float, at: str, grade: str, sigma: float = 2.0, **more: Any) -> dict[str, Any]:
    figures = {"collimation_arcsec": value, "sigma_collimation_arcsec": sigma}
    return {"check": "two-peg", "at": at, "grade": grade, "result": figures, **more}


def found(c: float, *before: dict[str, Any], at: str = GOOD_DAY, **more: Any) -> dict[str, Any]:
    return reduce(exact(c, *NEAR, copies=4, before=list(before), before_at=at, **more))


BAD = earlier(24.1, BAD_DAY, "adjust")


def test_a_good_run_does_not_overrule_a_bad_one() -> None:
    result = found(0.3, BAD)
    assert result["verdict"]["grade"] == "repeat"
    first = result["verdict"]["reasons"][0]
    assert first["code"] == "contradicts-record"
    assert "24.1″ on 1 Mar 2027" in first["text"]
    assert "0.3″ on 2 Mar 2027" in first["text"]
    assert codes(result, "next") == ["save-as-found", "third-run"]


@pytest.mark.parametrize(
    "more",
    [
        {"stage": "as-left"},
        {"in_place_of": BAD_DAY},
        {"before": [{**BAD, "changed_since": True}]},
        {"before": [{**BAD, "temperature_c": 31.0}], "conditions": {"temperature_c": 11.0}},
    ],
)
def test_what_explains_the_difference_is_no_contradiction(more: dict[str, Any]) -> None:
    document = exact(0.3, *NEAR, copies=4, **{"before": [BAD], "before_at": GOOD_DAY, **more})
    assert reduce(document)["verdict"]["grade"] == "use"


def test_a_difference_within_the_joint_uncertainty_is_none() -> None:
    """10.4″ ± 2·1.96 against about 7″: less apart than the two are sure of."""
    assert found(7.0, earlier(10.4, BAD_DAY, "adjust"))["verdict"]["reasons"][0]["code"] != "contradicts-record"


def test_the_third_run_decides_and_the_odd_one_is_named() -> None:
    disputed = earlier(0.3, GOOD_DAY, "repeat", disputed=True)
    good = found(0.5, disputed, BAD, at=THIRD_DAY)
    assert good["verdict"]["grade"] == "use"
    assert good["verdict"]["reasons"][0]["code"] == "two-agree"
    assert "24.1″ of 1 Mar 2027 stays on record as the odd one" in good["verdict"]["reasons"][0]["text"]
    bad = found(23.0, disputed, BAD, at=THIRD_DAY)
    assert bad["verdict"]["grade"] == "adjust"
    assert "0.3″ of 2 Mar 2027 stays on record as the odd one" in bad["verdict"]["reasons"][0]["text"]


def test_once_settled_it_is_not_said_again() -> None:
    disputed = earlier(0.3, GOOD_DAY, "repeat", disputed=True)
    settled = earlier(0.5, THIRD_DAY, "use")
    result = found(0.4, settled, disputed, BAD, at="2027-03-20T08:00:00+00:00")
    assert result["verdict"]["grade"] == "use"
    assert "two-agree" not in codes(result, "reasons")


def test_one_that_was_usable_under_its_condition_settles_nothing() -> None:
    """24.1″, then 19.0″ within twice the limit: they agree, and 0.3″ contradicts both."""
    watched = earlier(19.0, "2027-03-01T12:00:00+00:00", "watch")
    result = found(0.3, watched, BAD)
    assert result["verdict"]["grade"] == "repeat"
    assert result["verdict"]["reasons"][0]["code"] == "contradicts-record"


def test_a_repeat_for_other_reasons_is_no_second_run_that_agrees() -> None:
    assert found(0.5, earlier(0.3, GOOD_DAY, "repeat"), BAD, at=THIRD_DAY)["verdict"]["grade"] == "repeat"


LOOKS = [
    # kind, the question its sheet asks, the code of a bad answer, and how it is named
    ("tripod", ("clamps_hold",), "clamps-slip", "A clamp that slips"),
    ("tripod", ("hinges_firm",), "hinges-loose", "A hinge with play"),
    ("tripod", ("shoes_firm",), "shoes-loose", "A loose or blunt shoe"),
    ("staff", ("foot_firm",), "foot-loose", "A loose foot plate"),
    ("staff", ("joints_firm",), "joints-loose", "A joint with play"),
    ("two-peg", ("looks", "line_returns"), "sticking", "A sticking compensator"),
    ("compensator-function", ("returns",), "sticking", "A sticking compensator"),
]


EVERY_LOOK = pytest.mark.parametrize(("kind", "place"), [look[:2] for look in LOOKS])


class TestLooks:
    """What one look found loose and the next did not, with no repair between, is a contradiction like a figure."""

    def document(self, kind: str, place: tuple[str, ...], answer: str | None, **more: Any) -> dict[str, Any]:
        from tests.server.test_bench_kinds import simulated

        good = exact(0.3, *NEAR, copies=4) if kind == "two-peg" else simulated(kind, noise=0.0)
        part = observed = json.loads(json.dumps(good["observations"]))
        for name in place[:-1]:
            part = part.setdefault(name, {})
        part[place[-1]] = answer
        if kind == "two-peg":
            part["bubble_holds"] = "yes"
        return {**good, "observations": observed, **more}

    def before(self, kind: str, place: tuple[str, ...], answer: str, at: str, **more: Any) -> dict[str, Any]:
        """A record with this answer as the next document carries it, through its summary."""
        document = self.document(kind, place, answer, **more)
        entry = entry_of(summary_of(document, reduce(document)), at, "as-found")
        assert isinstance(entry, PastCheck)
        (earlier,) = earlier_checks([entry])
        return earlier.model_dump(exclude_none=True)

    @pytest.mark.parametrize(("kind", "place", "code", "noun"), LOOKS)
    def test_the_next_look_does_not_lift_the_hold(
        self, kind: str, place: tuple[str, ...], code: str, noun: str
    ) -> None:
        bad = self.before(kind, place, "no", BAD_DAY)
        assert bad["looks"] == [code]
        result = reduce(self.document(kind, place, "yes", before=[bad], before_at=GOOD_DAY))
        assert result["verdict"]["grade"] == "repeat"
        assert result["verdict"]["reasons"][0]["code"] == "contradicts-record"
        assert result["verdict"]["reasons"][0]["text"].startswith(
            f"{noun}: found on 1 Mar 2027, not found on 2 Mar 2027, and nothing on record"
        )

    @EVERY_LOOK
    def test_a_third_look_decides(self, kind: str, place: tuple[str, ...]) -> None:
        bad = self.before(kind, place, "no", BAD_DAY)
        disputed = self.before(kind, place, "yes", GOOD_DAY, before=[bad], before_at=GOOD_DAY)
        assert disputed["disputed"]
        fine = reduce(self.document(kind, place, "yes", before=[disputed, bad], before_at=THIRD_DAY))
        assert fine["verdict"]["reasons"][0]["code"] == "two-agree"
        assert "the look of 1 Mar 2027 stays on record as the odd one" in fine["verdict"]["reasons"][0]["text"]
        assert fine["verdict"]["grade"] == "use"
        worse = reduce(self.document(kind, place, "no", before=[disputed, bad], before_at=THIRD_DAY))
        assert worse["verdict"]["grade"] in ("adjust", "service")
        assert "the look of 2 Mar 2027" in worse["verdict"]["reasons"][0]["text"]

    @EVERY_LOOK
    def test_a_repair_on_record_explains_it(self, kind: str, place: tuple[str, ...]) -> None:
        bad = self.before(kind, place, "no", BAD_DAY)
        left = self.document(kind, place, "yes", before=[bad], before_at=GOOD_DAY, stage="as-left")
        assert reduce(left)["verdict"]["grade"] == "use"


def test_a_look_passed_over_does_not_lift_the_hold_either() -> None:
    looks = TestLooks()
    bad = looks.before("tripod", ("clamps_hold",), "no", BAD_DAY)
    result = reduce(looks.document("tripod", ("clamps_hold",), None, before=[bad], before_at=GOOD_DAY))
    assert result["verdict"]["grade"] == "repeat"
    assert "found on 1 Mar 2027, not looked at in full on 2 Mar 2027" in result["verdict"]["reasons"][0]["text"]


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_everything_a_look_finds_is_compared(kind: str) -> None:
    assert set(KINDS[kind].bad_looks) == {code for name, _, code, _ in LOOKS if name == kind}


def test_two_face_says_which_error_contradicts() -> None:
    from tests.server.test_bench_kinds import simulated

    figures = {
        "collimation_arcsec": 40.0, "sigma_collimation_arcsec": 1.0, "index_arcsec": 0.2, "sigma_index_arcsec": 1.0,
    }  # fmt: skip
    before = [{"check": "two-face", "at": BAD_DAY, "grade": "adjust", "result": figures}]
    document = {**simulated("two-face", c=0.5, i=0.2, noise=0.0), "before": before, "before_at": GOOD_DAY}
    result = reduce(document)
    assert result["verdict"]["grade"] == "repeat"
    assert result["verdict"]["reasons"][0]["text"].startswith("The collimation error")


class TestHistory:
    def past(self, value: float, at: str, grade: str, **more: Any) -> PastCheck:
        return PastCheck.model_validate(
            {
                **{name: part for name, part in earlier(value, at, grade).items() if name != "check"},
                "kind": "two-peg",
                "stage": "as-found",
                "repeats": {"squares": 0, "dof": 0},
                **more,
            }
        )

    def names(self, *history: Any) -> list[tuple[str, bool]]:
        return [(one.grade, one.changed_since) for one in earlier_checks(history)]

    def test_a_hold_forgets_the_good_and_not_the_bad(self) -> None:
        held = PastEvent(event="held", at="2027-03-01T09:00:00+00:00")
        assert self.names(self.past(1, "2027-02-01T08:00:00+00:00", "use"), self.past(24, BAD_DAY, "adjust"), held) == [
            ("adjust", False)
        ]

    @pytest.mark.parametrize("event", ["knock", "drop", "service-in", "adjusted"])
    def test_what_changes_an_instrument_forgets_both(self, event: str) -> None:
        happened = PastEvent(
            event=event, at="2027-03-01T09:00:00+00:00", kind="two-peg" if event == "adjusted" else None
        )
        assert self.names(self.past(24, BAD_DAY, "adjust"), happened) == []

    def test_a_step_in_temperature_explains_without_forgetting(self) -> None:
        step = PastEvent(event="temperature-step", at="2027-03-01T09:00:00+00:00")
        assert self.names(self.past(24, BAD_DAY, "adjust"), step) == [("adjust", True)]

    def test_a_check_made_at_0_degrees_keeps_its_temperature(self) -> None:
        (one,) = earlier_checks([self.past(24, BAD_DAY, "adjust", temperature_c=0.0)])
        assert one.temperature_c == 0.0

    def test_through_the_instruments_own_history(self) -> None:
        history = [self.past(24, BAD_DAY, "adjust"), PastEvent(event="held", at="2027-03-01T09:00:00+00:00")]
        context = instrument_context(Instrument(kind="level"), {}, history)
        document = complete(exact(0.3, *NEAR, copies=4), context, GOOD_DAY)
        assert reduce(document)["verdict"]["reasons"][0]["code"] == "contradicts-record"


def test_the_hold_stays_until_two_agree() -> None:
    at = datetime(2027, 3, 1, 8, tzinfo=UTC)
    bad = CheckRecord("two-peg", at, "adjust", finding="24.1″ too high.")
    disputed = CheckRecord("two-peg", at.replace(day=2), "repeat", codes=("contradicts-record",))
    held = standing({"kind": "level"}, [bad, disputed], [], at.date().replace(day=2))
    assert held.state == "hold"
    assert "24.1″" in held.reasons[0].text
    third = CheckRecord("two-peg", at.replace(day=3), "use", finding="No error found.")
    seen = CheckRecord("compensator-function", at, "use")
    assert standing({"kind": "level"}, [seen, bad, disputed, third], [], at.date().replace(day=3)).state == "ready"


def test_a_run_that_was_not_conclusive_lifts_no_hold_either() -> None:
    at = datetime(2027, 3, 1, 8, tzinfo=UTC)
    records = [CheckRecord("two-peg", at, "adjust"), CheckRecord("two-peg", at.replace(day=2), "repeat")]
    held = standing({"kind": "level"}, records, [EventRecord("held", at.replace(hour=9))], at.date().replace(day=2))
    assert held.state == "hold"


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_every_judged_quantity_of_every_kind_can_be_held_against_the_next_run(kind: str) -> None:
    """What is stored of a record has each quantity with its standard deviation, not the main one alone."""
    example = json.loads(next(EXAMPLES.glob(f"{kind}*.json")).read_text())
    document = example.get("document", example)
    result = reduce(document)
    figures = summary_of(document, result).figures
    judged = [part["quantity"] for part in result["verdict"]["parts"]]
    assert judged
    for name in judged:
        assert isinstance(figures[name], int | float), name
        assert isinstance(figures[f"sigma_{name}"], int | float), name
