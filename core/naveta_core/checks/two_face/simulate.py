"""Simulated two-face measurements: an instrument with hidden c, i and t, pointed with the noise such pointings have."""

from __future__ import annotations

import random
from math import hypot, radians, sin, tan
from typing import Any

from ...angles import ARCSEC_PER_RADIAN
from .read import BETWEEN_SHARE, MARK_MM

Data = dict[str, Any]
FULL = ((90.2, 100.0), (66.0, 100.0))


def packed(degrees: float) -> str:
    """Decimal degrees as they are typed: 102.43055 for 102°43′05.5″."""
    total = round((degrees % 360.0) * 3600, 1)
    minutes, seconds = divmod(total, 60)
    whole, minutes = divmod(int(minutes), 60)
    return f"{whole % 360}.{minutes:02d}{seconds:04.1f}".replace(".", "#", 1).replace(".", "").replace("#", ".")


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `c`, `i`, `t` (arcsec), `targets` as (zenith, distance), `pointings` a face (5),
    `accuracy` (3), `noise`, `closing` pointings (2), `magnification` (30)."""
    c, i, t = truth.get("c", 0.0), truth.get("i", 0.0), truth.get("t", 0.0)
    s, noise, n = truth.get("accuracy", 3.0), truth.get("noise", 1.0), truth.get("pointings", 5)
    targets, first = [], None
    for number, (zenith, distance) in enumerate(truth.get("targets", FULL)):
        z, hz = radians(zenith), 15.0 + 31.0 * number
        w = hypot(s, 30.0 / truth.get("magnification", 30.0), MARK_MM["unknown"] / 1000 / distance * ARCSEC_PER_RADIAN)
        faces: dict[str, list[Data]] = {}
        for face, sign in (("left", 1.0), ("right", -1.0)):
            common = [rng.gauss(0, BETWEEN_SHARE * s * noise) for _ in range(2)]
            off = sign * (c / sin(z) + t / tan(z)) / 3600
            level = zenith + i / 3600 if face == "left" else 360.0 - zenith + i / 3600
            if number == 0 and face == "left":
                first = (hz + off + common[0] / 3600, level + common[1] / 3600, w * noise)
            faces[face] = [
                _pointing(
                    rng,
                    hz + off + (180.0 if face == "right" else 0.0) + common[0] / 3600,
                    level + common[1] / 3600,
                    w * noise,
                )
                for _ in range(n)
            ]
        targets.append({"distance_m": f"{distance:g}", **faces})
    observations: Data = {"targets": targets}
    if truth.get("closing", 2) and first is not None:
        observations["closing"] = [_pointing(rng, *first) for _ in range(truth.get("closing", 2))]
    return {
        "kind": "two-face",
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": {"minutes_on": 15, "support": "tripod"},
        "observations": observations,
    }


def _pointing(rng: random.Random, hz: float, v: float, spread: float) -> Data:
    return {"hz": packed(hz + rng.gauss(0, spread) / 3600), "v": packed(v + rng.gauss(0, spread) / 3600)}
