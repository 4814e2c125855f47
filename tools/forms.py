"""Print what the web's tests lay their forms over: every kind as the API says it, and a document of every method, once
and repeated. `python -m tools.forms`."""

from __future__ import annotations

import json
from typing import Any

from naveta_core import dispatch
from naveta_core.checks import KINDS


def forms() -> dict[str, Any]:
    """Kinds, and cases of (kind, method, how often it is taken, document)."""
    cases = []
    for kind in KINDS.values():
        for method in kind.methods:
            once = dispatch.begin(kind.name, method.name, "m", "")
            twice = dispatch.repeat(once)
            for times, document in ((1, once), (2, twice)):
                cases.append({"kind": kind.name, "method": method.name, "times": times, "document": document})
    return {"kinds": [kind.about() for kind in KINDS.values()], "cases": cases}


if __name__ == "__main__":
    print(json.dumps(forms()))
