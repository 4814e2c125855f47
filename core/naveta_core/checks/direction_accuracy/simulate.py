"""Simulated angle accuracy procedures: an instrument of a true spread, with c and i, the circle set afresh each set."""

from __future__ import annotations

import random
from math import sqrt
from typing import Any

from ..two_face.simulate import packed
from .read import MARKS, SERIES, SETS

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """truth: `arcsec` (one direction in both faces, 3), `circle`, `procedure`, `c`, `i`, `stated` (3), `noise`."""
    circle, procedure = truth.get("circle", "horizontal"), truth.get("procedure", "simplified")
    t, spread = MARKS[circle, procedure], truth.get("arcsec", 3.0) * truth.get("noise", 1.0) * sqrt(2.0) / 3600
    names = [str(k + 1) for k in range(t)]
    directions = [12.0 + k * 300.0 / t for k in range(t)]
    zeniths = [96.0 - k * 30.0 / (t - 1) for k in range(t)]
    c, i = truth.get("c", 0.0) / 3600, truth.get("i", 0.0) / 3600
    series = []
    for _ in range(SERIES[procedure]):
        sets = []
        for number in range(SETS):
            turned = 60.0 * number
            if circle == "horizontal":
                left = [x + turned + c + rng.gauss(0, spread) for x in directions]
                right = [x + turned + 180.0 - c + rng.gauss(0, spread) for x in directions]
            else:
                left = [z + i + rng.gauss(0, spread) for z in zeniths]
                right = [360.0 - z + i + rng.gauss(0, spread) for z in zeniths]
            rows = [
                [{"target": n, "reading": packed(v)} for n, v in zip(names, face, strict=True)]
                for face in (left, right)
            ]
            sets.append({"left": rows[0], "right": rows[1][::-1]})
        series.append({"sets": sets})
    return {
        "kind": "direction-accuracy",
        "instrument": {"angle_accuracy_arcsec": truth.get("stated", 3.0)},
        "conditions": {"minutes_on": 15, "support": "pillar"},
        "observations": {"circle": circle, "procedure": procedure, "series": series},
    }
