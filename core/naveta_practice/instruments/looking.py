"""One look: whichever instrument a lesson has."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated, Any

from pydantic import Field, ValidationError

from naveta_core.documents.envelope import Part
from naveta_core.documents.model_faults import faults_of
from naveta_core.errors import Refused, path_in_words
from naveta_core.results import Answer

from ..results import Figure
from . import circles, digits, paper, ring, scale, staff, vial
from .hidden import hidden_of, moved_by
from .lesson import View

Data = dict[str, Any]
Turned = dict[str, Figure | Annotated[list[Figure], Field(max_length=400)]]
"""Where each screw was turned round, and where it is now; or only that."""


@dataclass(frozen=True, slots=True)
class Viewer:
    """What is aimed in a view, and what is then seen."""

    aim: type[Part]
    look: Callable[..., Answer]


VIEWS: dict[View, Viewer] = {
    "staff": Viewer(staff.StaffAim, staff.look),
    "circles": Viewer(circles.CirclesAim, circles.look),
    "vial": Viewer(vial.VialAim, vial.look),
    "paper": Viewer(paper.PaperAim, paper.look),
    "ring": Viewer(ring.RingAim, ring.look),
    "digits": Viewer(digits.DigitsAim, digits.look),
    "scale": Viewer(scale.ScaleAim, scale.look),
}
LOOKS: tuple[type[Answer], ...] = (
    staff.StaffLook, circles.CirclesLook, vial.VialLook, paper.PaperLook, ring.RingLook, digits.DigitsLook, scale.ScaleLook,
)  # fmt: skip


class LookQuestion(Part):
    """One look: `aim` as the lesson's view has it, `turns` of the screws so far, seconds since the beginning."""

    verb: str = ""
    lesson: str
    seed: int
    aim: Data = Field(default={}, max_length=10)
    turns: Turned = Field(default={}, max_length=10)
    seconds: Figure = 0.0


def look(query: LookQuestion) -> Answer:
    """What is seen at a moment. Raises Refused for an instrument, an aim or a screw that is none."""
    hidden = hidden_of(query.lesson, query.seed)
    turns = moved_by(hidden, query.turns)
    viewer = VIEWS[hidden.lesson.view]
    try:
        aim = viewer.aim.model_validate(query.aim)
    except ValidationError as error:
        faults = faults_of(error, lambda path: path_in_words(f"aim.{path}"))
        raise Refused([replace(fault, path=f"aim.{fault.path}") for fault in faults]) from None
    return viewer.look(hidden, aim, turns, query.seconds)
