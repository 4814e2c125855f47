"""Simulated two-peg tests: a level with a hidden error, read with the noise such readings have."""

from __future__ import annotations

import random
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ...lengths import METRES
from ...priors import curvature_and_refraction_m
from .layouts import LAYOUTS
from .solve import Priors

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document for a level whose error is known.

    truth: `collimation_arcsec`; optional `layout` (middle-then-near), `readings` a sight (1), `height_difference_m`
    (0.3), `unit` (m), `noise` as a factor on the usual spreads (1), `decimals` of the readings (4 in metres, 3 in
    feet), `instrument` as in a document.
    """
    layout = next(one for one in LAYOUTS if one.name == truth.get("layout", "middle-then-near"))
    unit = truth.get("unit", "m")
    feet = unit in ("ft", "usft")
    pairs = layout.distances_ft if feet else layout.distances_m
    instrument = truth.get("instrument", {})
    setups = [_setup(rng, truth, tuple(d * METRES[unit] for d in pair), pair, unit, instrument) for pair in pairs]
    return {
        "kind": "two-peg",
        "units": {"length": unit},
        "observations": {
            "layout": layout.name,
            "setups": setups,
            "looks": {"bubble_holds": "yes", "line_returns": "yes"},
        },
    }


def _setup(
    rng: random.Random, truth: Data, metres: tuple[float, ...], typed: tuple[float, ...], unit: str, instrument: Data
) -> Data:
    rise = truth.get("height_difference_m", 0.3)
    line = rng.uniform(1.35, 1.75) + max(rise, 0)
    staffs = {}
    for name, distance, shown, ground in zip("ab", metres, typed, (0.0, rise), strict=True):
        staffs[name] = _sight(rng, truth, distance, shown, line - ground, unit, instrument)
    return staffs


def _sight(
    rng: random.Random, truth: Data, distance: float, shown: float, level_m: float, unit: str, instrument: Data
) -> Data:
    spread = Priors(instrument.get("reading"), instrument.get("levelling_accuracy_mm_per_km")).spread(distance)
    noise = truth.get("noise", 1.0)
    bias = truth["collimation_arcsec"] / ARCSEC_PER_RADIAN * distance + curvature_and_refraction_m(distance)
    common = rng.gauss(0, spread.between_mm / 1000 * noise)
    decimals = truth.get("decimals", 3 if unit in ("ft", "usft") else 4)
    readings = []
    for _ in range(truth.get("readings", 1)):
        metres = level_m + bias + common + rng.gauss(0, spread.within_mm / 1000 * noise)
        readings.append(f"{metres / METRES[unit]:.{decimals}f}")
    return {"distance": f"{shown:g}", "readings": readings}
