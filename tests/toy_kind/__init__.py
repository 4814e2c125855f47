"""A kind of check that no product has: five files, to prove that five files are all a kind needs."""

from __future__ import annotations

from naveta_core.engine.form import Group, Method
from naveta_core.engine.kind import Kind

from .document import QUANTITY, HandLevel, read_document, where
from .judge import judge
from .text import draw

SIGHTS = Group("observations.sights", "On the wall")

KIND = Kind(
    title="Hand level against a wall",
    document=HandLevel,
    where=where,
    read=read_document,
    judge=judge,
    draw=draw,
    general=(SIGHTS,),
    applies_to=("level",),
    minutes=5,
    interval_days=90,
    bring=("A pencil",),
    before_you_start=("Mark the wall at eye height.",),
    who_adjusts=("manager", "crew"),
    when_bad=(("real", "Confirm it", "Repeat the reading."), ("keep", "Save as found", "Save as found.")),
    caution_codes={"before": ("sun",), "reading": ("sun",), "adjusting": ("sun",)},
    watch_condition="Short sights only.",
    main_quantity=QUANTITY,
    quantity_label="slope",
    methods=(
        Method(
            "two-sights",
            "Two sights",
            "Quick.",
            observations={"sights": [{}, {}]},
            groups=(SIGHTS,),
            steps=("Hold it, turn it over, hold it.",),
        ),
    ),
    why="A hand level that slopes puts its slope into every rough height.",
    unit="mm",
    order=90,
)
