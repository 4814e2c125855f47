"""What a level reaches on a kilometre double run, by a field procedure after ISO 17123-2, simplified and full."""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import MAIN, PAIRS, LevellingAccuracy, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, grow

Data = dict[str, Any]
BASE = Group(
    "observations",
    "The base",
    ("base_m",),
    "60 m unless told otherwise, stable marks, near level, one ground all along.",
)
PERMITTED = Group("observations", "What the task permits", ("permitted_mm",))


def _pairs(index: int | str, title: str, count: int, note: str) -> Group:
    titles = tuple(f"Pair {one}" for one in range(1, count + 1))
    return Group(f"observations.sets[{index}].pairs", title, row_titles=titles, note=note)


GENERAL = (Group("observations", "The test"), _pairs("*", "Pairs", 24, ""))


def _begin(procedure: str) -> Data:
    rows: list[Data] = [{} for _ in range(PAIRS[procedure])]
    return {"procedure": procedure, "sets": [{"pairs": rows}, {"pairs": rows}]}


AFRESH = "Before each pair: lift the level, set it afresh, another height."

TURNED = "After half of them the order is turned: B first, then A. The figures stay in their columns."

KIND = Kind(
    document=LevellingAccuracy,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Levelling accuracy",
    applies_to=("level", "digital-level"),
    minutes=60,
    interval_days=365,
    bring=("Two staffs of one kind with bipods, on marks that do not move", "A helper or two; a cloudy hour"),
    before_you_start=("A two-peg test first: this is about the scatter, not about the line of sight.",),
    who_adjusts=(),
    when_bad=(
        ("real", "Is it real?", "Another day, other weather: one good level in twenty shows it once."),
        ("keep", "Keep what was found", "Save as found."),
        ("adjust", "Nothing to turn", "Scatter is not adjusted: found worse twice, it goes to service."),
        ("without", "Or do without it", "Use it for work that allows what was found."),
        ("look-back", "What was done with it since", "Lines closed in the meantime say how it really went."),
    ),
    watch_condition="For work that allows what was found.",
    main_quantity=MAIN,
    quantity_label="a kilometre double run",
    unit="mm/km",
    methods=(
        Method(
            "simplified",
            "Simplified: ten pairs from the middle, ten from near one staff",
            "An hour: the scatter, and a coarse look at the line of sight.",
            _begin("simplified"),
            (
                BASE,
                _pairs(0, "From the middle, 30 m each way", 10, AFRESH),
                _pairs(1, "10 m from A, 50 m from B", 10, TURNED),
                PERMITTED,
            ),
            (AFRESH, TURNED),
        ),
        Method(
            "full",
            "Full: twenty pairs, staffs exchanged, twenty pairs",
            "Half a day: what it reaches, told against what is stated and against the last time.",
            _begin("full"),
            (
                BASE,
                _pairs(0, "First twenty, from the middle", 20, AFRESH),
                _pairs(1, "Staffs exchanged, twenty more", 20, TURNED),
            ),
            (AFRESH, TURNED, "Exchange the staffs after the first twenty."),
        ),
    ),
    required_conditions=RequiredConditions(support=True),
    why="What a level reaches in your hands, told honestly: not shown worse than stated, or shown so.",
    blocks_release=False,
    scheduled=False,
    allows_repeat=False,
    order=80,
)
