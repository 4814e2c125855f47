"""What is done automatically once a day: a backup with rotation, and the line of chain ends.

Kept are the latest seven, the last of each of the five latest weeks, and of each of the twelve latest months. Only
Naveta's own daily ones are ever removed. One of several server processes does it: whoever gets the lock.
"""

from __future__ import annotations

import fcntl
import re
import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import connection

from operations.backups import BackupError, backup
from operations.exporting import export_all
from records.heads import append_line
from shared import clock

BACKUPS, EXPORTS, HEADS = "backups", "exports", "chain-ends.txt"
DAILY = re.compile(r"daily-(\d{4}-\d{2}-\d{2})\.zip")
DAYS, WEEKS, MONTHS = 7, 5, 12
EVERY_S, FIRST_S = 600.0, 30.0


def folder(name: str) -> Path:
    """A folder beside the database, for its owner only; backups where the firm said."""
    chosen = settings.NAVETA.backup_folder
    found: Path = chosen if name == BACKUPS and chosen else settings.NAVETA.data / name
    found.mkdir(parents=True, exist_ok=True, mode=0o700)
    return found


def day_of(name: str) -> date | None:
    """The day of a daily backup; None for any other file."""
    match = DAILY.fullmatch(name)
    return date.fromisoformat(match.group(1)) if match else None


def kept(days: Sequence[date]) -> set[date]:
    """Which daily backups stay."""
    latest = sorted(set(days), reverse=True)
    groups: tuple[tuple[Callable[[date], Any], int], ...] = (
        (lambda day: day, DAYS),
        (lambda day: day.isocalendar()[:2], WEEKS),
        (lambda day: (day.year, day.month), MONTHS),
    )
    stay = set[date]()
    for group, most in groups:
        last_of = {group(day): day for day in reversed(latest)}
        stay |= set(sorted(last_of.values(), reverse=True)[:most])
    return stay


@dataclass(frozen=True, slots=True)
class Done:
    """What a day's turn did."""

    written: Path | None
    removed: tuple[str, ...] = ()


def daily(today: date) -> Done:
    """The day's backup where there is none yet, the old ones away, the day's line of chain ends. Raises BackupError.

    A database that is not SQLite has its own tools; here an export of everything is kept in its place.
    """
    where = folder(BACKUPS)
    file = where / f"daily-{today.isoformat()}.zip"
    with (where / ".lock").open("w") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except OSError:
            return Done(None)
        if file.exists():
            return Done(None)
        write_copy(file)
        days = {day: path for path in where.iterdir() if (day := day_of(path.name))}
        old = sorted(set(days) - kept(list(days)))
        for day in old:
            days[day].unlink()
        append_line(settings.NAVETA.data / HEADS)
    return Done(file, tuple(days[day].name for day in old))


def write_copy(file: Path) -> None:
    """A backup of SQLite; of another database an export of everything. Raises BackupError."""
    if connection.vendor == "sqlite":
        backup(settings.NAVETA.data, file)
    else:
        for _ in export_all(file):
            pass


def keep_going() -> None:
    """See to it every ten minutes, in the background; what goes wrong is stated on screen by the age of the last one."""
    ticks = threading.Event()

    def turns() -> None:
        wait = FIRST_S
        while not ticks.wait(wait):
            wait = EVERY_S
            try:
                daily(clock.today())
            except (BackupError, OSError) as error:
                print(f"{datetime.now():%Y-%m-%d %H:%M} The daily backup was not written: {error}", flush=True)
            finally:
                connection.close()

    threading.Thread(target=turns, daemon=True, name="daily backup").start()
