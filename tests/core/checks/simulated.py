"""Random instruments for every kind of check of rows: what is true of each, and where the result should say so."""

from __future__ import annotations

import json
import random
from collections.abc import Callable
from typing import Any

from naveta_core.registry import parse
from tests.core.plain import preview_of, reduce_of

Data = dict[str, Any]
FOUR = (0, 90, 180, 270)


def reduced(document: Data) -> Data:
    parsed = parse(json.dumps(document).encode())
    return reduce_of(parsed.kind, parsed)


def previewed(document: Data) -> Data:
    parsed = parse(json.dumps(document).encode())
    return preview_of(parsed.kind, parsed)


def codes(result: Data, which: str = "reasons") -> list[str]:
    return [reason["code"] for reason in result["verdict"][which]]


Draw = Callable[[random.Random], tuple[Data, Data]]
"""Gives (truth for the simulation, what the result should find by name)."""


def _circular(rng: random.Random) -> tuple[Data, Data]:
    e = (rng.uniform(-1.5, 1.5), rng.uniform(-1.5, 1.5))
    return {"error_mm": e, "headings": FOUR}, {"vial_error_x_mm": e[0], "vial_error_y_mm": e[1]}


def _plate(rng: random.Random) -> tuple[Data, Data]:
    e = rng.uniform(-2, 2)
    tilt = (rng.gauss(0, 25), rng.gauss(0, 25))
    return {"rest_div": e, "tilt_arcsec": tilt, "decimals": 2}, {"reversal_div": e}


def _dual(rng: random.Random) -> tuple[Data, Data]:
    index = (rng.uniform(-15, 15), rng.uniform(-15, 15))
    return {"index_arcsec": index, "headings": FOUR}, {"index_along_arcsec": index[0], "index_across_arcsec": index[1]}


def _plummet(rng: random.Random) -> tuple[Data, Data]:
    o = (rng.uniform(-2, 2), rng.uniform(-2, 2))
    return {"offset_mm": o}, {"offset_x_mm": o[0], "offset_y_mm": o[1]}


def _compensator(rng: random.Random) -> tuple[Data, Data]:
    # One side well beyond the noise, so that the largest shift is that side's.
    shift = rng.choice((-1, 1)) * rng.uniform(15, 30)
    side = rng.choice(("toward", "away", "left", "right"))
    return {"shift_arcsec": {side: shift}}, {"largest_shift_arcsec": shift}


def _pole(rng: random.Random) -> tuple[Data, Data]:
    truth, wanted = _circular(rng)
    return truth, wanted


def _staff(rng: random.Random) -> tuple[Data, Data]:
    zero, scale = rng.uniform(-1, 1), rng.uniform(-300, 300)
    return {"zero_mm": zero, "scale_ppm": scale, "temperature_c": rng.uniform(0, 30)}, {
        "zero_offset_mm": zero,
        "scale_ppm": scale,
    }


def _tape(rng: random.Random) -> tuple[Data, Data]:
    zero, scale = rng.uniform(-1, 1), rng.uniform(-300, 300)
    return {"zero_mm": zero, "scale_ppm": scale, "temperature_c": rng.uniform(0, 30)}, {
        "zero_offset_mm": zero,
        "scale_ppm": scale,
    }


def _tripod(rng: random.Random) -> tuple[Data, Data]:
    kept = rng.uniform(-5, 20)
    return {"twist_arcsec": rng.uniform(25, 40), "set_arcsec": kept}, {"set_arcsec": kept}


def _two_face(rng: random.Random) -> tuple[Data, Data]:
    c, i, t = (rng.uniform(-20, 20) for _ in range(3))
    return {"c": c, "i": i, "t": t}, {"collimation_arcsec": c, "index_arcsec": i, "tilting_axis_arcsec": t}


def _tracker(rng: random.Random) -> tuple[Data, Data]:
    across, height = rng.uniform(-15, 15), rng.uniform(-15, 15)
    truth = {"tracker_arcsec": (across, height), "c": rng.uniform(-20, 20), "i": rng.uniform(-20, 20)}
    return truth, {"tracker_hz_arcsec": across, "tracker_v_arcsec": height}


def _rounds(rng: random.Random) -> tuple[Data, Data]:
    c = rng.uniform(-20, 20)
    return {"c": c, "i": rng.uniform(-20, 20), "rounds": 3}, {"collimation_arcsec": c}


def _levelling(rng: random.Random) -> tuple[Data, Data]:
    spread = rng.uniform(0.5, 3.0)
    return {"mm_per_km": spread, "procedure": "full"}, {"levelling_sigma_mm_per_km": spread}


def _angles(rng: random.Random) -> tuple[Data, Data]:
    spread = rng.uniform(1.0, 6.0)
    truth = {"arcsec": spread, "circle": rng.choice(("horizontal", "vertical")), "procedure": "full", "c": 9, "i": -6}
    return truth, {"direction_sigma_arcsec": spread}


DRAWS: dict[str, Draw] = {
    "direction-rounds": _rounds,
    "levelling-accuracy": _levelling,
    "direction-accuracy": _angles,
    "tracker": _tracker,
    "two-face": _two_face,
    "circular-vial": _circular,
    "plate-vial": _plate,
    "dual-axis-level": _dual,
    "plummet": _plummet,
    "compensator-function": _compensator,
    "pole-vial": _pole,
    "staff": _staff,
    "tape": _tape,
    "tripod": _tripod,
}
SCATTER = ("levelling-accuracy", "direction-accuracy")
"""Kinds whose finding is the scatter itself: there is nothing to be found without it."""
U95_OF = {
    "circular-vial": "vial_error_mm",
    "pole-vial": "vial_error_mm",
    "plummet": "offset_mm",
}
"""Components of a vector carry the uncertainty of its part."""


def part(result: Data, name: str) -> Data:
    return next(part for part in result["verdict"]["parts"] if part["quantity"] == name)
