"""Rounds of directions to several marks in both faces, told from a reference."""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.table import Regrouped, Table
from ..two_face import plunges
from .model import DirectionRounds
from .read import read_document, where
from .reckon import CAUTIONS, COLLIMATION, drawn, judge, needs, so_far
from .simulate import simulate

Data = dict[str, Any]
FIELDS = (
    Field("target", "Mark", given=True),
    Field("face", "Face", given=True),
    Field("hz", "Horizontal", kind="angle"),
    Field("v", "Zenith angle", kind="angle", optional=True),
)


def _round(index: int) -> Group:
    return Group(f"observations.rounds[{index}].pointings", f"Round {index + 1}", FIELDS, rows=True, most=60, more="One more pointing", rounds=True,
                 note="The first mark is the reference: it comes again at the end of face left, and first and last in face right." if index == 0 else "")  # fmt: skip


def _begin(marks: int, rounds: int) -> Data:
    names = [str(k + 1) for k in range(marks)]
    order = [*names, names[0]]
    pointings = [{"target": one, "face": "left"} for one in order] + [
        {"target": one, "face": "right"} for one in order[::-1]
    ]
    return {"rounds": [{"pointings": pointings} for _ in range(rounds)]}


def _way(name: str, title: str, good_for: str, marks: int, rounds: int) -> Way:
    groups = tuple(_round(i) for i in range(rounds))
    return Way(name, title, good_for, _begin(marks, rounds), groups, STEPS, ("sun",))


def gather(flat: Data) -> Data:
    """Rows `set, target, face, hz, v` as rounds."""
    rounds: dict[int, list[Data]] = {}
    for one in flat.pop("pointings", []):
        if "face" in one:
            one["face"] = str(one["face"]).lower()
        rounds.setdefault(one.pop("set", 1), []).append(one)
    return {**flat, "rounds": [{"pointings": rounds[name]} for name in sorted(rounds)]}


def spread_out(plain: Data) -> Data:
    rows = [
        {"set": i, **sight}
        for i, one in enumerate(plain.pop("rounds", []), start=1)
        for sight in one.get("pointings", [])
    ]
    return {**plain, "pointings": rows}


STEPS = (
    "Reference: the clearest mark, and the farthest. Point, last motion always in the same sense; read.",
    "Face left, clockwise, round to the reference again. Turn over. Face right, back the other way.",
    "Turn the circle between the rounds: by 90° for two, 60° for three, 45° for four.",
)
RECIPE = Recipe(
    "direction-rounds", read_document, judge, so_far, drawn, CAUTIONS, where, needs, ((("two-face",), "Two faces"),)
)
TABLE = Regrouped(
    Table(
        "direction-rounds",
        (),
        "pointings",
        ("set", "target", "face", "hz", "v", "round"),
        ("set", "round"),
        angles=True,
    ),
    gather,
    spread_out,
)
KIND = kind_of_rows(
    RECIPE,
    DirectionRounds,
    TABLE,
    title="Rounds of directions",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=20,
    interval_days=365,
    bring=("Sharp marks all round, about as far as those of the work", "A firm stand, in the shade"),
    before_you_start=("Electronic level or plate bubble first. Focus until nothing moves when your eye does.", "Never towards the sun: look where it stands before you turn."),
    who_adjusts=(),
    when_bad=(
        ("real", "Is it real?", "One more round, the circle turned. All count together."),
        ("keep", "Keep what was found", "Save as found: directions in both faces are free of c all the same."),
        ("adjust", "Two faces first", "What is stored comes from two faces, five pointings a face, not from rounds."),
        ("without", "Or do without it", "Go on in both faces: the mean is free of c."),
        ("look-back", "What was done with it since", "Work in one face since the last good check carries c; work in both does not."),
    ),
    watch_condition="In both faces only.",
    main_quantity=COLLIMATION,
    quantity_label="sighting error c, by rounds",
    simulate=simulate,
    ways=(
        _way("two", "Two rounds, three marks", "The usual: directions, how sure they are, c at every mark.", 3, 2),
        _way("four", "Four rounds, three marks", "For a figure that has to be sure.", 3, 4),
        _way("angle", "One angle, two rounds", "Two marks only.", 2, 2),
    ),
    asks=Asks(minutes_on=True, support=True),
    why="Directions for a figure, and on the way a look at c at every mark: it should be the same at all of them.",
    gates=False,
    scheduled=False,
    order=48,
    fits=plunges,
)  # fmt: skip
