"""Data for the tests of pages from the simulators: sheets of instruments with hidden errors, and the errors of lessons.

Tests compare pages with these figures. The simulators share no solver with the core.
"""

from __future__ import annotations

import base64
import csv
import io
import random
import sqlite3
from pathlib import Path
from typing import Any

from PIL import Image

from demo.scenario import POINTS
from naveta_core.devices.lines import written_line
from naveta_core.setup.methods import SET_UP_METHODS
from naveta_practice.devices import ElectronicLevelStandIn, LevelStandIn, yard_of
from naveta_practice.instruments.faults import fault_of
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.lessons import LESSONS
from naveta_practice.mornings import morning_of
from naveta_sim import simulate as simulated
from tests.core.orientation.world import World


def simulate(kind: str, seed: int | str, truth: dict[str, Any]) -> Any:
    """Return a simulated sheet of a check; `truth` gives the instrument's errors."""
    return simulated(kind, random.Random(seed), truth)


def hidden(lesson: str, wrong: list[str]) -> dict[str, Any]:
    """Return the first seed of a lesson in which exactly these errors exceed their limits, and all its errors."""
    for seed in range(1, 400):
        errors = hidden_of(lesson, seed).errors
        if all((abs(error.value) > error.spec.bad) == (name in wrong) for name, error in errors.items()):
            return {"seed": seed, "errors": {name: error.value for name, error in errors.items()}}
    raise LookupError(f"{lesson} never hides just {wrong}")


def level(least: float, most: float) -> dict[str, Any]:
    """Return the first seed of the two-peg lesson with a collimation error in this range (seconds), and the error."""
    for seed in range(1, 100):
        error = hidden_of("two-peg", seed).errors["collimation_arcsec"].value
        if least <= abs(error) < most:
            return {"seed": seed, "errors": {"collimation_arcsec": error}}
    raise LookupError(f"no level is off by {least} to {most}")


def fault(name: str) -> int:
    """Return the first seed of the lesson of faults with this fault."""
    return next(seed for seed in range(1, 200) if fault_of("finding-the-fault", seed).name == name)


def practised() -> dict[str, list[str]]:
    """Return the lessons that practise each method of a set-up."""
    return {name: [lesson.name for lesson in LESSONS if name in lesson.practises] for name in SET_UP_METHODS}


def morning() -> dict[str, Any]:
    """Return a morning whose best kit needs a check: seed, instrument and titles of the checks."""
    for seed in range(1, 60):
        found = morning_of("morning-kit", seed)
        if found.kit.kit is not None and found.kit.kit.minutes > 0:
            (best,) = found.kit.kit.tags
            return {"seed": seed, "best": best, "checks": [check.title for check in found.fitness(best).checks]}
    raise LookupError("no morning asks for a check")


def picture() -> str:
    """Return a small JPEG as base64."""
    written = io.BytesIO()
    Image.new("RGB", (900, 600), (90, 80, 70)).save(written, "JPEG")
    return base64.b64encode(written.getvalue()).decode()


def behind_the_back(data: str, record: str, old: str, new: str) -> str:
    """Change a record's document directly in the database; returns its previous text."""
    key = record.replace("-", "")
    with sqlite3.connect(Path(data) / "naveta.sqlite3") as database:
        (kept,) = database.execute("SELECT document FROM records_record WHERE id = ?", [key]).fetchone()
        changed = kept.replace(old, new, 1) if old else new
        database.execute("UPDATE records_record SET document = ? WHERE id = ?", [changed, key])
    return str(kept)


def sights(
    seed: int, of: list[str], moved: dict[str, float] | None = None, over: str | None = None
) -> list[dict[str, str]]:
    """Return simulated sights to control points of the demo, with angles packed as ddd.mmss.

    `moved`: metres by which points are displaced to the east. `over`: the point under the station."""
    known = {
        point["name"]: (float(point["e"]), float(point["n"]), float(point["h"]))
        for point in csv.DictReader(io.StringIO(POINTS), delimiter=";")
    }
    stand, height = (known[over], 1.55) if over else ((4160.0, 8725.0, 7.9), 1.55)
    for name, metres in (moved or {}).items():
        known[name] = (known[name][0] + metres, *known[name][1:])
    world = World(known, stand, 212.345, instrument=height, noise=random.Random(seed), distance_mm=1.5)
    return [_typed(world.shot(name)) for name in of]


def _typed(shot: dict[str, Any]) -> dict[str, str]:
    return {
        "hz": _packed(shot["hz"]),
        "v": _packed(shot["v"]),
        "slope_distance": f"{float(shot['slope_distance']):.3f}",
        "target_height": str(shot["target_height"]),
    }


def _packed(degrees: str) -> str:
    """Return decimal degrees packed as ddd.mmss: 212.2043 for 212°20′43″."""
    seconds = round(float(degrees) % 360 * 3600)
    return f"{seconds // 3600}.{seconds // 60 % 60:02d}{seconds % 60:02d}"


def tilted(seed: int) -> list[float]:
    """Return the tilt along and across of the electronic level of these stand-ins, seconds."""
    level = next(device for device in yard_of(seed) if isinstance(device, ElectronicLevelStandIn))
    return [level.along_arcsec, level.across_arcsec]


def shots(seed: int, count: int) -> list[str]:
    """Return the first lines that the level of these stand-ins sends."""
    level = next(device for device in yard_of(seed) if isinstance(device, LevelStandIn))
    readings = level.shots()
    return [written_line(level.line("2027-03-02T06:40:12+00:00", *next(readings)[0])) for _ in range(count)]
