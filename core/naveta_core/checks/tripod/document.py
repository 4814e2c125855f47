"""A check of a tripod as it is typed: what a look found, and a scale read with the head let alone, pressed, let go."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Literal

from ...documents.envelope import CheckDocument, Part, Typed
from ...engine.fields import YES_NO, Choice, Field, Length, Number, Rows, where_of
from ...engine.parser import Range
from ...engine.reader import Reader
from ...results import Answer, Figures, Repeats

SET, TWIST = "set_arcsec", "twist_arcsec"
DISTANCE = Range(5.0, 60.0, "a distance to the scale")
MAX_MM = 2000.0
LOOKS = (
    (
        "clamps_hold",
        "Do the clamps hold when you press on a leg?",
        "clamps-slip",
        "A clamp slips under load.",
        "tighten-clamps",
        "Clean and tighten the clamp; a worn one is replaced.",
    ),
    (
        "hinges_firm",
        "Does a leg, released at an angle, stay briefly and then fall slowly?",
        "hinges-loose",
        "A hinge has play, or binds.",
        "set-hinges",
        "Tighten the hinge bolts until a leg just holds its position.",
    ),
    (
        "shoes_firm",
        "Are the shoes firm and the points sharp?",
        "shoes-loose",
        "A shoe is loose or blunt.",
        "fix-shoes",
        "Fix the shoe; a blunt point is replaced.",
    ),
)
YesNo = Literal["yes", "no"]


def _look(name: str) -> Field:
    query = next(look[1] for look in LOOKS if look[0] == name)
    return Choice(query, *YES_NO, words=query.rstrip("?").lower(), look=True)


class LoadCycle(Part):
    """The scale read with the head let alone, under the hand, and let go again, mm."""

    free_mm: Annotated[Typed | None, Number("Untouched", "mm", -MAX_MM, MAX_MM)] = None
    loaded_mm: Annotated[Typed | None, Number("Turned", "mm", -MAX_MM, MAX_MM)] = None
    released_mm: Annotated[Typed | None, Number("Released", "mm", -MAX_MM, MAX_MM)] = None


class TripodObservations(Part):
    """What is typed of this check, in the order of its sheet."""

    clamps_hold: Annotated[YesNo | None, _look("clamps_hold")] = None
    hinges_firm: Annotated[YesNo | None, _look("hinges_firm")] = None
    shoes_firm: Annotated[YesNo | None, _look("shoes_firm")] = None
    distance: Annotated[Typed | None, Length("Distance to the scale", DISTANCE)] = None
    rounds: Annotated[list[LoadCycle], Rows("round", 20, 2, "One more load cycle")] = []


class Tripod(CheckDocument):
    """A check of a tripod."""

    kind: Literal["tripod"]
    observations: TripodObservations


class HeadMove(Answer):
    """What the head gave under a hand, and what of it did not come back."""

    twist_mm: float
    set_mm: float


class TripodFigures(Figures):
    """Residual twist, and the twist under load."""

    set_arcsec: float
    sigma_set_arcsec: float
    twist_arcsec: float
    sigma_twist_arcsec: float
    rounds: list[HeadMove]
    repeats: Repeats


where = where_of(TripodObservations)


@dataclass
class TripodRead:
    """Rounds as read, mm, and the distance, m."""

    rounds: list[tuple[str, float, float, float]]
    distance_m: float | None
    steps: list[float]


def read_document(document: Tripod, reader: Reader) -> TripodRead:
    """Every row that can be read, in canonical units; faults and what is missing are in the reader."""
    o = document.observations
    distance = reader.figure(o, "distance")
    rows = reader.rows(o, "rounds")
    rounds = [(row.path, row["free_mm"], row["loaded_mm"], row["released_mm"]) for row in rows]
    steps = [row.step(name) for row in rows for name in ("free_mm", "loaded_mm", "released_mm")]
    return TripodRead(rounds, distance.value if distance else None, steps)
