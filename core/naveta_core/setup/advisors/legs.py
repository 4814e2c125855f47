"""Which leg to move, how far, and what the bubble does meanwhile."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import model_validator

from ...geometry import ARCSEC, Plane, along, polar
from ...results import Answer
from ...units.formatting import length_words
from ...units.numbers import rounded
from ..context import AdviceQuery, BubblePlace, TiltVector, TripodGeometry
from ..equipment import MM, CircularVial, Equipment
from ..mechanism import State, see
from ..results import AdviceResult, AdviceStep
from ..tripod import LEGS
from .advised import Advised
from .text import about_as_much, across_from
from .two_legs import moved, two_legs

STRAIGHT = 0.32
"""Below this difference of shares a bubble at the wall may creep to either side."""
MIN_MM = 0.4
"""A leg's clamp cannot be set finer than about this: smaller moves are left to the screws."""


class LegsQuery(AdviceQuery):
    """The bubble of the circular vial, or a tilt in figures; `may` says which way legs may be moved."""

    advice: Literal["legs"]
    bubble: BubblePlace | None = None
    tilt: TiltVector | None = None
    tripod: TripodGeometry = TripodGeometry()
    may: Literal["lower", "either"] = "lower"

    @model_validator(mode="after")
    def _one_of(self) -> LegsQuery:
        if (self.bubble is None) == (self.tilt is None):
            raise ValueError("either bubble or tilt")
        return self


class LegStep(AdviceStep):
    """One leg: `mm` is None while the bubble touches the wall."""

    leg: str
    mm: float | None
    direction: Literal["shorten", "lengthen"]
    stop_when: str
    line_up_with: list[str] = []
    line_up_across: bool = False


class ExpectedBubble(Answer):
    """Where the bubble is before, between and after the moves; `offset_mm` None at the wall."""

    bearing_deg: float
    offset_mm: float | None


class LegsAdvice(AdviceResult):
    """Changes of the legs in mm, positive longer; None where only the direction is known."""

    legs: dict[str, float] | None
    tilt_arcsec: float | None
    steps: list[LegStep]
    bubbles: list[ExpectedBubble]
    spot_moves_mm: float | None
    reserve: str

    @property
    def moves(self) -> list[LegStep]:
        """The same as figures the trial and the drawing take up."""
        return self.steps


def advise_legs(query: LegsQuery) -> Advised:
    """At most two legs, in millimetres, and what is seen when each is far enough."""
    bubble = query.bubble
    if bubble is not None and bubble.at_wall:
        return _at_wall(query, bubble)
    found = bubble or query.tilt
    assert found is not None
    tilt = found.tilt()
    vial = CircularVial(
        sensitivity_arcmin_per_2mm=bubble.sensitivity_arcmin_per_2mm if bubble else 8.0, wall_mm=math.inf
    )
    equipment = query.tripod.equipment(vial=vial)
    level = query.tripod.standing(vial=vial)
    rough = _rough(query.tripod, level, tilt)
    kept, how = _leg_to_leave(query, rough)
    changes = _changes(equipment, level, tilt, rough, kept)
    wrong = max(changes, key=lambda leg: changes[leg])
    if query.may == "lower" and how == "enough" and changes[wrong] > 0:
        # The rough sizes were nearly equal: the other one of the two is the leg that stays.
        changes = _changes(equipment, level, tilt, rough, LEGS.index(wrong))
    order = sorted((leg for leg in LEGS if abs(changes[leg]) >= MIN_MM), key=lambda leg: -abs(changes[leg]))
    steps, sights = _steps(query, equipment, level, changes, order)
    result = LegsAdvice(
        legs={leg: rounded(changes[leg], 3) for leg in LEGS},
        tilt_arcsec=rounded(math.hypot(*tilt) * ARCSEC, 1),
        steps=steps,
        bubbles=sights,
        spot_moves_mm=_spot_moves(equipment, level, changes),
        reserve=how,
    )
    return Advised(result, _text(steps, how))


def _rough(tripod: TripodGeometry, level: State, tilt: Plane) -> list[float]:
    """d = −(R·H/L)·T·u for each leg, in metres: which legs, and where the exact solution starts."""
    return [-radius / stretch * (tilt[0] * way[0] + tilt[1] * way[1]) for way, radius, stretch in tripod.fall(level)]


def _leg_to_leave(query: LegsQuery, rough: list[float]) -> tuple[int, str]:
    """Which leg stays as it is, and why: 'enough', or what the reserve forced."""
    order = sorted(range(3), key=lambda i: rough[i])
    orders = {"lower": order[2], "either": order[1], "raise": order[0]}
    wanted = query.may
    for choice in (wanted, *(choice_ for choice_ in ("lower", "either", "raise") if choice_ != wanted)):
        kept = orders[choice]
        if all(_has(query.tripod, i, (rough[i] - rough[kept]) / MM) for i in range(3)):
            return kept, "enough" if choice == wanted else f"{choice}-instead"
    return orders[wanted], "short"


def _has(tripod: TripodGeometry, leg: int, mm: float) -> bool:
    return abs(mm) < MIN_MM or tripod.has_left(LEGS[leg], mm)


def _changes(equipment: Equipment, level: State, tilt: Plane, rough: list[float], kept: int) -> dict[str, float]:
    """Changes in mm that bring a head tilted by `tilt` level: those that would tilt a level one so, taken back."""
    start = [rough[kept] - entry for entry in rough]
    off = two_legs(
        equipment, level, kept, start_m=start, wanted=tilt, view=lambda state: _head_tilt(equipment, state), close=1e-9
    )
    return {leg: -off[leg] for leg in LEGS}


def _head_tilt(equipment: Equipment, state: State) -> Plane:
    seen = see(equipment, state).head_tilt_arcsec
    return (seen[0] / ARCSEC, seen[1] / ARCSEC)


def _with(equipment: Equipment, level: State, changes: dict[str, float], still: list[str]) -> State:
    """The state in which only the legs in `still` have yet to be moved."""
    return moved(equipment, level, {leg: -changes[leg] for leg in still})


def _spot_moves(equipment: Equipment, level: State, changes: dict[str, float]) -> float:
    before, after = (see(equipment, _with(equipment, level, changes, still)).axis_mm for still in (list(LEGS), []))
    return rounded(math.dist(before, after), 2)


def _steps(
    query: LegsQuery, equipment: Equipment, level: State, changes: dict[str, float], order: list[str]
) -> tuple[list[LegStep], list[ExpectedBubble]]:
    """What to do with each leg and what is then seen; `bubbles` is the bubble before and after every step."""
    steps: list[LegStep] = []
    sights = [_sight(equipment, _with(equipment, level, changes, list(order)))]
    for i, leg in enumerate(order):
        after = _sight(equipment, _with(equipment, level, changes, order[i + 1 :]))
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
            LegStep(
                leg=leg,
                mm=rounded(changes[leg], 1),
                direction="shorten" if changes[leg] < 0 else "lengthen",
                stop_when=until,
                line_up_with=others,
                line_up_across=across,
                text=f"{verb.capitalize()} leg {leg} slowly until {until}.",
                about=f"About {length_words(query.units.length).small(mm * MM)}, {about_as_much(mm)}.",
            )
        )
    return steps, sights


def _sight(equipment: Equipment, state: State) -> ExpectedBubble:
    seen = see(equipment, state)
    offset = rounded(seen.bubble_mm, 2)
    # In the middle a bubble lies in no direction.
    bearing = rounded(seen.bubble_bearing_deg, 1) % 360.0 if offset else 0.0
    return ExpectedBubble(bearing_deg=bearing, offset_mm=offset)


def _text(steps: list[LegStep], how: str) -> list[str]:
    if not steps:
        return ["The legs are done: continue with the foot screws."]
    lines = [f"{step.text} {step.about}" for step in steps]
    if how == "short":
        lines.append("No leg has that much travel left: move the feet, or set the tripod up again.")
    elif how.endswith("instead"):
        lines.append("The usual leg has too little travel left: use this one.")
    lines.append("The plummet stays in place: each leg turns the head about the other two feet.")
    return lines


def _at_wall(query: LegsQuery, bubble: BubblePlace) -> Advised:
    """Only the direction is known: one leg, and what is seen when it is enough."""
    level = query.tripod.standing()
    shares = _shares(level, bubble)
    down = max(range(3), key=lambda i: shares[i])
    up = min(range(3), key=lambda i: shares[i])
    leg, verb = (down, "lower") if _has(query.tripod, down, -1.0) else (up, "raise")
    if query.may == "either" and abs(shares[up]) > abs(shares[down]) + 0.05 and _has(query.tripod, up, 1.0):
        leg, verb = up, "raise"
    others = [i for i in range(3) if i != leg]
    # Moved alone, a leg carries the bubble along its own direction: it passes the line of the leg it is nearer to. When
    # it lies straight over the leg it may pass either.
    others.sort(key=lambda i: shares[i], reverse=verb == "lower")
    leading_reasons = others if abs(shares[others[0]] - shares[others[1]]) < STRAIGHT else others[:1]
    names = sorted(LEGS[i] for i in leading_reasons)
    lined = "in line with" if verb == "lower" else "opposite"
    until = f"the bubble leaves the wall, or lies {lined} {' or '.join(names)}"
    step = LegStep(
        leg=LEGS[leg],
        mm=None,
        direction="shorten" if verb == "lower" else "lengthen",
        stop_when=until,
        line_up_with=names,
        line_up_across=verb == "raise",
        text=f"{verb.capitalize()} leg {LEGS[leg]} slowly until {until}.",
        about="The distance is unknown while the bubble touches the wall.",
    )
    here = ExpectedBubble(bearing_deg=rounded(bubble.bearing_deg % 360.0, 1), offset_mm=None)
    result = LegsAdvice(legs=None, tilt_arcsec=None, steps=[step], bubbles=[here], spot_moves_mm=None, reserve="enough")
    return Advised(result, [f"{step.text} {step.about}", across_from(LEGS[leg], verb)])


def _shares(level: State, bubble: BubblePlace) -> list[float]:
    """How far the direction of the bubble agrees with each leg's, 1 to −1."""
    rows = []
    for foot in level.feet:
        bearing = polar(foot[0] - level.pose.at[0], foot[1] - level.pose.at[1])[0]
        rows.append(
            along((math.sin(math.radians(bubble.bearing_deg)), math.cos(math.radians(bubble.bearing_deg))), bearing)
        )
    return rows
