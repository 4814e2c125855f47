"""Before anything is served: is the database there, whole, and of this version. What is wrong is stated, not discovered."""

from __future__ import annotations

import fcntl
import sqlite3
from contextlib import closing
from pathlib import Path
from typing import IO

from django.conf import settings
from django.db import DatabaseError, connection
from django.db.migrations.executor import MigrationExecutor

from config.environment import DATABASE

LOCK = "served.lock"
QUICK_MB = 200
"""Up to this size a database is looked through at every start; a larger one by `manage.py verify`."""


def trouble() -> str | None:
    """What stands in the way of serving, in a sentence; None when nothing does."""
    path = settings.NAVETA.data / DATABASE
    ours = connection.vendor == "sqlite" and str(connection.settings_dict["NAME"]) == str(path)
    if ours:
        of_file = _of_file(path)
        if of_file:
            return of_file
    try:
        return _of_version()
    except DatabaseError as error:
        return f"The database cannot be read: {error}. Put it back from a backup: manage.py restore FILE."


def _of_file(path: Path) -> str | None:
    if not path.exists():
        return (
            f"There is no database at {path}. Make one with manage.py migrate, or put one back: manage.py restore FILE."
        )
    try:
        with closing(sqlite3.connect(f"{path.as_uri()}?mode=ro", uri=True)) as here:
            here.execute("SELECT count(*) FROM sqlite_master").fetchone()
            if path.stat().st_size < QUICK_MB * 1_000_000:
                (messages,) = here.execute("PRAGMA quick_check(1)").fetchone()
                if messages != "ok":
                    return f"The database is damaged ({messages}). Put it back from a backup: manage.py restore FILE --replace."
    except sqlite3.DatabaseError as error:
        return f"The database is damaged ({error}). Put it back from a backup: manage.py restore FILE --replace."
    return None


def _of_version() -> str | None:
    executor = MigrationExecutor(connection)
    applied, known = set(executor.loader.applied_migrations), set(executor.loader.graph.nodes)
    ours = {app for app, _ in known}
    newer = sorted(f"{app}.{name}" for app, name in applied - known if app in ours)
    if newer:
        return (
            f"The database was written by a newer Naveta ({newer[-1]}): serve it with that one, or go back to a backup."
        )
    if executor.migration_plan(executor.loader.graph.leaf_nodes()):
        return "The database is of an older Naveta: run manage.py migrate; a copy is kept before."
    return None


_held: list[IO[str]] = []
"""Open as long as this server runs: its workers inherit it, and it ends with the last of them."""


def taken() -> str | None:
    """Take the data folder for this server; a sentence where another one serves from it."""
    if connection.vendor != "sqlite":
        return None
    lock = (settings.NAVETA.data / LOCK).open("a")
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return f"Another Naveta serves from {settings.NAVETA.data}: stop that one, or give this one a folder of its own (NAVETA_DATA)."
    _held.append(lock)
    return None


def by_write_ahead() -> None:
    """Readers beside a writer: set once in the file, not at every connection, which a full disk would then refuse."""
    if connection.vendor == "sqlite":
        with connection.cursor() as cursor:
            cursor.execute("PRAGMA journal_mode=WAL")
