"""Completing a document with what is known of the instrument, before preview and before saving.

The same fields are filled both times and in both places, at home and on a device without signal, so that what a
person saw is what is stored, and the stored document alone reduces to the stored result.
"""

from __future__ import annotations

from typing import Any

from ..errors import Fault, Refused, said

OWNED = ("instrument", "limits", "stored", "before", "before_at")
"""Fields the house states; what a sheet or file claims in them is not taken."""
BY_CONTROL = ("free-station", "backsight")


def complete(document: Any, known: dict[str, Any] | None, at: str) -> dict[str, Any]:
    """A document with what is known of its instrument at the time `at` (ISO with offset). Raises Refused.

    known: `instrument`, and where there are any `limits`, `noise` by kind, `before`, `control` (newest first) and `stored` by kind of document; None
    leaves the document alone.
    """
    if not isinstance(document, dict):
        raise Refused([Fault("$", "the whole document", said(document), "an object with kind and observations")])
    if known is None:
        return document
    completed = {key: value for key, value in document.items() if key not in OWNED}
    noise = known.get("noise", {}).get(str(completed.get("kind")))
    completed["instrument"] = {**known["instrument"], "noise": noise} if noise else known["instrument"]
    if known.get("limits"):
        completed["limits"] = known["limits"]
    # Control points are compared with earlier ones, checks with earlier checks.
    before = known.get("control" if completed.get("kind") in BY_CONTROL else "before")
    if before:
        completed["before"] = before
    # Without earlier results it is still known when this one was taken, and that there were none.
    completed["before_at"] = at
    stored = known.get("stored", {}).get(str(completed.get("kind")))
    if stored:
        completed["stored"] = stored
    return completed
