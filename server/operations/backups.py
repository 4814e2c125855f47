"""One file that holds all a firm has: the database as it stands at one moment, the key, the files kept beside it.

The database is copied by SQLite's own online backup, so that saving goes on meanwhile and the copy is whole. What was
written is read again before it counts as a backup.
"""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import shutil
import sqlite3
import tempfile
import zipfile
import zlib
from contextlib import closing
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

from config.environment import DATABASE, KEY, ROOT
from naveta_core import __version__

MANIFEST, FILES = "manifest.json", "files"
FORMAT = "naveta-backup-1"


class BackupError(Exception):
    """A backup or a restore that cannot be done, with the reason in a sentence."""


@dataclass(frozen=True, slots=True)
class BackupCopy:
    """What a backup holds."""

    path: Path
    records: int
    at: str
    core_version: str


def free_bytes(folder: Path) -> int:
    """What the disk of a folder has free."""
    return shutil.disk_usage(folder).free


def _digest(path: Path) -> str:
    found = hashlib.sha256()
    with path.open("rb") as file:
        while block := file.read(1 << 20):
            found.update(block)
    return found.hexdigest()


def copy_database(source: Path, target: Path) -> int:
    """A whole copy of a database that may be written to meanwhile; gives how many records it holds."""
    if not source.exists():
        raise BackupError(f"There is no database at {source}.")
    query = sqlite3.connect(f"{source.as_uri()}?mode=ro", uri=True, timeout=60)
    with closing(query) as here, closing(sqlite3.connect(target)) as there:
        here.backup(there)
        there.execute("PRAGMA journal_mode=DELETE")
    return look_at(target)


def look_at(database: Path) -> int:
    """How many records a database holds once SQLite finds nothing wrong with it. Raises BackupError."""
    try:
        with closing(sqlite3.connect(f"{database.as_uri()}?mode=ro", uri=True)) as here:
            (messages,) = here.execute("PRAGMA integrity_check(1)").fetchone()
            tables = {name for (name,) in here.execute("SELECT name FROM sqlite_master WHERE type='table'")}
            records = (
                here.execute("SELECT count(*) FROM records_record").fetchone()[0] if "records_record" in tables else 0
            )
    except sqlite3.DatabaseError as error:
        raise BackupError(f"{database.name} is damaged: {error}.") from None
    if messages != "ok":
        raise BackupError(f"{database.name} is damaged: {messages}.")
    return int(records)


def backup(data: Path, file: Path) -> BackupCopy:
    """Write everything in a data folder into one file and read it again. Raises BackupError."""
    file = file.resolve()
    if file.exists():
        raise BackupError(f"{file} is there already: a backup never writes over another. Choose another name.")
    part = file.with_name(f".{file.name}.{secrets.token_hex(4)}")
    with tempfile.TemporaryDirectory(prefix="naveta-backup-", dir=file.parent) as folder:
        copied = Path(folder) / DATABASE
        records = copy_database(data / DATABASE, copied)
        held = {DATABASE: copied, KEY: data / KEY}
        held |= {f"{FILES}/{file.relative_to(data / FILES)}": file for file in _files(data)}
        fields = {
            "format": FORMAT,
            "at": datetime.now(UTC).isoformat(timespec="seconds"),
            "core_version": __version__,
            "records": records,
            "sha256": {name: _digest(path) for name, path in held.items()},
        }
        try:
            _write(part, held, json.dumps(fields, indent=1))
            check(part)
            os.link(part, file)
        except OSError as error:
            raise BackupError(f"The backup was not written: {error.strerror or error}.") from None
        finally:
            part.unlink(missing_ok=True)
    return BackupCopy(file, records, str(fields["at"]), __version__)


def _files(data: Path) -> list[Path]:
    folder = data / FILES
    return sorted(path for path in folder.rglob("*") if path.is_file()) if folder.exists() else []


def _write(part: Path, held: dict[str, Path], manifest: str) -> None:
    handle = os.open(part, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    with os.fdopen(handle, "wb") as file:
        with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED, compresslevel=1) as packed:
            for name, path in held.items():
                packed.write(path, name)
            packed.writestr(MANIFEST, manifest)
        file.flush()
        os.fsync(file.fileno())


def check(file: Path) -> dict[str, object]:
    """Read a backup through: every digest, and the database whole. Raises BackupError."""
    with tempfile.TemporaryDirectory(prefix="naveta-check-", dir=file.resolve().parent) as folder:
        return unpack(file, Path(folder))


def unpack(file: Path, folder: Path) -> dict[str, object]:
    """A backup's contents into a folder, all of them or an error. Raises BackupError."""
    try:
        with zipfile.ZipFile(file) as packed:
            data: dict[str, object] = json.loads(packed.read(MANIFEST))
            if data.get("format") != FORMAT:
                raise BackupError(f"{file.name} is no backup of Naveta.")
            digests = data["sha256"]
            assert isinstance(digests, dict)
            size = sum(packed.getinfo(name).file_size for name in digests)
            if size > free_bytes(folder):
                raise BackupError(f"Unpacked {file.name} takes {size / 1e6:,.0f} MB: more than the disk has free.")
            for name in digests:
                if not (folder / name).resolve().is_relative_to(folder.resolve()):
                    raise BackupError(f"{file.name} holds {name!r}, a name no backup has.")
                packed.extract(name, folder)
    except (OSError, KeyError, ValueError, AssertionError, zlib.error, zipfile.BadZipFile) as error:
        raise BackupError(f"{file.name} cannot be read as a backup: {error}.") from None
    for name, digest in digests.items():
        path = folder / name
        if not path.is_file() or _digest(path) != digest:
            raise BackupError(f"{name} in {file.name} is damaged: it does not match what was written.")
        path.chmod(0o600)
    look_at(folder / DATABASE)
    return data


def restore(data: Path, file: Path, *, replace: bool) -> Path | None:
    """Put a backup in place. What is there is set aside, never removed; gives where. Raises BackupError."""
    present = [path for path in (data / DATABASE, data / KEY, data / FILES) if path.exists()]
    if (data / DATABASE).exists() and not replace:
        raise BackupError(f"{data} holds a database. Stop Naveta and say --replace: what is there is then set aside.")
    with tempfile.TemporaryDirectory(prefix=".naveta-restore-", dir=data) as folder:
        unpack(file, Path(folder))
        _refuse_newer(Path(folder) / DATABASE, f"{file.name} was written by a newer Naveta")
        aside = None
        if (data / DATABASE).exists():
            _refuse_newer(data / DATABASE, "The database that is there was written by a newer Naveta")
            _nobody_else(data / DATABASE)
        if present:
            aside = data / f"before-restore-{datetime.now(UTC):%Y%m%d-%H%M%S}"
            aside.mkdir(mode=0o700)
            for entry in (*present, *data.glob(f"{DATABASE}-*")):
                entry.rename(aside / entry.name)
        for entry in Path(folder).iterdir():
            entry.rename(data / entry.name)
    return aside


def _refuse_newer(database: Path, words: str) -> None:
    """Stop where a database knows a migration this program does not. Raises BackupError."""
    ours = {path.parts[-3] for path in (ROOT / "server").glob("*/migrations/0*.py")}
    known = {(path.parts[-3], path.stem) for path in (ROOT / "server").glob("*/migrations/0*.py")}
    try:
        with closing(sqlite3.connect(f"{database.as_uri()}?mode=ro", uri=True)) as here:
            applied = set(here.execute("SELECT app, name FROM django_migrations"))
    except sqlite3.DatabaseError:
        return  # one without that table, or a damaged one: that is stated elsewhere, or is what a restore is for
    newer = sorted(f"{app}.{name}" for app, name in applied - known if app in ours)
    if newer:
        raise BackupError(f"{words} ({newer[-1]}): use that one. Nothing was changed.")


def _nobody_else(database: Path) -> None:
    """Stop while Naveta still runs on it. Raises BackupError."""
    try:
        with closing(sqlite3.connect(database, timeout=1, isolation_level=None)) as here:
            here.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            here.execute("PRAGMA locking_mode=EXCLUSIVE")
            here.execute("BEGIN EXCLUSIVE")
            here.execute("ROLLBACK")
    except sqlite3.OperationalError:
        raise BackupError("Naveta is still running on this database: stop it first.") from None
    except sqlite3.DatabaseError:
        return  # a damaged one is what a restore is for
