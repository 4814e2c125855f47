"""Demo servers for tests, forked from one process that has imported the server already.

`python -m tests.served` imports the server, calculates the demo's fleet once and prints its address. It takes JSON:
`POST /start` answers with the address and the folder of a new server and how slow the machine is (tests/patience.py),
`POST /stop` ends one, and any other path calls a function of tests/oracle.py. A database is copied before it is served; the kernel chooses the port,
and the child inherits the open socket.
"""

from __future__ import annotations

import json
import logging
import os
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from http.server import BaseHTTPRequestHandler, HTTPServer
from pathlib import Path
from typing import Any

from tests import oracle
from tests.patience import slower
from tests.written_demo import NOW, ROOT, written_demo

STARTS_WITHIN_S = 20


def prepared(demo: Path, folder: Path) -> None:
    """Set Django up over a copy of the demo and fill its caches with the requests each page begins with."""
    shutil.copytree(demo, folder)
    os.environ.update(
        NAVETA_DATA=str(folder),
        NAVETA_NOW=NOW.isoformat(),
        NAVETA_DEMO="1",
        NAVETA_BACKUP_DAILY="0",
        DJANGO_SETTINGS_MODULE="config.settings",
    )
    os.environ.pop("DATABASE_URL", None)
    sys.path[:0] = [str(ROOT / "server"), str(ROOT)]
    import django

    django.setup()
    from django.db import connections
    from django.test import Client
    from operations.startup import by_write_ahead

    by_write_ahead()
    client = Client(headers={"host": "127.0.0.1"})
    token = client.get("/api/session").json()["csrf_token"]
    client.post("/api/session", {"username": "ines"}, "application/json", headers={"x-csrftoken": token})
    for path in ("fleet", "kinds", "device", "due", "instruments/LV-07", "glossary"):
        assert client.get(f"/api/{path}").status_code == 200, path
    connections.close_all()


def serve(data: Path, listening: socket.socket) -> None:
    """Serve this folder until the process is killed. Runs in the child."""
    signal.signal(signal.SIGTERM, signal.SIG_DFL)
    from django.conf import settings
    from django.core.servers.basehttp import ThreadedWSGIServer, WSGIRequestHandler
    from django.db import connections

    settings.NAVETA.data = data
    settings.MEDIA_ROOT, settings.EMAIL_FILE_PATH = data / "files", str(data / "mail")
    connections.databases["default"]["NAME"] = str(data / "naveta.sqlite3")
    from config.wsgi import application

    class Quiet(WSGIRequestHandler):
        def log_message(self, *args: Any) -> None:
            """Log nothing."""

    logging.disable(logging.CRITICAL)  # tests check refusals by their answers

    class Orphaned(ThreadedWSGIServer):
        parent = os.getppid()

        def service_actions(self) -> None:
            if os.getppid() != self.parent:
                os._exit(0)

    server = Orphaned(("127.0.0.1", 0), Quiet, bind_and_activate=False)
    server.socket.close()
    server.socket = listening
    server.server_address = listening.getsockname()
    server.server_name, server.server_port = "127.0.0.1", listening.getsockname()[1]
    server.setup_environ()
    server.daemon_threads = True
    server.set_app(application)
    server.serve_forever(poll_interval=0.5)


class Parent:
    """Starts and ends servers. It has one thread only, so that forking is safe."""

    def __init__(self, folder: Path) -> None:
        self.folder, self.demo, self.count = folder, folder / "demo", 0
        prepared(written_demo(), self.demo)
        self.children: dict[int, Path] = {}

    def start(self) -> dict[str, Any]:
        self.count += 1
        data = self.folder / f"data-{self.count}"
        shutil.copytree(self.demo, data)
        listening = socket.create_server(("127.0.0.1", 0), backlog=64)
        pid = os.fork()
        if not pid:
            try:
                serve(data, listening)
            finally:
                os._exit(1)
        port = listening.getsockname()[1]
        listening.close()
        self.children[pid] = data
        return {"pid": pid, "address": f"http://127.0.0.1:{port}", "data": str(data), "slower": slower()}

    def stop(self, pid: int) -> dict[str, Any]:
        data = self.children.pop(pid)
        os.kill(pid, signal.SIGKILL)
        os.waitpid(pid, 0)
        shutil.rmtree(data, ignore_errors=True)
        return {}

    def close(self) -> None:
        for pid in list(self.children):
            self.stop(pid)
        shutil.rmtree(self.folder, ignore_errors=True)


def main() -> None:
    """Print the address, then answer until the process that started this one has ended."""
    parent = Parent(Path(tempfile.mkdtemp(prefix="naveta-served-")))

    class Asked(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            body = json.loads(self.rfile.read(int(self.headers.get("Content-Length") or 0)) or b"{}")
            what = self.path.lstrip("/")
            answer = getattr(parent if what in ("start", "stop") else oracle, what)(**body)
            text = json.dumps(answer).encode()
            self.send_response(200)
            self.send_header("Content-Length", str(len(text)))
            self.end_headers()
            self.wfile.write(text)

        def log_message(self, *args: Any) -> None:
            """Log nothing."""

    class Control(HTTPServer):
        parent = os.getppid()

        def service_actions(self) -> None:
            if os.getppid() != self.parent:
                raise SystemExit

    control = Control(("127.0.0.1", 0), Asked)
    print(f"http://127.0.0.1:{control.server_port}", flush=True)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    try:
        control.serve_forever(poll_interval=0.5)
    finally:
        parent.close()


@contextmanager
def warm_parent() -> Iterator[str]:
    """Start a parent process for the duration of the block; yields its address."""
    own = subprocess.Popen([sys.executable, "-m", "tests.served"], cwd=ROOT, stdout=subprocess.PIPE, text=True)
    assert own.stdout
    address = own.stdout.readline().strip()
    if not address:
        raise RuntimeError("The demo's warm parent stopped before it said its address: run `python -m tests.served`.")
    try:
        yield address
    finally:
        own.terminate()
        own.wait(timeout=30)


@contextmanager
def serving(environment: dict[str, str]) -> Iterator[str]:
    """Serve Naveta with gunicorn for the duration of the block; yields its address once both workers answer.

    `environment` names the data folder. The kernel chooses the port, and gunicorn inherits the open socket."""
    listening = socket.create_server(("127.0.0.1", 0), backlog=64)
    address = f"http://127.0.0.1:{listening.getsockname()[1]}"
    command = [sys.executable, "-m", "gunicorn", "config.wsgi:application", "--bind", f"fd://{listening.fileno()}"]
    own = subprocess.Popen(
        [*command, "--workers", "2", "--threads", "4", "--log-level", "warning"],
        cwd=ROOT / "server",
        env={**environment, "DJANGO_SETTINGS_MODULE": "config.settings"},
        pass_fds=[listening.fileno()],
    )
    listening.close()
    try:
        for _ in range(6):  # enough requests to start both workers
            urllib.request.urlopen(f"{address}/api/session", timeout=60)
        yield address
    finally:
        own.terminate()
        own.wait(timeout=60)


def asked(parent: str, what: str, body: dict[str, Any] | None = None) -> dict[str, Any]:
    """Send one request to a parent process; returns its answer."""
    request = urllib.request.Request(f"{parent}/{what}", json.dumps(body or {}).encode(), method="POST")
    with urllib.request.urlopen(request, timeout=STARTS_WITHIN_S) as answer:
        return dict(json.loads(answer.read()))


if __name__ == "__main__":
    main()
