"""Rounds of directions to several marks in both faces, told from a reference."""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ..two_face import plunges
from .document import COLLIMATION, DirectionRounds, read_document, where
from .judge import CAUTIONS, grow, judge, needs
from .text import draw

Data = dict[str, Any]
REFERENCE = "The first mark is the reference: it comes again at the end of face left, and first and last in face right."


def _round(index: int | str) -> Group:
    title = f"Round {index + 1}" if isinstance(index, int) else "Pointings"
    return Group(f"observations.rounds[{index}].pointings", title, note="" if index else REFERENCE)


def _begin(marks: int, rounds: int) -> Data:
    names = [str(k + 1) for k in range(marks)]
    order = [*names, names[0]]
    pointings = [{"target": one, "face": "left"} for one in order] + [
        {"target": one, "face": "right"} for one in order[::-1]
    ]
    return {"rounds": [{"pointings": pointings} for _ in range(rounds)]}


STEPS = (
    "Reference: the clearest mark, and the farthest. Point, last motion always in the same sense; read.",
    "Face left, clockwise, round to the reference again. Turn over. Face right, back the other way.",
    "Turn the circle between the rounds: by 90° for two, 60° for three, 45° for four.",
)

GENERAL = (_round("*"),)


def _method(name: str, title: str, good_for: str, marks: int, rounds: int) -> Method:
    groups = tuple(_round(i) for i in range(rounds))
    return Method(name, title, good_for, _begin(marks, rounds), groups, STEPS, ("sun",))


KIND = Kind(
    document=DirectionRounds,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    prerequisites=((("two-face",), "Two faces"),),
    title="Rounds of directions",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=20,
    interval_days=365,
    bring=("Sharp marks all round, about as far as those of the work", "A firm stand, in the shade"),
    before_you_start=(
        "Electronic level or plate bubble first. Focus until nothing moves when your eye does.",
        "Never towards the sun: look where it stands before you turn.",
    ),
    who_adjusts=(),
    when_bad=(
        ("real", "Is it real?", "One more round, the circle turned. All count together."),
        ("keep", "Keep what was found", "Save as found: directions in both faces are free of c all the same."),
        ("adjust", "Two faces first", "What is stored comes from two faces, five pointings a face, not from rounds."),
        ("without", "Or do without it", "Go on in both faces: the mean is free of c."),
        (
            "look-back",
            "What was done with it since",
            "Work in one face since the last good check carries c; work in both does not.",
        ),
    ),
    watch_condition="In both faces only.",
    main_quantity=COLLIMATION,
    quantity_label="sighting error c, by rounds",
    methods=(
        _method("two", "Two rounds, three marks", "The usual: directions, how sure they are, c at every mark.", 3, 2),
        _method("four", "Four rounds, three marks", "For a figure that has to be sure.", 3, 4),
        _method("angle", "One angle, two rounds", "Two marks only.", 2, 2),
    ),
    required_conditions=RequiredConditions(minutes_on=True, support=True),
    why="Directions for a figure, and on the way a look at c at every mark: it should be the same at all of them.",
    blocks_release=False,
    scheduled=False,
    order=48,
    applies=plunges,
)
