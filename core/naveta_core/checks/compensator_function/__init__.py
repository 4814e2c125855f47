"""Does an automatic level's compensator do its work: a staff read with the bubble run to each side of its ring.

A healthy one gives the same reading whichever way the level leans. What is left fore and aft, or left and right, is
told in seconds, and per minute of lean where that is known. A line that does not return after a tap is sticking.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import PLACES, QUANTITY, WORDS, CompensatorFunction, read_document, where
from .judge import CAUTIONS, draw, grow, judge

Data = dict[str, Any]
GENERAL = (
    Group("observations", "The staff", ("distance", "tilt_arcmin")),
    *(Group(f"observations.positions.{name}", WORDS[name].capitalize()) for name in PLACES),
    Group("observations", "Tap the tripod lightly", ("returns",)),
)


def _method(name: str, title: str, good_for: str, readings: int) -> Method:
    return Method(
        name,
        title,
        good_for,
        {"positions": {place: [""] * readings for place in PLACES}},
        GENERAL,
        (
            "Staff at 40 to 50 m, held still on a firm point.",
            "Read with the bubble in the middle.",
            "Run it by a foot screw to the ring: towards the staff, away, left, right. Read each.",
            "Bubble in the middle, tap lightly: does the line come back?",
        ),
    )


KIND = Kind(
    document=CompensatorFunction,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    general=GENERAL,
    prerequisites=((("circular-vial",), "The circular bubble"),),
    title="Compensator",
    applies_to=("level", "digital-level"),
    minutes=8,
    interval_days=90,
    bring=("The level on its tripod, feet trodden in", "A staff on a firm point at 40 to 50 m, with its staff level"),
    before_you_start=("Ten minutes out of the case.", "The circular bubble proved first: its ring is the measure."),
    who_adjusts=(),
    when_bad=(
        (
            "real",
            "Is it real?",
            "The level not moved: once more at every place. Moved or on another day: a check of its own.",
        ),
        ("keep", "Keep what was found", "Save as found: it is the only proof of what the work was done with."),
        (
            "adjust",
            "Nothing to turn",
            "A compensator is never adjusted in the field. Hold it and send it to service with this finding.",
        ),
        (
            "without",
            "Do without it",
            "Take another. Or use this one with the bubble in the inner quarter of its ring, brought in from the same side, sights balanced.",
        ),
        (
            "look-back",
            "What was done with it since",
            "Runs with balanced sights and a careful bubble carry little of it; look at the others.",
        ),
    ),
    watch_condition="Bubble in the inner quarter of its ring, sights balanced.",
    main_quantity=QUANTITY,
    quantity_label="compensator",
    methods=(
        _method("five", "Five readings a position", "The whole: shifts of a few seconds show.", 5),
        _method("two", "Two readings a position", "Quick: shows a compensator that is badly out, proves less.", 2),
    ),
    required_conditions=RequiredConditions(wind=False),
    why="A compensator levels the line for you. One that sticks or follows the lean is wrong without a sign.",
    allows_repeat=False,
    quick=("two", 4),
    order=15,
    unit="arcsec",
    blocks_release=False,
)
