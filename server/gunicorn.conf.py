"""Hooks of the server: look before serving, and work out where everything stands before the first person asks."""

import os
import sys
import threading
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
timeout = 60
"""Seconds a worker may take; slow clients are for a proxy that buffers, see docs/deploying.md."""


def on_starting(_server: Any) -> None:
    """Once, before any worker: what stands in the way is said, and nothing is served."""
    import django

    django.setup()
    from django.db import connection
    from operations.startup import by_write_ahead, trouble

    messages = trouble()
    if messages:
        sys.exit(f"Naveta does not start. {messages}")
    try:
        by_write_ahead()
    except Exception as error:
        print(f"Naveta serves, but may not be able to save: {error}", file=sys.stderr)
    connection.close()


def post_worker_init(_worker: Any) -> None:
    """The yard's standings, in the background."""
    from django.db import connection

    from fleet.selectors import yard
    from shared import clock

    def warm() -> None:
        try:
            yard(clock.today())
        finally:
            connection.close()

    threading.Thread(target=warm, daemon=True).start()
