"""How to bring the plummet over the mark with the legs: which legs, so that once relevelled it has moved as wanted."""

from __future__ import annotations

import math
from typing import Literal

from ...geometry import ARCSEC, Plane, unit
from ...units.formatting import length_words
from ...units.numbers import rounded
from ..context import AdviceQuery, PlanMove, TribrachGeometry, TripodGeometry
from ..equipment import MM, Equipment, Tribrach
from ..mechanism import State, see
from ..results import AdviceResult, AdviceStep
from ..tripod import LEGS
from .advised import Advised
from .text import about_as_much
from .two_legs import moved, two_legs


class ShiftQuery(AdviceQuery):
    """The way the plummet has to go, over the ground."""

    advice: Literal["shift"]
    move: PlanMove
    tripod: TripodGeometry = TripodGeometry()
    tribrach: TribrachGeometry = TribrachGeometry()


class ShiftStep(AdviceStep):
    """One leg changed to a pencil mark."""

    leg: str
    mm: float
    direction: Literal["shorten", "lengthen"]
    stop_when: str


class ShiftAdvice(AdviceResult):
    """Changes of the legs in mm, positive longer; `ratio` is mm of plummet for a mm of leg."""

    legs: dict[str, float]
    ratio: float | None
    head_tilt_arcsec: float
    screws_take_arcsec: float
    screws_can: bool
    steps: list[ShiftStep]
    short_of: list[str]

    @property
    def moves(self) -> list[ShiftStep]:
        """The same as figures the trial and the drawing take up."""
        return self.steps


def advise_shift(query: ShiftQuery) -> Advised:
    """Leg changes after which, once relevelled with the foot screws, the plummet has moved by `move`."""
    equipment = query.tripod.equipment()
    level = query.tripod.standing()
    u = unit(query.move.bearing_deg)
    wanted = (query.move.distance_mm * MM * u[0], query.move.distance_mm * MM * u[1])
    changes = _changes(query, equipment, level, wanted)
    tilted = moved(equipment, level, changes)
    tilt = _size(see(equipment, tilted).head_tilt_arcsec)
    takes = _screws_take(query.tribrach.as_tribrach())
    biggest = max(LEGS, key=lambda leg: abs(changes[leg]))
    ratio = query.move.distance_mm / abs(changes[biggest]) if abs(changes[biggest]) > 1e-6 else None
    short = [leg for leg in LEGS if not query.tripod.has_left(leg, changes[leg])]
    words = length_words(query.units.length)
    steps = [
        ShiftStep(
            leg=leg,
            mm=rounded(changes[leg], 1),
            direction="shorten" if changes[leg] < 0 else "lengthen",
            stop_when="it reaches a pencil mark drawn at the clamp beforehand",
            text=f"{'Shorten' if changes[leg] < 0 else 'Lengthen'} leg {leg} by {words.small(abs(changes[leg]) * MM)}, {about_as_much(abs(changes[leg]))}.",
        )
        for leg in sorted(LEGS, key=lambda leg: -abs(changes[leg]))
        if abs(changes[leg]) >= 0.3
    ]
    result = ShiftAdvice(
        legs={leg: rounded(changes[leg], 3) for leg in LEGS},
        ratio=None if ratio is None else rounded(ratio, 3),
        head_tilt_arcsec=rounded(tilt, 0),
        screws_take_arcsec=rounded(takes, 0),
        screws_can=tilt <= takes,
        steps=steps,
        short_of=short,
    )
    return Advised(result, _text(steps, ratio, tilt, takes, short))


def _changes(query: ShiftQuery, equipment: Equipment, level: State, wanted: Plane) -> dict[str, float]:
    rough = [
        -radius / level.legs[i] * (wanted[0] * way[0] + wanted[1] * way[1])
        for i, (way, radius, _) in enumerate(query.tripod.fall(level))
    ]
    middle = sorted(range(3), key=lambda i: rough[i])[1]
    start = [entry - rough[middle] for entry in rough]
    return two_legs(
        equipment,
        level,
        middle,
        start_m=start,
        wanted=wanted,
        view=lambda state: _relevelled(equipment, level, state),
        close=1e-8,
    )


def _relevelled(equipment: Equipment, before: State, after: State) -> Plane:
    """Relevelling turns about the pivot, so the plummet then points below it: how far the pivot has moved in plan."""
    inside = (0.0, 0.0, equipment.pivot_height_mm * MM)
    was, now = before.pose.point(inside), after.pose.point(inside)
    return (now[0] - was[0], now[1] - was[1])


def _size(tilt: Plane) -> float:
    return math.hypot(*tilt)


def _screws_take(tribrach: Tribrach) -> float:
    """The tilt that half the travel of every screw levels in any direction, arcsec."""
    return tribrach.travel_mm / 2.0 / tribrach.radius_mm * ARCSEC


def _text(steps: list[ShiftStep], ratio: float | None, tilt: float, takes: float, short: list[str]) -> list[str]:
    if not steps or ratio is None:
        return ["For a move this small, slide the instrument on the head instead."]
    lines = ["First draw a pencil line across the leg at its clamp: you cannot see the plummet while the leg moves."]
    lines += [step.text for step in steps]
    lines.append(f"On this tripod, shortening a leg by 1 mm moves the plummet by {ratio:.2f} mm after levelling.")
    lines.append(f"The head will be {tilt / 60.0:.0f}′ off level: centre the bubble again with the foot screws.")
    if tilt > takes:
        lines.append(
            f"That is more than the foot screw range ({takes / 60.0:.0f}′ from mid travel): go half way, or move the whole tripod."
        )
    if short:
        lines.append(f"Leg {' and '.join(short)} has too little travel left: move the whole tripod instead.")
    return lines
