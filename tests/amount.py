"""How much a test of chance tries: all of it in `make test-all`, enough to fail on a rule that is wrong in the gate."""

from __future__ import annotations

import os

EVERYTHING = bool(os.environ.get("NAVETA_ALL"))


def tries(everything: int, gate: int) -> int:
    """Return how many cases are tried; `gate`: in `make test`, where the whole takes too long."""
    return everything if EVERYTHING else gate
