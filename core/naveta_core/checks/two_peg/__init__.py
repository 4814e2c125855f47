"""The two-peg test: does a level's line of sight stay level?

Source: the classical two-peg test, any layout, as one least-squares problem (see solve.py).
"""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import MOST_SETUPS, QUANTITY, TwoPeg, read_document, where
from .judge import CAUTIONS, draw, judge, reticle_to_target
from .text import grow

Data = dict[str, Any]
SETUP = "observations.setups[*]"
GENERAL = (
    Group("observations.looks", "The two looks", before=True),
    Group(f"{SETUP}.a", "To A", ("distance",)),
    Group(f"{SETUP}.a.readings", "Staff on A", instead="wires", instead_title="Three wires", struck="struck"),
    Group(f"{SETUP}.b", "To B", ("distance",)),
    Group(f"{SETUP}.b.readings", "Staff on B", instead="wires", instead_title="Three wires", struck="struck"),
    Group("observations", "Calculation", ("curvature",), setting=True),
)
Pairs = tuple[tuple[int, int], ...]


def _begin(pairs: Pairs) -> Data:
    """Set-ups with the distances people usually take; two empty ones without any."""
    told: list[dict[str, Data]] = [{"a": {"distance": str(a)}, "b": {"distance": str(b)}} for a, b in pairs]
    return {"setups": [{staff: {**one, "readings": [""]} for staff, one in setup.items()} for setup in told]}


def _layout(name: str, title: str, good_for: str, metres: Pairs, feet: Pairs) -> Method:
    return Method(name, title, good_for, _begin(metres), GENERAL, STEPS, in_feet=_begin(feet))


def from_other_end(observations: Data) -> Data:
    """The same test again from the other end: the same distances with the pegs' parts exchanged, nothing read yet."""
    setups = observations.get("setups", [])
    added = [{"a": _blank(one.get("b", {})), "b": _blank(one.get("a", {}))} for one in setups[-2:]]
    return {**observations, "setups": [*setups, *added][:MOST_SETUPS]}


def _blank(sight: Data) -> Data:
    if sight.get("wires"):
        return {"wires": [{}]}
    return {"distance": sight.get("distance", ""), "readings": [""]}


STEPS = (
    "Staffs on both pegs, held plumb. Level it; read A, then B, in the first set-up.",
    "Move the level, level it afresh, read A and B again.",
)
METHODS = (
    _layout(
        "middle-then-near",
        "Middle, then close to one peg",
        "Strong and quick: the far sight shows nearly the whole error, the near one almost none.",
        ((30, 30), (56, 4)),
        ((100, 100), (188, 12)),
    ),
    _layout(
        "middle-then-three-quarter",
        "Middle, then a quarter from one peg",
        "Where the level cannot focus close; wants more readings for the same proof.",
        ((30, 30), (45, 15)),
        ((100, 100), (150, 50)),
    ),
    _layout(
        "middle-then-beyond",
        "Middle, then beyond one peg",
        "Both staffs in one direction: no turning about between the two readings.",
        ((30, 30), (64, 4)),
        ((100, 100), (212, 12)),
    ),
    _layout(
        "thirds-inside",
        "Both inside, at the thirds",
        "Symmetrical: refraction and focusing act alike in both set-ups.",
        ((20, 40), (40, 20)),
        ((66, 132), (132, 66)),
    ),
    _layout(
        "outside-both",
        "Beyond one peg, then beyond the other",
        "The strongest difference of sights for pegs close together.",
        ((4, 64), (64, 4)),
        ((12, 212), (212, 12)),
    ),
    Method(
        "free",
        "As it came",
        "Any two or more set-ups whose differences of sights are not alike; measure both distances each time.",
        {"setups": [{"a": {"readings": [""]}, "b": {"readings": [""]}} for _ in range(2)]},
        GENERAL,
        STEPS,
    ),
)
WHEN_BAD = (
    (
        "real",
        "Is it real?",
        "Run it again from the other end before anything is turned. Both runs count together, never the better one alone.",
    ),
    (
        "keep",
        "Keep what was found",
        "Save as found before the instrument is touched: it is the only proof of what the work since the last good check was done with.",
    ),
    (
        "adjust",
        "Adjust it",
        "Level and tripod untouched, turn the reticle until the far staff reads its target. Then run the test again, as left.",
    ),
    (
        "without",
        "Or do without it",
        "Take another that may be used today, use this one under its condition, or hold it until somebody has seen to it.",
    ),
    (
        "look-back",
        "What was done with it since",
        "Work since the last good check may carry this error. Look at it while it can still be measured again.",
    ),
)

KIND = Kind(
    title="Two-peg test",
    document=TwoPeg,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    adjust=reticle_to_target,
    general=GENERAL,
    applies_to=("level", "digital-level"),
    minutes=15,
    interval_days=30,
    bring=(
        "Level, tripod and two staffs (or one, carried over), with staff levels",
        "Two firm marks 40 to 60 m apart on near level ground: pegs, nails, ground plates",
        "A steel tape, or the stadia wires, for the distances",
    ),
    before_you_start=(
        "Let the level take on the outside temperature: ten minutes out of the case, longer after a warm van.",
        "Turn it once round: does the circular bubble stay in its ring?",
        "Sight a staff and tap the tripod lightly: does the line come back to the same reading?",
    ),
    who_adjusts=("manager", "crew"),
    when_bad=WHEN_BAD,
    watch_condition="Balanced sights only: keep back and fore sight alike.",
    main_quantity=QUANTITY,
    quantity_label="line of sight",
    methods=METHODS,
    required_conditions=RequiredConditions(wind=True),
    why="A line of sight that points up or down puts a slope into every run whose sights differ.",
    quick=("middle-then-near", 10),
    order=50,
    repeat_label="Run it again from the other end",
    repeat=from_other_end,
)
