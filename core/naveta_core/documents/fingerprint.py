"""Whether two machines calculated the same: a digest over a result, blind to a figure's last bits."""

from __future__ import annotations

from typing import Any

from .json_io import digest

DIGITS = 9
"""Significant digits compared. Mathematical libraries differ in the sixteenth; the agreement test measures it."""
MIN_FIGURE = 1e-9
"""Figures below this (metres, arcseconds, mm per m) are nothing: differences of equal readings, left to rounding."""


def _blunt(data: Any) -> Any:
    if isinstance(data, float):
        return 0.0 if abs(data) < MIN_FIGURE else float(f"{data:.{DIGITS}g}")
    if isinstance(data, dict):
        return {key: _blunt(value) for key, value in data.items() if key != "core_version"}
    return [_blunt(value) for value in data] if isinstance(data, list | tuple) else data


def fingerprint(result: dict[str, Any]) -> str:
    """SHA-256 of a result with its figures to nine digits, without the core's version."""
    return digest(_blunt(result))


CLOCK_REPORTED_S = 300
"""A device's clock that is off by more than this is noted."""


def device_notes(device: dict[str, Any]) -> list[dict[str, str]]:
    """What is to be said of how a device calculated and timed a record; nothing when all agrees.

    device: `core_version`, `grade`, `agrees`; `clock_off_s` (server less device, seconds).
    """
    rows = []
    if device.get("agrees") is False:
        text = (
            f"The device calculated a different result with the data it had ({device['grade']}, core"
            f" {device['core_version']}). The server's result is shown."
        )
        rows.append({"code": "device-differs", "text": text})
    off = device.get("clock_off_s") or 0
    if abs(off) > CLOCK_REPORTED_S:
        way = "behind" if off > 0 else "ahead"
        rows.append(
            {"code": "clock-off", "text": f"The device's clock was {_span(abs(off))} {way}: check the recorded time."}
        )
    return rows


def _span(seconds: float) -> str:
    minutes = round(seconds / 60)
    return f"{minutes} minutes" if minutes < 120 else f"{round(minutes / 60)} hours"
