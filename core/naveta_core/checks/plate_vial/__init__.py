"""Where a plate bubble rests when the axis is plumb, and how far the axis leans.

b·s = T·u(heading) + e·s, u = (sin, cos), b towards the vial's right end. Two opposite headings give e and one part of
the tilt; four give all of it and what does not fit. e is the known rest position: set there, the axis is plumb.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import QUANTITY, PlateVial, read_document, where
from .judge import CAUTIONS, grow, judge, needs, to_middle
from .text import draw

Data = dict[str, Any]


def _rows(*pairs: tuple[int, int]) -> list[Data]:
    return [{"heading_deg": str(heading), **({"vial": vial} if vial == 2 else {})} for heading, vial in pairs]


PATH, NOTE = "observations.readings", "In divisions from the middle, to a tenth. Wait until it rests."
READINGS = Group(PATH, "The bubble", note=NOTE)
BOTH = Group(PATH, "The bubbles", note=NOTE, row_titles=("First vial", "Second vial") * 2)
WORTH = Group("observations", "The vial", ("sensitivity_arcsec_per_div",))
GENERAL = (READINGS, WORTH)


def has_plate_vial(instrument: Data) -> bool:
    return instrument.get("kind") == "theodolite" or bool(instrument.get("plate_vial_arcsec_per_div"))


KIND = Kind(
    document=PlateVial,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Plate bubble",
    adjust=to_middle,
    applies_to=("theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=4,
    interval_days=30,
    bring=(
        "The instrument on its tripod, feet trodden in, out of the sun",
        "The instrument's own adjusting pin, if you may adjust",
    ),
    before_you_start=("Level it as for work. What is left of the tilt does no harm: it is found apart.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        (
            "real",
            "Is it real?",
            "Let the bubble rest and turn once more. Both count together, never the better one alone.",
        ),
        ("keep", "Keep what was found", "Save as found before a screw is touched."),
        (
            "adjust",
            "Adjust it",
            "The foot screws take the stand's half, the vial's own screw the other. Then run it again, as left.",
        ),
        (
            "without",
            "Or live with it",
            "Set the bubble to where it rests: the axis is plumb all the same. Two divisions are the most.",
        ),
        (
            "look-back",
            "What was done with it since",
            "Steep sights taken since the last good check carry this lean, in both faces.",
        ),
    ),
    watch_condition="Set the bubble to where it rests, not to the middle.",
    main_quantity=QUANTITY,
    quantity_label="plate bubble",
    methods=(
        Method(
            "four-quarters",
            "Four quarters",
            "The whole: rest position, tilt both ways, and whether the four agree.",
            {"readings": _rows((0, 1), (90, 1), (180, 1), (270, 1))},
            (READINGS, WORTH),
            (
                "Note which end of the vial is the right one, standing behind the eyepiece.",
                "Read, turn by a quarter, wait, read: four times.",
            ),
        ),
        Method(
            "half-turn",
            "Half a turn",
            "Two readings: the rest position and the tilt along the vial.",
            {"readings": _rows((0, 1), (180, 1))},
            (READINGS, WORTH),
            ("Vial along two foot screws. Read.", "Turn by half a turn, wait, read again."),
        ),
        Method(
            "two-vials",
            "Two vials at right angles",
            "Both are read at each of two headings.",
            {"readings": _rows((0, 1), (90, 2), (180, 1), (270, 2))},
            (BOTH, WORTH),
            (
                "Read the first vial (right end at 0°) and the second (right end at 90°).",
                "Turn by half a turn, wait, read both again: 180° and 270°.",
            ),
        ),
    ),
    required_conditions=RequiredConditions(wind=True),
    why="The plate bubble is the last word where there is no electronic level, and the witness against one where there is.",
    quick=("half-turn", 2),
    order=20,
    unit="div",
    kept=("reversal_div", "vial_error_arcsec"),
    applies=has_plate_vial,
)
