"""`make fuzz`: 400,000 changed documents, on every core there is; prints what went wrong, exits 1 if anything did."""

from __future__ import annotations

import os
import sys
import time
from concurrent.futures import ProcessPoolExecutor

from tests.core.attack.fuzz import run

EACH, SEEDS = 10_000, range(40)


def main() -> None:
    begun, found, done = time.monotonic(), list[str](), 0
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        for wrong in pool.map(run, SEEDS, [EACH] * len(SEEDS)):
            done += EACH
            found += wrong
            print(f"{done:>7} documents, {len(found)} wrong, {time.monotonic() - begun:.0f} s", flush=True)
    for entry in found:
        print("\n" + entry)
    sys.exit(1 if found else 0)


if __name__ == "__main__":
    main()
