"""Perfect instruments in both faces: how often the trunnion axis or the tracker of one is sent to be adjusted."""

from __future__ import annotations

import numpy as np

from .coarse import full_two_face
from .crews import RHO, Data, Rng, day, dms, judged, part
from .rates import Rate, Sample


def tracker(rng: Rng, *, s: float, n: int) -> Data:
    """A perfect tracker against the telescope, n pointings a face at 100 m."""
    noise, at, far = day(rng), rng.uniform(10, 40), 100.0
    per_mm, target = RHO / 1000 / far, {"distance_m": "100"}
    spreads = {"manual": (np.sqrt(s**2 + 1 + (0.5 * per_mm) ** 2), 0.4 * s), "auto": (np.hypot(s / 2, per_mm), 0.3 * s)}
    found: Data = {**target}
    for how, (w, b) in spreads.items():
        found[how] = {}
        for face, hz, v in (("left", at, 90.0), ("right", at + 180, 270.0)):
            common = rng.normal(0, b, 2)
            found[how][face] = [
                {
                    "hz": dms(hz + (common[0] + rng.normal(0, w * noise)) / 3600, 1.0),
                    "v": dms(v + (common[1] + rng.normal(0, w * noise)) / 3600, 1.0),
                }
                for _ in range(n)
            ]
    instrument = {"kind": "robotic-total-station", "angle_accuracy_arcsec": s}
    return {"kind": "tracker", "instrument": instrument, "observations": {"targets": [found]}}


def _adjusts(quantity: str, **how: float) -> Sample:
    def once(rng: Rng) -> bool:
        document = (
            tracker(rng, s=how["s"], n=int(how["n"]))
            if quantity.startswith("tracker")
            else full_two_face(rng, step_arcsec=1.0, s=how["s"], steep_deg=how["z"])
        )
        return bool(part(judged(document), quantity)["grade"] == "adjust")

    return once


def _rate(name: str, quantity: str, **how: float) -> Rate:
    return Rate(f"{name}, perfect: adjust", 0.0, 0.005, _adjusts(quantity, **how), 1500)


FACE_RATES = (
    *(
        _rate(f"two-face, {s:g}″, steep target at {z:g}°", "tilting_axis_arcsec", s=s, z=z)
        for s, z in ((3.0, 66.0), (3.0, 60.0), (7.0, 66.0))
    ),
    *(
        _rate(f"tracker, {s:g}″, {n} pointings a face", "tracker_hz_arcsec", s=s, n=n)
        for s, n in ((1.0, 1), (3.0, 3), (5.0, 3))
    ),
)
