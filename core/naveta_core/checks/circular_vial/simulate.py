"""Simulated checks of a circular vial with a hidden error."""

from __future__ import annotations

import random
from math import cos, radians, sin
from typing import Any

from ...priors import CIRCULAR_BETWEEN_MM, CIRCULAR_MM

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `error_mm` (x, y), `tilt_mm` (x, y), `headings`, `noise`, `decimals`."""
    e, t, noise = truth.get("error_mm", (0.0, 0.0)), truth.get("tilt_mm"), truth.get("noise", 1.0)
    tilt = t if t is not None else (rng.gauss(0, 0.6), rng.gauss(0, 0.6))
    common = (rng.gauss(0, CIRCULAR_BETWEEN_MM * noise), rng.gauss(0, CIRCULAR_BETWEEN_MM * noise))
    readings, decimals = [], truth.get("decimals", 1)
    for heading in truth.get("headings", (0, 180)):
        s, c = sin(radians(heading)), cos(radians(heading))
        x = tilt[0] * c - tilt[1] * s + e[0] + common[0] + rng.gauss(0, CIRCULAR_MM * noise)
        y = tilt[0] * s + tilt[1] * c + e[1] + common[1] + rng.gauss(0, CIRCULAR_MM * noise)
        readings.append({"heading_deg": f"{heading:g}", "x_mm": f"{x:.{decimals}f}", "y_mm": f"{y:.{decimals}f}"})
    return {"kind": truth.get("kind", "circular-vial"), "observations": {"readings": readings}}
