"""Does the vial of a pole or staff say plumb: turned half round in its stand, or held against a plumb line.

The same equations as for an instrument's circular vial. An error of the vial leans the pole: at the top of a pole of
height h the mark is out by h times the angle.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ..circular_vial import BUBBLE, READINGS, SENSITIVITY, turned_rows
from ..circular_vial.document import QUANTITY
from ..circular_vial.judge import bubble_to_middle
from .document import PoleVial, read_document, where
from .judge import CAUTIONS, draw, grow, judge, needs

Data = dict[str, Any]
POLE = Group("observations", "The pole", ("height_m",))
TURNED = Group(
    READINGS,
    "The bubble in its vial",
    note="From the middle of the ring; right and away from you are plus, seen along the mark on the vial.",
)
HELD = Group(READINGS, "The bubble while it is held plumb", BUBBLE, more="Read it once more")
GENERAL = (TURNED, Group("observations", "The pole and its vial"))
KIND = Kind(
    document=PoleVial,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Vial of a pole or staff",
    adjust=bubble_to_middle,
    applies_to=("pole", "staff"),
    minutes=4,
    interval_days=30,
    bring=("A bipod, or a hook and a plumb line", "A small hole for the point: a punch mark in steel or stone"),
    before_you_start=("Is the pole straight? Roll it on a flat floor: a bent one has no vial error that can be set.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        (
            "real",
            "Is it real?",
            "Seat the point afresh, turn once more. Both count together, never the better one alone.",
        ),
        ("keep", "Keep what was found", "Save as found before a screw is touched."),
        (
            "adjust",
            "Adjust it",
            "Plumb first, where the bubble rests; then the vial's own screws bring it to the middle. Then run it again, as left.",
        ),
        ("without", "Or do without it", "Hold it by where the bubble rests, or take another."),
        (
            "look-back",
            "What was done with it since",
            "Points set with it since the last good check lean the same way only if it always faced the same way.",
        ),
    ),
    watch_condition="Low, and with the vial facing the instrument.",
    main_quantity=QUANTITY,
    quantity_label="vial",
    methods=(
        Method(
            "four-quarters",
            "Pole, four quarters in its bipod",
            "The whole: four headings check each other.",
            {"item": "pole", "method": "half-turn", "readings": turned_rows(0, 90, 180, 270)},
            (TURNED, POLE, SENSITIVITY),
            (
                "Point in a punch mark, bipod spread, bubble near the middle.",
                "Read it. Turn the pole by a quarter about itself, bipod untouched. Read again: four times.",
            ),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "half-turn",
            "Pole, half a turn in its bipod",
            "Needs nothing but the bipod.",
            {"item": "pole", "method": "half-turn", "readings": turned_rows(0, 180)},
            (TURNED, POLE, SENSITIVITY),
            (
                "Point in a punch mark, bipod spread, bubble near the middle.",
                "Read it. Turn the pole half round about itself, bipod untouched. Read again.",
            ),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "plumb-line",
            "Pole, against a plumb line",
            "Indoors or in the lee: a bob from the ceiling, its string along the pole in two directions.",
            {"item": "pole", "method": "plumb-line", "readings": [{}]},
            (HELD, POLE, SENSITIVITY),
            ("Bring the pole along the string, seen from two sides at right angles.", "Read the bubble."),
            ("bob",),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "proved-instrument",
            "Pole, against a levelled instrument",
            "The vertical cross of a proved and levelled instrument, from two sides.",
            {"item": "pole", "method": "proved-instrument", "readings": [{}]},
            (HELD, POLE, SENSITIVITY),
            (
                "Bring the pole along the vertical cross from one side, then from the other at right angles.",
                "Read the bubble.",
            ),
            ("sun",),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "staff",
            "Staff, against a plumb line",
            "A staff's vial, against a string or a corner that was plumbed.",
            {"item": "staff", "method": "plumb-line", "readings": [{}]},
            (HELD, SENSITIVITY),
            ("Bring the staff along the string in both directions.", "Read the bubble."),
            ("overhead-lines",),
            needs=(("kind", ("staff",)),),
        ),
    ),
    required_conditions=RequiredConditions(wind=True),
    why="A pole held by a wrong vial puts every point out by the same lean, and nothing in the instrument shows it.",
    order=60,
    unit="mm",
    kept=("lean_mm",),
)
