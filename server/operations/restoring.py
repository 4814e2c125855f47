"""A backup put in place while Naveta serves: asked for on screen, done by the server's own process between two sets of
workers, so that nobody writes meanwhile. What was there is set aside beside it."""

from __future__ import annotations

import json
import os
import signal
import subprocess
import sys
import threading
import uuid
from pathlib import Path
from typing import Any

from django.conf import settings

from config.environment import ROOT
from operations.backups import BackupError, check
from operations.keeping import KeptFile
from people.models import Person
from shared.rights import require

REQUESTED, OUTCOME = "restore-asked.json", "restore-outcome.json"
SERVED = "NAVETA_SERVED_BY"
"""Set by gunicorn.conf.py: the process that can set new workers in place of the old."""
AFTER_S = 0.5


def ask_restore(*, actor: Person, file: KeptFile) -> str:
    """Have a backup put in place; the answer to this goes out first. Gives the id its outcome will have. Raises Forbidden,
    BackupError."""
    require(actor, "manage-fleet")
    server = int(os.environ.get(SERVED) or 0)
    if not server:
        raise BackupError("This server cannot restart itself. Stop it, then run manage.py restore FILE --replace.")
    if settings.DATABASES["default"]["ENGINE"] != "django.db.backends.sqlite3":
        raise BackupError("This database is not SQLite: put it back with its own tools.")
    check(file.path)
    identity = str(uuid.uuid4())
    request = {"id": identity, "file": str(file.path), "by": actor.username}
    (settings.NAVETA.data / REQUESTED).write_text(json.dumps(request))
    threading.Timer(AFTER_S, os.kill, (server, signal.SIGHUP)).start()
    return identity


def wanted(data: Path) -> bool:
    """Whether a restore was asked for."""
    return (data / REQUESTED).exists()


def restore_requested(data: Path) -> None:
    """Do what was asked; nobody else may have the database open. How it ended is kept for the screen."""
    request_file = data / REQUESTED
    request = json.loads(request_file.read_text())
    request_file.unlink()
    manage = [sys.executable, str(ROOT / "server/manage.py")]
    steps = ([*manage, "restore", request["file"], "--replace"], [*manage, "migrate", "-v", "0"])
    outcome = {"id": request["id"], "ok": True, "text": ""}
    environment = {**os.environ, "NAVETA_DATA": str(data), "DJANGO_SETTINGS_MODULE": "config.settings"}
    for step in steps:
        done = subprocess.run(step, capture_output=True, text=True, check=False, env=environment)
        if done.returncode:
            outcome |= {"ok": False, "text": done.stderr.strip().removeprefix("CommandError: ")}
            break
        # The first line is what was done; what to do next is for who runs the command by hand.
        outcome["text"] = f"{outcome['text']} {done.stdout.strip().partition(chr(10))[0]}".strip()
    (data / OUTCOME).write_text(json.dumps(outcome))


def last_outcome() -> dict[str, Any] | None:
    """How the last restore that was asked for on screen ended."""
    path = settings.NAVETA.data / OUTCOME
    return {"id": "", **json.loads(path.read_text())} if path.exists() else None
