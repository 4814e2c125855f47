"""Runs a command with a PostgreSQL of its own: Debian's server in a folder that goes away after it.

    python tools/with_postgres.py pytest tests/server

As root the server runs as Debian's user `postgres`, who refuses to be root.
"""

from __future__ import annotations

import os
import shutil
import socket
import subprocess
import sys
import tempfile
from pathlib import Path

USER = "postgres"


def main(command: list[str]) -> int:
    """Start, run, stop; gives the command's exit code."""
    found = sorted(Path("/usr/lib/postgresql").glob("*/bin"))
    if not found:
        print("PostgreSQL is not here: apt-get install postgresql", file=sys.stderr)
        return 1
    programs, folder = found[-1], Path(tempfile.mkdtemp(prefix="naveta-postgres-"))
    data, port = folder / "data", _free_port()
    if os.geteuid() == 0:
        shutil.chown(folder, USER)
    _run(programs / "initdb", "-D", str(data), "-U", "naveta", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8")
    settings = f"-p {port} -k {folder} -c listen_addresses=127.0.0.1 -c fsync=off -c max_connections=60"
    _run(programs / "pg_ctl", "-D", str(data), "-w", "-l", str(folder / "log"), "-o", settings, "start")
    try:
        url = f"postgres://naveta@127.0.0.1:{port}/postgres"
        return subprocess.call(command, env={**os.environ, "NAVETA_TEST_DATABASE": url})
    finally:
        _run(programs / "pg_ctl", "-D", str(data), "-m", "immediate", "stop")
        shutil.rmtree(folder)


def _run(*command: str | Path) -> None:
    words = [str(word) for word in command]
    if os.geteuid() == 0:
        words = ["runuser", "-u", USER, "--", *words]
    subprocess.run(words, check=True, stdout=subprocess.DEVNULL, cwd="/")


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
