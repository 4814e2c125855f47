"""`make demo`: a folder of its own, the database, the scenario, the server. Started again it keeps what was entered."""

from __future__ import annotations

import os
import shutil
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]


def folder() -> Path:
    """The demo's folder, marked as one. Stops when it holds a database that is not a demo's."""
    from config.environment import DEMO_MARKER

    data = Path(os.environ.get("NAVETA_DATA") or ROOT / "data/demo")
    marker = data / DEMO_MARKER
    if (data / "naveta.sqlite3").exists() and not marker.exists():
        sys.exit(f"{data} holds a database that is not a demo's: it is left alone. Choose another with NAVETA_DATA.")
    if os.environ.get("RESET") == "1" and marker.exists():
        shutil.rmtree(data)
    data.mkdir(parents=True, exist_ok=True)
    marker.touch()
    return data


def main() -> None:
    """Prepare and serve."""
    data = folder()
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
    print(
        f"Naveta's demo is at http://127.0.0.1:{port}   (Ctrl+C stops it; RESET=1 make demo begins afresh)", flush=True
    )
    os.chdir(ROOT / "server")
    command = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--bind", f"127.0.0.1:{port}"]
    os.execv(sys.executable, [*command, "--workers", "2", "--threads", "4", "--log-level", "warning"])


if __name__ == "__main__":
    main()
