"""A tripod: clamps, hinges and shoes looked at, and how far its head turns under a hand and springs back.

The instrument on it sights a scale held level across the sight. The hand turns the head lightly one way, lets go, then
the other: what the reading moves under the hand is the twist, what it does not come back by is what angles suffer.
"""

from __future__ import annotations

from typing import Any

from ...engine.adjusting import by_hand
from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from .document import LOOKS, SET, Tripod, read_document, where
from .judge import CAUTIONS, grow, judge, needs
from .text import draw

Data = dict[str, Any]
LOOK = Group("observations", "First a look", tuple(name for name, *_ in LOOKS))
AT = Group("observations", "The scale", ("distance",))
ROUNDS = Group(
    "observations.rounds",
    "Under a hand",
    row_titles=("clockwise", "anticlockwise", "clockwise", "anticlockwise"),
    note="Turn the head with two fingers, lightly, as one leans on it by mistake; the telescope stays clamped.",
)
GENERAL = (LOOK, AT, ROUNDS)
KIND = Kind(
    document=Tripod,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Tripod",
    adjust=by_hand,
    applies_to=("tripod",),
    minutes=8,
    interval_days=180,
    bring=(
        "An instrument that is fit for use, to look through",
        "A scale with millimetres held level at 15 to 25 m: a staff on its side",
        "The tripod's own key",
    ),
    before_you_start=("Feet trodden in on firm ground, legs as for work.",),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Tread the feet in afresh and take it once more. Both count together."),
        ("keep", "Keep what was found", "Save as found."),
        ("adjust", "Mend it", "Clamps, hinges and shoes with the tripod's own key. Then run it again, as left."),
        ("without", "Or do without it", "For a level it may do where it does not for angles."),
        ("look-back", "What was done with it since", "Angles that would not close, and closing looks that did not."),
    ),
    watch_condition="For levels only; hands off while reading.",
    main_quantity=SET,
    quantity_label="springing back",
    methods=(
        Method(
            "four-rounds",
            "Four rounds",
            "Twice each way: what springs back and what does not.",
            {"rounds": [{}, {}, {}, {}]},
            (LOOK, AT, ROUNDS),
            (
                "Sight the scale, clamp everything.",
                "Read it. Turn the head lightly with two fingers, read, let go, read.",
                "Then the other way; twice each.",
            ),
        ),
    ),
    required_conditions=RequiredConditions(wind=True, temperature=False),
    why="A head that turns under a hand and stays there is in every angle after it, and the instrument gets the blame.",
    order=75,
)
