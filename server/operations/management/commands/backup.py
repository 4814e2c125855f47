"""Write everything into one file, verified: `python server/manage.py backup FILE`. Naveta may go on serving."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from operations.backups import BackupError, backup


class Command(BaseCommand):
    help = "Write the database, the key and the files kept beside it into one file."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        if connection.vendor != "sqlite":
            raise CommandError(
                "This database is not SQLite: back it up with its own tools, and the data folder beside it."
            )
        try:
            written = backup(settings.NAVETA.data, options["file"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{written.path}: {written.records} records, written and read again.")
