"""Run inside an environment that holds the core and pydantic only: reduces the examples and compares.

Called by `make test-core-alone`; exits 1 with a line a difference.
"""

from __future__ import annotations

import importlib.util
import json
import sys
from pathlib import Path
from typing import Any

from naveta_core.checks import KINDS
from naveta_core.registry import document_of

EXAMPLES = Path(__file__).resolve().parents[1] / "tests/core/examples"


def _alike(found: Any, expected: Any, tolerance: float) -> bool:
    """A tolerance given for a block applies to each number in it."""
    if isinstance(expected, dict):
        return all(_alike(found[name], entry, tolerance) for name, entry in expected.items())
    if isinstance(expected, list):
        return len(found) == len(expected) and all(map(_alike, found, expected, [tolerance] * len(expected)))
    if isinstance(expected, int | float) and isinstance(found, int | float):
        return abs(found - expected) <= tolerance
    return bool(found == expected)


def main() -> int:
    strangers = [name for name in ("django", "mpmath", "numpy", "scipy", "ninja") if importlib.util.find_spec(name)]
    wrong = [f"{name} is installed here: this environment proves nothing" for name in strangers]
    for path in sorted(EXAMPLES.glob("*.json")):
        case = json.loads(path.read_text())
        document = document_of(case["document"])
        result = KINDS[document.kind].reduce(document).plain()["result"]
        for name, expected in case["expect"].items():
            if not _alike(result[name], expected, case["tolerance"][name]):
                wrong.append(f"{path.name}: {name} is {result[name]}, expected {expected}")
    print("\n".join(wrong) or f"The core alone answers {len(list(EXAMPLES.glob('*.json')))} examples.")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
