"""The index of an electronic level or compensator, apart from the tilt of the stand.

along = T·u(θ) + i_along, across = T·u(θ + 90°) + i_across. Turned by half a turn a perfect one shows the same figures
with opposite signs. A plate bubble read beside it is settled by the same half-turn: neither is taken on trust.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ...engine.storing import stored_group, storing
from .document import ACROSS, ALONG, KEPT, DualAxisLevel, read_document, where
from .judge import CAUTIONS, grow, judge, needs
from .text import draw

Data = dict[str, Any]


def _rows(*headings: int) -> list[Data]:
    return [{"heading_deg": str(one)} for one in headings]


PATH, BOTH = "observations.readings", ("heading_deg", "along_arcsec", "across_arcsec")
READINGS = Group(
    PATH,
    "What the electronic level shows",
    BOTH,
    "In seconds, signs as shown. Along the sight, and across it to the right.",
)
TOGETHER = Group(
    PATH,
    "Electronic level and plate bubble, read together",
    (*BOTH, "bubble_div"),
    "Read both at the same moment; the half-turn tells which is out.",
)
STORED = stored_group(KEPT)
WORTH = Group("observations", "The plate vial", ("sensitivity_arcsec_per_div",))
GENERAL = (TOGETHER, WORTH, STORED)


def has_electronic_level(instrument: Data) -> bool:
    return instrument.get("kind") in ("total-station", "robotic-total-station") or bool(
        instrument.get("electronic_level_step_arcsec")
    )


KIND = Kind(
    document=DualAxisLevel,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Electronic level",
    adjust=storing(KEPT),
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=4,
    interval_days=30,
    bring=("The instrument on a firm stand, out of the sun", "Its own calibration routine, if you may store values"),
    before_you_start=(
        "On for three minutes at the least, longer after a warm van.",
        "Bubble near the middle; stay where you are while it turns.",
    ),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Take the round once more. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found, with the stored values, before anything is written over."),
        (
            "adjust",
            "Store it",
            "Run the instrument's own level calibration both ways round, store, then run this check again, as left. After it, two faces are due.",
        ),
        ("without", "Or do without it", "Level by the rest position, measure in both faces, or take another."),
        (
            "look-back",
            "What was done with it since",
            "Heights of one face carry the part along; steep directions the part across.",
        ),
    ),
    watch_condition="In both faces only.",
    main_quantity=ALONG,
    quantity_label="electronic level",
    methods=(
        Method(
            "half-turn",
            "Both ways round",
            "Two headings: index along and across, apart from the tilt.",
            {"readings": _rows(0, 180)},
            (READINGS, STORED),
            ("Level it as for work.", "Note both figures. Turn by half a turn, let them settle, note both again."),
        ),
        Method(
            "four-quarters",
            "Four quarters",
            "Finer, and the four check each other and the display's senses.",
            {"readings": _rows(0, 90, 180, 270)},
            (READINGS, STORED),
            ("Level it as for work.", "Note both figures; turn by a quarter; let them settle: four times."),
        ),
        Method(
            "with-plate-vial",
            "With the plate bubble beside it",
            "They disagree: which is out? Both are read, both are turned.",
            {"readings": _rows(0, 180)},
            (TOGETHER, WORTH, STORED),
            (
                "Level it as for work; leave the screws alone from now on.",
                "Note both figures and the bubble. Turn by half a turn, wait, note all three again.",
            ),
        ),
    ),
    required_conditions=RequiredConditions(minutes_on=True, support=True, wind=True),
    why="Two figures under ten seconds both ways may be an index of nine: turned, index and tilt come apart.",
    quick=("half-turn", 2),
    order=30,
    kept=(ACROSS,),
    as_left_inputs=(ALONG, f"sigma_{ALONG}", ACROSS, f"sigma_{ACROSS}"),
    invalidates=("two-face",),
    applies=has_electronic_level,
)
