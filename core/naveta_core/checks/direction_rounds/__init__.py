"""Rounds of directions to several targets in both faces, given from a reference."""

from __future__ import annotations

from typing import Any

from ...engine.affected import one_face
from ...engine.check_off import ANGLE_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ..two_face import plunges
from .document import COLLIMATION, DirectionRounds, read_document, where
from .judge import CAUTIONS, judge, needs, progress_of
from .text import draw

Data = dict[str, Any]
REFERENCE = (
    "The first target is the reference: sight it again at the end of face left, and first and last in face right."
)


def _round(index: int | str) -> Group:
    title = f"Set {index + 1}" if isinstance(index, int) else "Pointings"
    return Group(
        f"observations.rounds[{index}].pointings",
        title,
        note="" if index else REFERENCE,
        page="" if index == "*" else title,
    )


def _begin(targets: int, rounds: int) -> Data:
    names = [str(k + 1) for k in range(targets)]
    order = [*names, names[0]]
    pointings = [{"target": entry, "face": "left"} for entry in order] + [
        {"target": entry, "face": "right"} for entry in order[::-1]
    ]
    return {"rounds": [{"pointings": pointings} for _ in range(rounds)]}


STEPS = (
    "Reference: the clearest and farthest target. Point, always finishing the motion in the same direction; read.",
    "Face left, clockwise, back to the reference. Turn over. Face right, anticlockwise.",
    "Turn the circle between sets: by 90° for two sets, 60° for three, 45° for four.",
)

GENERAL = (_round("*"),)


def _method(name: str, title: str, good_for: str, targets: int, rounds: int) -> Method:
    groups = tuple(_round(i) for i in range(rounds))
    return Method(
        name, title, good_for, observations=_begin(targets, rounds), groups=groups, steps=STEPS, caution=("sun",)
    )


KIND = Kind(
    document=DirectionRounds,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    prerequisites=((("two-face",), "Two-face check"),),
    title="Rounds of directions",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=20,
    set_up_minutes=3,
    interval_days=365,
    bring=("Sharp targets all round, about as far away as in your work", "A firm set-up, in the shade"),
    before_you_start=(
        "Do the electronic or plate level check first. Remove parallax: focus until nothing moves when you move your eye.",
        "Never sight towards the sun: see where it is before you turn.",
    ),
    who_adjusts=(),
    affects=one_face("collimation_arcsec", ""),
    when_bad=(
        ("real", "Confirm it", "One more set with the circle turned. All sets count together."),
        ("keep", "Save as found", "Save as found: directions in both faces are free of c anyway."),
        (
            "adjust",
            "Two-face check first",
            "Store only from a two-face check with five pointings a face, not from rounds.",
        ),
        ("without", "Use another instrument", "Observe in both faces: the mean is free of c."),
        (
            "impact-review",
            "Review affected work",
            "Work in one face since the last good check contains c; work in both faces does not.",
        ),
    ),
    watch_condition="Both faces only.",
    limited=(LimitedQuantity("collimation_arcsec", "Collimation error c, from rounds", "arcsec"),),
    main_quantity=COLLIMATION,
    quantity_label="collimation error c, from rounds",
    methods=(
        _method("two", "Two sets, three targets", "Standard: directions, their accuracy, and c at every target.", 3, 2),
        _method("four", "Four sets, three targets", "For higher accuracy.", 3, 4),
        _method("angle", "One angle, two sets", "Two targets only.", 2, 2),
    ),
    conditions=("minutes_on", "support", "temperature_c", *THROUGH_AIR),
    check_off=ANGLE_SIGHTS,
    why="Directions for your work, and c at every target at the same time: it should be the same at all of them.",
    blocks_release=False,
    scheduled=False,
    order=48,
    applies=plunges,
)
