"""Print which share of the code is tests, and the largest files. Reads git's list of files."""

from __future__ import annotations

import subprocess
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
LEFT_OUT = ("/migrations/",)


def main() -> None:
    listed = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard", "*.py", "*.ts", "*.tsx"],
        cwd=ROOT, capture_output=True, text=True, check=True,
    ).stdout.split()  # fmt: skip
    sizes = {}
    for name in listed:
        path = ROOT / name
        if path.exists() and not any(part in name for part in LEFT_OUT):
            sizes[name] = sum(1 for line in path.read_text().splitlines() if line.strip())
    tests = sum(size for name, size in sizes.items() if name.startswith(("tests/", "web/tests/")) or ".test." in name)
    total = sum(sizes.values())
    print(f"Tests are {100 * tests / total:.1f} % of {total} lines (aim 25 to 33).")
    largest = sorted(sizes.items(), key=lambda entry: -entry[1])[:6]
    print("Largest files: " + ", ".join(f"{name} {size}" for name, size in largest))


if __name__ == "__main__":
    main()
