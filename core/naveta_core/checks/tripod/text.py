"""What a check of a tripod says in words, and its drawing."""

from __future__ import annotations

from ...engine.drawing import deviations
from ...engine.rows import line
from ...engine.verdict import Judgement
from ...results import CalculationLine, DeviationsPicture
from ...units.angles import ARCSEC_PER_RADIAN
from ...units.formatting import arcsec, figure
from .document import LOOKS, Tripod, TripodRead


def finding_of(kept: float, u: float, twist: float, document: Tripod) -> str:
    bad = [name for name, *_ in LOOKS if getattr(document.observations, name) == "no"]
    lead = f"{len(bad)} of three looks found something. " if bad else ""
    if abs(kept) <= u:
        return f"{lead}The head springs back, within ± {arcsec(u, u)}, after {arcsec(twist, 10)} under a hand."
    return f"{lead}After a hand let go the head stays {arcsec(abs(kept), u)} turned, ± {arcsec(u, u)}; under it it gave {arcsec(twist, 10)}."


def worked_of(read: TripodRead, scale: float, kept: float, twist: float) -> list[CalculationLine]:
    lines = [line(f"A millimetre at {figure(read.distance_m or 0, 1)} m", f"{figure(scale, 2)}″")]
    for i, (_, free, loaded, released) in enumerate(read.rounds, start=1):
        lines.append(
            line(
                f"Round {i}",
                f"let alone {figure(free, 1)}, under the hand {figure(loaded, 1)}, let go {figure(released, 1)} mm",
            )
        )
    lines.append(
        line(
            "Means, plus the way the hand turned: under it; what does not come back",
            f"{figure(twist, 1)}″; {figure(kept, 1)}″",
        )
    )
    return lines


def draw(_document: Tripod, read: TripodRead, judgement: Judgement | None) -> DeviationsPicture:
    if read.distance_m is None:
        return deviations("arcsec", [], None, "let alone", "")
    scale = ARCSEC_PER_RADIAN / (read.distance_m * 1000)
    marks: list[tuple[str, float, float | None]] = []
    for i, (_, free, loaded, released) in enumerate(read.rounds):
        marks.append((f"round {i + 1}, under the hand", 2.0 * i, (loaded - free) * scale))
        marks.append((f"round {i + 1}, let go", 2.0 * i + 1, (released - free) * scale))
    return deviations("arcsec", marks, judgement.quantities[0].limits.use if judgement else 5.0, "let alone", "")
