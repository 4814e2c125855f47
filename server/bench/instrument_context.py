"""What the house knows of an instrument when a check of it is completed."""

from __future__ import annotations

import json
from functools import lru_cache
from typing import Any

from fleet.models import Instrument
from fleet.selectors import known_to_core
from naveta_core.dispatch import limits_of, stated_of
from naveta_core.documents.instrument_context import InstrumentContext
from naveta_core.history.context import instrument_context
from naveta_core.history.entries import read_history
from people.services import house


def as_judged(stated: dict[str, Any]) -> dict[str, Any]:
    """What is stated of an instrument, with how the firm wants it judged."""
    return {**stated, "judged_raw": True} if house().judge_raw else stated


def context_of(instrument: Instrument) -> InstrumentContext:
    """What is known of an instrument when a document of it is completed."""
    known = [as_judged(known_to_core(instrument)), instrument.model.limits, instrument.facts.get("history", [])]
    return _context(json.dumps(known))


@lru_cache(maxsize=512)
def _context(known: str) -> InstrumentContext:
    """The same from its text: while nothing changed, a keystroke does not read an instrument's history again."""
    stated, limits, history = json.loads(known)
    return instrument_context(stated_of(stated), limits_of(limits), read_history(history))
