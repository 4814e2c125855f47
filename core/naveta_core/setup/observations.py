"""What a person told at an act, as figures: the spot from a bob's swing, the rest position of a vial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..geometry import for_site, polar
from ..units.numbers import numeral
from .advisors import advise
from .context import BubbleTold, MoveTold
from .document import Aside, Ends, Levelled, Saw, SetUpDocument, Swing
from .equipment import CircularVial


@dataclass(frozen=True, slots=True)
class Swung:
    """Where a bob hangs by its swing. `spot` is None while it was seen from one side only; sigma in mm."""

    spot: MoveTold | None
    sigma_mm: float | None
    text: str


def typed_figure(value: Any) -> float | None:
    """A typed figure, or None while it cannot be read (the preview names the fault)."""
    if value is None:
        return None
    try:
        return numeral(value).value if isinstance(value, str) else float(value)
    except ValueError:
        return None


def levelled(document: SetUpDocument, look: Levelled, *, electronic: bool) -> tuple[float | None, float | None]:
    """A look at the level, along and across: an electronic one's figures in canonical sense, whatever its display counts."""
    senses = document.instrument.senses if electronic else (1.0, 1.0)
    along, across = (typed_figure(value) for value in (look.along, look.across))
    return (
        None if along is None else along * senses[0],
        None if across is None else across * senses[1],
    )


def base_of(document: SetUpDocument) -> dict[str, Any]:
    """The foot screws; which way they raise as told here, else as stated of the model."""
    told = document.observations.base.model_dump(exclude_none=True)
    stated = document.instrument.foot_screws
    if stated is not None and "clockwise_from_above" not in told:
        told["clockwise_from_above"] = "lowers" if stated == "clockwise-lowers" else "raises"
    return told


def rests(document: SetUpDocument) -> tuple[float, float]:
    """Where the level's figures stand when the axis is plumb, along and across, as far as it is known; else zero:
    canonical seconds of an electronic level, divisions of a vial.

    One plate vial read twice has one rest position; of two vials only the first one's is known.
    """
    fine = document.observations.options.fine
    if fine == "electronic":
        index = document.known_index()
        return index[:2] if index else (0.0, 0.0)
    rest = document.rest_div() or 0.0
    return (rest, rest if fine == "plate" else 0.0)


def aside_of(document: SetUpDocument, aside: Aside | None) -> tuple[float, float] | None:
    """A typed place as a bearing of the site and a distance in mm; None until both figures can be read."""
    if aside is None:
        return None
    right, away = typed_figure(aside.right), typed_figure(aside.away)
    if right is None or away is None:
        return None
    return polar(*for_site(right, away, document.observations.stand_bearing_deg))


def bubble_of(document: SetUpDocument, saw: Saw) -> BubbleTold | None:
    """Where the bubble is: as touched, or as typed; as far out as the wall lets it, it is at the wall."""
    place = aside_of(document, saw.bubble_aside)
    if saw.bubble is not None or place is None:
        return saw.bubble
    bearing, far = place
    if far >= CircularVial().wall_mm:
        return BubbleTold(bearing_deg=bearing, at_wall=True)
    return BubbleTold(bearing_deg=bearing, offset_mm=round(far, 2))


def spot_of(document: SetUpDocument, saw: Saw) -> MoveTold | None:
    """Where the plummet points: as touched, as typed, or as its swing tells."""
    if saw.spot is not None:
        return saw.spot
    place = aside_of(document, saw.spot_aside)
    if place is not None:
        return MoveTold(bearing_deg=place[0], distance_mm=min(500.0, place[1]))
    swung = swing_of(document, saw.swing) if saw.swing is not None else None
    return swung.spot if swung else None


def swing_of(document: SetUpDocument, swing: Swing) -> Swung | None:
    """Where the bob hangs by what was read of its swing; None before both ends were read from one side.

    Somebody a quarter round to their own right looks along `stand + 90`; from where they stood, along `stand + 180`.
    """
    stand = document.observations.stand_bearing_deg
    views = [
        {"bearing_deg": (stand + way) % 360.0, "left_mm": ends[0], "right_mm": ends[1]}
        for way, ends in ((180.0, _ends(swing.here)), (90.0, _ends(swing.round)))
        if ends is not None
    ]
    if not views:
        return None
    answer = advise({"advice": "bob", "views": views, "units": {"length": document.units.length}})
    told = answer.result
    if told["offset_mm"] is None:
        return Swung(None, None, answer.text[0])
    spot = MoveTold(bearing_deg=told["bearing_deg"], distance_mm=min(500.0, told["offset_mm"]))
    return Swung(spot, told["sigma_mm"], answer.text[0])


def _ends(ends: Ends) -> tuple[float, float] | None:
    left, right = typed_figure(ends.left), typed_figure(ends.right)
    return None if left is None or right is None else (left, right)
