"""The line of sight and the circles in both faces: collimation error c, vertical index error i, trunnion axis error t.

c > 0: in face left the line of sight lies left of the perpendicular to the trunnion axis; t > 0: in face left the axis's
right-hand end is high; i: both zenith readings too large. See solve.py for the equations.
"""

from __future__ import annotations

from typing import Any

from ...documents.envelope import Instrument
from ...engine.affected import one_face
from ...engine.check_off import ANGLE_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ...engine.storing import stored_group, storing
from .document import AXIS, COLLIMATION, FAULTLESS_FACES, INDEX, STORED_FIGURES, TwoFace, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, progress_of

Data = dict[str, Any]


def _target_group(index: int | str, title: str) -> Group:
    return Group(f"observations.targets[{index}]", title, ("distance_m", "target_type"))


def _face(index: int | str, face: str, title: str) -> Group:
    return Group(f"observations.targets[{index}].{face}", title)


STORED = stored_group(STORED_FIGURES)
CLOSING = Group(
    "observations.closing",
    "Closing sight to the first target, face left",
    note="Without it, movement between the faces is hidden in c and i.",
)
GENERAL = (
    _target_group("*", "The target"),
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
    "Point, always finishing the motion in the same direction; read; point again.",
    "First target face left, second target face left; turn over; second target face right, first target face right.",
    "Closing sight: first target, face left.",
)


def plunges(instrument: Instrument) -> bool:
    """Whether the telescope can be turned over; taken as yes where it is not known."""
    return instrument.plunges is not False


KIND = Kind(
    document=TwoFace,
    where=where,
    read=read_document,
    faultless=FAULTLESS_FACES,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    prerequisites=((("dual-axis-level", "plate-vial"), "The electronic or plate level"),),
    title="Two-face check",
    adjust=storing(STORED_FIGURES),
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=12,
    layout="a level and a steep target",
    layout_minutes=3,
    set_up_minutes=3,
    interval_days=91,
    before_large_jobs=True,
    temperature_step_c=15.0,
    due_after=("temperature-step", "control-jump"),
    bring=(
        "The instrument on a firm set-up, in the shade",
        "A sharp, level target about 100 m away; for the trunnion axis a second one at least 15° higher",
    ),
    before_you_start=(
        "Do the electronic or plate level check first. Remove parallax: focus until nothing moves when you move your eye.",
        "Never sight towards the sun: see where it is before you turn over.",
    ),
    who_adjusts=("manager", "crew"),
    affects=one_face("collimation_arcsec", "index_arcsec", "tilting_axis_arcsec"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Do the full check, five pointings a face. Both runs count together; the better one never counts alone.",
        ),
        ("keep", "Save as found", "Save as found, with the stored values, before they are overwritten."),
        (
            "adjust",
            "Store new values",
            "Note the old values, run the instrument's own routine, then check again, as left.",
        ),
        ("without", "Use another instrument", "Observe in both faces and take the mean: it is free of c and i."),
        (
            "impact-review",
            "Review affected work",
            "Work in one face since the last good check contains it; work in both faces does not.",
        ),
    ),
    watch_condition="Both faces only.",
    limited=(
        LimitedQuantity("collimation_arcsec", "Collimation error c", "arcsec"),
        LimitedQuantity("index_arcsec", "Vertical index error i", "arcsec"),
        LimitedQuantity("tilting_axis_arcsec", "Trunnion axis error t", "arcsec"),
    ),
    main_quantity=COLLIMATION,
    quantity_label="collimation error c",
    methods=(
        Method(
            "quick",
            "Quick: one target, once in each face",
            "Two minutes: shows errors of a minute, not of a few seconds.",
            observations={"targets": [_target(1)]},
            groups=(
                _target_group(0, "The target"),
                _face(0, "left", "Face left"),
                _face(0, "right", "Face right"),
                STORED,
            ),
            steps=ORDER[:1],
            caution=("sun",),
        ),
        Method(
            "five",
            "One level target, five pointings a face",
            "c and i to a few seconds; not the trunnion axis.",
            observations={"targets": [_target(5)], "closing": _rows(2)},
            groups=(
                _target_group(0, "The target"),
                _face(0, "left", "Face left"),
                _face(0, "right", "Face right"),
                CLOSING,
                STORED,
            ),
            steps=ORDER[:1],
            caution=("sun",),
        ),
        Method(
            "full",
            "Full: a level and a steep target, five pointings a face",
            "c, i and the trunnion axis.",
            observations={"targets": [_target(5), _target(5)], "closing": _rows(2)},
            groups=(
                _target_group(0, "First target, level"),
                _face(0, "left", "First target, face left"),
                _target_group(1, "Second target, steep"),
                _face(1, "left", "Second target, face left"),
                _face(1, "right", "Second target, face right"),
                _face(0, "right", "First target, face right"),
                CLOSING,
                STORED,
            ),
            steps=ORDER,
            caution=("sun",),
        ),
    ),
    conditions=("minutes_on", "support", "temperature_c", *THROUGH_AIR, "triggered"),
    check_off=ANGLE_SIGHTS,
    why="In one face, c and i are in every reading, and closures do not show it.",
    quick=("quick", 2),
    order=45,
    carried=(INDEX, f"sigma_{INDEX}", AXIS, f"sigma_{AXIS}"),
    as_left_inputs=tuple(name for one in STORED_FIGURES for name in (one.name, f"sigma_{one.name}")),
    applies=plunges,
)
