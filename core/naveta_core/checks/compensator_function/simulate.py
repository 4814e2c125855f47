"""Simulated checks of a compensator with hidden shifts."""

from __future__ import annotations

import random
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...lengths import METRES
from ...priors import staff_spread
from .reckon import PLACES

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `shift_arcsec` by side, `distance` (45), `readings` (5), `noise`, `instrument`, `unit`."""
    told, noise, unit = truth.get("instrument", {}), truth.get("noise", 1.0), truth.get("unit", "m")
    distance, shift = truth.get("distance", 45.0), truth.get("shift_arcsec", {})
    spread = staff_spread(distance, told.get("reading"), told.get("levelling_accuracy_mm_per_km"))
    level, positions = rng.uniform(1.2, 1.8), {}
    for name in PLACES:
        common = rng.gauss(0, spread.between_mm / 1000 * noise)
        true = level + shift.get(name, 0.0) / ARCSEC_PER_RADIAN * distance + common
        positions[name] = [
            f"{(true + rng.gauss(0, spread.within_mm / 1000 * noise)) / METRES[unit]:.4f}"
            for _ in range(truth.get("readings", 5))
        ]
    return {
        "kind": "compensator-function",
        "units": {"length": unit},
        "observations": {"distance": f"{distance / METRES[unit]:g}", "positions": positions, "returns": "yes"},
    }
