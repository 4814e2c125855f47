"""What is given before and beside an step: a move tried first, hints by the place, the order kept, a bob's swing, the rest."""

from __future__ import annotations

import math
import random
from typing import Any

import pytest

from naveta_core.documents.instrument_context import complete
from naveta_core.errors import Refused
from naveta_core.geometry import polar
from naveta_core.setup.equipment import Tribrach
from naveta_core.setup.mechanism import move_leg, see, turn_screw
from naveta_core.setup.tips import GROUND
from tests.core.plain import advise, guide, made_set_up
from tests.core.plain import preview_set_up as preview
from tests.core.plain import reduce_set_up as judged

from ..plain import context_of, rest_of
from .test_guide import OPTICAL, SPOT, document, saw, whole
from .world import PLUMB, random_state, tripod_data, with_vial

BUBBLE = {"bearing_deg": 100.0, "offset_mm": 3.0}


def what_if(**more: Any) -> dict[str, Any]:
    return advise({"advice": "what-if", **more})["result"]


class TestTriedFirst:
    def test_what_is_foretold_of_a_leg_is_what_then_happens(self) -> None:
        """Random tripods measured to the centimetre, a vial that shows everything: to 0.1 mm of bubble in 5 mm."""
        rng, equipment = random.Random(31), with_vial(wall_mm=20.0)
        for _ in range(60):
            state = random_state(rng, equipment, tilt_deg=0.35)
            seen = see(equipment, state)
            leg, mm = rng.choice("ABC"), rng.uniform(-3, 3)
            then = see(equipment, move_leg(equipment, state, leg, mm))
            found = what_if(
                bubble={"bearing_deg": seen.bubble_bearing_deg, "offset_mm": seen.bubble_mm},
                tripod=tripod_data(equipment, state),
                legs_mm={leg: mm},
            )["then"]["bubble"]
            if found["at_wall"]:
                continue  # the vial it is given for has its wall at 5 mm
            at = (found["offset_mm"], math.radians(found["bearing_deg"]))
            real = (then.bubble_mm, math.radians(then.bubble_bearing_deg))
            gap = math.dist(
                (at[0] * math.sin(at[1]), at[0] * math.cos(at[1])),
                (real[0] * math.sin(real[1]), real[0] * math.cos(real[1])),
            )
            assert gap < 0.1

    def test_a_screw_turned_tips_the_instrument_by_its_pitch(self) -> None:
        """One screw at 0° raised by a tenth of 0.7 mm: 0.07/(1.5·50) rad = 192.5″, spot by 1.45 m · 192.5″ = 1.35 mm."""
        found = what_if(
            tilt={"bearing_deg": 0, "arcsec": 0}, spot={"bearing_deg": 0, "distance_mm": 0}, turns={"1": 0.1}
        )
        assert found["then"]["tilt"] == {"bearing_deg": 0.0, "arcsec": pytest.approx(192.5, abs=0.1)}
        # The axis leans away from the high side; below its pivot it points towards it.
        assert found["then"]["spot"]["bearing_deg"] in (0.0, 360.0)
        assert found["then"]["spot"]["distance_mm"] == pytest.approx(1.35, abs=0.01)

    def test_what_is_advised_does_what_it_says(self) -> None:
        legs = advise({"advice": "legs", "bubble": BUBBLE})["result"]["legs"]
        found = what_if(bubble=BUBBLE, spot=SPOT, legs_mm=legs)
        assert found["then"]["bubble"]["offset_mm"] < 0.05
        assert found["spot_moves_mm"] < 0.3
        assert found["now"]["bubble"]["offset_mm"] == 3.0

    def test_screws_foretold_on_a_world_of_their_own(self) -> None:
        rng, equipment = random.Random(32), PLUMB
        state = random_state(rng, equipment, tilt_deg=0.02)
        bearing, size = polar(*see(equipment, state).tilt_arcsec)
        then = see(equipment, turn_screw(equipment, state, {2: 0.06}))
        north = math.degrees(math.atan2(state.pose.turn[0][1], state.pose.turn[1][1]))
        tribrach = {
            "screws": 3,
            "screw_bearings_deg": [(north + bearing) % 360.0 for bearing in Tribrach().bearings_deg],
        }
        found = what_if(tilt={"bearing_deg": bearing, "arcsec": size}, tribrach=tribrach, turns={"2": 0.06})["then"][
            "tilt"
        ]
        real = polar(*then.tilt_arcsec)
        assert found["arcsec"] == pytest.approx(real[1], abs=0.5)
        assert found["bearing_deg"] == pytest.approx(real[0], abs=0.5)

    def test_a_slide_moves_the_spot_and_nothing_else(self) -> None:
        fields = {
            "advice": "what-if",
            "tilt": {"bearing_deg": 30, "arcsec": 60},
            "spot": {"bearing_deg": 90, "distance_mm": 4},
        }
        advice = advise({**fields, "slide_right_mm": -3})
        assert advice["result"]["then"]["spot"] == {"bearing_deg": 90.0, "distance_mm": pytest.approx(1.0, abs=0.01)}
        assert advice["text"] == [
            "The level stays as it is.",
            "The plummet will move 3.0 mm, to your left.",
            "It will then be 1.0 mm off the mark.",
        ]

    @pytest.mark.parametrize(
        ("more", "path", "words"),
        [
            ({"turns": {"1": 9}}, "$", "screw 1 is at its stop"),
            ({"turns": {"4": 0.1}}, "$", "1, 2, 3: not 4"),
            ({"legs_mm": {"A": 900}}, "legs_mm.A", "300"),
            ({"slide_away_mm": 60}, "$", "slides 20.0 mm"),
        ],
    )
    def test_what_cannot_be_done_is_said(self, more: dict[str, Any], path: str, words: str) -> None:
        with pytest.raises(Refused) as refused:
            what_if(bubble=BUBBLE, **more)
        assert refused.value.faults[0].path == path
        assert words in refused.value.faults[0].wanted

    def test_at_the_wall_nothing_is_foretold(self) -> None:
        advice = advise({"advice": "what-if", "bubble": {"bearing_deg": 10, "at_wall": True}, "legs_mm": {"A": -3}})
        assert advice["result"]["then"] is None
        assert "At the wall the offset is unknown" in advice["text"][0]


class TestTriesOfAnAct:
    def test_the_guide_gives_the_question_to_add_moves_to(self) -> None:
        trial = guide(document(log=[saw("near", spot=SPOT), saw("circular", bubble=BUBBLE)]), "circular")["trial"]
        assert (trial["by"], trial["step"]) == ("legs", 1.0)
        assert trial["question"]["spot"] == {"bearing_deg": 90, "distance_mm": 3}
        assert what_if(**{**trial["question"], "legs_mm": {"B": -3.26, "A": -1.13}})["then"]["bubble"]["in_ring"]

    def test_figures_of_a_level_become_a_tilt_of_the_site(self) -> None:
        """Standing south, the sight points north: 30″ along is high in the north, 40″ across high in the east."""
        trial = guide(document(log=[saw("plate", level={"along": "30", "across": "40"})]), "plate")["trial"]
        assert trial["question"]["tilt"]["arcsec"] == pytest.approx(50.0)
        assert trial["question"]["tilt"]["bearing_deg"] == pytest.approx(math.degrees(math.atan2(40, 30)))
        # A vial's first figure counts to the right, its second, turned clockwise by 90°, towards the person.
        log = [saw("plate", level={"along": "2", "across": "1"})]
        plate = guide(document(log=log, options={"level_type": "plate"}), "plate")["trial"]["question"]["tilt"]
        assert plate["arcsec"] == pytest.approx(20 * math.sqrt(5))
        assert plate["bearing_deg"] == pytest.approx(90 + math.degrees(math.atan2(1, 2)))

    def test_nothing_given_nothing_to_try(self) -> None:
        assert guide(document(), "circular")["trial"] is None
        assert guide(document(log=[saw("near", spot=SPOT)]), "near")["trial"] is None
        wall = saw("circular", bubble={"bearing_deg": 0, "at_wall": True})
        assert guide(document(log=[wall]), "circular")["trial"] is None


class TestSwing:
    # Standing south (180°), looking north: right is east. A quarter round to the right is east, looking west: right is north.
    SWUNG = {"here": {"left": "-8", "right": "12"}, "round": {"left": "-9", "right": "3"}}

    def test_both_sides_give_where_it_hangs(self) -> None:
        found = guide(document("plumb-bob", log=[saw("bob", swing=self.SWUNG)]), "bob")
        spot = found["site"]["spot"]
        assert (spot["distance_mm"] * math.sin(math.radians(spot["bearing_deg"]))) == pytest.approx(2.0, abs=0.02)
        assert (spot["distance_mm"] * math.cos(math.radians(spot["bearing_deg"]))) == pytest.approx(-3.0, abs=0.02)
        assert found["advice"]["headline"] == "Bring the bob 3.6 mm to the left and away from you."

    def test_from_one_side_only_it_is_asked_for_the_other(self) -> None:
        found = guide(document("plumb-bob", log=[saw("bob", swing={"here": self.SWUNG["here"]})]), "bob")
        assert found["within_tolerance"] is False
        assert found["advice"]["headline"] == "Both ends of the swing, from both sides."

    def test_wind_counts_less_once_the_swing_was_read(self) -> None:
        """Two views of 0.7/√2 mm each, square to each other: 0.70 mm instead of 3 mm."""
        gone = {"method": "plumb-bob", "instrument": OPTICAL, "centring_mm": "0.4"}
        windy = document(
            **gone, height={"readings": ["1.5"]}, level={"first": {"along": "1", "across": "1"}}
        ).model_copy(update={"conditions": whole().conditions.model_copy(update={"wind": "breeze"})})
        log = [saw("bob", swing={"here": {"left": "-8", "right": "9"}, "round": {"left": "-5", "right": "5"}})]
        read = windy.model_copy(
            update={
                "observations": document(
                    **gone, log=log, height={"readings": ["1.5"]}, level={"first": {"along": "1", "across": "1"}}
                ).observations
            }
        )
        assert judged(windy)["result"]["sigma_centring_mm"] == pytest.approx(3.0)
        assert judged(read)["result"]["sigma_centring_mm"] == pytest.approx(0.70, abs=0.005)


class TestHints:
    def hinted(self, step: str, conditions: dict[str, Any], **observed: Any) -> list[str]:
        found = document(**observed)
        changed = found.model_copy(update={"conditions": found.conditions.model_copy(update=conditions)})
        return [hint["code"] for hint in guide(changed, step)["tips"]]

    def test_the_place_and_the_weather_are_minded_where_they_matter(self) -> None:
        assert self.hinted("press-feet", {"ground": "asphalt", "temperature_c": 31.0}) == ["ground", "hot-asphalt"]
        assert self.hinted("press-feet", {"ground": "asphalt", "temperature_c": 12.0}) == ["ground"]
        assert self.hinted("tripod", {"wind": "strong"}) == ["low-in-wind", "two-to-you"]
        assert self.hinted("mount", {"temperature_c": -4.0}) == ["acclimatise"]
        assert self.hinted("tripod", {"temperature_c": 30.0}, tripod_material="aluminium")[0] == "legs-in-heat"
        assert self.hinted("bob", {"wind": "breeze"}, method="plumb-bob") == ["bob-in-wind"]
        assert self.hinted("focus", {"ground": "grass", "wind": "strong"}, instrument=OPTICAL) == []

    def test_a_slope_overrules_the_habit(self) -> None:
        steep = {"tripod": {"slope_deg": 12}, "options": {"stands": "third-along"}}
        assert self.hinted("tripod", {}, **steep) == ["slope", "slope-first"]
        assert self.hinted("tripod", {}, options={"stands": "third-along"}) == ["third-along"]

    def test_every_ground_has_its_word(self) -> None:
        for ground in GROUND:
            assert self.hinted("press-feet", {"ground": ground}) == ["ground"]
        assert self.hinted("press-feet", {"ground": "moon"}) == []


class TestStrictOrder:
    def test_what_is_not_due_cannot_be_taken(self) -> None:
        found = guide(document(options={"strict": True}), "plate")
        assert found["step"]["name"] == "lay-out"
        assert found["may_skip"] is False
        assert [short_title["step"] for short_title in found["steps"] if short_title["may_take"]] == ["lay-out"]
        log = [{"step": "lay-out", "confirmed": True}, {"step": "tripod", "confirmed": True}]
        on = guide(document(options={"strict": True}, log=log))
        assert [short_title["step"] for short_title in on["steps"] if short_title["may_take"]] == [
            "lay-out",
            "tripod",
            "mount",
        ]
        assert guide(document(options={"strict": True}, log=log), "tripod")["step"]["name"] == "tripod"

    def test_without_it_nothing_is_locked(self) -> None:
        found = guide(document(), "plate")
        assert found["may_skip"] is True
        assert all(short_title["may_take"] for short_title in found["steps"])


class TestRestKept:
    LEVEL = {"by": "plate", "first": {"along": "2", "across": "1.4"}, "turned": {"along": "1", "across": "1.8"}}

    def test_a_set_up_says_the_next_one_where_the_bubble_rests(self) -> None:
        result = judged(whole(level=self.LEVEL, options={"level_type": "plate"}))
        set_up = made_set_up(result, "2027-03-02T08:00:00+00:00")
        assert set_up == {"what": "set-up", "at": "2027-03-02T08:00:00+00:00", "rest_div": pytest.approx(1.55)}
        known = context_of(OPTICAL, {}, [set_up])
        completed = complete({"kind": "set-up", "stored": {"reversal_div": 9}, "observations": {}}, known, "2027-03-03")
        assert completed["stored"] == {"reversal_div": pytest.approx(1.55), "reversal_at": "2027-03-02T08:00:00+00:00"}
        assert "stored" not in complete({"kind": "two-peg", "observations": {}}, known, "2027-03-03")

    def test_a_knock_ends_it_and_an_electronic_level_says_none(self) -> None:
        fields = {"what": "set-up", "at": "2027-03-02", "rest_div": 1.5}
        knock = {"what": "event", "event": "knock", "at": "2027-03-03"}
        assert rest_of([fields, knock]) == {}
        assert rest_of([knock, fields]) == {"reversal_div": 1.5, "reversal_at": "2027-03-02"}
        assert made_set_up(judged(whole()), "2027-03-02") is None


class TestTypedInsteadOfTouched:
    """Standing south and looking north: right is east, away is north."""

    def test_a_spot_and_a_bubble_typed_are_as_if_touched(self) -> None:
        found = guide(document(log=[saw("slide", spot_aside={"right": "3", "away": "-4"})]), "slide")
        assert found["site"]["spot"]["distance_mm"] == pytest.approx(5.0)
        assert found["site"]["spot"]["bearing_deg"] == pytest.approx(180 - math.degrees(math.atan2(3, 4)))
        bubble = guide(document(log=[saw("circular", bubble_aside={"right": "2,5", "away": "0"})]), "circular")
        touched = guide(document(log=[saw("circular", bubble={"bearing_deg": 90, "offset_mm": 2.5})]), "circular")
        assert bubble["advice"] == touched["advice"]
        wall = guide(document(log=[saw("circular", bubble_aside={"right": "3", "away": "4"})]), "circular")
        assert "bubble leaves the wall" in wall["advice"]["headline"]

    def test_they_turn_with_the_person(self) -> None:
        east = document(stand_bearing_deg=90, log=[saw("slide", spot_aside={"right": "3", "away": "0"})])
        assert guide(east, "slide")["site"]["spot"]["bearing_deg"] == pytest.approx(0.0, abs=1e-9)

    def test_what_cannot_be_read_names_its_field_until_it_is_looked_at_again(self) -> None:
        bad = [saw("circular", bubble_aside={"right": "9", "away": "0"}), saw("plate", level={"along": "4..1"})]
        faults = {fault["path"]: fault["wanted"] for fault in preview(whole(log=bad))["faults"]}
        assert faults["observations.log[0].saw.bubble_aside.right"] == "-5 to 5"
        assert "decimal mark" in faults["observations.log[1].saw.level.along"]
        mended = [*bad, saw("circular", bubble_aside={"right": "1", "away": "0"}), saw("plate", level={"along": "4.1"})]
        assert preview(whole(log=mended))["faults"] == []
        swing = preview(whole(log=[saw("bob", swing={"here": {"left": "x"}})]))["faults"]
        assert swing[0]["where"] == "the swing, left end, mm"


class TestLaser:
    ON = {"step": "laser-on", "confirmed": True, "at": "2027-03-02T06:40:00+00:00"}

    def test_it_is_said_since_when_it_is_on_until_it_is_off(self) -> None:
        laser = guide(document(log=[self.ON]))["laser"]
        assert (laser["since"], laser["after_minutes"]) == ("2027-03-02T06:40:00+00:00", 3)
        off = {"step": "laser-off", "confirmed": True, "at": "2027-03-02T06:50:00+00:00"}
        assert guide(document(log=[self.ON, off]))["laser"] is None
        assert guide(document(log=[self.ON]), "laser-off")["laser"] is None
        assert guide(document())["laser"] is None


def test_narrow_feet_are_said() -> None:
    rows = [hint["code"] for hint in guide(document(tripod={"foot_spacing_m": 0.7}), "tripod")["tips"]]
    assert rows == ["narrow-feet", "two-to-you"]
    assert "narrow-feet" not in [hint["code"] for hint in guide(document(), "tripod")["tips"]]


def test_what_is_wanted_is_called_by_its_name_and_the_budget_starts_from_what_was_found() -> None:
    """0.2 mm off and no better than 0.5 mm: √(0.04 + 0.25) = 0.54."""
    found = preview(document())
    assert found["wanted"][-1] == {"path": "observations.height.readings[0]", "where": "instrument height"}
    start = judged(whole())["result"]["budget"]
    assert start["centring_mm"] == pytest.approx(0.54, abs=0.005)
    assert (start["tilt_arcsec"], start["compensated"], start["angle_accuracy_arcsec"]) == (9.1, True, 3.0)
    assert advise({"advice": "budget", **start})["result"]["given"]["centring_mm"] == start["centring_mm"]
