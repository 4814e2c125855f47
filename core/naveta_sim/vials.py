"""Simulated checks of what shows the vertical: circular vials, tubes, electronic levels, on a stand that is out of plumb."""

from __future__ import annotations

import random
from typing import Any

from . import noise as scatter
from .space import FORWARD, RIGHT, SECONDS, body, climbs

Data = dict[str, Any]
METHODS = {(0, 180): "half-turn", (0, 90, 180, 270): "four-quarters"}
MM_PER_RADIAN = 2.0 / (8.0 * 60.0 / SECONDS)
"""How far a bubble in a circular vial of 8′ per 2 mm runs for a slope of one."""


def _method(headings: tuple[int, ...]) -> Data:
    name = METHODS.get(tuple(headings))
    return {"method": name} if name else {}


def circular_vial(rng: random.Random, truth: Data) -> Data:
    """truth: `error_mm` (x, y), `tilt_mm` (x, y) as the bubble shows it at heading 0, `headings`, `noise`, `decimals`, `kind`."""
    e, tilt, noise = truth.get("error_mm", (0.0, 0.0)), truth.get("tilt_mm"), truth.get("noise", 1.0)
    tilt = tilt if tilt is not None else (rng.gauss(0, 0.6), rng.gauss(0, 0.6))
    stand = tuple(entry / MM_PER_RADIAN * SECONDS for entry in tilt)
    common = [rng.gauss(0, scatter.CIRCULAR_COMMON_MM * noise) for _ in range(2)]
    readings, decimals, headings = [], truth.get("decimals", 1), truth.get("headings", (0, 180))
    for heading in headings:
        turned = body((stand[0], stand[1]), heading)
        x = climbs(turned, RIGHT) * MM_PER_RADIAN + e[0] + common[0] + rng.gauss(0, scatter.CIRCULAR_MM * noise)
        y = climbs(turned, FORWARD) * MM_PER_RADIAN + e[1] + common[1] + rng.gauss(0, scatter.CIRCULAR_MM * noise)
        readings.append({"heading_deg": f"{heading:g}", "x_mm": f"{x:.{decimals}f}", "y_mm": f"{y:.{decimals}f}"})
    return {"kind": truth.get("kind", "circular-vial"), **_method(headings), "observations": {"readings": readings}}


def pole_vial(rng: random.Random, truth: Data) -> Data:
    """truth as for a circular vial."""
    return circular_vial(rng, {"kind": "pole-vial", **truth})


def plate_vial(rng: random.Random, truth: Data) -> Data:
    """truth: `rest_div`, `tilt_arcsec` (x, y), `sensitivity` (30), `headings`, `noise`, `decimals`."""
    seconds, noise = truth.get("sensitivity", 30.0), truth.get("noise", 1.0)
    tilt = truth.get("tilt_arcsec") or (rng.gauss(0, 20), rng.gauss(0, 20))
    common = rng.gauss(0, scatter.TUBE_COMMON_DIV * noise)
    readings, headings = [], truth.get("headings", (0, 90, 180, 270))
    for heading in headings:
        # The tube lies along the body's own y: its right end is where the heading points.
        runs = climbs(body(tilt, heading), FORWARD) * SECONDS / seconds
        b = runs + truth.get("rest_div", 0.0) + common + rng.gauss(0, scatter.TUBE_DIV * noise)
        readings.append({"heading_deg": f"{heading:g}", "bubble_div": f"{b:.{truth.get('decimals', 1)}f}"})
    observations = {"sensitivity_arcsec_per_div": f"{seconds:g}", "readings": readings}
    return {"kind": "plate-vial", **_method(headings), "observations": observations}


def dual_axis_level(rng: random.Random, truth: Data) -> Data:
    """truth: `index_arcsec` (along, across), `tilt_arcsec` (x, y), `accuracy` (3), `step` (1), `headings`, `noise`."""
    along, across = truth.get("index_arcsec", (0.0, 0.0))
    tilt = truth.get("tilt_arcsec") or (rng.gauss(0, 15), rng.gauss(0, 15))
    noise, step = truth.get("noise", 1.0), truth.get("step", 1.0)
    own = scatter.level_sensor_arcsec(truth.get("accuracy", 3.0)) * noise
    common = [rng.gauss(0, scatter.LEVEL_SENSOR_COMMON_ARCSEC * noise) for _ in range(2)]
    readings, headings = [], truth.get("headings", (0, 180))
    for heading in headings:
        turned = body(tilt, heading)
        a = climbs(turned, FORWARD) * SECONDS + along + common[0] + rng.gauss(0, own)
        c = climbs(turned, RIGHT) * SECONDS + across + common[1] + rng.gauss(0, own)
        a, c = round(a / step) * step, round(c / step) * step
        readings.append(
            {"heading_deg": f"{heading:g}", "along_arcsec": f"{a + 0.0:g}", "across_arcsec": f"{c + 0.0:g}"}
        )
    conditions = {"minutes_on": 10, "support": "tripod"}
    readings_text = {"observations": {"readings": readings}, "conditions": conditions}
    return {"kind": "dual-axis-level", **_method(headings), **readings_text}


def plummet(rng: random.Random, truth: Data) -> Data:
    """truth: `offset_mm` (x, y at heading 0), `height` (1.6), `axis_mm`, `headings`, `noise`, `laser`."""
    o, noise = truth.get("offset_mm", (0.0, 0.0)), truth.get("noise", 1.0)
    height, axis = truth.get("height", 1.6), truth.get("axis_mm") or (rng.uniform(-4, 4), rng.uniform(-4, 4))
    common = [rng.gauss(0, scatter.PLUMMET_COMMON_MM * noise) for _ in range(2)]
    own = (0.5 if truth.get("laser") else scatter.PLUMMET_MM) * noise
    marks, headings = [], truth.get("headings", (0, 90, 180, 270))
    for heading in headings:
        turned = body((0.0, 0.0), heading)
        x = axis[0] + turned[0][0] * (o[0] + common[0]) + turned[0][1] * (o[1] + common[1]) + rng.gauss(0, own)
        y = axis[1] + turned[1][0] * (o[0] + common[0]) + turned[1][1] * (o[1] + common[1]) + rng.gauss(0, own)
        marks.append({"heading_deg": f"{heading:g}", "x_mm": f"{x:.1f}", "y_mm": f"{y:.1f}"})
    sets = [{"height_m": f"{height:g}", "marks": marks}]
    observations = {"place": "turning", "method": "turn", "sets": sets}
    return {"kind": "plummet", **_method(headings), "observations": observations}
