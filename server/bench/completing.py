"""What the house knows of an instrument when a check of it is completed."""

from __future__ import annotations

from typing import Any

from fleet.models import Instrument
from fleet.selectors import known_to_core
from naveta_core.history.segment import known_with
from people.services import house


def as_judged(stated: dict[str, Any]) -> dict[str, Any]:
    """What is stated of an instrument, with how the firm wants it judged."""
    return {**stated, "judged_raw": True} if house().judge_raw else stated


def known(instrument: Instrument) -> dict[str, Any]:
    """`instrument`, `limits` and `before` as the core's `complete` takes them."""
    return known_with(as_judged(known_to_core(instrument)), instrument.model.limits, instrument.facts.get("made", []))
