"""Finding the fault: what is wrong, what was noticed, and whether it was shown before it was named."""

from __future__ import annotations

import json
from collections import Counter
from typing import Any

import pytest

from naveta_practice.dispatch import answer
from naveta_practice.instruments.faults import FAULT_BY_NAME, NOTHING, fault_of
from naveta_practice.instruments.hidden import hidden_of

from .test_instruments import asked, sheet
from .test_other_instruments import READ

Data = dict[str, Any]


def seed_with(name: str, lesson: str = "finding-the-fault") -> int:
    return next(seed for seed in range(1, 500) if fault_of(lesson, seed).name == name)


def filled(part: str, seed: int) -> Data:
    """The sheet of a part, read without an error."""
    return sheet(seed) if part == "two-peg" else READ[part](seed)


def judged(seed: int, named: str, parts: tuple[str, ...], lesson: str = "finding-the-fault", **more: Any) -> Data:
    situation = asked("practice-fault", lesson=lesson, seed=seed)
    seeds = {each["lesson"]["name"]: each["seed"] for each in situation["parts"]}
    checks = {part: filled(part, seeds[part]) for part in parts}
    question = {"lesson": lesson, "seed": seed, "named": named, "checks": checks, "seconds": 300.0, **more}
    return dict(asked("practice-fault-judge", **question))


@pytest.mark.parametrize("seed", range(1, 40))
def test_one_thing_is_wrong_or_nothing_and_everything_else_is_good(seed: int) -> None:
    situation = fault_of("finding-the-fault", seed)
    bad = {
        quantity
        for part, number in situation.seeds.items()
        for quantity, error in hidden_of(part, number).errors.items()
        if not error.good
    }
    wrong = set(situation.fault.quantities) if situation.fault else set()
    assert bad <= wrong
    assert bool(bad) == bool(wrong)
    assert bad or situation.name == NOTHING


def test_every_fault_comes_as_often_and_what_is_noticed_proves_nothing() -> None:
    found = [fault_of("finding-the-fault", seed) for seed in range(1, 301)]
    counted = Counter(each.name for each in found)
    assert set(counted) == {"level-vial", "plummet", "collimation", "index", NOTHING}
    assert min(counted.values()) > 35
    noticed = {each.noticed for each in found if each.fault is None}
    assert noticed == {each.noticed for each in FAULT_BY_NAME["finding-the-fault"].may_be}


@pytest.mark.parametrize(
    ("name", "part"),
    [("level-vial", "half-and-whole"), ("plummet", "plummet"), ("collimation", "two-faces"), ("index", "two-faces")],
)
def test_named_after_the_check_that_shows_it_is_good(name: str, part: str) -> None:
    went = judged(seed_with(name), name, (part,))
    assert (went["passed"], went["habits"]) == (True, [])
    assert went["headline"] == "Found, and shown by its check"
    assert max(abs(error["found"] - error["truth"]) for error in went["errors"]) < 5


def test_the_checks_run_stand_beside_the_shortest_way() -> None:
    """The plummet is what is wrong: the vial was tested first for nothing, the circles never."""
    went = judged(seed_with("plummet"), "plummet", ("half-and-whole", "plummet"))
    rows = {each["title"]: (each["taken"], each["shortest"]) for each in went["checks"]}
    assert rows == {"Plate level check": (1, 0), "Plummet": (2, 1), "Two-face check": (0, 0)}
    went = judged(seed_with(NOTHING), NOTHING, ("two-faces", "plummet", "half-and-whole"))
    assert [(each["taken"], each["shortest"]) for each in went["checks"]] == [(3, 1), (2, 2), (1, 3)]


def test_named_right_without_its_check_is_a_guess() -> None:
    went = judged(seed_with("plummet"), "plummet", ("half-and-whole",))
    assert (went["passed"], went["headline"]) == (False, "Named right, but not shown by a check")
    assert [habit["code"] for habit in went["habits"]] == ["named-unchecked"]


def test_nothing_is_said_only_after_every_check() -> None:
    seed = seed_with(NOTHING)
    went = judged(seed, NOTHING, ("half-and-whole", "plummet"))
    assert [habit["code"] for habit in went["habits"]] == ["nothing-unchecked"]
    assert not went["passed"]
    assert judged(seed, NOTHING, ("half-and-whole", "plummet", "two-faces"))["passed"]


def test_the_wrong_thing_named_says_what_was_wrong() -> None:
    went = judged(seed_with("index"), "collimation", ("two-faces",), blurs=[4.0, 4.0])
    assert (went["passed"], went["headline"]) == (False, "That was not the fault")
    assert went["otherwise"].startswith("Vertical index i was wrong. “Heights carried in one face")
    assert [habit["code"] for habit in went["habits"]] == ["not-focused"]
    assert judged(seed_with(NOTHING), "index", ("two-faces",))["otherwise"].startswith("Nothing was wrong with it.")


@pytest.mark.parametrize("name", ["line-of-sight", NOTHING])
def test_the_level_or_the_one_who_read_it(name: str) -> None:
    seed = seed_with(name, "is-it-me")
    assert judged(seed, name, ("two-peg",), "is-it-me")["passed"]
    other = NOTHING if name != NOTHING else "line-of-sight"
    assert not judged(seed, other, ("two-peg",), "is-it-me")["passed"]


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"lesson": "weather"}, "lesson"),
        ({"named": "weather"}, "named"),
        ({"checks": {"two-peg": {}}}, "checks.two-peg"),
        ({"checks": {"plummet": {"kind": "two-peg", "observations": {}}}}, None),
        ({"seconds": -1}, "seconds"),
    ],
)
def test_work_that_is_none_is_refused_in_words(change: Data, path: str | None) -> None:
    question = {"lesson": "finding-the-fault", "seed": 3, "named": NOTHING, "checks": {}, "seconds": 9, **change}
    said = json.loads(answer(json.dumps({"verb": "practice-fault-judge", **question})))
    assert (said["ok"], said["status"]) == (False, 422)
    assert path in (None, said["faults"][0]["path"])
