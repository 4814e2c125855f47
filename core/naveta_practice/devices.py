"""Stand-ins for instruments that send their readings: a level, a total station, an electronic level, each with hidden errors."""

from __future__ import annotations

import random
from collections.abc import Iterator
from dataclasses import dataclass, field
from math import sin

from naveta_core.devices.lines import VERSION, DeviceLine
from naveta_sim import noise as scatter
from naveta_sim.levels import ray_m
from naveta_sim.theodolite import Theodolite, packed

LIVE_BELOW_S = 1.0


@dataclass(slots=True)
class StandIn:
    """A device that numbers its readings from one on, within a run of its own."""

    device: str
    rng: random.Random
    every_s: float
    run: str = field(default="", init=False)
    seq: int = field(default=0, init=False)

    def __post_init__(self) -> None:
        self.run = f"{self.rng.getrandbits(32):08x}"

    def line(self, at: str, quantity: str, value: str, unit: str, face: str | None = None) -> DeviceLine:
        """The next line of this device."""
        self.seq += 1
        fields = {"naveta": VERSION, "device": self.device, "run": self.run, "seq": self.seq, "at": at}
        return DeviceLine.model_validate({**fields, "quantity": quantity, "value": value, "unit": unit, "face": face})

    @property
    def live(self) -> bool:
        """Whether it sends all the time, whatever anybody presses."""
        return self.every_s < LIVE_BELOW_S

    def shots(self) -> Iterator[list[tuple[str, str, str, str | None]]]:
        """What one press of the button gives, shot after shot: quantity, value, unit, face."""
        raise NotImplementedError


TWO_PEG_M = ((30.0, 30.0), (56.0, 4.0))
"""Distances to A and to B from the middle, and from near B."""


@dataclass(slots=True)
class LevelStandIn(StandIn):
    """A level that reads staffs A and B of a two-peg test, `readings` times each, set-up after set-up, without an end."""

    collimation_arcsec: float = 0.0
    height_difference_m: float = 0.3
    readings: int = 1

    def shots(self) -> Iterator[list[tuple[str, str, str, str | None]]]:
        """Readings on A, readings on B; from the middle, then from near B."""
        while True:
            for distances in TWO_PEG_M:
                axis = self.rng.uniform(1.35, 1.75) + self.height_difference_m
                for ground, distance in zip((0.0, self.height_difference_m), distances, strict=True):
                    own, common = scatter.staff_mm(distance, "digital", 1.0)
                    line = axis - ground + ray_m(self.collimation_arcsec, distance) + self.rng.gauss(0, common / 1000)
                    for _ in range(self.readings):
                        yield [("staff", f"{line + self.rng.gauss(0, own / 1000):.5f}", "m", None)]


TARGETS = ((15.0, 90.2), (46.0, 66.0))
"""Azimuth and zenith angle of two targets, degrees."""


TWO_FACE = ((0, "left", 5), (1, "left", 5), (1, "right", 5), (0, "right", 5), (0, "left", 2))
"""Target, face and how many pointings, in the order in which a full check is read; the closing sight last."""


@dataclass(slots=True)
class TotalStationStandIn(StandIn):
    """A total station that points at two targets in both faces, as a full two-face check is read, without an end."""

    instrument: Theodolite = field(default_factory=Theodolite)
    spread_arcsec: float = 2.0

    def shots(self) -> Iterator[list[tuple[str, str, str, str | None]]]:
        """Both circles of one pointing, the face with each."""
        while True:
            for target, face, times in TWO_FACE:
                hz, v = self.instrument.circles(*TARGETS[target], right=face == "right")
                for _ in range(times):
                    one, other = (self.rng.gauss(0, self.spread_arcsec) / 3600 for _ in range(2))
                    yield [("hz", packed(hz + one), "dms", face), ("v", packed(v + other), "dms", face)]


@dataclass(slots=True)
class ElectronicLevelStandIn(StandIn):
    """An electronic level whose stand is out of plumb and settles slowly; two figures five times a second."""

    along_arcsec: float = 0.0
    across_arcsec: float = 0.0
    shot: int = field(default=0, init=False)

    def shots(self) -> Iterator[list[tuple[str, str, str, str | None]]]:
        """Along and across."""
        while True:
            self.shot += 1
            drift = 3.0 * sin(self.shot / 150.0)
            a = self.along_arcsec + drift + self.rng.gauss(0, 0.7)
            c = self.across_arcsec - drift + self.rng.gauss(0, 0.7)
            yield [("along", f"{a:.1f}", "arcsec", None), ("across", f"{c:.1f}", "arcsec", None)]


def yard_of(seed: int, readings: int = 1) -> list[StandIn]:
    """Three stand-ins with hidden errors of a seed."""
    rng = random.Random(f"devices {seed}")
    sign = [rng.choice((-1.0, 1.0)) for _ in range(5)]
    return [
        LevelStandIn(
            "level-1",
            random.Random(rng.random()),
            2.0,
            collimation_arcsec=sign[0] * rng.uniform(5, 30),
            readings=readings,
        ),
        TotalStationStandIn(
            "station-1",
            random.Random(rng.random()),
            3.0,
            instrument=Theodolite(c=sign[1] * rng.uniform(3, 20), i=sign[2] * rng.uniform(3, 20)),
        ),
        ElectronicLevelStandIn(
            "electronic-level-1",
            random.Random(rng.random()),
            0.2,
            along_arcsec=sign[3] * rng.uniform(40, 160),
            across_arcsec=sign[4] * rng.uniform(40, 160),
        ),
    ]
