"""Leading through: what comes when, what is stated, what is enough; and what a set-up is judged as, by hand."""

from __future__ import annotations

import math
from typing import Any

import pytest

from naveta_core.dispatch import answer, reduce
from naveta_core.documents.envelope import Instrument, Work
from naveta_core.errors import Refused
from naveta_core.registry import document_of
from naveta_core.setup.methods import SET_UP_METHODS, cannot, steps_of
from naveta_core.setup.reading import passes
from naveta_core.setup.steps import STEPS
from tests.core.plain import fitting, guide, known
from tests.core.plain import preview_set_up as preview
from tests.core.plain import reduce_set_up as judged

LASER = {
    "kind": "robotic-total-station",
    "plummet": "laser",
    "angle_accuracy_arcsec": 3.0,
    "compensator_range_arcmin": 4.0,
}
OPTICAL = {"kind": "theodolite", "plummet": "optical", "angle_accuracy_arcsec": 5.0}
SPOT = {"bearing_deg": 90, "distance_mm": 3}


def document(method: str = "plummet-first", instrument: dict[str, Any] = LASER, **observed: Any) -> Any:
    observations = {"method": method, "mark": {"name": "PC-14"}, **observed}
    return document_of({"kind": "set-up", "instrument": instrument, "observations": observations})


def saw(step: str, **what: Any) -> dict[str, Any]:
    return {"step": step, "saw": what}


def whole(**more: Any) -> Any:
    """Tilts 12″ and 4″, turned −6″ and 6″: (12 − −6)/2 = 9, (4 − 6)/2 = −1; index 3 and 5."""
    level = {"first": {"along": "12", "across": "4"}, "turned": {"along": "-6", "across": "6"}}
    fields = {
        "level": level,
        "centring_mm": "0.2",
        "height": {"readings": ["1.562", "1.5628"]},
        "final_check_done": True,
    }
    return document(**{**fields, **more})


def graded(fields: dict[str, Any]) -> dict[str, str]:
    return {part["quantity"]: part["grade"] for part in fields["verdict"]["parts"]}


def test_every_way_is_made_of_acts_and_begins_and_ends_alike() -> None:
    for method in SET_UP_METHODS.values():
        steps = steps_of(method, "optical")
        assert [step.name for step in steps][:2] == ["lay-out", "tripod"]
        assert all(step.name in STEPS for step in steps)
        assert {step.name for step in steps} & {"final-check", "ring-round"}
        assert method.good_for


def test_the_plummet_decides_what_is_asked() -> None:
    method = SET_UP_METHODS["plummet-first"]
    assert [step.name for step in steps_of(method, "laser")][3] == "laser-on"
    assert [step.name for step in steps_of(method, "optical")][3] == "focus"
    assert "laser-off" not in [entry.name for entry in steps_of(method, "optical")]


@pytest.mark.parametrize(
    ("method", "instrument", "screws", "why"),
    [
        ("plummet-first", {"kind": "level"}, 3, "not set up over a mark"),
        ("no-point", LASER, 3, "for levels"),
        ("level-first", {"kind": "theodolite", "plummet": "none"}, 3, "plumb bob"),
        ("plummet-first", LASER, 4, "opposite pairs"),
        ("four-screws", LASER, 3, "three screws"),
        ("plummet-first", LASER, 3, None),
        ("plummet-first", {**LASER, "plummet_tilted": False}, 3, "works only when the instrument is level"),
        ("shift-by-leg", {**LASER, "plummet_tilted": False}, 3, None),
        ("plummet-first", {**LASER, "plummet_tilted": True}, 3, None),
    ],
)
def test_a_way_that_cannot_work_says_so(method: str, instrument: dict[str, Any], screws: int, why: str | None) -> None:
    found = cannot(SET_UP_METHODS[method], Instrument(**instrument), Instrument(foot_screw_count=screws))
    assert found is None if why is None else why in str(found)
    assert next(method["cannot"] for method in fitting({"kind": "level"})["methods"]) is None


def test_a_level_that_is_not_there_cannot_be_levelled_by() -> None:
    found = {
        level["level_type"]: level["cannot"] for level in fitting({**OPTICAL, "electronic_level": False})["level_type"]
    }
    assert found == {"electronic": "This instrument has no electronic level.", "plate": None, "two-plates": None}
    unstated = fitting(OPTICAL)["level_type"]
    assert [level["level_type"] for level in unstated] == ["plate", "two-plates", "electronic"], "the usual ones first"
    assert all(level["cannot"] is None for level in unstated)
    assert all(level["cannot"] is None for level in fitting(LASER)["level_type"])


def test_what_is_stated_of_a_tilted_instrument_is_said_where_it_counts() -> None:
    """Shut-off tilt, its delay and a step of the bubble on the screen were asked for and read nowhere."""
    stated = {**LASER, "tilt_limit_arcmin": 6, "tilt_delay_s": 2, "bubble_step_arcsec": 20}

    def said(step: str, instrument: dict[str, Any]) -> dict[str, str]:
        return {tip["code"]: tip["text"] for tip in guide(document(instrument=instrument), step)["tips"]}

    assert "more than 6′ its electronic level shuts off, after 2 seconds" in said("circular", stated)["shuts-off"]
    assert "after" not in said("circular", {**LASER, "tilt_limit_arcmin": 6})["shuts-off"].split(":")[0]
    assert "20″" in said("plate", stated)["bubble-step"]
    assert not {"shuts-off", "bubble-step"} & set(said("plate", LASER))
    assert "shuts-off" not in said("mount", stated)


def test_one_act_after_the_other_and_none_locked() -> None:
    assert guide(document())["step"]["name"] == "lay-out"
    found = guide(document(log=[{"step": "lay-out", "confirmed": True}]))
    assert (found["step"]["name"], found["next"]) == ("tripod", "mount")
    query = guide(document(), "plate")
    assert query["step"]["name"] == "plate"
    states = {
        short_title["step"]: short_title["state"]
        for short_title in guide(document(log=[saw("plate", level={"along": "40", "across": "0"})]))["steps"]
    }
    assert (states["press-feet"], states["plate"], states["slide"]) == ("passed", "now", "open")


def test_level_and_mark_come_round_until_a_pass_changes_nothing() -> None:
    level, off, on = (
        saw("plate", level={"along": "2", "across": "1"}),
        saw("slide", spot=SPOT),
        saw("slide", spot={**SPOT, "distance_mm": 0.3}),
    )
    assert guide(document(log=[level]))["step"]["name"] == "slide"
    assert guide(document(log=[level, off]))["next"] == "plate"
    assert guide(document(log=[off]))["next"] == "plate"  # passed over, and still wanted
    assert guide(document(log=[level, on]))["step"]["name"] == "turn-round"
    assert passes(document(log=[level, off, level, off, level, on])) == 3
    found = guide(document(log=[level, off] * 4))
    assert found["passes"] == 4
    assert "Check them" in found["converges"]
    assert guide(document(log=[level, off]))["converges"] is None


def test_before_the_fine_level_the_acts_follow_as_they_stand() -> None:
    """The bob is hung twice: near the mark before the feet are pressed in in, on it after the level."""
    on = saw("bob", spot={"bearing_deg": 0, "distance_mm": 1})
    assert guide(document("plumb-bob", OPTICAL, log=[on]))["step"]["name"] == "press-feet"
    level = saw("plate", level={"along": "2", "across": "1"})
    assert guide(document("plumb-bob", OPTICAL, log=[on, level]))["step"]["name"] == "bob"
    assert guide(document("plumb-bob", OPTICAL, log=[on, level, on]))["step"]["name"] == "turn-round"
    assert (
        guide(document("level-first", log=[saw("slide", spot={**SPOT, "distance_mm": 0.3})]))["step"]["name"] == "plate"
    )


def test_the_head_stands_by_the_eye_and_the_tripod_by_its_own_measure() -> None:
    """1.65 m less 0.08 m for a straight back less 0.25 m of instrument: 1.32 m. Wider feet need longer moves."""
    found = guide(document(eye_height="1.65"), "tripod")
    assert found["advice"]["headline"].startswith("Head at 1.32 m.")
    assert preview(document(eye_height="165"))["faults"][0]["path"] == "observations.eye_height"
    assert guide(document(eye_height="165"), "tripod")["advice"] is None
    bubble = [saw("circular", bubble={"bearing_deg": 240, "offset_mm": 3})]
    legs = [
        guide(document(log=bubble, tripod={"foot_spacing_m": spacing}))["advice"]["result"]["legs"]["C"]
        for spacing in ("0.9", "1.2")
    ]
    # The longest move of a bubble straight over C is d = 1.5·R·T·H/L less what the lean of the legs takes.
    assert legs[1] / legs[0] == pytest.approx(1.2 / 0.9, rel=0.05)


def test_a_shift_sends_back_to_the_level() -> None:
    found = guide(document("shift-by-leg", log=[saw("shift", spot={"bearing_deg": 0, "distance_mm": 20})]))
    assert found["advice"]["kind"] == "shift"
    lines = found["advice"]["lines"]
    assert lines[0].startswith("First draw a pencil line"), "nobody sees the plummet while the leg moves"
    assert found["advice"]["headline"] not in lines, "the first step was said twice"
    # 20 mm to the north is off: the plummet has to come south, so the two southern legs are shortened alike.
    legs = found["advice"]["result"]["legs"]
    assert legs["A"] > 0 or (legs["B"] < 0 and legs["C"] < 0)
    assert found["next"] == "plate"


def test_words_turn_with_the_person() -> None:
    """The plummet points 3 mm east of the mark: slide it west; left for somebody south, right for somebody north."""
    log = [saw("slide", spot=SPOT)]
    south, north = (guide(document(log=log, stand_bearing_deg=stand)) for stand in (180, 0))
    assert "to your left by 3.0 mm" in south["advice"]["headline"]
    assert "to your right by 3.0 mm" in north["advice"]["headline"]
    assert south["site"]["you"] == "between B and C"
    assert north["site"]["you"] == "behind A"


def test_back_on_the_mark_with_the_screws_turns_the_tilt_that_moves_it() -> None:
    """12 mm at 1.45 m: 8.28 mrad; the screws' radius 50 mm: 0.41 mm, 0.59 turns of 0.7 mm for a screw in its line."""
    found = guide(document(log=[saw("back-on", spot={"bearing_deg": 0, "distance_mm": 12})]))
    turns = found["advice"]["result"]["turns"]
    assert abs(turns["1"]) == pytest.approx(12 / 1450 * 50 / 0.7, rel=1e-3)
    assert turns["2"] == pytest.approx(-turns["1"] / 2, rel=1e-3)


def test_a_bubble_is_understood_and_the_wrong_way_is_answered() -> None:
    found = guide(document(log=[saw("circular", bubble={"bearing_deg": 225, "offset_mm": 3})]))
    assert found["advice"]["understood"] == "in the direction of C, about 3.0 mm off the middle"
    assert [leg["leg"] for leg in found["site"]["legs"] if leg["moves"]] == ["B", "C"]
    assert found["step"]["cautions"][0]["code"] == "leg-drops"
    wrong = guide(
        document(log=[{**saw("circular", bubble={"bearing_deg": 225, "offset_mm": 3}), "wrong_direction": True}])
    )
    assert "Turn the drawing" in wrong["advice"]["headline"]


def test_half_of_the_difference_is_for_the_screws() -> None:
    """60″ and 0″, turned −20″ and 0″: the axis leans 40″ along, 20″ are the level's own."""
    level = {"first": {"along": "60", "across": "0"}, "turned": {"along": "-20", "across": "0"}}
    found = guide(document(level=level), "turn-round")
    assert found["advice"]["result"]["tilt_arcsec"] == pytest.approx(40.0)
    assert "20.0″ and 0.0″ is index error" in found["advice"]["understood"]
    assert not found["within_tolerance"]
    good = {"first": {"along": "30", "across": "0"}, "turned": {"along": "10", "across": "0"}}
    assert guide(document(level=good), "turn-round")["within_tolerance"]


def test_a_set_up_by_hand() -> None:
    result = judged(whole())
    figures = result["result"]
    assert (figures["tilt_along_arcsec"], figures["tilt_across_arcsec"]) == (9.0, -1.0)
    assert figures["tilt_arcsec"] == pytest.approx(math.hypot(9, 1))
    assert (figures["index_along_arcsec"], figures["index_across_arcsec"]) == (3.0, 5.0)
    assert figures["height_m"] == pytest.approx(1.5624)
    # The laser proves 0.2 + 1.943·0.5 = 1.17 mm; 10″ over 30 m allow 30 m·10″/ρ = 1.45 mm, 6″ only 0.87 mm.
    assert graded(result) == {"tilt_arcsec": "use", "centring_mm": "use"}
    result = judged(whole().model_copy(update={"work": Work(angle_wanted_arcsec=6)}))
    assert result["verdict"]["grade"] == "watch"
    assert graded(result) == {"tilt_arcsec": "use", "centring_mm": "watch"}
    assert result["verdict"]["parts"][0]["quantity"] == "centring_mm"  # what the grade hangs on stands first
    assert result["finding"]["text"] == "Over PC-14: axis 9.1″ out of plumb, 0.2 mm off the mark and 1.5624 m above it."


def test_what_is_beyond_is_done_again_never_adjusted() -> None:
    result = judged(whole(centring_mm="2.5"))
    assert result["verdict"]["grade"] == "repeat"
    assert "Slide over the mark again" in result["verdict"]["reasons"][0]["text"]
    strict = judged(whole())
    level = {"first": {"along": "12", "across": "4"}, "turned": {"along": "-6", "across": "6"}}
    theodolite = judged(document(instrument=OPTICAL, level=level, centring_mm="0.2", height={"readings": ["1.5"]}))
    # Without a compensator the limit is 10″: 9.06 + 1.943·2.06/√2 = 11.9 is within it as seen, not proved.
    assert [graded(strict)["tilt_arcsec"], graded(theodolite)["tilt_arcsec"]] == ["use", "watch"]


def test_seen_from_one_side_only_it_is_not_proved() -> None:
    one_way = {"first": {"along": "12", "across": "4"}}
    codes = [reason["code"] for reason in judged(whole(level=one_way))["verdict"]["reasons"]]
    assert "not-turned" in codes
    assert "not-confirmed" in codes


def test_a_plate_bubble_gives_its_rest_position() -> None:
    """2 and 1.4 divisions, turned 1 and 1.8: half of the difference is tilt; one vial rests at (1.5 + 1.6)/2."""
    level = {
        "by": "plate",
        "sensitivity_arcsec_per_div": 30,
        "first": {"along": "2", "across": "1.4"},
        "turned": {"along": "1", "across": "1.8"},
    }
    result = judged(whole(level=level, options={"level_type": "plate"}))
    assert result["result"]["rest_div"] == pytest.approx(1.55)
    assert result["result"]["tilt_along_arcsec"] == pytest.approx(15.0)
    assert result["result"]["tilt_across_arcsec"] == pytest.approx(-6.0)
    assert "rests-differ" not in [reason["code"] for reason in result["verdict"]["reasons"]]
    # Two vials have a rest position each: only the first one's is kept.
    two = judged(whole(level=level, options={"level_type": "two-plates"}))
    assert two["result"]["rest_div"] == pytest.approx(1.5)


def test_one_vial_with_two_rest_positions_was_moved_between_the_looks() -> None:
    level = {"by": "plate", "first": {"along": "2", "across": "0"}, "turned": {"along": "1", "across": "0"}}
    result = judged(whole(level=level, options={"level_type": "plate"}))
    found = {reason["code"]: reason["text"] for reason in result["verdict"]["reasons"]}
    assert found["rests-differ"].startswith("The two reversing points differ by 1.5 div")
    assert "rests-differ" not in [
        reason["code"]
        for reason in judged(whole(level=level, options={"level_type": "two-plates"}))["verdict"]["reasons"]
    ]


def test_the_rest_position_last_found_is_taken_unless_one_is_typed() -> None:
    """Bubble at 1.1 and 0.9 with a rest of 1: 0.1 and −0.1 off, 20″ a division; within a fifth of a division each."""
    seen = {"step": "plate", "saw": {"level": {"along": "1.1", "across": "0.9"}}}
    known = {"stored": {"reversal_div": 1.0}}

    def told(**more: Any) -> dict[str, Any]:
        return guide(document(log=[seen], options={"level_type": "plate"}, **more), "plate")

    assert told()["advice"] is not None
    doc = document_of(
        {
            "kind": "set-up",
            "instrument": LASER,
            **known,
            "observations": {
                "method": "plummet-first",
                "mark": {"name": "PC-14"},
                "log": [seen],
                "options": {"level_type": "plate"},
            },
        }
    )
    answer = guide(doc, "plate")
    assert (answer["within_tolerance"], answer["advice"]) == (True, None)
    assert answer["tips"][-1] == {
        "code": "rest-known",
        "text": "Reversing point of this level vial: +1.0 div. Set the bubble there, not to the middle.",
    }
    one_way = {"by": "plate", "first": {"along": "1.1", "across": "0.9"}}
    typed = told(level={**one_way, "rest_div": "1"})
    assert typed["within_tolerance"] is True


def test_heights_that_differ_and_slopes() -> None:
    result = judged(whole(height={"readings": ["1.562", "1.572"]}))
    assert "heights-differ" in [reason["code"] for reason in result["verdict"]["reasons"]]
    slope = judged(whole(height={"readings": ["1.5234"], "radius_mm": 100, "constant_mm": 20}))
    assert slope["result"]["height_m"] == pytest.approx(1.54011, abs=1e-5)


def test_a_level_has_no_point() -> None:
    result = judged(document("no-point", {"kind": "level"}, mark={}, ring_holds="no"))
    assert result["verdict"]["grade"] == "watch"
    assert result["finding"]["text"] == "Level set up: the bubble leaves its ring when turned."
    assert preview(document("no-point", {"kind": "level"}))["missing"] == ["observations.ring_holds"]


@pytest.mark.parametrize(
    ("observed", "path", "wanted"),
    [
        ({"height": {"readings": ["1562"]}}, "observations.height.readings[0]", "units are metres"),
        ({"centring_mm": "1.2.3"}, "observations.centring_mm", "one decimal mark"),
        ({"centring_mm": "-4"}, "observations.centring_mm", "0 to 200"),
        ({"level": {"first": {"along": "9000", "across": "1"}}}, "observations.level.first.along", "-3600 to 3600"),
    ],
)
def test_bad_input_is_named(observed: dict[str, Any], path: str, wanted: str) -> None:
    faults = preview(whole(**observed))["faults"]
    assert [fault["path"] for fault in faults] == [path]
    assert wanted in faults[0]["wanted"]
    with pytest.raises(Refused):
        judged(whole(**observed))


def test_the_door_leads_and_a_check_is_no_set_up() -> None:
    question = '{"verb":"guide","at":"2027-03-02T06:40:00+00:00","document":{"kind":"two-peg","observations":{}}}'
    assert '"wanted":"set-up"' in answer(question)
    stored = {"kind": "set-up", "observations": whole().model_dump(mode="json", exclude_unset=True)["observations"]}
    result = reduce(stored, known(LASER), "2027-03-02T06:40:00+00:00")
    assert result["history_entry"] is None  # later checks do not depend on set-ups
    assert result["result"]["result"]["tilt_along_arcsec"] == 9.0


def test_the_record_says_how_it_came_about() -> None:
    found = whole(
        tripod_tag="TR-02",
        tripod_material="wood",
        zero={"target": "QB-2", "reading": "12.3456", "counts": "anticlockwise"},
        log=[saw("plate", level={"along": "2", "across": "1"}), saw("slide", spot={**SPOT, "distance_mm": 0.2})],
    )
    placed = found.model_copy(
        update={
            "conditions": found.conditions.model_copy(
                update={"ground": "grass", "wind": "breeze", "temperature_c": 7.5}
            )
        }
    )
    rows = {value["label"]: value["text"] for value in judged(placed)["result"]["details"]}
    assert rows == {
        "Method": "Plummet first, then the legs, by the electronic level",
        "Set up on": "tripod TR-02 of wood and grass",
        "Weather": "7.5 °C and a breeze",
        "Passes of levelling and centring": "1",
        "Start on QB-2": "12.3456, counted anticlockwise",
    }


@pytest.mark.parametrize("typed", ["80", "-80", "30000", "1e9"])
@pytest.mark.parametrize("level_type", ["plate", "two-plates"])
def test_seconds_typed_for_divisions_are_answered_and_stop_nothing(typed: str, level_type: str) -> None:
    """A plate vial has no such division: whoever types it is told what is wanted, at every step."""
    for step in ("plate", "ring-round", "slide"):
        log = [saw(step, level={"along": typed, "across": "1"})]
        found = guide(document(options={"level_type": level_type}, log=log), step)
        assert found["advice"] is None or "divisions, at most 40" in found["advice"]["headline"]


def test_a_reversing_point_that_cannot_be_is_answered_alike() -> None:
    log = [saw("plate", level={"along": "2", "across": "1"})]
    found = guide(document(options={"level_type": "plate"}, level={"by": "plate", "rest_div": "90"}, log=log), "plate")
    assert "divisions, at most 40" in found["advice"]["headline"]


@pytest.mark.parametrize("step", ["circular", "circular-screws", "plate", "shift", "slide", "near", "over", "back-on"])
@pytest.mark.parametrize("method", ["plummet-first", "level-first", "shift-by-leg", "four-screws"])
def test_no_step_says_its_first_act_twice(method: str, step: str) -> None:
    """The act in front stands in no line below it, with or without how much it is."""
    seen = {
        "bubble": {"bearing_deg": 220, "offset_mm": 3.9},
        "level": {"along": "80", "across": "-60"},
        "spot": {"bearing_deg": 90, "distance_mm": 12},
    }
    for what, value in seen.items():
        advice = guide(document(method, log=[saw(step, **{what: value})]), step)["advice"]
        if advice:
            assert not [line for line in advice["lines"] if line.startswith(advice["headline"])]
