"""A stored orientation as somebody would type it."""

from __future__ import annotations

from typing import Any

from ..engine.verbs import around_observations, typed_figure, typed_length

Data = dict[str, Any]
LENGTHS = ("e", "n", "h", "slope_distance", "horizontal_distance", "target_height", "instrument_height")
ANGLES = ("hz", "v")


def from_file(document: Data) -> Data:
    """Plain numbers are text: lengths metres, angles decimal degrees, whatever the units of the document."""

    def typed(value: Any, name: str = "") -> Any:
        if isinstance(value, list):
            return [typed(entry, name) for entry in value]
        if isinstance(value, dict):
            return {key: typed(entry, key) for key, entry in value.items() if entry is not None}
        if isinstance(value, bool) or not isinstance(value, int | float):
            return value
        return typed_length(value, document) if name in LENGTHS else typed_figure(value, angle=name in ANGLES)

    around = around_observations(document)
    units = {"angle": "dms", **around["units"]}
    return {**around, "units": units, "observations": typed(document.get("observations", {}))}
