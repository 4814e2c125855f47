"""Simulated readings of a staff through a level with hidden errors: rays from the telescope, bent by the air, to a staff."""

from __future__ import annotations

import random
from math import sqrt, tan
from typing import Any

from . import noise as scatter
from .space import SECONDS

Data = dict[str, Any]
EARTH_M, BENT = 6_371_000.0, 0.13
"""Radius of the earth, and by what share of it light is bent along."""
METRES = {"m": 1.0, "mm": 0.001, "cm": 0.01, "ft": 0.3048, "usft": 1200 / 3937, "in": 0.0254}
LAYOUTS = {
    "middle-then-near": (((30, 30), (56, 4)), ((100, 100), (188, 12))),
    "middle-then-three-quarter": (((30, 30), (45, 15)), ((100, 100), (150, 50))),
    "middle-then-beyond": (((30, 30), (64, 4)), ((100, 100), (212, 12))),
    "thirds-inside": (((20, 40), (40, 20)), ((66, 132), (132, 66))),
    "outside-both": (((4, 64), (64, 4)), ((12, 212), (212, 12))),
}
"""Distances to A and to B, set-up by set-up: in metres, in feet."""


def ray_m(slope_arcsec: float, distance_m: float) -> float:
    """By how much a ray that leaves a level at a slope passes above the level surface through it, at a distance.

    The surface falls away from the tangent on the earth's own circle, the ray follows it with a share of its curvature.
    """
    radius = EARTH_M / (1.0 - BENT)
    return distance_m * tan(slope_arcsec / SECONDS) + sqrt(radius * radius + distance_m * distance_m) - radius


def two_peg(rng: random.Random, truth: Data) -> Data:
    """truth: `collimation_arcsec`; optional `layout`, `readings` a sight (1), `height_difference_m` (0.3), `unit` (m),
    `noise`, `decimals` of the readings (4 in metres, 3 in feet), `instrument` as in a document."""
    unit, layout = truth.get("unit", "m"), truth.get("layout", "middle-then-near")
    in_feet = unit in ("ft", "usft")
    pairs = LAYOUTS[layout][1 if in_feet else 0]
    setups = [_set_up(rng, truth, pair, unit) for pair in pairs]
    looks = {"bubble_holds": "yes", "line_returns": "yes"}
    observations = {"setups": setups, "looks": looks}
    return {"kind": "two-peg", "method": layout, "units": {"length": unit}, "observations": observations}


def _set_up(rng: random.Random, truth: Data, pair: tuple[int, int], unit: str) -> Data:
    rise = truth.get("height_difference_m", 0.3)
    axis = rng.uniform(1.35, 1.75) + max(rise, 0)
    grounds = zip("ab", pair, (0.0, rise), strict=True)
    return {name: _sight(rng, truth, distance, axis - ground, unit) for name, distance, ground in grounds}


def _sight(rng: random.Random, truth: Data, distance: float, axis_m: float, unit: str) -> Data:
    instrument, noise = truth.get("instrument", {}), truth.get("noise", 1.0)
    metres = distance * METRES[unit if unit in ("ft", "usft") else "m"]
    own, common = scatter.staff_mm(metres, instrument.get("reading"), instrument.get("levelling_accuracy_mm_per_km"))
    shift = rng.gauss(0, common / 1000 * noise)
    decimals = truth.get("decimals", 3 if unit in ("ft", "usft") else 4)
    line = axis_m + ray_m(truth["collimation_arcsec"], metres) + shift
    count = truth.get("readings", 1)
    readings = [f"{(line + rng.gauss(0, own / 1000 * noise)) / METRES[unit]:.{decimals}f}" for _ in range(count)]
    return {"distance": f"{distance:g}", "readings": readings}


PLACES = ("centre", "toward", "away", "left", "right")


def compensator_function(rng: random.Random, truth: Data) -> Data:
    """truth: `shift_arcsec` by side, `distance` (45), `readings` (5), `noise`, `instrument`, `unit`."""
    instrument, noise, unit = truth.get("instrument", {}), truth.get("noise", 1.0), truth.get("unit", "m")
    distance, shift, count = truth.get("distance", 45.0), truth.get("shift_arcsec", {}), truth.get("readings", 5)
    own, common = scatter.staff_mm(distance, instrument.get("reading"), instrument.get("levelling_accuracy_mm_per_km"))
    level, positions = rng.uniform(1.2, 1.8), {}
    for name in PLACES:
        at = rng.gauss(0, common / 1000 * noise)
        line = level + distance * tan(shift.get(name, 0.0) / SECONDS) + at
        positions[name] = [f"{(line + rng.gauss(0, own / 1000 * noise)) / METRES[unit]:.4f}" for _ in range(count)]
    method = {5: "five", 2: "two"}.get(count)
    return {
        "kind": "compensator-function",
        **({"method": method} if method else {}),
        "units": {"length": unit},
        "observations": {"distance": f"{distance / METRES[unit]:g}", "positions": positions, "returns": "yes"},
    }


PAIRS = {"simplified": 10, "full": 20}


def levelling_accuracy(rng: random.Random, truth: Data) -> Data:
    """truth: `mm_per_km` (1.0), `procedure`, `collimation_arcsec` (0), `staffs_mm` (0), `stated` (1.0), `height_m` (0.35),
    `unit`, `noise` (a factor)."""
    procedure, base, unit = truth.get("procedure", "simplified"), 60.0, truth.get("unit", "m")
    # 1 km double run is 2·1000/base differences: one of them scatters by as much less.
    spread = truth.get("mm_per_km", 1.0) * truth.get("noise", 1.0) * sqrt(2.0 * base / 1000.0)
    sets = []
    for number in range(2):
        near = procedure == "simplified" and number == 1
        back, fore = (10.0, 50.0) if near else (30.0, 30.0)
        slope = truth.get("collimation_arcsec", 0.0) / SECONDS
        aside = back * tan(slope) - fore * tan(slope)
        staffs = truth.get("staffs_mm", 0.0) / 2000 * (1 if number == 0 else -1)
        pairs = []
        for _ in range(PAIRS[procedure]):
            b = rng.uniform(1.2, 1.5)
            a = b + truth.get("height_m", 0.35) + aside + staffs + rng.gauss(0, spread) / 1000
            pairs.append({"a": f"{a / METRES[unit]:.5f}", "b": f"{b / METRES[unit]:.5f}"})
        sets.append({"pairs": pairs})
    return {
        "kind": "levelling-accuracy",
        "method": procedure,
        "units": {"length": unit},
        "instrument": {"levelling_accuracy_mm_per_km": truth.get("stated", 1.0)},
        "observations": {"procedure": procedure, "sets": sets},
    }
