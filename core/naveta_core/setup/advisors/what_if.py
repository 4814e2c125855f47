"""What a move would do, before anybody makes it: bubble and spot as they are, and as they would be."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from ...documents.envelope import Finite, InOwnUnit
from ...geometry import ARCSEC, Plane, for_site, polar, unit
from ...units.formatting import arcsec, length_words
from ..context import Asked, BaseTold, Bearing, BubbleTold, Leg, MoveTold, TiltTold, TripodTold
from ..equipment import MM, CircularVial, Kit
from ..mechanism import Seen, State, move_leg, see, turn_screw
from ..mechanism import slide as slid
from ..tripod import LEGS
from .text import away, for_person
from .two_legs import moved, two_legs

Data = dict[str, Any]
SPOT_STAYS_MM = 0.15
TILT_STAYS_ARCSEC = 1.0


Slid = Annotated[float, Field(ge=-300, le=300), InOwnUnit]


class WhatIfAsked(Asked):
    """How it stands as far as it was told, and one or more moves: legs in mm, screws in turns, or a slide."""

    advice: Literal["what-if"]
    bubble: BubbleTold | None = None
    tilt: TiltTold | None = None
    spot: MoveTold | None = None
    """Where the plummet points, from the mark."""
    tripod: TripodTold = TripodTold()
    base: BaseTold = BaseTold()
    stand_bearing_deg: Bearing = 180.0
    legs_mm: dict[Leg, Annotated[float, Field(ge=-300, le=300), InOwnUnit]] = {}
    turns: dict[str, Annotated[float, Field(ge=-40, le=40), InOwnUnit]] = {}
    slide_right_mm: Slid = 0.0
    slide_away_mm: Slid = 0.0
    """A slide as the person makes it: to their right, and away from them."""
    slide_turn_deg: Finite = 0.0

    @model_validator(mode="after")
    def _sense(self) -> WhatIfAsked:
        if self.bubble is not None and self.tilt is not None:
            raise ValueError("bubble or tilt, not both")
        unknown = [name for name in self.turns if name not in self.names()]
        if unknown:
            raise ValueError(f"screws by their numbers, {', '.join(self.names())}: not {', '.join(unknown)}")
        return self

    def names(self) -> list[str]:
        return [str(i + 1) for i in range(self.base.screws)]


def advise_what_if(asked: WhatIfAsked) -> Data:
    """Bubble, tilt and spot `now` and `then`. The tilt told is taken to lie in the head; the screws stand at mid travel.

    Raises OutOfReachError beyond what a screw or the slide can do.
    """
    if asked.bubble is not None and asked.bubble.at_wall:
        text = "At the wall the offset is unknown. Move the bubble off the wall first, then try a move."
        return {"result": {"now": None, "then": None, "spot_moves_mm": None}, "text": [text]}
    kit = asked.tripod.kit(asked.base.base(), _vial(asked))
    before = _as_told(kit, asked)
    after = _moved(kit, before, asked)
    now, then = see(kit, before), see(kit, after)
    return {
        "result": {
            "now": _sight(now, asked),
            "then": _sight(then, asked),
            "spot_moves_mm": round(math.dist(_spot(now), _spot(then)), 2),
        },
        "text": _text(now, then, asked),
    }


def _vial(asked: WhatIfAsked) -> CircularVial:
    if asked.bubble is None:
        return CircularVial()
    return CircularVial(sensitivity_arcmin_per_2mm=asked.bubble.sensitivity_arcmin_per_2mm)


def _as_told(kit: Kit, asked: WhatIfAsked) -> State:
    """A state that looks as it was told to look."""
    state = asked.tripod.standing(asked.base.base(), _vial(asked))
    told = asked.bubble or asked.tilt
    if told is not None and math.hypot(*told.tilt()) > 0.0:
        tilt = told.tilt()
        fall = asked.tripod.fall(state)
        rough = [radius / stretch * (tilt[0] * way[0] + tilt[1] * way[1]) for way, radius, stretch in fall]
        kept = sorted(range(3), key=lambda i: rough[i])[1]
        start = [one - rough[kept] for one in rough]
        state = moved(kit, state, two_legs(kit, state, kept, start, tilt, lambda one: _head(kit, one), 1e-9))
    if asked.spot is None:
        return _marked(kit, state, (0.0, 0.0))
    u = unit(asked.spot.bearing_deg)
    return _marked(kit, state, (asked.spot.distance_mm * u[0], asked.spot.distance_mm * u[1]))


def _head(kit: Kit, state: State) -> Plane:
    seen = see(kit, state).head_tilt_arcsec
    return (seen[0] / ARCSEC, seen[1] / ARCSEC)


def _spot(seen: Seen) -> Plane:
    assert seen.spot_mm is not None
    return seen.spot_mm


def _marked(kit: Kit, state: State, spot_mm: Plane) -> State:
    """The state with the mark where the plummet's spot is `spot_mm` from it."""
    here = _spot(see(kit, state))
    x, y, z = state.mark
    return replace(state, mark=(x + (here[0] - spot_mm[0]) * MM, y + (here[1] - spot_mm[1]) * MM, z))


def _moved(kit: Kit, state: State, asked: WhatIfAsked) -> State:
    for leg in LEGS:
        if asked.legs_mm.get(leg):  # type: ignore[call-overload]
            state = move_leg(kit, state, leg, asked.legs_mm[leg])  # type: ignore[index]
    if asked.turns:
        state = turn_screw(kit, state, {int(name): amount for name, amount in asked.turns.items()})
    if asked.slide_right_mm or asked.slide_away_mm or asked.slide_turn_deg:
        step = for_site(asked.slide_right_mm, asked.slide_away_mm, asked.stand_bearing_deg)
        state = slid(kit, state, *step, asked.slide_turn_deg)
    return state


def _sight(seen: Seen, asked: WhatIfAsked) -> Data:
    bearing, far = polar(*_spot(seen))
    tilt_bearing, tilt = polar(*seen.tilt_arcsec)
    return {
        "bubble": {
            "bearing_deg": round(seen.bubble_bearing_deg, 1),
            "offset_mm": round(seen.bubble_mm, 2),
            "at_wall": seen.at_wall,
            "in_ring": seen.in_ring,
        },
        "tilt": {"bearing_deg": round(tilt_bearing, 1), "arcsec": round(tilt, 1)},
        "spot": None if asked.spot is None else {"bearing_deg": round(bearing, 1), "distance_mm": round(far, 2)},
    }


def _text(now: Seen, then: Seen, asked: WhatIfAsked) -> list[str]:
    words, stand = length_words(asked.units.length), asked.stand_bearing_deg
    was, is_now = _spot(now), _spot(then)
    bearing, far = polar(is_now[0] - was[0], is_now[1] - was[1])
    lines = []
    if asked.bubble is not None or asked.tilt is not None:
        tilt = math.hypot(*then.tilt_arcsec)
        if math.dist(now.tilt_arcsec, then.tilt_arcsec) < TILT_STAYS_ARCSEC:
            lines.append("The level stays as it is.")
        elif asked.tilt is not None:
            lines.append(f"The axis will be {arcsec(tilt)} out of plumb.")
        elif then.at_wall:
            lines.append("The bubble will move to the wall.")
        elif then.in_ring:
            lines.append("The bubble will be in its ring.")
        else:
            side = away(for_person(then.bubble_bearing_deg, stand))
            lines.append(f"The bubble will be {words.small(then.bubble_mm * MM)} off the middle, {side}.")
    if far < SPOT_STAYS_MM:
        lines.append("The plummet does not move.")
    else:
        lines.append(f"The plummet will move {words.small(far * MM)}, {away(for_person(bearing, stand))}.")
    if asked.spot is not None:
        lines.append(f"It will then be {words.small(math.hypot(*is_now) * MM)} off the mark.")
    return lines
