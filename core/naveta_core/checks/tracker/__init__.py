"""Does the tracker point where the telescope does: the same prism by eye and by the tracker, both faces."""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.stored import group as stored_group
from ..sheet.stored import storing
from ..sheet.table import Regrouped, Table
from .model import KEPT, Tracker
from .reckon import CAUTIONS, HZ, V, drawn, judge, needs, read_document, so_far, where
from .simulate import simulate

Data = dict[str, Any]
CIRCLES = (Field("hz", "Horizontal", kind="angle"), Field("v", "Zenith angle", kind="angle"))
PRISM = Group("observations.targets[0]", "The prism", (Field("distance_m", "Distance", "m", optional=True),))
STORED = stored_group(KEPT)
NAMES = {"manual": "by eye", "auto": "by the tracker"}


def _list(how: str, face: str) -> Group:
    return Group(
        f"observations.targets[0].{how}.{face}",
        f"Face {face}, {NAMES[how]}",
        CIRCLES,
        rows=True,
        most=20,
        more="One more pointing",
        rounds=True,
    )


def _target(count: int) -> Data:
    rows: list[Data] = [{} for _ in range(count)]
    return {"manual": {"left": rows, "right": rows}, "auto": {"left": rows, "right": rows}}


GROUPS = (
    PRISM,
    _list("manual", "left"),
    _list("auto", "left"),
    _list("auto", "right"),
    _list("manual", "right"),
    STORED,
)
STEPS = (
    "A clean prism about 100 m away, level, turned to you, on a bipod.",
    "Face left: by eye, then by the tracker. Turn over. Face right: by the tracker, then by eye.",
)


def gather(flat: Data) -> Data:
    """Rows `target, how, face, hz, v` as prisms; how is `manual` or `auto`."""
    targets: dict[int, Data] = {}
    for one in flat.pop("pointings", []):
        prism = targets.setdefault(one.pop("target", 1), {})
        how, face = str(one.pop("how", "manual")).lower(), str(one.pop("face", "left")).lower()
        if "distance_m" in one:
            prism["distance_m"] = one["distance_m"]
        kept = {name: one[name] for name in ("hz", "v", "round") if name in one}
        prism.setdefault(how, {}).setdefault(face, []).append(kept)
    return {**flat, "targets": [targets[number] for number in sorted(targets)]}


def spread_out(plain: Data) -> Data:
    rows: list[Data] = []
    for i, target in enumerate(plain.pop("targets", []), start=1):
        told = {"distance_m": target["distance_m"]} if target.get("distance_m") else {}
        for how in NAMES:
            for face in ("left", "right"):
                for one in target.get(how, {}).get(face, []):
                    rows.append({"target": i, **told, "how": how, "face": face, **one})
                    told = {}
    return {**plain, "pointings": rows}


RECIPE = Recipe(
    "tracker",
    read_document,
    judge,
    so_far,
    drawn,
    CAUTIONS,
    where,
    needs,
    ((("dual-axis-level",), "The electronic level"), (("two-face",), "Two faces")),
)
TABLE = Regrouped(
    Table("tracker", ("before_hz_arcsec", "before_v_arcsec", "corrections_on"), "pointings", ("target", "distance_m", "how", "face", "hz", "v", "round"), ("target", "round"), angles=True),
    gather, spread_out,
)  # fmt: skip
KIND = kind_of_rows(
    RECIPE,
    Tracker,
    TABLE,
    title="Tracker",
    acting=storing(KEPT),
    applies_to=("robotic-total-station",),
    minutes=10,
    interval_days=30,
    bring=("A clean prism on a bipod, about 100 m away over grass", "Somebody who turns it to you"),
    before_you_start=("Electronic level first, then two faces: what they are out by is in this.", "A cool or cloudy hour: shimmer spoils it. Never towards the sun."),
    who_adjusts=("manager", "crew"),
    when_bad=(
        ("real", "Is it real?", "Once more, three pointings a face. Both count together, never the better one alone."),
        ("keep", "Keep what was found", "Save as found, with the stored values, before anything is written over."),
        ("adjust", "Store it", "By the instrument's own tracker calibration, the old values noted first; then a second round, as left."),
        ("without", "Or do without it", "Point by eye, or track in both faces and take the mean."),
        ("look-back", "What was done with it since", "Points tracked in one face since the last good check carry it."),
    ),
    watch_condition="By eye, or in both faces.",
    main_quantity=HZ,
    quantity_label="tracker across",
    simulate=simulate,
    ways=(
        Way("three", "Three pointings a face", "The whole: a few seconds show.", {"targets": [_target(3)]}, GROUPS, STEPS, ("sun", "turns-by-itself")),
        Way("quick", "One pointing a face", "Quick: shows a tracker that is visibly off.", {"targets": [_target(1)]}, GROUPS, STEPS, ("sun", "turns-by-itself")),
    ),
    asks=Asks(minutes_on=True, support=True),
    why="A tracker that is out puts every tracked point beside the prism by the same angle, and one face never shows it.",
    gates=False,
    order=47,
    kept=(V, f"sigma_{V}"),
    carries=(HZ, f"sigma_{HZ}", V, f"sigma_{V}"),
)  # fmt: skip
