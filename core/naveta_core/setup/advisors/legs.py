"""Which leg to move, how far, and what the bubble does meanwhile."""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import model_validator

from ...geometry import ARCSEC, Plane, along, polar
from ...units.formatting import length_words
from ..context import Asked, BubbleTold, TiltTold, TripodTold
from ..equipment import MM, CircularVial, Kit
from ..mechanism import State, see
from ..tripod import LEGS
from .text import about_as_much, across_from
from .two_legs import moved, two_legs

Data = dict[str, Any]
STRAIGHT = 0.32
"""Below this difference of shares a bubble at the wall may creep to either side."""
LEAST_MM = 0.4
"""A leg's clamp cannot be set finer than about this: smaller moves are left to the screws."""


class LegsAsked(Asked):
    """The bubble of the circular vial, or a tilt in figures; `may` says which way legs may be moved."""

    advice: Literal["legs"]
    bubble: BubbleTold | None = None
    tilt: TiltTold | None = None
    tripod: TripodTold = TripodTold()
    may: Literal["lower", "either"] = "lower"

    @model_validator(mode="after")
    def _one_of(self) -> LegsAsked:
        if (self.bubble is None) == (self.tilt is None):
            raise ValueError("either bubble or tilt")
        return self


def advise_legs(asked: LegsAsked) -> Data:
    """At most two legs, in millimetres, and what is seen when each is far enough."""
    bubble = asked.bubble
    if bubble is not None and bubble.at_wall:
        return _at_wall(asked, bubble)
    told = bubble or asked.tilt
    assert told is not None
    tilt = told.tilt()
    vial = CircularVial(
        sensitivity_arcmin_per_2mm=bubble.sensitivity_arcmin_per_2mm if bubble else 8.0, wall_mm=math.inf
    )
    kit = asked.tripod.kit(vial=vial)
    level = asked.tripod.standing(vial=vial)
    rough = _rough(asked.tripod, level, tilt)
    kept, how = _legs_to_keep(asked, rough)
    changes = _changes(kit, level, tilt, rough, kept)
    wrong = max(changes, key=lambda leg: changes[leg])
    if asked.may == "lower" and how == "enough" and changes[wrong] > 0:
        # The rough sizes were nearly equal: the other one of the two is the leg that stays.
        changes = _changes(kit, level, tilt, rough, LEGS.index(wrong))
    order = sorted((leg for leg in LEGS if abs(changes[leg]) >= LEAST_MM), key=lambda leg: -abs(changes[leg]))
    steps, sights = _steps(asked, kit, level, changes, order)
    return {
        "result": {
            "legs": {leg: round(changes[leg], 3) for leg in LEGS},
            "tilt_arcsec": round(math.hypot(*tilt) * ARCSEC, 1),
            "steps": steps,
            "seen": sights,
            "spot_moves_mm": _spot_moves(kit, level, changes),
            "reserve": how,
        },
        "text": _text(steps, how),
    }


def _rough(tripod: TripodTold, level: State, tilt: Plane) -> list[float]:
    """d = −(R·H/L)·T·u for each leg, in metres: which legs, and where the exact solution starts."""
    return [-radius / stretch * (tilt[0] * way[0] + tilt[1] * way[1]) for way, radius, stretch in tripod.fall(level)]


def _legs_to_keep(asked: LegsAsked, rough: list[float]) -> tuple[int, str]:
    """Which leg stays as it is, and why: 'enough', or what the reserve forced."""
    order = sorted(range(3), key=lambda i: rough[i])
    ways = {"lower": order[2], "either": order[1], "raise": order[0]}
    wanted = asked.may
    for choice in (wanted, *(choice_ for choice_ in ("lower", "either", "raise") if choice_ != wanted)):
        kept = ways[choice]
        if all(_has(asked.tripod, i, (rough[i] - rough[kept]) / MM) for i in range(3)):
            return kept, "enough" if choice == wanted else f"{choice}-instead"
    return ways[wanted], "short"


def _has(tripod: TripodTold, leg: int, mm: float) -> bool:
    return abs(mm) < LEAST_MM or tripod.has_left(LEGS[leg], mm)


def _changes(kit: Kit, level: State, tilt: Plane, rough: list[float], kept: int) -> dict[str, float]:
    """Changes in mm that bring a head tilted by `tilt` level: those that would tilt a level one so, taken back."""
    start = [rough[kept] - one for one in rough]
    off = two_legs(kit, level, kept, start, tilt, lambda state: _head_tilt(kit, state), 1e-9)
    return {leg: -off[leg] for leg in LEGS}


def _head_tilt(kit: Kit, state: State) -> Plane:
    seen = see(kit, state).head_tilt_arcsec
    return (seen[0] / ARCSEC, seen[1] / ARCSEC)


def _with(kit: Kit, level: State, changes: dict[str, float], still: list[str]) -> State:
    """The state in which only the legs in `still` have yet to be moved."""
    return moved(kit, level, {leg: -changes[leg] for leg in still})


def _spot_moves(kit: Kit, level: State, changes: dict[str, float]) -> float:
    before, after = (see(kit, _with(kit, level, changes, still)).axis_mm for still in (list(LEGS), []))
    return round(math.dist(before, after), 2)


def _steps(
    asked: LegsAsked, kit: Kit, level: State, changes: dict[str, float], order: list[str]
) -> tuple[list[Data], list[Data]]:
    """What to do with each leg and what is then seen; `seen` is the bubble before and after every step."""
    steps: list[Data] = []
    sights = [_sight(kit, _with(kit, level, changes, list(order)))]
    for i, leg in enumerate(order):
        after = _sight(kit, _with(kit, level, changes, order[i + 1 :]))
        sights.append(after)
        verb = "lower" if changes[leg] < 0 else "raise"
        if i + 1 < len(order):
            others = [order[i + 1]]
            across = changes[others[0]] > 0
            until = f"the bubble lies {'opposite' if across else 'in line with'} {others[0]}"
        else:
            others, across, until = [], False, "the bubble is in its ring, or comes no closer"
        mm = abs(changes[leg])
        steps.append(
            {
                "leg": leg,
                "mm": round(changes[leg], 1),
                "direction": "shorten" if changes[leg] < 0 else "lengthen",
                "stop_when": until,
                "line_up_with": others,
                "line_up_across": across,
                "text": f"{verb.capitalize()} leg {leg} slowly until {until}.",
                "about": f"About {length_words(asked.units.length).small(mm * MM)}, {about_as_much(mm)}.",
            }
        )
    return steps, sights


def _sight(kit: Kit, state: State) -> Data:
    seen = see(kit, state)
    offset = round(seen.bubble_mm, 2)
    # In the middle a bubble lies in no direction.
    return {"bearing_deg": round(seen.bubble_bearing_deg, 1) % 360.0 if offset else 0.0, "offset_mm": offset}


def _text(steps: list[Data], how: str) -> list[str]:
    if not steps:
        return ["The legs are done: continue with the foot screws."]
    lines = [f"{step['text']} {step['about']}" for step in steps]
    if how == "short":
        lines.append("No leg has that much travel left: move the feet, or set the tripod up again.")
    elif how.endswith("instead"):
        lines.append("The usual leg has too little travel left: use this one.")
    lines.append("The plummet stays in place: each leg turns the head about the other two feet.")
    return lines


def _at_wall(asked: LegsAsked, bubble: BubbleTold) -> Data:
    """Only the direction is known: one leg, and what is seen when it is enough."""
    level = asked.tripod.standing()
    shares = _shares(level, bubble)
    down = max(range(3), key=lambda i: shares[i])
    up = min(range(3), key=lambda i: shares[i])
    leg, verb = (down, "lower") if _has(asked.tripod, down, -1.0) else (up, "raise")
    if asked.may == "either" and abs(shares[up]) > abs(shares[down]) + 0.05 and _has(asked.tripod, up, 1.0):
        leg, verb = up, "raise"
    others = [i for i in range(3) if i != leg]
    # Moved alone, a leg carries the bubble along its own direction: it passes the line of the leg it is nearer to. When
    # it lies straight over the leg it may pass either.
    others.sort(key=lambda i: shares[i], reverse=verb == "lower")
    ahead = others if abs(shares[others[0]] - shares[others[1]]) < STRAIGHT else others[:1]
    names = sorted(LEGS[i] for i in ahead)
    lined = "in line with" if verb == "lower" else "opposite"
    until = f"the bubble leaves the wall, or lies {lined} {' or '.join(names)}"
    step = {
        "leg": LEGS[leg],
        "mm": None,
        "direction": "shorten" if verb == "lower" else "lengthen",
        "stop_when": until,
        "line_up_with": names,
        "line_up_across": verb == "raise",
        "text": f"{verb.capitalize()} leg {LEGS[leg]} slowly until {until}.",
        "about": "The distance is unknown while the bubble touches the wall.",
    }
    here = {"bearing_deg": round(bubble.bearing_deg % 360.0, 1), "offset_mm": None}
    return {
        "result": {
            "legs": None,
            "tilt_arcsec": None,
            "steps": [step],
            "seen": [here],
            "spot_moves_mm": None,
            "reserve": "enough",
        },
        "text": [f"{step['text']} {step['about']}", across_from(LEGS[leg], verb)],
    }


def _shares(level: State, bubble: BubbleTold) -> list[float]:
    """How far the direction of the bubble agrees with each leg's, 1 to −1."""
    told = []
    for foot in level.feet:
        bearing = polar(foot[0] - level.pose.at[0], foot[1] - level.pose.at[1])[0]
        told.append(
            along((math.sin(math.radians(bubble.bearing_deg)), math.cos(math.radians(bubble.bearing_deg))), bearing)
        )
    return told
