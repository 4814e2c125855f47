"""Completing a document with what the house knows of the instrument, before preview and before saving.

The same fields are filled both times, so that what a person saw is what is stored, and the stored document alone
reduces to the stored result.
"""

from __future__ import annotations

from typing import Any

from fleet.models import Instrument
from fleet.selectors import known_to_core
from naveta_core.errors import Fault, Refused, said

OWNED = ("instrument", "limits", "stored", "before", "before_at")
"""Fields the server states; what a device or file claims in them is not taken."""


def complete(document: Any, instrument: Instrument | None, at: str) -> dict[str, Any]:
    """A document with `instrument`, `limits`, `before` and `before_at` as the house knows them."""
    if not isinstance(document, dict):
        raise Refused([Fault("$", "the whole document", said(document), "an object with kind and observations")])
    if instrument is None:
        return document
    completed = {key: value for key, value in document.items() if key not in OWNED}
    known = known_to_core(instrument)
    if "noise" in instrument.facts:
        known["noise"] = instrument.facts["noise"]
    completed["instrument"] = known
    if instrument.model.limits:
        completed["limits"] = instrument.model.limits
    earlier = instrument.facts.get("segment", [])
    if earlier:
        completed["before"], completed["before_at"] = earlier, at
    return completed
