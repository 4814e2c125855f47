"""`make demo`: a folder of its own, the database, the scenario, the server. Started again it keeps what was entered."""

from __future__ import annotations

import os
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
OWN = ("naveta.sqlite3", "naveta.sqlite3-wal", "naveta.sqlite3-shm", "secret-key", "before-migration-*.sqlite3")
"""What the demo made itself; whatever else lies in its folder stays."""


def folder() -> Path:
    """The demo's folder, marked as one. Stops when it holds a database that is not a demo's."""
    from config.environment import DEMO_MARKER

    data = (ROOT / Path(os.environ.get("NAVETA_DATA") or "data/demo").expanduser()).resolve()
    marker = data / DEMO_MARKER
    if data.exists() and any(data.iterdir()) and not marker.exists():
        sys.exit(f"{data} is not empty and no demo's: it is left alone. Choose another folder with NAVETA_DATA.")
    data.mkdir(parents=True, exist_ok=True, mode=0o700)
    marker.touch()
    if os.environ.get("RESET") == "1":
        for name in OWN:
            for path in data.glob(name):
                path.unlink()
    return data


def main() -> None:
    """Prepare and serve."""
    data = folder()
    os.environ.pop("DATABASE_URL", None)  # a demo makes anyone a manager by one touch: never over a real database
    os.environ.update(NAVETA_DATA=str(data), NAVETA_DEMO="1", DJANGO_SETTINGS_MODULE="config.settings")
    import django

    django.setup()
    from django.core.management import call_command
    from django.db import transaction

    from demo.history import load
    from people.models import Person

    call_command("migrate", verbosity=0)
    if not Person.objects.exists():
        print("Writing the demo: Sorrel & Quay, Pellow Creek…", flush=True)
        with transaction.atomic():
            load(lambda line: print(line, flush=True))
    if "--load-only" in sys.argv:
        return
    port = os.environ.get("NAVETA_PORT") or "8000"
    print(f"Naveta's demo is at http://127.0.0.1:{port}   (Ctrl+C stops it; RESET=1 make demo starts over)", flush=True)
    os.chdir(ROOT / "server")
    command = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--bind", f"127.0.0.1:{port}"]
    os.execv(sys.executable, [*command, "--workers", "2", "--threads", "4", "--log-level", "warning"])


if __name__ == "__main__":
    main()
