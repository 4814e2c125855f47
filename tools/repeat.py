"""Run the browser's walks N times: odd rounds idle, even rounds beside two busy processes and with pages 2.5 times slower.

`python tools/repeat.py [N]` prints a line per round and every failed walk with its count; exits with 1 if one failed.
"""

from __future__ import annotations

import os
import re
import subprocess
import sys
import time
from collections import Counter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BUSY = "while True: sum(range(10_000))"
SLOWER = "2.5"


def one_round(*, hard: bool) -> tuple[int, list[str], float]:
    """Run one round; returns the number of passed walks, the names of failed ones and the seconds."""
    environment = {**os.environ, **({"NAVETA_SLOWER": SLOWER} if hard else {})}
    load = [subprocess.Popen([sys.executable, "-c", BUSY]) for _ in range(2 if hard else 0)]
    begun = time.monotonic()
    try:
        said = subprocess.run(
            [ROOT / ".venv/bin/pytest", "-m", "not long", "-n", "2", "--dist", "worksteal", "tests/browser"],
            cwd=ROOT, env=environment, capture_output=True, text=True, check=False,
        ).stdout  # fmt: skip
    finally:
        for each in load:
            each.kill()
    passed = re.search(r"(\d+) passed", said)
    return (
        int(passed[1]) if passed else 0,
        re.findall(r"^(?:FAILED|ERROR) (\S+)", said, re.MULTILINE),
        time.monotonic() - begun,
    )


def main() -> None:
    """Run and print the rounds."""
    rounds = int(sys.argv[1]) if len(sys.argv) > 1 else 20
    failed: Counter[str] = Counter()
    print("round  how    passed  failed  seconds")
    for number in range(rounds):
        hard = number % 2 == 1
        passed, names, seconds = one_round(hard=hard)
        failed.update(names)
        print(f"{number + 1:5}  {'hard ' if hard else 'quiet'}  {passed:6}  {len(names):6}  {seconds:7.0f}", flush=True)
    for name, times in failed.most_common():
        print(f"{times:3} of {rounds}: {name}")
    sys.exit(1 if failed else 0)


if __name__ == "__main__":
    main()
