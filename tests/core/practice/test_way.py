"""The way through an instrument's lesson: what was done and how often, beside the shortest, counted by hand."""

from __future__ import annotations

import json
from typing import Any

from naveta_practice.dispatch import answer
from naveta_practice.instruments.hidden import hidden_of

from .test_instruments import BAD, GOOD, asked, hidden_slope, per_turn, sheet

Data = dict[str, Any]


def step(seconds: float, do: str, label: str = "", **aim: Any) -> Data:
    return {"seconds": seconds, "do": do, "label": label, "aim": {"place": "middle", "staff": "a", **aim}}


def reads(*, place: str, staff: str, setup: int) -> list[Data]:
    """Two readings of one staff."""
    cells = [f"observations.setups.{setup}.{staff}.readings.{i}" for i in range(2)]
    return [step(10.0 + setup, "read", cell, place=place, staff=staff) for cell in cells]


def whole() -> list[Data]:
    """Both staffs from the middle, then from near B, the first one typed twice."""
    found = [step(1.0, "focus"), step(2.0, "focus")]
    for setup, place in enumerate(("middle", "near-b")):
        for staff in "ab":
            found += [
                step(3.0 + setup, "look", place=place, staff=staff),
                *reads(place=place, staff=staff, setup=setup),
            ]
    return [*found, found[3]]


def counted(seed: int, steps: list[Data], **more: Any) -> dict[str, tuple[int, int]]:
    judged = asked(
        "practice-instrument-judge", lesson="two-peg", seed=seed, found=sheet(seed), seconds=60.0, steps=steps, **more
    )
    return {count["do"]: (count["taken"], count["shortest"]) for count in judged["counts"]}


def test_a_good_level_is_read_once() -> None:
    """Four sights: three looks after the first; 30, 56 and 4 m want a focus each; eight figures."""
    assert counted(GOOD, whole()) == {"look": (4, 3), "focus": (2, 3), "read": (9, 8)}


def test_a_bad_one_is_turned_once_and_read_again() -> None:
    """Twice the readings, a look back to the first sight in between, one turn, one test again."""
    turned = -hidden_slope(BAD) / per_turn(BAD)
    steps = [*whole(), step(30.0, "turn", "reticle"), step(31.0, "again"), *whole()]
    counts = counted(BAD, steps, turns={"reticle": [turned]}, left=sheet(BAD, turned))
    assert counts == {"look": (8, 7), "focus": (4, 6), "read": (18, 16), "turn": (1, 1), "again": (1, 1)}


def test_nothing_is_counted_where_no_steps_were_sent_and_too_many_are_refused() -> None:
    assert counted(GOOD, []) == {}
    for steps, path in (([step(1.0, "look")] * 601, "steps"), ([step(1.0, "dance")], "steps[0].do")):
        work = {"lesson": "two-peg", "seed": GOOD, "found": sheet(GOOD), "seconds": 60.0, "steps": steps}
        refused = json.loads(answer(json.dumps({"verb": "practice-instrument-judge", **work})))
        assert [fault["path"] for fault in refused["faults"]] == [path]


def test_what_is_not_turned_is_not_on_the_shortest_way() -> None:
    assert abs(hidden_slope(GOOD)) < hidden_of("two-peg", GOOD).errors["collimation_arcsec"].spec.bad
    assert counted(GOOD, [*whole(), step(40.0, "turn", "reticle")])["turn"] == (1, 0)


def test_a_place_that_is_none_is_refused() -> None:
    """What an aim holds is a name, a number or nothing; a list, or a page of text, is not where anybody looks."""
    for place in ([], {"x": 1}, "x" * 100):
        work = {"lesson": "two-peg", "seed": GOOD, "found": sheet(GOOD), "seconds": 60.0}
        steps = [step(1.0, "read", "observations.setups.0.a.readings.0", place=place)]
        refused = json.loads(answer(json.dumps({"verb": "practice-instrument-judge", **work, "steps": steps})))
        assert refused["faults"][0]["path"].startswith("steps[0].aim.place"), refused
