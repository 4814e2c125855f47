"""Instruments with hidden errors, and what somebody would read off them: for tests, the demo and practice.

The physics is its own, rays and rotations: it shares documents with the core, and no line of its solvers. So a common
slip of a sign or a unit cannot cancel.
"""

from __future__ import annotations

import random
from collections.abc import Callable
from typing import Any

from . import accessories, circles, levels, vials

Data = dict[str, Any]
SIMULATORS: dict[str, Callable[[random.Random, Data], Data]] = {
    "circular-vial": vials.circular_vial,
    "pole-vial": vials.pole_vial,
    "plate-vial": vials.plate_vial,
    "dual-axis-level": vials.dual_axis_level,
    "plummet": vials.plummet,
    "two-face": circles.two_face,
    "tracker": circles.tracker,
    "direction-rounds": circles.direction_rounds,
    "direction-accuracy": circles.direction_accuracy,
    "two-peg": levels.two_peg,
    "compensator-function": levels.compensator_function,
    "levelling-accuracy": levels.levelling_accuracy,
    "staff": accessories.staff,
    "tape": accessories.tape,
    "tripod": accessories.tripod,
}


def simulate(kind: str, rng: random.Random, truth: Data) -> Data:
    """A plausible document of a kind, from a truth only the simulation knows; what may be given stands at each simulator."""
    return SIMULATORS[kind](rng, truth)
