"""Control points, a stand among them, and what an honest instrument then reads; nothing of the core is used."""

from __future__ import annotations

import math
import random
from dataclasses import dataclass, field
from typing import Any

K, R = 0.13, 6_371_000.0


@dataclass
class World:
    """Points by name (e, n, h), the stand, the bearing of circle zero, height of instrument and of targets."""

    points: dict[str, tuple[float, float, float]]
    stand: tuple[float, float, float]
    zero_deg: float
    instrument: float = 1.55
    target: float = 1.30
    noise: random.Random | None = None
    angle_arcsec: float = 3.0
    distance_mm: float = 2.5
    names: dict[str, str] = field(default_factory=dict)
    """Names typed instead of the right ones."""

    def true(self, name: str) -> tuple[float, float, float]:
        """Bearing and zenith angle in degrees, slope distance in metres, to the target over a point."""
        e, n, h = self.points[name]
        de, dn = e - self.stand[0], n - self.stand[1]
        flat = math.hypot(de, dn)
        rise = h + self.target - self.stand[2] - self.instrument - (1 - K) * flat**2 / (2 * R)
        return math.degrees(math.atan2(de, dn)), math.degrees(math.atan2(flat, rise)), math.hypot(flat, rise)

    def shot(self, name: str, **more: Any) -> dict[str, Any]:
        bearing, z, slope = self.true(name)
        g = self.noise.gauss if self.noise else (lambda _m, _s: 0.0)
        hz = (bearing - self.zero_deg + g(0, self.angle_arcsec) / 3600) % 360
        fields = {
            "point": self.names.get(name, name),
            "hz": f"{hz:.6f}",
            "v": f"{z + g(0, self.angle_arcsec) / 3600:.6f}",
            "slope_distance": f"{slope + g(0, self.distance_mm) / 1000:.5f}",
            "target_height": f"{self.target:.3f}",
        }
        return {name: item for name, item in {**fields, **more}.items() if item is not None}

    def control(self) -> list[dict[str, str]]:
        return [
            {"name": name, "e": f"{e:.4f}", "n": f"{n:.4f}", "h": f"{h:.4f}"} for name, (e, n, h) in self.points.items()
        ]

    def free(self, shots: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
        observations = {
            "control": self.control(),
            "shots": shots if shots is not None else [self.shot(name) for name in self.points],
            "instrument_height": f"{self.instrument:.3f}",
            **more,
        }
        return {"kind": "free-station", "units": {"angle": "deg"}, "observations": observations}

    def back(self, over: str, *to: str, shots: list[dict[str, Any]] | None = None, **more: Any) -> dict[str, Any]:
        """Over one of the points, looking at others."""
        self.stand = self.points[over]
        station = next(earlier for earlier in self.control() if earlier["name"] == over)
        observations = {
            "control": self.control(),
            "station": station,
            "shots": shots if shots is not None else [self.shot(name) for name in to],
            "instrument_height": f"{self.instrument:.3f}",
            **more,
        }
        return {"kind": "backsight", "units": {"angle": "deg"}, "observations": observations}


CREEK = {
    "PC-01": (1000.0, 2000.0, 12.0),
    "PC-02": (1060.0, 2035.0, 14.0),
    "PC-03": (1012.0, 2070.0, 11.0),
    "PC-04": (955.0, 2040.0, 9.0),
}


def creek(count: int = 3, rng: random.Random | None = None, **more: Any) -> World:
    """Points at the creek, a stand in their midst."""
    return World(dict(list(CREEK.items())[:count]), (1015.0, 2031.0, 11.4), 37.0, noise=rng, **more)


def random_world(count: int, rng: random.Random) -> World:
    points = {f"P{i}": (rng.uniform(-60, 60), rng.uniform(-60, 60), rng.uniform(0, 12)) for i in range(count)}
    while True:
        stand = (rng.uniform(-40, 40), rng.uniform(-40, 40), 5.0)
        if min(math.hypot(e - stand[0], n - stand[1]) for e, n, _ in points.values()) > 8.0:
            return World(points, stand, rng.uniform(0, 360), noise=rng)
