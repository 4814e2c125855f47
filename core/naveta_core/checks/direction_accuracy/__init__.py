"""What an instrument reaches in directions and zenith angles, by a field procedure after ISO 17123-3."""

from __future__ import annotations

from typing import Any

from ...engine.affected import each_direction
from ...engine.check_off import ANGLE_SIGHTS
from ...engine.circumstance_fields import THROUGH_AIR
from ...engine.form import Group, Method
from ...engine.kind import Kind, LimitedQuantity
from ..two_face import plunges
from .document import MAIN, SERIES, SETS, TARGET_COUNTS, DirectionAccuracy, read_document, where
from .judge import CAUTIONS, judge, needs
from .text import draw, progress_of

Data = dict[str, Any]
EACH_SET = "observations.series[*].sets[*]"
GENERAL = (
    Group(f"{EACH_SET}.left", "Face left"),
    Group(f"{EACH_SET}.right", "Face right"),
    Group("observations", "The test"),
)


def _groups(circle: str, procedure: str) -> tuple[Group, ...]:
    """Each set in the order in which it is read: face left from the first target on, face right back."""
    level = circle == "horizontal"
    labels = {"reading": "Horizontal circle" if level else "Vertical circle"}
    sent = {"reading": "hz" if level else "v"}
    groups = []
    for i in range(SERIES[procedure]):
        for j in range(SETS):
            name = f"Set {j + 1}" if procedure == "simplified" else f"Series {i + 1}, set {j + 1}"
            path = f"observations.series[{i}].sets[{j}]"
            groups.append(Group(f"{path}.left", f"{name}, face left", labels=labels, quantities=sent, page=name))
            back = f"{name}, back in face right"
            groups.append(Group(f"{path}.right", back, labels=labels, quantities=sent, page=name))
    return tuple(groups)


def _begin(circle: str, procedure: str) -> Data:
    names = [{"target": str(k + 1)} for k in range(TARGET_COUNTS[circle, procedure])]
    fields: Data = {"left": names, "right": names[::-1]}
    series: list[Data] = [{"sets": [fields] * SETS} for _ in range(SERIES[procedure])]
    return {"circle": circle, "procedure": procedure, "series": series}


HORIZON = "Targets 100 to 250 m away, near instrument height, spread around the horizon."

TURN = "Turn the circle by 60° after each set. If it cannot be turned, turn the instrument by 120° in its tribrach."

FACADE = "A high structure about 50 m away: four targets over about 30° of vertical angle."

THERE = "Face left from the first target to the last, then face right from the last back to the first."

WEATHER = "Four series on different days or at different hours, in different weather."


def _method(circle: str, procedure: str, title: str, good_for: str, *, steps: tuple[str, ...]) -> Method:
    return Method(
        f"{circle}-{procedure}",
        title,
        good_for,
        observations=_begin(circle, procedure),
        groups=_groups(circle, procedure),
        steps=steps,
        caution=("sun",),
    )


KIND = Kind(
    document=DirectionAccuracy,
    where=where,
    read=read_document,
    judge=judge,
    caution_codes=CAUTIONS,
    draw=draw,
    progress_of=progress_of,
    needs=needs,
    general=GENERAL,
    title="Angle accuracy (full test)",
    applies_to=("total-station", "robotic-total-station", "theodolite"),
    minutes=60,
    interval_days=365,
    bring=("Four or five sharp targets that do not move", "A firm set-up, on a pillar if there is one, in the shade"),
    before_you_start=(
        "Do the electronic level check and the two-face check first: this test is about scatter, not about c and i.",
        "Never sight towards the sun.",
    ),
    who_adjusts=(),
    affects=each_direction("direction_sigma_arcsec"),
    when_bad=(
        (
            "real",
            "Confirm it",
            "Repeat it on another day, in other weather: one good instrument in twenty fails once by chance.",
        ),
        ("keep", "Save as found", "Save as found."),
        ("adjust", "No field adjustment", "Scatter cannot be adjusted: if it is worse twice, send it to service."),
        (
            "without",
            "Use another instrument",
            "Use it where the standard deviation found is good enough, with more sets.",
        ),
        ("impact-review", "Review affected work", "Closures measured in the meantime show the effect."),
    ),
    watch_condition="Where the standard deviation found is good enough, with more sets.",
    limited=(LimitedQuantity("direction_sigma_arcsec", "Standard deviation of one direction", "arcsec"),),
    main_quantity=MAIN,
    quantity_label="one direction in both faces",
    methods=(
        _method(
            "horizontal",
            "simplified",
            "Directions, simplified: three sets of four targets",
            "One hour: first estimate of the scatter.",
            steps=(HORIZON, THERE, TURN),
        ),
        _method(
            "vertical",
            "simplified",
            "Zenith angles, simplified: three sets of four targets",
            "One hour: vertical circle.",
            steps=(FACADE, THERE),
        ),
        _method(
            "horizontal",
            "full",
            "Directions, full: four series of three sets of five targets",
            "Compared with the stated accuracy and with the last full test.",
            steps=(HORIZON, THERE, TURN, WEATHER),
        ),
        _method(
            "vertical",
            "full",
            "Zenith angles, full: four series of three sets of four targets",
            "Compared with the stated accuracy and with the last full test.",
            steps=(FACADE, THERE, WEATHER),
        ),
    ),
    conditions=("minutes_on", "support", "temperature_c", *THROUGH_AIR),
    check_off=ANGLE_SIGHTS,
    why="Shows the accuracy you reach with it: either not shown worse than stated, or shown worse.",
    blocks_release=False,
    scheduled=False,
    allows_repeat=False,
    order=82,
    carried=("circle",),
    applies=plunges,
)
