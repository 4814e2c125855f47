"""Which foot screws to turn, which way and how far; where the thumbs go for the person who stands there."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field, model_validator

from ...documents.envelope import InOwnUnit, Part
from ...geometry import ARCSEC, Plane, polar, unit
from ...units.numbers import rounded
from ..context import AdviceQuery, Bearing, TiltVector, TribrachGeometry
from ..results import AdviceResult, AdviceStep
from .advised import Advised
from .text import for_person, turns_in_words

MIN_TURNS = 0.0015


MAX_DIVISIONS = 40.0
"""Further than this no bubble of a plate vial goes."""
Divisions = Annotated[float, Field(ge=-MAX_DIVISIONS, le=MAX_DIVISIONS), InOwnUnit]


class VialReading(Part):
    """A plate vial as read: its right end's bearing, where the bubble is, its reversing point."""

    bearing_deg: Bearing
    bubble_div: Divisions
    rest_div: Divisions = 0.0
    sensitivity_arcsec_per_div: Annotated[float, Field(ge=1, le=3600), InOwnUnit] = 20.0


class ScrewsQuery(AdviceQuery):
    """A tilt in figures, or one or two readings of plate vials."""

    advice: Literal["screws"]
    tribrach: TribrachGeometry = TribrachGeometry()
    tilt: TiltVector | None = None
    vials: list[VialReading] = Field(default=[], max_length=2)
    stand_bearing_deg: Bearing | None = None
    one_at_a_time: bool = False

    @model_validator(mode="after")
    def _one_of(self) -> ScrewsQuery:
        if (self.tilt is None) == (not self.vials):
            raise ValueError("either tilt or vials")
        if (
            len(self.vials) == 2
            and abs(math.sin(math.radians(self.vials[0].bearing_deg - self.vials[1].bearing_deg))) < 0.5
        ):
            raise ValueError("two level vials at an angle, at least 30° apart")
        return self


class ScrewStep(AdviceStep):
    """One screw, or a pair turned together: turns by their numbers, positive clockwise seen from above."""

    turns: dict[str, float]


class ScrewsAdvice(AdviceResult):
    """Turns of every screw, what is turned together, and the travel that is then left."""

    turns: dict[str, float]
    together: list[list[str]]
    tilt_arcsec: float
    travel_left_mm: float
    short_of: list[str]
    steps: list[ScrewStep]

    @property
    def moves(self) -> list[ScrewStep]:
        """The same as figures the trial and the drawing take up."""
        return self.steps

    @property
    def screw_turns(self) -> dict[str, float]:
        """Turns of each screw, clockwise from above positive."""
        return self.turns


def advise_screws(query: ScrewsQuery) -> Advised:
    """Turns of each screw, positive clockwise seen from above, that bring the given tilt to nothing."""
    tilt = _tilt(query)
    tribrach = query.tribrach.as_tribrach()
    raises = _raises(tribrach.bearings_deg, tribrach.radius_mm, tilt)
    sense = 1.0 if tribrach.clockwise_raises else -1.0
    turns = [sense * rise / tribrach.pitch_mm for rise in raises]
    pairs, alone = _pairs(tribrach.bearings_deg, query, tilt)
    steps = _steps(query, tribrach.bearings_deg, tilt, turns=turns, pairs=pairs, alone=alone)
    at = query.tribrach.at_mm or [0.0] * tribrach.screws
    left = [tribrach.travel_mm / 2.0 - abs(have + rise) for have, rise in zip(at, raises, strict=True)]
    short = [str(i + 1) for i, entry in enumerate(left) if entry < 0]
    result = ScrewsAdvice(
        turns={str(i + 1): rounded(turn, 4) for i, turn in enumerate(turns)},
        together=[[str(i + 1) for i in pair] for pair in pairs],
        tilt_arcsec=rounded(math.hypot(*tilt) * ARCSEC, 1),
        travel_left_mm=rounded(min(left), 3),
        short_of=short,
        steps=steps,
    )
    return Advised(result, _text(query, steps, short))


def _tilt(query: ScrewsQuery) -> Plane:
    """The high-side vector in radians; one vial says only the part along itself."""
    if query.tilt is not None:
        return query.tilt.tilt()
    along = [(vial.bubble_div - vial.rest_div) * vial.sensitivity_arcsec_per_div / ARCSEC for vial in query.vials]
    directions = [unit(vial.bearing_deg) for vial in query.vials]
    if len(along) == 1:
        return (along[0] * directions[0][0], along[0] * directions[0][1])
    (a, b), (c, d) = directions
    det = a * d - b * c
    return ((along[0] * d - along[1] * b) / det, (along[1] * a - along[0] * c) / det)


def _raises(bearings: tuple[float, ...], radius_mm: float, tilt: Plane) -> list[float]:
    """Millimetres by which each screw has to rise so that the plane through them loses `tilt`; none on the whole."""
    rises = [-radius_mm * (tilt[0] * u[0] + tilt[1] * u[1]) for u in map(unit, bearings)]
    middle = math.fsum(rises) / len(rises)
    return [rise - middle for rise in rises]


def _pairs(bearings: tuple[float, ...], query: ScrewsQuery, tilt: Plane) -> tuple[list[tuple[int, ...]], int | None]:
    """Which screws are turned together: the vial's pair, or the two nearest the person; of four the opposite ones."""
    if len(bearings) == 4:
        pairs = [(0, 2), (1, 3)]
        if query.vials:
            pairs.sort(key=lambda pair: -abs(math.cos(math.radians(query.vials[0].bearing_deg - bearings[pair[0]]))))
        return list(pairs), None
    if query.vials:
        lone = min(range(3), key=lambda i: abs(math.cos(math.radians(query.vials[0].bearing_deg - bearings[i]))))
    elif query.stand_bearing_deg is not None:
        lone = min(range(3), key=lambda i: math.cos(math.radians(bearings[i] - query.stand_bearing_deg)))  # type: ignore[operator]
    else:
        # Nothing given: the pair that lies most nearly along the tilt does the larger part at once.
        lone = min(range(3), key=lambda i: abs(math.cos(math.radians(polar(*tilt)[0] - bearings[i]))))
    return [tuple(i for i in range(3) if i != lone)], lone


def _steps(
    query: ScrewsQuery,
    bearings: tuple[float, ...],
    tilt: Plane,
    *,
    turns: list[float],
    pairs: list[tuple[int, ...]],
    alone: int | None,
) -> list[ScrewStep]:
    """The steps in order. With three screws: the pair equal and opposite for the part along it, then the third alone."""
    if alone is None:
        return [
            _together(query, bearings, {i: turns[i] for i in pair})
            for pair in pairs
            if abs(turns[pair[0]]) >= MIN_TURNS
        ]
    first, second = pairs[0]
    half = (turns[first] - turns[second]) / 2.0
    rest = turns[alone] - (turns[first] + turns[second]) / 2.0
    steps = []
    if abs(half) >= MIN_TURNS:
        if query.one_at_a_time:
            steps.append(_together(query, bearings, {first: 2.0 * half}))
        else:
            steps.append(_together(query, bearings, {first: half, second: -half}))
    # Turned one at a time the first carries the middle with it: the third makes up for what it brings across.
    if query.one_at_a_time:
        rest = _third_after_one(bearings, query, tilt, {first: 2.0 * half}, alone)
    if abs(rest) >= MIN_TURNS:
        steps.append(_together(query, bearings, {alone: rest}))
    return steps


def _third_after_one(
    bearings: tuple[float, ...], query: ScrewsQuery, tilt: Plane, done: dict[int, float], alone: int
) -> float:
    """Turns of the third screw that take away what is then left across the pair."""
    tribrach = query.tribrach.as_tribrach()
    sense = 1.0 if tribrach.clockwise_raises else -1.0
    rises = [sense * done.get(i, 0.0) * tribrach.pitch_mm for i in range(3)]
    directions = [unit(bearing) for bearing in bearings]
    rows = tuple(
        math.fsum(h * u[k] for h, u in zip(rises, directions, strict=True)) * 2.0 / (3.0 * tribrach.radius_mm)
        for k in (0, 1)
    )
    left = (tilt[0] + rows[0], tilt[1] + rows[1])
    across = left[0] * directions[alone][0] + left[1] * directions[alone][1]
    return sense * -1.5 * tribrach.radius_mm * across / tribrach.pitch_mm


def _together(query: ScrewsQuery, bearings: tuple[float, ...], turns: dict[int, float]) -> ScrewStep:
    found = {str(i + 1): rounded(amount, 4) for i, amount in turns.items()}
    size = max(abs(turn) for turn in turns.values())
    about = f"About {turns_in_words(size)}." if size >= 0.07 else "Less than 1/20 turn."
    return ScrewStep(turns=found, text=_turn_text(query, bearings, turns), about=about)


def _turn_text(query: ScrewsQuery, bearings: tuple[float, ...], turns: dict[int, float]) -> str:
    stand = query.stand_bearing_deg
    if len(turns) == 2 and stand is not None:
        left = _left_of(bearings, turns, stand)
        if left is not None:
            # The near side of a screw turned clockwise from above goes to the person's left: inwards on the right hand.
            inwards = turns[left] < 0
            return f"Both thumbs {'towards each other' if inwards else 'away from each other'}, equally."
    names = [_named(query, bearings, i) for i in turns]
    directions = ["clockwise" if amount > 0 else "anticlockwise" for amount in turns.values()]
    if len(turns) == 1:
        return f"Turn {names[0]} {directions[0]}, seen from above."
    return f"Turn {names[0]} {directions[0]} and {names[1]} {directions[1]} together, equally, seen from above."


def _left_of(bearings: tuple[float, ...], turns: dict[int, float], stand: float) -> int | None:
    """Of a pair that lies across the person's front: the one under the left hand."""
    sides = {i: math.sin(math.radians(bearings[i] - stand)) for i in turns}
    left, right = max(sides, key=lambda i: sides[i]), min(sides, key=lambda i: sides[i])
    return left if sides[left] > 0.3 and sides[right] < -0.3 else None


def _named(query: ScrewsQuery, bearings: tuple[float, ...], i: int) -> str:
    if query.stand_bearing_deg is None:
        return f"screw {i + 1}"
    return f"the screw {for_person(bearings[i], query.stand_bearing_deg)}"


def _text(query: ScrewsQuery, steps: list[ScrewStep], short: list[str]) -> list[str]:
    if not steps:
        return ["No field adjustment: it is level."]
    lines = [f"{step.text} {step.about}" for step in steps]
    if query.vials and query.stand_bearing_deg is not None:
        thumb = "right" if query.tribrach.clockwise_from_above == "lowers" else "left"
        lines.append(f"The bubble follows the {thumb} thumb.")
    if query.tribrach.screws == 4:
        lines.append("Turn opposite screws equally and together: lightly tight, never forced.")
    if short:
        names = " and ".join(short)
        lines.append(
            f"Screw {names} has too little travel left: return to mid travel, and level the head with the legs first."
        )
    return lines
