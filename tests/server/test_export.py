"""Everything out in one zip and back into an empty Naveta: same digests; what is wrong with a zip is stated, nothing changed."""

from __future__ import annotations

import hashlib
import json
import zipfile
from pathlib import Path
from typing import Any

import pytest
from django.core.files.storage import default_storage
from django.core.management import CommandError, call_command
from django.db import connection
from operations.backups import BackupError
from operations.daily import BACKUPS, EXPORTS
from operations.entities import ENTITIES
from operations.exporting import MANIFEST, Exported, export_all
from operations.importing import Imported, import_all

from fleet.models import Attachment, Instrument
from people.models import Person, SettingChange
from records.chain import walk
from records.models import Record
from tests.server.conftest import Api, good

from .test_cases import picture

AT = "2027-03-01T06:40:00+00:00"


@pytest.fixture
def filled(tam: Api, wren: Api) -> None:
    """Checks, a knock, a struck record, a picture of a case, a changed limit of a model, a job, a rule."""
    first = tam.check(good(), at=AT).json()["id"]
    tam.event("knock", AT, note="Against the rail")
    wren.check(good(), at=AT, instrument="LV-02")
    body = {"id": "6e617665-7461-4000-8000-0000000000bb", "why": "Read the wrong staff."}
    assert tam.post(f"records/{first}/amend", body).status_code in (201, 403)
    ines = Api(Person.objects.get(username="ines"))
    assert ines.send("PUT", "instruments/LV-07/photograph", picture()).status_code == 200
    SettingChange.objects.create(
        about=f"model:{Instrument.objects.get(tag='LV-07').model_id}",
        version=1,
        field="tips",
        label="tips",
        before="",
        after="Mind the cap.",
        by=Person.objects.get(username="ines"),
        at="2027-03-01T06:00:00+00:00",
    )


def out(file: Path) -> Exported:
    *_, last = export_all(file)
    assert isinstance(last, Exported)
    return last


def emptied() -> None:
    """As a new Naveta: nothing, and no file."""
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA foreign_keys=OFF" if connection.vendor == "sqlite" else "SELECT 1")
    for table in (Record, Attachment, SettingChange, Instrument):
        table.objects.all()._raw_delete(connection.alias)
    for entity in reversed(ENTITIES):
        entity.model._default_manager.all()._raw_delete(connection.alias)
    for folder in default_storage.listdir("attachments")[0]:
        for name in default_storage.listdir(f"attachments/{folder}")[1]:
            default_storage.delete(f"attachments/{folder}/{name}")


def members(file: Path) -> dict[str, bytes]:
    with zipfile.ZipFile(file) as packed:
        return {name: packed.read(name) for name in packed.namelist()}


def written(file: Path, held: dict[str, bytes]) -> Path:
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, content in held.items():
            packed.writestr(name, content)
    return file


def restated(held: dict[str, bytes], name: str, content: bytes) -> dict[str, bytes]:
    """A member changed, and the manifest with it, as somebody would who knows the format."""
    manifest = json.loads(held[MANIFEST])
    manifest["members"][name] = {"sha256": hashlib.sha256(content).hexdigest(), "bytes": len(content)}
    return {**held, name: content, MANIFEST: json.dumps(manifest).encode()}


@pytest.mark.usefixtures("filled")
def test_out_and_into_an_empty_one_gives_the_same_digests(tmp_path: Path) -> None:
    digests = {str(pk): (digest, at) for pk, digest, at in Record.objects.values_list("pk", "digest", "arrival")}
    derived = {i.tag: (i.derived, i.chain_head, str(i.model)) for i in Instrument.objects.select_related("model")}
    found = out(tmp_path / "a.zip")
    assert (found.records, found.instruments) == (len(digests), 2)
    picture_digest = Attachment.objects.get().digest
    emptied()
    assert not default_storage.exists(f"attachments/{picture_digest[:2]}/{picture_digest}")
    *steps, last = import_all(tmp_path / "a.zip")
    assert last == Imported(len(digests), 2)
    assert steps[-1] == (len(digests), len(digests))
    assert {str(pk): (d, at) for pk, d, at in Record.objects.values_list("pk", "digest", "arrival")} == digests
    now = {i.tag: (i.derived, i.chain_head, str(i.model)) for i in Instrument.objects.select_related("model")}
    assert now == derived
    assert not any(entry.wrong for entry in walk())
    with default_storage.open(f"attachments/{picture_digest[:2]}/{picture_digest}") as kept:
        assert hashlib.sha256(kept.read()).hexdigest() == picture_digest
    model = Instrument.objects.get(tag="LV-07").model_id
    assert SettingChange.objects.filter(about=f"model:{model}", field="tips").exists(), "about the model as it is here"
    assert out(tmp_path / "b.zip").records == len(digests)
    first, second = members(tmp_path / "a.zip"), members(tmp_path / "b.zip")
    assert {n: c for n, c in first.items() if n != MANIFEST} == {n: c for n, c in second.items() if n != MANIFEST}


@pytest.mark.usefixtures("filled")
def test_what_comes_after_an_import_is_told_to_devices_and_goes_on_counting(tmp_path: Path) -> None:
    out(tmp_path / "a.zip")
    latest = max(Record.objects.values_list("arrival", flat=True))
    emptied()
    list(import_all(tmp_path / "a.zip"))
    tam = Api(Person.objects.get(username="tam"))
    answer = tam.event("knock", "2027-03-01T08:00:00+00:00", note="After it came here")
    assert answer.status_code == 201
    assert Record.objects.get(pk=answer.json()["id"]).arrival > latest


@pytest.mark.usefixtures("filled")
def test_no_password_and_no_key_of_the_database_goes_out(tmp_path: Path) -> None:
    out(tmp_path / "a.zip")
    held = members(tmp_path / "a.zip")
    people = json.loads(held["people.json"])
    assert {"username", "name", "role", "crew"} <= set(people[0])
    assert not {"password", "id", "last_login", "sessions"} & set(people[0])
    line = json.loads(held["records/LV-02.jsonl"].splitlines()[0])
    digest = line.pop("digest")
    text = json.dumps(line, ensure_ascii=False, sort_keys=True, separators=(",", ":"))
    assert hashlib.sha256(text.encode()).hexdigest() == digest, "anybody can work it out with a library of theirs"


@pytest.mark.usefixtures("filled")
def test_every_row_is_of_the_schema_beside_it(tmp_path: Path) -> None:
    from jsonschema_rs import Draft202012Validator

    out(tmp_path / "a.zip")
    held = members(tmp_path / "a.zip")
    for entity in ENTITIES:
        schema = json.loads(held[f"schemas/{entity.name}.json"])
        Draft202012Validator(schema).validate(json.loads(held[f"{entity.name}.json"]))
    lines = Draft202012Validator(json.loads(held["schemas/records.json"]))
    documents = 0
    for name in held:
        for line in held[name].splitlines() if name.startswith("records/") else ():
            row = json.loads(line)
            lines.validate(row)
            if row["category"] == "check":
                schema = json.loads(held[f"schemas/documents/{row['kind']}.json"])
                Draft202012Validator(schema).validate(row["document"])
                documents += 1
    assert documents == 2


def _changed_byte(held: dict[str, bytes]) -> dict[str, bytes]:
    return {**held, "crews.json": held["crews.json"].replace(b"Thrift", b"Thrist")}


def _no_schema(held: dict[str, bytes]) -> dict[str, bytes]:
    return {name: content for name, content in held.items() if name != "schemas/jobs.json"}


def _climbs(held: dict[str, bytes]) -> dict[str, bytes]:
    return restated(held, "../../climbed.json", b"[]")


def _not_named(held: dict[str, bytes]) -> dict[str, bytes]:
    return {**held, "records/LV-99.jsonl": b""}


def _bomb(held: dict[str, bytes]) -> dict[str, bytes]:
    """Ten times as large as its manifest says."""
    return {**held, "jobs.json": b" " * 200_000}


def _huge(held: dict[str, bytes]) -> dict[str, bytes]:
    manifest = json.loads(held[MANIFEST])
    manifest["members"]["jobs.json"]["bytes"] = 10**15
    return {**held, MANIFEST: json.dumps(manifest).encode()}


def _figure(held: dict[str, bytes]) -> dict[str, bytes]:
    name = "records/LV-02.jsonl"
    return restated(held, name, held[name].replace(b'"grade":"use"', b'"grade":"fit"', 1))


def _gap(held: dict[str, bytes]) -> dict[str, bytes]:
    name = "records/LV-07.jsonl"
    return restated(held, name, b"\n".join(held[name].splitlines()[1:]) + b"\n")


def _no_person(held: dict[str, bytes]) -> dict[str, bytes]:
    people = [row for row in json.loads(held["people.json"]) if row["username"] != "wren"]
    return restated(held, "people.json", json.dumps(people).encode())


def _other_format(held: dict[str, bytes]) -> dict[str, bytes]:
    manifest = {**json.loads(held[MANIFEST]), "format": "naveta-export-9"}
    return {**held, MANIFEST: json.dumps(manifest).encode()}


@pytest.mark.usefixtures("filled")
@pytest.mark.parametrize(
    ("change", "words"),
    [
        (_changed_byte, r"crews\.json was changed after it was written"),
        (_no_schema, r"schemas/jobs\.json is missing"),
        (_climbs, r"'\.\./\.\./climbed\.json', a name no export has"),
        (_not_named, r"records/LV-99\.jsonl, which its manifest does not name"),
        (_bomb, r"jobs\.json is larger than its manifest states"),
        (_huge, "more than the disk has free"),
        (_figure, "record 1 of LV-02 does not match its digest"),
        (_gap, "record 1 of LV-07 does not follow the one before it"),
        (_no_person, r"line 1 of records/LV-02\.jsonl is not of its schema|'wren'"),
        (_other_format, "naveta-export-9"),
    ],
)
def test_what_is_wrong_is_said_and_nothing_changed(tmp_path: Path, change: Any, words: str) -> None:
    out(tmp_path / "a.zip")
    file = written(tmp_path / "b.zip", change(members(tmp_path / "a.zip")))
    emptied()
    with pytest.raises(BackupError, match=words) as raised:
        list(import_all(file))
    assert str(raised.value).endswith("Nothing was changed.")
    assert [Record.objects.count(), Instrument.objects.count(), Person.objects.count()] == [0, 0, 0]
    assert not list(tmp_path.parent.glob("climbed.json"))


@pytest.mark.usefixtures("filled")
def test_a_byte_changed_in_the_packed_data_is_found(tmp_path: Path) -> None:
    out(tmp_path / "a.zip")
    with zipfile.ZipFile(tmp_path / "a.zip") as packed:
        at = packed.getinfo("records/LV-02.jsonl").header_offset
    raw = bytearray((tmp_path / "a.zip").read_bytes())
    raw[at + 300] ^= 0xFF
    (tmp_path / "b.zip").write_bytes(raw)
    emptied()
    with pytest.raises(BackupError, match=r"records/LV-02\.jsonl"):
        list(import_all(tmp_path / "b.zip"))
    (tmp_path / "c.zip").write_bytes(b"no zip")
    with pytest.raises(BackupError, match="no zip that can be read"):
        list(import_all(tmp_path / "c.zip"))


@pytest.mark.usefixtures("filled")
def test_not_into_one_that_holds_something(tmp_path: Path) -> None:
    file = str(tmp_path / "a.zip")
    call_command("export_all", file)
    with pytest.raises(CommandError, match="is there already"):
        call_command("export_all", file)
    count = Record.objects.count()
    with pytest.raises(CommandError, match="not empty: it holds records"):
        call_command("import_all", file)
    assert Record.objects.count() == count


@pytest.fixture
def own_folders(settings: Any, tmp_path: Path) -> Path:
    settings.NAVETA = settings.NAVETA.model_copy(update={"data": tmp_path})
    return tmp_path


@pytest.mark.usefixtures("filled")
class TestOnScreen:
    def lines(self, answer: Any) -> list[dict[str, Any]]:
        return [json.loads(line) for line in b"".join(answer.streaming_content).splitlines()]

    @pytest.mark.usefixtures("own_folders")
    def test_an_export_is_made_listed_fetched_and_removed(self) -> None:
        ines = Api(Person.objects.get(username="ines"))
        *steps, last = self.lines(ines.post("exports", {}))
        assert steps[0] == {"done": 0, "of": Record.objects.count()}
        assert steps[-1]["done"] == steps[-1]["of"]
        listed = ines.get("safe-keeping").json()["files"]
        assert [(file["name"], file["what"], file["daily"]) for file in listed] == [(last["name"], "export", False)]
        fetched = b"".join(ines.get(f"kept-files/{last['name']}").streaming_content)
        assert len(fetched) == listed[0]["bytes"]
        assert ines.delete(f"kept-files/{last['name']}").status_code == 204
        assert ines.get(f"kept-files/{last['name']}").status_code == 404
        assert ines.get("kept-files/..%2Fsecret-key").status_code == 404

    def test_an_import_says_why_not(self, own_folders: Path, tmp_path: Path) -> None:
        ines = Api(Person.objects.get(username="ines"))
        out(tmp_path / "a.zip")
        answer = ines.client.put(
            "/api/imports",
            (tmp_path / "a.zip").read_bytes(),
            content_type="application/zip",
            headers={"x-csrftoken": ines.token},
        )
        (line,) = self.lines(answer)
        assert "not empty" in line["error"]
        assert not list((own_folders / EXPORTS).iterdir()), "what was sent is not left lying"

    def test_a_manager_of_an_empty_one_imports_and_keeps_the_password(self, own_folders: Path, tmp_path: Path) -> None:
        number = out(tmp_path / "a.zip").records
        emptied()
        ines = Person.objects.create(username="ines", name="I.", role="manager")
        ines.set_password("limestone and sea")
        ines.save()
        api = Api(ines)
        body, headers = (tmp_path / "a.zip").read_bytes(), {"x-csrftoken": api.token}
        answer = api.client.put("/api/imports", body, content_type="application/octet-stream", headers=headers)
        *steps, last = self.lines(answer)
        assert last == {"records": number, "instruments": 2}
        assert steps[-1] == {"done": number, "of": number}
        ines.refresh_from_db()
        assert (ines.name, ines.check_password("limestone and sea")) == ("Ines Calder", True)
        assert not Person.objects.get(username="tam").has_usable_password()
        assert api.get("ledger").json()["count"] == number
        assert not list((own_folders / EXPORTS).iterdir())

    def test_nobody_but_the_manager(self, tam: Api, own_folders: Path) -> None:
        paths = ("safe-keeping", "kept-files/a.zip", "chain-ends")
        assert [tam.get(path).status_code for path in paths] == [403, 403, 403]
        assert [tam.post(path, {}).status_code for path in ("exports", "backups")] == [403, 403]
        assert not (own_folders / BACKUPS).exists()
