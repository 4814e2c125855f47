"""The standing axis of a simulated instrument: how it is tilted at the start, and after its foot screws were turned."""

from __future__ import annotations

from functools import lru_cache

from naveta_sim.space import Matrix, body

from .hidden import Hidden, Turns

FOOT_ARCSEC_PER_TURN = 600.0


@lru_cache(maxsize=64)
def tilt_of(hidden: Hidden, most_arcsec: float) -> tuple[float, float]:
    """The tilt at the start: its high side towards 90° and towards 0°, each at most so many seconds."""
    rng = hidden.scene()
    return rng.uniform(-most_arcsec, most_arcsec), rng.uniform(-most_arcsec, most_arcsec)


def body_of(hidden: Hidden, most_arcsec: float, heading_deg: float, turns: Turns) -> Matrix:
    """The instrument turned to a heading, on an axis tilted as its foot screws left it."""
    right, forward = tilt_of(hidden, most_arcsec)
    tilt = (
        right + turns.get("third", 0.0) * FOOT_ARCSEC_PER_TURN,
        forward + turns.get("pair", 0.0) * FOOT_ARCSEC_PER_TURN,
    )
    return body(tilt, heading_deg)
