"""Marks for two faces: what a plan promises is what a measurement then shows; steepness, grain and hints by hand."""

from __future__ import annotations

import math
import random
import re
from typing import Any

import numpy as np
import pytest

from naveta_core.errors import Refused
from naveta_sim import simulate
from tests.amount import tries
from tests.core.plain import advise

from ..checks.simulated import part, reduced

Data = dict[str, Any]


def plan(*targets: Data, **more: Any) -> Data:
    return advise({"advice": "targets", "targets": list(targets), "angle_accuracy_arcsec": 3, **more})


LEVEL = {"name": "plate", "distance_m": 100}
STEEP = {"name": "mast", "distance_m": 100, "height_m": 100 * math.tan(math.radians(24))}


def test_steepness_grain_and_pointing_by_hand() -> None:
    found = plan({"distance_m": 50, "height_m": 18.2, "target_type": "prism"})["result"]["targets"][0]
    assert found["elevation_deg"] == pytest.approx(math.degrees(math.atan(18.2 / 50)), abs=0.01)
    assert found["grain_arcsec"] == pytest.approx(206264.8 / 50000, abs=0.01)
    assert found["sigma_pointing_arcsec"] == pytest.approx(math.sqrt(9 + 1 + (0.5 * 206264.8 / 50000) ** 2), abs=0.01)
    assert found["name"] == "target 1"


def test_the_plan_promises_what_the_measurement_shows() -> None:
    """± of c and t of the plan against the scatter of 400 simulated full tests with the noise that was assumed."""
    promised = plan(LEVEL, STEEP)["result"]
    rng, c, t = random.Random(5), [], []
    for _ in range(tries(400, 200)):
        result = reduced(simulate("two-face", rng, {"targets": ((90.0, 100.0), (66.0, 100.0)), "accuracy": 3.0}))[
            "result"
        ]
        c.append(result["collimation_arcsec"])
        t.append(result["tilting_axis_arcsec"])
    print(
        f"plan: c ± {promised['u_collimation_arcsec']}, t ± {promised['u_tilting_axis_arcsec']}; 1.96 s found: {1.96 * np.std(c):.2f}, {1.96 * np.std(t):.2f}"
    )
    assert promised["u_collimation_arcsec"] == pytest.approx(1.96 * np.std(c), rel=0.15)
    assert promised["u_tilting_axis_arcsec"] == pytest.approx(1.96 * np.std(t), rel=0.15)


def test_and_what_the_check_itself_says_on_a_day_as_usual() -> None:
    rows = [
        reduced(simulate("two-face", random.Random(seed), {"targets": ((90.0, 100.0), (66.0, 100.0)), "accuracy": 3.0}))
        for seed in range(60)
    ]
    promised = plan(LEVEL, STEEP)["result"]
    for name, key in (("collimation_arcsec", "u_collimation_arcsec"), ("tilting_axis_arcsec", "u_tilting_axis_arcsec")):
        assert np.mean([part(row, name)["u95"] for row in rows]) == pytest.approx(promised[key], rel=0.1)


def test_the_best_pair_is_named_level_one_first() -> None:
    found = plan(
        STEEP, {"name": "gate", "distance_m": 40, "height_m": 1}, {"name": "roof", "distance_m": 30, "height_m": 30}
    )
    assert found["result"]["take"] == [1, 2], "45° tells the axis better than 24°"
    assert found["text"][0].startswith("Use gate and roof: five pointings a face")


def test_more_pointings_are_counted_until_it_is_proved_or_said_that_none_will_do() -> None:
    wanted = plan(LEVEL, STEEP, pointings=1)
    n = wanted["result"]["pointings_for_tilting_axis"]
    assert n is not None
    assert n > 1
    assert plan(LEVEL, STEEP, pointings=n)["result"]["u_tilting_axis_arcsec"] <= 10.0
    assert plan(LEVEL, STEEP, pointings=n - 1)["result"]["u_tilting_axis_arcsec"] > 10.0
    shallow = plan(LEVEL, {"name": "low roof", "distance_m": 100, "height_m": 27.5})
    assert shallow["result"]["pointings_for_tilting_axis"] is None


@pytest.mark.parametrize(("accuracy", "elevation"), [(3, 24), (5, 24), (7, 30)])
def test_what_will_not_show_the_trunnion_axis_is_said_with_what_does(accuracy: float, elevation: float) -> None:
    """A zenith angle of 66° shows t of a 3″ instrument to ± 9.6″, limit 10″: it ends as watch. Half the limit decides."""

    def at(steep: float) -> Data:
        return {"distance_m": 40, "height_m": 40 * math.tan(math.radians(steep))}

    found = plan({"distance_m": 40}, at(elevation), angle_accuracy_arcsec=accuracy)
    text = next(line for line in found["text"] if "may end as watch" in line)
    limit = found["result"]["limit_tilting_axis_arcsec"]
    assert found["result"]["u_tilting_axis_arcsec"] > limit / 2
    asked = re.search(r"choose (one|two,) (\d+)°", text)
    assert asked is not None
    both, degrees = asked[1] == "two,", int(asked[2])

    def proved(steep: float) -> float:
        other = at(-steep) if both else {"distance_m": 40}
        return float(plan(at(steep), other, angle_accuracy_arcsec=accuracy)["result"]["u_tilting_axis_arcsec"])

    assert proved(degrees) <= limit / 2 < proved(degrees - 5)


def test_without_a_steep_mark_it_says_what_one_would_be() -> None:
    found = plan(LEVEL, {"name": "gate", "distance_m": 60, "height_m": 12})
    assert (found["result"]["u_tilting_axis_arcsec"], found["result"]["take"]) == (None, [0])
    assert any("is 11.5 m above" in line for line in found["text"]), "20 m · tan 30°"
    gate = found["result"]["targets"][1]
    assert [remark["code"] for remark in gate["messages"]] == ["not-steep"]
    assert "20.8 m away it is at 30°" in gate["messages"][0]["text"], "12 m / tan 30°"


@pytest.mark.parametrize(
    ("target", "more", "codes"),
    [
        ({"distance_m": 9}, {}, ["near-target"]),
        ({"distance_m": 120}, {"ground": "asphalt", "sun": True}, ["shimmer-target"]),
        ({"distance_m": 120}, {"ground": "asphalt"}, []),
        ({"distance_m": 120}, {"ground": "grass", "sun": True}, []),
        ({"distance_m": 20, "height_m": 50}, {}, ["very-steep"]),
    ],
)
def test_focus_shimmer_and_what_is_too_steep(target: Data, more: Data, codes: list[str]) -> None:
    assert [remark["code"] for remark in plan(target, **more)["result"]["targets"][0]["messages"]] == codes


@pytest.mark.parametrize(
    ("targets", "path"),
    [
        ([], "targets"),
        ([{"distance_m": "x"}], "targets[0].distance_m"),
        ([{"distance_m": 50, "height_m": "1.2.3"}], "targets[0].height_m"),
        ([{"distance_m": 1}], "targets[0].distance_m"),
        ([LEVEL] * 7, "targets"),
    ],
)
def test_what_cannot_be_planned_is_refused_by_its_place(targets: list[Data], path: str) -> None:
    with pytest.raises(Refused) as caught:
        advise({"advice": "targets", "targets": targets})
    assert [fault.path for fault in caught.value.faults] == [path]


def test_feet_are_worded_in_feet() -> None:
    found = plan({"distance_m": "330 ft", "height_m": "40 ft"}, units={"length": "ft"})
    assert "ft away it is at 30°" in found["result"]["targets"][0]["messages"][0]["text"]
