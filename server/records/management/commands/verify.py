"""Look at every seal and every chain: `python server/manage.py verify`, or `--since MARK` for what came after."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from records.chain import walk
from records.selectors import newest_cursor


class Command(BaseCommand):
    help = "Look at every seal and every chain."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("--since", type=int, default=0, help="only what came after this cursor")

    def handle(self, *args: Any, **options: Any) -> None:
        newest, records, wrong = newest_cursor(), 0, 0
        for entry in walk(options["since"]):
            records += entry.records
            for record, text in entry.wrong:
                wrong += 1
                self.stdout.write(f"{entry.instrument} {record}: {text}")
        self.stdout.write(f"{records} records looked at. Next time: --since {newest}")
        if wrong:
            raise CommandError(f"{wrong} findings: do not rely on these before they are explained.")
