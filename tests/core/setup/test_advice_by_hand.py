"""Small advice against figures worked out by hand, and what is refused."""

from __future__ import annotations

import math
import random

import pytest

from naveta_core.errors import Refused, UnknownKind
from naveta_core.geometry import polar
from naveta_core.setup.mechanism import see, slide
from tests.core.plain import advise

from .world import PLUMB, random_state

ARCSEC = 206264.806


def test_a_slide_goes_back_the_way_the_spot_is_off() -> None:
    state = slide(PLUMB, random_state(random.Random(17)), 4.0, -2.0)
    start = see(PLUMB, random_state(random.Random(17))).spot_mm
    spot = see(PLUMB, state).spot_mm
    assert start is not None
    assert spot is not None
    bearing, size = polar(spot[0] - start[0], spot[1] - start[1])
    result = advise({"advice": "slide", "offset": {"bearing_deg": bearing, "distance_mm": size}})["result"]
    method = math.radians(result["slide_bearing_deg"])
    back = slide(PLUMB, state, result["slide_mm"] * math.sin(method), result["slide_mm"] * math.cos(method))
    assert see(PLUMB, back).spot_mm == pytest.approx(start, abs=0.02)
    assert not result["use_legs"]


def test_more_than_the_slide_is_for_the_legs_and_a_tilted_head_is_given() -> None:
    far = advise({"advice": "slide", "offset": {"bearing_deg": 10, "distance_mm": 31}})
    assert far["result"]["use_legs"]
    assert "do not force" in far["text"][0]
    # 40′ · 2·sin(1°) = 83.8″, at 1.5 m 0.6 mm.
    fields = {
        "advice": "slide",
        "offset": {"bearing_deg": 10, "distance_mm": 3},
        "head_tilt": {"bearing_deg": 0, "arcsec": 2400},
    }
    advice = advise(fields)
    assert advice["result"]["tilt_after_arcsec"] == pytest.approx(83.8, abs=0.1)
    assert "0.6 mm at the ground" in advice["text"][-1]


@pytest.mark.parametrize(
    ("asked", "expected"),
    [
        ({"advice": "tripod-height", "eye_height_m": 1.65}, {"head_height_m": 1.32}),
        ({"advice": "tripod-height", "eye_height_m": 1.65, "purpose": "wind"}, {"head_height_m": 1.05}),
        # √(1.5234² − 0.1²) + 0.02
        (
            {"advice": "instrument-height", "slope": "1.5234", "radius_mm": 100, "constant_mm": 20},
            {"height_m": 1.54011, "less_than_slope_mm": 3.29},
        ),
        # Screws on 50 mm with 4 mm each way, a quarter kept: atan(3/50); at 2° 4 − 50·tan 2°.
        ({"advice": "head-tilt", "tilt_deg": 2}, {"enough": True, "travel_left_mm": 2.25, "most_deg": 3.4}),
        ({"advice": "head-tilt", "tilt_deg": 3.5}, {"enough": False, "travel_left_mm": 0.94}),
        # 30 mm · sin 10°; over 30 m 5.209/30,000 · 206,265″, over 20 m 3/20,000, over 100 ft 3/30,480
        ({"advice": "lean", "lean_deg": 10, "stands_out_mm": 30}, {"offset_mm": 5.21, "direction_arcsec": 35.82}),
        ({"advice": "lean", "offset_mm": 3, "sight_m": "20"}, {"offset_mm": 3.0, "direction_arcsec": 30.94}),
        ({"advice": "lean", "offset_mm": 3, "units": {"length": "ft"}}, {"direction_arcsec": 20.3}),
        ({"advice": "pointing", "width_mm": 1, "distance_m": 15}, {"grain_arcsec": 13.751}),
        ({"advice": "pointing", "width_mm": 1, "distance_m": 100}, {"grain_arcsec": 2.063}),
        # √(1² + (0.15·13.751)²)
        ({"advice": "pointing", "width_mm": 1, "distance_m": 15}, {"sigma_pointing_arcsec": 2.292}),
        # 15 m up at 30°: 25.981 m away
        (
            {"advice": "steep-target", "height_m": 15, "distance_m": 60},
            {"elevation_deg": 14.036, "distance_needed_m": 25.981},
        ),
        # √(1 + 1/sin² 60°)/(2·cot 60°) = 1.3229 on 1.5″
        ({"advice": "steep-target", "height_m": 10, "distance_m": 17.3205}, {"sigma_tilting_axis_arcsec": 1.984}),
        ({"advice": "turned-angle", "start": "0.3015", "end": "90.4520"}, {"angle_deg": 90.251388889}),
        (
            {"advice": "turned-angle", "start": "350.00", "turn": "90.00", "sense": "anticlockwise"},
            {"reading_deg": 260.0},
        ),
        (
            {
                "advice": "turned-angle",
                "start": "10.00",
                "end": "350.00",
                "sense": "clockwise",
                "counts": "anticlockwise",
            },
            {"angle_deg": 20.0},
        ),
    ],
)
def test_small_advice_by_hand(asked: dict[str, object], expected: dict[str, float]) -> None:
    result = advise(asked)["result"]
    assert {name: result[name] for name in expected} == pytest.approx(expected, abs=1e-3)


def test_a_swing_seen_from_two_sides() -> None:
    """From the south the string swings 4 to 10 mm right of the mark, from the west 2 left to 6 right: 7 east, 2 south."""
    views = [
        {"bearing_deg": 0, "left_mm": 4, "right_mm": 10},
        {"bearing_deg": 90, "extremes_mm": [-2, 6, -2]},
    ]
    result = advise({"advice": "bob", "views": views})["result"]
    assert (result["centre_x_mm"], result["centre_y_mm"]) == pytest.approx((7.0, -2.0))
    assert result["sigma_mm"] == pytest.approx(0.7 * math.sqrt(1 / 2 + 6 / 16), abs=0.01)
    assert advise({"advice": "bob", "views": [views[0]]})["result"]["centre_x_mm"] is None


def test_effects_by_hand() -> None:
    """1 mm between sights of 30 m at 90°: D3 = 42.43 m, ρ·0.001·42.43/(√2·900) = 6.876″; allowed is its inverse."""
    advice = advise(
        {
            "advice": "effect",
            "centring_mm": 1,
            "target_back_mm": 2,
            "target_fore_mm": 0,
            "tilt_arcsec": 20,
            "collimation_arcsec": 10,
            "allowed_arcsec": 6.876,
            "sights": {"back_m": 30, "fore_m": 30, "angle_deg": 90, "elevation_deg": 45, "imbalance_m": "20"},
        }
    )
    values = {part["quantity"]: part["value"] for part in advice["result"]["parts"]}
    assert values["angle_from_centring"] == pytest.approx(6.8755, abs=1e-3)
    assert values["centring_allowed"] == pytest.approx(1.0, abs=1e-3)
    assert values["angle_from_targets"] == pytest.approx(ARCSEC * 0.002 / 30 / math.sqrt(2), abs=1e-3)
    assert values["direction_from_tilt"] == pytest.approx(20.0)
    assert values["height_from_collimation"] == pytest.approx(0.9696, abs=1e-3)


@pytest.mark.parametrize(
    ("asked", "path", "wanted"),
    [
        ({"advice": "magic"}, "advice", "legs"),
        ({"advice": "legs"}, "$", "either bubble or tilt"),
        ({"advice": "legs", "bubble": {"bearing_deg": 10}}, "bubble", "at_wall"),
        ({"advice": "legs", "bubble": {"bearing_deg": 10, "offset_mm": 300}}, "bubble.offset_mm", "at most 20"),
        ({"advice": "legs", "tilt": {"bearing_deg": 0, "arcsec": 90000}}, "tilt.arcsec", "at most 28 800"),
        ({"advice": "shift", "move": {"bearing_deg": 0, "distance_mm": 900}}, "move.distance_mm", "at most 500"),
        (
            {
                "advice": "legs",
                "tilt": {"bearing_deg": 0, "arcsec": 60},
                "tripod": {"feet": [[0, 1, 0], [0, 0, 0], [0, -1, 0]]},
            },
            "tripod",
            "in line",
        ),
        (
            {
                "advice": "legs",
                "tilt": {"bearing_deg": 0, "arcsec": 60},
                "tripod": {"feet": [[0, 0.1, 0], [0.1, 0, 0], [-0.1, 0, 0]]},
            },
            "tripod",
            "0.4 m apart",
        ),
        (
            {
                "advice": "legs",
                "tilt": {"bearing_deg": 0, "arcsec": 60},
                "tripod": {"feet": [[0, 577, 0], [500, -288, 0], [-500, -288, 0]]},
            },
            "tripod",
            "in metres",
        ),
        (
            {"advice": "screws", "tilt": {"bearing_deg": 0, "arcsec": 9}, "tribrach": {"at_mm": [1]}},
            "tribrach",
            "3 entries",
        ),
        ({"advice": "instrument-height", "slope": "1523"}, "slope", "is the unit right?"),
        (
            {"advice": "instrument-height", "slope": "5'2\"", "radius_mm": 100, "extra": 1},
            "extra",
            "a field this document knows",
        ),
        ({"advice": "turned-angle", "start": "10.5", "end": "20.00"}, "start", "10.50"),
        ({"advice": "turned-angle", "start": "10.50"}, "$", "either end or turn"),
    ],
)
def test_what_is_refused_and_why(asked: dict[str, object], path: str, wanted: str) -> None:
    with pytest.raises(Refused) as refused:
        advise(asked)
    (fault,) = refused.value.faults
    assert fault.path == path
    assert wanted in fault.wanted


def test_advice_unknown_is_its_own_refusal() -> None:
    with pytest.raises(UnknownKind):
        advise({"advice": 7})


def test_sentences_are_in_the_units_asked_for() -> None:
    advice = advise({"advice": "shift", "units": {"length": "in"}, "move": {"bearing_deg": 0, "distance_mm": 20}})
    assert "0.448 in" in advice["text"][1]


def test_a_right_angle_by_three_lengths() -> None:
    """3-4-5: 1 mm of the 5 m diagonal is 5/(3·4)/1000 rad = 85.94″; 5.002 m is 171.9″ wide, 3.33 mm over 4 m."""
    result = advise({"advice": "square", "one_m": "3", "two_m": "4"})["result"]
    assert result["diagonal_m"] == pytest.approx(5.0)
    assert result["arcsec_per_mm"] == pytest.approx(85.944, abs=1e-3)
    wide = advise({"advice": "square", "one_m": "3", "two_m": "4", "diagonal_m": "5.002"})
    assert wide["result"]["off_arcsec"] == pytest.approx(171.92, abs=0.1)
    assert "too wide, 3.3 mm at the end of the second side" in wide["text"][0]
    with pytest.raises(Refused) as refused:
        advise({"advice": "square", "one_m": 3, "two_m": 4, "diagonal_m": 8})
    assert "closes the triangle" in refused.value.faults[0].wanted


@pytest.mark.parametrize("asked", [{}, {"lean_deg": 10}, {"offset_mm": 3, "lean_deg": 10, "stands_out_mm": 30}])
def test_a_lean_is_measured_or_comes_from_its_angle(asked: dict[str, float]) -> None:
    with pytest.raises(Refused) as refused:
        advise({"advice": "lean", **asked})
    assert "either offset_mm, or lean_deg and stands_out_mm" in refused.value.faults[0].wanted
