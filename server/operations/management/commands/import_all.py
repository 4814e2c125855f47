"""Put an export back into an empty Naveta: `python server/manage.py import_all FILE.zip`. Whole, or nothing is changed."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from operations.backups import BackupError
from operations.importing import Imported, import_all


class Command(BaseCommand):
    help = "Put an export back into an empty Naveta."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            for step in import_all(options["file"]):
                if isinstance(step, Imported):
                    self.stdout.write(
                        f"{step.records} records of {step.instruments} instruments, every digest as it was. "
                        "People have no password yet: manage.py set_password USERNAME."
                    )
        except BackupError as error:
            raise CommandError(str(error)) from None
