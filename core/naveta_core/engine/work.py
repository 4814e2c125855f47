"""The sight of the work an error's effect is given for, in the unit of the document."""

from __future__ import annotations

from ..documents.envelope import Envelope
from ..units.formatting import ROUND_SIGHTS, LengthWords, length_words


def words_of(document: Envelope) -> LengthWords:
    """How lengths are worded in a document."""
    return length_words(document.units.length)


def work_sight_m(document: Envelope) -> float:
    """The work's own sight in metres; where none was given 30 m, or 100 ft where feet are read."""
    if "sight_m" in document.work.model_fields_set:
        return document.work.sight_m
    return ROUND_SIGHTS.get(document.units.length, document.work.sight_m)
