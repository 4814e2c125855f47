"""A leaver signs in no more: `python server/manage.py deactivate NAME`."""

from __future__ import annotations

from people.management.of_a_person import OfAPerson
from people.services import let_go


class Command(OfAPerson):
    help = "A leaver signs in no more."

    def apply(self, username: str) -> str:
        return f"{let_go(actor=None, username=username, active=False).name} signs in no more."
