"""Run all stages of the tests and print the seconds of each.

`python tools/gate.py [--all]`: the Python lane and the web lane run in parallel, then the browser. A failed stage ends its
lane; the table is printed in any case. `--all` includes the tests marked `long`. Missing tools are reported first.
"""

from __future__ import annotations

import json
import os
import re
import shutil
import subprocess
import sys
import tempfile
import threading
import time
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
VENV = ROOT / ".venv/bin"
FREE_BYTES = 2_000_000_000
MAX_NAMED = 20
"""Most lines that name what failed, beneath the table."""
MAX_S = {"test": 480, "test-all": 7_200}
"""Target for the whole run on two idle processors."""

Stage = tuple[str, str]
PYTHON_LANE: list[Stage] = [
    (
        "lint and types",
        "{v}/ruff check . && {v}/ruff format --check -q . && {v}/mypy && {v}/lint-imports > {tmp}/imports.log",
    ),
    ("core alone", "make -s test-core-alone"),
    ("core", "{v}/pytest {mark} -n 1 tests/core tests/bridge tests/test_codes.py tests/test_gate.py"),
    ("server", "{v}/pytest {mark} -n 1 tests/server"),
]
WEB_LANE: list[Stage] = [
    ("web lint and types", "cd web && npm run --silent lint && npm run --silent types"),
    ("units and pages", "cd web && npm run --silent test"),
]
# Not in parallel: a browser uses both processors.
LAST: list[Stage] = [("browser", "{v}/pytest {mark} -n 2 --dist worksteal tests/browser")]
SLOW: list[Stage] = [
    ("browser, pages 2.5 times slower", "NAVETA_SLOWER=2.5 {v}/pytest -n 2 --dist worksteal tests/browser")
]


def troubles() -> list[str]:
    """Return what would make the tests fail for reasons outside the code, each with what to do."""
    found = []
    if not shutil.which("chromium-headless-shell"):
        found.append("There is no Chromium: apt-get install chromium-headless-shell.")
    if shutil.disk_usage(tempfile.gettempdir()).free < FREE_BYTES:
        found.append(
            f"{tempfile.gettempdir()} has less than 2 GB free: remove something, or set TMPDIR to another folder."
        )
    pack = ROOT / "web/public/core/pack.json"
    folder = ROOT / "web/public/core" / str(json.loads(pack.read_text())["folder"]) if pack.exists() else pack
    if not folder.is_dir() or not (ROOT / "web/dist/index.html").exists():
        found.append("The web is built by half or not at all: rm -rf web/dist web/public/core, then make setup.")
    if not (ROOT / "web/node_modules/.package-lock.json").exists() or not (VENV / "pytest").exists():
        found.append("The packages are installed by half: rm -rf .venv web/node_modules, then make setup.")
    return found


@dataclass(frozen=True)
class Took:
    """Seconds of a stage by the clock and of processors; `failed`: None, or the lines that name what failed."""

    name: str
    seconds: float
    processors_s: float
    failed: list[str] | None


def failures(text: str) -> list[str]:
    """Return the lines of a stage's output that name its failed tests; without such lines, its last ten lines."""
    plain = re.sub(r"\x1b\[[0-9;]*m", "", text).splitlines()
    named = [line.strip() for line in plain if re.match(r"(FAILED|ERROR) |\s*(FAIL|AssertionError|Error:) ?", line)]
    return named[:MAX_NAMED] or plain[-10:]


def processor_time() -> tuple[float, float]:
    """Return the time of all processors since the start of this machine, and what of it its host took away (ticks)."""
    if not (counted := Path("/proc/stat")).exists():
        return 1.0, 0.0
    ticks = [int(each) for each in counted.read_text().split("\n", 1)[0].split()[1:9]]
    return float(sum(ticks)), float(ticks[7])


class Lane(threading.Thread):
    """Runs stages one after the other; prints the output of each when it ends."""

    def __init__(self, stages: list[Stage], environment: dict[str, str], words: dict[str, str]) -> None:
        super().__init__()
        self.stages, self.environment, self.words = stages, environment, words
        self.took: list[Took] = []

    def run(self) -> None:
        for name, command in self.stages:
            begun = time.monotonic()
            with tempfile.TemporaryFile("w+", encoding="utf-8", errors="replace") as said:
                process = subprocess.Popen(
                    command.format(**self.words), shell=True, cwd=ROOT, env=self.environment, stdout=said, stderr=said
                )
                _, status, used = os.wait4(process.pid, 0)
                said.seek(0)
                text = said.read()
            good = os.waitstatus_to_exitcode(status) == 0
            print(f"\n== {name}\n{text}", flush=True)
            seconds = time.monotonic() - begun
            self.took.append(Took(name, seconds, used.ru_utime + used.ru_stime, None if good else failures(text)))
            if not good:
                return

    @property
    def passed(self) -> bool:
        return len(self.took) == len(self.stages) and all(took.failed is None for took in self.took)


def main() -> None:
    """Run the stages; exit with 1 if one failed or a tool is missing."""
    everything = "--all" in sys.argv
    for trouble in (found := troubles()):
        print(trouble, file=sys.stderr)
    if found:
        sys.exit(1)
    environment = {**os.environ, **({"NAVETA_ALL": "1"} if everything else {})}
    subprocess.run([VENV / "python", "-m", "tests.written_demo"], cwd=ROOT, env=environment, check=True)
    begun, before = time.monotonic(), processor_time()
    with tempfile.TemporaryDirectory() as folder:
        words = {"v": str(VENV), "mark": "" if everything else '-m "not long"', "tmp": folder}
        lanes = [Lane(stages, environment, words) for stages in (PYTHON_LANE, WEB_LANE)]
        for lane in lanes:
            lane.start()
        for lane in lanes:
            lane.join()
        if all(lane.passed for lane in lanes):
            lanes.append(Lane([*LAST, *(SLOW if everything else [])], environment, words))
            lanes[-1].run()
    whole = time.monotonic() - begun
    ticks, taken = (now - then for now, then in zip(processor_time(), before, strict=True))
    print(f"\n{'':34}{'clock':>8} {'processors':>13}")
    for took in [row for lane in lanes for row in lane.took]:
        print(
            f"{took.name:34}{took.seconds:7.0f} s {took.processors_s:11.0f} s {'' if took.failed is None else '  FAILED'}"
        )
        print("".join(f"    {line[:200]}\n" for line in took.failed or []), end="")
    most = MAX_S["test-all" if everything else "test"]
    print(f"{'the whole':34}{whole:7.0f} s   aim {most} s on two quiet processors")
    print(f"The host of this machine took {100 * taken / max(ticks, 1.0):.0f} % of its processors' time for others.")
    sys.exit(0 if all(lane.passed for lane in lanes) else 1)


if __name__ == "__main__":
    main()
