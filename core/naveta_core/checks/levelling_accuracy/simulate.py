"""Simulated levelling accuracy procedures: a level of a true standard deviation, a line of sight and staffs of their own."""

from __future__ import annotations

import random
from math import sqrt
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...lengths import METRES
from .model import PAIRS

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """truth: `mm_per_km` (1.0), `procedure`, `collimation_arcsec` (0), `staffs_mm` (0), `stated` (1.0), `height_m` (0.35),
    `unit`, `noise` (a factor)."""
    procedure, base, unit = truth.get("procedure", "simplified"), 60.0, truth.get("unit", "m")
    spread = truth.get("mm_per_km", 1.0) * truth.get("noise", 1.0) * sqrt(2.0) / sqrt(1000.0 / base)
    sets = []
    for number in range(2):
        near = procedure == "simplified" and number == 1
        imbalance = -40.0 if near else 0.0
        shift = truth.get("collimation_arcsec", 0.0) / ARCSEC_PER_RADIAN * imbalance
        staffs = truth.get("staffs_mm", 0.0) / 2000 * (1 if number == 0 else -1)
        pairs = []
        for _ in range(PAIRS[procedure]):
            b = rng.uniform(1.2, 1.5)
            d = truth.get("height_m", 0.35) + shift + staffs + rng.gauss(0, spread) / 1000
            pairs.append({"a": f"{(b + d) / METRES[unit]:.5f}", "b": f"{b / METRES[unit]:.5f}"})
        sets.append({"pairs": pairs})
    return {
        "kind": "levelling-accuracy",
        "units": {"length": unit},
        "instrument": {"levelling_accuracy_mm_per_km": truth.get("stated", 1.0)},
        "observations": {"procedure": procedure, "sets": sets},
    }
