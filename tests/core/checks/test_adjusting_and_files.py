"""Adjusting by the numbers, tables and schemas of the checks of rows, and what later work depends on."""

from __future__ import annotations

import json
import math
import random
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.documents.json_io import plain
from naveta_core.errors import Refused
from naveta_core.registry import parse
from naveta_core.results import Adjusting, Preview, Result
from naveta_core.setup.document import SetUpDocument
from naveta_core.setup.tips import tips
from naveta_sim import simulate
from tests.core.plain import adjusting_of, guide, made_check, preview_set_up

from ..plain import before_of, context_of, rest_of
from .simulated import DRAWS, Data, codes, part, reduced

ROWS = sorted(set(KINDS) - {"two-peg"})
FOUR = (0, 90, 180, 270)


def simulated(kind: str, seed: int = 1, **truth: Any) -> Data:
    return simulate(kind, random.Random(seed), truth)


@pytest.mark.parametrize("kind", list(KINDS))
def test_answers_are_built_by_their_models_and_leave_as_plain_data(kind: str) -> None:
    rng = random.Random(kind)
    draw = DRAWS.get(kind, lambda _: ({"collimation_arcsec": 12.0}, {}))
    for _ in range(8):
        truth, _wanted = draw(rng)
        document = parse(json.dumps(simulate(kind, rng, truth)).encode())
        result = KINDS[kind].reduce(document)
        assert isinstance(result, Result)
        data = result.plain()
        assert json.loads(json.dumps(data)) == data
        assert type(result.result).model_validate(data["result"]) == result.result
        assert KINDS[kind].preview(document).reduced == result
    empty = parse(json.dumps({"kind": kind, "observations": {}}).encode())
    assert isinstance(KINDS[kind].preview(empty), Preview)


@pytest.mark.parametrize("kind", ROWS)
def test_tables_come_back_as_the_documents_they_were(kind: str) -> None:
    rng = random.Random(f"table {kind}")
    truth, _ = DRAWS[kind](rng)
    document = simulate(kind, rng, truth)
    text = KINDS[kind].write_csv(parse(json.dumps(document).encode()))
    back = KINDS[kind].read_csv(text)
    again = {**document, "units": back.get("units", {}), "observations": back["observations"]}
    assert reduced(again)["result"] == reduced(document)["result"]
    typed = plain(parse(json.dumps(document).encode()))["observations"]
    assert {**back["observations"], **typed} == back["observations"], "and what was taken for granted is written too"
    swapped = text.replace(",", ";")
    assert KINDS[kind].read_csv(swapped) == back, "semicolons will do"


@pytest.mark.parametrize("kind", ROWS)
def test_a_schema_says_every_field_and_refuses_others(kind: str) -> None:
    schema = KINDS[kind].document.model_json_schema()
    (named,) = [model["properties"] for name, model in schema["$defs"].items() if name.endswith("Observations")]
    for method in KINDS[kind].methods:
        assert set(method.observations) <= set(named)
    with pytest.raises(Refused) as caught:
        parse(json.dumps({"kind": kind, "observations": {"colour": "green"}}).encode())
    assert caught.value.faults[0].path == "observations.colour"


def test_every_kind_says_why_how_long_and_what_to_bring() -> None:
    for kind in KINDS.values():
        about = kind.about()
        assert about["why"].endswith("."), kind.name
        assert about["minutes"] > 0
        assert about["bring"]
        assert [step["code"] for step in about["when_bad"]] == ["real", "keep", "adjust", "without", "impact-review"]
        for method in about["methods"]:
            assert method["steps"], method["name"]
            for group in method["groups"]:
                assert group["fields"], (kind.name, method["name"])
    assert [kind.order for kind in KINDS.values()] == sorted(kind.order for kind in KINDS.values())


class TestAdjusting:
    def ask(self, kind: str, document: Data, *reads_now: str) -> Data:
        adjusting = adjusting_of(kind, parse(json.dumps(document).encode()), list(reads_now))
        Adjusting.model_validate(adjusting)
        return adjusting

    def plummet(self) -> Data:
        """Axis at 3, 2; offset 2 right at heading 0, so that the last mark, at 270°, lies at 3, 4."""
        return simulated("plummet", offset_mm=(2.0, 0.0), axis_mm=(3.0, 2.0), noise=0.0)

    def test_a_plummet_goes_to_the_axis_one_axis_at_a_time(self) -> None:
        answer = self.ask("plummet", self.plummet(), "3.0 3.1", "3.0 2.1", "3.4 2.1")
        assert (answer["from_text"], answer["target_text"], answer["allowed"]) == ("3.0, 4.0", "3.0, 2.0", True)
        first, second, third = answer["steps"]
        assert first["left"] == pytest.approx(1.1)
        assert "to 3.0, 2.0" in first["text"], "where the next turn should bring it"
        assert second["done"]
        assert not third["done"]
        assert "Wrong direction" in third["text"]

    def test_what_is_no_point_is_refused_by_its_place(self) -> None:
        with pytest.raises(Refused) as caught:
            self.ask("plummet", self.plummet(), "3.0 3.1", "3.0")
        assert (caught.value.faults[0].path, caught.value.faults[0].wanted[:11]) == ("reads_now[1]", "two numbers")

    def test_a_point_far_away_is_asked_about(self) -> None:
        assert "same paper" in self.ask("plummet", self.plummet(), "80 2")["steps"][0]["text"]

    def test_a_laser_without_screws_is_not_turned(self) -> None:
        document = {**self.plummet(), "instrument": {"plummet": "laser"}}
        assert not self.ask("plummet", document)["allowed"]
        assert reduced(document)["verdict"]["grade"] == "service"
        mine = {**document, "instrument": {"plummet": "laser", "plummet_adjustable": True}}
        assert reduced(mine)["verdict"]["grade"] == "adjust"

    def test_a_plate_bubble_goes_from_its_rest_to_the_middle(self) -> None:
        document = simulated("plate-vial", rest_div=-1.6, tilt_arcsec=(0.0, 0.0), noise=0.0)
        answer = self.ask("plate-vial", document, "-0.8", "0.1")
        assert answer["from_text"] == "1.6 div left of the middle"
        assert [step["done"] for step in answer["steps"]] == [False, True]

    def test_a_circular_bubble_goes_to_the_middle(self) -> None:
        document = simulated("circular-vial", error_mm=(2.0, -1.0), headings=FOUR, noise=0.0)
        answer = self.ask("circular-vial", document, "0.9 -0.4", "0.0 0.1")
        assert answer["from_text"] == "2.0 mm right and 1.0 mm towards you"
        assert [step["done"] for step in answer["steps"]] == [False, True]


class TestWhatFollows:
    AT = "2027-03-02T07:00:00+00:00"

    def made(self, kind: str, at: str = AT, stage: str = "as-found", **truth: Any) -> Data:
        document = simulated(kind, **truth)
        return made_check(document, reduced(document), at, stage)

    def test_rest_positions_and_corrections_are_given_to_the_next_set_up(self) -> None:
        rows = [
            self.made("plate-vial", rest_div=-1.2, noise=0.0),
            self.made("dual-axis-level", index_arcsec=(7.0, -3.0), headings=FOUR, noise=0.0),
            self.made("plummet", offset_mm=(1.0, 0.0), noise=0.0),
        ]
        rest = rest_of(rows)
        assert rest["reversal_div"] == pytest.approx(-1.2, abs=0.06)
        assert (rest["index_along_arcsec"], rest["index_across_arcsec"]) == (
            pytest.approx(7, abs=0.6),
            pytest.approx(-3, abs=0.6),
        )
        assert rest["plummet_x_mm"] == pytest.approx(1.0, abs=0.06)
        knocked = rest_of([*rows, {"what": "event", "event": "knock", "at": self.AT}])
        assert knocked == {}
        adjusted = rest_of([*rows, {"what": "event", "event": "adjusted", "kind": "plummet", "at": self.AT}])
        assert "plummet_x_mm" not in adjusted
        assert adjusted["reversal_div"] == rest["reversal_div"], "turning the plummet leaves the vial alone"

    def test_an_adjustment_cuts_only_what_was_adjusted(self) -> None:
        rows = [
            self.made("plate-vial"),
            self.made("plummet"),
            {"what": "event", "event": "adjusted", "kind": "plummet", "at": self.AT},
        ]
        assert [earlier["check"] for earlier in before_of(rows)] == ["plate-vial"]
        left = self.made("plummet", stage="as-left")
        assert [earlier["check"] for earlier in before_of([*rows[:2], left])] == ["plummet", "plate-vial"]

    def test_noise_is_learned_by_kind(self) -> None:
        rows = [self.made("plummet", seed=i, headings=FOUR * 2) for i in range(4)]
        known = context_of({"kind": "theodolite"}, {}, rows)
        assert set(known.noise) == {"plummet"}

    def set_up(self, **stored: float) -> SetUpDocument:
        data = {
            "kind": "set-up",
            "stored": stored,
            "observations": {
                "method": "plummet-first",
                "mark": {"name": "PC-07"},
                "options": {"level_type": "electronic"},
                "level": {"by": "electronic", "first": {"along": "7", "across": "-3"}},
                "centring_mm": "0.3",
                "height": {"readings": ["1.562", "1.562"]},
                "zero": {"reading": "0.0000"},
                "final_check_done": True,
            },
        }
        document = parse(json.dumps(data).encode())
        assert isinstance(document, SetUpDocument)
        return document

    def test_a_known_index_is_given_at_the_act_and_taken_off_one_look(self) -> None:
        known = self.set_up(index_along_arcsec=7.0, index_across_arcsec=-3.0, sigma_index_arcsec=1.0)
        found = {hint.code: hint.text for hint in tips(known, "plate")}
        assert "+7″ along and −3″ across" in found["index-known"]
        blind, seeing = preview_set_up(self.set_up()), preview_set_up(known)

        def tilt(fields: Data) -> Data:
            return part(fields["reduced"], "tilt_arcsec")

        assert tilt(blind)["value"] == pytest.approx(58**0.5)
        assert tilt(seeing)["value"] == pytest.approx(0, abs=1e-9)
        assert tilt(seeing)["sigma"] < tilt(blind)["sigma"] / 3

    def test_screws_are_turned_towards_the_index_not_towards_zero(self) -> None:
        """The level shows 37″ along and −3″ across: with an index of 7″ and −3″ known, 30″ of lean are left, not 37″."""
        look = {"step": "plate", "saw": {"level": {"along": "37", "across": "-3"}}}
        for stored, lean in ({}, math.hypot(37, 3)), (dict(self.INDEX), 30.0):
            data = {
                "kind": "set-up",
                "stored": stored,
                "observations": {
                    "method": "plummet-first",
                    "mark": {"name": "PC-07"},
                    "options": {"level_type": "electronic"},
                    "log": [look],
                },
            }
            document = parse(json.dumps(data).encode())
            assert isinstance(document, SetUpDocument)
            found = guide(document, "plate")
            assert found["advice"]["result"]["tilt_arcsec"] == pytest.approx(lean, abs=0.06)
        look["saw"]["level"] = {"along": "7", "across": "-3"}  # type: ignore[index]
        there = parse(json.dumps({**data, "stored": self.INDEX}).encode())
        assert isinstance(there, SetUpDocument)
        assert guide(there, "plate")["within_tolerance"]

    INDEX = {"index_along_arcsec": 7.0, "index_across_arcsec": -3.0, "sigma_index_arcsec": 1.0}

    def test_a_known_plummet_is_given_at_the_last_look(self) -> None:
        off = self.set_up(plummet_x_mm=0.8, plummet_y_mm=0.6, plummet_height_m=1.5)
        assert "1.0 mm off the axis" in {hint.code: hint.text for hint in tips(off, "final-check")}["plummet-known"]
        good = self.set_up(plummet_x_mm=0.2, plummet_y_mm=0.1, plummet_height_m=1.5)
        assert "plummet-known" not in {hint.code for hint in tips(good, "final-check")}


def test_a_rest_position_that_repeats_is_good_to_two_divisions() -> None:
    """By the limits: one division, or a rest position that repeats within half a division."""
    document = simulated("plate-vial", rest_div=1.5, noise=0.5)
    first = reduced(document)
    assert first["verdict"]["grade"] == "watch"
    earlier = {
        "check": "plate-vial",
        "at": "2027-02-01T07:00:00+00:00",
        "grade": "watch",
        "result": {"reversal_div": 1.4},
    }
    again = reduced({**document, "before": [earlier], "before_at": "2027-03-02T07:00:00+00:00"})
    assert again["verdict"]["grade"] == "use"
    assert "repeats within half a division" in part(again, "reversal_div")["limit_text"]
    moved = {**earlier, "result": {"reversal_div": 0.2}}
    assert (
        reduced({**document, "before": [moved], "before_at": "2027-03-02T07:00:00+00:00"})["verdict"]["grade"]
        == "watch"
    )


def test_limits_of_the_server_win_and_are_named() -> None:
    document = simulated("plummet", offset_mm=(0.9, 0.0), noise=0.0)
    own = {"offset_mm": {"use": 3.0, "watch": 4.0, "adjust": 9.0, "source": "rough grading"}}
    result = reduced({**document, "limits": own})
    assert result["verdict"]["grade"] == "use"
    assert "rough grading" in part(result, "offset_mm")["limit_text"]
    assert codes(result, "next") == ["carry-on"]
