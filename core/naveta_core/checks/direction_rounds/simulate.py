"""Simulated rounds of directions: marks round the horizon, c, t and i of the instrument, the circle set afresh each round."""

from __future__ import annotations

import random
from math import hypot, radians, sin, tan
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from ..two_face.read import BETWEEN_SHARE, MARK_MM
from ..two_face.simulate import packed
from .reckon import USUAL_DISTANCE_M

Data = dict[str, Any]
MARKS = (("1", 14.0, 90.5), ("2", 97.0, 88.0), ("3", 231.0, 91.5))


def simulate(rng: random.Random, truth: Data) -> Data:
    """truth: `c`, `i`, `t`, `rounds` (2), `marks` as (name, direction, zenith), `accuracy` (3), `noise`, `twist` (a round)."""
    c, i, t = (truth.get(name, 0.0) for name in ("c", "i", "t"))
    s, noise, marks = truth.get("accuracy", 3.0), truth.get("noise", 1.0), truth.get("marks", MARKS)
    w = hypot(s, 1.0, MARK_MM["unknown"] / 1000 / USUAL_DISTANCE_M * ARCSEC_PER_RADIAN) * noise
    rounds = []
    for number in range(truth.get("rounds", 2)):
        pointings = []
        for face, sign in (("left", 1.0), ("right", -1.0)):
            common, order = rng.gauss(0, BETWEEN_SHARE * s * noise) / 3600, [*marks, marks[0]]
            for name, hz, zenith in order if face == "left" else order[::-1]:
                z = radians(zenith)
                off = sign * (c / sin(z) + t / tan(z)) / 3600 + common + rng.gauss(0, w) / 3600
                turned = hz + 60.0 * number + (180.0 if face == "right" else 0.0) + off
                v = (zenith if face == "left" else 360.0 - zenith) + (i + rng.gauss(0, w)) / 3600
                pointings.append({"target": name, "face": face, "hz": packed(turned), "v": packed(v)})
        rounds.append({"pointings": pointings})
    return {
        "kind": "direction-rounds",
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": {"minutes_on": 15, "support": "pillar"},
        "observations": {"rounds": rounds},
    }
