"""What no body, mark or time may do: take an answer of ours for a fault of theirs, fill the disk, go unheard, pass a hold."""

from __future__ import annotations

import json
from typing import Any

import pytest

from fleet.models import Instrument
from records.models import Record

from .conftest import Api, bad, good, looked
from .test_records import state

ID = "3f1c1f6e-0000-4000-8000-000000000001"
LONE = b'"\\ud800"'


def refused(answer: Any, status: int, sentence: str = "") -> None:
    """It is refused in the one shape, and not as a fault of ours."""
    assert answer.status_code == status, answer.content[:400]
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert sentence in answer.content.decode()


class TestBodies:
    @pytest.mark.parametrize("path", ["preview", "set-up/guide", "documents/repeat", "documents/from-file"])
    @pytest.mark.parametrize("kind", [[], {}, None, 3])
    def test_a_kind_that_is_no_text_is_a_fault_in_the_document(self, tam: Api, path: str, kind: Any) -> None:
        answer = tam.post(path, {"document": {"kind": kind}})
        assert answer.status_code in (200, 422), answer.content[:300]
        assert b"our-fault" not in answer.content

    @pytest.mark.parametrize(
        "body",
        [
            b'{"username": ' + LONE + b', "password": "x"}',
            b'{"username": "tam", "password": ' + LONE + b"}",
            b'{"username": "tam\\u0000", "password": "x"}',
            b'{"username": "tam", "username": "ines", "password": "x"}',
        ],
    )
    @pytest.mark.usefixtures("firm")
    def test_signing_in_reads_as_strictly_as_a_document(self, body: bytes) -> None:
        refused(Api(None).send("POST", "session", body), 400)

    @pytest.mark.usefixtures("firm")
    def test_an_unknown_field_is_named(self) -> None:
        refused(Api(None).post("session", {"username": "tam", "password": "x", "role": "manager"}), 422, "role")

    @pytest.mark.parametrize("text", ["\x00", "\ud800"])
    def test_signs_no_text_may_hold(self, tam: Api, text: str) -> None:
        event = {"instrument": "LV-07", "event": "knock", "at": "2027-03-02T06:40:00+00:00", "note": text}
        refused(tam.put(f"events/{ID}", event), 400)
        assert not Record.objects.exists()

    @pytest.mark.parametrize("field", ["note", "crew", "place"])
    def test_every_text_has_its_length(self, tam: Api, field: str) -> None:
        event = {"instrument": "LV-07", "event": "out", "at": "2027-03-02T06:40:00+00:00", field: "x" * 501}
        refused(tam.put(f"events/{ID}", event), 422, field)

    def test_a_table_of_two_hundred_thousand_signs(self, tam: Api) -> None:
        answer = tam.post("kinds/two-peg/csv", {"text": "x" * 200_000})
        refused(answer, 422)
        refused(tam.post("kinds/two-peg/csv", {"text": "x" * 2_000_000}), 400)

    def test_what_the_wire_now_reads_is_one_figure_each(self, tam: Api) -> None:
        for reads in ([[]], [{}], {}, "1"):
            answer = tam.post("checks/adjusting", {"instrument": "LV-07", "document": bad(), "reads_now": reads})
            refused(answer, 422, "reads_now")

    def test_a_body_in_parts_that_are_none(self, tam: Api) -> None:
        for kind in ("multipart/form-data", "multipart/form-data; boundary=", "multipart/form-data; boundary=\u00e9"):
            answer = tam.client.post("/api/preview", b"--x", content_type=kind, headers={"x-csrftoken": tam.token})
            assert answer.status_code in (400, 422), answer.content[:300]

    @pytest.mark.parametrize("accuracy", ["1e-308", "1e308", "1e300", "-1", "0"])
    def test_an_accuracy_no_instrument_has(self, tam: Api, accuracy: str) -> None:
        document = {**bad(), "instrument": {"sd_1km_mm": float(accuracy)}}
        refused(tam.send("POST", "kinds/two-peg/read", json.dumps(document).encode()), 422, "sd_1km_mm")

    @pytest.mark.parametrize("mark", ["-5", str(2**63), str(2**70), "0x1"])
    def test_marks_no_page_ended_at(self, tam: Api, mark: str) -> None:
        import base64

        cursor = base64.urlsafe_b64encode(f"[{mark}]".encode()).decode().rstrip("=")
        answer = tam.get(f"records?cursor={cursor}")
        assert answer.status_code in (200, 422)
        if answer.status_code == 200:
            assert answer.json() == {"records": [], "next": None}
        assert tam.get(f"device?since={mark}").status_code == 422


class TestTimes:
    @pytest.mark.parametrize("at", ["0001-01-01T00:00:00+00:00", "0001-01-01T00:00:00+14:00", "1999-12-31T00:00:00Z"])
    def test_before_its_first_day_here_the_clock_is_asked_for(self, tam: Api, at: str) -> None:
        for answer in (tam.check(good(), at=at), tam.event("drop", at)):
            refused(answer, 422)
        assert not Record.objects.exists()

    def test_a_drop_given_by_a_clock_that_is_years_off_holds_it(self, tam: Api) -> None:
        """A tablet whose clock began in 2000 knows from the server by how much it is off."""
        tam.check(good())
        off = 857_087_000  # from 2000-01-01T00:05 to the morning of the check, to within the minute
        response = tam.event("drop", "2000-01-01T00:05:00+00:00", clock_off_s=off)
        assert response.status_code == 201, response.content
        assert Record.objects.get(kind="drop").observed_at_utc.year == 2027
        assert state(tam) == "hold"

    def test_in_the_same_second_the_drop_counts(self, tam: Api) -> None:
        at = "2027-03-02T06:40:00+00:00"
        tam.event("drop", at)
        tam.check(looked(good()), at=at)
        assert state(tam) == "hold"


class TestTakingOutWhatIsHeld:
    def test_from_any_page_however_stale(self, tam: Api, ines: Api) -> None:
        tam.check(bad(), at="2027-03-02T06:30:00+00:00")
        assert state(tam) == "hold"
        for api in (tam, ines):
            answer = api.event("out", "2027-03-02T06:35:00+00:00", crew="Bramble")
            assert (answer.status_code, answer.json()["code"]) == (409, "on-hold")
            assert "LV-07 is on hold and stays here" in answer.json()["title"]
        assert Instrument.objects.get(tag="LV-07").crew is None

    def test_taken_out_without_signal_before_the_hold_is_stored(self, tam: Api, ines: Api) -> None:
        tam.check(good(), at="2027-03-01T06:30:00+00:00")
        ines.event("held", "2027-03-02T06:30:00+00:00", note="feels loose")
        assert tam.event("out", "2027-03-02T06:00:00+00:00").status_code == 201
        assert state(tam) == "hold"

    def test_handing_in_what_is_held_is_always_right(self, tam: Api) -> None:
        tam.check(good(), at="2027-03-01T06:30:00+00:00")
        tam.event("out", "2027-03-01T07:00:00+00:00")
        tam.event("drop", "2027-03-01T09:00:00+00:00")
        assert tam.event("in", "2027-03-01T17:00:00+00:00").status_code == 201
