"""Does the vial of a pole or staff say plumb: turned by 180° in its stand, or held against a plumb line.

The same equations as for an instrument's circular vial. An error of the vial tilts the pole: at the top of a pole of
height h the mark is out by h times the angle.
"""

from __future__ import annotations

from ...engine.at_best import Faultless
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ..circular_vial import BUBBLE, READINGS, SENSITIVITY, turned_rows
from ..circular_vial.document import QUANTITY
from ..circular_vial.judge import bubble_to_middle
from .document import PoleVial, read_document, where
from .judge import CAUTIONS, draw, judge, needs, progress_of

POLE = Group("observations", "The pole", ("height_m",))
TURNED = Group(
    READINGS,
    "The bubble in its vial",
    note="Offset from the middle of the ring; right and away from you are plus, seen along the mark on the vial.",
)
HELD = Group(READINGS, "Bubble with the pole held plumb", BUBBLE, more="Repeat the reading")
GENERAL = (TURNED, Group("observations", "Pole and level vial"))
KIND = Kind(
    document=PoleVial,
    where=where,
    read=read_document,
    faultless=Faultless((("readings.*.x_mm", "0.0"), ("readings.*.y_mm", "0.0"))),
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Pole or staff level check",
    adjust=bubble_to_middle,
    applies_to=("pole", "staff"),
    minutes=4,
    interval_days=182,
    bring=("A bipod, or a plumb line on a hook", "A small hole for the point: a punch mark in steel or stone"),
    before_you_start=("Is the pole straight? Roll it on a flat floor: the vial of a bent pole cannot be adjusted.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Seat the point again and repeat the turn. Both runs count together; the better one never counts alone.",
        ),
        ("keep", "Save as found", "Save as found before you touch a screw."),
        (
            "adjust",
            "Adjust it",
            "First hold it plumb, bubble at its reversing point; then centre the bubble with the level vial screws. Then check again, as left.",
        ),
        ("without", "Use another instrument", "Hold the bubble at its reversing point, or use another pole."),
        (
            "impact-review",
            "Review affected work",
            "Points measured with it since the last good check are off in the same direction only if it always faced the same way.",
        ),
    ),
    watch_condition="Use it low, with the level vial facing the instrument.",
    limited=(LimitedQuantity("vial_error_mm", "Level vial error", "mm"),),
    main_quantity=QUANTITY,
    quantity_label="vial",
    methods=(
        Method(
            "four-quarters",
            "Pole in its bipod, four headings",
            "Full: four headings check each other.",
            observations={"item": "pole", "method": "half-turn", "readings": turned_rows(0, 90, 180, 270)},
            groups=(TURNED, POLE, SENSITIVITY),
            steps=(
                "Point in a punch mark, bipod spread, bubble near the middle.",
                "Read it. Turn the pole by 90° without moving the bipod, read again: four times.",
            ),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "half-turn",
            "Pole in its bipod, two headings",
            "Needs only the bipod.",
            observations={"item": "pole", "method": "half-turn", "readings": turned_rows(0, 180)},
            groups=(TURNED, POLE, SENSITIVITY),
            steps=(
                "Point in a punch mark, bipod spread, bubble near the middle.",
                "Read it. Turn the pole by 180° without moving the bipod. Read again.",
            ),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "plumb-line",
            "Pole, against a plumb line",
            "Indoors or out of the wind: hang a plumb bob, align the pole with its string from two directions.",
            observations={"item": "pole", "method": "plumb-line", "readings": [{}]},
            groups=(HELD, POLE, SENSITIVITY),
            steps=("Align the pole with the string, seen from two sides at right angles.", "Read the bubble."),
            caution=("bob",),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "proved-instrument",
            "Pole, against a levelled instrument",
            "Uses the vertical cross hair of a checked, levelled instrument, from two sides.",
            observations={"item": "pole", "method": "proved-instrument", "readings": [{}]},
            groups=(HELD, POLE, SENSITIVITY),
            steps=(
                "Align the pole with the vertical cross hair from one side, then from the other at right angles.",
                "Read the bubble.",
            ),
            caution=("sun",),
            needs=(("kind", ("pole",)),),
        ),
        Method(
            "staff",
            "Staff, against a plumb line",
            "For a staff level: against a string or a plumbed corner.",
            observations={"item": "staff", "method": "plumb-line", "readings": [{}]},
            groups=(HELD, SENSITIVITY),
            steps=("Align the staff with the string in both directions.", "Read the bubble."),
            caution=("overhead-lines",),
            needs=(("kind", ("staff",)),),
        ),
    ),
    conditions=("wind", "temperature_c"),
    why="A pole held by a wrong level vial is out of plumb at every point, and nothing at the instrument shows it.",
    order=60,
    unit="mm",
    carried=("lean_mm",),
)
