"""Simulated plummet checks: an offset hidden, marks with the noise such marks have."""

from __future__ import annotations

import random
from math import cos, radians, sin
from typing import Any

from ...priors import PLUMMET_BETWEEN_MM, PLUMMET_MM

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `offset_mm` (x, y at heading 0), `height` (1.6), `axis_mm`, `headings`, `noise`, `laser`."""
    o, noise = truth.get("offset_mm", (0.0, 0.0)), truth.get("noise", 1.0)
    height = truth.get("height", 1.6)
    axis = truth.get("axis_mm") or (rng.uniform(-4, 4), rng.uniform(-4, 4))
    common = (rng.gauss(0, PLUMMET_BETWEEN_MM * noise), rng.gauss(0, PLUMMET_BETWEEN_MM * noise))
    w = PLUMMET_MM["laser" if truth.get("laser") else "optical"] * noise
    marks = []
    for heading in truth.get("headings", (0, 90, 180, 270)):
        s, c = sin(radians(heading)), cos(radians(heading))
        ox, oy = o[0] + common[0], o[1] + common[1]
        x = axis[0] + c * ox + s * oy + rng.gauss(0, w)
        y = axis[1] - s * ox + c * oy + rng.gauss(0, w)
        marks.append({"heading_deg": f"{heading:g}", "x_mm": f"{x:.1f}", "y_mm": f"{y:.1f}"})
    return {
        "kind": "plummet",
        "observations": {"place": "turning", "method": "turn", "sets": [{"height_m": f"{height:g}", "marks": marks}]},
    }
