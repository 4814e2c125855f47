"""A theodolite with hidden errors, as rays: where its circles stand when its line of sight goes through a target.

The trunnion axis lies in the alidade, its right-hand end high by t. The line of sight leaves it at 90° + c and turns about
it with the telescope. The vertical circle is displaced by i. Nothing is approximated: the ray is laid through the target.
"""

from __future__ import annotations

from dataclasses import dataclass
from math import asin, atan2, cos, degrees, radians, sin, sqrt

from .space import SECONDS


@dataclass(frozen=True, slots=True)
class Theodolite:
    """Hidden errors in seconds: collimation c, vertical index error i, trunnion axis t."""

    c: float = 0.0
    i: float = 0.0
    t: float = 0.0

    def circles(self, azimuth_deg: float, zenith_deg: float, *, right: bool = False) -> tuple[float, float]:
        """Both circles, degrees, when a target in that direction is sighted in face left, or in face right."""
        c, t = self.c / SECONDS, self.t / SECONDS
        rise = (cos(radians(zenith_deg)) + sin(c) * sin(t)) / (cos(c) * cos(t))
        turned = asin(max(-1.0, min(1.0, rise)))  # how far the telescope is turned up from the horizon of the alidade
        forward, up = sqrt(1.0 - rise * rise), rise
        if right:
            turned, forward = radians(180.0) - turned, -forward
        # The ray in the frame of the alidade: x along its right, y straight ahead.
        x = -sin(c) * cos(t) - cos(c) * up * sin(t)
        y = cos(c) * forward
        horizontal = azimuth_deg - degrees(atan2(x, y))
        vertical = 90.0 - degrees(turned) + self.i / 3600.0
        return horizontal % 360.0, vertical % 360.0


def packed(degrees_: float) -> str:
    """Decimal degrees as they are typed: 102.43055 for 102°43′05.5″."""
    tenths = round((degrees_ % 360.0) * 36000)
    minutes, tenths = divmod(tenths, 600)
    whole, minutes = divmod(minutes, 60)
    return f"{whole % 360}.{minutes:02d}{tenths // 10:02d}{tenths % 10}"


def radians_of(degrees_: float) -> float:
    return radians(degrees_)
