"""What a level reaches on 1 km of double-run levelling, by a field procedure after ISO 17123-2, simplified and full."""

from __future__ import annotations

from typing import Any

from ...engine.check_off import LEVEL_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import MAIN, PAIRS, LevellingAccuracy, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, progress_of

Data = dict[str, Any]
BASE = Group(
    "observations",
    "Test line",
    ("base_m",),
    "60 m unless entered otherwise; stable marks, nearly level, uniform ground.",
)
PERMITTED = Group("observations", "Permitted for the task", ("permitted_mm",))


def _pairs(index: int | str, title: str, count: int, note: str) -> Group:
    titles = tuple(f"Pair {number}" for number in range(1, count + 1))
    return Group(
        f"observations.sets[{index}].pairs", title, row_titles=titles, note=note, page="" if index == "*" else title
    )


GENERAL = (Group("observations", "The test"), _pairs("*", "Pairs", 24, ""))


def _begin(procedure: str) -> Data:
    rows: list[Data] = [{} for _ in range(PAIRS[procedure])]
    return {"procedure": procedure, "sets": [{"pairs": rows}, {"pairs": rows}]}


SET_UP_AGAIN = "Before each pair: lift the level and set it up again at another height."

TURNED = "After half of them reverse the order: B first, then A. The readings stay in their columns."

KIND = Kind(
    document=LevellingAccuracy,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Levelling accuracy (full test)",
    applies_to=("level", "digital-level"),
    minutes=60,
    interval_days=365,
    bring=("Two staffs of the same type with bipods, on marks that do not move", "One or two helpers; cloudy weather"),
    before_you_start=("Do a two-peg test first: this test is about scatter, not about collimation.",),
    who_adjusts=(),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Repeat it on another day, in other weather: one good level in twenty fails once by chance.",
        ),
        ("keep", "Save as found", "Save as found."),
        ("adjust", "No field adjustment", "Scatter cannot be adjusted: if it is worse twice, send it to service."),
        ("without", "Use another instrument", "Use it where the standard deviation found is good enough."),
        ("impact-review", "Review affected work", "Level lines closed in the meantime show the effect."),
    ),
    watch_condition="Where the standard deviation found is good enough.",
    limited=(
        LimitedQuantity("levelling_sigma_mm_per_km", "Standard deviation, 1 km of double-run levelling", "mm/km"),
    ),
    main_quantity=MAIN,
    quantity_label="1 km of double-run levelling",
    unit="mm/km",
    methods=(
        Method(
            "simplified",
            "Simplified: ten pairs from the middle, ten near one staff",
            "One hour: the scatter, and a coarse check of collimation.",
            observations=_begin("simplified"),
            groups=(
                BASE,
                _pairs(0, "From the middle, 30 m each way", 10, SET_UP_AGAIN),
                _pairs(1, "10 m from A, 50 m from B", 10, TURNED),
                PERMITTED,
            ),
            steps=(SET_UP_AGAIN, TURNED),
        ),
        Method(
            "full",
            "Full: twenty pairs, staffs exchanged, twenty pairs",
            "Half a day: compared with the stated accuracy and with the last full test.",
            observations=_begin("full"),
            groups=(
                BASE,
                _pairs(0, "First twenty, from the middle", 20, SET_UP_AGAIN),
                _pairs(1, "Staffs exchanged, twenty more", 20, TURNED),
            ),
            steps=(SET_UP_AGAIN, TURNED, "Exchange the staffs after the first twenty."),
        ),
    ),
    conditions=("support", "temperature_c", *THROUGH_AIR, "staff_held", "distances_by"),
    check_off=LEVEL_SIGHTS,
    why="Shows the accuracy you reach with it: either not shown worse than stated, or shown worse.",
    blocks_release=False,
    scheduled=False,
    allows_repeat=False,
    order=80,
)
