"""A Naveta of its own in a folder of its own, for the tools that hurt it: started, asked, killed."""

from __future__ import annotations

import http.client
import json
import os
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from typing import Any

ROOT = Path(__file__).resolve().parents[1]
AT = "2027-03-02T06:40:00+00:00"
MARKER = "this-is-a-naveta-demo"


def environment(data: Path) -> dict[str, str]:
    """The demo's sign-in, the tests' clock."""
    found = {name: value for name, value in os.environ.items() if name != "DATABASE_URL"}
    return {
        **found,
        "NAVETA_DATA": str(data),
        "NAVETA_DEMO": "1",
        "NAVETA_NOW": "2027-03-02T06:40:00",
        "DJANGO_SETTINGS_MODULE": "config.settings",
    }


def made(data: Path, levels: int = 3) -> None:
    """A marked folder with a database, a person and some levels."""
    data.mkdir(parents=True, exist_ok=True)
    (data / MARKER).touch()
    code = (
        "import django; django.setup()\n"
        "from django.core.management import call_command; call_command('migrate', verbosity=0)\n"
        "from people.models import Person; from fleet.models import Instrument, InstrumentModel\n"
        "Person.objects.create(username='ines', name='Ines Calder', role='manager')\n"
        "m = InstrumentModel.objects.create(maker='Ondine', name='Merrow', kind='level', stated={'reading': 'optical'})\n"
        f"[Instrument.objects.create(tag=f'LV-{{i:02}}', model=m, since='2025-03-01') for i in range(1, {levels + 1})]\n"
    )
    subprocess.run([sys.executable, "-c", code], cwd=ROOT / "server", env=environment(data), check=True)


class Naveta:
    """The server as it is really served, on a free port."""

    def __init__(self, data: Path) -> None:
        self.data = data
        with socket.socket() as free:
            free.bind(("127.0.0.1", 0))
            self.port = int(free.getsockname()[1])
        command = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--bind", f"127.0.0.1:{self.port}"]
        self.process = subprocess.Popen(
            [*command, "--workers", "2", "--threads", "4", "--log-level", "critical"],
            cwd=ROOT / "server",
            env=environment(data),
            start_new_session=True,
            stderr=subprocess.DEVNULL,
        )
        self._until_it_answers()

    def _until_it_answers(self) -> None:
        for _ in range(300):
            try:
                Crew(self.port)
                return
            except (OSError, http.client.HTTPException):
                time.sleep(0.1)
        raise SystemExit("Naveta did not start.")

    def kill(self) -> None:
        """All of it, at once, without a word."""
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()


class Crew:
    """Somebody signed in, over the wire."""

    def __init__(self, port: int) -> None:
        self.wire = http.client.HTTPConnection("127.0.0.1", port, timeout=30)
        self.cookies: dict[str, str] = {}
        self.token = ""
        self.token = self.ask("GET", "session")[1]["csrf_token"]
        self.token = self.ask("POST", "session", {"username": "ines"})[1]["csrf_token"]

    def ask(self, verb: str, path: str, data: Any = None) -> tuple[int, Any]:
        """One request: the status and what came back."""
        headers = {"Content-Type": "application/json", "X-CSRFToken": self.token}
        headers["Cookie"] = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        self.wire.request(verb, "/api/" + path, json.dumps(data) if data is not None else None, headers)
        answer = self.wire.getresponse()
        for name, value in answer.getheaders():
            if name.lower() == "set-cookie":
                key, _, rest = value.partition("=")
                self.cookies[key] = rest.split(";")[0]
        return answer.status, json.loads(answer.read() or b"null")
