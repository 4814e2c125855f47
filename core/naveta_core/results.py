"""The shapes of what the core answers: the contract that screens, reports and exports are written against.

Not used to compute anything: results are plain data. A test holds every result against these models, and the
web's types are generated from them.
"""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict

from .envelope import Grade


class Shape(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Coded(Shape):
    """A sentence with the code it is known by."""

    code: str
    text: str


class FaultShape(Shape):
    path: str
    where: str
    given: str
    wanted: str


class LimitFigures(Shape):
    use: float
    watch: float
    adjust: float


class Part(Shape):
    """One judged quantity."""

    quantity: str
    value: float
    sigma: float
    u95: float
    dof: float
    basis: str
    proved_to: float
    limits: LimitFigures
    why: str
    limit_text: str = ""
    grade: Grade


class Verdict(Shape):
    grade: Grade
    reasons: list[Coded]
    next: list[Coded]
    parts: list[Part]
    set_aside: list[str]


class Shown(Shape):
    quantity: str
    label: str
    text: str
    plus_minus: str | None
    value: float
    unit: str
    per_canonical: float


class Effect(Shape):
    code: str
    text: str
    imbalance_m: float | None
    height_m: float | None


class Worked(Shape):
    text: str
    value: str


class Finding(Shape):
    text: str


class Peg(Shape):
    name: str
    x_m: float
    height_m: float


class StaffPicture(Shape):
    distance_m: float | None
    distance_text: str
    read_m: float | None
    error_m: float | None
    error_text: str | None


class SetupPicture(Shape):
    index: int
    label: str
    x_m: float
    line_height_m: float | None
    a: StaffPicture
    b: StaffPicture


class Picture(Shape):
    baseline_m: float | None
    pegs: list[Peg]
    setups: list[SetupPicture]


class Sensitivity(Shape):
    path: str
    where: str
    given: str
    arcsec_per_mm: float
    text: str


class PlanStation(Shape):
    name: str
    e_m: float
    n_m: float


class PlanPoint(Shape):
    name: str
    e_m: float
    n_m: float
    used: bool
    suspect: bool
    along_m: float | None
    across_m: float | None


class Ellipse(Shape):
    longest_m: float
    shortest_m: float
    bearing_deg: float


class Plan(Shape):
    """The site in plan, metres east and north."""

    station: PlanStation | None
    points: list[PlanPoint]
    ellipse: Ellipse | None


class Result(Shape):
    """What a complete check says."""

    kind: str
    result: dict[str, Any]
    finding: Finding
    verdict: Verdict
    shown: list[Shown]
    picture: Picture | None
    plan: Plan | None = None
    work: list[Effect]
    cautions: list[Coded]
    worked: list[Worked]
    core_version: str


class SightSoFar(Shape):
    path: str
    count: int
    mean_m: float
    mean_text: str
    spread_m: float
    text: str | None
    distance_m: float | None
    distance_text: str | None
    apart: str | None
    apart_text: str | None


class SetupSoFar(Shape):
    index: int
    difference_m: float
    text: str


class Expected(Shape):
    u95_arcsec: float
    readings: int
    enough: int | None
    text: str
    advice: str | None


class NextWanted(Shape):
    path: str
    where: str


class Partial(Shape):
    sights: list[SightSoFar]
    setups: list[SetupSoFar]
    expected: Expected | None
    unit: str
    next: NextWanted | None
    looks: list[Coded]


class Preview(Shape):
    """What can be said already."""

    complete: bool
    missing: list[str]
    faults: list[FaultShape]
    partial: Partial
    picture: Picture | None
    reduced: Result | None = None
    fingerprint: str | None = None


class AdjustingStep(Shape):
    given: str
    reading_m: float
    left_arcsec: float
    left_m: float
    done: bool
    text: str


class Adjusting(Shape):
    """The act of adjusting: target, tool, and what each reading since leaves to be done."""

    staff: str
    where: str
    distance_m: float
    from_m: float
    from_text: str
    target_m: float
    target_text: str
    unit: str
    allowed: bool
    tool: str
    screw: str
    text: str
    steps: list[AdjustingStep]


class CheckStandingShape(Shape):
    check: str
    title: str
    state: str
    reasons: list[Coded]
    minutes: int
    due_on: str | None


class StandingShape(Shape):
    state: str
    reasons: list[Coded]
    checks: list[CheckStandingShape]


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


class Site(Shape):
    """The ground in plan, metres from the middle of the head."""

    legs: list[SiteLeg]
    screws: list[SiteScrew]
    stand_bearing_deg: float
    spot: Spot | None
    over_point: bool
    centred_by: str
    you: str


class Tries(Shape):
    """What can be tried before it is done: `question` wants only the moves added to be asked as advice."""

    by: str
    step: float
    question: dict[str, Any]


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


class SightSoFarText(Shape):
    path: str
    text: str


class OrientPreview(Shape):
    """What can be said already of an orientation."""

    complete: bool
    missing: list[str]
    faults: list[FaultShape]
    sofar: list[SightSoFarText]
    plan: Plan
    reduced: Result | None = None
    fingerprint: str | None = None


class SetUpPreview(Shape):
    """What can be said already of a set-up."""

    complete: bool
    missing: list[str]
    faults: list[FaultShape]
    reduced: Result | None = None
    fingerprint: str | None = None
