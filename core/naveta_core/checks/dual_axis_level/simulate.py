"""Simulated checks of an electronic level with a hidden index."""

from __future__ import annotations

import random
from typing import Any

from ...priors import ELECTRONIC_BETWEEN_ARCSEC, electronic_within_arcsec
from ...stand.vectors import unit

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `index_arcsec` (along, across), `tilt_arcsec` (x, y), `accuracy` (3), `step` (1),
    `headings`, `noise`."""
    along, across = truth.get("index_arcsec", (0.0, 0.0))
    tilt = truth.get("tilt_arcsec") or (rng.gauss(0, 15), rng.gauss(0, 15))
    noise, step = truth.get("noise", 1.0), truth.get("step", 1.0)
    h = electronic_within_arcsec(truth.get("accuracy", 3.0)) * noise
    common = (rng.gauss(0, ELECTRONIC_BETWEEN_ARCSEC * noise), rng.gauss(0, ELECTRONIC_BETWEEN_ARCSEC * noise))
    readings = []
    for heading in truth.get("headings", (0, 180)):
        f, r = unit(heading), unit(heading + 90)
        a = tilt[0] * f[0] + tilt[1] * f[1] + along + common[0] + rng.gauss(0, h)
        c = tilt[0] * r[0] + tilt[1] * r[1] + across + common[1] + rng.gauss(0, h)
        a, c = round(a / step) * step, round(c / step) * step
        readings.append(
            {"heading_deg": f"{heading:g}", "along_arcsec": f"{a + 0.0:g}", "across_arcsec": f"{c + 0.0:g}"}
        )
    return {
        "kind": "dual-axis-level",
        "observations": {"readings": readings},
        "conditions": {"minutes_on": 10, "support": "tripod"},
    }
