"""End every session of somebody, on a lost tablet too: `python server/manage.py end_sessions NAME`."""

from __future__ import annotations

from people.management.of_a_person import OfAPerson
from people.services import end_sessions


class Command(OfAPerson):
    help = "End every session of somebody, on a lost tablet too."

    def apply(self, username: str) -> str:
        return f"Every session of {end_sessions(actor=None, username=username).name} has ended."
