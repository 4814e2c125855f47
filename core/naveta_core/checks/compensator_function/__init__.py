"""Does an automatic level's compensator do its work: a staff read with the bubble run to each side of its ring.

A healthy one gives the same reading whichever way the level leans. What is left fore and aft, or left and right, is
told in seconds, and per minute of lean where that is known. A line that does not return after a tap is sticking.
"""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Option, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.table import Regrouped, Table
from .reckon import (
    CAUTIONS,
    PLACES,
    QUANTITY,
    WORDS,
    CompensatorFunction,
    drawn,
    judge,
    read_document,
    so_far,
    where,
)
from .simulate import simulate

Data = dict[str, Any]
READING = Field("", "Staff", kind="length")


def _group(name: str) -> Group:
    return Group(
        f"observations.positions.{name}",
        f"{WORDS[name].capitalize()}",
        (READING,),
        rows=True,
        most=20,
        more="One more here",
    )


def _way(name: str, title: str, good_for: str, readings: int) -> Way:
    return Way(
        name, title, good_for, {"positions": {place: [""] * readings for place in PLACES}},
        (
            Group("observations", "The staff", (Field("distance", "Distance to the staff", kind="length"), Field("tilt_arcmin", "Bubble run by", "′", optional=True))),
            *(_group(place) for place in PLACES),
            Group("observations", "Tap the tripod lightly", (Field("returns", "Does the line come back to the same reading?", kind="choice", options=(Option("yes", "Yes"), Option("no", "No"))),)),
        ),
        ("Staff at 40 to 50 m, held still on a firm point.", "Read with the bubble in the middle.", "Run it by a foot screw to the ring: towards the staff, away, left, right. Read each.", "Bubble in the middle, tap lightly: does the line come back?"),
    )  # fmt: skip


def gather(flat: Data) -> Data:
    """Rows `position, reading` as lists by position."""
    positions: Data = {name: [] for name in PLACES}
    for one in flat.pop("readings", []):
        positions.setdefault(str(one.get("position", "")).lower(), []).append(one.get("reading", ""))
    return {**flat, "positions": positions}


def spread_out(plain: Data) -> Data:
    rows = [
        {"position": name, "reading": value} for name, values in plain.pop("positions", {}).items() for value in values
    ]
    return {**plain, "readings": rows}


RECIPE = Recipe(
    "compensator-function",
    read_document,
    judge,
    so_far,
    drawn,
    CAUTIONS,
    where,
    leans_on=((("circular-vial",), "The circular bubble"),),
)
TABLE = Regrouped(
    Table("compensator-function", ("distance", "tilt_arcmin", "returns"), "readings", ("position", "reading")),
    gather,
    spread_out,
)
KIND = kind_of_rows(
    RECIPE,
    CompensatorFunction,
    TABLE,
    title="Compensator",
    applies_to=("level", "digital-level"),
    minutes=8,
    interval_days=90,
    bring=("The level on its tripod, feet trodden in", "A staff on a firm point at 40 to 50 m, with its staff level"),
    before_you_start=("Ten minutes out of the case.", "The circular bubble proved first: its ring is the measure."),
    who_adjusts=(),
    when_bad=(
        (
            "real",
            "Is it real?",
            "The level not moved: once more at every place. Moved or on another day: a check of its own.",
        ),
        ("keep", "Keep what was found", "Save as found: it is the only proof of what the work was done with."),
        (
            "adjust",
            "Nothing to turn",
            "A compensator is never adjusted in the field. Hold it and send it to service with this finding.",
        ),
        (
            "without",
            "Do without it",
            "Take another. Or use this one with the bubble in the inner quarter of its ring, brought in from the same side, sights balanced.",
        ),
        (
            "look-back",
            "What was done with it since",
            "Runs with balanced sights and a careful bubble carry little of it; look at the others.",
        ),
    ),
    watch_condition="Bubble in the inner quarter of its ring, sights balanced.",
    main_quantity=QUANTITY,
    quantity_label="compensator",
    simulate=simulate,
    ways=(
        _way("five", "Five readings a position", "The whole: shifts of a few seconds show.", 5),
        _way("two", "Two readings a position", "Quick: shows a compensator that is badly out, proves less.", 2),
    ),
    asks=Asks(wind=False),
    why="A compensator levels the line for you. One that sticks or follows the lean is wrong without a sign.",
    joins=False,
    quick=("two", 4),
    order=15,
    unit="arcsec",
    gates=False,
)
