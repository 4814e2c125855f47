"""Simulated checks of a plate vial with a hidden rest position."""

from __future__ import annotations

import random
from typing import Any

from ...priors import TUBULAR_BETWEEN_DIV, TUBULAR_DIV
from ...stand.vectors import unit

Data = dict[str, Any]


def simulate(rng: random.Random, truth: Data) -> Data:
    """A plausible document. truth: `rest_div`, `tilt_arcsec` (x, y), `sensitivity` (30), `headings`, `noise`, `decimals`."""
    seconds, noise = truth.get("sensitivity", 30.0), truth.get("noise", 1.0)
    tilt = truth.get("tilt_arcsec") or (rng.gauss(0, 20), rng.gauss(0, 20))
    common = rng.gauss(0, TUBULAR_BETWEEN_DIV * noise)
    readings = []
    for heading in truth.get("headings", (0, 90, 180, 270)):
        u = unit(heading)
        b = (
            (tilt[0] * u[0] + tilt[1] * u[1]) / seconds
            + truth.get("rest_div", 0.0)
            + common
            + rng.gauss(0, TUBULAR_DIV * noise)
        )
        readings.append({"heading_deg": f"{heading:g}", "bubble_div": f"{b:.{truth.get('decimals', 1)}f}"})
    return {"kind": "plate-vial", "observations": {"sensitivity_arcsec_per_div": f"{seconds:g}", "readings": readings}}
