"""The yard, who has what, looking back, and what a device brings along."""

from __future__ import annotations

from datetime import UTC, datetime

from django.db import connection

from naveta_core import __version__
from records import chain
from records.models import Record
from tests.core.unwritten import unwritten

from .conftest import Api, bad, good

ID = "3f1c1f6e-0000-4000-8000-000000000001"


def state(api: Api, tag: str = "LV-07") -> str:
    return api.get(f"instruments/{tag}").json()["standing"]["state"]


class TestYard:
    def test_worst_first_with_reasons_counts_and_search(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), instrument="LV-02")
        tam.check(good())
        tam.event("drop", "2027-03-02T07:00:00+00:00", note="off the tailgate")
        page = tam.get("instruments").json()
        assert [(instrument["tag"], instrument["standing"]["state"]) for instrument in page["instruments"]] == [
            ("LV-07", "hold"),
            ("LV-02", "ready"),
        ]
        assert page["counts"] == {"hold": 1, "ready": 1}
        assert "off the tailgate" in page["instruments"][0]["standing"]["reasons"][0]["text"]
        assert page["instruments"][1]["latest"]["text"] == "+1.0″"
        for query in ("lv2", "LV 02", "merrow shelf"):
            assert "LV-02" in [
                instrument["tag"] for instrument in tam.get(f"instruments?q={query}").json()["instruments"]
            ]
        assert tam.get("instruments?q=tripod").json()["instruments"] == []

    def test_pages_follow_one_another(self, tam: Api) -> None:
        first = tam.get("instruments?limit=1").json()
        second = tam.get(f"instruments?limit=1&cursor={first['next']}").json()
        assert [first["instruments"][0]["tag"], second["instruments"][0]["tag"]] == ["LV-02", "LV-07"]
        assert second["next"] is None
        tam.check(good())
        tam.check(good())
        answer = tam.get("records?instrument=lv7&limit=1").json()
        two = tam.get(f"records?instrument=lv7&limit=1&cursor={answer['next']}").json()
        assert (answer["records"][0]["sequence"], two["records"][0]["sequence"]) == (2, 1)

    def test_custody_and_crews(self, tam: Api, wren: Api, ines: Api) -> None:
        assert tam.event("out", "2027-03-02T06:45:00+00:00").status_code == 201
        assert tam.get("instruments/LV-07").json()["crew"] == "Bramble"
        assert wren.event("out", "2027-03-02T06:50:00+00:00").json()["code"] == "taken"
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
    back = tam.get(f"records/{found['id']}/impact-review").json()
    assert back["text"] == "Last good on 9 Feb 2027; taken out two times since."
    assert back["signed"] is None
    assert [event["event"] for event in back["events"]] == ["out", "in", "out", "in", "knock"]
    tam.event(
        "impact-reviewed", "2027-03-02T09:00:00+00:00", record=found["id"], note="balanced sights throughout, no harm"
    )
    assert tam.get(f"records/{found['id']}/impact-review").json()["signed"]["by"] == "Tam Brandreth"


def test_stand_ins_are_those_that_may_be_used(tam: Api) -> None:
    tam.compensators("LV-02", "LV-07")
    assert tam.get("instruments/LV-07/stand-ins").json() == []
    tam.check(good(), instrument="LV-02")
    offered = tam.get("instruments/LV-07/stand-ins").json()
    assert [instrument["tag"] for instrument in offered] == ["LV-02"]
    assert not [
        found
        for found in unwritten([offered, tam.get("instruments").json()])
        if "passed on" in found or "hold" in found
    ]


class TestCustody:
    def test_taking_out_taken_back_gives_it_to_whoever_had_it(self, tam: Api) -> None:
        answer = tam.event("out", "2027-03-02T06:45:00+00:00").json()
        tam.post(f"records/{answer['id']}/amend", {"id": ID, "why": "Taken back at once."})
        passport = tam.get("instruments/LV-07").json()
        assert (passport["crew"], passport["place"]) == (None, "Yard shelf 3")

    def test_what_arrives_late_does_not_undo_what_happened_after_it(self, tam: Api) -> None:
        """Handed in at five with signal; the morning's taking out only reached the server in the evening."""
        tam.event("in", "2027-03-02T17:00:00+00:00", place="Yard shelf 1")
        tam.event("out", "2027-03-02T07:00:00+00:00")
        passport = tam.get("instruments/LV-07").json()
        assert (passport["crew"], passport["place"]) == (None, "Yard shelf 1")

    def test_the_standing_follows_the_later_observation_whatever_came_first(self, tam: Api) -> None:
        tam.check(bad(), at="2027-03-02T06:30:00+00:00")
        tam.check(good(), at="2027-03-01T06:30:00+00:00")
        assert state(tam) == "hold"
        assert [r.sequence for r in Record.objects.order_by("observed_at_utc")] == [2, 1]


def test_two_clocks_apart_are_said_and_the_work_is_stored(tam: Api) -> None:
    """A record from next week would be the latest word until next week; whose clock is wrong nobody knows yet."""
    for answer in (tam.check(good(), at="2027-03-09T06:40:00+00:00"), tam.event("knock", "2028-01-01T00:00:00+00:00")):
        assert (answer.status_code, answer.json()["code"]) == (503, "clocks-differ")
        assert "02 March 2027 06:40" in answer.json()["title"]
        assert int(answer.headers["Retry-After"]) > 0
    assert not Record.objects.exists()
    assert tam.check(good(), at="2027-03-03T06:40:00+00:00").status_code == 201


def test_days_out_change_nothing_that_is_calculated_from_the_records(tam: Api) -> None:
    from fleet.models import Instrument
    from records.derived import derived_of

    tam.check(good())
    tam.event("out", "2027-03-02T07:00:00+00:00")
    tam.event("in", "2027-03-02T16:00:00+00:00")
    instrument = Instrument.objects.get(tag="LV-07")
    assert instrument.derived == derived_of(instrument)


class TestDevice:
    def device_result(self, document: dict, tam: Api) -> dict:
        """As a device does it: with what it was last given of the instrument."""
        from naveta_core.dispatch import reduce
        from tests.core.plain import context_of

        found = next(instrument for instrument in tam.get("device").json()["fleet"] if instrument["tag"] == "LV-07")
        known = context_of(found["stated"], found["limits"], found["history"])
        result = reduce(document, known, "2027-03-02T06:40:00+00:00")
        return {
            "core_version": __version__,
            "fingerprint": result["fingerprint"],
            "grade": result["result"]["verdict"]["grade"],
        }

    def test_server_and_device_agree_and_the_record_says_so(self, tam: Api) -> None:
        tam.check(good(), at="2027-02-20T07:00:00+00:00")
        entry = good(copies=1, c=4)
        saved = tam.check(entry, device_result=self.device_result(entry, tam)).json()
        assert saved["device"] == {"core_version": __version__, "grade": saved["grade"], "agrees": True}
        assert saved["device_notes"] == []
        assert saved["broken"] is None

    def test_where_they_differ_the_record_says_so_and_the_server_stands(self, tam: Api) -> None:
        claimed = {**self.device_result(good(), tam), "grade": "use"}
        saved = tam.check(bad(), device_result=claimed).json()
        assert (saved["grade"], saved["device"]["agrees"]) == ("adjust", False)
        assert saved["device_notes"][0]["code"] == "device-differs"
        assert state(tam) == "hold"
        record = Record.objects.get()
        assert chain.broken(record) is None
        with connection.cursor() as cursor:
            cursor.execute("UPDATE records_record SET device = '{}' WHERE id = %s", [record.pk.hex])
        assert chain.broken(Record.objects.get()) is not None

    def test_a_clock_that_was_hours_off_is_noted(self, tam: Api) -> None:
        assert tam.check(good(), clock_off_s=90).json()["device_notes"] == []
        noted = tam.check(good(), clock_off_s=3 * 3600, at="2027-03-02T03:40:00+00:00").json()
        assert "3 hours behind" in noted["device_notes"][0]["text"]
        event = tam.event("knock", "2027-03-02T03:41:00+00:00", clock_off_s=-7200)
        assert "2 hours ahead" in event.json()["device_notes"][0]["text"]
        # It counts from when it was by the server's clock: 03:41 less two hours.
        assert Record.objects.get(kind="knock").observed_at_utc == datetime(2027, 3, 2, 1, 41, tzinfo=UTC)

    def test_a_fingerprint_is_one(self, tam: Api) -> None:
        answer = tam.check(good(), device_result={"core_version": "1", "fingerprint": "x", "grade": "use"})
        assert answer.json()["faults"][0]["path"] == "device_result.fingerprint"

    def test_keys_are_each_persons_own_and_gone_when_signed_out(self, tam: Api, wren: Api) -> None:
        mine, hers = (api.get("session").json()["device_keys"] for api in (tam, wren))
        assert mine["firm"] == hers["firm"]
        assert mine["own"] != hers["own"]
        assert len(bytes.fromhex(mine["own"])) == 32
        assert tam.get("session").json()["device_keys"] == mine
        tam.send("DELETE", "session", {})
        assert tam.get("session").json()["device_keys"] is None
