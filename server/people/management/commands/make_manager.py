"""Make the first manager: `python server/manage.py make_manager NAME "Full Name"`; the password is asked for."""

from __future__ import annotations

import getpass
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from naveta_core.errors import Refused
from people.services import add_person


class Command(BaseCommand):
    help = "Make a manager who can sign in."

    def add_arguments(self, parser: CommandParser) -> None:
        parser.add_argument("username")
        parser.add_argument("name")

    def handle(self, *args: Any, **options: Any) -> None:
        password = getpass.getpass("Password (ten characters or more): ")
        try:
            add_person(
                actor=None,
                username=options["username"],
                name=options["name"],
                role="manager",
                crew=None,
                password=password,
            )
        except Refused as error:
            raise CommandError(str(error)) from None
        self.stdout.write(f"{options['name']} can sign in as {options['username']}.")
