"""Saving, sealing, amending; what the yard makes of it."""

from __future__ import annotations

import json
import uuid
from datetime import UTC, datetime

import pytest
from django.db import connection

from bench import chain
from bench.models import AppendOnlyError, Record
from naveta_core.checks import KINDS
from naveta_core.documents import GENESIS, document_of

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
    assert KINDS["two-peg"].reduce(document_of(saved["document"])) == saved["result"]


def test_preview_says_what_saving_will_store(tam: Api) -> None:
    shown = tam.post("checks/preview", {"instrument": "LV-07", "document": good()}).json()["reduced"]
    assert tam.check(good()).json()["result"] == shown


def test_the_house_states_instrument_and_limits_not_the_file(tam: Api, ines: Api) -> None:
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
    assert state(tam) == "check-first"
    found = tam.check(bad(), at="2027-03-02T06:40:00+00:00").json()
    assert found["grade"] == "adjust"
    assert state(tam) == "hold"
    guide = tam.post(
        "checks/adjusting", {"instrument": "LV-07", "document": found["document"], "reads_now": ["1.6010"]}
    ).json()
    assert guide["asked"] == "Staff A reads now"
    adjusted = tam.event("adjusted", "2027-03-02T06:55:00+00:00", record=found["id"], steps=["1.6010", "1.6003"])
    assert adjusted.status_code == 201
    left = tam.check(good(), at="2027-03-02T07:10:00+00:00", stage="as-left", pair=found["id"]).json()
    assert left["pair"] == found["id"]
    assert "before" not in left["document"], "an adjustment cuts the segment"
    assert state(tam) == "ready"
    assert tam.get(f"records/{found['id']}").json()["as_left"] == left["id"]
    series = tam.get("instruments/LV-07/series").json()
    assert [p["stage"] for p in series["points"]] == ["as-found", "as-left"]
    assert [e["event"] for e in series["events"]] == ["adjusted"]


def test_chain_seals_and_tells_a_tampered_record(tam: Api, ines: Api) -> None:
    first = tam.check(good(), at="2027-02-01T07:00:00+00:00").json()
    tam.event("knock", "2027-02-02T07:00:00+00:00", note="fell over")
    last = tam.check(good()).json()
    assert first["previous"] == GENESIS
    assert [r.sequence for r in Record.objects.order_by("sequence")] == [1, 2, 3]
    assert last["broken"] is None
    assert ines.get("health?chains=true").json()["ok"]
    changed = Record.objects.get(id=first["id"]).document.replace("two-peg", "two-pig", 1)
    with connection.cursor() as cursor:
        cursor.execute("UPDATE bench_record SET document = %s WHERE id = %s", [changed, uuid.UUID(first["id"]).hex])
    assert "changed after it was saved" in tam.get(f"records/{first['id']}").json()["broken"]
    assert ines.get("health?chains=true").json()["broken"] == [first["id"]]


def test_a_missing_record_breaks_the_chain_in_words(tam: Api) -> None:
    first, second = tam.check(good(), at="2027-02-01T07:00:00+00:00").json(), tam.check(good()).json()
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM bench_record WHERE id = %s", [uuid.UUID(first["id"]).hex])
    assert "missing" in tam.get(f"records/{second['id']}").json()["broken"]


def test_the_digest_can_be_reckoned_from_the_answer_alone(tam: Api) -> None:
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
        made = tam.check(good()).json()
        assert wren.post(f"records/{made['id']}/amend", {"id": ID, "why": "not mine"}).json()["code"] == "own-same-day"
        assert ines.post(f"records/{made['id']}/amend", {"id": ID, "why": "staff was damaged"}).status_code == 201

    def test_yesterdays_own_record_is_the_managers(self, tam: Api, monkeypatch) -> None:
        made = tam.check(good()).json()
        monkeypatch.setattr("shared.clock.now", lambda: datetime(2027, 3, 3, 9, tzinfo=UTC))
        assert tam.post(f"records/{made['id']}/amend", {"id": ID, "why": "too late"}).json()["code"] == "own-same-day"

    def test_a_corrected_check_replaces_the_old_one(self, tam: Api) -> None:
        wrong = tam.check(bad()).json()
        assert tam.check(good(), amends=wrong["id"]).json()["faults"][0]["path"] == "why"
        right = tam.check(good(), amends=wrong["id"], why="typed 1.7 for 1.6").json()
        assert tam.get(f"records/{wrong['id']}").json()["amended_by"] == right["id"]
        assert state(tam) == "ready"

    def test_a_reason_is_wanted_and_the_record_must_exist(self, tam: Api) -> None:
        made = tam.check(good()).json()
        assert tam.post(f"records/{made['id']}/amend", {"id": ID, "why": ""}).status_code == 422
        assert tam.post(f"records/{uuid.uuid4()}/amend", {"id": ID, "why": "nothing there"}).status_code == 422


class TestYard:
    def test_worst_first_with_reasons_counts_and_search(self, tam: Api) -> None:
        tam.check(good(), instrument="LV-02")
        tam.check(good())
        tam.event("drop", "2027-03-02T07:00:00+00:00", note="off the tailgate")
        page = tam.get("instruments").json()
        assert [(one["tag"], one["standing"]["state"]) for one in page["instruments"]] == [
            ("LV-07", "hold"),
            ("LV-02", "ready"),
        ]
        assert page["counts"] == {"hold": 1, "ready": 1}
        assert "off the tailgate" in page["instruments"][0]["standing"]["reasons"][0]["text"]
        assert page["instruments"][1]["latest"]["text"] == "+1.0″"
        for query in ("lv2", "LV 02", "merrow shelf"):
            assert "LV-02" in [one["tag"] for one in tam.get(f"instruments?q={query}").json()["instruments"]]
        assert tam.get("instruments?q=tripod").json()["instruments"] == []

    def test_pages_follow_one_another(self, tam: Api) -> None:
        first = tam.get("instruments?limit=1").json()
        second = tam.get(f"instruments?limit=1&cursor={first['next']}").json()
        assert [first["instruments"][0]["tag"], second["instruments"][0]["tag"]] == ["LV-02", "LV-07"]
        assert second["next"] is None
        tam.check(good())
        tam.check(good())
        one = tam.get("records?instrument=lv7&limit=1").json()
        two = tam.get(f"records?instrument=lv7&limit=1&cursor={one['next']}").json()
        assert (one["records"][0]["sequence"], two["records"][0]["sequence"]) == (2, 1)

    def test_custody_and_crews(self, tam: Api, wren: Api, ines: Api) -> None:
        assert tam.event("out", "2027-03-02T06:45:00+00:00").status_code == 201
        assert tam.get("instruments/LV-07").json()["crew"] == "Bramble"
        assert wren.event("out", "2027-03-02T06:50:00+00:00").json()["code"] == "own-crew"
        assert wren.event("in", "2027-03-02T06:50:00+00:00").json()["code"] == "own-crew"
        assert ines.event("out", "2027-03-02T06:55:00+00:00", crew="Thrift").status_code == 201
        assert wren.event("in", "2027-03-02T16:00:00+00:00", place="Yard shelf 1").status_code == 201
        assert tam.get("instruments/LV-07").json()["place"] == "Yard shelf 1"
        assert ines.event("out", "2027-03-02T17:00:00+00:00", crew="Nobody").json()["faults"][0]["path"] == "crew"

    def test_holding_wants_a_reason_and_releasing_a_manager(self, tam: Api, ines: Api) -> None:
        tam.check(good())
        assert tam.event("held", "2027-03-02T07:00:00+00:00").json()["faults"][0]["path"] == "note"
        tam.event("held", "2027-03-02T07:00:00+00:00", note="feels loose")
        assert state(tam) == "hold"
        assert tam.event("released", "2027-03-02T08:00:00+00:00", note="fine").json()["code"] == "manager-only"
        ines.event("released", "2027-03-02T08:00:00+00:00", note="spare only")
        passport = tam.get("instruments/LV-07").json()
        assert passport["standing"]["state"] == "ready-if"
        assert "Ines Calder: spare only" in passport["standing"]["reasons"][0]["text"]


def test_look_back_and_signing_it(tam: Api) -> None:
    tam.check(good(), at="2027-02-09T07:00:00+00:00")
    for day in ("10", "15"):
        tam.event("out", f"2027-02-{day}T07:00:00+00:00")
        tam.event("in", f"2027-02-{day}T17:00:00+00:00")
    tam.event("knock", "2027-03-01T14:10:00+00:00")
    found = tam.check(bad()).json()
    back = tam.get(f"records/{found['id']}/look-back").json()
    assert back["text"] == "Last good on Tuesday 9 February 2027; taken out two times since."
    assert back["signed"] is None
    assert [one["event"] for one in back["events"]] == ["out", "in", "out", "in", "knock"]
    tam.event(
        "looked-back", "2027-03-02T09:00:00+00:00", record=found["id"], note="balanced sights throughout, no harm"
    )
    assert tam.get(f"records/{found['id']}/look-back").json()["signed"]["by"] == "Tam Brandreth"


def test_stand_ins_are_those_that_may_be_used(tam: Api) -> None:
    assert tam.get("instruments/LV-07/stand-ins").json() == []
    tam.check(good(), instrument="LV-02")
    assert [one["tag"] for one in tam.get("instruments/LV-07/stand-ins").json()] == ["LV-02"]


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
        next(one for one in tam.get("kinds").json() if one["kind"] == "two-peg")["layouts"][0]["name"]
        == "middle-then-near"
    )


class TestCustody:
    def test_taking_out_taken_back_gives_it_to_whoever_had_it(self, tam: Api) -> None:
        made = tam.event("out", "2027-03-02T06:45:00+00:00").json()
        tam.post(f"records/{made['id']}/amend", {"id": ID, "why": "Taken back at once."})
        passport = tam.get("instruments/LV-07").json()
        assert (passport["crew"], passport["place"]) == (None, "Yard shelf 3")

    def test_what_arrives_late_does_not_undo_what_happened_after_it(self, tam: Api) -> None:
        """Handed in at five with signal; the morning's taking out only reached the house in the evening."""
        tam.event("in", "2027-03-02T17:00:00+00:00", place="Yard shelf 1")
        tam.event("out", "2027-03-02T07:00:00+00:00")
        passport = tam.get("instruments/LV-07").json()
        assert (passport["crew"], passport["place"]) == (None, "Yard shelf 1")

    def test_the_standing_follows_the_later_observation_whatever_came_first(self, tam: Api) -> None:
        tam.check(bad(), at="2027-03-02T06:30:00+00:00")
        tam.check(good(), at="2027-03-01T06:30:00+00:00")
        assert state(tam) == "hold"
        assert [r.sequence for r in Record.objects.order_by("observed_at_utc")] == [2, 1]


def test_a_device_whose_clock_runs_ahead_is_told_so(tam: Api) -> None:
    """A record from next week would be the latest word until next week."""
    for answer in (tam.check(good(), at="2027-03-09T06:40:00+00:00"), tam.event("knock", "2028-01-01T00:00:00+00:00")):
        assert answer.status_code == 422
        assert "clock" in answer.json()["faults"][0]["wanted"]
    assert not Record.objects.exists()
    assert tam.check(good(), at="2027-03-03T06:40:00+00:00").status_code == 201


def test_days_out_change_nothing_that_is_reckoned_from_the_records(tam: Api) -> None:
    from bench.facts import facts_of
    from fleet.models import Instrument

    tam.check(good())
    tam.event("out", "2027-03-02T07:00:00+00:00")
    tam.event("in", "2027-03-02T16:00:00+00:00")
    instrument = Instrument.objects.get(tag="LV-07")
    assert instrument.facts == facts_of(instrument)


def test_a_temperature_is_typed_like_any_number(tam: Api) -> None:
    saved = tam.check({**good(), "conditions": {"temperature_c": "4,5"}})
    assert saved.json()["document"]["conditions"]["temperature_c"] == "4,5", "kept to the letter"
    later = tam.check(good(), at="2027-03-02T06:45:00+00:00").json()
    assert later["document"]["before"][0]["temperature_c"] == "4,5"
    wrong = tam.check({**good(), "conditions": {"temperature_c": "4..5"}})
    assert wrong.json()["faults"][0]["path"] == "conditions.temperature_c"
    assert (
        tam.check({**good(), "conditions": {"temperature_c": "140"}}).json()["faults"][0]["wanted"]
        == "a number at most 70"
    )


class TestDevice:
    def reckoned(self, document: dict, tam: Api) -> dict:
        """As a device does it: with what it was last told of the instrument."""
        from naveta_core.door import reduce
        from naveta_core.segment import known_with

        told = next(one for one in tam.get("device").json()["fleet"] if one["tag"] == "LV-07")
        known = known_with(told["stated"], told["limits"], told["made"])
        made = reduce(document, known, "2027-03-02T06:40:00+00:00")
        return {
            "core_version": "0.2.0",
            "fingerprint": made["fingerprint"],
            "grade": made["result"]["verdict"]["grade"],
        }

    def test_house_and_device_agree_and_the_record_says_so(self, tam: Api) -> None:
        tam.check(good(), at="2027-02-20T07:00:00+00:00")
        one = good(copies=1, c=4)
        saved = tam.check(one, reckoned=self.reckoned(one, tam)).json()
        assert saved["device"] == {"core_version": "0.2.0", "grade": saved["grade"], "agrees": True}
        assert saved["device_says"] == []
        assert saved["broken"] is None

    def test_where_they_differ_the_record_says_so_and_the_house_stands(self, tam: Api) -> None:
        claimed = {**self.reckoned(good(), tam), "grade": "use"}
        saved = tam.check(bad(), reckoned=claimed).json()
        assert (saved["grade"], saved["device"]["agrees"]) == ("adjust", False)
        assert saved["device_says"][0]["code"] == "device-differs"
        assert state(tam) == "hold"
        record = Record.objects.get()
        assert chain.broken(record) is None
        with connection.cursor() as cursor:
            cursor.execute("UPDATE bench_record SET device = '{}' WHERE id = %s", [record.pk.hex])
        assert chain.broken(Record.objects.get()) is not None

    def test_a_clock_that_was_hours_off_is_noted(self, tam: Api) -> None:
        assert tam.check(good(), clock_off_s=90).json()["device"] is None
        noted = tam.check(good(), clock_off_s=3 * 3600, at="2027-03-02T03:40:00+00:00").json()
        assert "3 hours behind" in noted["device_says"][0]["text"]
        event = tam.event("knock", "2027-03-02T03:41:00+00:00", clock_off_s=-7200)
        assert "2 hours ahead" in event.json()["device_says"][0]["text"]

    def test_a_fingerprint_is_one(self, tam: Api) -> None:
        answer = tam.check(good(), reckoned={"core_version": "1", "fingerprint": "x", "grade": "use"})
        assert answer.json()["faults"][0]["path"] == "reckoned.fingerprint"

    def test_keys_are_each_persons_own_and_gone_when_signed_out(self, tam: Api, wren: Api) -> None:
        mine, hers = (api.get("session").json()["device_keys"] for api in (tam, wren))
        assert mine["firm"] == hers["firm"]
        assert mine["own"] != hers["own"]
        assert len(bytes.fromhex(mine["own"])) == 32
        assert tam.get("session").json()["device_keys"] == mine
        tam.send("DELETE", "session", {})
        assert tam.get("session").json()["device_keys"] is None
