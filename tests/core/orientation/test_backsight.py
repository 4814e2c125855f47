"""Backsights over a control point, and the names, swaps and heights that go with them; by hand where a hand can."""

from __future__ import annotations

import math
from typing import Any

import pytest

from naveta_core.dispatch import reduce
from naveta_core.errors import Refused
from naveta_core.history.series import jump, level_of
from naveta_core.orientation.names import near_misses, same
from naveta_core.registry import document_of
from tests.core.plain import known
from tests.core.plain import previewed as preview

from .test_free_station import codes, result
from .world import CREEK, World, creek


def test_a_backsight_by_hand() -> None:
    """From (0, 0) to (30, 40): bearing 36.8699°, 50 m. The circle reads 10°, measured 50.003 m level."""
    document = {
        "kind": "backsight",
        "units": {"angle": "deg"},
        "observations": {
            "control": [{"name": "QB-2", "e": "30", "n": "40"}],
            "station": {"name": "PC-14", "e": "0", "n": "0"},
            "shots": [{"point": "QB-2", "hz": "10", "horizontal_distance": "50.003"}],
        },
    }
    found = result(document)
    assert found["result"]["orientation_deg"] == pytest.approx(26.869898, abs=1e-6)
    assert found["result"]["disagreement_mm"] == pytest.approx(3.0, abs=1e-6)
    assert found["verdict"]["grade"] == "use"
    assert found["finding"]["text"] == "At PC-14: QB-2 agrees within 3.0 mm."
    document["observations"]["shots"][0]["horizontal_distance"] = "50.012"
    far = result(document)
    assert far["verdict"]["grade"] == "repeat"
    assert "12.0 mm farther than it should be" in far["verdict"]["reasons"][0]["text"]


def test_heights_close_and_a_typed_height_is_guessed() -> None:
    world = creek(4)
    assert result(world.back("PC-01", "PC-02"))["result"]["points"][0]["height_mm"] == pytest.approx(0.0, abs=0.3)
    shots = [world.shot("PC-02", target_height="1.390")]
    found = result(world.back("PC-01", shots=shots))
    assert codes(found) == ["height-outlier"]
    assert "is 90.0 mm too low" in found["verdict"]["reasons"][0]["text"]
    assert "Typed 1.390 for 1.300?" in found["verdict"]["reasons"][0]["text"]


def test_another_point_at_just_that_distance_is_named() -> None:
    world = creek(4)
    world.stand = CREEK["PC-01"]
    shot = {**world.shot("PC-04"), "point": "PC-02"}
    document = world.back("PC-01", shots=[shot])
    found = result(document)
    assert codes(found)[0] == "beyond-tolerance"
    assert "The distance matches PC-04" in found["verdict"]["reasons"][0]["text"]


def test_ends_taken_for_each_other_show_in_the_heights() -> None:
    world = creek(4)
    world.stand = CREEK["PC-02"]
    shot = {**world.shot("PC-01"), "point": "PC-02"}
    document = world.back("PC-01", shots=[shot])
    assert "ends-swapped" in codes(result(document))


def test_a_direction_alone_checks_nothing_and_two_check_each_other() -> None:
    world = creek(4)
    bare = {"slope_distance": None, "v": None, "target_height": None}
    world.stand = CREEK["PC-01"]
    entry = world.back("PC-01", shots=[world.shot("PC-02", **bare)])
    assert codes(result(entry)) == ["direction-only"]
    off = world.shot("PC-03", **bare)
    off["hz"] = f"{float(off['hz']) + 0.02:.6f}"
    two = world.back("PC-01", shots=[world.shot("PC-02", **bare), off])
    assert "directions-differ" in codes(result(two))


def test_a_slope_distance_is_reduced_by_the_heights_and_may_not_be_shorter_than_the_fall() -> None:
    """Points 3 m apart in height, 40 m level, same heights of instrument and target: slope √(40² + 3²)."""
    control = [{"name": "B", "e": "0", "n": "40", "h": "13"}]
    station = {"name": "A", "e": "0", "n": "0", "h": "10"}
    shot = {"point": "B", "hz": "0", "slope_distance": f"{math.hypot(40, 3):.5f}", "target_height": "1.5"}
    document: dict[str, Any] = {
        "kind": "backsight",
        "units": {"angle": "deg"},
        "observations": {"control": control, "station": station, "shots": [shot], "instrument_height": "1.5"},
    }
    assert result(document)["result"]["disagreement_mm"] == pytest.approx(0.0, abs=0.01)
    shot["slope_distance"] = "2.5"
    with pytest.raises(Refused) as refused:
        result(document)
    assert refused.value.faults[0].wanted == "a slope distance above 3.000 m, by which the two points differ in height"


@pytest.mark.parametrize(
    ("height", "said"), [("9.990", []), ("9.975", ["height-outlier"]), ("10.030", ["height-outlier"])]
)
def test_how_far_a_height_may_be_off_grows_with_the_sight(height: str, said: list[str]) -> None:
    """5″ over 200 m are 4.85 mm; with 1 mm for both ends σ is 4.95 mm, 3.707 of which (t at 99.5 %, six degrees) 18.3 mm.

    A level sight of 200 m ends 2.7 mm too high by curvature and refraction.
    """
    document: dict[str, Any] = {
        "kind": "backsight",
        "units": {"angle": "deg"},
        "instrument": {"kind": "total-station", "angle_accuracy_arcsec": 5},
        "observations": {
            "control": [{"name": "B", "e": "0", "n": "200", "h": height}],
            "station": {"name": "A", "e": "0", "n": "0", "h": "10"},
            "shots": [
                {"point": "B", "hz": "0", "v": "90", "slope_distance": "200.0000", "target_height": "1.5"},
            ],
            "instrument_height": "1.5",
        },
    }
    found = result(document)
    assert found["result"]["points"][0]["height_mm"] == pytest.approx(2.7 + 1000 * (10 - float(height)), abs=0.1)
    assert [code for code in codes(found) if code == "height-outlier"] == said


def test_nobody_sights_the_point_they_stand_over() -> None:
    world = creek()
    document = world.back("PC-01", "PC-02")
    document["observations"]["shots"][0]["point"] = "pc 1"
    found = preview(document, None, "")
    assert found["faults"][0]["path"] == "observations.shots[0].point"
    assert found["faults"][0]["wanted"] == "another control point than your station PC-01"


def test_what_is_missing_is_named_in_order() -> None:
    found = preview({"kind": "backsight", "observations": {"control": [{"name": "B", "e": "0", "n": "1"}]}}, None, "")
    assert found["missing"] == ["observations.station", "observations.shots[0].point"]
    assert found["plan"]["points"][0]["name"] == "B"
    assert document_of({"kind": "backsight", "observations": {}}).kind == "backsight"


class TestNames:
    def test_one_number_written_two_ways_is_one_point(self) -> None:
        assert same("PC-07", "pc 7")
        assert not same("PC-07", "PC-70")

    def test_near_misses_say_why(self) -> None:
        names = ["PC-14", "PC-41", "QB-2", "PC-15"]
        assert near_misses("pc14", names)[0] == ("PC-14", "PC-14 is the same number written differently")
        assert near_misses("PC-14", ["PC-41", "PC-15", "QB-2"]) == [("PC-41", "PC-41 has two digits swapped")]
        assert near_misses("PC-14", ["PC-15", "QB-2"]) == [("PC-15", "PC-15 differs by one character")]
        assert near_misses("PC-14", ["QB-2"]) == []

    def test_the_fault_of_an_unknown_name_says_what_may_be_meant(self) -> None:
        world = World({"PC-14": (0, 0, 0), "PC-03": (50, 0, 0)}, (20, 20, 0), 0.0)
        shots = [world.shot("PC-14"), {**world.shot("PC-03"), "point": "PC-30"}]
        found = preview(world.free(shots), None, "")
        assert "PC-03 has two digits swapped" in found["faults"][0]["wanted"]


class TestSeries:
    def test_the_level_by_hand(self) -> None:
        """1 and 3 with variances 1 and 4: (1 + 3/4)/(5/4) = 1.4; SS = 0.16 + 0.64 = 0.8, f² = 4.8/5."""
        level = level_of([1.0, 3.0], [1.0, 4.0])
        assert level.mean == pytest.approx(1.4)
        assert level.f_squared == pytest.approx(0.96)
        assert level.variance == pytest.approx(0.96 / 1.25)

    def test_a_jump_is_what_chance_does_not_explain(self) -> None:
        earlier = [(1.0, 0.5), (1.2, 0.5), (0.8, 0.5), (1.1, 0.5), (0.9, 0.5)]
        assert jump(earlier, 1.6, 0.5, 1.0) is None
        assert jump(earlier, 7.0, 0.5, 1.0) == pytest.approx(6.0, abs=0.01)
        assert jump([], 7.0, 0.5, 1.0) is None


def test_an_orientation_is_calculated_once_and_stored_as_it_is() -> None:
    world = creek()
    answer = reduce(world.free(), known({"kind": "total-station"}), "2027-03-02T08:00:00+00:00")
    assert answer["history_entry"]["what"] == "control"
    assert answer["history_entry"]["result"]["disagreement_mm"] == pytest.approx(0.0, abs=0.1)
    assert answer["document"]["instrument"] == {"kind": "total-station"}
