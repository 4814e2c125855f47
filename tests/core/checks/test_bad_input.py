"""What goes wrong when checks of rows are typed: named where it stands, with what is wanted; nothing falls over."""

from __future__ import annotations

import random
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused
from naveta_sim import simulate

from .simulated import Data, codes, previewed, reduced

FOUR = (0, 90, 180, 270)


def simulated(kind: str, seed: int = 1, **truth: Any) -> Data:
    return simulate(kind, random.Random(seed), truth)


def faults(document: Data) -> list[tuple[str, str]]:
    return [(fault["path"], fault["wanted"]) for fault in previewed(document)["faults"]]


def rows(document: Data, name: str = "readings") -> list[Data]:
    return document["observations"][name]


@pytest.mark.parametrize("kind", ["circular-vial", "plate-vial", "dual-axis-level", "pole-vial"])
def test_headings_must_be_opposite(kind: str) -> None:
    document = simulated(kind, headings=(0, 60))
    ((path, wanted),) = faults(document)
    assert path == "observations.readings"
    assert "180° apart" in wanted


def test_marks_at_one_heading_only() -> None:
    document = simulated("plummet", headings=(0, 0, 0))
    ((path, wanted),) = faults(document)
    assert path == "observations.sets[0].marks"
    assert "cannot separate the offset from the axis" in wanted


def test_a_plummet_in_the_base_is_not_offered_a_half_turn() -> None:
    document = simulated("plummet", headings=(0, 180))
    document["observations"]["place"] = "tribrach"
    ((path, wanted),) = faults(document)
    assert path == "observations.method"
    assert "Turn the tribrach by 120°" in wanted
    # What the server knows of the instrument counts as much as what was said.
    document["observations"].pop("place")
    document["instrument"] = {"plummet_place": "tribrach"}
    assert faults(document)[0][0] == "observations.method"


@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"two-peg"}))
def test_every_way_begins_incomplete_and_says_what_is_missing_in_reading_order(kind: str) -> None:
    for way in KINDS[kind].methods:
        found = previewed({"kind": kind, "units": {"length": way.unit or "m"}, "observations": way.observations})
        assert not found["complete"], way.name
        assert found["faults"] == [], way.name
        assert found["missing"], way.name
        assert found["progress"]["next"]["path"] == found["missing"][0]


@pytest.mark.parametrize("kind", sorted(set(KINDS) - {"two-peg"}))
def test_a_spoiled_figure_is_named_where_it_stands_and_nothing_else_is(kind: str) -> None:
    document = simulated(kind, headings=FOUR)

    def first(held: Any, path: str) -> tuple[Any, Any, str]:
        """The first figure typed that is read: its holder, its key, its path."""
        for key, entry in held.items() if isinstance(held, dict) else enumerate(held):
            there = f"{path}[{key}]" if isinstance(held, list) else f"{path}.{key}"
            if (
                isinstance(entry, str)
                and entry[:1] in "-0123456789"
                and key not in ("heading_deg", "distance_m", "target")
            ):
                return held, key, there
            if isinstance(entry, dict | list) and (found := first(entry, there))[2]:
                return found
        return None, None, ""

    held, key, path = first(document["observations"], "observations")
    held[key] = "1.2.3"
    ((where, wanted),) = faults(document)
    assert where == path
    assert wanted == "a number with one decimal mark"
    held[key] = ""
    assert path in previewed(document)["missing"]
    with pytest.raises(Refused) as caught:
        reduced(document)
    assert path in [fault.path for fault in caught.value.faults]


def test_a_typed_unit_wins_and_a_size_beyond_reason_is_refused() -> None:
    document = simulated("plummet", headings=(0, 180), noise=0.0, axis_mm=(2.0, 1.0), offset_mm=(1.0, 0.0))
    plain = reduced(document)["result"]["offset_mm"]
    mark = document["observations"]["sets"][0]["marks"][0]
    mark["x_mm"] = f"{float(mark['x_mm']) / 10:g} cm"
    assert reduced(document)["result"]["offset_mm"] == pytest.approx(plain)
    mark["x_mm"] = "300"
    assert faults(document)[0][1] == "millimetres from −200 to 200. Did you mean 30.0?"
    level = simulated("dual-axis-level", headings=(0, 180))
    rows(level)[0]["along_arcsec"] = "1.5'"
    assert previewed(level)["faults"] == []
    rows(level)[0]["along_arcsec"] = "2°"
    assert faults(level)[0][1] == "seconds from −3600 to 3600"


def test_figures_in_the_wrong_unit_are_known_by_their_size() -> None:
    marks = simulated("plummet", headings=FOUR, offset_mm=(1.0, 0.5))
    for mark in marks["observations"]["sets"][0]["marks"]:
        mark["x_mm"], mark["y_mm"] = (f"{float(mark[name]) / 1000:.4f}" for name in ("x_mm", "y_mm"))
    result = reduced(marks)
    assert result["verdict"]["grade"] == "repeat"
    assert "looks-like-metres" in codes(result)
    level = simulated("dual-axis-level", headings=(0, 180), index_arcsec=(12, 9))
    for row in rows(level):
        for name in ("along_arcsec", "across_arcsec"):
            row[name] = f"{float(row[name]) / 3600:.4f}"
    assert "looks-like-degrees" in codes(reduced(level))


def test_a_staff_whose_tape_was_read_elsewhere() -> None:
    document = simulated("staff")
    rows(document, "sections")[2]["tape"] = "1.100"
    ((path, wanted),) = faults(document)
    assert path == "observations.sections[2]"
    assert "same place" in wanted
    short = simulated("staff", lengths=(1.0, 1.1, 1.2))
    assert "along the whole staff" in faults(short)[0][1]
    alike = simulated("tape", lengths=(28.0, 29.0, 30.0))
    assert "a short one" in faults(alike)[0][1]


def test_a_vial_without_its_sensitivity_is_asked_for_it() -> None:
    document = simulated("plate-vial")
    document["observations"].pop("sensitivity_arcsec_per_div")
    assert previewed(document)["missing"] == ["observations.sensitivity_arcsec_per_div"]
    document["instrument"] = {"plate_vial_arcsec_per_div": 30}
    assert previewed(document)["complete"]


def test_a_bubble_that_stands_apart_is_named_and_nothing_is_concluded() -> None:
    document = simulated("plate-vial", seed=3, rest_div=0.2, headings=(0, 90, 180, 270, 0, 90, 180, 270), noise=0.6)
    assert reduced(document)["verdict"]["grade"] == "use"
    rows(document)[5]["bubble_div"] = str(float(rows(document)[5]["bubble_div"]) + 3)
    result = reduced(document)
    assert result["verdict"]["grade"] == "repeat"
    assert "sixth reading" in next(
        reason["text"] for reason in result["verdict"]["reasons"] if reason["code"] == "outlier"
    )


def test_detection_rates_of_a_mistyped_figure() -> None:
    """A mark of four 3 mm off, a bubble of eight 2 div off, a reading of five 4 mm off: said, by how often."""
    rng = random.Random(11)
    found = {"plummet": 0, "plate-vial": 0, "compensator-function": 0}
    false = dict.fromkeys(found, 0)
    for _ in range(60):
        for kind in found:
            headings = {"plate-vial": FOUR * 2, "plummet": FOUR}.get(kind, ())
            document = simulate(kind, rng, {"headings": headings} if headings else {})
            false[kind] += bool({"outlier", "set-aside", "scatter"} & set(codes(reduced(document))))
            if kind == "plummet":
                mark = document["observations"]["sets"][0]["marks"][rng.randrange(4)]
                mark["x_mm"] = f"{float(mark['x_mm']) + 3:.1f}"
            elif kind == "plate-vial":
                row = rows(document)[rng.randrange(8)]
                row["bubble_div"] = f"{float(row['bubble_div']) - 2:.1f}"
            else:
                group = document["observations"]["positions"]["left"]
                group[2] = f"{float(group[2]) + 0.008:.4f}"
            result = reduced(document)
            messages = {"outlier", "set-aside", "scatter"} & set(codes(result))
            found[kind] += bool(messages)
    print(f"of 60 each found: {found}; cried wolf on good ones: {false}")
    assert min(found.values()) >= 54
    assert max(false.values()) <= 4


@pytest.mark.parametrize("minutes", [0, 1, 2.5])
def test_a_cold_electronic_level_must_wait(minutes: float) -> None:
    document = simulated("dual-axis-level", headings=(0, 180))
    document["conditions"] = {"minutes_on": minutes}
    result = reduced(document)
    assert (result["verdict"]["grade"], codes(result)[0]) == ("repeat", "not-warm")
    assert [look["code"] for look in previewed(document)["progress"]["looks"]] == ["not-warm"]


def test_wind_makes_the_finding_less_sure_and_says_by_how_much() -> None:
    document = simulated("circular-vial", headings=FOUR)
    calm = reduced({**document, "conditions": {"wind": "calm"}})["verdict"]["parts"][0]
    strong = reduced({**document, "conditions": {"wind": "strong"}})
    assert strong["verdict"]["parts"][0]["sigma"] > 1.2 * calm["sigma"]
    assert "2 times as much" in next(
        reason["text"] for reason in strong["verdict"]["reasons"] if reason["code"] == "wind"
    )


def test_a_step_of_temperature_since_the_last_check_is_said() -> None:
    document = simulated("plate-vial")
    earlier = {
        "check": "plate-vial",
        "at": "2027-02-01T07:00:00+00:00",
        "grade": "use",
        "result": {},
        "temperature_c": 19,
    }
    fields = {
        **document,
        "conditions": {"temperature_c": 4},
        "before": [earlier],
        "before_at": "2027-03-02T07:00:00+00:00",
    }
    assert "15 K colder" in next(
        reason["text"] for reason in reduced(fields)["verdict"]["reasons"] if reason["code"] == "temperature-step"
    )


def test_the_row_that_stands_apart_is_marked_where_it_was_typed() -> None:
    document = simulated("plummet", seed=5, headings=(0, 45, 90, 135, 180, 225, 270, 315), noise=0.6)
    document["observations"]["sets"][0]["marks"][3]["y_mm"] = "40"
    found = previewed(document)
    assert found["progress"]["outlier"]["path"] == "observations.sets[0].marks[3]"
    assert "Mark it again" in found["progress"]["outlier"]["text"]


def test_two_opposite_headings_say_something_before_the_others_are_in() -> None:
    document = simulated(
        "circular-vial", error_mm=(1.0, 0.0), tilt_mm=(0.0, 0.0), headings=(0, 180, 90, 270), noise=0.0
    )
    for row in rows(document)[2:]:
        row["x_mm"] = row["y_mm"] = ""
    found = {message["code"]: message["text"] for message in previewed(document)["progress"]["messages"]}
    assert "reversing point 1.0 mm right" in found["running"]


def test_what_a_check_depends_on_is_asked_for_first_where_the_history_is_known() -> None:
    document = simulated("compensator-function")
    assert "fresh-first" not in codes(reduced(document)), "a bare document has no history to miss"
    known = {**document, "before_at": "2027-03-02T07:00:00+00:00"}
    assert "circular level has no recent pass" in previewed(known)["progress"]["messages"][-1]["text"]
    passed = {"check": "circular-vial", "at": "2027-02-20T07:00:00+00:00", "grade": "use", "result": {}}
    assert "fresh-first" not in codes(reduced({**known, "before": [passed]}))
    old = {**passed, "at": "2026-12-20T07:00:00+00:00"}
    assert "fresh-first" in codes(reduced({**known, "before": [old]}))
