"""What belongs into a case and what was missing, the departure list, photographs and certificates."""

from __future__ import annotations

import hashlib
from io import BytesIO
from typing import Any

import pytest
from PIL import Image

from fleet import attachments_api
from fleet.attachments import path_of
from fleet.models import Attachment, Instrument, InstrumentModel
from records.models import Record
from tests.server.conftest import Api, good

AT = "2027-03-02T06:40:00+00:00"
LATER = "2027-03-02T17:00:00+00:00"
PDF = b"%PDF-1.7\nwhat was done to it\n%%EOF"


def item(api: Api, tag: str = "LV-07") -> dict[str, Any]:
    return api.get(f"instruments/{tag}").json()


def picture(size: tuple[int, int] = (2400, 1200), form: str = "JPEG", **more: Any) -> bytes:
    image = Image.new("RGB", size, (200, 180, 150))
    image.putpixel((0, 0), (0, 0, 0))
    written = BytesIO()
    image.save(written, form, **more)
    return written.getvalue()


class TestContents:
    def test_what_is_missing_is_on_record_and_stands_until_somebody_looks_again(self, tam: Api) -> None:
        tam.check(good(), at=AT)
        assert item(tam)["missing"] is None
        assert "Rain cover" in item(tam)["contents"]
        answer = tam.event("out", AT, case_looked=True, missing=["Rain cover"])
        assert answer.status_code == 201, answer.content
        missing = item(tam)["missing"]
        assert (missing["items"], missing["by"], missing["text"]) == (
            ["Rain cover"],
            "Tam Brandreth",
            "Missing: rain cover",
        )
        document = tam.get(f"records/{answer.json()['id']}").json()["document"]
        assert document["missing"] == ["Rain cover"]
        assert document["contents"] == item(tam)["contents"]
        assert tam.event("in", LATER).status_code == 201
        assert item(tam)["missing"]["items"] == ["Rain cover"], "nobody looked: it is still missing"
        tam.event("out", "2027-03-02T17:05:00+00:00", case_looked=True)
        assert item(tam)["missing"]["text"] == "Nothing missing"

    def test_undoing_it_brings_back_what_was_known_before(self, tam: Api) -> None:
        tam.check(good(), at=AT)
        tam.event("out", AT, case_looked=True, missing=["Plumb bob"])
        second = tam.event("in", LATER, case_looked=True).json()["id"]
        assert item(tam)["missing"]["items"] == []
        struck = tam.post(f"records/{second}/amend", {"id": "6e617665-7461-4000-8000-0000000000aa", "why": "Undone."})
        assert struck.status_code == 201, struck.content
        assert item(tam)["missing"]["items"] == ["Plumb bob"]

    def test_a_firm_writes_its_own_list(self, tam: Api, ines: Api) -> None:
        model = next(each for each in ines.get("models").json() if each["name"] == "Merrow")
        assert model["contents"] == []
        assert model["usual_contents"] == item(tam)["contents"]
        facts = {name: model[name] for name in ("maker", "name", "stated", "tips", "adjusting_tips", "version")}
        changed = ines.put(f"models/{model['id']}", {**facts, "contents": ["Key, 1 mm", " ", "Key, 1 mm", "Strap"]})
        assert changed.json()["contents"] == ["Key, 1 mm", "Strap"]
        assert item(tam)["contents"] == ["Key, 1 mm", "Strap"]
        refused = tam.event("in", AT, case_looked=True, missing=["Rain cover"])
        assert refused.status_code == 422
        assert refused.json()["faults"][0]["wanted"].endswith("Key, 1 mm, Strap")
        assert "what belongs into its case" in str(ines.get("changes?about=model").json())

    def test_the_departure_list_says_ready_or_not(self, tam: Api) -> None:
        tam.check(good(), at=AT)
        assert [each["code"] for each in item(tam)["departure"]] == ["tools"]
        answer = tam.event("out", AT, ready=[])
        document = tam.get(f"records/{answer.json()['id']}").json()["document"]
        assert document["departure"] == "Not ready: adjusting tools not in the case"
        again = tam.event("out", LATER, instrument="LV-02", note="in a hurry", ready=["tools"])
        assert tam.get(f"records/{again.json()['id']}").json()["document"]["departure"] == "Ready to leave"
        assert tam.event("out", LATER, instrument="LV-02", note="x", ready=["wings"]).status_code == 422


def put(api: Api, path: str, data: bytes, **headers: Any) -> Any:
    return api.client.generic(
        "PUT",
        f"/api/{path}",
        data,
        content_type="application/octet-stream",
        headers={"x-csrftoken": api.token},
        **headers,
    )


class TestPhotograph:
    def test_it_is_turned_made_smaller_and_says_nothing_of_where(self, tam: Api) -> None:
        """Taken on its side at a place: 2,400 by 1,200 pixels are kept upright as 800 by 1,600 with no word beside them."""
        exif = Image.Exif()
        exif[0x0112] = 6
        exif[0x010E] = "Pellow Creek"
        exif[0x8825] = {1: "N", 2: (50.0, 12.0, 30.0)}
        sent = picture(exif=exif.tobytes())
        assert b"Pellow Creek" in sent
        answer = put(tam, "instruments/LV-07/photograph", sent)
        assert answer.status_code == 200, answer.content
        kept = tam.client.get(item(tam)["photograph"])
        data = b"".join(kept.streaming_content)
        with Image.open(BytesIO(data)) as shown:
            assert shown.size == (800, 1600)
            assert dict(shown.getexif()) == {}
        assert b"Pellow Creek" not in data
        assert b"Exif" not in data
        assert hashlib.sha256(data).hexdigest() == answer.json()["digest"]
        assert kept["Content-Type"] == "image/jpeg"

    def test_a_new_one_takes_its_place_and_it_can_be_removed(self, tam: Api) -> None:
        first = put(tam, "instruments/LV-07/photograph", picture((300, 200))).json()["path"]
        second = put(tam, "instruments/LV-07/photograph", picture((200, 300), "PNG")).json()["path"]
        assert item(tam)["photograph"] == second != first
        assert tam.delete("instruments/LV-07/photograph").status_code == 204
        assert item(tam)["photograph"] is None

    @pytest.mark.parametrize("data", [b"not a picture", b"\xff\xd8\xff\xe0 cut short", b"GIF89a", picture()[:900]])
    def test_a_picture_that_is_none_is_said(self, tam: Api, data: bytes) -> None:
        answer = put(tam, "instruments/LV-07/photograph", data)
        assert answer.status_code == 422
        assert answer.json()["faults"][0]["wanted"] == "a picture: JPEG, PNG or WebP"
        assert item(tam)["photograph"] is None

    @pytest.mark.long
    def test_one_of_a_hundred_million_pixels_is_not_opened(self, tam: Api) -> None:
        sent = picture((10_000, 10_000), "PNG")
        answer = put(tam, "instruments/LV-07/photograph", sent)
        assert answer.status_code == 422
        assert answer.json()["faults"][0]["given"] == "10000 by 10000 pixels"


class TestCertificate:
    def test_it_comes_back_from_service_with_it(self, ines: Api) -> None:
        ines.event("service-out", "2027-02-20T08:00:00+00:00", note="yearly service")
        kept = put(ines, "instruments/LV-07/certificates?name=service 2027.pdf", PDF)
        assert kept.status_code == 201, kept.content
        digest = kept.json()["digest"]
        assert digest == hashlib.sha256(PDF).hexdigest()
        back = ines.event(
            "service-in", AT, note="cleaned", certificate=digest, resets=["line-of-sight"], cost="180,50", days_cost=60
        )
        assert back.status_code == 201, back.content
        document = ines.get(f"records/{back.json()['id']}").json()["document"]
        assert (document["certificate"], document["resets"], document["cost"]) == (digest, ["line-of-sight"], 180.5)
        (listed,) = item(ines)["certificates"]
        assert (listed["name"], listed["by"], listed["size"]) == ("service 2027.pdf", "Ines Calder", len(PDF))
        file = ines.client.get(listed["path"])
        assert b"".join(file.streaming_content) == PDF
        assert file["Content-Disposition"].startswith("attachment")

    def test_what_cannot_be_is_said_and_nothing_is_kept(self, ines: Api, tam: Api) -> None:
        assert put(tam, "instruments/LV-07/certificates", PDF).status_code == 403
        answer = put(ines, "instruments/LV-07/certificates?name=virus.exe", b"MZ not a document")
        assert answer.json()["faults"][0]["wanted"] == "a PDF, JPEG or PNG file"
        assert "virus.exe" in answer.json()["faults"][0]["given"]
        forty = put(ines, "instruments/LV-07/certificates", PDF, CONTENT_LENGTH=40 * 1024 * 1024)
        assert forty.status_code == 422
        assert (forty.json()["faults"][0]["given"], forty.json()["faults"][0]["wanted"]) == (
            "40 MB",
            "a file of at most 20 MB",
        )
        back = ines.event("service-in", AT, note="cleaned", certificate="0" * 64)
        assert back.json()["faults"][0]["path"] == "certificate"
        assert ines.event("service-in", AT, note="cleaned", resets=["wings"]).status_code == 422
        assert ines.event("service-in", AT, note="cleaned", cost="-3").status_code == 422
        assert not Attachment.objects.exists()
        assert not Record.objects.filter(kind="service-in").exists()

    def test_one_that_says_nothing_of_its_length_is_cut_off(self, ines: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr(attachments_api, "MAX_CERTIFICATE", 20)
        assert put(ines, "instruments/LV-07/certificates", PDF).status_code == 422
        assert put(ines, "instruments/LV-07/certificates", b"").json()["faults"][0]["given"] == "nothing"

    def test_nobody_reads_them_without_signing_in_and_nothing_else_is_read(self, ines: Api) -> None:
        path = put(ines, "instruments/LV-07/certificates", PDF).json()["path"]
        assert Api(None).client.get(path).status_code == 401
        assert ines.get("attachments/../secret-key").status_code == 404
        assert path_of("ab" * 32) == f"attachments/ab/{'ab' * 32}"


def test_every_kind_of_instrument_has_a_list(ines: Api) -> None:
    from fleet.models import KINDS
    from naveta_core.history.case_lists import DEFAULT_CONTENTS

    assert set(DEFAULT_CONTENTS) <= set(KINDS)
    assert InstrumentModel.objects.count() == 1
    assert Instrument.objects.count() == 2
