"""What lets one go on at an step: near enough, level enough, done."""

from __future__ import annotations

from .document import Done, SetUpDocument, SetUpObservations
from .observations import bubble_of, levelled, rests, spot_of
from .reading import limits_of, read
from .steps import SetUpStep

NEAR_MM = 10.0
"""Near enough to press the feet in: the screws or the slide take the rest."""
BACK_ON_MM = 1.5
ON_THE_MARK_MM = 0.5
BOB_MM = 1.5
IN_RING_MM = 1.0
LEVEL_ARCSEC = 5.0
LEVEL_DIV = 0.2


def last_of(o: SetUpObservations, step: str) -> Done | None:
    """What was last seen at a step; None where nothing was."""
    return next((logged for logged in reversed(o.log) if logged.step == step), None)


def within_tolerance(document: SetUpDocument, step: SetUpStep, last: Done | None) -> bool:
    """Whether what was last seen at an step lets one go on."""
    o = document.observations
    if step.prompt == "rounds":
        judged = read(document)
        e = judged.tilt_estimate
        return bool(judged.index is not None and e and e.value <= limits_of(document)["tilt_arcsec"].use)
    if step.prompt == "heights":
        return len(read(document).heights_m) >= 2
    if step.prompt == "look":
        return o.final_check_done
    if step.prompt == "zero":
        return bool(o.zero.reading is not None and str(o.zero.reading).strip())
    if last is None:
        return False
    if last.saw is None:
        return last.confirmed
    spot = spot_of(document, last.saw)
    if spot is not None:
        least = {"near": NEAR_MM, "over": NEAR_MM, "back-on": BACK_ON_MM, "bob": BOB_MM}.get(step.name, ON_THE_MARK_MM)
        return spot.distance_mm <= least
    bubble = bubble_of(document, last.saw)
    if bubble is not None:
        return not bubble.at_wall and (bubble.offset_mm or 0.0) <= IN_RING_MM
    if last.saw.level is not None:
        electronic = o.options.level_type == "electronic"
        figures = levelled(document, last.saw.level, electronic=electronic)
        least = LEVEL_ARCSEC if electronic else LEVEL_DIV
        return all(
            figure is not None and abs(figure - rest) <= least
            for figure, rest in zip(figures, rests(document), strict=True)
        )
    return last.confirmed
