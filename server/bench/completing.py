"""What the house knows of an instrument when a check of it is completed, at home or on a device."""

from __future__ import annotations

from typing import Any

from fleet.models import Instrument
from fleet.selectors import known_to_core


def known(instrument: Instrument) -> dict[str, Any]:
    """`instrument`, `limits` and `before` as the core's `complete` takes them."""
    return known_of(known_to_core(instrument), instrument.model.limits, instrument.facts)


def known_of(stated: dict[str, Any], limits: dict[str, Any], facts: dict[str, Any]) -> dict[str, Any]:
    """The same from its parts, for lists."""
    own = {**stated, "noise": facts["noise"]} if "noise" in facts else stated
    told: dict[str, Any] = {"instrument": own}
    if limits:
        told["limits"] = limits
    if facts.get("segment"):
        told["before"] = facts["segment"]
    return told
