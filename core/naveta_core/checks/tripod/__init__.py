"""A tripod: clamps, hinges and shoes looked at, and how far its head turns under a hand and springs back.

The instrument on it sights a scale held level across the sight. The hand turns the head lightly one way, lets go, then
the other: what the reading moves under the hand is the twist, what it does not come back by is what angles suffer.
"""

from __future__ import annotations

from ...engine.adjusting import by_hand
from ...engine.affected import each_direction
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from .document import LOOKS, SET, Tripod, read_document, where
from .judge import CAUTIONS, judge, needs, progress_of
from .text import draw

LOOK = Group("observations", "Quick checks first", tuple(name for name, *_ in LOOKS))
AT = Group("observations", "The scale", ("distance",))
ROUNDS = Group(
    "observations.rounds",
    "Turned by hand",
    row_titles=("clockwise", "anticlockwise", "clockwise", "anticlockwise"),
    note="Turn the head lightly with two fingers, as a hand resting on it would. Keep the telescope clamped.",
)
GENERAL = (LOOK, AT, ROUNDS)
KIND = Kind(
    document=Tripod,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    bad_looks={
        "clamps-slip": "a clamp that slips",
        "hinges-loose": "a hinge with play",
        "shoes-loose": "a loose or blunt shoe",
    },
    title="Tripod",
    adjust=by_hand,
    applies_to=("tripod",),
    minutes=8,
    interval_days=182,
    bring=(
        "An instrument in good order to sight with",
        "A millimetre scale held level 15 to 25 m away: a staff on its side",
        "The tripod's own key",
    ),
    before_you_start=("Feet pressed in on firm ground, legs spread as for work.",),
    who_adjusts=("manager", "crew"),
    affects=each_direction("set_arcsec"),
    when_bad=(
        ("real", "Confirm it", "Press the feet in again and repeat the check. Both runs count together."),
        ("keep", "Save as found", "Save as found."),
        ("adjust", "Repair it", "Tighten clamps, hinges and shoes with the tripod key. Then check again, as left."),
        ("without", "Use another instrument", "It may still be good enough for levelling."),
        (
            "impact-review",
            "Review affected work",
            "Review angles that did not close and closing sights that did not agree.",
        ),
    ),
    watch_condition="For levelling only; hands off while reading.",
    limited=(
        LimitedQuantity("set_arcsec", "Residual twist", "arcsec"),
        LimitedQuantity("twist_arcsec", "Twist under load", "arcsec"),
    ),
    main_quantity=SET,
    quantity_label="residual twist",
    methods=(
        Method(
            "four-rounds",
            "Four load cycles",
            "Twice in each direction: elastic twist and residual twist.",
            observations={"rounds": [{}, {}, {}, {}]},
            groups=(LOOK, AT, ROUNDS),
            steps=(
                "Sight the scale, clamp everything.",
                "Read the scale. Turn the head lightly with two fingers, read, let go, read.",
                "Then in the other direction; twice each.",
            ),
        ),
    ),
    conditions=("wind",),
    why="A tripod head that stays turned after a touch adds error to every angle measured afterwards.",
    order=75,
)
