"""What a person given at an step, as figures: the spot from a bob's swing, the rest position of a vial."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..documents.envelope import MAX_FIGURE
from ..geometry import for_site, polar
from ..units.numbers import numeral, rounded
from .advisors.plumb import PlumbBobAdvice, PlumbBobQuery, View, advise_bob
from .context import AdviceUnits, BubblePlace, PlanMove, TribrachGeometry
from .document import Aside, Ends, Levelled, Saw, SetUpDocument, Swing
from .equipment import CircularVial


@dataclass(frozen=True, slots=True)
class Swung:
    """Where a bob hangs by its swing. `spot` is None while it was seen from one side only; sigma in mm."""

    spot: PlanMove | None
    sigma_mm: float | None
    text: str


def typed_figure(value: Any) -> float | None:
    """A typed figure, or None while it cannot be read or is past measuring (the preview names the fault)."""
    if value is None:
        return None
    try:
        figure = numeral(value).value if isinstance(value, str) else float(value)
    except ValueError:
        return None
    return figure if abs(figure) <= MAX_FIGURE else None


def levelled(document: SetUpDocument, look: Levelled, *, electronic: bool) -> tuple[float | None, float | None]:
    """A look at the level, along and across: an electronic one's figures in canonical sense, whatever its display counts."""
    senses = document.instrument.senses if electronic else (1.0, 1.0)
    along, across = (typed_figure(value) for value in (look.along, look.across))
    return (
        None if along is None else along * senses[0],
        None if across is None else across * senses[1],
    )


def tribrach_of(document: SetUpDocument) -> TribrachGeometry:
    """The foot screws; which way they raise as entered here, else as stated of the model."""
    tribrach, stated = document.observations.tribrach, document.instrument.foot_screws
    if stated is None or tribrach.clockwise_from_above is not None:
        return tribrach
    return tribrach.model_copy(update={"clockwise_from_above": "lowers" if stated == "clockwise-lowers" else "raises"})


def rests(document: SetUpDocument) -> tuple[float, float]:
    """Where the level's figures stand when the axis is plumb, along and across, as far as it is known; else zero:
    canonical seconds of an electronic level, divisions of a vial.

    One plate vial read twice has one rest position; of two vials only the first one's is known.
    """
    level_type = document.observations.options.level_type
    if level_type == "electronic":
        index = document.known_index()
        return index[:2] if index else (0.0, 0.0)
    rest = document.rest_div() or 0.0
    return (rest, rest if level_type == "plate" else 0.0)


def aside_of(document: SetUpDocument, aside: Aside | None) -> tuple[float, float] | None:
    """A typed place as a bearing of the site and a distance in mm; None until both figures can be read."""
    if aside is None:
        return None
    right, away = typed_figure(aside.right), typed_figure(aside.away)
    if right is None or away is None:
        return None
    return polar(*for_site(right, away, document.observations.stand_bearing_deg))


def bubble_of(document: SetUpDocument, saw: Saw) -> BubblePlace | None:
    """Where the bubble is: as touched, or as typed; as far out as the wall lets it, it is at the wall."""
    place = aside_of(document, saw.bubble_aside)
    if saw.bubble is not None or place is None:
        return saw.bubble
    bearing, far = place
    if far >= CircularVial().wall_mm:
        return BubblePlace(bearing_deg=bearing, at_wall=True)
    return BubblePlace(bearing_deg=bearing, offset_mm=rounded(far, 2))


def spot_of(document: SetUpDocument, saw: Saw) -> PlanMove | None:
    """Where the plummet points: as touched, as typed, or as its swing says."""
    if saw.spot is not None:
        return saw.spot
    place = aside_of(document, saw.spot_aside)
    if place is not None:
        return PlanMove(bearing_deg=place[0], distance_mm=min(500.0, place[1]))
    swung = swing_of(document, saw.swing) if saw.swing is not None else None
    return swung.spot if swung else None


def swing_of(document: SetUpDocument, swing: Swing) -> Swung | None:
    """Where the bob hangs by what was read of its swing; None before both ends were read from one side.

    Somebody a quarter round to their own right looks along `stand + 90`; from where they stood, along `stand + 180`.
    """
    stand = document.observations.stand_bearing_deg
    views = [
        View(bearing_deg=(stand + method) % 360.0, left_mm=ends[0], right_mm=ends[1])
        for method, ends in ((180.0, _ends(swing.here)), (90.0, _ends(swing.round)))
        if ends is not None
    ]
    if not views:
        return None
    units = AdviceUnits(length=document.units.length)
    advised = advise_bob(PlumbBobQuery(advice="bob", views=views, units=units))
    hangs, text = advised.result, advised.text[0]
    assert isinstance(hangs, PlumbBobAdvice)
    if hangs.offset_mm is None or hangs.bearing_deg is None:
        return Swung(None, None, text)
    spot = PlanMove(bearing_deg=hangs.bearing_deg, distance_mm=min(500.0, hangs.offset_mm))
    return Swung(spot, hangs.sigma_mm, text)


def _ends(ends: Ends) -> tuple[float, float] | None:
    left, right = typed_figure(ends.left), typed_figure(ends.right)
    return None if left is None or right is None else (left, right)
