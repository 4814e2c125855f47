"""Everything a firm has in one zip of plain JSON with its schemas: to be read by anybody, and put back elsewhere.

Records are written as they are sealed, a line each, so that whoever reads them can compute every digest again. What
follows from records (standings, summaries) is not written: it is worked out again when they are read back.

Saving goes on meanwhile: records are only ever added, so those up to one arrival are of one moment.
"""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import zipfile
from collections.abc import Generator, Iterable, Iterator
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from django.core.files.storage import default_storage
from django.db.models import QuerySet

from fleet.attachments import path_of
from fleet.models import Attachment, Instrument
from naveta_core import __version__
from naveta_core.documents.json_io import canonical
from naveta_core.registry import DOCUMENTS
from operations.backups import BackupError
from operations.entities import ENTITIES, rows_of, schema_of
from records.chain import sealed
from records.models import Record
from records.selectors import newest_cursor
from shared import clock

FORMAT = "naveta-export-1"
MANIFEST = "manifest.json"
RECORDS, SCHEMAS, DOCUMENT_SCHEMAS, FILES = "records", "schemas", "schemas/documents", "files"


@dataclass
class _Writer:
    """A zip that is written piece by piece, with the digest and size of each member for its manifest."""

    packed: zipfile.ZipFile
    members: dict[str, dict[str, Any]] = field(default_factory=dict)

    def write(self, name: str, pieces: Iterable[bytes]) -> None:
        found, size = hashlib.sha256(), 0
        with self.packed.open(name, "w", force_zip64=True) as member:
            for piece in pieces:
                member.write(piece)
                found.update(piece)
                size += len(piece)
        self.members[name] = {"sha256": found.hexdigest(), "bytes": size}

    def json(self, name: str, data: Any) -> None:
        self.write(name, [json.dumps(data, ensure_ascii=False, indent=1).encode() + b"\n"])


@dataclass(frozen=True, slots=True)
class Exported:
    """What an export holds."""

    path: Path
    records: int
    instruments: int


def export_all(file: Path) -> Iterator[tuple[int, int] | Exported]:
    """Write everything into one zip; gives how many records of how many are written, last what was. Raises BackupError."""
    file = file.resolve()
    if file.exists():
        raise BackupError(f"{file} is there already: an export never writes over another. Choose another name.")
    part = file.with_name(f".{file.name}.{secrets.token_hex(4)}")
    try:
        handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
        with os.fdopen(handle, "wb") as out:
            with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED, compresslevel=5) as packed:
                written = yield from _write(_Writer(packed), file)
            out.flush()
            os.fsync(out.fileno())
        os.link(part, file)
    except OSError as error:
        raise BackupError(f"The export was not written: {error.strerror or error}.") from None
    finally:
        part.unlink(missing_ok=True)
    yield written


def _write(writer: _Writer, file: Path) -> Generator[tuple[int, int], None, Exported]:
    newest = newest_cursor()
    held = Record.objects.filter(arrival__lte=newest)
    total, done = held.count(), 0
    yield done, total
    digests = list(Attachment.objects.order_by("digest").values_list("digest", flat=True).distinct())
    for entity in ENTITIES:
        writer.json(f"{SCHEMAS}/{entity.name}.json", schema_of(entity))
        writer.json(f"{entity.name}.json", list(rows_of(entity)))
    writer.json(f"{SCHEMAS}/{RECORDS}.json", RECORD_SCHEMA)
    for kind in DOCUMENTS.values():
        writer.json(f"{DOCUMENT_SCHEMAS}/{kind.name}.json", kind.model.model_json_schema())
    tags = held.order_by("instrument__tag").values_list("instrument__tag", flat=True).distinct()
    for tag in list(tags):
        rows = held.filter(instrument__tag=tag)
        writer.write(f"{RECORDS}/{tag}.jsonl", _lines(rows))
        done += rows.count()
        yield done, total
    for digest in digests:
        with default_storage.open(path_of(digest)) as kept:
            writer.write(f"{FILES}/{digest}", kept.chunks())
    manifest = {
        "format": FORMAT,
        "at": clock.now().isoformat(timespec="seconds"),
        "core_version": __version__,
        "records": total,
        "members": writer.members,
    }
    writer.packed.writestr(MANIFEST, json.dumps(manifest, indent=1))
    return Exported(file, total, Instrument.objects.count())


def _lines(rows: QuerySet[Record]) -> Iterator[bytes]:
    """Each record as canonical text of what its digest covers, and the digest beside it."""
    for record in (
        rows.select_related("instrument", "observed_by", "entered_by").order_by("sequence").iterator(chunk_size=200)
    ):
        yield canonical({**sealed(record), "digest": record.digest}).encode() + b"\n"


def _string(text: str, **more: Any) -> dict[str, Any]:
    return {"type": "string", "description": text, **more}


def _or_null(schema: dict[str, Any]) -> dict[str, Any]:
    return {"anyOf": [schema, {"type": "null"}]}


_HEX = {"pattern": "^[0-9a-f]{64}$"}
_SEALED: dict[str, Any] = {
    "id": _string("UUID made by the device that began it", format="uuid"),
    "instrument": _string("Tag"),
    "category": _string("What it is", enum=list(Record.Category.values)),
    "kind": _string("Kind of document, or of event"),
    "stage": _string("as-found, as-left, or empty where it is no check"),
    "pair": _or_null(_string("Of an as-left: the as-found record it belongs to", format="uuid")),
    "amends": _or_null(_string("The record it strikes", format="uuid")),
    "why": _string("Why it amends that one"),
    "observed_at": _string("ISO 8601 with the device's own offset", format="date-time"),
    "observed_by": _string("Username"),
    "entered_by": _string("Username"),
    "entry": _string("How it came: typed, file, csv, simulated"),
    "document": {"type": "object", "description": "As typed and completed; of a check, a schema of its kind applies"},
    "result": {"type": "object", "description": "What the core made of the document"},
    "core_version": _string("Of the core that made the result"),
    "sequence": {"type": "integer", "minimum": 1, "description": "Place in its instrument's chain"},
    "previous": _string("Digest of the record before it in the chain; 64 zeros for the first", **_HEX),
    "received_at": _string("When the server took it, UTC", format="date-time"),
    "arrival": {"type": "integer", "description": "In which order records came, over all instruments"},
    "sent_digest": _string("Of what the device sent", **_HEX),
    "device": _or_null({"type": "object", "description": "What the device calculated itself, and its clock"}),
}
RECORD_SCHEMA: dict[str, Any] = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": "record",
    "description": "One line of records/TAG.jsonl. `digest` is the SHA-256 of the canonical text of all other fields.",
    "type": "object",
    "properties": {**_SEALED, "digest": _string("SHA-256 of the canonical text of all fields but this one", **_HEX)},
    "required": [*_SEALED, "digest"],
    "additionalProperties": False,
}
