"""Give somebody a new password: `python server/manage.py set_password NAME`; it is asked for. Their sessions end."""

from __future__ import annotations

import getpass

from people.management.of_a_person import OfAPerson
from people.services import reset_password


class Command(OfAPerson):
    help = "Give somebody a new password."

    def apply(self, username: str) -> str:
        password = getpass.getpass("New password (ten characters or more): ")
        return f"{reset_password(actor=None, username=username, password=password).name} has a new password; every session has ended."
