"""What a check of a tripod says in words, and its drawing."""

from __future__ import annotations

from ...engine.drawing import deviations
from ...engine.rows import line
from ...engine.verdict import Judgement
from ...results import CalculationLine, DeviationsPicture
from ...stats.estimate import Estimate
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import LengthWords, arcsec, figure
from .document import LOOKS, Tripod, TripodRead


def finding_of(residual: Estimate, twist: float, document: Tripod) -> str:
    """The finding as one sentence; residual and twist in arcsec."""
    bad = [name for name, *_ in LOOKS if getattr(document.observations, name) == "no"]
    lead = f"{len(bad)} of three inspections found a defect. " if bad else ""
    value, u = residual.value, residual.u95
    if abs(value) <= u:
        return f"{lead}Head returns within {arcsec(residual.proved_to, residual.proved_to)} after a twist of {arcsec(twist, 10)}."
    return f"{lead}Residual twist {arcsec(abs(value), u)}, ± {arcsec(u, u)}, after a twist of {arcsec(twist, 10)}."


def worked_of(
    read: TripodRead, scale: float, residual: float, twist: float, words: LengthWords
) -> list[CalculationLine]:
    """The calculation; scale in arcsec per unit read, kept and twist in arcsec."""
    lines = [line(f"A millimetre at {words.distance(read.distance_m or 0)}", f"{figure(scale, 2)}″")]
    for i, (_, free, loaded, released) in enumerate(read.rounds, start=1):
        lines.append(
            line(
                f"Load cycle {i}",
                f"untouched {figure(free, 1)}, turned {figure(loaded, 1)}, released {figure(released, 1)} mm",
            )
        )
    lines.append(
        line(
            "Means, signed by the direction of the turn: twist; residual twist",
            f"{figure(twist, 1)}″; {figure(residual, 1)}″",
        )
    )
    return lines


def draw(_document: Tripod, read: TripodRead, judgement: Judgement | None) -> DeviationsPicture:
    """The drawing of the readings, in the unit of the check; with the result once there is one."""
    if read.distance_m is None:
        return deviations("arcsec", [], None, "untouched", "")
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    points: list[tuple[str, float, float | None]] = []
    for i, (_, free, loaded, released) in enumerate(read.rounds):
        points.append((f"load cycle {i + 1}, turned", 2.0 * i, (loaded - free) * scale))
        points.append((f"load cycle {i + 1}, released", 2.0 * i + 1, (released - free) * scale))
    return deviations("arcsec", points, judgement.quantities[0].limits.use if judgement else 5.0, "untouched", "")
