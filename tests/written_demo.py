"""The demo as a folder, written once while nothing it is made from changes: the server's tests and the browser's read
copies of it."""

from __future__ import annotations

import fcntl
import hashlib
import os
import shutil
import subprocess
import sys
from datetime import UTC, datetime
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
NOW = datetime(2027, 3, 2, 6, 40, tzinfo=UTC)


def written_demo() -> Path:
    """The folder; whoever comes first writes it, the others wait."""
    shared = ROOT / "build/demo" / _stamp()
    shared.parent.mkdir(parents=True, exist_ok=True)
    with (shared.parent / "lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (shared / "written").exists():
            for old in shared.parent.glob("*/"):
                shutil.rmtree(old)
            command = [sys.executable, "-m", "demo.run", "--load-only"]
            subprocess.run(command, cwd=ROOT, env=demo_environment(shared), check=True, stdout=sys.stderr)
            (shared / "written").touch()
    return shared


def _stamp() -> str:
    """What the demo is made from: the text of core, server and demo, and the morning it is of."""
    seen = hashlib.sha256(NOW.isoformat().encode())
    for folder in ("core", "server", "demo"):
        for path in sorted((ROOT / folder).rglob("*.py")):
            seen.update(path.read_bytes())
    return seen.hexdigest()[:16]


def demo_environment(data: Path, port: int = 0) -> dict[str, str]:
    """The variables a demo in some folder is run with, its clock stopped."""
    environment = {
        **os.environ,
        "NAVETA_DATA": str(data),
        "NAVETA_NOW": NOW.isoformat(),
        "NAVETA_PORT": str(port),
        "NAVETA_BACKUP_DAILY": "0",
        "PYTHONPATH": f"{ROOT / 'server'}:{ROOT}",
    }
    environment.pop("DJANGO_SETTINGS_MODULE", None)
    return environment


if __name__ == "__main__":
    print(written_demo())
