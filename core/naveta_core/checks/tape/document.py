"""A comparison of a tape as it is typed: known lengths, what the tape reads there, its pull."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.comparing import Pairs, all_read, read_pairs
from ...engine.fields import Choice, Length, Number, Option, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import Reader
from ...results import Answer, Figures, Repeats
from ...units.formatting import length_words

SCALE, ZERO = "scale_ppm", "zero_offset_mm"
STANDARD_C, STANDARD_N = 20.0, 50.0
NAMES, MIN_LENGTHS = ("known", "reads"), 2
LENGTH = Range(0.0, 200.0, "a length of the tape")
OUTLIER_SHARE = 0.005


class ReferenceLength(Part):
    """A known length, and what the tape reads there."""

    known: Annotated[Typed | None, Length("Known", LENGTH, "known length")] = None
    reads: Annotated[Typed | None, Length("Tape reads", LENGTH, "tape reads")] = None


class TapeObservations(Part):
    """`against`: what the known lengths are, marks measured by something proved, or read off a proved steel tape."""

    material: Annotated[
        Literal["steel", "fibreglass"],
        Choice("Band", Option("steel", "Steel"), Option("fibreglass", "Fibreglass"), words="material"),
    ] = "steel"
    against: Annotated[
        Literal["marks", "tape"],
        Choice(
            "Compared with", Option("marks", "Known marks"), Option("tape", "A checked tape beside it"), words="against"
        ),
    ] = "marks"
    tension_n: Annotated[Typed | None, Number("Tension applied", "n", 1, 400, "tension")] = None
    standard_tension_n: Annotated[
        Typed | None,
        Number("Standard tension (50 if none is printed)", "n", 1, 400, "standard tension", optional=True),
    ] = None
    standard_temperature_c: Annotated[
        Typed | None,
        Number("Standard temperature (20 if none is printed)", "c", -20, 40, "standard temperature", optional=True),
    ] = None
    cross_section_mm2: Annotated[
        Typed | None,
        Number("Cross-section, if the tension differs", "mm2", 0.2, 20, "cross-section of the tape", optional=True),
    ] = None
    lengths: Annotated[list[ReferenceLength], Rows("length", 40, MIN_LENGTHS, "One more length")] = []


class Tape(CheckDocument):
    """A comparison of a tape."""

    kind: Literal["tape"]
    observations: TapeObservations


class LengthError(Answer):
    """What a tape is out by at a known length."""

    known_m: float
    error_mm: float


class TapeFigures(Figures):
    """Scale and zero of a tape, the correction that follows, and what was found at every length."""

    scale_ppm: float
    sigma_scale_ppm: float
    zero_offset_mm: float
    sigma_zero_offset_mm: float
    correction_mm_per_30_m: float
    errors: list[LengthError]
    repeats: Repeats


where = where_of(TapeObservations)


@dataclass
class TapeRead:
    """A tape's comparison as read: lengths, tension and what is standard. Cross-section in mm²."""

    pairs: Pairs
    tension_n: float | None
    standard_n: float
    standard_c: float
    section_mm2: float | None


def beside(document: Tape) -> bool:
    """Whether the known lengths were read off a proved tape beside it."""
    return document.observations.against == "tape"


def read_document(document: Tape, reader: Reader) -> TapeRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    read = read_pairs(reader, o, "lengths", NAMES, both_read=beside(document))
    words = length_words(document.units.length)
    for path, known, reads in read.listed:
        if abs(known - reads) > max(0.05, OUTLIER_SHARE * known):
            given = f"{words.reading(known)} and {words.reading(reads)}"
            reader.fault_at(path, given, "a known length and the tape reading there, within 0.5 %")
    lengths = [known for _, known, _ in read.listed]
    if all_read(read, o, "lengths", MIN_LENGTHS) and max(lengths) - min(lengths) < 0.2 * max(lengths):
        given = ", ".join(words.distance(length) for length in lengths)
        wanted = "different lengths: a short one and one near the end of the tape"
        reader.fault("observations.lengths", "the lengths", given, wanted)
    names = ("tension_n", "standard_tension_n", "standard_temperature_c", "cross_section_mm2")
    tension, standard_n, standard_c, section = (
        figure.value if figure else None for figure in (reader.figure(o, name) for name in names)
    )
    return TapeRead(read, tension, standard_n or STANDARD_N, STANDARD_C if standard_c is None else standard_c, section)
