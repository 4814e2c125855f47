"""What an instrument reaches in directions and zenith angles, by a field procedure after ISO 17123-3."""

from __future__ import annotations

from typing import Any

from ..sheet.answer import Recipe
from ..sheet.entry import Asks, Field, Group, Way
from ..sheet.kinds import kind_of_rows
from ..sheet.table import Regrouped, Table
from ..two_face import plunges
from .model import DirectionAccuracy
from .read import MARKS, SERIES, SETS, read_document, where
from .reckon import CAUTIONS, MAIN, drawn, judge, needs, so_far
from .simulate import simulate

Data = dict[str, Any]
TARGET = Field("target", "Mark", given=True)


def _groups(circle: str, procedure: str) -> tuple[Group, ...]:
    """Each set in the order in which it is read: face left from the first mark on, face right back."""
    reading = Field("reading", "Horizontal circle" if circle == "horizontal" else "Vertical circle", kind="angle")
    groups = []
    for i in range(SERIES[procedure]):
        for j in range(SETS):
            name = f"Set {j + 1}" if procedure == "simplified" else f"Series {i + 1}, set {j + 1}"
            path = f"observations.series[{i}].sets[{j}]"
            most = MARKS[circle, procedure]
            groups.append(Group(f"{path}.left", f"{name}, face left", (TARGET, reading), rows=True, most=most))
            groups.append(
                Group(f"{path}.right", f"{name}, back in face right", (TARGET, reading), rows=True, most=most)
            )
    return tuple(groups)


def _begin(circle: str, procedure: str) -> Data:
    names = [{"target": str(k + 1)} for k in range(MARKS[circle, procedure])]
    one: Data = {"left": names, "right": names[::-1]}
    series: list[Data] = [{"sets": [one] * SETS} for _ in range(SERIES[procedure])]
    return {"circle": circle, "procedure": procedure, "series": series}


def gather(flat: Data) -> Data:
    """Rows `series, set, face, target, reading` as series of sets."""
    series: dict[int, dict[int, Data]] = {}
    for one in flat.pop("readings", []):
        sets = series.setdefault(one.pop("series", 1), {})
        held = sets.setdefault(one.pop("set", 1), {})
        held.setdefault(str(one.pop("face", "left")).lower(), []).append(one)
    listed = [{"sets": [series[i][j] for j in sorted(series[i])]} for i in sorted(series)]
    return {**flat, "series": listed}


def spread_out(plain: Data) -> Data:
    rows = [
        {"series": i, "set": j, "face": face, **shot}
        for i, series in enumerate(plain.pop("series", []), start=1)
        for j, one in enumerate(series.get("sets", []), start=1)
        for face in ("left", "right")
        for shot in one.get(face, [])
    ]
    return {**plain, "readings": rows}


HORIZON = "Marks 100 to 250 m away, near the instrument's height, spread round the horizon."
TURN = "Turn the circle by 60° after each set; where that cannot be done, the instrument by a third in its base."
FACADE = "A high structure about 50 m away: four marks over some 30° of height."
THERE = "Face left from the first mark to the last, then face right from the last back to the first."
WEATHER = "Four series on different days or hours, in different weather."


def _way(circle: str, procedure: str, title: str, good_for: str, *steps: str) -> Way:
    return Way(f"{circle}-{procedure}", title, good_for, _begin(circle, procedure), _groups(circle, procedure), steps, ("sun",))  # fmt: skip


RECIPE = Recipe("direction-accuracy", read_document, judge, so_far, drawn, CAUTIONS, where, needs)
TABLE = Regrouped(
    Table(
        "direction-accuracy",
        ("circle", "procedure"),
        "readings",
        ("series", "set", "face", "target", "reading"),
        ("series", "set"),
        angles=True,
    ),
    gather,
    spread_out,
)
KIND = kind_of_rows(
    RECIPE,
    DirectionAccuracy,
    TABLE,
    title="Angle accuracy",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=60,
    interval_days=365,
    bring=("Four or five sharp marks that do not move", "A firm stand, a pillar if there is one, in the shade"),
    before_you_start=("Electronic level and two faces first: this is about the scatter, not about c and i.", "Never towards the sun."),
    who_adjusts=(),
    when_bad=(
        ("real", "Is it real?", "Another day, other weather: one good instrument in twenty shows it once."),
        ("keep", "Keep what was found", "Save as found."),
        ("adjust", "Nothing to turn", "Scatter is not adjusted: found worse twice, it goes to service."),
        ("without", "Or do without it", "Use it for work that allows what was found, with more sets."),
        ("look-back", "What was done with it since", "Figures closed in the meantime say how it really went."),
    ),
    watch_condition="For work that allows what was found, with more sets.",
    main_quantity=MAIN,
    quantity_label="one direction in both faces",
    simulate=simulate,
    ways=(
        _way("horizontal", "simplified", "Directions, simplified: three sets of four marks", "An hour: a first look at the scatter.", HORIZON, THERE, TURN),
        _way("vertical", "simplified", "Zenith angles, simplified: three sets of four marks", "An hour: the vertical circle.", FACADE, THERE),
        _way("horizontal", "full", "Directions, full: four series of three sets of five marks", "Told against what is stated and against the last time.", HORIZON, THERE, TURN, WEATHER),
        _way("vertical", "full", "Zenith angles, full: four series of three sets of four marks", "Told against what is stated and against the last time.", FACADE, THERE, WEATHER),
    ),
    asks=Asks(minutes_on=True, support=True),
    why="What its angles reach in your hands, told honestly: not shown worse than stated, or shown so.",
    gates=False,
    scheduled=False,
    joins=False,
    order=82,
    kept=("circle",),
    fits=plunges,
)  # fmt: skip
