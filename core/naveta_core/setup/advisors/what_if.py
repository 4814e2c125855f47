"""What a move would do, before anybody makes it: bubble and spot as they are, and as they would be."""

from __future__ import annotations

import math
from dataclasses import replace

from ...geometry import ARCSEC, Plane, for_site, polar, unit
from ...results import Answer
from ...units.formatting import arcsec, length_words
from ...units.numbers import rounded
from ..context import WhatIfQuery
from ..equipment import MM, CircularVial, Equipment
from ..mechanism import InstrumentView, State, move_leg, see, turn_screw
from ..mechanism import slide as slid
from ..results import AdviceResult
from ..tripod import LEGS
from .advised import Advised
from .text import away, for_person
from .two_legs import moved, two_legs

SPOT_STAYS_MM = 0.15
TILT_STAYS_ARCSEC = 1.0


class ExpectedVial(Answer):
    """Where the bubble of the circular vial would be."""

    bearing_deg: float
    offset_mm: float
    at_wall: bool
    in_ring: bool


class ExpectedTilt(Answer):
    """Which side of the axis would be high, and by how much."""

    bearing_deg: float
    arcsec: float


class ExpectedSpot(Answer):
    """Where the plummet would point, from the mark."""

    bearing_deg: float
    distance_mm: float


class ExpectedView(Answer):
    """What would be seen."""

    bubble: ExpectedVial
    tilt: ExpectedTilt
    spot: ExpectedSpot | None


class WhatIfAdvice(AdviceResult):
    """What is seen now and would be then; None throughout while the bubble touches the wall."""

    now: ExpectedView | None
    then: ExpectedView | None
    spot_moves_mm: float | None


def advise_what_if(query: WhatIfQuery) -> Advised:
    """Bubble, tilt and spot `now` and `then`. The tilt given is taken to lie in the head; the screws stand at mid travel.

    Raises OutOfReachError beyond what a screw or the slide can do.
    """
    if query.bubble is not None and query.bubble.at_wall:
        text = "At the wall the offset is unknown. Move the bubble off the wall first, then try a move."
        return Advised(WhatIfAdvice(now=None, then=None, spot_moves_mm=None), [text])
    equipment = query.tripod.equipment(query.tribrach.as_tribrach(), _vial(query))
    before = _as_described(equipment, query)
    after = _moved(equipment, before, query)
    now, then = see(equipment, before), see(equipment, after)
    moves = rounded(math.dist(_spot(now), _spot(then)), 2)
    return Advised(
        WhatIfAdvice(now=_view(now, query), then=_view(then, query), spot_moves_mm=moves), _text(now, then, query)
    )


def _vial(query: WhatIfQuery) -> CircularVial:
    if query.bubble is None:
        return CircularVial()
    return CircularVial(sensitivity_arcmin_per_2mm=query.bubble.sensitivity_arcmin_per_2mm)


def _as_described(equipment: Equipment, query: WhatIfQuery) -> State:
    """A state that looks as it was given to look."""
    state = query.tripod.standing(query.tribrach.as_tribrach(), _vial(query))
    found = query.bubble or query.tilt
    if found is not None and math.hypot(*found.tilt()) > 0.0:
        tilt = found.tilt()
        fall = query.tripod.fall(state)
        rough = [radius / stretch * (tilt[0] * way[0] + tilt[1] * way[1]) for way, radius, stretch in fall]
        kept = sorted(range(3), key=lambda i: rough[i])[1]
        start = [entry - rough[kept] for entry in rough]
        state = moved(
            equipment,
            state,
            two_legs(
                equipment,
                state,
                kept,
                start_m=start,
                wanted=tilt,
                view=lambda entry: _head(equipment, entry),
                close=1e-9,
            ),
        )
    if query.spot is None:
        return _marked(equipment, state, (0.0, 0.0))
    u = unit(query.spot.bearing_deg)
    return _marked(equipment, state, (query.spot.distance_mm * u[0], query.spot.distance_mm * u[1]))


def _head(equipment: Equipment, state: State) -> Plane:
    seen = see(equipment, state).head_tilt_arcsec
    return (seen[0] / ARCSEC, seen[1] / ARCSEC)


def _spot(seen: InstrumentView) -> Plane:
    assert seen.spot_mm is not None
    return seen.spot_mm


def _marked(equipment: Equipment, state: State, spot_mm: Plane) -> State:
    """The state with the mark where the plummet's spot is `spot_mm` from it."""
    here = _spot(see(equipment, state))
    x, y, z = state.mark
    return replace(state, mark=(x + (here[0] - spot_mm[0]) * MM, y + (here[1] - spot_mm[1]) * MM, z))


def _moved(equipment: Equipment, state: State, query: WhatIfQuery) -> State:
    for leg in LEGS:
        if query.legs_mm.get(leg):  # type: ignore[call-overload]
            state = move_leg(equipment, state, leg, query.legs_mm[leg])  # type: ignore[index]
    if query.turns:
        state = turn_screw(equipment, state, {int(name): amount for name, amount in query.turns.items()})
    if query.slide_right_mm or query.slide_away_mm or query.slide_turn_deg:
        step = for_site(query.slide_right_mm, query.slide_away_mm, query.stand_bearing_deg)
        state = slid(equipment, state, *step, query.slide_turn_deg)
    return state


def _view(seen: InstrumentView, query: WhatIfQuery) -> ExpectedView:
    bearing, far = polar(*_spot(seen))
    tilt_bearing, tilt = polar(*seen.tilt_arcsec)
    bubble = ExpectedVial(
        bearing_deg=rounded(seen.bubble_bearing_deg, 1),
        offset_mm=rounded(seen.bubble_mm, 2),
        at_wall=seen.at_wall,
        in_ring=seen.in_ring,
    )
    spot = ExpectedSpot(bearing_deg=rounded(bearing, 1), distance_mm=rounded(far, 2))
    tilted = ExpectedTilt(bearing_deg=rounded(tilt_bearing, 1), arcsec=rounded(tilt, 1))
    return ExpectedView(bubble=bubble, tilt=tilted, spot=None if query.spot is None else spot)


def _text(now: InstrumentView, then: InstrumentView, query: WhatIfQuery) -> list[str]:
    words, stand = length_words(query.units.length), query.stand_bearing_deg
    was, is_now = _spot(now), _spot(then)
    bearing, far = polar(is_now[0] - was[0], is_now[1] - was[1])
    lines = []
    if query.bubble is not None or query.tilt is not None:
        tilt = math.hypot(*then.tilt_arcsec)
        if math.dist(now.tilt_arcsec, then.tilt_arcsec) < TILT_STAYS_ARCSEC:
            lines.append("The level stays as it is.")
        elif query.tilt is not None:
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
    if query.spot is not None:
        lines.append(f"It will then be {words.small(math.hypot(*is_now) * MM)} off the mark.")
    return lines
