"""Hooks of the server: look before serving, and work out where everything stands before the first person asks."""

import os
import sys
import threading
import time
from typing import Any

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
WORKERS_END_S = 40.0
timeout = 60
"""Seconds a worker may take; slow clients are for a proxy that buffers, see docs/running.md."""
keepalive = 75
"""Seconds a connection is kept between two requests: longer than a person takes from one reading to the next. The default
of two meant a new connection each time on a slow line, and a request that went out as the server hung up was lost."""


def on_starting(_server: Any) -> None:
    """Once, before any worker: what stands in the way is stated, and nothing is served."""
    import django

    django.setup()
    from django.db import connection
    from operations.startup import by_write_ahead, taken, trouble

    messages = trouble() or taken()
    if messages:
        sys.exit(f"Naveta does not start. {messages}")
    try:
        by_write_ahead()
    except Exception as error:
        print(f"Naveta serves, but may not be able to save: {error}", file=sys.stderr)
    connection.close()
    os.environ["NAVETA_SERVED_BY"] = str(os.getpid())


def on_reload(server: Any) -> None:
    """Asked on screen to put a backup in place: the workers end first, then nobody has the database open."""
    import signal

    from operations.restoring import restore_requested, wanted

    from config.environment import Environment

    data = Environment().data
    if not wanted(data):
        return
    for pid in list(server.WORKERS):
        server.kill_worker(pid, signal.SIGTERM)
    end = time.monotonic() + WORKERS_END_S
    while server.WORKERS and time.monotonic() < end:
        time.sleep(0.1)
    restore_requested(data)


def post_worker_init(_worker: Any) -> None:
    """The yard's standings and the daily backup, in the background."""
    from django.conf import settings
    from django.db import connection
    from operations.daily import keep_going

    from fleet.selectors import yard
    from shared import clock

    def warm() -> None:
        try:
            yard(clock.today())
        finally:
            connection.close()

    threading.Thread(target=warm, daemon=True).start()
    if settings.NAVETA.backup_daily:
        keep_going()
