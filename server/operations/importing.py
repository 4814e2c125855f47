"""An export put back into an empty Naveta: whole or not at all, every digest computed again."""

from __future__ import annotations

import hashlib
import json
import re
import uuid
import zipfile
import zlib
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import transaction

from fleet.attachments import path_of
from fleet.models import ChangeCounter, Instrument
from fleet.services import mark_changed, store_derived, store_head
from naveta_core.documents.json_io import GENESIS, canonical
from naveta_core.errors import Refused
from operations.backups import BackupError, free_bytes
from operations.entities import EMPTY_WITHOUT, ENTITIES, put_back
from operations.exporting import FILES, FORMAT, MANIFEST, RECORD_SCHEMA, RECORDS, SCHEMAS
from people.models import Person
from records.chain import seal
from records.derived import derived_of
from records.models import Record
from records.summary import grade_of, search_text, summary_text
from records.times import happened_at

MAX_MANIFEST = 64 * 1024 * 1024
MAX_READ = 256 * 1024 * 1024
"""A member that is read whole: all but records."""
MEMBER = re.compile(
    r"(?:schemas/(?:documents/)?)?[a-z0-9-]+\.json|records/[A-Z]{2}-[0-9]{1,4}\.jsonl|files/[0-9a-f]{64}"
)
"""What a member may be called: nothing else is read, so no path leads anywhere."""
LINE_FIELDS = set(RECORD_SCHEMA["required"])
PLAIN = (
    "category", "kind", "stage", "why", "observed_at", "entry", "core_version", "arrival", "sequence", "previous",
    "digest", "sent_digest",
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Imported:
    """What was put back."""

    records: int
    instruments: int


class _Export:
    """An export that is read: every member by its manifest, none larger than stated. Raises BackupError."""

    def __init__(self, file: Path, packed: zipfile.ZipFile) -> None:
        self.name, self.packed = file.name, packed
        self.manifest = self._manifest()
        self.members: dict[str, dict[str, Any]] = self.manifest["members"]

    def _manifest(self) -> dict[str, Any]:
        try:
            info = self.packed.getinfo(MANIFEST)
            if info.file_size > MAX_MANIFEST:
                raise self.refused("its manifest is too large")
            with self.packed.open(info) as member:
                found = json.loads(member.read(MAX_MANIFEST))
            if found["format"] != FORMAT:
                raise self.refused(f"it is of the format {found['format']!r}, this Naveta reads {FORMAT!r}")
            sizes = [each["bytes"] for each in found["members"].values()]
        except (KeyError, ValueError, TypeError, AttributeError, zipfile.BadZipFile, zlib.error, EOFError):
            raise self.refused("it has no manifest that can be read") from None
        if not all(isinstance(size, int) and size >= 0 for size in sizes):
            raise self.refused("its manifest states no sizes")
        if sum(sizes) > free_bytes(settings.NAVETA.data):
            raise self.refused(f"unpacked it is {sum(sizes) / 1e6:,.0f} MB, more than the disk has free")
        return dict(found)

    def refused(self, why: str) -> BackupError:
        return BackupError(f"{self.name} cannot be imported: {why}. Nothing was changed.")

    def look(self) -> None:
        """Every member is there, is called as it may be, and there is a schema for each."""
        for name in sorted(set(self.packed.namelist()) - {MANIFEST}):
            if not MEMBER.fullmatch(name):
                raise self.refused(f"it holds {name!r}, a name no export has")
            if name not in self.members:
                raise self.refused(f"it holds {name}, which its manifest does not name")
        wanted = [entity.name for entity in ENTITIES]
        needed = [*(f"{name}.json" for name in wanted), *(f"{SCHEMAS}/{name}.json" for name in (*wanted, RECORDS))]
        for name in (*needed, *self.members):
            if name not in self.members or name not in self.packed.namelist():
                raise self.refused(f"{name} is missing")

    def pieces(self, name: str) -> Iterator[bytes]:
        """A member piece by piece; refused at the end where it is not what was written."""
        stated, found, size = self.members[name], hashlib.sha256(), 0
        try:
            with self.packed.open(name) as member:
                while piece := member.read(1 << 20):
                    size += len(piece)
                    if size > stated["bytes"]:
                        raise self.refused(f"{name} is larger than its manifest states")
                    found.update(piece)
                    yield piece
        except (zipfile.BadZipFile, zlib.error, EOFError, OSError, RuntimeError, NotImplementedError):
            raise self.refused(f"{name} is damaged") from None
        if found.hexdigest() != stated.get("sha256"):
            raise self.refused(f"{name} was changed after it was written: its digest is another one")

    def read(self, name: str) -> bytes:
        if self.members[name]["bytes"] > MAX_READ:
            raise self.refused(f"{name} is larger than {MAX_READ >> 20} MB")
        return b"".join(self.pieces(name))

    def lines(self, name: str) -> Iterator[bytes]:
        """The lines of a member; a last one without an end counts too."""
        rest = b""
        for piece in self.pieces(name):
            *whole, rest = (rest + piece).split(b"\n")
            yield from whole
        if rest:
            yield rest

    def of(self, folder: str) -> list[str]:
        return sorted(name for name in self.members if name.startswith(f"{folder}/"))


def refuse_unless_empty() -> None:
    """Raise BackupError where there is something already."""
    there = next((model for model in (Record, *EMPTY_WITHOUT) if model._default_manager.exists()), None)
    if there is not None:
        name = there._meta.verbose_name_plural
        raise BackupError(f"This Naveta is not empty: it holds {name}. Import into a new one. Nothing was changed.")


def import_all(file: Path) -> Iterator[tuple[int, int] | Imported]:
    """Put an export back; gives how many records of how many are read, last what was. Raises BackupError."""
    refuse_unless_empty()
    try:
        with zipfile.ZipFile(file) as packed:
            export = _Export(file, packed)
            export.look()
            yield from _put_back(export)
    except (OSError, zipfile.BadZipFile):
        raise BackupError(f"{file.name} is no zip that can be read. Nothing was changed.") from None


def _put_back(export: _Export) -> Iterator[tuple[int, int] | Imported]:
    total, done = int(export.manifest.get("records", 0)), 0
    with transaction.atomic():
        refuse_unless_empty()
        for entity in ENTITIES:
            try:
                put_back(entity, json.loads(export.read(f"{entity.name}.json")))
            except Refused as error:
                fault = error.faults[0]
                raise export.refused(f"{fault.path} is {fault.given}, wanted {fault.wanted}") from None
            except (ValueError, AttributeError, TypeError):
                raise export.refused(f"{entity.name}.json is not of its schema") from None
        links = _Links()
        for name in export.of(RECORDS):
            done += _chain(export, name, links)
            yield done, total
        _finish(links)
        if done != total:
            raise export.refused(f"it holds {done} records, its manifest says {total}")
        _files(export)
    yield Imported(done, Instrument.objects.count())


def _files(export: _Export) -> None:
    """Photographs and certificates, each by its digest; where one is wrong, those written before it are taken away."""
    written: list[str] = []
    try:
        for name in export.of(FILES):
            found = name.removeprefix(f"{FILES}/")
            content = export.read(name)
            if hashlib.sha256(content).hexdigest() != found:
                raise export.refused(f"{name} is not the file of that digest")
            if not default_storage.exists(path_of(found)):
                written.append(default_storage.save(path_of(found), ContentFile(content)))
    except BaseException:
        for path in written:
            default_storage.delete(path)
        raise


class _Links:
    """Who is who, and what has come so far: a record names others by their ids."""

    def __init__(self) -> None:
        self.people = {person.username: person for person in Person.objects.all()}
        self.instruments: list[Instrument] = []
        self.latest = 0


def _chain(export: _Export, name: str, links: _Links) -> int:
    """One instrument's records; each of the digest it states, in a chain without a gap."""
    tag = name.removeprefix(f"{RECORDS}/").removesuffix(".jsonl")
    instrument = Instrument.objects.select_related("model", "crew").filter(tag=tag).first()
    if instrument is None:
        raise export.refused(f"{name} is of no instrument in it")
    at, previous = 0, GENESIS
    for line in export.lines(name):
        record = _record(export, name, at + 1, line=line, instrument=instrument, links=links)
        if (record.sequence, record.previous) != (at + 1, previous):
            raise export.refused(f"record {at + 1} of {tag} does not follow the one before it: records are missing")
        record.save(force_insert=True)
        at, previous, links.latest = record.sequence, record.digest, max(links.latest, record.arrival)
    store_head(instrument=instrument, length=at, digest=previous)
    links.instruments.append(instrument)
    return at


def _record(export: _Export, name: str, place: int, *, line: bytes, instrument: Instrument, links: _Links) -> Record:
    try:
        row = json.loads(line)
        if set(row) != LINE_FIELDS or row["instrument"] != instrument.tag:
            raise ValueError
        record = Record(
            id=uuid.UUID(row["id"]),
            instrument=instrument,
            pair_id=uuid.UUID(row["pair"]) if row["pair"] else None,
            amends_id=uuid.UUID(row["amends"]) if row["amends"] else None,
            observed_by=links.people[row["observed_by"]],
            entered_by=links.people[row["entered_by"]],
            document=canonical(row["document"]),
            result=canonical(row["result"]),
            device=canonical(row["device"]) if row["device"] else "",
            received_at=datetime.fromisoformat(row["received_at"]),
            **{field: row[field] for field in PLAIN},
        )
        if seal(record) != record.digest:
            raise export.refused(f"record {place} of {instrument.tag} does not match its digest: it was changed")
        record.observed_at_utc = happened_at(record).astimezone(UTC)
        record.summary = summary_text(record)
        record.grade, record.search = grade_of(record), search_text(record)
    except (ValueError, KeyError, TypeError, AttributeError):
        raise export.refused(f"line {place} of {name} is not of its schema") from None
    return record


def _finish(links: _Links) -> None:
    """The counter behind every arrival, and what follows from the records of each instrument."""
    ChangeCounter.objects.update_or_create(pk=1, defaults={"value": links.latest, "stamp": uuid.uuid4().hex})
    for instrument in links.instruments:
        store_derived(instrument=instrument, derived=derived_of(instrument))
    mark_changed(Instrument.objects.filter(changed=0))
