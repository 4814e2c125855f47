"""How safe what a firm has is: which copies there are, how old the last good one is, what the disk has left."""

from __future__ import annotations

import shutil
import zipfile
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from pathlib import Path
from typing import Any

from django.conf import settings
from django.http import Http404

from naveta_core.units.formatting import capital, count
from operations.daily import BACKUPS, EXPORTS, day_of, folder
from records.models import Record
from shared import clock

OLD_DAYS = 2
MIN_FREE = 0.05
FEW_BYTES, MANY_BYTES = 1_000_000_000, 20_000_000_000
"""Below the first a disk is nearly full, above the second it is not, whatever its size."""
Data = dict[str, Any]


@dataclass(frozen=True, slots=True)
class KeptFile:
    """A backup or an export that lies ready."""

    path: Path
    what: str
    size: int
    at: datetime

    @property
    def shown(self) -> Data:
        """As it is listed."""
        return {
            "name": self.path.name,
            "what": self.what,
            "daily": day_of(self.path.name) is not None,
            "bytes": self.size,
            "at": self.at,
        }


def kept_files() -> list[KeptFile]:
    """Every backup and export, the latest first; only whole files."""
    found = []
    for name, what in ((BACKUPS, "backup"), (EXPORTS, "export")):
        for path in folder(name).glob("*.zip"):
            if not path.name.startswith(".") and zipfile.is_zipfile(path):
                fields = path.stat()
                found.append(KeptFile(path, what, fields.st_size, datetime.fromtimestamp(fields.st_mtime, UTC)))
    return sorted(found, key=lambda file: (file.at, file.path.name), reverse=True)


def kept_file(name: str) -> KeptFile:
    """One of them by its name. Raises Http404."""
    found = next((file for file in kept_files() if file.path.name == name), None)
    if found is None:
        raise Http404(name)
    return found


def status() -> Data:
    """What the manager sees: the copies, the age of the last backup, the disk, and what is wrong, in sentences."""
    files = kept_files()
    last = next((file for file in files if file.what == "backup"), None)
    disk = shutil.disk_usage(settings.NAVETA.data)
    days = None if last is None else (datetime.now(UTC) - last.at).days
    return {
        "files": [file.shown for file in files],
        "daily": settings.NAVETA.backup_daily,
        "last_backup": last.at if last else None,
        "age": _age(days),
        "free_bytes": disk.free,
        "total_bytes": disk.total,
        "warnings": [*_of_age(days), *_of_disk(disk.free, disk.total)],
        "today": clock.today().isoformat(),
    }


def _age(days: int | None) -> str:
    if days is None:
        return "No backup yet"
    return "Less than a day old" if days == 0 else capital(f"{count(days, 'day', 'days')} old")


def _of_age(days: int | None) -> list[str]:
    if days is None:
        first = Record.objects.order_by("arrival").values_list("received_at", flat=True).first()
        there = first is not None and clock.now() - first > timedelta(days=OLD_DAYS)
        return ["There is no backup yet."] if there else []
    return [f"The last backup is {count(days, 'day', 'days')} old."] if days >= OLD_DAYS else []


def _of_disk(free: int, total: int) -> list[str]:
    if free >= FEW_BYTES and (free >= MIN_FREE * total or free >= MANY_BYTES):
        return []
    return [
        f"The disk is nearly full: {free / 1e9:.1f} of {total / 1e9:.0f} GB free. Remove old exports, or add space."
    ]
