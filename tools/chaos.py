"""`make chaos`: a hundred kills under load, a disk that fills, 200,000 records. Prints what was lost and what it cost.

In small the same stands in tests/server/test_attacked_server.py. `CHAOS=kills,disk,scale` chooses; `KILLS=100`, `RECORDS=200000`.
"""

from __future__ import annotations

import http.client
import json
import os
import random
import shutil
import sqlite3
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from contextlib import closing
from pathlib import Path
from typing import Any

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
from tests.core.builders import exact
from tools.running import AT, ROOT, Crew, Naveta, environment, made

DATABASE = "naveta.sqlite3"


class Saver(threading.Thread):
    """Saves checks and knocks as fast as it is answered, and remembers each that was acknowledged."""

    def __init__(self, port: int, number: int) -> None:
        super().__init__(daemon=True)
        self.port, self.number, self.acknowledged, self.stop = port, number, list[str](), threading.Event()

    def run(self) -> None:
        document = exact(1, (30, 30), (56, 4), copies=4)
        try:
            crew = Crew(self.port)
            while not self.stop.is_set():
                identity, tag = str(uuid.uuid4()), f"LV-0{1 + len(self.acknowledged) % 3}"
                path: str
                body: dict[str, Any]
                if len(self.acknowledged) % 2:
                    path, body = f"events/{identity}", {"instrument": tag, "event": "knock", "at": AT}
                else:
                    path, body = f"checks/{identity}", {"instrument": tag, "observed_at": AT, "document": document}
                if crew.ask("PUT", path, body)[0] == 201:
                    self.acknowledged.append(identity)
        except (OSError, http.client.HTTPException, ValueError, KeyError):
            return  # killed meanwhile: what was not acknowledged is sent again by a device


def kept(data: Path) -> set[str]:
    with closing(sqlite3.connect(data / DATABASE)) as db:
        return {str(uuid.UUID(row[0])) for row in db.execute("SELECT id FROM records_record")}


def verified(data: Path) -> str:
    found = subprocess.run(
        [sys.executable, "manage.py", "verify"],
        cwd=ROOT / "server",
        env=environment(data),
        capture_output=True,
        text=True,
        check=False,
    )
    return (found.stdout.splitlines() or ["nothing"])[-1] + (
        " " + found.stderr.strip()[-200:] if found.returncode else ""
    )


def kills(count: int) -> None:
    """Killed at a random moment while four save; everything acknowledged must be there afterwards."""
    with tempfile.TemporaryDirectory(prefix="naveta-kills-") as folder:
        data, rng, messages = Path(folder) / "data", random.Random(1), set[str]()
        made(data)
        for n in range(count):
            server_url = Naveta(data)
            savers = [Saver(server_url.port, i) for i in range(4)]
            for saver in savers:
                saver.start()
            time.sleep(rng.uniform(0.2, 1.5))
            server_url.kill()
            for entry in savers:
                entry.stop.set()
                entry.join()
                messages |= set(entry.acknowledged)
            missing = messages - kept(data)
            if missing or not (n + 1) % 10:
                print(f"kills {n + 1:>4}: {len(messages):>6} acknowledged, {len(missing)} missing", flush=True)
        print("chains: " + verified(data) + "   (before: 124 kills, 3,111 acknowledged, none missing)")


def disk() -> None:
    """A file system of 6 MB: full, it refuses with 507 and is read; with room again it saves."""
    folder = Path(tempfile.mkdtemp(prefix="naveta-disk-"))
    if (
        os.geteuid()
        or subprocess.run(["mount", "-t", "tmpfs", "-o", "size=6m", "none", folder], check=False).returncode
    ):
        print("disk: a small file system needs the right to mount one; left out.")
        folder.rmdir()
        return
    try:
        data = folder / "data"
        made(data)
        server_url = Naveta(data)
        crew = Crew(server_url.port)
        ballast = folder / "ballast"
        ballast.write_bytes(b"x" * max(0, shutil.disk_usage(folder).free - 400_000))
        statuses: dict[int, int] = {}
        for _ in range(400):
            status, answer = crew.ask(
                "PUT", f"events/{uuid.uuid4()}", {"instrument": "LV-01", "event": "knock", "at": AT, "note": "x" * 480}
            )
            statuses[status] = statuses.get(status, 0) + 1
            if status not in (201, 507):
                print(f"disk: {status} {json.dumps(answer)[:200]}")
                break
            if statuses.get(507, 0) >= 20:
                break
        reading = {
            path: crew.ask("GET", path)[0]
            for path in ("instruments", "records", "device", "instruments/LV-01", "session")
        }
        ballast.unlink()
        again = crew.ask("PUT", f"events/{uuid.uuid4()}", {"instrument": "LV-01", "event": "knock", "at": AT})[0]
        server_url.kill()
        print(
            f"disk: saves until full {statuses}; reading meanwhile {reading}; with room again {again}; chains: {verified(data)}"
        )
    finally:
        subprocess.run(["umount", "-l", folder], check=False)
        folder.rmdir()


def main() -> None:
    wanted = os.environ.get("CHAOS", "kills,disk,scale").split(",")
    if "kills" in wanted:
        kills(int(os.environ.get("KILLS", "100")))
    if "disk" in wanted:
        disk()
    if "scale" in wanted:
        sys.exit(subprocess.run([sys.executable, "-m", "tools.scale"], cwd=ROOT, check=False).returncode)


if __name__ == "__main__":
    main()
