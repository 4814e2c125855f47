"""Does a circular bubble say the truth: what stays when the instrument is turned is the vial's, what turns is the tilt.

x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y. A vial on the tribrach does not turn: levelled by something proved, what it
shows is its error. Half of what a half-turn shows is taken up by the foot screws, half by the vial's own screws.
"""

from __future__ import annotations

from typing import Any

from ...engine.affected import rough_level
from ...engine.at_best import Faultless
from ...engine.check_off import PACKED
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import QUANTITY, CircularVial, read_document, where
from .judge import CAUTIONS, bubble_to_middle, draw, judge, needs, progress_of

Data = dict[str, Any]
BUBBLE = ("x_mm", "y_mm")
READINGS = "observations.readings"
TURNED = Group(
    READINGS,
    "The bubble in its vial",
    note="Offset from the middle of the ring, looking along the telescope: right and away from you are plus.",
)
STANDING = Group(
    READINGS,
    "The bubble in its vial",
    BUBBLE,
    "Offset from the middle of the ring, standing behind the instrument: right and away from you are plus.",
    more="Repeat the reading",
)
SENSITIVITY = Group("observations", "The vial", ("sensitivity_arcmin_per_2mm",))
GENERAL = (TURNED, Group("observations", "The vial", ("sits_on", "sensitivity_arcmin_per_2mm")))


def turned_rows(*headings: int) -> list[Data]:
    """Empty rows at the headings of a method."""
    return [{"heading_deg": str(heading)} for heading in headings]


TURNS = (("circular_vial_on", ("rotating",)),)

WHEN_BAD = (
    (
        "real",
        "Confirm it",
        "Set the bubble again and repeat the turn. Both runs count together; the better one never counts alone.",
    ),
    ("keep", "Save as found", "Save as found before you touch a screw."),
    (
        "adjust",
        "Adjust it",
        "Remove half with the foot screws (tilt of the axis) and half with the level vial screws. Then check again, as left.",
    ),
    (
        "without",
        "Use another instrument",
        "Level to the reversing point: set the bubble there instead of the middle, or use another instrument.",
    ),
    ("impact-review", "Review affected work", "Work since the last good check may contain this error."),
)

KIND = Kind(
    document=CircularVial,
    where=where,
    read=read_document,
    faultless=Faultless((("readings.*.x_mm", "0.0"), ("readings.*.y_mm", "0.0"))),
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Circular level check",
    adjust=bubble_to_middle,
    applies_to=("level", "digital-level", "theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=3,
    set_up_minutes=2,
    interval_days=182,
    bring=(
        "The instrument on its tripod, feet pressed in",
        "The instrument's own adjusting pin, if you are allowed to adjust",
    ),
    before_you_start=("Bring the bubble near the middle with the foot screws. Wait until it settles.",),
    who_adjusts=("manager", "crew"),
    affects=rough_level,
    when_bad=WHEN_BAD,
    watch_condition="Set the bubble to its reversing point, not to the middle.",
    limited=(LimitedQuantity("vial_error_mm", "Level vial error", "mm"),),
    main_quantity=QUANTITY,
    quantity_label="circular level",
    methods=(
        Method(
            "four-quarters",
            "Four headings, 90° apart",
            "The most reliable: four headings check each other.",
            observations={"sits_on": "rotating", "readings": turned_rows(0, 90, 180, 270)},
            groups=(TURNED, SENSITIVITY),
            steps=(
                "Bring the bubble near the middle with the foot screws.",
                "Read, turn by 90°, wait, read: four times.",
            ),
            needs=TURNS,
        ),
        Method(
            "half-turn",
            "Two headings, 180° apart",
            "For a level vial that turns with the instrument: half of the change is the vial's error.",
            observations={"sits_on": "rotating", "readings": turned_rows(0, 180)},
            groups=(TURNED, SENSITIVITY),
            steps=(
                "Bring the bubble near the middle with the foot screws.",
                "Read the bubble.",
                "Turn by 180°, wait, read again.",
            ),
            needs=TURNS,
        ),
        Method(
            "on-tribrach",
            "Vial on the tribrach",
            "For a vial that does not turn: level with a checked plate level or electronic level; what this bubble then shows is its error.",
            observations={"sits_on": "tribrach", "readings": [{}]},
            groups=(STANDING, SENSITIVITY),
            steps=("Level with the plate level or electronic level that passed its own check.", "Read this bubble."),
            needs=(("circular_vial_on", ("tribrach",)),),
        ),
    ),
    conditions=("wind", "temperature_c"),
    check_off=PACKED,
    why="You set up with this bubble first. If it is out by more than its ring, the compensator or the foot screws run out of range.",
    quick=("half-turn", 1),
    order=10,
    unit="mm",
    blocks_release=False,
    carried=("vial_error_x_mm", "vial_error_y_mm"),
)
