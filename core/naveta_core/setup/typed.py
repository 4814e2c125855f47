"""A stored set-up as somebody would type it."""

from __future__ import annotations

from typing import Any

from ..engine.verbs import around_observations, typed_figure, typed_length

Data = dict[str, Any]
TOUCHED = (
    "bearing_deg",
    "distance_mm",
    "offset_mm",
    "stand_bearing_deg",
    "downhill_deg",
    "sensitivity_arcmin_per_2mm",
    "screws",
    "reading",
)
"""Places that were touched on a drawing, and counts: they stay numbers."""
LENGTHS = ("eye_height", "readings")
"""Lengths in the unit of the document, as are all names that end in `_m`; every other name ends in its unit."""


def from_file(document: Data) -> Data:
    """Plain numbers are text, but for what is touched on a drawing."""

    def typed(value: Any, name: str = "") -> Any:
        if isinstance(value, list):
            return [typed(entry, name) for entry in value]
        if isinstance(value, dict):
            return {key: typed(entry, key) for key, entry in value.items() if entry is not None}
        if isinstance(value, bool) or not isinstance(value, int | float) or name in TOUCHED:
            return value
        return typed_length(value, document) if name in LENGTHS or name.endswith("_m") else typed_figure(value)

    around = around_observations(document)
    if "work" in around:
        around["work"] = typed(around["work"])
    return {**around, "observations": typed(document.get("observations", {}))}
