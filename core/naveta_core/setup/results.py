"""The shapes of what the core answers at a set-up: guiding, methods, advice, previews of set-up and orientation."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated

from pydantic import SerializeAsAny, WithJsonSchema

from ..errors import Fault
from ..results import Answer, Figures, NextReading, Reason, Result
from .context import TribrachGeometry, WhatIfQuery


class MethodStep(Answer):
    """One step on the string: done, now, open, or passed over."""

    step: str
    short_title: str
    title: str
    state: str
    may_take: bool


class StepAtHand(Answer):
    """The step at hand: what to look at, what to do, what goes wrong, its cautions."""

    name: str
    title: str
    prompt: str
    look: str
    do: str
    why: str
    wrong: str
    cautions: list[Reason]


class AdviceStep(Answer):
    """One move: what to do, and about how much it is."""

    text: str
    about: str | None = None


class AdviceResult(Answer):
    """The figures of one piece of advice; every advisor has a model of its own."""

    @property
    def moves(self) -> Sequence[AdviceStep]:
        """What to do, in order; none where nothing is to be moved."""
        return ()

    @property
    def screw_turns(self) -> dict[str, float]:
        """Turns of each foot screw by its number, positive clockwise from above; none where no screw is turned."""
        return {}


AsTyped = WithJsonSchema({"type": "object", "additionalProperties": True})
"""A part of a document given back as a person would type it: its own schema is the document's."""
AnyAdvice = Annotated[SerializeAsAny[AdviceResult], AsTyped]


class GuideAdvice(Answer):
    """What to do about what was seen; `result` is the advisor's own."""

    kind: str
    headline: str
    lines: list[str]
    understood: str | None = None
    result: AnyAdvice | None


class SiteLeg(Answer):
    """One leg in the drawing of the site: bearing in degrees, whether it is moved."""

    leg: str
    bearing_deg: float
    x_m: float
    y_m: float
    length_m: float
    left_mm: float | None
    moves: bool
    first: bool


class SiteScrew(Answer):
    """One foot screw in the drawing: bearing in degrees, how it is turned."""

    screw: str
    bearing_deg: float
    turns: float | None


class ObservedSpot(Answer):
    """Where the plummet was seen to point: millimetres from the mark, bearing in degrees."""

    bearing_deg: float
    distance_mm: float


class ObservedBubble(Answer):
    """Where the bubble was seen: millimetres from the middle, bearing in degrees."""

    bearing_deg: float
    offset_mm: float | None
    at_wall: bool


class SiteDrawing(Answer):
    """The ground in plan, metres from the middle of the head."""

    legs: list[SiteLeg]
    screws: list[SiteScrew]
    stand_bearing_deg: float
    spot: ObservedSpot | None
    bubble: ObservedBubble | None
    over_point: bool
    centred_by: str
    you: str


class Trial(Answer):
    """What can be tried before it is done: `question` wants only the moves added to be asked as advice.

    The step in millimetres, of screws in turns.
    """

    by: str
    step: float
    question: Annotated[WhatIfQuery, AsTyped]


class LaserOn(Answer):
    """The laser plummet was switched on: since when, and what is to be said once it has been on for so long."""

    since: str
    after_minutes: int
    text: str


class CheckOffItem(Answer):
    """Something to tick; `when`: before, or at the end."""

    code: str
    text: str
    when: str


class Guide(Answer):
    """Where somebody is in a set-up, and what to do now."""

    method: str
    method_title: str
    steps: list[MethodStep]
    step: StepAtHand
    advice: GuideAdvice | None
    within_tolerance: bool
    next: str | None
    next_title: str | None
    may_skip: bool
    tips: list[Reason]
    check_off: list[CheckOffItem]
    """What the step at hand offers to tick."""
    recheck_minutes: int | None
    """After how long it is checked again on soft ground."""
    trial: Trial | None
    unit: str
    """Of lengths, as it is written behind a number."""
    usual: dict[str, str]
    laser: LaserOn | None
    passes: int
    converges: str | None
    site: SiteDrawing
    core_version: str


class Advice(Answer):
    """An answer to a question for advice: result and sentences."""

    advice: str
    result: AnyAdvice
    text: list[str]
    core_version: str


class MethodOffer(Answer):
    """A method of setting up, and why it cannot be used, if so."""

    method: str
    title: str
    good_for: str
    cannot: str | None


class LevelOffer(Answer):
    """A means of fine levelling, and why it cannot be used, if so."""

    level_type: str
    cannot: str | None


class SetUpMethods(Answer):
    """How an instrument can be set up and levelled."""

    methods: list[MethodOffer]
    level_type: list[LevelOffer]
    tribrach: Annotated[TribrachGeometry, AsTyped]
    """What a set-up notes of the tribrach it stands on: foot screws, plummet."""


class SetUpPreview(Answer):
    """What can be said already of a set-up."""

    complete: bool
    missing: list[str]
    wanted: list[NextReading]
    faults: list[Fault]
    reduced: Result | None = None


class SetUpDetail(Answer):
    """How a set-up came about: a label and a text."""

    label: str
    text: str


class SetUpBudget(Answer):
    """What the accuracy forecast may start from; what is not known is left out."""

    fore_m: float
    elevation_deg: float
    compensated: bool
    angle_accuracy_arcsec: float | None = None
    distance_accuracy_mm: float | None = None
    distance_accuracy_ppm: float | None = None
    centring_mm: float | None = None
    tilt_arcsec: float | None = None


class SetUpFigures(Figures):
    """What is left of the tilt, off the mark, the level's index, the height; how it came about."""

    passes: int
    minutes: float | None
    not_confirmed: list[str]
    details: list[SetUpDetail]
    budget: SetUpBudget
    tilt_arcsec: float | None = None
    sigma_tilt_arcsec: float | None = None
    tilt_along_arcsec: float | None = None
    tilt_across_arcsec: float | None = None
    index_along_arcsec: float | None = None
    index_across_arcsec: float | None = None
    rest_div: float | None = None
    centring_mm: float | None = None
    sigma_centring_mm: float | None = None
    height_m: float | None = None
    heights_apart_m: float | None = None
