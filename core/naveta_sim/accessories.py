"""Simulated checks of what stands and hangs around an instrument: staffs, tapes, tripods."""

from __future__ import annotations

import random
from math import atan
from typing import Any

from . import noise as scatter
from .levels import METRES
from .space import SECONDS

Data = dict[str, Any]
GROWS_PER_K = {"steel": 11.5e-6, "fibreglass": 8.0e-6}
TRUE_AT_C = 20.0


def staff(rng: random.Random, truth: Data) -> Data:
    """truth: `zero_mm`, `scale_ppm`, `lengths`, `noise`, `unit`, `temperature_c`."""
    unit, noise, warm = truth.get("unit", "m"), truth.get("noise", 1.0), truth.get("temperature_c", 20.0)
    zero, stretch = truth.get("zero_mm", 0.0), 1.0 + truth.get("scale_ppm", 0.0) * 1e-6
    grown = 1.0 + GROWS_PER_K["steel"] * (warm - TRUE_AT_C)
    sections = []
    common = rng.gauss(0, scatter.TAPE_COMMON_MM * noise)
    for graduation in truth.get("lengths", (0.1, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0)):
        # A worn foot brings every graduation nearer to the ground, a division too short does so the more the higher.
        from_foot = (graduation - (zero + common) / 1000) / stretch
        tape = from_foot / grown + rng.gauss(0, scatter.TAPE_MM["steel"] * noise) / 1000
        sections.append({"graduation": f"{graduation / METRES[unit]:.4f}", "tape": f"{tape / METRES[unit]:.4f}"})
    return {
        "kind": "staff",
        "units": {"length": unit},
        "conditions": {"temperature_c": warm},
        "observations": {"sections": sections, "foot_firm": "yes", "joints_firm": "yes"},
    }


def tape(rng: random.Random, truth: Data) -> Data:
    """truth: `scale_ppm`, `zero_mm`, `temperature_c` (20), `lengths`, `noise`, `unit`, `material`."""
    unit, noise, material = truth.get("unit", "m"), truth.get("noise", 1.0), truth.get("material", "steel")
    warm = truth.get("temperature_c", TRUE_AT_C)
    grown = 1.0 + GROWS_PER_K[material] * (warm - TRUE_AT_C)
    common = rng.gauss(0, scatter.TAPE_COMMON_MM * noise)
    rows = []
    for known in truth.get("lengths", (1.0, 10.0, 20.0, 30.0)):
        too_much = truth.get("zero_mm", 0.0) + common + truth.get("scale_ppm", 0.0) * known / 1000
        too_much += rng.gauss(0, scatter.TAPE_MM[material] * noise)
        reads = (known + too_much / 1000) / grown
        rows.append({"known": f"{known / METRES[unit]:.4f}", "reads": f"{reads / METRES[unit]:.4f}"})
    return {
        "kind": "tape",
        "units": {"length": unit},
        "conditions": {"temperature_c": warm},
        "observations": {"material": material, "tension_n": "50", "lengths": rows},
    }


def tripod(rng: random.Random, truth: Data) -> Data:
    """truth: `twist_arcsec` (15), `set_arcsec` (0), `distance` (20), `rounds` (4), `noise`."""
    distance, noise = truth.get("distance", 20.0), truth.get("noise", 1.0)
    per_mm = atan(0.001 / distance) * SECONDS
    rounds, rest = [], rng.uniform(100, 900)
    for i in range(truth.get("rounds", 4)):
        way = 1 if i % 2 == 0 else -1
        free, pressed = rest, rest + way * truth.get("twist_arcsec", 15.0) / per_mm
        rest += way * truth.get("set_arcsec", 0.0) / per_mm
        read = [f"{reading + rng.gauss(0, scatter.SCALE_MM * noise):.1f}" for reading in (free, pressed, rest)]
        rounds.append(dict(zip(("free_mm", "loaded_mm", "released_mm"), read, strict=True)))
    looks = {"clamps_hold": "yes", "hinges_firm": "yes", "shoes_firm": "yes"}
    observations = {**looks, "distance": f"{distance:g}", "rounds": rounds}
    return {"kind": "tripod", "observations": observations}
