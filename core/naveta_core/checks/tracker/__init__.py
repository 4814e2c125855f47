"""Does the tracker point where the telescope does: the same prism by eye and by the tracker, both faces."""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ...engine.storing import stored_group, storing
from .document import HZ, KEPT, Tracker, V, read_document, where
from .judge import CAUTIONS, grow, judge, needs
from .text import draw

Data = dict[str, Any]


def _list(how: str, face: str) -> Group:
    called = "by eye" if how == "manual" else "by the tracker"
    return Group(f"observations.targets[0].{how}.{face}", f"Face {face}, {called}")


def _target(count: int) -> Data:
    rows: list[Data] = [{} for _ in range(count)]
    return {"manual": {"left": rows, "right": rows}, "auto": {"left": rows, "right": rows}}


GENERAL = (
    Group("observations.targets[0]", "The prism", ("distance_m",)),
    _list("manual", "left"),
    _list("auto", "left"),
    _list("auto", "right"),
    _list("manual", "right"),
    stored_group(KEPT),
)
STEPS = (
    "A clean prism about 100 m away, level, turned to you, on a bipod.",
    "Face left: by eye, then by the tracker. Turn over. Face right: by the tracker, then by eye.",
)

KIND = Kind(
    document=Tracker,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    prerequisites=((("dual-axis-level",), "The electronic level"), (("two-face",), "Two faces")),
    title="Tracker",
    adjust=storing(KEPT),
    applies_to=("robotic-total-station",),
    minutes=10,
    interval_days=30,
    bring=("A clean prism on a bipod, about 100 m away over grass", "Somebody who turns it to you"),
    before_you_start=(
        "Electronic level first, then two faces: what they are out by is in this.",
        "A cool or cloudy hour: shimmer spoils it. Never towards the sun.",
    ),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Once more, three pointings a face. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found, with the stored values, before anything is written over."),
        (
            "adjust",
            "Store it",
            "By the instrument's own tracker calibration, the old values noted first; then a second round, as left.",
        ),
        ("without", "Or do without it", "Point by eye, or track in both faces and take the mean."),
        ("look-back", "What was done with it since", "Points tracked in one face since the last good check carry it."),
    ),
    watch_condition="By eye, or in both faces.",
    main_quantity=HZ,
    quantity_label="tracker across",
    methods=(
        Method(
            "three",
            "Three pointings a face",
            "The whole: a few seconds show.",
            {"targets": [_target(3)]},
            GENERAL,
            STEPS,
            ("sun", "turns-by-itself"),
        ),
        Method(
            "quick",
            "One pointing a face",
            "Quick: shows a tracker that is visibly off.",
            {"targets": [_target(1)]},
            GENERAL,
            STEPS,
            ("sun", "turns-by-itself"),
        ),
    ),
    required_conditions=RequiredConditions(minutes_on=True, support=True),
    why="A tracker that is out puts every tracked point beside the prism by the same angle, and one face never shows it.",
    blocks_release=False,
    order=47,
    kept=(V, f"sigma_{V}"),
    as_left_inputs=(HZ, f"sigma_{HZ}", V, f"sigma_{V}"),
)
