"""The two-peg test: does a level's line of sight stay level?

Source: the classical two-peg test, any layout, as one least-squares problem (see solve.py).
"""

from __future__ import annotations

from typing import Any

from ...engine.affected import unequal_sights
from ...engine.at_best import Faultless
from ...engine.check_off import LEVEL_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import MAX_SETUPS, QUANTITY, TwoPeg, read_document, where
from .judge import CAUTIONS, draw, judge, needs, reticle_to_target
from .text import progress_of

Data = dict[str, Any]
SETUP = "observations.setups[*]"
GENERAL = (
    Group("observations.looks", "Quick checks first", before=True),
    Group(f"{SETUP}.a", "To A", ("distance",)),
    Group(f"{SETUP}.a.readings", "Staff on A", instead="wires", instead_title="Three hairs", struck="struck"),
    Group(f"{SETUP}.b", "To B", ("distance",)),
    Group(f"{SETUP}.b.readings", "Staff on B", instead="wires", instead_title="Three hairs", struck="struck"),
    Group("observations", "Calculation", ("curvature",), setting=True),
)
Pairs = tuple[tuple[int, int], ...]


def _begin(pairs: Pairs) -> Data:
    """Set-ups with the distances people usually take; two empty ones without any."""
    rows: list[dict[str, Data]] = [{"a": {"distance": str(a)}, "b": {"distance": str(b)}} for a, b in pairs]
    return {"setups": [{staff: {**entry, "readings": [""]} for staff, entry in setup.items()} for setup in rows]}


def _layout(name: str, title: str, good_for: str, metres: Pairs, feet: Pairs) -> Method:
    return Method(name, title, good_for, observations=_begin(metres), groups=GENERAL, steps=STEPS, in_feet=_begin(feet))


def from_other_end(observations: Data) -> Data:
    """The same test again from the other end: the same distances with the pegs' parts exchanged, nothing read yet."""
    setups = observations.get("setups", [])
    added = [{"a": _blank(setup.get("b", {})), "b": _blank(setup.get("a", {}))} for setup in setups[-2:]]
    return {**observations, "setups": [*setups, *added][:MAX_SETUPS]}


def _blank(sight: Data) -> Data:
    if sight.get("wires"):
        return {"wires": [{}]}
    return {"distance": sight.get("distance", ""), "readings": [""]}


STEPS = (
    "Staffs plumb on both pegs. Level the instrument; read A, then B, in the first set-up.",
    "Move to the second set-up, level again, read A and B again.",
)
METHODS = (
    _layout(
        "middle-then-near",
        "Middle, then close to one peg",
        "Sensitive and quick: the far sight shows nearly the whole error, the near sight almost none.",
        ((30, 30), (56, 4)),
        ((100, 100), (188, 12)),
    ),
    _layout(
        "middle-then-three-quarter",
        "Middle, then at a quarter of the distance",
        "If the level cannot focus close; needs more readings for the same certainty.",
        ((30, 30), (45, 15)),
        ((100, 100), (150, 50)),
    ),
    _layout(
        "middle-then-beyond",
        "Middle, then beyond one peg",
        "Both staffs in one direction: no turning between the two readings.",
        ((30, 30), (64, 4)),
        ((100, 100), (212, 12)),
    ),
    _layout(
        "thirds-inside",
        "Both set-ups inside, at one third",
        "Symmetrical: refraction and focusing have the same effect in both set-ups.",
        ((20, 40), (40, 20)),
        ((66, 132), (132, 66)),
    ),
    _layout(
        "outside-both",
        "Beyond one peg, then beyond the other",
        "Largest sight imbalance for pegs close together.",
        ((4, 64), (64, 4)),
        ((12, 212), (212, 12)),
    ),
    Method(
        "free",
        "Free layout",
        "Two or more set-ups with different sight imbalance; measure both distances each time.",
        observations={"setups": [{"a": {"readings": [""]}, "b": {"readings": [""]}} for _ in range(2)]},
        groups=GENERAL,
        steps=STEPS,
    ),
)
WHEN_BAD = (
    (
        "real",
        "Confirm it",
        "Run it again from the other end before you turn anything. Both runs count together; the better one never counts alone.",
    ),
    (
        "keep",
        "Save as found",
        "Save as found before you touch the instrument: it is the only evidence of the error in work since the last good check.",
    ),
    (
        "adjust",
        "Adjust it",
        "Do not move level or tripod. Turn the reticle until the far staff reads its target. Then test again, as left.",
    ),
    (
        "without",
        "Use another instrument",
        "Use another level that is ready, use this one under its condition, or put it on hold.",
    ),
    (
        "impact-review",
        "Review affected work",
        "Work since the last good check may contain this error. Review it while it can still be measured again.",
    ),
)

KIND = Kind(
    title="Two-peg test",
    document=TwoPeg,
    where=where,
    read=read_document,
    bad_looks={"sticking": "a sticking compensator"},
    faultless=Faultless((("setups.*.readings.*", "1.0000"),)),
    judge=judge,
    needs=needs,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    adjust=reticle_to_target,
    general=GENERAL,
    applies_to=("level", "digital-level"),
    minutes=15,
    layout="two firm points 40 to 60 m apart, with staffs",
    layout_minutes=5,
    interval_days=30,
    due_after=("control-jump",),
    bring=(
        "Level, tripod and two staffs (or one, carried over), with staff levels",
        "Two firm points 40 to 60 m apart on nearly level ground: pegs, nails or ground plates",
        "A steel tape, or the stadia hairs, for the distances",
    ),
    before_you_start=(
        "Let the level adapt to the outside temperature: ten minutes out of its case, longer from a warm van.",
        "Turn the level through a full circle: does the circular bubble stay in its ring?",
        "Sight a staff and tap the tripod lightly: does the line return to the same reading?",
    ),
    who_adjusts=("manager", "crew"),
    affects=unequal_sights("collimation_arcsec"),
    when_bad=WHEN_BAD,
    watch_condition="Balanced sights only: backsight and foresight equal.",
    limited=(LimitedQuantity("collimation_arcsec", "Line of sight", "arcsec"),),
    main_quantity=QUANTITY,
    quantity_label="line of sight",
    methods=METHODS,
    conditions=("wind", "temperature_c", *THROUGH_AIR, "staff_held", "distances_by", "triggered"),
    check_off=LEVEL_SIGHTS,
    why="A line of sight that is not level gives a height error wherever backsight and foresight differ.",
    quick=("middle-then-near", 10),
    order=50,
    repeat_label="Run it again from the other end",
    repeat=from_other_end,
)
