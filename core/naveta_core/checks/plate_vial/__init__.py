"""Where a plate bubble rests when the axis is plumb, and how far the axis is tilted.

b·s = T·u(heading) + e·s, u = (sin, cos), b towards the vial's right end. Two opposite headings give e and one part of
the tilt; four give all of it and what does not fit. e is the known rest position: set there, the axis is plumb.
"""

from __future__ import annotations

from typing import Any

from ...documents.envelope import Instrument
from ...engine.affected import axis_tilt
from ...engine.check_off import PACKED
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import QUANTITY, PlateVial, read_document, where
from .judge import CAUTIONS, judge, needs, progress_of, to_middle
from .text import draw

Data = dict[str, Any]


def _rows(*pairs: tuple[int, int]) -> list[Data]:
    return [{"heading_deg": str(heading), **({"vial": vial} if vial == 2 else {})} for heading, vial in pairs]


PATH, NOTE = "observations.readings", "In divisions from the middle, to a tenth. Wait until it settles."
READINGS = Group(PATH, "The bubble", note=NOTE)
BOTH = Group(PATH, "The bubbles", note=NOTE, row_titles=("First vial", "Second vial") * 2)
WORTH = Group("observations", "The vial", ("sensitivity_arcsec_per_div",))
GENERAL = (READINGS, WORTH)


def may_have_one(instrument: Instrument) -> bool:
    """Return whether the instrument has a plate vial; where nothing says so, a theodolite does."""
    known = instrument.has_plate_vial
    return instrument.kind == "theodolite" if known is None else known


KIND = Kind(
    document=PlateVial,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Plate level check",
    adjust=to_middle,
    applies_to=("theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=4,
    set_up_minutes=2,
    interval_days=182,
    bring=(
        "The instrument on its tripod, feet pressed in, out of the sun",
        "The instrument's own adjusting pin, if you are allowed to adjust",
    ),
    before_you_start=("Level it as for work. Remaining tilt does no harm: it is separated.",),
    who_adjusts=("manager", "crew"),
    affects=axis_tilt(("vial_error_arcsec",), "plate", "the plate vial"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Let the bubble settle and repeat the turn. Both runs count together; the better one never counts alone.",
        ),
        ("keep", "Save as found", "Save as found before you touch a screw."),
        (
            "adjust",
            "Adjust it",
            "Remove half with the foot screws (tilt of the axis) and half with the level vial screw. Then check again, as left.",
        ),
        (
            "without",
            "Work around it",
            "Set the bubble to its reversing point: the axis is then plumb. Acceptable up to two divisions.",
        ),
        (
            "impact-review",
            "Review affected work",
            "Steep sights since the last good check contain this tilt, in both faces.",
        ),
    ),
    watch_condition="Set the bubble to its reversing point, not to the middle.",
    limited=(LimitedQuantity("reversal_div", "Reversing point", "div"),),
    main_quantity=QUANTITY,
    quantity_label="plate level",
    methods=(
        Method(
            "four-quarters",
            "Four headings, 90° apart",
            "Full: reversing point, tilt on both axes, and whether the four agree.",
            observations={"readings": _rows((0, 1), (90, 1), (180, 1), (270, 1))},
            groups=(READINGS, WORTH),
            steps=(
                "Stand behind the eyepiece: note which end of the vial is the right one.",
                "Read, turn by 90°, wait, read: four times.",
            ),
        ),
        Method(
            "half-turn",
            "Two headings, 180° apart",
            "Two readings: reversing point and tilt along the vial.",
            observations={"readings": _rows((0, 1), (180, 1))},
            groups=(READINGS, WORTH),
            steps=("Level vial parallel to two foot screws. Read.", "Turn by 180°, wait, read again."),
        ),
        Method(
            "two-vials",
            "Two level vials at right angles",
            "Both are read at each of two headings.",
            observations={"readings": _rows((0, 1), (90, 2), (180, 1), (270, 2))},
            groups=(BOTH, WORTH),
            steps=(
                "Read the first vial (right end at 0°) and the second (right end at 90°).",
                "Turn by 180°, wait, read both again: 180° and 270°.",
            ),
        ),
    ),
    conditions=("wind", "temperature_c", "sky"),
    check_off=PACKED,
    why="Without an electronic level the plate level defines plumb; with one, it is the independent check.",
    quick=("half-turn", 2),
    order=20,
    unit="div",
    carried=("reversal_div", "vial_error_arcsec"),
    applies=may_have_one,
)
