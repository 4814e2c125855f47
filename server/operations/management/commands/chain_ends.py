"""The ends of all chains: `chain_ends` prints today's line, `chain_ends --append FILE` adds it, `--compare FILE` looks
whether the records of those days are still the same."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from records.heads import append_line, compared, head_line


class Command(BaseCommand):
    help = "Print, write down or compare the ends of all chains."

    def add_arguments(self, parser: CommandParser) -> None:
        which = parser.add_mutually_exclusive_group()
        which.add_argument("--append", type=Path, metavar="FILE")
        which.add_argument("--compare", type=Path, metavar="FILE")

    def handle(self, *args: Any, **options: Any) -> None:
        if options["compare"]:
            return self._compare(options["compare"])
        line = append_line(options["append"]) if options["append"] else head_line()
        self.stdout.write(line.text())

    def _compare(self, file: Path) -> None:
        lines = file.read_text().splitlines()
        differing = list(compared(iter(lines)))
        for _, text in differing:
            self.stdout.write(text)
        if differing:
            raise CommandError(f"{len(differing)} of {len(lines)} lines do not come out again.")
        self.stdout.write(f"{len(lines)} lines come out again: these records are those of those days.")
