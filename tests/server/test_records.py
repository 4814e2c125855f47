"""Saving, sealing, amending; what the yard makes of it."""

from __future__ import annotations

import json
import uuid
from datetime import UTC, datetime
from typing import Any

import pytest
from django.db import connection

from naveta_core.documents.json_io import GENESIS
from naveta_core.registry import document_of
from records import chain
from records.models import AppendOnlyError, Record
from tests.core.plain import reduce_of

from .conftest import Api, bad, good

ID = "3f1c1f6e-0000-4000-8000-000000000001"


def state(api: Api, tag: str = "LV-07") -> str:
    return api.get(f"instruments/{tag}").json()["standing"]["state"]


def test_saved_once_whatever_the_network_does(tam: Api) -> None:
    first = tam.check(good(), identity=ID)
    again = tam.check(good(), identity=ID)
    assert (first.status_code, again.status_code) == (201, 200)
    assert first.json() == again.json()
    other = tam.check(bad(), identity=ID)
    assert (other.status_code, other.json()["code"]) == (409, "other-content")
    assert Record.objects.count() == 1


def test_the_stored_document_alone_gives_the_stored_result(tam: Api) -> None:
    for day in ("2027-02-01", "2027-02-10", "2027-02-20"):
        tam.check(good(), at=day + "T07:00:00+00:00")
    saved = tam.check(good(copies=1, c=4)).json()
    assert saved["document"]["instrument"]["noise"]["dof"] == 12
    assert len(saved["document"]["before"]) == 3
    assert reduce_of("two-peg", document_of(saved["document"])) == saved["result"]


def test_preview_says_what_saving_will_store(tam: Api) -> None:
    shown = tam.post("preview", {"instrument": "LV-07", "document": good()}).json()["reduced"]
    assert tam.check(good()).json()["result"] == shown


def test_the_server_states_instrument_and_limits_not_the_file(tam: Api, ines: Api) -> None:
    generous = {
        **good(),
        "limits": {"collimation_arcsec": {"use": 500}},
        "instrument": {"levelling_accuracy_mm_per_km": 0.2},
    }
    part = tam.check(generous).json()["result"]["verdict"]["parts"][0]
    assert part["limits"]["use"] == 10


def test_a_faulty_check_saves_nothing(tam: Api) -> None:
    wrong = good()
    wrong["observations"]["setups"][1]["b"]["readings"] = ["1.4.2"]
    answer = tam.check(wrong)
    assert answer.status_code == 422
    fault = answer.json()["faults"][0]
    assert (fault["path"], fault["given"]) == ("observations.setups[1].b.readings[0]", "1.4.2")
    assert not Record.objects.exists()


@pytest.mark.parametrize(
    ("more", "path"),
    [
        ({"at": "yesterday"}, "observed_at"),
        ({"at": "2027-03-02T06:40:00"}, "observed_at"),
        ({"stage": "as-left"}, "pair"),
        ({"pair": ID}, "pair"),
        ({"stage": "sideways"}, "stage"),
        ({"colour": "red"}, "colour"),
        ({"entry": "guessed"}, "entry"),
    ],
)
def test_entries_out_of_order_are_refused_by_field(tam: Api, more: dict, path: str) -> None:
    answer = tam.check(good(), **more)
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"] == path


def test_from_bad_finding_to_as_left(tam: Api) -> None:
    tam.compensators("LV-02", "LV-07")
    assert state(tam) == "check-first"
    found = tam.check(bad(), at="2027-03-02T06:40:00+00:00").json()
    assert found["grade"] == "adjust"
    assert state(tam) == "hold"
    guide = tam.post(
        "checks/adjusting", {"instrument": "LV-07", "document": found["document"], "reads_now": ["1.6010"]}
    ).json()
    assert guide["prompt"] == "Staff A reads now"
    adjusted = tam.event("adjusted", "2027-03-02T06:55:00+00:00", record=found["id"], steps=["1.6010", "1.6003"])
    assert adjusted.status_code == 201
    left = tam.check(good(), at="2027-03-02T07:10:00+00:00", stage="as-left", pair=found["id"]).json()
    assert left["pair"] == found["id"]
    earlier = {entry["check"] for entry in left["document"]["before"]}
    assert earlier == {"compensator-function"}, "an adjustment cuts the segment of what was adjusted"
    assert state(tam) == "ready"
    assert tam.get(f"records/{found['id']}").json()["as_left"] == left["id"]
    series = tam.get("instruments/LV-07/series").json()
    assert [p["stage"] for p in series["points"]] == ["as-found", "as-left"]
    assert [e["event"] for e in series["events"]] == ["adjusted"]
    every = tam.get("instruments/LV-07/history").json()
    assert [each["of"] for each in every] == [*tam.get("instruments/LV-07").json()["checks"], "control"]
    assert next(each["series"] for each in every if each["of"] == "two-peg") == series
    assert next(each["series"]["points"] for each in every if each["of"] == "control") == []


def looked_through(ines: Api) -> list[dict[str, Any]]:
    """What verifying every chain says, a line an instrument, and the sum."""
    return [json.loads(line) for line in ines.get("health/chains").getvalue().decode().splitlines()]


def test_chain_seals_and_says_a_tampered_record(tam: Api, ines: Api) -> None:
    first = tam.check(good(), at="2027-02-01T07:00:00+00:00").json()
    tam.event("knock", "2027-02-02T07:00:00+00:00", note="fell over")
    last = tam.check(good()).json()
    assert first["previous"] == GENESIS
    assert [r.sequence for r in Record.objects.order_by("sequence")] == [1, 2, 3]
    assert last["broken"] is None
    assert looked_through(ines)[-1]["ok"]
    changed = Record.objects.get(id=first["id"]).document.replace("two-peg", "two-pig", 1)
    with connection.cursor() as cursor:
        cursor.execute("UPDATE records_record SET document = %s WHERE id = %s", [changed, uuid.UUID(first["id"]).hex])
    assert "changed after saving" in tam.get(f"records/{first['id']}").json()["broken"]
    *_, found, total = looked_through(ines)
    assert [finding["record"] for finding in found["wrong"]] == [first["id"]]
    assert (total["ok"], total["wrong"]) == (False, 1)
    assert tam.get("health/chains").status_code == 403


def test_a_missing_record_breaks_the_chain_in_words(tam: Api) -> None:
    first, second = tam.check(good(), at="2027-02-01T07:00:00+00:00").json(), tam.check(good()).json()
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM records_record WHERE id = %s", [uuid.UUID(first["id"]).hex])
    assert "missing" in tam.get(f"records/{second['id']}").json()["broken"]


def test_the_digest_can_be_calculated_from_the_answer_alone(tam: Api) -> None:
    import hashlib

    saved = tam.check(good()).json()
    fields = (
        "id",
        "instrument",
        "category",
        "kind",
        "stage",
        "pair",
        "amends",
        "why",
        "observed_at",
        "entry",
        "document",
        "result",
        "core_version",
        "sequence",
        "previous",
        "received_at",
        "arrival",
        "sent_digest",
        "device",
    )
    sealed = {name: saved[name] for name in fields} | {"observed_by": "tam", "entered_by": "tam"}
    text = json.dumps(sealed, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    assert hashlib.sha256(text.encode()).hexdigest() == saved["digest"]


def test_records_cannot_be_changed_or_removed(tam: Api) -> None:
    tam.check(good())
    record = Record.objects.get()
    for act in (record.save, record.delete, Record.objects.all().delete, lambda: Record.objects.update(kind="x")):
        with pytest.raises(AppendOnlyError):
            act()
    assert chain.broken(record) is None


class TestAmending:
    def test_same_day_undo_of_ones_own(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at="2027-02-20T07:00:00+00:00")
        wrong = tam.check(bad()).json()
        assert state(tam) == "hold"
        struck = tam.post(f"records/{wrong['id']}/amend", {"id": ID, "why": "wrong level was noted"})
        assert struck.status_code == 201
        assert state(tam) == "ready"
        seen = tam.get(f"records/{wrong['id']}").json()
        assert (seen["amended_by"], seen["amended_why"]) == (ID, "wrong level was noted")
        assert len(tam.get("instruments/LV-07/series").json()["points"]) == 1
        again = tam.post(f"records/{wrong['id']}/amend", {"id": str(uuid.uuid4()), "why": "again"})
        assert again.json()["code"] == "already-amended"

    def test_others_and_older_records_are_the_managers(self, tam: Api, wren: Api, ines: Api) -> None:
        answer = tam.check(good()).json()
        assert (
            wren.post(f"records/{answer['id']}/amend", {"id": ID, "why": "not mine"}).json()["code"] == "own-same-day"
        )
        assert ines.post(f"records/{answer['id']}/amend", {"id": ID, "why": "staff was damaged"}).status_code == 201

    def test_yesterdays_own_record_is_the_managers(self, tam: Api, monkeypatch) -> None:
        answer = tam.check(good()).json()
        monkeypatch.setattr("shared.clock.now", lambda: datetime(2027, 3, 3, 9, tzinfo=UTC))
        assert tam.post(f"records/{answer['id']}/amend", {"id": ID, "why": "too late"}).json()["code"] == "own-same-day"

    def test_a_corrected_check_replaces_the_old_one(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        wrong = tam.check(bad()).json()
        assert tam.check(good(), amends=wrong["id"]).json()["faults"][0]["path"] == "why"
        right = tam.check(good(), amends=wrong["id"], why="typed 1.7 for 1.6").json()
        assert tam.get(f"records/{wrong['id']}").json()["amended_by"] == right["id"]
        assert state(tam) == "ready"

    def test_a_reason_is_wanted_and_the_record_must_exist(self, tam: Api) -> None:
        answer = tam.check(good()).json()
        assert tam.post(f"records/{answer['id']}/amend", {"id": ID, "why": ""}).status_code == 422
        assert tam.post(f"records/{uuid.uuid4()}/amend", {"id": ID, "why": "nothing there"}).status_code == 422


def test_files_out_and_in_again(tam: Api) -> None:
    saved = tam.check(good()).json()
    file = tam.get(f"records/{saved['id']}/document")
    assert "LV-07-two-peg-2027-03-02.json" in file["Content-Disposition"]
    assert tam.send("POST", "kinds/two-peg/read", file.content).json() == saved["document"]
    table = tam.get(f"records/{saved['id']}/csv")
    back = tam.post("kinds/two-peg/csv", {"text": table.content.decode()}).json()
    assert back["observations"]["setups"] == saved["document"]["observations"]["setups"]
    wrong = tam.post("kinds/two-peg/csv", {"text": "setup;staff;reading\n1;C;1,2\n"})
    assert wrong.json()["faults"][0]["where"] == "line 2, column staff"
    assert tam.get("kinds/two-peg/schema").json()["properties"]["kind"]["const"] == "two-peg"
    assert tam.get("kinds/three-peg/schema").status_code == 422
    assert (
        next(kind for kind in tam.get("kinds").json() if kind["kind"] == "two-peg")["methods"][0]["name"]
        == "middle-then-near"
    )


def test_a_temperature_is_typed_like_any_number(tam: Api) -> None:
    saved = tam.check({**good(), "conditions": {"temperature_c": "4,5"}})
    assert saved.json()["document"]["conditions"]["temperature_c"] == "4,5", "kept to the letter"
    later = tam.check(good(), at="2027-03-02T06:45:00+00:00").json()
    assert later["document"]["before"][0]["temperature_c"] == 4.5
    wrong = tam.check({**good(), "conditions": {"temperature_c": "4..5"}})
    assert wrong.json()["faults"][0]["path"] == "conditions.temperature_c"
    assert (
        tam.check({**good(), "conditions": {"temperature_c": "140"}}).json()["faults"][0]["wanted"]
        == "a number at most 70"
    )


def test_a_record_says_for_what_its_instrument_was_out(tam: Api) -> None:
    early = tam.check(good(), at="2027-03-01T06:40:00+00:00").json()["id"]
    tam.event("out", "2027-03-01T07:00:00+00:00", crew="Bramble", note="East abutment")
    on_site = tam.check(good(), at="2027-03-01T09:00:00+00:00").json()["id"]
    tam.event("in", "2027-03-01T16:00:00+00:00", place="Yard")
    late = tam.check(good(), at="2027-03-01T16:30:00+00:00").json()["id"]
    said = [tam.get(f"records/{record}").json()["taken_out_for"] for record in (early, on_site, late)]
    assert said == ["", "Bramble crew: East abutment", ""]


@pytest.mark.parametrize(
    ("crew", "note", "said"),
    [
        ("Bramble", "", "Bramble crew: job Flood wall line"),
        ("Bramble", "for the flood wall line", "Bramble crew: for the flood wall line"),
        ("Thrift", "Deck", "Thrift crew: Deck"),
    ],
)
def test_and_which_job_of_the_crew_ran_that_day(ines: Api, crew: str, note: str, said: str) -> None:
    ines.compensators("LV-02", "LV-07")
    job = {"name": "Flood wall line", "starts_on": "2027-03-01", "ends_on": "2027-03-01", "crew": "Bramble"}
    assert ines.post("jobs", job).status_code == 201
    ines.check(good(), at="2027-02-27T06:00:00+00:00")
    assert ines.event("out", "2027-02-27T07:00:00+00:00", crew=crew, note=note).status_code == 201
    record = ines.check(good(), at="2027-03-01T09:00:00+00:00").json()["id"]
    assert ines.get(f"records/{record}").json()["taken_out_for"] == said
    after = ines.check(good(), at="2027-03-02T03:00:00+00:00").json()["id"]
    assert "job" not in ines.get(f"records/{after}").json()["taken_out_for"]
