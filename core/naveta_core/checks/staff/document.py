"""A check of a staff as it is typed: graduations, and how far each is from the foot plate by a tape."""

from __future__ import annotations

from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.comparing import Pairs, all_read, places_among, read_pairs
from ...engine.fields import YES_NO, Choice, Length, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import Reader
from ...results import Answer, Figures, Repeats
from ...stats.straight_line import spread_m
from ...units.formatting import LengthWords, length_words

ZERO, SCALE, STEP = "zero_offset_mm", "scale_ppm", "largest_step_mm"
NAMES, MIN_GRADUATIONS = ("graduation", "tape"), 3
LENGTH = Range(-0.05, 8.0, "a length along the staff")
OUTLIER_MM = 20.0
MIN_SPREAD_M = 0.5


class StaffSection(Part):
    """One graduation, and how far it is from the foot plate by the tape."""

    graduation: Annotated[Typed | None, Length("Graduation", LENGTH, "graduation", prefilled=True)] = None
    tape: Annotated[Typed | None, Length("Tape reads", LENGTH, "taped")] = None


class StaffObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    foot_firm: Annotated[
        Literal["yes", "no"] | None,
        Choice("Is the foot plate firm and clean?", *YES_NO, words="the foot plate", look=True),
    ] = None
    joints_firm: Annotated[
        Literal["yes", "no"] | None, Choice("Are the joints free of play?", *YES_NO, words="the joints", look=True)
    ] = None
    sections: Annotated[list[StaffSection], Rows("graduation", 40, MIN_GRADUATIONS, "One more graduation")] = []


class Staff(CheckDocument):
    """A check of a levelling staff."""

    kind: Literal["staff"]
    observations: StaffObservations


class GraduationError(Answer):
    """What a graduation is out by, and what of that lies off the line of all."""

    graduation_m: float
    error_mm: float
    misfit_mm: float


class StaffFigures(Figures):
    """Zero of the foot plate, scale of the divisions, and the largest single graduation error."""

    zero_offset_mm: float
    sigma_zero_offset_mm: float
    scale_ppm: float
    sigma_scale_ppm: float
    largest_step_mm: float
    errors: list[GraduationError]
    repeats: Repeats


where = where_of(StaffObservations)


def read_document(document: Staff, reader: Reader) -> Pairs:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    read = read_pairs(reader, o, "sections", NAMES)
    words = length_words(document.units.length)
    for path, graduation, tape in read.listed:
        if abs(graduation - tape) * 1000 > OUTLIER_MM:
            given = f"{words.reading(graduation)} and {words.reading(tape)}"
            reader.fault_at(path, given, f"graduation and taped length of the same place, within {OUTLIER_MM:g} mm")
    if all_read(read, o, "sections", MIN_GRADUATIONS):
        _far_enough(read, reader, words)
    return read


def _far_enough(read: Pairs, reader: Reader, words: LengthWords) -> None:
    graduations = [graduation for _, graduation, _ in read.listed]
    if spread_m(graduations) < MIN_SPREAD_M or places_among(graduations) < MIN_GRADUATIONS:
        reader.fault(
            "observations.sections",
            "the graduations",
            f"graduations at {', '.join(words.height(graduation) for graduation in graduations)}",
            f"three graduations or more along the whole staff, at least {words.height(MIN_SPREAD_M)} apart",
        )
