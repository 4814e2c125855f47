"""The shapes of what the core answers: the contract that screens, reports and exports are written against.

Not used to compute anything: results are plain data. A test holds every result against these models, and the
web's types are generated from them.
"""

from __future__ import annotations

from typing import Any, Literal

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


class CirclePoint(Shape):
    x: float
    y: float
    label: str
    path: str


class PlanePoint(Shape):
    x: float
    y: float


class CirclePicture(Shape):
    """Points that lie on a circle: its centre is one thing, its radius the other."""

    draws: Literal["circle"]
    unit: str
    points: list[CirclePoint]
    centre: PlanePoint | None
    radius: float | None
    centre_says: str
    radius_says: str
    ring: float | None
    limit: float | None
    limit_about: Literal["origin", "centre"]
    x_says: str
    y_says: str
    seen: str


class TubeRow(Shape):
    label: str
    bubble_div: float
    path: str
    tilt_div: float | None


class TubePicture(Shape):
    """A tubular vial, once a heading."""

    draws: Literal["tube"]
    rows: list[TubeRow]
    rest_div: float | None
    half_div: float


class Deviation(Shape):
    label: str
    at: float
    value: float | None


class DeviationsPicture(Shape):
    """Deviations along a line."""

    draws: Literal["deviations"]
    unit: str
    marks: list[Deviation]
    limit: float | None
    zero_says: str
    along_says: str


AnyPicture = Picture | CirclePicture | TubePicture | DeviationsPicture


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
    picture: AnyPicture | None
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


class ApartSoFar(Shape):
    """A figure that stands apart, and what is to be done about it."""

    path: str
    text: str


class Put(Shape):
    """What is to stand at a path of the document."""

    path: str
    value: Any


class Mend(Shape):
    """A slip of entry that can be mended in one touch, by putting what was typed where it belongs."""

    code: str
    text: str
    puts: list[Put]


class Partial(Shape):
    sights: list[SightSoFar]
    setups: list[SetupSoFar]
    expected: Expected | None
    unit: str
    next: NextWanted | None
    looks: list[Coded]
    said: list[Coded] = []
    apart: ApartSoFar | None = None
    mends: list[Mend] = []


class Preview(Shape):
    """What can be said already."""

    complete: bool
    missing: list[str]
    faults: list[FaultShape]
    partial: Partial
    picture: AnyPicture | None
    reduced: Result | None = None
    fingerprint: str | None = None


class AdjustingStep(Shape):
    """One reading since the first turn; `left` in the unit of what is read."""

    given: str
    left: float
    done: bool
    text: str


class Adjusting(Shape):
    """The act of adjusting: target, tool, and what each reading since leaves to be done. `wells`: what is typed each
    time, one figure or two (then joined by a blank)."""

    asked: str
    wells: list[str]
    from_text: str
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
