"""Results of the examples and the core's public names, frozen: a change that is meant changes the core's version.

`python -m tests.core.test_frozen` writes the snapshot of the version that stands in the core.
"""

from __future__ import annotations

import ast
import json
from pathlib import Path
from typing import Any

import naveta_core
from naveta_core.checks import KINDS
from naveta_core.documents import document_of

EXAMPLES = Path(__file__).parent / "examples"
SNAPSHOT = Path(__file__).parent / "frozen.json"
PACKAGE = Path(naveta_core.__file__).parent


def rounded(data: Any) -> Any:
    """Figures to nine digits, so that another machine's last bit is no change."""
    if isinstance(data, float):
        return float(f"{data:.9g}")
    if isinstance(data, dict):
        return {key: rounded(value) for key, value in data.items()}
    return [rounded(value) for value in data] if isinstance(data, list) else data


def public_names() -> dict[str, list[str]]:
    """Functions and classes without a leading underscore, by module of the core's top level."""
    found = {}
    for path in sorted(PACKAGE.glob("*.py")):
        tree = ast.parse(path.read_text())
        names = [one.name for one in tree.body if isinstance(one, ast.FunctionDef | ast.ClassDef)]
        found[path.stem] = sorted(name for name in names if not name.startswith("_"))
    return found


def snapshot() -> dict[str, Any]:
    results = {}
    for path in sorted(EXAMPLES.glob("*.json")):
        document = document_of(json.loads(path.read_text())["document"])
        results[path.stem] = rounded(KINDS[document.kind].reduce(document))
    return {"core_version": naveta_core.__version__, "names": public_names(), "results": results}


def test_results_and_names_are_those_of_this_version() -> None:
    frozen, now = json.loads(SNAPSHOT.read_text()), snapshot()
    assert frozen["core_version"] == now["core_version"], "another version: write its snapshot"
    assert frozen["names"] == now["names"]
    assert frozen["results"] == json.loads(json.dumps(now["results"]))


if __name__ == "__main__":
    SNAPSHOT.write_text(json.dumps(snapshot(), indent=1, ensure_ascii=False, sort_keys=True) + "\n")
