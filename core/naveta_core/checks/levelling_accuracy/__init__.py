"""What a level reaches on a kilometre double run, by a field procedure after ISO 17123-2, simplified and full."""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.table import Regrouped, Table
from .model import PAIRS, LevellingAccuracy
from .reckon import CAUTIONS, MAIN, drawn, judge, needs, read_document, so_far, where
from .simulate import simulate

Data = dict[str, Any]
BASE = Group("observations", "The base", (Field("base_m", "Distance between the staffs", "m", optional=True),),
             note="60 m unless told otherwise, stable marks, near level, one ground all along.")  # fmt: skip
PERMITTED = Group("observations", "What the task permits", (Field("permitted_mm", "Difference between the two sets", "mm", optional=True),))  # fmt: skip


def _pairs(index: int, title: str, count: int, note: str) -> Group:
    fields = (Field("a", "Staff A", kind="length"), Field("b", "Staff B", kind="length"))
    titles = tuple(f"Pair {one}" for one in range(1, count + 1))
    return Group(f"observations.sets[{index}].pairs", title, fields, rows=True, row_titles=titles, most=24, note=note)


def _begin(procedure: str) -> Data:
    rows: list[Data] = [{} for _ in range(PAIRS[procedure])]
    return {"procedure": procedure, "sets": [{"pairs": rows}, {"pairs": rows}]}


def gather(flat: Data) -> Data:
    """Rows `set, a, b` as sets."""
    sets: dict[int, list[Data]] = {}
    for one in flat.pop("pairs", []):
        sets.setdefault(one.pop("set", 1), []).append(one)
    return {**flat, "sets": [{"pairs": sets[name]} for name in sorted(sets)]}


def spread_out(plain: Data) -> Data:
    rows = [{"set": i, **pair} for i, one in enumerate(plain.pop("sets", []), start=1) for pair in one.get("pairs", [])]
    return {**plain, "pairs": rows}


AFRESH = "Before each pair: lift the level, set it afresh, another height."
TURNED = "After half of them the order is turned: B first, then A. The figures stay in their columns."
RECIPE = Recipe("levelling-accuracy", read_document, judge, so_far, drawn, CAUTIONS, where, needs)
TABLE = Regrouped(
    Table("levelling-accuracy", ("procedure", "base_m", "permitted_mm"), "pairs", ("set", "a", "b"), ("set",)),
    gather,
    spread_out,
)
KIND = kind_of_rows(
    RECIPE,
    LevellingAccuracy,
    TABLE,
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
    simulate=simulate,
    unit="mm/km",
    ways=(
        Way("simplified", "Simplified: ten pairs from the middle, ten from near one staff", "An hour: the scatter, and a coarse look at the line of sight.", _begin("simplified"),
            (BASE, _pairs(0, "From the middle, 30 m each way", 10, AFRESH), _pairs(1, "10 m from A, 50 m from B", 10, TURNED), PERMITTED), (AFRESH, TURNED)),
        Way("full", "Full: twenty pairs, staffs exchanged, twenty pairs", "Half a day: what it reaches, told against what is stated and against the last time.", _begin("full"),
            (BASE, _pairs(0, "First twenty, from the middle", 20, AFRESH), _pairs(1, "Staffs exchanged, twenty more", 20, TURNED)), (AFRESH, TURNED, "Exchange the staffs after the first twenty.")),
    ),
    asks=Asks(support=True),
    why="What a level reaches in your hands, told honestly: not shown worse than stated, or shown so.",
    gates=False,
    scheduled=False,
    joins=False,
    order=80,
)  # fmt: skip
