"""What the house knows of an instrument when a check of it is completed."""

from __future__ import annotations

from typing import Any

from fleet.models import Instrument
from fleet.selectors import known_to_core
from naveta_core.segment import known_with


def known(instrument: Instrument) -> dict[str, Any]:
    """`instrument`, `limits` and `before` as the core's `complete` takes them."""
    return known_with(known_to_core(instrument), instrument.model.limits, instrument.facts.get("made", []))
