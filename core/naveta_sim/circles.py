"""Simulated pointings of a theodolite with hidden errors: two faces, target tracking, rounds of directions, full tests."""

from __future__ import annotations

import random
from math import hypot, sin, sqrt
from typing import Any

from . import noise as scatter
from .space import SECONDS
from .theodolite import Theodolite, packed, radians_of

Data = dict[str, Any]
FULL = ((90.2, 100.0), (66.0, 100.0))
DIRECTIONS = (("1", 14.0, 90.5), ("2", 97.0, 88.0), ("3", 231.0, 91.5))
USUAL_DISTANCE_M = 100.0
READY = {"minutes_on": 15, "support": "tripod"}


def _theodolite(truth: Data) -> Theodolite:
    return Theodolite(truth.get("c", 0.0), truth.get("i", 0.0), truth.get("t", 0.0))


def _pointing(rng: random.Random, hz: float, v: float, spread: float) -> Data:
    return {"hz": packed(hz + rng.gauss(0, spread) / 3600), "v": packed(v + rng.gauss(0, spread) / 3600)}


def two_face(rng: random.Random, truth: Data) -> Data:
    """truth: `c`, `i`, `t` (arcsec), `targets` as (zenith, distance), `pointings` a face (5), `accuracy` (3), `noise`,
    `closing` pointings (2), `magnification` (30)."""
    instrument, found = _theodolite(truth), truth.get("targets", FULL)
    s, noise, n = truth.get("accuracy", 3.0), truth.get("noise", 1.0), truth.get("pointings", 5)
    eye, closing = scatter.EYE_ARCSEC / truth.get("magnification", 30.0), truth.get("closing", 2)
    targets, first = [], None
    for number, (zenith, distance) in enumerate(found):
        spread = hypot(s, eye, scatter.TARGET_MM / 1000 / distance * SECONDS) * noise
        faces: dict[str, list[Data]] = {}
        for face in ("left", "right"):
            common = [rng.gauss(0, scatter.FACE_SHARE * s * noise) / 3600 for _ in range(2)]
            hz, v = instrument.circles(15.0 + 31.0 * number, zenith, right=face == "right")
            if number == 0 and face == "left":
                first = (hz + common[0], v + common[1], spread)
            faces[face] = [_pointing(rng, hz + common[0], v + common[1], spread) for _ in range(n)]
        targets.append({"distance_m": f"{distance:g}", **faces})
    observations: Data = {"targets": targets}
    if closing and first is not None:
        observations["closing"] = [_pointing(rng, *first) for _ in range(closing)]
    method = {(1, 1, 0): "quick", (1, 5, 2): "five", (2, 5, 2): "full"}.get((len(found), n, closing))
    return {
        "kind": "two-face",
        **({"method": method} if method else {}),
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": READY,
        "observations": observations,
    }


def tracker(rng: random.Random, truth: Data) -> Data:
    """truth: `tracker_arcsec` (across, in height), `c`, `i`, `accuracy` (3), `distance` (100), `zenith` (89.5),
    `pointings` a list (3), `turned_arcsec`: a prism turned away, `noise`."""
    across, height = truth.get("tracker_arcsec", (0.0, 0.0))
    s, noise, n = truth.get("accuracy", 3.0), truth.get("noise", 1.0), truth.get("pointings", 3)
    distance, zenith = truth.get("distance", 100.0), truth.get("zenith", 89.5)
    per_mm, z = SECONDS / 1000 / distance, sin(radians_of(zenith))
    lists: Data = {"manual": {}, "auto": {}}
    for how in ("manual", "auto"):
        auto = how == "auto"
        own = hypot(scatter.TRACKER_SHARE * s, scatter.TRACKER_MM * per_mm)
        spread = own if auto else hypot(s, 1.0, scatter.PRISM_MM * per_mm)
        between = (scatter.TRACKER_COMMON if auto else scatter.FACE_SHARE) * s
        # A tracker's axis lies beside the line of sight: it is a telescope with another c and i of its own.
        seen = Theodolite(truth.get("c", 0.0) + across * auto, truth.get("i", 0.0) + height * auto, truth.get("t", 0.0))
        aside = truth.get("turned_arcsec", 0.0) * auto / z / 3600
        for face in ("left", "right"):
            hz, v = seen.circles(40.0 + aside, zenith, right=face == "right")
            common = [rng.gauss(0, between * noise) / 3600 for _ in range(2)]
            lists[how][face] = [_pointing(rng, hz + common[0], v + common[1], spread * noise) for _ in range(n)]
    method = {3: "three", 1: "quick"}.get(n)
    return {
        "kind": "tracker",
        **({"method": method} if method else {}),
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": READY,
        "observations": {"targets": [{"distance_m": f"{distance:g}", **lists}]},
    }


def direction_rounds(rng: random.Random, truth: Data) -> Data:
    """truth: `c`, `i`, `t`, `rounds` (2), `targets` as (name, direction, zenith), `accuracy` (3), `noise`."""
    instrument, targets, s = _theodolite(truth), truth.get("targets", DIRECTIONS), truth.get("accuracy", 3.0)
    noise, count = truth.get("noise", 1.0), truth.get("rounds", 2)
    spread = hypot(s, 1.0, scatter.TARGET_MM / 1000 / USUAL_DISTANCE_M * SECONDS) * noise
    rounds = []
    for number in range(count):
        pointings = []
        for face in ("left", "right"):
            common, order = rng.gauss(0, scatter.FACE_SHARE * s * noise) / 3600, [*targets, targets[0]]
            for name, direction, zenith in order if face == "left" else order[::-1]:
                hz, v = instrument.circles(direction + 60.0 * number, zenith, right=face == "right")
                pointings.append({"target": name, "face": face, **_pointing(rng, hz + common, v, spread)})
        rounds.append({"pointings": pointings})
    method = {(3, 2): "two", (3, 4): "four", (2, 2): "angle"}.get((len(targets), count))
    return {
        "kind": "direction-rounds",
        **({"method": method} if method else {}),
        "instrument": {"angle_accuracy_arcsec": s},
        "conditions": {"minutes_on": 15, "support": "pillar"},
        "observations": {"rounds": rounds},
    }


TARGETS = {"horizontal-simplified": 4, "horizontal-full": 5, "vertical-simplified": 4, "vertical-full": 4}
SERIES, SETS = {"simplified": 1, "full": 4}, 3


def direction_accuracy(rng: random.Random, truth: Data) -> Data:
    """truth: `arcsec` (one direction in both faces, 3), `circle`, `procedure`, `c`, `i`, `stated` (3), `noise`."""
    circle, procedure = truth.get("circle", "horizontal"), truth.get("procedure", "simplified")
    method = f"{circle}-{procedure}"
    count, spread = TARGETS[method], truth.get("arcsec", 3.0) * truth.get("noise", 1.0) * sqrt(2.0) / 3600
    instrument, names = _theodolite(truth), [str(k + 1) for k in range(count)]
    series = []
    for _ in range(SERIES[procedure]):
        sets = []
        for number in range(SETS):
            faces: dict[str, list[Data]] = {}
            for face in ("left", "right"):
                rows = []
                for k, name in enumerate(names):
                    level = circle == "horizontal"
                    azimuth = 12.0 + k * 300.0 / count + 60.0 * number if level else 0.0
                    zenith = 90.0 if level else 96.0 - k * 30.0 / (count - 1)
                    hz, v = instrument.circles(azimuth, zenith, right=face == "right")
                    rows.append({"target": name, "reading": packed((hz if level else v) + rng.gauss(0, spread))})
                faces[face] = rows if face == "left" else rows[::-1]
            sets.append(faces)
        series.append({"sets": sets})
    return {
        "kind": "direction-accuracy",
        "method": method,
        "instrument": {"angle_accuracy_arcsec": truth.get("stated", 3.0)},
        "conditions": {"minutes_on": 15, "support": "pillar"},
        "observations": {"circle": circle, "procedure": procedure, "series": series},
    }
