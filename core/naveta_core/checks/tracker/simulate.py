"""Simulated tracker checks: a tracker with a hidden offset, the prism pointed by eye and by it."""

from __future__ import annotations

import random
from math import hypot, radians, sin
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ..two_face.read import BETWEEN_SHARE, MARK_MM
from ..two_face.simulate import packed
from .reckon import AUTO_BETWEEN, AUTO_MM, AUTO_SHARE

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `tracker_arcsec` (across, in height), `c`, `i`, `accuracy` (3), `distance` (100),
    `zenith` (89.5), `pointings` a list (3), `turned_arcsec`: a prism turned away, `noise`."""
    across, height = truth.get("tracker_arcsec", (0.0, 0.0))
    s, noise, n = truth.get("accuracy", 3.0), truth.get("noise", 1.0), truth.get("pointings", 3)
    distance, zenith = truth.get("distance", 100.0), truth.get("zenith", 89.5)
    per_mm, z, hz = ARCSEC_PER_RADIAN / 1000 / distance, sin(radians(zenith)), 40.0
    lists: Data = {"manual": {}, "auto": {}}
    for how in ("manual", "auto"):
        auto = how == "auto"
        w = hypot(AUTO_SHARE * s, AUTO_MM * per_mm) if auto else hypot(s, 1.0, MARK_MM["prism"] * per_mm)
        b = (AUTO_BETWEEN if auto else BETWEEN_SHARE) * s
        for face, sign in (("left", 1.0), ("right", -1.0)):
            off_hz = sign * (truth.get("c", 0.0) + across * auto) / z + truth.get("turned_arcsec", 0.0) * auto / z
            off_v = truth.get("i", 0.0) + height * auto
            level = zenith if face == "left" else 360.0 - zenith
            common = [rng.gauss(0, b * noise) for _ in range(2)]
            lists[how][face] = [
                {
                    "hz": packed(
                        hz + (180.0 if face == "right" else 0.0) + (off_hz + common[0] + rng.gauss(0, w * noise)) / 3600
                    ),
                    "v": packed(level + (off_v + common[1] + rng.gauss(0, w * noise)) / 3600),
                }
                for _ in range(n)
            ]
    return {
        "kind": "tracker",
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": {"minutes_on": 15, "support": "tripod"},
        "observations": {"targets": [{"distance_m": f"{distance:g}", **lists}]},
    }
