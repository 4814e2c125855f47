"""Readings rounded to a coarse last digit: a staff in hundredths of a foot, whole centimetres, circles of 10″ and 20″."""

from __future__ import annotations

from typing import Any

import numpy as np

from ..builders import document, staffs
from .crews import RHO, Data, Rng, day, dms, judged, part
from .rates import Rate, Sample

PEGS = ((30.0, 30.0), (56.0, 4.0))


def _grid(value: float, step: float, decimals: int) -> str:
    return f"{round(value / step) * step:.{decimals}f}"


def pegs(rng: Rng, *, step_m: float, unit: str = "m", decimals: int = 3, n: int = 3) -> Data:
    """A level without error, each staff read n times, to `step_m`; distances in the same unit."""
    scale = 0.3048 if unit == "ft" else 1.0
    noise, rise = day(rng), rng.uniform(-0.5, 0.5)
    setups = []
    for da, db in PEGS:
        sights: list[Any] = []
        line = rng.uniform(1.4, 1.8)
        for d, true in zip((da, db), staffs(0, da, db, line=line, rise=rise), strict=True):
            w, b = np.hypot(0.3, 0.01 * d) * noise, np.hypot(0.1, 0.7 / RHO * d * 1000)
            values = true + (rng.normal(0, b) + rng.normal(0, w, n)) / 1000
            sights += [f"{d / scale:.1f}", [_grid(value / scale, step_m / scale, decimals) for value in values]]
        setups.append((sights[0], sights[1], sights[2], sights[3]))
    return document(*setups, units={"length": unit})


def full_two_face(rng: Rng, *, step_arcsec: float, s: float, n: int = 5, steep_deg: float = 65.0) -> Data:
    """n pointings a face at a level and a steep mark; an instrument without error whose display counts in steps."""
    noise, targets = day(rng), []
    for at, z, far in ((rng.uniform(10, 40), 90.0, 100.0), (rng.uniform(80, 110), steep_deg, 40.0)):
        sigma = float(np.sqrt(s**2 + 1.0 + (0.2 / 1000 / far * RHO) ** 2)) * noise
        target: Data = {"distance_m": f"{far:g}", "target_type": "plate"}
        z += rng.uniform(-0.5, 0.5)
        for face, hz, v in (("left", at, z), ("right", at + 180, 360 - z)):
            common = rng.normal(0, 0.4 * s, 2)
            target[face] = [
                {
                    "hz": dms(hz + (common[0] + rng.normal(0, sigma) / np.sin(np.radians(z))) / 3600, step_arcsec),
                    "v": dms(v + (common[1] + rng.normal(0, sigma)) / 3600, step_arcsec),
                }
                for _ in range(n)
            ]
        targets.append(target)
    return {
        "kind": "two-face",
        "instrument": {"kind": "total-station", "angle_accuracy_arcsec": s},
        "observations": {"targets": targets},
    }


def _inside(make: Any, quantity: str) -> Sample:
    def once(rng: Rng) -> bool:
        entry = part(judged(make(rng)), quantity)
        return bool(abs(entry["value"]) <= entry["u95"])

    return once


def _blamed(make: Any) -> Sample:
    """Whether a reading is set aside, or the readings refused as at fault."""
    at_fault = {"set-aside", "readings-differ", "too-many-outliers", "outlier-decides", "moved", "face-scatters"}

    def once(rng: Rng) -> bool:
        return bool(at_fault & {reason["code"] for reason in judged(make(rng))["verdict"]["reasons"]})

    return once


STAFFS = (
    ("0.01 ft", {"step_m": 0.003048, "unit": "ft", "decimals": 2}),
    ("0.005 ft", {"step_m": 0.001524, "unit": "ft", "decimals": 3}),
    ("1 cm", {"step_m": 0.01, "decimals": 2}),
)
CIRCLES = ((10.0, 2.0), (10.0, 5.0), (20.0, 3.0), (20.0, 7.0))


def _rates() -> list[Rate]:
    listed = []
    for name, how in STAFFS:
        for n in (3, 5):

            def make(rng: Rng, how: Any = how, n: int = n) -> Data:
                return pegs(rng, n=n, **how)

            where = f"two-peg, read to {name}, {n} readings"
            listed.append(Rate(f"{where}: c holds", 0.93, 1.0, _inside(make, "collimation_arcsec")))
            listed.append(Rate(f"{where}: set aside", 0.0, 0.02, _blamed(make)))
    for step, s in CIRCLES:

        def turn(rng: Rng, step: float = step, s: float = s) -> Data:
            return full_two_face(rng, step_arcsec=step, s=s)

        where = f"two-face, {s:g}″ on a circle of {step:g}″"
        listed.append(Rate(f"{where}: c holds", 0.93, 1.0, _inside(turn, "collimation_arcsec")))
        listed.append(Rate(f"{where}: index holds", 0.93, 1.0, _inside(turn, "index_arcsec")))
        listed.append(Rate(f"{where}: set aside", 0.0, 0.02, _blamed(turn)))
    return listed


COARSE_RATES = tuple(_rates())
