"""A staff against a steel tape: is its zero at its foot, are its divisions true, do its sections meet.

The tape's zero lies at the foot plate. error = graduation − taped length; a straight line through the errors gives the
zero offset and the scale, what lies off the line is a division or a joint.
"""

from __future__ import annotations

from typing import Any

from ...engine.adjusting import by_hand
from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import SCALE, ZERO, Staff, read_document, where
from .judge import CAUTIONS, grow, judge
from .text import draw

Data = dict[str, Any]
LOOKS = Group("observations", "First a look", ("foot_firm", "joints_firm"))
SECTIONS = Group(
    "observations.sections",
    "Graduation and tape",
    note="Zero of the tape at the foot plate, the tape along the face, read at the edge of the graduation.",
)
GENERAL = (LOOKS, SECTIONS)


def _sections(*marks: str) -> list[Data]:
    return [{"mark": one} for one in marks]


KIND = Kind(
    document=Staff,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    general=GENERAL,
    title="Staff against a tape",
    adjust=by_hand,
    applies_to=("staff",),
    minutes=10,
    interval_days=365,
    bring=("A steel tape that was compared itself", "A flat place to lay the staff, in the shade", "A thermometer"),
    before_you_start=("Sections out as for work, each clicked home.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Lay the tape afresh and read once more. Both count together."),
        ("keep", "Keep what was found", "Save as found."),
        (
            "adjust",
            "Mend what a look found",
            "A loose foot plate or a dirty joint is mended by hand; then measure again, as left. Divisions are not.",
        ),
        (
            "without",
            "Or do without it",
            "One staff alone for both sights bears a wrong zero; wrong divisions bear no heights.",
        ),
        ("look-back", "What was done with it since", "Runs with two staffs, and runs with much rise, carry its error."),
    ),
    watch_condition="Alone, for both sights, on flat ground.",
    main_quantity=ZERO,
    quantity_label="zero at the foot",
    methods=(
        Method(
            "three-metre",
            "Along three metres",
            "Seven marks: zero, divisions and joints.",
            {"sections": _sections("0.1", "0.5", "1", "1.5", "2", "2.5", "3")},
            (LOOKS, SECTIONS),
            (
                "Lay the staff flat, tape along its face, zero at the foot plate, light tension.",
                "Read the tape at each graduation.",
            ),
        ),
        Method(
            "five-metre",
            "Along five metres",
            "For long sectional staffs: each joint has a mark below and above.",
            {"sections": _sections("0.1", "1", "2", "3", "4", "5")},
            (LOOKS, SECTIONS),
            (
                "Lay the staff flat, all sections out and clicked home, tape along its face, zero at the foot plate.",
                "Read the tape at each graduation.",
            ),
        ),
        Method(
            "ten-feet",
            "Along ten feet",
            "The same for a staff in feet; type in feet.",
            {"sections": _sections("0.5", "2", "4", "6", "8", "10")},
            (LOOKS, SECTIONS),
            ("Lay the staff flat, tape along its face, zero at the foot plate.", "Read the tape at each graduation."),
            unit="ft",
        ),
    ),
    required_conditions=RequiredConditions(temperature=True),
    why="A worn foot or a loose joint is in every height read with it, and closes all the same.",
    order=70,
    unit="mm",
    kept=(SCALE,),
)
