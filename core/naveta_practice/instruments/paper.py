"""An optical plummet over millimetre paper: where it points while the instrument is turned round."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Annotated

from pydantic import Field

from naveta_core.documents.envelope import Part
from naveta_core.results import Answer
from naveta_sim.space import applied, turned

from .eye import blur_of, parallax, shimmer
from .hidden import Hidden, Turns

FIELD_MM = 24.0
PARALLAX_MM, SHIMMER_MM = 3.0, 0.03


@dataclass(frozen=True, slots=True)
class PaperScene:
    """Where the axis meets the paper, millimetres right and away from its middle, and where it is sharp."""

    axis_mm: tuple[float, float]
    focus: float


@lru_cache(maxsize=64)
def scene_of(hidden: Hidden) -> PaperScene:
    """Where the paper lies; the same each time."""
    rng = hidden.scene()
    return PaperScene((rng.uniform(-4.0, 4.0), rng.uniform(-4.0, 4.0)), rng.uniform(0.3, 0.75))


class PaperAim(Part):
    """Where the instrument is turned to, degrees clockwise; `focus`: the plummet's own, 0 to 1."""

    heading_deg: Annotated[float, Field(ge=0, lt=360)] = 0.0
    focus: float = Field(default=0.05, ge=0, le=1)


class PaperLook(Answer):
    """The point of the paper under the plummet's index, millimetres right and away, and how blurred it is (0 sharp)."""

    heading_deg: float
    x_mm: float
    y_mm: float
    field_mm: float
    blur: float


def look(hidden: Hidden, aim: PaperAim, turns: Turns, seconds: float) -> PaperLook:
    """The paper at a moment: the offset turns with the instrument about the axis."""
    scene = scene_of(hidden)
    offset = (hidden.after("offset_x_mm", turns), hidden.after("offset_y_mm", turns), 0.0)
    x, y, _ = applied(turned(aim.heading_deg), offset)
    eye = parallax(PARALLAX_MM, aim.focus, scene.focus, seconds)
    return PaperLook(
        heading_deg=aim.heading_deg,
        x_mm=scene.axis_mm[0] + x + eye + shimmer(SHIMMER_MM, seconds, hidden.seed),
        y_mm=scene.axis_mm[1] + y + eye / 2 + shimmer(SHIMMER_MM, seconds + 1, hidden.seed),
        field_mm=FIELD_MM,
        blur=blur_of(aim.focus, scene.focus),
    )
