"""What a job needs: how well an angle, a point, a height is wanted at which sights, and what is worked with.

Classes of jobs are default values of ours: a firm states its own figures job by job.
"""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from ..budget import Metres, Small, SmallMm
from ..documents.envelope import InMetres, InOwnUnit, Part, WholeNumber
from ..documents.typed_figures import as_typed
from ..results import Answer
from ..units.formatting import LengthWords

MAX_OF_A_KIND = 20
Number = Annotated[int, Field(ge=0, le=MAX_OF_A_KIND), WholeNumber]


class JobNeeds(Part):
    """The needs of a job; every tolerance at 95 percent, None where nothing of it is wanted.

    Lengths in the unit of their names; `imbalance_m` is how unequal the sights of a level get, 0 where they are kept
    equal. Centring and tilt: as practised, where the job says nothing.
    """

    angle_arcsec: Annotated[Small, Field(gt=0)] | None = None
    position_mm: Annotated[SmallMm, Field(gt=0)] | None = None
    height_mm: Annotated[SmallMm, Field(gt=0)] | None = None
    """Of a point observed with a total station."""
    levelling_mm: Annotated[SmallMm, Field(gt=0)] | None = None
    """Of the difference of height of one set-up of a level."""
    sight_m: Metres = 30.0
    back_m: Metres = 30.0
    elevation_deg: Annotated[float, Field(ge=-80, le=80), InOwnUnit] = 0.0
    both_faces: bool = False
    imbalance_m: Annotated[float, Field(ge=0, le=300), InMetres] = 10.0
    centring_mm: Annotated[SmallMm, Field(gt=0)] | None = None
    target_mm: SmallMm = 1.0
    staffs: Number = 0
    tripods: Number = 0
    tribrachs: Number = 0
    poles: Number = 0

    @property
    def by_angles(self) -> bool:
        """Whether an instrument that measures angles is wanted."""
        return any(wanted is not None for wanted in (self.angle_arcsec, self.position_mm, self.height_mm))

    @property
    def by_level(self) -> bool:
        """Whether a level is wanted."""
        return self.levelling_mm is not None

    @property
    def given(self) -> bool:
        """Whether anything is wanted at all."""
        return self.by_angles or self.by_level


def typed_needs(needs: JobNeeds, words: LengthWords) -> dict[str, str | bool]:
    """Needs as somebody would type them, in the unit of the words."""
    return {**as_typed(needs, words), "both_faces": needs.both_faces}


class JobClass(Answer):
    """A class of jobs with the needs it begins with."""

    name: str
    label: str
    needs: JobNeeds


JOB_CLASSES = (
    JobClass(
        name="setting-out",
        label="Setting out points",
        needs=JobNeeds(position_mm=10.0, sight_m=50.0, back_m=50.0, target_mm=2.0, poles=1, tripods=1),
    ),
    JobClass(
        name="structure",
        label="Setting out a structure",
        needs=JobNeeds(
            position_mm=5.0, sight_m=30.0, back_m=60.0, both_faces=True, centring_mm=0.5, tripods=3, tribrachs=2
        ),
    ),
    JobClass(
        name="earthworks",
        label="Earthworks",
        needs=JobNeeds(
            position_mm=30.0, height_mm=20.0, sight_m=150.0, back_m=150.0, target_mm=5.0, poles=1, tripods=1
        ),
    ),
    JobClass(
        name="steep",
        label="Steep sights",
        needs=JobNeeds(position_mm=10.0, height_mm=10.0, sight_m=40.0, back_m=60.0, elevation_deg=30.0, tripods=1),
    ),
    JobClass(
        name="levelling",
        label="Levelling on site",
        needs=JobNeeds(levelling_mm=3.0, sight_m=40.0, back_m=40.0, imbalance_m=10.0, staffs=1, tripods=1),
    ),
    JobClass(
        name="fine-levelling",
        label="Levelling benchmarks",
        needs=JobNeeds(levelling_mm=1.0, sight_m=30.0, back_m=30.0, imbalance_m=1.0, staffs=2, tripods=1),
    ),
)
