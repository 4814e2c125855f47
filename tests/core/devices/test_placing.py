"""Readings that arrived and where they go: the next open cell of their quantity, in its unit and face; else a sentence."""

from __future__ import annotations

import json
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.devices.lines import DeviceLine, written_line
from naveta_core.dispatch import answer

from .test_device_lines import line


def asked(verb: str, **question: Any) -> Any:
    """An answer as the web gets it: text in, text out."""
    said = json.loads(answer(json.dumps({"verb": verb, **question})))
    assert said["ok"], said
    return said["data"]


def cell(path: str, quantity: str = "staff", unit: str = "m", face: str | None = None) -> dict[str, Any]:
    return {"path": path, "quantity": quantity, "unit": unit, "face": face}


def placed(lines: list[DeviceLine], cells: list[dict[str, Any]], quantities: list[str] | None = None) -> Any:
    sent = [each.model_dump() for each in lines]
    return asked(
        "readings-place", lines=sent, cells=cells, quantities=quantities or [each["quantity"] for each in cells]
    )


def test_a_shot_of_two_readings_is_placed_or_left_out_as_one() -> None:
    both = [
        line(1, quantity="hz", value="282.43055", unit="dms", face="right"),
        line(2, quantity="v", value="269.47520", unit="dms", face="right"),
    ]
    outcome = placed(both, [cell("r.hz", "hz", "dms", "right"), cell("l.v", "v", "dms", "left")])
    assert (outcome["placed"], outcome["left_over"]) == ([], [0, 1])
    # A sheet that asks for one circle only is given that one.
    outcome = placed(both, [cell("r.reading", "hz", "dms", "right")])
    assert ([each["path"] for each in outcome["placed"]], outcome["left_over"]) == (["r.reading"], [1])
    assert [reason["code"] for reason in outcome["messages"]] == ["not-asked-for"]


def test_each_reading_goes_to_the_next_open_cell_that_asks_for_it() -> None:
    cells = [cell("far", "distance"), cell("a[0]"), cell("a[1]")]
    outcome = placed([line(1, value="1.46830"), line(2, value="1.4684")], cells)
    # As the device shows it: no digit added, none taken away.
    assert [(each["path"], each["value"]) for each in outcome["placed"]] == [("a[0]", "1.46830"), ("a[1]", "1.4684")]
    assert (outcome["messages"], outcome["left_over"]) == ([], [])


@pytest.mark.parametrize(
    ("sent", "cells", "quantities", "code", "words"),
    [
        ({"quantity": "hz", "value": "102.7182", "unit": "gon", "face": "left"}, [cell("hz", "hz", "dms", "left")], None,
         "other-unit", ["sends gon", "degrees, minutes and seconds", "102.7182 was left out"]),
        ({"unit": "ft", "value": "4.817"}, [cell("a[0]")], None, "other-unit", ["sends feet", "read in metres"]),
        ({"quantity": "hz", "value": "282.43055", "unit": "dms", "face": "right"}, [cell("hz", "hz", "dms", "left")], None,
         "other-face", ["in face right", "for face left", "282.43055 was left out"]),
        ({"value": "1.4683"}, [], ["staff"], "sheet-full", ["every cell for staff readings is filled", "1.4683"]),
        ({"value": "1.4683"}, [cell("hz", "hz", "dms", "left")], None, "not-asked-for", ["does not ask for any"]),
    ],
)  # fmt: skip
def test_what_does_not_fit_is_left_out_and_said(
    sent: dict[str, Any], cells: list[dict[str, Any]], quantities: list[str] | None, code: str, words: list[str]
) -> None:
    outcome = placed([line(1, **sent), line(2, at="2027-03-02T06:40:15+00:00", **sent)], cells, quantities)
    assert (outcome["placed"], outcome["left_over"]) == ([], [0, 1])
    assert [reason["code"] for reason in outcome["messages"]] == [code], "said once"
    for each in words:
        assert each in outcome["messages"][0]["text"]


def test_a_reading_without_a_face_goes_where_the_next_cell_is() -> None:
    outcome = placed([line(1, quantity="v", value="90.1230", unit="dms")], [cell("v", "v", "dms", "right")])
    assert [each["path"] for each in outcome["placed"]] == ["v"]


def test_every_form_says_what_a_device_sends_into_it() -> None:
    found: dict[str, set[str]] = {}
    for name, kind in KINDS.items():
        groups = [group for method in kind.about()["methods"] for group in method["groups"]]
        found[name] = {field["quantity"] for group in groups for field in group["fields"]} - {""}
    assert {name: sent for name, sent in found.items() if sent} == {
        "two-peg": {"staff", "distance"},
        "compensator-function": {"staff"},
        "levelling-accuracy": {"staff"},
        "two-face": {"hz", "v", "distance"},
        "tracker": {"hz", "v", "distance"},
        "direction-rounds": {"hz", "v"},
        "direction-accuracy": {"hz", "v"},
        "dual-axis-level": {"along", "across"},
    }


def test_a_vertical_test_is_filled_from_the_vertical_circle() -> None:
    methods = {method["name"]: method for method in KINDS["direction-accuracy"].about()["methods"]}
    sent = {
        name: {field["quantity"] for group in method["groups"] for field in group["fields"]} - {""}
        for name, method in methods.items()
    }
    assert sent["vertical-simplified"] == {"v"}
    assert sent["horizontal-full"] == {"hz"}


def test_a_reader_remembers_by_what_it_answered() -> None:
    first = asked("readings-arrive", text=written_line(line(7)) + written_line(line(8))[:60], clock_s=0.0)
    assert [each["seq"] for each in first["lines"]] == [7]
    again = written_line(line(8))[60:] + written_line(line(6)) + written_line(line(7)) + written_line(line(9))
    then = asked("readings-arrive", text=again, clock_s=0.5, state=first["state"])
    # 6 was sent before anybody listened, 7 is here already: neither is a trouble.
    assert ([each["seq"] for each in then["lines"]], then["messages"]) == ([8, 9], [])


def test_what_is_sent_all_the_time_is_given_apart() -> None:
    text = written_line(line(1, quantity="along", value="-12.4", unit="arcsec")) + written_line(line(2))
    arrived = asked("readings-arrive", text=text, clock_s=0.0)
    assert [each["quantity"] for each in arrived["live"]] == ["along"]
    assert [each["quantity"] for each in arrived["lines"]] == ["staff"]


@pytest.mark.long
def test_thirty_thousand_readings_in_ten_minutes_with_the_link_cut_each_minute() -> None:
    """Fifty a second, in pieces that end anywhere; after each cut the last fifty come again. Nothing lost, nothing doubled."""
    state, taken, clock, largest = None, [], 0.0, 0
    for minute in range(10):
        first = minute * 3000 + 1
        again = range(max(1, first - 50), first)
        text = "".join(written_line(line(i)) for i in (*again, *range(first, first + 3000)))
        if state is not None:
            state = {**state, "rest": ""}
        pieces = [text[i : i + 7001] for i in range(0, len(text), 7001)]
        for piece in pieces:
            arrived = asked("readings-arrive", text=piece, clock_s=clock, state=state)
            assert arrived["messages"] == []
            state, clock = arrived["state"], clock + 60 / len(pieces)
            taken += [each["seq"] for each in arrived["lines"]]
            largest = max(largest, len(json.dumps(state)))
    assert taken == list(range(1, 30_001))
    assert largest < 6_000
