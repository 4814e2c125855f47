"""Put a backup in place: `python server/manage.py restore FILE`, Naveta stopped. What was there is set aside."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import connection

from operations.backups import BackupError, restore


class Command(BaseCommand):
    help = "Put a backup in place."
    requires_system_checks: list[str] = []

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)
        parser.add_argument("--replace", action="store_true", help="set aside the database that is there")

    def handle(self, *args: Any, **options: Any) -> None:
        connection.close()
        try:
            aside = restore(settings.NAVETA.data, options["file"], replace=options["replace"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        kept = f" What was there is in {aside.name}." if aside else ""
        self.stdout.write(f"Put back from {options['file'].name}.{kept}")
        self.stdout.write("Now run manage.py migrate, then start Naveta.")
