"""Does an automatic level's compensator do its work: a staff read with the bubble run to each side of its ring.

A healthy one gives the same reading whichever way the level is tilted. What is left fore and aft, or left and right, is
given in seconds, and per minute of tilt where that is known. A line that does not return after a tap is sticking.
"""

from __future__ import annotations

from ...engine.at_best import Faultless
from ...engine.check_off import LEVEL_SIGHTS
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import PLACES, QUANTITY, WORDS, CompensatorFunction, read_document, where
from .judge import CAUTIONS, draw, judge, progress_of

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
        observations={"positions": {place: [""] * readings for place in PLACES}},
        groups=GENERAL,
        steps=(
            "Staff 40 to 50 m away, held still on a firm point.",
            "Read with the bubble centred.",
            "Tilt with a foot screw until the bubble touches its ring: towards the staff, away, left, right. Read at each.",
            "Centre the bubble, tap lightly: does the line return?",
        ),
    )


KIND = Kind(
    document=CompensatorFunction,
    where=where,
    read=read_document,
    faultless=Faultless((("positions.*.*", "1.0000"),), (("distance", "45"),)),
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    general=GENERAL,
    prerequisites=((("circular-vial",), "The circular level"),),
    title="Compensator",
    applies_to=("level", "digital-level"),
    minutes=8,
    set_up_minutes=2,
    interval_days=91,
    bring=("The level on its tripod, feet pressed in", "A staff on a firm point at 40 to 50 m, with its staff level"),
    before_you_start=(
        "Level out of its case for ten minutes.",
        "Check the circular level first: its ring is the reference here.",
    ),
    who_adjusts=(),
    when_bad=(
        (
            "real",
            "Confirm it",
            "If the level was not moved: once more at every position. If it was moved, or on another day: a new check.",
        ),
        ("keep", "Save as found", "Save as found: it is the only evidence of the error your work was done with."),
        (
            "adjust",
            "No field adjustment",
            "A compensator is never adjusted in the field. Put the level on hold and send it to service with this result.",
        ),
        (
            "without",
            "Use another instrument",
            "Use another level. Or use this one with balanced sights and the bubble within the inner quarter of its ring, always approached from the same side.",
        ),
        (
            "impact-review",
            "Review affected work",
            "Lines levelled with balanced sights and a centred bubble contain little of it; review the others.",
        ),
    ),
    watch_condition="Use balanced sights and keep the bubble within the inner quarter of its ring.",
    limited=(LimitedQuantity("largest_shift_arcsec", "Largest shift", "arcsec"),),
    check_off=LEVEL_SIGHTS,
    main_quantity=QUANTITY,
    quantity_label="compensator",
    methods=(
        _method("five", "Five readings at each position", "Full: shows shifts of a few seconds.", 5),
        _method("two", "Two readings at each position", "Quick: shows a large compensator error only.", 2),
    ),
    why="The compensator levels the line of sight. One that sticks or follows the tilt gives wrong readings without warning.",
    allows_repeat=False,
    quick=("two", 4),
    order=15,
    unit="arcsec",
    blocks_release=False,
    blocks_unchecked=True,
    bad_looks={"sticking": "a sticking compensator"},
)
