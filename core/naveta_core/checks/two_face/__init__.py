"""The line of sight and the circles in both faces: sighting error c, vertical index i, tilting axis t.

c > 0: in face left the line of sight lies left of the perpendicular to the tilting axis; t > 0: in face left the axis's
right-hand end is high; i: both zenith readings too large. See solve.py for the equations.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ...engine.storing import stored_group, storing
from .document import COLLIMATION, INDEX, KEPT, TwoFace, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, grow

Data = dict[str, Any]


def _target_group(index: int | str, title: str) -> Group:
    return Group(f"observations.targets[{index}]", title, ("distance_m", "mark"))


def _face(index: int | str, face: str, title: str) -> Group:
    return Group(f"observations.targets[{index}].{face}", title)


STORED = stored_group(KEPT)
CLOSING = Group(
    "observations.closing",
    "Closing look at the first mark, face left",
    note="Without it a move between the faces hides in c and i.",
)
GENERAL = (
    _target_group("*", "The mark"),
    _face("*", "left", "Face left"),
    _face("*", "right", "Face right"),
    CLOSING,
    STORED,
)


def _rows(count: int) -> list[Data]:
    return [{} for _ in range(count)]


def _target(pointings: int) -> Data:
    return {"left": _rows(pointings), "right": _rows(pointings)}


ORDER = (
    "Point, last motion always in the same sense; read; point afresh.",
    "First mark face left, second mark face left; turn over; second mark face right, first mark face right.",
    "The closing look: first mark, face left.",
)


def plunges(instrument: Data) -> bool:
    return instrument.get("plunges") is not False


KIND = Kind(
    document=TwoFace,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    prerequisites=((("dual-axis-level", "plate-vial"), "The electronic level or plate bubble"),),
    title="Two faces",
    adjust=storing(KEPT),
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=12,
    interval_days=30,
    bring=(
        "The instrument on a firm stand, in the shade",
        "A sharp mark about 100 m away, level; for the tilting axis a second one 15° or more higher",
    ),
    before_you_start=(
        "Electronic level or plate bubble first. Focus until nothing moves when your eye does.",
        "Never towards the sun: look where it stands before you turn over.",
    ),
    who_adjusts=("manager", "crew"),
    when_bad=(
        (
            "real",
            "Is it real?",
            "The full test, five pointings a face. Both count together, never the better one alone.",
        ),
        ("keep", "Keep what was found", "Save as found, with the stored values, before anything is written over."),
        (
            "adjust",
            "Store it",
            "By the instrument's own routine, the old values noted first; then a second round, as left.",
        ),
        ("without", "Or do without it", "Measure in both faces and take the mean: it is free of c and i."),
        (
            "look-back",
            "What was done with it since",
            "Work in one face since the last good check carries it; work in both faces does not.",
        ),
    ),
    watch_condition="In both faces only.",
    main_quantity=COLLIMATION,
    quantity_label="sighting error c",
    methods=(
        Method(
            "quick",
            "Quick: one mark, once in each face",
            "Two minutes: shows a slip of a minute, not a few seconds.",
            {"targets": [_target(1)]},
            (_target_group(0, "The mark"), _face(0, "left", "Face left"), _face(0, "right", "Face right"), STORED),
            ORDER[:1],
            ("sun",),
        ),
        Method(
            "five",
            "One level mark, five pointings a face",
            "c and i to a few seconds; the tilting axis not.",
            {"targets": [_target(5)], "closing": _rows(2)},
            (
                _target_group(0, "The mark"),
                _face(0, "left", "Face left"),
                _face(0, "right", "Face right"),
                CLOSING,
                STORED,
            ),
            ORDER[:1],
            ("sun",),
        ),
        Method(
            "full",
            "Full: a level and a steep mark, five pointings a face",
            "c, i and the tilting axis.",
            {"targets": [_target(5), _target(5)], "closing": _rows(2)},
            (
                _target_group(0, "First mark, level"),
                _face(0, "left", "First mark, face left"),
                _target_group(1, "Second mark, steep"),
                _face(1, "left", "Second mark, face left"),
                _face(1, "right", "Second mark, face right"),
                _face(0, "right", "First mark, face right"),
                CLOSING,
                STORED,
            ),
            ORDER,
            ("sun",),
        ),
    ),
    required_conditions=RequiredConditions(minutes_on=True, support=True),
    why="Whoever measures in one face carries c and i in every reading; nothing in the closure of a figure shows it.",
    quick=("quick", 2),
    order=45,
    kept=(INDEX, f"sigma_{INDEX}"),
    as_left_inputs=tuple(name for one in KEPT for name in (one.name, f"sigma_{one.name}")),
    applies=plunges,
)
