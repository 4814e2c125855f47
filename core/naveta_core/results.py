"""What the core answers of a check: frozen models that build every answer, and are the contract of API, web and exports.

Set-up, orientation and readiness have theirs beside their code (`setup/results.py`, `orientation/results.py`,
`readiness/results.py`); a result's figures are modelled by its kind.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, SerializeAsAny, WithJsonSchema

from .errors import Fault
from .stats.decision import Grade

Data = dict[str, Any]
CodedText = tuple[str, str]
"""A sentence and the code it is known by, before it is answered."""


class Answer(BaseModel):
    """Root of every answer."""

    model_config = ConfigDict(extra="forbid", frozen=True, defer_build=True)

    def as_json(self) -> str:
        """As JSON text, without what was never said."""
        return self.model_dump_json(exclude_unset=True)

    def plain(self) -> Data:
        """As plain data, without what was never said."""
        return self.model_dump(mode="json", exclude_unset=True)


class Reason(Answer):
    """A sentence with the code it is known by."""

    code: str
    text: str


def reasons(pairs: Sequence[CodedText]) -> list[Reason]:
    """Coded sentences as they are answered."""
    return [Reason(code=code, text=text) for code, text in pairs]


class Repeats(Answer):
    """How a check's own repeats scattered: squares of standardised residuals, degrees of freedom."""

    squares: float
    dof: float


class Figures(Answer):
    """The figures of a result; every kind has a model of its own. What cannot be given is left unset, and left out."""


AnyFigures = Annotated[SerializeAsAny[Figures], WithJsonSchema({"type": "object", "additionalProperties": True})]


class LimitFigures(Answer):
    """A limit in the unit of its quantity: usable, usable under a condition, adjustable up to."""

    use: float
    watch: float
    adjust: float


class VerdictPart(Answer):
    """One judged quantity. In the unit its name ends in; degrees of freedom have no unit."""

    quantity: str
    value: float
    sigma: float
    u95: float
    dof: float
    basis: Literal["pooled", "a-priori"]
    proved_to: float
    limits: LimitFigures
    why: str
    limit_text: str = ""
    grade: Grade


class Verdict(Answer):
    """The grade of a check, why, and what to do now."""

    grade: Grade
    reasons: list[Reason]
    next: list[Reason]
    parts: list[VerdictPart]
    set_aside: list[str]


class Shown(Answer):
    """One row of a result as people read it. In the unit given by `unit`."""

    quantity: str
    label: str
    text: str
    plus_minus: str | None
    value: float
    unit: str
    per_canonical: float = 1.0


class Effect(Answer):
    """What a finding does in the work."""

    code: str
    text: str
    imbalance_m: float | None = None
    height_m: float | None = None


class CalculationLine(Answer):
    """One line of the calculation: what it is, and the figures put in."""

    text: str
    value: str


class Finding(Answer):
    """The finding as one sentence."""

    text: str


class Peg(Answer):
    """One peg of the drawing: where it is, metres along the line."""

    name: str
    x_m: float
    height_m: float


class StaffPicture(Answer):
    """One staff of the drawing: its distance and reading, metres."""

    distance_m: float | None
    distance_text: str
    read_m: float | None
    error_m: float | None
    error_text: str | None


class SetUpPicture(Answer):
    """One set-up of the drawing: the level's place and its sights, metres."""

    index: int
    label: str
    x_m: float
    line_height_m: float | None
    a: StaffPicture
    b: StaffPicture


class PegPicture(Answer):
    """A line of pegs with the places of a level."""

    draws: Literal["pegs"]
    baseline_m: float | None
    pegs: list[Peg]
    setups: list[SetUpPicture]


class CirclePoint(Answer):
    """One point of a circle drawing, in its unit; x and y as the axes say."""

    x: float
    y: float
    label: str
    path: str


class PlanePoint(Answer):
    """A point in the plane of a drawing, in its unit."""

    x: float
    y: float


class CirclePicture(Answer):
    """Points that lie on a circle: its centre is one thing, its radius the other. In the unit given by `unit`."""

    draws: Literal["circle"]
    unit: str
    points: list[CirclePoint]
    centre: PlanePoint | None
    radius: float | None
    centre_label: str
    radius_label: str
    ring: float | None
    limit: float | None
    limit_about: Literal["origin", "centre"]
    x_label: str
    y_label: str
    view: str


class TubePictureRow(Answer):
    """One reading of a level vial: where the bubble's ends or middle are, divisions."""

    label: str
    bubble_div: float
    path: str
    tilt_div: float | None


class TubePicture(Answer):
    """A tubular vial, once a heading."""

    draws: Literal["tube"]
    rows: list[TubePictureRow]
    rest_div: float | None
    half_div: float


class Deviation(Answer):
    """One plotted value, in the unit of its drawing; None where it is still to come."""

    label: str
    at: float
    value: float | None


class DeviationsPicture(Answer):
    """Deviations along a line. In the unit given by `unit`."""

    draws: Literal["deviations"]
    unit: str
    points: list[Deviation]
    limit: float | None
    zero_label: str
    along_label: str


Picture = PegPicture | CirclePicture | TubePicture | DeviationsPicture


class Sensitivity(Answer):
    """How much one reading moves the finding."""

    path: str
    where: str
    given: str
    arcsec_per_mm: float
    text: str


class PlanStation(Answer):
    """The station in plan, metres."""

    name: str
    e_m: float
    n_m: float


class PlanPoint(Answer):
    """A control point in plan, metres, and what its sights leave along and across."""

    name: str
    e_m: float
    n_m: float
    used: bool
    suspect: bool
    along_m: float | None
    across_m: float | None


class ErrorEllipse(Answer):
    """The error ellipse of a station: half axes in metres, bearing of the longer one in degrees."""

    longest_m: float
    shortest_m: float
    bearing_deg: float


class SitePlan(Answer):
    """The site in plan, metres east and north."""

    station: PlanStation | None
    points: list[PlanPoint]
    ellipse: ErrorEllipse | None


class Result(Answer):
    """What a complete document says."""

    kind: str
    result: AnyFigures
    finding: Finding
    verdict: Verdict
    shown: list[Shown]
    picture: Picture | None
    plan: SitePlan | None = None
    work: list[Effect]
    cautions: list[Reason]
    worked: list[CalculationLine]
    core_version: str


class NextReading(Answer):
    """What is read next: its path, and what it is called."""

    path: str
    where: str


class Note(Answer):
    """Something to be said beside a group of fields, or beside one."""

    path: str
    text: str


class Edit(Answer):
    """What is to stand at a path of the document."""

    path: str
    value: Any


class Fix(Answer):
    """A slip of entry that one touch puts right, by moving what was typed to where it belongs."""

    code: str
    text: str
    edits: list[Edit]


class Progress(Answer):
    """What can be said of a check that is still being filled."""

    unit: str
    next: NextReading | None
    looks: list[Reason]
    messages: list[Reason]
    outlier: Note | None
    fixes: list[Fix]
    notes: list[Note]


class Preview(Answer):
    """What can be said already; the whole result once the document is complete."""

    complete: bool
    missing: list[str]
    faults: list[Fault]
    progress: Progress
    picture: Picture | None
    reduced: Result | None = None


class AdjustingStep(Answer):
    """One reading since the first turn; `left` in the unit of what is read."""

    given: str
    left: float
    done: bool
    text: str


class Adjusting(Answer):
    """Adjusting: target, tool, and what each reading since leaves to be done. `inputs`: what is typed each
    time, one figure or two (then joined by a blank); without any nothing is read on the way."""

    text: str
    allowed: bool
    inputs: list[str] = []
    prompt: str = ""
    unit: str = ""
    from_text: str = ""
    target_text: str = ""
    tool: str = ""
    screw: str = ""
    steps: list[AdjustingStep] = []


class CheckStandingAnswer(Answer):
    """How one check of an instrument stands."""

    check: str
    title: str
    state: str
    reasons: list[Reason]
    minutes: int
    due_on: str | None
    decides: bool
    needed: bool
    """`decides`: it goes out by this check; `needed`: it waits for it first."""


class StandingAnswer(Answer):
    """How an instrument stands, and why."""

    state: str
    reasons: list[Reason]
    checks: list[CheckStandingAnswer]
