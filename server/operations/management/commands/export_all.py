"""Everything in one zip of plain JSON with schemas: `python server/manage.py export_all FILE.zip`. Naveta may go on serving."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from operations.backups import BackupError
from operations.exporting import Exported, export_all


class Command(BaseCommand):
    help = "Write everything into one zip of plain JSON with its schemas."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            for step in export_all(options["file"]):
                if isinstance(step, Exported):
                    self.stdout.write(f"{step.path}: {step.records} records of {step.instruments} instruments.")
        except BackupError as error:
            raise CommandError(str(error)) from None
