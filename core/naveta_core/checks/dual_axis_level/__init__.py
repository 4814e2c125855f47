"""The index of an electronic level or compensator, apart from the tilt of the axis.

along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across. Turned by half a turn a perfect one shows the same figures
with opposite signs. A plate bubble read beside it is judged by the same half-turn: neither is taken on trust.
"""

from __future__ import annotations

from typing import Any

from ...documents.envelope import Instrument
from ...engine.affected import axis_tilt
from ...engine.check_off import PACKED
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ...engine.storing import stored_group, storing
from .document import ACROSS, ALONG, STORED_FIGURES, DualAxisLevel, read_document, where
from .judge import CAUTIONS, judge, needs, progress_of
from .text import draw

Data = dict[str, Any]


def _rows(*headings: int) -> list[Data]:
    return [{"heading_deg": str(heading)} for heading in headings]


PATH, BOTH = "observations.readings", ("heading_deg", "along_arcsec", "across_arcsec")
READINGS = Group(
    PATH,
    "Electronic level readings",
    BOTH,
    "In seconds, with the signs shown on the display: along the line of sight, and across it.",
)
TOGETHER = Group(
    PATH,
    "Electronic level and plate level, read together",
    (*BOTH, "bubble_div"),
    "Read both at the same time; the turn by 180° shows which one is wrong.",
)
STORED = stored_group(STORED_FIGURES)
WORTH = Group("observations", "The plate vial", ("sensitivity_arcsec_per_div",))
GENERAL = (TOGETHER, WORTH, STORED)


def may_have_one(instrument: Instrument) -> bool:
    """Return whether the instrument has an electronic level; where nothing says so, a total station does."""
    known = instrument.has_electronic_level
    return instrument.kind in ("total-station", "robotic-total-station") if known is None else known


KIND = Kind(
    document=DualAxisLevel,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Electronic level",
    adjust=storing(STORED_FIGURES),
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=4,
    set_up_minutes=2,
    interval_days=91,
    before_large_jobs=True,
    temperature_step_c=15.0,
    due_after=("temperature-step", "control-jump"),
    bring=(
        "The instrument on a firm set-up, out of the sun",
        "The instrument's calibration routine, if you are allowed to store values",
    ),
    before_you_start=(
        "Switched on for at least three minutes, longer if it comes from a warm van.",
        "Bubble near the middle. Do not walk around it while it turns.",
    ),
    who_adjusts=("manager", "crew"),
    affects=axis_tilt(("index_along_arcsec", "index_across_arcsec"), "electronic", "the electronic level"),
    when_bad=(
        ("real", "Confirm it", "Repeat the readings. Both runs count together; the better one never counts alone."),
        ("keep", "Save as found", "Save as found, with the stored values, before they are overwritten."),
        (
            "adjust",
            "Store new values",
            "Run the instrument's level calibration in both positions, store, then check again, as left. After that a two-face check is due.",
        ),
        (
            "without",
            "Use another instrument",
            "Level to the index values, measure in both faces, or use another instrument.",
        ),
        (
            "impact-review",
            "Review affected work",
            "Heights measured in one face contain the part along the sight; steep directions the part across.",
        ),
    ),
    watch_condition="Both faces only.",
    limited=(
        LimitedQuantity("index_along_arcsec", "Index error along the sight", "arcsec"),
        LimitedQuantity("index_across_arcsec", "Index error across", "arcsec"),
    ),
    main_quantity=ALONG,
    quantity_label="electronic level",
    methods=(
        Method(
            "half-turn",
            "Two positions",
            "Two headings: index error along and across, separated from the tilt.",
            observations={"readings": _rows(0, 180)},
            groups=(READINGS, STORED),
            steps=("Level it as for work.", "Note both values. Turn by 180°, let them settle, note both again."),
        ),
        Method(
            "four-quarters",
            "Four headings, 90° apart",
            "More accurate: the four check each other and the signs of the display.",
            observations={"readings": _rows(0, 90, 180, 270)},
            groups=(READINGS, STORED),
            steps=("Level it as for work.", "Note both values, turn by 90°, let them settle: four times."),
        ),
        Method(
            "with-plate-vial",
            "With the plate level",
            "When the two disagree: read both, turn, read both again.",
            observations={"readings": _rows(0, 180)},
            groups=(TOGETHER, WORTH, STORED),
            steps=(
                "Level it as for work. Do not touch the screws from now on.",
                "Note both values and the bubble. Turn by 180°, wait, note all three again.",
            ),
        ),
    ),
    conditions=("minutes_on", "support", "wind", "temperature_c", "sky"),
    check_off=PACKED,
    why="Values that look small in one position can hide an index error. The turn by 180° separates index error from tilt.",
    quick=("half-turn", 2),
    order=30,
    carried=(ACROSS,),
    as_left_inputs=(ALONG, f"sigma_{ALONG}", ACROSS, f"sigma_{ACROSS}"),
    invalidates=("two-face",),
    applies=may_have_one,
)
