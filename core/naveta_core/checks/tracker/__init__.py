"""Does the tracker point where the telescope does: the same prism by eye and by tracker, both faces."""

from __future__ import annotations

from typing import Any

from ...engine.affected import one_face
from ...engine.check_off import ANGLE_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ...engine.storing import stored_group, storing
from ..two_face.document import FAULTLESS_FACES
from .document import HZ, STORED_FIGURES, Tracker, V, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw

Data = dict[str, Any]


def _list(how: str, face: str) -> Group:
    called = "by eye" if how == "manual" else "by tracker"
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
    stored_group(STORED_FIGURES),
)
STEPS = (
    "A clean prism about 100 m away, level, facing you, on a bipod.",
    "Face left: by eye, then by tracker. Turn over. Face right: by tracker, then by eye.",
)

KIND = Kind(
    document=Tracker,
    where=where,
    read=read_document,
    faultless=FAULTLESS_FACES,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    needs=needs,
    general=GENERAL,
    prerequisites=((("dual-axis-level",), "The electronic level"), (("two-face",), "Two-face check")),
    title="Target tracker check",
    adjust=storing(STORED_FIGURES),
    applies_to=("robotic-total-station",),
    minutes=10,
    layout="a level and a steep target",
    layout_minutes=3,
    set_up_minutes=3,
    interval_days=30,
    due_after=("tracker-off",),
    bring=("A clean prism on a bipod, about 100 m away over grass", "A helper to turn the prism towards you"),
    before_you_start=(
        "Do the electronic level check first, then the two-face check: their errors enter here.",
        "A cool or cloudy hour: shimmer spoils it. Never sight towards the sun.",
    ),
    who_adjusts=("manager", "crew"),
    affects=one_face("tracker_hz_arcsec", "tracker_v_arcsec"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Repeat it with three pointings a face. Both runs count together; the better one never counts alone.",
        ),
        ("keep", "Save as found", "Save as found, with the stored values, before they are overwritten."),
        (
            "adjust",
            "Store new values",
            "Note the old values, run the instrument's tracker calibration, then check again, as left.",
        ),
        ("without", "Use another instrument", "Point by eye, or track in both faces and take the mean."),
        ("impact-review", "Review affected work", "Points tracked in one face since the last good check contain it."),
    ),
    watch_condition="By eye, or in both faces.",
    limited=(
        LimitedQuantity("tracker_hz_arcsec", "Tracker, horizontal", "arcsec"),
        LimitedQuantity("tracker_v_arcsec", "Tracker, vertical", "arcsec"),
    ),
    main_quantity=HZ,
    quantity_label="tracker, horizontal",
    methods=(
        Method(
            "three",
            "Three pointings a face",
            "Full: shows a few seconds.",
            observations={"targets": [_target(3)]},
            groups=GENERAL,
            steps=STEPS,
            caution=("sun", "turns-by-itself"),
        ),
        Method(
            "quick",
            "One pointing a face",
            "Quick: shows a large tracker error only.",
            observations={"targets": [_target(1)]},
            groups=GENERAL,
            steps=STEPS,
            caution=("sun", "turns-by-itself"),
        ),
    ),
    conditions=("minutes_on", "support", "temperature_c", *THROUGH_AIR, "prism", "regained"),
    check_off=ANGLE_SIGHTS,
    why="A tracker error shifts every tracked point by the same angle, and one face alone never shows it.",
    blocks_release=False,
    order=47,
    carried=(V, f"sigma_{V}"),
    as_left_inputs=(HZ, f"sigma_{HZ}", V, f"sigma_{V}"),
)
