"""What practice answers: how a stand looks, how somebody did, the shortest way, the lessons."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import ConfigDict, Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer, Reason

LISTS = ConfigDict(extra="forbid", frozen=True, strict=False)
"""Lists are read as tuples: data comes as JSON."""
Figure = Annotated[float, Field(allow_inf_nan=False)]
Pair = tuple[Figure, Figure]
Bounded = Annotated[Figure, Field(ge=-1e7, le=1e7)]


class LegSeen(Answer):
    """A leg: its foot from the mark in plan, how long it is, how much it can still be changed, how the foot stands."""

    leg: Literal["A", "B", "C"]
    right_mm: float
    away_mm: float
    foot_height_mm: float
    top_right_mm: float
    top_away_mm: float
    top_height_mm: float
    length_m: float
    shorten_mm: float
    lengthen_mm: float
    pressed: bool
    open: bool
    sinking: bool


class ScrewSeen(Answer):
    """A foot screw: where it sits from the standing axis, how far it was raised from mid travel, its travel to each side,
    and how far it is turned from there, clockwise from above."""

    screw: str
    turned_deg: float
    bearing_deg: float
    at_mm: float
    most_mm: float


class OpticalSeen(Answer):
    """An optical plummet: how blurred index and ground are (0 sharp), and by how much the index moves on the ground when
    the eye moves from the middle of the eyepiece to its edge."""

    index_blur: float
    ground_blur: float
    parallax_mm: float


class StandSeen(Answer):
    """What a person sees at a stand; null where there is nothing to see. Places in plan from the mark, right and away."""

    seconds: float
    legs: list[LegSeen]
    screws: list[ScrewSeen]
    head_right_mm: float
    head_away_mm: float
    head_height_mm: float
    bubble_right_mm: float
    bubble_away_mm: float
    wall_mm: float
    ring_mm: float
    plate_div: float | None
    plate_end_div: float
    heading_deg: float
    along_arcsec: float | None
    across_arcsec: float | None
    level_lost: bool
    spot: Pair | None
    plummet_off: bool
    """Whether its plummet does not work as it stands: too far out of level."""
    stated: list[str]
    """What is stated of the instrument and bears on the set-up."""
    laser_on: bool
    optical: OpticalSeen | None
    bob: Pair | None
    strain_mm: float
    slid_mm: float
    slide_most_mm: float
    axis_mm: Pair
    """Where the standing axis meets the mark's height: for the path, shown afterwards only."""
    tilt_arcsec: Pair
    """The axis's true tilt, its high side: the same."""


class PracticeStep(Answer):
    """A stand after some moves and some time: what is kept of it, what is seen, and what was in the way."""

    state: dict[str, Any]
    seen: StandSeen
    refused: str


class Gesture(Part):
    """One gesture as it ended: what was done, and where axis and tilt then were."""

    model_config = LISTS

    seconds: Annotated[Figure, Field(ge=0, le=86_400)]
    do: Annotated[str, Field(max_length=20)]
    part: Annotated[str, Field(max_length=20)] = ""
    amount: Bounded = 0.0
    axis_mm: tuple[Bounded, Bounded]
    tilt_arcsec: tuple[Bounded, Bounded]
    heading_deg: Bounded = 0.0
    pressed: Annotated[int, Field(ge=0, le=3)] = 3


class Stage(Answer):
    """How long one thing was worked at."""

    label: str
    seconds: float


class ShortStep(Answer):
    """One move of the shortest way, and where axis and tilt are after it."""

    text: str
    axis_mm: Pair
    tilt_arcsec: Pair


class Judged(Answer):
    """How a lesson went: whether it is good enough, where the time went, the habits seen, the one thing to do otherwise."""

    lesson: str
    passed: bool
    headline: str
    seconds: float
    off_mm: float
    tilt_arcsec: float
    measure: int
    measure_text: str
    stages: list[Stage]
    habits: list[Reason]
    otherwise: str
    start: ShortStep
    """How it stood before anything was done."""
    shortest: list[ShortStep]


class LessonOut(Answer):
    """A lesson as it is offered."""

    name: str
    title: str
    aim: str
    measure: str
    minutes: int
    controls: list[str]
    shows: list[str]
    good_enough: str
    cautions: list[Reason]
    steps: int
    """Moves of the shortest way in its first situation."""
    methods: list[str]
    """Titles of the methods of a real set-up that can be practised in it."""


class PracticeAdvice(Answer):
    """The next move, as the advisors of a real set-up give it."""

    headline: str
    lines: list[str]
