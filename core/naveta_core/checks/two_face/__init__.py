"""The line of sight and the circles in both faces: sighting error c, vertical index i, tilting axis t.

c > 0: in face left the line of sight lies left of the perpendicular to the tilting axis; t > 0: in face left the axis's
right-hand end is high; i: both zenith readings too large. See solve.py for the equations.
"""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Option, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.stored import group as stored_group
from ..sheet.stored import storing
from ..sheet.table import Regrouped, Table
from .growing import so_far
from .model import COLLIMATION, INDEX, KEPT, TwoFace
from .read import read_document, where
from .reckon import CAUTIONS, drawn, judge, needs
from .simulate import simulate

Data = dict[str, Any]
MARKS = (
    Option("plate", "Target plate"),
    Option("sticker", "Sticker"),
    Option("prism", "Prism, by eye"),
    Option("edge", "Edge, spire"),
)
CIRCLES = (Field("hz", "Horizontal", kind="angle"), Field("v", "Zenith angle", kind="angle"))


def _mark(index: int, title: str) -> Group:
    return Group(
        f"observations.targets[{index}]",
        title,
        (
            Field("distance_m", "Distance", "m", optional=True),
            Field("mark", "What is sighted", kind="choice", options=MARKS, optional=True),
        ),
    )


def _face(index: int, face: str, title: str) -> Group:
    return Group(
        f"observations.targets[{index}].{face}",
        title,
        CIRCLES,
        rows=True,
        most=20,
        more="One more pointing",
        rounds=True,
    )


STORED = stored_group(KEPT)
CLOSING = Group("observations.closing", "Closing look at the first mark, face left", CIRCLES, rows=True, most=10, more="One more pointing", rounds=True,
                note="Without it a move between the faces hides in c and i.")  # fmt: skip


def _rows(count: int) -> list[Data]:
    return [{} for _ in range(count)]


def _target(pointings: int) -> Data:
    return {"left": _rows(pointings), "right": _rows(pointings)}


ORDER = (
    "Point, last motion always in the same sense; read; point afresh.",
    "First mark face left, second mark face left; turn over; second mark face right, first mark face right.",
    "The closing look: first mark, face left.",
)


def gather(flat: Data) -> Data:
    """Rows `target, face, hz, v` as marks; face `closing` is the closing look."""
    targets: dict[int, Data] = {}
    closing: list[Data] = []
    for one in flat.pop("pointings", []):
        number, face = one.pop("target", 1), str(one.pop("face", "left")).lower()
        kept = {name: one[name] for name in ("hz", "v", "round") if name in one}
        if face == "closing":
            closing.append(kept)
            continue
        mark = targets.setdefault(number, {})
        mark.update({name: one[name] for name in ("name", "distance_m", "mark") if name in one})
        mark.setdefault(face, []).append(kept)
    listed = [targets[number] for number in sorted(targets)]
    return {**flat, "targets": listed, **({"closing": closing} if closing else {})}


def spread_out(plain: Data) -> Data:
    rows = []
    for i, target in enumerate(plain.pop("targets", []), start=1):
        told = {name: target[name] for name in ("name", "distance_m", "mark") if target.get(name)}
        for face in ("left", "right"):
            for j, one in enumerate(target.get(face, [])):
                rows.append({"target": i, **(told if j == 0 and face == "left" else {}), "face": face, **one})
    rows += [{"target": 1, "face": "closing", **one} for one in plain.pop("closing", [])]
    return {**plain, "pointings": rows}


RECIPE = Recipe(
    "two-face",
    read_document,
    judge,
    so_far,
    drawn,
    CAUTIONS,
    where,
    needs,
    ((("dual-axis-level", "plate-vial"), "The electronic level or plate bubble"),),
)
TABLE = Regrouped(
    Table(
        "two-face",
        (*(one.field for one in KEPT), "corrections_on"),
        "pointings",
        ("target", "name", "distance_m", "mark", "face", "hz", "v", "round"),
        ("target", "round"),
        angles=True,
    ),
    gather,
    spread_out,
)


def plunges(instrument: Data) -> bool:
    return instrument.get("plunges") is not False


KIND = kind_of_rows(
    RECIPE,
    TwoFace,
    TABLE,
    title="Two faces",
    acting=storing(KEPT),
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=12,
    interval_days=30,
    bring=("The instrument on a firm stand, in the shade", "A sharp mark about 100 m away, level; for the tilting axis a second one 15° or more higher"),
    before_you_start=("Electronic level or plate bubble first. Focus until nothing moves when your eye does.", "Never towards the sun: look where it stands before you turn over."),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "The full test, five pointings a face. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found, with the stored values, before anything is written over."),
        ("adjust", "Store it", "By the instrument's own routine, the old values noted first; then a second round, as left."),
        ("without", "Or do without it", "Measure in both faces and take the mean: it is free of c and i."),
        ("look-back", "What was done with it since", "Work in one face since the last good check carries it; work in both faces does not."),
    ),
    watch_condition="In both faces only.",
    main_quantity=COLLIMATION,
    quantity_label="sighting error c",
    simulate=simulate,
    ways=(
        Way("quick", "Quick: one mark, once in each face", "Two minutes: shows a slip of a minute, not a few seconds.", {"targets": [_target(1)]},
            (_mark(0, "The mark"), _face(0, "left", "Face left"), _face(0, "right", "Face right"), STORED), ORDER[:1], ("sun",)),
        Way("five", "One level mark, five pointings a face", "c and i to a few seconds; the tilting axis not.", {"targets": [_target(5)], "closing": _rows(2)},
            (_mark(0, "The mark"), _face(0, "left", "Face left"), _face(0, "right", "Face right"), CLOSING, STORED), ORDER[:1], ("sun",)),
        Way("full", "Full: a level and a steep mark, five pointings a face", "c, i and the tilting axis.", {"targets": [_target(5), _target(5)], "closing": _rows(2)},
            (_mark(0, "First mark, level"), _face(0, "left", "First mark, face left"), _mark(1, "Second mark, steep"), _face(1, "left", "Second mark, face left"),
             _face(1, "right", "Second mark, face right"), _face(0, "right", "First mark, face right"), CLOSING, STORED), ORDER, ("sun",)),
    ),
    asks=Asks(minutes_on=True, support=True),
    why="Whoever measures in one face carries c and i in every reading; nothing in the closure of a figure shows it.",
    quick=("quick", 2),
    order=45,
    kept=(INDEX, f"sigma_{INDEX}"),
    carries=tuple(name for one in KEPT for name in (one.name, f"sigma_{one.name}")),
    fits=plunges,
)  # fmt: skip
