"""What an instrument reaches in directions and zenith angles, by a field procedure after ISO 17123-3."""

from __future__ import annotations

from typing import Any

from ...engine.form import Group, Method
from ...engine.kind import Kind, RequiredConditions
from ..two_face import plunges
from .document import MAIN, MARKS, SERIES, SETS, DirectionAccuracy, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, grow

Data = dict[str, Any]
EACH_SET = "observations.series[*].sets[*]"
GENERAL = (
    Group(f"{EACH_SET}.left", "Face left"),
    Group(f"{EACH_SET}.right", "Face right"),
    Group("observations", "The test"),
)


def _groups(circle: str, procedure: str) -> tuple[Group, ...]:
    """Each set in the order in which it is read: face left from the first target on, face right back."""
    labels = {"reading": "Horizontal circle" if circle == "horizontal" else "Vertical circle"}
    groups = []
    for i in range(SERIES[procedure]):
        for j in range(SETS):
            name = f"Set {j + 1}" if procedure == "simplified" else f"Series {i + 1}, set {j + 1}"
            path = f"observations.series[{i}].sets[{j}]"
            groups.append(Group(f"{path}.left", f"{name}, face left", labels=labels))
            groups.append(Group(f"{path}.right", f"{name}, back in face right", labels=labels))
    return tuple(groups)


def _begin(circle: str, procedure: str) -> Data:
    names = [{"target": str(k + 1)} for k in range(MARKS[circle, procedure])]
    one: Data = {"left": names, "right": names[::-1]}
    series: list[Data] = [{"sets": [one] * SETS} for _ in range(SERIES[procedure])]
    return {"circle": circle, "procedure": procedure, "series": series}


HORIZON = "Marks 100 to 250 m away, near the instrument's height, spread round the horizon."

TURN = "Turn the circle by 60° after each set; where that cannot be done, the instrument by a third in its base."

FACADE = "A high structure about 50 m away: four marks over some 30° of height."

THERE = "Face left from the first mark to the last, then face right from the last back to the first."

WEATHER = "Four series on different days or hours, in different weather."


def _method(circle: str, procedure: str, title: str, good_for: str, *steps: str) -> Method:
    return Method(
        f"{circle}-{procedure}", title, good_for, _begin(circle, procedure), _groups(circle, procedure), steps, ("sun",)
    )


KIND = Kind(
    document=DirectionAccuracy,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    grow=grow,
    needs=needs,
    general=GENERAL,
    title="Angle accuracy",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=60,
    interval_days=365,
    bring=("Four or five sharp marks that do not move", "A firm stand, a pillar if there is one, in the shade"),
    before_you_start=(
        "Electronic level and two faces first: this is about the scatter, not about c and i.",
        "Never towards the sun.",
    ),
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
    methods=(
        _method(
            "horizontal",
            "simplified",
            "Directions, simplified: three sets of four marks",
            "An hour: a first look at the scatter.",
            HORIZON,
            THERE,
            TURN,
        ),
        _method(
            "vertical",
            "simplified",
            "Zenith angles, simplified: three sets of four marks",
            "An hour: the vertical circle.",
            FACADE,
            THERE,
        ),
        _method(
            "horizontal",
            "full",
            "Directions, full: four series of three sets of five marks",
            "Told against what is stated and against the last time.",
            HORIZON,
            THERE,
            TURN,
            WEATHER,
        ),
        _method(
            "vertical",
            "full",
            "Zenith angles, full: four series of three sets of four marks",
            "Told against what is stated and against the last time.",
            FACADE,
            THERE,
            WEATHER,
        ),
    ),
    required_conditions=RequiredConditions(minutes_on=True, support=True),
    why="What its angles reach in your hands, told honestly: not shown worse than stated, or shown so.",
    blocks_release=False,
    scheduled=False,
    allows_repeat=False,
    order=82,
    kept=("circle",),
    applies=plunges,
)
