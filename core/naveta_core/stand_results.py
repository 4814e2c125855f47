"""The shapes of what the core answers at the stand: leading through, ways, advice, previews of set-up and orientation."""

from __future__ import annotations

from typing import Any

from .results import Coded, FaultShape, NextWanted, Plan, Result, Shape


class Knot(Shape):
    """One act on the string: done, now, open, or passed over."""

    act: str
    knot: str
    title: str
    state: str
    may_take: bool


class ActShape(Shape):
    name: str
    title: str
    asks: str
    look: str
    do: str
    why: str
    wrong: str
    cautions: list[Coded]


class GuideAdvice(Shape):
    """What to do about what was seen; `result` is the advisor's own."""

    kind: str
    headline: str
    lines: list[str]
    understood: str | None = None
    result: dict[str, Any] | None


class SiteLeg(Shape):
    leg: str
    bearing_deg: float
    x_m: float
    y_m: float
    length_m: float
    left_mm: float | None
    moves: bool
    first: bool


class SiteScrew(Shape):
    screw: str
    bearing_deg: float
    turns: float | None


class Spot(Shape):
    bearing_deg: float
    distance_mm: float


class Bubble(Shape):
    bearing_deg: float
    offset_mm: float | None
    at_wall: bool


class Site(Shape):
    """The ground in plan, metres from the middle of the head."""

    legs: list[SiteLeg]
    screws: list[SiteScrew]
    stand_bearing_deg: float
    spot: Spot | None
    bubble: Bubble | None
    over_point: bool
    centred_by: str
    you: str


class Tries(Shape):
    """What can be tried before it is done: `question` wants only the moves added to be asked as advice."""

    by: str
    step: float
    question: dict[str, Any]


class LaserOn(Shape):
    """The laser plummet was switched on: since when, and what is to be said once it has been on for so long."""

    since: str
    after_minutes: int
    text: str


class Guide(Shape):
    """Where somebody is in a set-up, and what to do now."""

    way: str
    way_title: str
    knots: list[Knot]
    act: ActShape
    advice: GuideAdvice | None
    enough: bool
    next: str | None
    next_title: str | None
    may_skip: bool
    hints: list[Coded]
    tries: Tries | None
    usual: dict[str, float]
    laser: LaserOn | None
    passes: int
    converges: str | None
    site: Site
    core_version: str


class Advice(Shape):
    advice: str
    result: dict[str, Any]
    text: list[str]
    core_version: str


class WayShape(Shape):
    way: str
    title: str
    good_for: str
    cannot: str | None


class FineShape(Shape):
    fine: str
    cannot: str | None


class WaysShape(Shape):
    """How an instrument can be set up and levelled."""

    ways: list[WayShape]
    fine: list[FineShape]
    base: dict[str, Any]
    """What a set-up notes of the base it stands on: foot screws, plummet."""


class SightSoFarText(Shape):
    path: str
    text: str


class OrientPreview(Shape):
    """What can be said already of an orientation."""

    complete: bool
    missing: list[str]
    faults: list[FaultShape]
    wanted: list[NextWanted]
    closing: str
    sofar: list[SightSoFarText]
    plan: Plan
    reduced: Result | None = None
    fingerprint: str | None = None


class ProposedCheck(Shape):
    """A check a round could take; `taken` where it fits into the minutes."""

    check: str
    title: str
    way: str
    minutes: int
    taken: bool
    code: str
    why: str


class RoundPreview(Shape):
    """What can be said already of a round before the work."""

    complete: bool
    missing: list[str]
    wanted: list[NextWanted]
    faults: list[FaultShape]
    proposed: list[ProposedCheck]
    sofar: str
    reduced: Result | None = None
    fingerprint: str | None = None


class SetUpPreview(Shape):
    """What can be said already of a set-up."""

    complete: bool
    missing: list[str]
    wanted: list[NextWanted]
    faults: list[FaultShape]
    reduced: Result | None = None
    fingerprint: str | None = None
