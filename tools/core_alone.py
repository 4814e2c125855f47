"""Run inside an environment that holds the core, pydantic and mpmath only: reduces the examples and compares.

Called by `make test-core-alone`; exits 1 with a line a difference.
"""

from __future__ import annotations

import importlib.util
import json
import sys
from pathlib import Path

from naveta_core.checks import KINDS
from naveta_core.documents import document_of

EXAMPLES = Path(__file__).resolve().parents[1] / "tests/core/examples"


def main() -> int:
    strangers = [name for name in ("django", "numpy", "scipy", "ninja") if importlib.util.find_spec(name)]
    wrong = [f"{name} is installed here: this environment proves nothing" for name in strangers]
    for path in sorted(EXAMPLES.glob("*.json")):
        case = json.loads(path.read_text())
        document = document_of(case["document"])
        result = KINDS[document.kind].reduce(document)["result"]
        for name, expected in case["expect"].items():
            if expected is None or result[name] is None:
                off = result[name] is not expected
            else:
                off = abs(result[name] - expected) > case["tolerance"][name]
            if off:
                wrong.append(f"{path.name}: {name} is {result[name]}, expected {expected}")
    print("\n".join(wrong) or f"The core alone answers {len(list(EXAMPLES.glob('*.json')))} examples.")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
