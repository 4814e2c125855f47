"""Safe keeping on screen: backups, exports, imports, restores, the ends of all chains; for the manager."""

from __future__ import annotations

import json
import secrets
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse, StreamingHttpResponse
from ninja import Router, Schema, Status

from naveta_core.errors import Fault, Refused
from operations import keeping
from operations.backups import BackupError, check, free_bytes
from operations.daily import BACKUPS, EXPORTS, folder, write_copy
from operations.exporting import Exported, export_all
from operations.importing import Imported, import_all
from operations.restoring import ask_restore, last_outcome
from people.asker import asker
from records.heads import compared, head_line
from shared.bodies import Body, Table
from shared.errors import Conflict
from shared.rights import require

router = Router(tags=["safe keeping"])
ZIP_BODY = {
    "requestBody": {
        "required": True,
        "content": {"application/octet-stream": {"schema": {"type": "string", "format": "binary"}}},
    }
}
Steps = Iterator[tuple[int, int] | Exported | Imported]


class KeptFileOut(Schema):
    """A backup or export that lies ready."""

    name: str
    what: str
    daily: bool
    bytes: int
    at: datetime


class RestoreRequested(Schema):
    """A restore that was requested; it has ended when the last outcome has this id."""

    id: str
    text: str


class Outcome(Schema):
    """How the last restore ended."""

    id: str
    ok: bool
    text: str


class SafeKeeping(Schema):
    """The copies there are, and what is wrong, in sentences."""

    files: list[KeptFileOut]
    daily: bool
    last_backup: datetime | None
    age: str
    free_bytes: int
    total_bytes: int
    warnings: list[str]
    today: str
    restored: Outcome | None


class HeadLineOut(Schema):
    """All chains as they end now."""

    day: str
    arrival: int
    records: int
    instruments: int
    digest: str
    text: str


class HeadLinesIn(Body):
    """Lines of earlier days, as they were written or printed."""

    text: Table


class HeadDifference(Schema):
    """A line this database does not give again."""

    line: str
    text: str


@router.get("/safe-keeping", response=SafeKeeping, operation_id="safe_keeping")
def get_safe_keeping(request: HttpRequest) -> Any:
    """Backups and exports that lie ready, the age of the last backup, the disk, warnings (manager)."""
    require(asker(request), "manage-fleet")
    return {**keeping.status(), "restored": last_outcome()}


@router.post("/backups", response={201: KeptFileOut}, operation_id="make_backup")
def post_backup(request: HttpRequest) -> Any:
    """Write a backup now and read it again (manager)."""
    require(asker(request), "manage-fleet")
    file = folder(BACKUPS) / f"backup-{_stamp()}.zip"
    _or_conflict(lambda: write_copy(file))
    return Status(201, keeping.kept_file(file.name).shown)


@router.put("/backups", response={201: KeptFileOut}, operation_id="add_backup", openapi_extra=ZIP_BODY)
def put_backup(request: HttpRequest) -> Any:
    """A backup from elsewhere, read through before it is listed (manager)."""
    require(asker(request), "manage-fleet")
    file = folder(BACKUPS) / f"brought-{_stamp()}.zip"
    part = _received(request, file)
    try:
        _or_conflict(lambda: check(part))
        part.rename(file)
    finally:
        part.unlink(missing_ok=True)
    return Status(201, keeping.kept_file(file.name).shown)


@router.post("/exports", response=dict[str, Any], operation_id="make_export")
def post_export(request: HttpRequest) -> Any:
    """Everything in one zip, a JSON line a step, the last with its name (manager)."""
    require(asker(request), "manage-fleet")
    file = folder(EXPORTS) / f"export-{_stamp()}.zip"
    return _progress(export_all(file))


@router.put("/imports", response=dict[str, Any], operation_id="import_everything", openapi_extra=ZIP_BODY)
def put_import(request: HttpRequest) -> Any:
    """An export into an empty Naveta, whole or not at all; a JSON line a step (manager)."""
    require(asker(request), "manage-fleet")
    part = _received(request, folder(EXPORTS) / f"import-{_stamp()}.zip")

    def steps() -> Steps:
        try:
            yield from import_all(part)
        finally:
            part.unlink(missing_ok=True)

    return _progress(steps())


@router.get("/kept-files/{name}", response=bytes, operation_id="get_kept_file")
def get_kept_file(request: HttpRequest, name: str) -> FileResponse:
    """A backup or export (manager)."""
    require(asker(request), "manage-fleet")
    path = keeping.kept_file(name).path
    return FileResponse(path.open("rb"), as_attachment=True, filename=path.name)


@router.delete("/kept-files/{name}", response={204: None}, operation_id="remove_kept_file")
def delete_kept_file(request: HttpRequest, name: str) -> HttpResponse:
    """Remove a backup or export from this server (manager)."""
    require(asker(request), "manage-fleet")
    keeping.kept_file(name).path.unlink()
    return HttpResponse(status=204)


@router.post("/kept-files/{name}/restore", response={202: RestoreRequested}, operation_id="restore_backup")
def post_restore(request: HttpRequest, name: str) -> Any:
    """Put a backup in place: new workers take over, what is there is set aside (manager)."""
    file = keeping.kept_file(name)
    requested = _or_conflict(lambda: ask_restore(actor=asker(request), file=file))
    return Status(202, {"id": requested, "text": "The backup is being put in place."})


@router.get("/chain-ends", response=HeadLineOut, operation_id="chain_ends")
def get_chain_ends(request: HttpRequest) -> Any:
    """The ends of all chains in one line, to be kept elsewhere (manager)."""
    require(asker(request), "manage-fleet")
    line = head_line()
    return {**{name: getattr(line, name) for name in line.__slots__}, "text": line.text()}


@router.post("/chain-ends/table", response=list[HeadDifference], operation_id="compare_chain_ends")
def post_chain_ends(request: HttpRequest, payload: HeadLinesIn) -> Any:
    """Lines of earlier days against the records there are now: those that do not come out again (manager)."""
    require(asker(request), "manage-fleet")
    return [{"line": line, "text": text} for line, text in compared(iter(payload.text.splitlines()))]


def _stamp() -> str:
    return f"{datetime.now(UTC):%Y-%m-%d-%H%M%S}-{secrets.token_hex(2)}"


def _or_conflict(action: Callable[[], Any]) -> Any:
    """What an action gives; what cannot be done, in the API's own shape. Raises Conflict."""
    try:
        return action()
    except BackupError as error:
        raise Conflict("not-kept", str(error)) from None


def _received(request: HttpRequest, file: Path) -> Path:
    """The body in a file that is not listed yet; never more than the disk takes. Raises Refused."""
    most = max(0, free_bytes(settings.NAVETA.data) - 100_000_000)
    if int(request.META.get("CONTENT_LENGTH") or 0) > most:
        wanted = f"a file of at most {most / 1e6:,.0f} MB: the disk has no more"
        raise Refused([Fault("file", "the file", f"{request.META['CONTENT_LENGTH']} bytes", wanted)])
    part = file.with_name(f".{file.name}.part")
    with part.open("wb") as out:
        while piece := request.read(1 << 20):
            out.write(piece)
    return part


def _progress(steps: Steps) -> StreamingHttpResponse:
    """Steps as JSON lines: done of how many; at last what was done, or why not."""

    def lines() -> Iterator[str]:
        try:
            for step in steps:
                yield json.dumps(_line(step)) + "\n"
        except BackupError as error:
            yield json.dumps({"error": str(error)}) + "\n"

    return StreamingHttpResponse(lines(), content_type="application/x-ndjson")


def _line(step: tuple[int, int] | Exported | Imported) -> dict[str, Any]:
    if isinstance(step, tuple):
        return {"done": step[0], "of": step[1]}
    name = {"name": step.path.name} if isinstance(step, Exported) else {}
    return {"records": step.records, "instruments": step.instruments, **name}
