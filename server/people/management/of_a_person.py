"""Commands about one person: the name, what is done, and a sentence of what came of it."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from naveta_core.errors import Refused


class OfAPerson(BaseCommand):
    """A command that takes a sign-in name."""

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")

    def apply(self, username: str) -> str:
        """Do it; says what was done. Raises Refused."""
        raise NotImplementedError

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            self.stdout.write(self.apply(options["username"]))
        except Refused as error:
            raise CommandError(str(error)) from None
