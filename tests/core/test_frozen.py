"""What others build on, frozen: document fields, result fields, table columns, methods and codes of every kind, the public
names. A change that is meant changes the core's version.

Figures are not frozen here: where they were worked out independently they stand in `examples/` with a tolerance.
`python -m tests.core.test_frozen` writes the snapshot of the version that stands in the core.
"""

from __future__ import annotations

import ast
import json
import re
from pathlib import Path
from typing import Any

import naveta_core
from naveta_core.checks import KINDS
from naveta_core.registry import DOCUMENTS
from naveta_core.results import Figures

SNAPSHOT = Path(__file__).parent / "frozen.json"
PACKAGE = Path(naveta_core.__file__).parent
CODE = re.compile(r"[a-z][a-z0-9]*(-[a-z0-9]+)+")


def fields_of(schema: dict[str, Any]) -> dict[str, list[str]]:
    """Field names by model of a JSON schema."""
    models = {schema["title"]: schema, **schema.get("$defs", {})}
    return {name: sorted(model["properties"]) for name, model in sorted(models.items()) if "properties" in model}


def figures_of(kind: str) -> list[str]:
    """The fields of a kind's result."""
    package = PACKAGE.name + ".checks." + kind.replace("-", "_")
    models = [model for model in _below(Figures) if model.__module__.startswith(package + ".")]
    assert len(models) == 1, f"{kind} has {len(models)} models of figures"
    return list(models[0].model_fields)


def _below(model: type) -> list[type]:
    return [entry for direct in model.__subclasses__() for entry in (direct, *_below(direct))]


def public_names() -> dict[str, list[str]]:
    """Functions and classes without a leading underscore, by module of the core's top level."""
    found = {}
    for path in sorted(PACKAGE.glob("*.py")):
        tree = ast.parse(path.read_text())
        names = [node.name for node in tree.body if isinstance(node, ast.FunctionDef | ast.ClassDef)]
        found[path.stem] = sorted(name for name in names if not name.startswith("_"))
    return found


def snapshot() -> dict[str, Any]:
    kinds = {
        name: {
            "result": figures_of(name),
            "columns": list(kind.file.columns),
            "methods": [method.name for method in kind.methods],
            "main_quantity": kind.main_quantity,
        }
        for name, kind in sorted(KINDS.items())
    }
    documents = {name: fields_of(kind.model.model_json_schema()) for name, kind in sorted(DOCUMENTS.items())}
    return {
        "core_version": naveta_core.__version__,
        "names": public_names(),
        "kinds": kinds,
        "documents": documents,
        "codes": codes(),
    }


def codes() -> list[str]:
    """Every code of a reason or an act: the first of a pair, the other of which is a sentence."""
    found = set()
    for path in PACKAGE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Tuple) and len(node.elts) == 2:
                first, second = node.elts
                worded = isinstance(second, ast.JoinedStr | ast.Name) or (
                    isinstance(second, ast.Constant) and isinstance(second.value, str) and " " in second.value
                )
                if isinstance(first, ast.Constant) and isinstance(first.value, str) and worded:
                    found |= {first.value} if CODE.fullmatch(first.value) else set()
    return sorted(found)


def test_contracts_are_those_of_this_version() -> None:
    frozen, now = json.loads(SNAPSHOT.read_text()), snapshot()
    assert frozen["core_version"] == now["core_version"], "another version: write its snapshot"
    for part in ("names", "kinds", "documents", "codes"):
        assert frozen[part] == json.loads(json.dumps(now[part])), part


if __name__ == "__main__":
    SNAPSHOT.write_text(json.dumps(snapshot(), indent=1, ensure_ascii=False, sort_keys=True) + "\n")
