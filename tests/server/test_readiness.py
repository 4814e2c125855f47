"""Rounds before the work in the server: what they say of a check is what its record says, and nothing else."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from records.models import Record

from .conftest import Api
from .test_bench_kinds import simulated, standing, things  # noqa: F401

AT = "2027-03-02T06:40:00+00:00"


def a_round(*steps: dict[str, Any], minutes: float = 10) -> dict[str, Any]:
    return {"kind": "pre-survey", "observations": {"minutes": minutes, "steps": list(steps)}}


def keep(api: Api, document: dict[str, Any], **more: Any) -> Any:
    return api.check(document, instrument="TS-01", at=AT, **more)


@pytest.fixture
def taken(tam: Api, things: None) -> dict[str, Any]:  # noqa: F811
    """A plummet that is good and two faces that are not."""
    return {
        "plummet": tam.check(simulated("plummet", offset_mm=(0.0, 0.0)), instrument="TS-01").json(),
        "two-face": tam.check(simulated("two-face", c=30.0), instrument="TS-01").json(),
    }


def test_it_chooses_by_what_is_on_record(tam: Api, things: None) -> None:  # noqa: F811
    answer = tam.post("preview", {"instrument": "TS-01", "document": a_round()}).json()
    assert [fault["check"] for fault in answer["proposed"]] == [
        "circular-vial",
        "dual-axis-level",
        "plummet",
        "two-face",
    ]
    assert all(fault["taken"] for fault in answer["proposed"])


def test_one_record_holds_its_checks_as_their_records_say(tam: Api, taken: dict[str, Any]) -> None:
    """What the device claims of a check does not count."""
    steps = [
        {"check": name, "record": entry["id"], "grade": "use", "finding": "All is well."}
        for name, entry in taken.items()
    ]
    saved = keep(tam, a_round(*steps, {"check": "circular-vial", "left_out": "no time"}))
    assert saved.status_code == 201, saved.json()
    record = saved.json()
    assert (record["category"], record["kind"], record["grade"]) == ("round", "pre-survey", "adjust")
    assert record["finding"] == "Adjust first: two-face check."
    kept = record["document"]["observations"]["steps"]
    assert [record.get("grade") for record in kept] == [taken["plummet"]["grade"], "adjust", None]
    assert kept[1]["finding"] == taken["two-face"]["finding"]
    assert tam.get(f"records/{record['id']}").json()["broken"] is None
    assert tam.get("records?instrument=TS-01&category=round").json()["records"][0]["id"] == record["id"]


def test_it_bears_on_no_standing_by_itself(tam: Api, taken: dict[str, Any]) -> None:
    before = standing(tam, "TS-01")
    keep(tam, a_round({"check": "plummet", "record": taken["plummet"]["id"]}))
    assert standing(tam, "TS-01") == before


def test_a_check_of_another_kind_or_instrument_or_none_is_refused(tam: Api, taken: dict[str, Any]) -> None:
    other = tam.check(simulated("circular-vial", headings=(0, 90, 180, 270)), instrument="TD-01").json()["id"]
    for record, wanted in (
        (str(uuid.uuid4()), "on record"),
        (other, "a check of TS-01"),
        ("x", "on record"),
        (taken["two-face"]["id"], "of the kind plummet"),
    ):
        answer = keep(tam, a_round({"check": "plummet", "record": record}))
        assert answer.status_code == 422, record
        fault = answer.json()["faults"][0]
        assert fault["path"] == "observations.steps[0].record"
        assert wanted in fault["wanted"]
    assert not Record.objects.filter(category="round").exists()


def test_a_struck_check_does_not_count(tam: Api, taken: dict[str, Any]) -> None:
    struck = tam.post(f"records/{taken['plummet']['id']}/amend", {"id": str(uuid.uuid4()), "why": "Wrong instrument."})
    assert struck.status_code in (200, 201), struck.json()
    answer = keep(tam, a_round({"check": "plummet", "record": taken["plummet"]["id"]}))
    assert answer.json()["faults"][0]["given"] == "one that was struck"


def test_half_a_round_is_not_stored(tam: Api, taken: dict[str, Any]) -> None:
    answer = keep(tam, a_round({"check": "plummet", "record": taken["plummet"]["id"]}, {"check": "two-face"}))
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"] == "observations.steps[1]"


def test_a_trainee_stores_none(jory: Api, taken: dict[str, Any]) -> None:
    assert keep(jory, a_round({"check": "plummet", "record": taken["plummet"]["id"]})).status_code == 403
