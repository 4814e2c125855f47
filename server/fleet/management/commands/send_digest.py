"""Send everybody their week: `python server/manage.py send_digest`, by a timer every Monday. Sends each only once a week."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from fleet.digest import send_weekly
from shared import clock


class Command(BaseCommand):
    help = "Send everybody with an e-mail address what is due this week, once a week."

    def handle(self, *args: Any, **options: Any) -> None:
        sent, wrong = send_weekly(clock.today())
        self.stdout.write(
            f"Sent to {', '.join(sent)}." if sent else "Sent to nobody: no address, or sent this week already."
        )
        if wrong:
            raise CommandError(" ".join(wrong))
