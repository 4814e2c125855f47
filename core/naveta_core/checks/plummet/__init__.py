"""An optical or laser plummet against the standing axis.

mark(θ) = axis + Rot(θ)·o: what stays where the marks turn about is the axis, what turns with the instrument is the
plummet's own offset. Half the flip is the error; the other half is that the axis was not over the mark.
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import QUANTITY, Plummet, read_document, where
from .judge import CAUTIONS, grow, judge, needs, on_to_axis
from .text import draw

Data = dict[str, Any]


def _marks(index: int | str, title: str) -> Group:
    note = "On a sheet with millimetres: right and away from you, from any corner, the sheet not moved."
    return Group(f"observations.sets[{index}].marks", title, note=note)


def _height(index: int | str, title: str = "The stand") -> Group:
    return Group(f"observations.sets[{index}]", title)


def _at(*headings: int) -> Data:
    return {"marks": [{"heading_deg": str(one)} for one in headings]}


HELD = Group(
    "observations.sets[0].marks",
    "Where it points, from the proved point",
    ("x_mm", "y_mm"),
    more="Read it once more",
)
GENERAL = (_height("*"), _marks("*", "Where it points"), Group("observations", "The plummet"))
TURN_STEPS = (
    "Tripod tall, feet trodden in, instrument level. A sheet with millimetres under it, held down.",
    "Mark where it points.",
    "Foot screws untouched: turn the instrument, mark again.",
)

TURNS = (("plummet_place", ("turning",)),)


def has_plummet(instrument: Data) -> bool:
    return instrument.get("plummet") in ("optical", "laser")


KIND = Kind(
    document=Plummet,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Plummet",
    adjust=on_to_axis,
    applies_to=("theodolite", "total-station", "robotic-total-station", "tribrach"),
    minutes=8,
    interval_days=90,
    bring=(
        "A tripod that goes tall, or a pillar",
        "A sheet with millimetres, a sharp pencil, something to hold it down",
        "The instrument's own pin, if you may adjust",
    ),
    before_you_start=(
        "Level first, by what was proved. Focus until nothing moves when your eye does.",
        "From the first mark to the last no foot screw is touched: a turn of one falsifies the circle.",
    ),
    who_adjusts=("manager",),
    when_bad=(
        ("real", "Is it real?", "A fresh sheet, turned once more. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found before a screw is touched."),
        (
            "adjust",
            "Adjust it",
            "Half the flip, one pair of screws at a time, on to the axis. Then four fresh marks, as left.",
        ),
        (
            "without",
            "Or do without it",
            "Centre each point at two headings half a turn apart and take the middle; one that sits in the base does not turn with it: centre with a bob.",
        ),
        (
            "look-back",
            "What was done with it since",
            "Points occupied since the last good check may stand beside their marks by so much, short sights first.",
        ),
    ),
    watch_condition="Centre at two headings half a turn apart and take the middle; one that sits in the base does not turn: centre with a bob.",
    main_quantity=QUANTITY,
    quantity_label="plummet",
    methods=(
        Method(
            "four-quarters",
            "Four marks, a quarter turn each",
            "The whole: four marks prove each other.",
            {"method": "turn", "sets": [_at(0, 90, 180, 270)]},
            (_height(0), _marks(0, "Where it points")),
            (*TURN_STEPS, "Four marks: 0°, 90°, 180°, 270°."),
            ("laser",),
            needs=TURNS,
        ),
        Method(
            "half-turn",
            "Two marks, half a turn",
            "Quick: half the flip is the error.",
            {"method": "turn", "sets": [_at(0, 180)]},
            (_height(0), _marks(0, "Where it points")),
            TURN_STEPS,
            ("laser",),
            needs=TURNS,
        ),
        Method(
            "two-heights",
            "Two heights, two marks each",
            "Tells a plummet that sits aside from one that points askew.",
            {"method": "turn", "sets": [_at(0, 180), _at(0, 180)]},
            (
                _height(0, "The tall stand"),
                _marks(0, "Where it points, tall"),
                _height(1, "The low stand"),
                _marks(1, "Where it points, low"),
            ),
            (*TURN_STEPS, "The same again on a stand half a metre lower or more."),
            ("laser",),
            needs=TURNS,
        ),
        Method(
            "base-thirds",
            "Plummet in the base: three thirds",
            "It does not turn with the instrument: the base is turned by thirds in its tripod, levelled afresh each time.",
            {"method": "thirds", "sets": [_at(0, 120, 240)]},
            (_height(0), _marks(0, "Where it points")),
            (
                "Outline the base on the tripod head with a pencil.",
                "Level, mark.",
                "Turn the base by a third into its outline, level afresh, mark: three times.",
            ),
            needs=(("plummet_place", ("base",)),),
        ),
        Method(
            "bob",
            "Against a bob",
            "For any plummet: the bob's point is the axis, as sure as the bob hangs.",
            {"method": "bob", "sets": [{"marks": [{}]}]},
            (_height(0), HELD),
            ("Hang the bob, mark its point, take it away.", "How far from that mark does the plummet point?"),
            ("bob", "laser"),
        ),
        Method(
            "proven",
            "Against a proved plummet",
            "Both over the same mark on the same base.",
            {"method": "proven", "sets": [{"marks": [{}]}]},
            (_height(0), HELD),
            (
                "Centre with the proved one.",
                "Change instruments on the base. How far from the mark does this one point?",
            ),
            ("hold", "base-lock"),
        ),
    ),
    required_conditions=RequiredConditions(wind=True, support=True),
    why="A plummet that is out centres every point beside its mark, by the same amount each time, and closes all the same.",
    quick=("half-turn", 2),
    order=40,
    unit="mm",
    kept=("offset_x_mm", "offset_y_mm", "told_at_m"),
    applies=has_plummet,
)
