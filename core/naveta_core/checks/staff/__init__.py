"""A staff against a steel tape: is its zero at its foot, are its divisions true, do its sections meet.

The tape's zero lies at the foot plate. error = graduation − taped length; a straight line through the errors gives the
zero offset and the scale, what lies off the line is a division or a joint.
"""

from __future__ import annotations

from typing import Any

from ...engine.adjusting import by_hand
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import SCALE, ZERO, Staff, read_document, where
from .judge import CAUTIONS, judge, progress_of
from .text import draw

Data = dict[str, Any]
LOOKS = Group("observations", "Quick checks first", ("foot_firm", "joints_firm"))
SECTIONS = Group(
    "observations.sections",
    "Graduation and tape",
    note="Tape zero of the foot plate plate, tape along the face; read at the edge of the graduation.",
)
GENERAL = (LOOKS, SECTIONS)


def _sections(*graduations: str) -> list[Data]:
    return [{"graduation": graduation} for graduation in graduations]


KIND = Kind(
    document=Staff,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    general=GENERAL,
    bad_looks={"foot-loose": "a loose foot plate", "joints-loose": "a joint with play"},
    title="Staff check",
    adjust=by_hand,
    applies_to=("staff",),
    minutes=10,
    interval_days=365,
    bring=("A steel tape that has been compared itself", "A flat, shaded place to lay the staff", "A thermometer"),
    before_you_start=("Sections extended as for work, each locked.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Confirm it", "Lay the tape again and read once more. Both runs count together."),
        ("keep", "Save as found", "Save as found."),
        (
            "adjust",
            "Repair what you found",
            "Repair a loose foot plate or a dirty joint by hand; then measure again, as left. Graduations cannot be repaired.",
        ),
        (
            "without",
            "Use another instrument",
            "A wrong zero cancels if one staff is used for both sights; wrong graduations do not cancel.",
        ),
        (
            "impact-review",
            "Review affected work",
            "Lines levelled with two staffs, and lines with large height differences, contain its error.",
        ),
    ),
    watch_condition="As the only staff, for both sights, on flat ground.",
    limited=(
        LimitedQuantity("zero_offset_mm", "Zero of the foot plate", "mm"),
        LimitedQuantity("scale_ppm", "Scale", "ppm"),
        LimitedQuantity("largest_step_mm", "Largest residual", "mm"),
    ),
    main_quantity=ZERO,
    quantity_label="zero of the foot plate",
    methods=(
        Method(
            "three-metre",
            "Three metres",
            "Seven graduations: zero, scale and joints.",
            observations={"sections": _sections("0.1", "0.5", "1", "1.5", "2", "2.5", "3")},
            groups=(LOOKS, SECTIONS),
            steps=(
                "Lay the staff flat, tape along its face, zero of the foot plate plate, light tension.",
                "Read the tape at each graduation.",
            ),
        ),
        Method(
            "five-metre",
            "Five metres",
            "For long sectional staffs: one graduation below and above each joint.",
            observations={"sections": _sections("0.1", "1", "2", "3", "4", "5")},
            groups=(LOOKS, SECTIONS),
            steps=(
                "Lay the staff flat, all sections out and clicked home, tape along its face, zero of the foot plate plate.",
                "Read the tape at each graduation.",
            ),
        ),
        Method(
            "ten-feet",
            "Ten feet",
            "For a staff in feet; type in feet.",
            observations={"sections": _sections("0.5", "2", "4", "6", "8", "10")},
            groups=(LOOKS, SECTIONS),
            steps=(
                "Lay the staff flat, tape along its face, zero of the foot plate plate.",
                "Read the tape at each graduation.",
            ),
            unit="ft",
        ),
    ),
    why="A worn foot or a loose joint is in every height read with it, and closures do not show it.",
    order=70,
    unit="mm",
    carried=(SCALE,),
)
