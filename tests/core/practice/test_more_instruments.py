"""Circular levels, a tribrach, a compensator, a trunnion axis, a circle that counts the other way: each found by its check."""

from __future__ import annotations

import json
import math
from collections.abc import Callable
from typing import Any

import pytest

from naveta_practice.dispatch import answer
from naveta_practice.instruments import axis, circles, paper, ring, staff
from naveta_practice.instruments.hidden import hidden_of

from .test_instruments import asked
from .test_other_instruments import degrees, judged, sheet, truth, typed

Data = dict[str, Any]


def seen(lesson: str, seed: int, aim: Data, turns: Data) -> Data:
    return dict(asked("practice-look", lesson=lesson, seed=seed, aim=aim, turns=turns))


def bubbles(lesson: str, seed: int, turns: Data) -> Data:
    """The middle of the bubble at every heading, to a tenth of a millimetre, as an eye reads it."""
    document = sheet(lesson)
    for row in document["observations"]["readings"]:
        look = seen(lesson, seed, {"heading_deg": float(row["heading_deg"])}, turns)
        row["x_mm"], row["y_mm"] = f"{look['x_mm']:.1f}", f"{look['y_mm']:.1f}"
    return document


def thirds(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    focus = paper.scene_of(hidden_of(lesson, seed)).focus
    for row in document["observations"]["sets"][0]["marks"]:
        look = seen(lesson, seed, {"heading_deg": float(row["heading_deg"]), "focus": focus}, turns)
        row["x_mm"], row["y_mm"] = f"{look['x_mm']:.1f}", f"{look['y_mm']:.1f}"
    return document


def to_the_sides(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    focus = staff.scene_of(hidden_of(lesson, seed)).focus[30.0]
    for place, readings in document["observations"]["positions"].items():
        look = seen(lesson, seed, {"place": place, "focus": focus}, turns)
        document["observations"]["positions"][place] = [f"{look['middle_m']:.4f}" for _ in readings]
    return document


def pointed(lesson: str, seed: int, aim: Data, turns: Data) -> Data:
    """Both circles once the hairs are on a target, found by what is seen alone."""
    aim = {**aim, "focus": circles.scene_of(hidden_of(lesson, seed)).focus}
    for _ in range(5):
        look = seen(lesson, seed, aim, turns)
        across = math.sin(math.radians(degrees(look["v_text"])))
        up = look["up_arcsec"] if aim["face"] == "left" else -look["up_arcsec"]
        aim |= {
            "hz_arcsec": look["hz_arcsec"] + look["right_arcsec"] / abs(across),
            "v_arcsec": look["v_arcsec"] - up,
        }
    return look


def two_targets(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    for target, block in zip(("level", "steep"), document["observations"]["targets"], strict=True):
        for face in ("left", "right"):
            look = pointed(lesson, seed, {"face": face, "target": target}, turns)
            for row in block[face]:
                row["hz"], row["v"] = typed(look["hz_text"]), typed(look["v_text"])
    return document


def shown_level(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    for row in document["observations"]["readings"]:
        look = seen(lesson, seed, {"heading_deg": float(row["heading_deg"])}, turns)
        row["along_arcsec"], row["across_arcsec"] = look["along_text"], look["across_text"]
    return document


def by_eye_and_by_itself(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    for how in ("manual", "auto"):
        for face, rows in document["observations"]["targets"][0][how].items():
            aim = {"face": face, "how": how}
            look = seen(lesson, seed, aim, turns) if how == "auto" else pointed(lesson, seed, aim, turns)
            for row in rows:
                row["hz"], row["v"] = typed(look["hz_text"]), typed(look["v_text"])
    return document


def two_rounds(lesson: str, seed: int, turns: Data) -> Data:
    """The circle set on by 60° between the rounds, as it is held and let go on the page."""
    document = sheet(lesson)
    for number, each in enumerate(document["observations"]["rounds"]):
        for row in each["pointings"]:
            aim = {"face": row["face"], "target": row["target"], "zero_arcsec": 216_000.0 * number}
            look = pointed(lesson, seed, aim, turns)
            row["hz"], row["v"] = typed(look["hz_text"]), typed(look["v_text"])
    return document


def on_scale(rows_of: str, known: str, reads: str) -> Callable[[str, int, Data], Data]:
    def read(lesson: str, seed: int, turns: Data) -> Data:
        document = sheet(lesson)
        for row in document["observations"][rows_of]:
            row[reads] = f"{seen(lesson, seed, {'place': row[known]}, turns)['mark_m']:.4f}"
        return document

    return read


def pairs_of_staffs(lesson: str, seed: int, turns: Data) -> Data:
    """Both staffs to the millimetre, the level lifted and set again before each pair."""
    document = sheet(lesson)
    focus = staff.scene_of(hidden_of(lesson, seed)).focus
    for place, each in zip(("middle", "near-a"), document["observations"]["sets"], strict=True):
        for again, pair in enumerate(each["pairs"]):
            for name in ("a", "b"):
                sharp = focus[staff.DISTANCES_M[place][name]]
                aim = {"place": place, "staff": name, "focus": sharp, "again": again}
                pair[name] = f"{seen(lesson, seed, aim, turns)['middle_m']:.3f}"
    return document


def sets_of_directions(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    for again, each in enumerate(document["observations"]["series"][0]["sets"]):
        for face in ("left", "right"):
            for row in each[face]:
                look = pointed(lesson, seed, {"face": face, "target": row["target"], "again": again}, turns)
                row["reading"] = typed(look["hz_text"])
    return document


def turned_by_hand(lesson: str, seed: int, turns: Data) -> Data:
    document = sheet(lesson)
    names = {"free_mm": "free", "loaded_mm": "turned", "released_mm": "let-go"}
    for again, each in enumerate(document["observations"]["rounds"]):
        for field, place in names.items():
            mark = seen(lesson, seed, {"place": place, "again": again}, turns)["mark_m"]
            each[field] = f"{1000 * mark:.1f}"
    return document


READ: dict[str, Callable[[str, int, Data], Data]] = {
    "round-bubble": bubbles,
    "pole": bubbles,
    "tribrach-plummet": thirds,
    "compensator": to_the_sides,
    "steep-target": two_targets,
    "electronic-level": shown_level,
    "tracker": by_eye_and_by_itself,
    "rounds": two_rounds,
    "staff": on_scale("sections", "graduation", "tape"),
    "tape": on_scale("lengths", "known", "reads"),
    "tripod": turned_by_hand,
    "levelling-accuracy": pairs_of_staffs,
    "direction-accuracy": sets_of_directions,
}


@pytest.mark.parametrize("lesson", READ)
@pytest.mark.parametrize("seed", range(10))
def test_found_adjusted_and_tested_again(lesson: str, seed: int) -> None:
    """What can be turned is turned to nothing and tested again; a good one, or one without a screw, is left alone."""
    hidden = hidden_of(lesson, seed)
    found = READ[lesson](lesson, seed, {})
    bad = [error for error in hidden.errors.values() if not error.good and error.spec.screw]
    turns = {name: turn for name, turn in clear_of(lesson, seed).items() if name in {e.spec.screw for e in bad}}
    left = {"turns": turns, "left": READ[lesson](lesson, seed, turns)} if turns else {}
    outcome = judged(lesson, seed, found, **left)
    assert outcome["passed"], (outcome["headline"], outcome["otherwise"], outcome["errors"])
    for error, spec in zip(outcome["errors"], hidden.errors.values(), strict=True):
        assert error["found"] == pytest.approx(spec.value, abs=spec.spec.within)


def clear_of(lesson: str, seed: int) -> dict[str, float]:
    """Turns that take away what has a screw, the play of a worn one taken up; or the value that is stored."""
    hidden = hidden_of(lesson, seed)
    stored = {screw.name for screw in hidden.lesson.screws if screw.stores}
    wanted = {error.spec.screw: -error.value / error.per_turn for error in hidden.errors.values() if error.spec.screw}
    return {
        name: turn if name in stored else turn + math.copysign(hidden.play / 2, turn) for name, turn in wanted.items()
    }


@pytest.mark.parametrize("seed", range(6))
def test_the_bubble_of_a_circular_level_by_hand(seed: int) -> None:
    """The mean of two readings half a turn apart is the vial's own; half of what they differ by is the tilt, which stays in
    space: 240″ run it 1 mm for 8′ per 2 mm."""
    here, round_ = (seen("round-bubble", seed, {"heading_deg": heading}, {}) for heading in (0, 180))
    assert not here["at_end"]
    assert (here["x_mm"] + round_["x_mm"]) / 2 == pytest.approx(
        truth("round-bubble", seed, "vial_error_x_mm"), abs=0.03
    )
    tilt = axis.tilt_of(hidden_of("round-bubble", seed), ring.MAX_TILT_ARCSEC)
    assert (here["x_mm"] - round_["x_mm"]) / 2 == pytest.approx(tilt[0] / 240.0, abs=0.03)
    assert (here["y_mm"] - round_["y_mm"]) / 2 == pytest.approx(tilt[1] / 240.0, abs=0.03)
    moved = seen("round-bubble", seed, {"heading_deg": 0}, {"third": 0.1})
    assert moved["x_mm"] - here["x_mm"] == pytest.approx(60.0 / 240.0, abs=0.03)
    far = seen(
        "round-bubble",
        seed,
        {"heading_deg": 0},
        {"third": math.copysign(2.0, here["x_mm"]), "pair": math.copysign(2.0, here["y_mm"])},
    )
    assert far["at_end"]
    assert math.hypot(far["x_mm"], far["y_mm"]) == pytest.approx(ring.END_MM, abs=0.05)


@pytest.mark.parametrize("seed", range(6))
def test_a_compensator_that_hangs_moves_the_sight_along_it_and_not_across(seed: int) -> None:
    focus = staff.scene_of(hidden_of("compensator", seed)).focus[30.0]
    at = {
        place: seen("compensator", seed, {"place": place, "focus": focus}, {})["middle_m"]
        for place in ("centre", "toward", "away", "left", "right")
    }
    shift = math.tan(truth("compensator", seed, "fore_and_aft_arcsec") / 206264.806) * 30.0
    assert at["toward"] - at["centre"] == pytest.approx(shift, abs=3e-4)
    assert at["away"] - at["centre"] == pytest.approx(-shift, abs=3e-4)
    assert at["left"] == pytest.approx(at["centre"], abs=3e-4)


def test_a_hanging_compensator_goes_to_service() -> None:
    seed = next(n for n in range(1, 99) if abs(truth("compensator", n, "fore_and_aft_arcsec")) > 12.0)
    outcome = judged("compensator", seed, to_the_sides("compensator", seed, {}))
    assert outcome["passed"]
    assert "send it to service" in outcome["otherwise"]


def test_a_circle_that_counts_the_other_way_finds_the_same() -> None:
    """Turned to the right by a degree it reads a degree less; c is still what face left reads too much."""
    both = {circles.scene_of(hidden_of("two-faces", n)).anticlockwise: n for n in range(1, 30)}
    for anticlockwise, seed in both.items():
        look = pointed("two-faces", seed, {"face": "left"}, {})
        aim = {"face": "left", "hz_arcsec": look["hz_arcsec"] + 3600.0, "v_arcsec": look["v_arcsec"]}
        further = seen("two-faces", seed, aim, {})
        moved = (degrees(further["hz_text"]) - degrees(look["hz_text"]) + 180.0) % 360.0 - 180.0
        assert moved == pytest.approx(-1.0 if anticlockwise else 1.0, abs=1e-6)
        assert look["counts"] == ("anticlockwise" if anticlockwise else "clockwise")
        right = pointed("two-faces", seed, {"face": "right"}, {})
        c = ((degrees(look["hz_text"]) - degrees(right["hz_text"])) % 360.0 - 180.0) * 1800.0
        zenith = math.sin(math.radians(degrees(look["v_text"])))
        assert c * zenith == pytest.approx(truth("two-faces", seed, "collimation_arcsec"), abs=2.5)
    assert len(both) == 2


@pytest.mark.parametrize("seed", range(6))
def test_an_electronic_level_by_hand(seed: int) -> None:
    """Half of the sum of two readings half a turn apart is the index; beyond its range it shows nothing."""
    here, round_ = (seen("electronic-level", seed, {"heading_deg": heading}, {}) for heading in (0, 180))
    index = (number(here["along_text"]) + number(round_["along_text"])) / 2
    assert index == pytest.approx(truth("electronic-level", seed, "index_along_arcsec"), abs=1.5)
    far = seen("electronic-level", seed, {"heading_deg": 0}, {"third": 2.0})
    assert (far["in_range"], far["along_text"], far["across_text"]) == (False, "", "")


def number(text: str) -> float:
    return float(text.replace("−", "-"))


@pytest.mark.parametrize("seed", range(6))
def test_a_staff_beside_a_tape_by_hand(seed: int) -> None:
    """A foot worn by z shows every mark z nearer, divisions too short by s ppm the mark at 3 m nearer by 3s/1000 mm."""
    at = {mark: seen("staff", seed, {"place": mark}, {})["mark_m"] for mark in ("0.1", "3")}
    zero, scale = truth("staff", seed, "zero_offset_mm"), truth("staff", seed, "scale_ppm")
    assert (0.1 - at["0.1"]) * 1000 == pytest.approx(zero, abs=0.2)
    assert (3.0 - at["3"]) * 1000 == pytest.approx(zero + 3 * scale / 1000, abs=0.2)
    for mark in ("0.5", "2.5"):
        look = seen("staff", seed, {"place": mark}, {})
        assert look["lowest_m"] < look["mark_m"] < look["highest_m"]


@pytest.mark.parametrize(
    ("lesson", "aim", "path"),
    [
        ("tracker", {"target": "moon"}, "aim.target"),
        ("rounds", {"target": "3"}, "aim.target"),
        ("tape", {"place": "7"}, "aim.place"),
        ("electronic-level", {"heading_deg": 400}, "aim.heading_deg"),
    ],
)
def test_what_cannot_be_aimed_at_is_refused(lesson: str, aim: Data, path: str) -> None:
    query = {"verb": "practice-look", "lesson": lesson, "seed": 1, "aim": aim}
    refused = json.loads(answer(json.dumps(query)))
    assert [fault["path"] for fault in refused["faults"]] == [path]
