"""Does a circular bubble say the truth: what stays when the instrument is turned is the vial's, what turns is the tilt.

x = k·T·u(θ + 90°) + e_x, y = k·T·u(θ) + e_y. A vial on the base does not turn: levelled by something proved, what it
shows is its error. Half of what a half-turn shows is taken up by the foot screws, half by the vial's own screws.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import QUANTITY, CircularVial, read_document, where
from .judge import CAUTIONS, bubble_to_middle, draw, grow, judge, needs

Data = dict[str, Any]
BUBBLE = ("x_mm", "y_mm")
READINGS = "observations.readings"
TURNED = Group(
    READINGS,
    "The bubble in its vial",
    note="From the middle of the ring, looking along the telescope: right and away from you are plus.",
)
STANDING = Group(
    READINGS,
    "The bubble in its vial",
    BUBBLE,
    "From the middle of the ring, standing behind the instrument: right and away from you are plus.",
    more="Read it once more",
)
SENSITIVITY = Group("observations", "The vial", ("sensitivity_arcmin_per_2mm",))
GENERAL = (TURNED, Group("observations", "The vial", ("sits_on", "sensitivity_arcmin_per_2mm")))


def turned_rows(*headings: int) -> list[Data]:
    return [{"heading_deg": str(one)} for one in headings]


TURNS = (("circular_vial_on", ("rotating",)),)

WHEN_BAD = (
    ("real", "Is it real?", "Set the bubble afresh, turn once more. Both count together, never the better one alone."),
    ("keep", "Keep what was found", "Save as found before a screw is touched."),
    (
        "adjust",
        "Adjust it",
        "The foot screws take the stand's half, the vial's own screws the other. Then run it again, as left.",
    ),
    (
        "without",
        "Or do without it",
        "Level by what turns the reading round: set the bubble to where it rests, or take another instrument.",
    ),
    ("look-back", "What was done with it since", "Work since the last good check may carry this error."),
)

KIND = Kind(
    document=CircularVial,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Circular bubble",
    adjust=bubble_to_middle,
    applies_to=("level", "digital-level", "theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=3,
    interval_days=90,
    bring=("The instrument on its tripod, feet trodden in", "The instrument's own adjusting pin, if you may adjust"),
    before_you_start=("Bring the bubble near the middle by the foot screws, wait until it rests.",),
    who_adjusts=("manager", "crew"),
    when_bad=WHEN_BAD,
    watch_condition="Set the bubble to where it rests, not to the middle.",
    main_quantity=QUANTITY,
    quantity_label="circular bubble",
    methods=(
        Method(
            "four-quarters",
            "Four quarters",
            "The same with proof: four headings check each other.",
            {"sits_on": "rotating", "readings": turned_rows(0, 90, 180, 270)},
            (TURNED, SENSITIVITY),
            ("Bubble near the middle by the foot screws.", "Read, turn by a quarter, wait, read: four times."),
            needs=TURNS,
        ),
        Method(
            "half-turn",
            "Half a turn",
            "For a vial that turns with the instrument: half of what it shows is the vial's.",
            {"sits_on": "rotating", "readings": turned_rows(0, 180)},
            (TURNED, SENSITIVITY),
            (
                "Bubble near the middle by the foot screws.",
                "Read where it rests.",
                "Turn by half a turn, wait, read again.",
            ),
            needs=TURNS,
        ),
        Method(
            "on-base",
            "Vial on the base",
            "A vial that does not turn: level by the plate vial or electronic level, proved; what this bubble then shows is its error.",
            {"sits_on": "base", "readings": [{}]},
            (STANDING, SENSITIVITY),
            ("Level by the plate vial or electronic level that passed its own check.", "Read where this bubble rests."),
            needs=(("circular_vial_on", ("base",)),),
        ),
    ),
    required_conditions=RequiredConditions(wind=True),
    why="Everything is set up by this bubble first: out by more than its ring, the compensator or the screws run out of room.",
    quick=("half-turn", 1),
    order=10,
    unit="mm",
    blocks_release=False,
    kept=("vial_error_x_mm", "vial_error_y_mm"),
)
