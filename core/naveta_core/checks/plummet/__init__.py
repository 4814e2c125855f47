"""An optical or laser plummet against the standing axis.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.
"""

from __future__ import annotations

from typing import Any

from ...documents.envelope import Instrument
from ...engine.affected import off_the_mark
from ...engine.at_best import Faultless
from ...engine.check_off import PACKED
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import QUANTITY, Plummet, read_document, where
from .judge import CAUTIONS, judge, needs, on_to_axis, own_condition, progress_of
from .text import draw

Data = dict[str, Any]


def _marks(index: int | str, title: str) -> Group:
    note = "On millimetre paper: right and away from you, from any corner. Do not move the paper."
    return Group(f"observations.sets[{index}].marks", title, note=note)


def _height(index: int | str, title: str = "Set-up") -> Group:
    return Group(f"observations.sets[{index}]", title)


def _at(*headings: int) -> Data:
    return {"marks": [{"heading_deg": str(heading)} for heading in headings]}


HELD = Group(
    "observations.sets[0].marks",
    "Where it points, from the reference point",
    ("x_mm", "y_mm"),
    more="Repeat the reading",
)
GENERAL = (_height("*"), _marks("*", "Where it points"), Group("observations", "The plummet"))
TURN_STEPS = (
    "Tripod at full height, feet pressed in, instrument levelled. Millimetre paper fixed under it.",
    "Mark where it points.",
    "Do not touch the foot screws: turn the instrument, mark again.",
)

TURNS = (("plummet_place", ("turning",)),)


def has_plummet(instrument: Instrument) -> bool:
    """Return whether the instrument may have a plummet: unless its model states *none*."""
    return instrument.plummet != "none"


KIND = Kind(
    document=Plummet,
    where=where,
    read=read_document,
    faultless=Faultless(
        (("sets.*.marks.*.x_mm", "0.0"), ("sets.*.marks.*.y_mm", "0.0")), (("sets.*.height_m", "1.5"),)
    ),
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Plummet",
    adjust=on_to_axis,
    applies_to=("theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=8,
    set_up_minutes=2,
    interval_days=182,
    due_after=("control-jump",),
    bring=(
        "A tall tripod, or a pillar",
        "Millimetre paper, a sharp pencil, something to hold the paper down",
        "The instrument's own adjusting pin, if you are allowed to adjust",
    ),
    before_you_start=(
        "Level first, with a checked level. Remove parallax: focus until nothing moves when you move your eye.",
        "Do not touch a foot screw between the first mark and the last: it would spoil the circle.",
    ),
    who_adjusts=("manager",),
    affects=off_the_mark("offset_mm", "at_height_m"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Use a new sheet and repeat the turn. Both runs count together; the better one never counts alone.",
        ),
        ("keep", "Save as found", "Save as found before you touch a screw."),
        (
            "adjust",
            "Adjust it",
            "Move it half the shift, on to the axis, one pair of screws at a time. Then four new marks, as left.",
        ),
        (
            "without",
            "Use another instrument",
            "Or centre at two headings 180° apart and take the middle; where the plummet is in the tribrach, by a plumb bob.",
        ),
        (
            "impact-review",
            "Review affected work",
            "Set-ups since the last good check may be off their marks by this much. Review short sights first.",
        ),
    ),
    watch_condition="Centre at two headings 180° apart and take the middle, or by a plumb bob.",
    own_condition=own_condition,
    limited=(LimitedQuantity("offset_mm", "Plummet offset", "mm"),),
    main_quantity=QUANTITY,
    quantity_label="plummet",
    methods=(
        Method(
            "four-quarters",
            "Four marks, 90° apart",
            "Full: four marks check each other.",
            observations={"method": "turn", "sets": [_at(0, 90, 180, 270)]},
            groups=(_height(0), _marks(0, "Where it points")),
            steps=(*TURN_STEPS, "Four marks: 0°, 90°, 180°, 270°."),
            caution=("laser",),
            needs=TURNS,
        ),
        Method(
            "half-turn",
            "Two marks, 180° apart",
            "Quick: half the shift is the error.",
            observations={"method": "turn", "sets": [_at(0, 180)]},
            groups=(_height(0), _marks(0, "Where it points")),
            steps=TURN_STEPS,
            caution=("laser",),
            needs=TURNS,
        ),
        Method(
            "two-heights",
            "Two heights, two marks each",
            "Separates a sideways offset from a tilted plummet line.",
            observations={"method": "turn", "sets": [_at(0, 180), _at(0, 180)]},
            groups=(
                _height(0, "Tall set-up"),
                _marks(0, "Where it points, tall"),
                _height(1, "Low set-up"),
                _marks(1, "Where it points, low"),
            ),
            steps=(*TURN_STEPS, "Repeat with the tripod at least 0.5 m lower."),
            caution=("laser",),
            needs=TURNS,
        ),
        Method(
            "tribrach-thirds",
            "Plummet in the tribrach: three positions, 120° apart",
            "It does not turn with the instrument: turn the tribrach by 120° on the tripod head and level again each time.",
            observations={"method": "thirds", "sets": [_at(0, 120, 240)]},
            groups=(_height(0), _marks(0, "Where it points")),
            steps=(
                "Draw the outline of the tribrach on the tripod head with a pencil.",
                "Level, mark.",
                "Turn the tribrach by 120° into its outline, level again, mark: three times.",
            ),
            caution=("laser",),
            needs=(("plummet_place", ("tribrach",)),),
        ),
        Method(
            "bob",
            "Against a plumb bob",
            "For any plummet: the point of the bob marks the axis, if it hangs still.",
            observations={"method": "bob", "sets": [{"marks": [{}]}]},
            groups=(_height(0), HELD),
            steps=("Hang the bob, mark its point, remove the bob.", "How far from that mark does the plummet point?"),
            caution=("bob", "laser"),
        ),
        Method(
            "proven",
            "Against a checked plummet",
            "Both over the same mark on the same tribrach.",
            observations={"method": "proven", "sets": [{"marks": [{}]}]},
            groups=(_height(0), HELD),
            steps=(
                "Centre with the checked one.",
                "Change instruments on the tribrach. How far from the mark does this one point?",
            ),
            caution=("laser", "hold", "tribrach-lock"),
        ),
    ),
    conditions=("support", "wind", "temperature_c"),
    check_off=PACKED,
    why="A plummet that is out puts every set-up off its mark, and closures do not show it.",
    quick=("half-turn", 2),
    order=40,
    unit="mm",
    carried=("offset_x_mm", "offset_y_mm", "at_height_m"),
    applies=has_plummet,
)
