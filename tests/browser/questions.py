"""Questions of every kind for the core, to be asked here and in the browser: whole, part-filled, spoiled."""

from __future__ import annotations

import json
import random
from typing import Any

from tests.core.orientation.world import random_world
from tests.written_demo import ROOT

Data = dict[str, Any]


def orientations(rng: random.Random, at: str) -> list[Data]:
    """Free stations and backsights: honest, with swapped names, a wrong constant, a spoiled circle, or unfinished."""
    rows = [
        {"verb": "preview", "document": json.loads(path.read_text())["document"], "at": at}
        for path in sorted((ROOT / "tests/core/orientation/examples").glob("*.json"))
    ]
    for _ in range(110):
        world = random_world(rng.randrange(2, 6), rng)
        names = list(world.points)
        spoil = rng.random()
        if spoil < 0.15:
            world.names = {names[0]: names[1], names[1]: names[0]}
        document = world.free() if rng.random() < 0.6 else world.back(names[0], *names[1:])
        shots = document["observations"]["shots"]
        if 0.15 <= spoil < 0.3:
            for shot in shots:
                shot["slope_distance"] = f"{float(shot['slope_distance']) + 0.03:.4f}"
        elif 0.3 <= spoil < 0.4:
            shots[-1]["hz"] = rng.choice(("399", "1.2.3", "", "-5"))
        elif 0.4 <= spoil < 0.5:
            shots[-1].pop("v")
        rows.append({"verb": "preview", "document": document, "at": at})
    return rows


def set_ups(rng: random.Random, at: str) -> list[Data]:
    """Set-ups by every means of levelling, judged and led on with a log of what was seen."""
    rows: list[Data] = []
    for _ in range(90):
        level_type = rng.choice(("electronic", "plate", "two-plates"))
        size = 12.0 if level_type == "electronic" else 2.0
        look = [f"{rng.gauss(0, size):.1f}" for _ in range(4)]
        log = [
            {"step": "near", "saw": {"spot": {"bearing_deg": rng.randrange(360), "distance_mm": rng.randrange(40)}}},
            {
                "step": "circular",
                "saw": {"bubble": {"bearing_deg": rng.randrange(360), "offset_mm": rng.randrange(50) / 10}},
            },
            {"step": "plate", "saw": {"level": {"along": look[0], "across": look[1]}}},
        ]
        document = {
            "kind": "set-up",
            "observations": {
                "method": rng.choice(("plummet-first", "level-first", "shift-by-leg")),
                "mark": {"name": "PC-14"},
                "options": {"level_type": level_type, "legs_may": rng.choice(("lower", "either"))},
                "tripod": {"foot_spacing_m": rng.choice((0.9, 1.0, 1.25)), "slope_deg": rng.choice((0, 6))},
                "log": log[: rng.randrange(4)],
                "level": {
                    "by": "electronic" if level_type == "electronic" else "plate",
                    "first": {"along": look[0], "across": look[1]},
                    "turned": {"along": look[2], "across": look[3]},
                },
                "centring_mm": rng.choice(("0.2", "1.4", "x", "")),
                "height": {"readings": ["1.562", f"1.56{rng.randrange(10)}"]},
            },
        }
        rows.append({"verb": "preview", "document": document, "at": at})
        rows.append(
            {"verb": "guide", "document": document, "at": at, "step": rng.choice((None, "circular", "plate", "slide"))}
        )
    return rows


def advice(rng: random.Random) -> list[Data]:
    """A move tried first, a budget, a turned angle."""
    rows: list[Data] = []
    for _ in range(60):
        bubble = {"bearing_deg": rng.randrange(360), "offset_mm": rng.randrange(45) / 10}
        legs = {leg: rng.randrange(-40, 40) / 10 for leg in "ABC"}
        rows.append(
            {"advice": "what-if", "bubble": bubble, "spot": {"bearing_deg": 40, "distance_mm": 5}, "legs_mm": legs}
        )
        rows.append(
            {
                "advice": "budget",
                "back_m": rng.randrange(5, 90),
                "fore_m": rng.randrange(5, 90),
                "elevation_deg": rng.randrange(-30, 30),
                "index_arcsec": rng.randrange(-20, 20),
            }
        )
        rows.append({"advice": "turned-angle", "start": f"{rng.randrange(360)}.{rng.randrange(60):02d}", "turn": "90"})
    return [{"verb": "advise", "question": row} for row in rows]
