"""What is done once a day: backup with rotation, line of chain ends. Naveta does it while it serves; this is for a timer."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from operations.backups import BackupError
from operations.daily import daily
from shared import clock


class Command(BaseCommand):
    help = "Write the day's backup where there is none yet, remove old daily ones, add the day's line of chain ends."

    def handle(self, *args: Any, **options: Any) -> None:
        try:
            done = daily(clock.today())
        except BackupError as error:
            raise CommandError(str(error)) from None
        if done.written is None:
            self.stdout.write("Today's backup is there already.")
            return
        removed = f" Removed: {', '.join(done.removed)}." if done.removed else ""
        self.stdout.write(f"{done.written}{removed}")
