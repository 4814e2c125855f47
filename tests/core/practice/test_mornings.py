"""The morning's choice: what is shown is what follows from, and the best choice is the core's own."""

from __future__ import annotations

import re
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused
from naveta_practice.dispatch import VERBS
from naveta_practice.morning_judging import HABITS
from naveta_practice.mornings import LESSON, morning_of

Data = dict[str, Any]
SEEDS = range(1, 25)


def shown(seed: int) -> Any:
    return VERBS["practice-morning"]({"verb": "practice-morning", "lesson": LESSON, "seed": seed})


def judged(seed: int, tag: str, checks: list[str]) -> Any:
    work = {"lesson": LESSON, "seed": seed, "tag": tag, "checks": checks, "seconds": 90.0}
    return VERBS["practice-morning-judge"](work)


def overdue(facts: list[str]) -> set[str]:
    """Checks whose time has run out by the book alone: default intervals, counted by hand from the days shown."""
    words = {"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10,
             "eleven": 11, "twelve": 12}  # fmt: skip
    titles = {kind.title: kind for kind in KINDS.values()}
    found = set()
    for fact in facts:
        match = re.match(r"(.+) passed (\w+) days? ago", fact)
        if match:
            days = int(match[2]) if match[2].isdigit() else words[match[2]]
            if days >= titles[match[1]].interval_days:
                found.add(titles[match[1]].name)
    return found


@pytest.mark.parametrize("seed", SEEDS)
def test_nothing_happened_so_the_book_alone_says_which_checks_are_needed(seed: int) -> None:
    morning = morning_of(LESSON, seed)
    for each in shown(seed).instruments:
        entry = morning.fitness(each.tag)
        happened = len(each.facts) > len(each.checks)
        if entry.fit != "not-fit" and not happened:
            assert {check.check for check in entry.checks} >= overdue(each.facts), each
        if any(fact.startswith("Dropped") for fact in each.facts):
            assert entry.fit == "not-fit", "after a drop it is on hold"


@pytest.mark.parametrize("seed", SEEDS)
def test_the_shortest_kit_with_its_checks_is_good_enough_and_everything_else_is_not(seed: int) -> None:
    morning = morning_of(LESSON, seed)
    kit = morning.kit.kit
    assert kit is not None
    (best,) = kit.tags
    needed = [check.check for check in morning.fitness(best).checks]
    good = judged(seed, best, needed)
    assert good.passed, good.otherwise
    assert [each.tag for each in good.instruments if each.taken] == [best]
    offered = [check.check for each in shown(seed).instruments if each.tag == best for check in each.checks]
    needless = [check for check in offered if check not in needed]
    if needless:
        assert [habit.code for habit in judged(seed, best, [*needed, needless[0]]).habits] == ["needless-check"]
    if needed:
        assert "left-without-a-check" in [habit.code for habit in judged(seed, best, needed[1:]).habits]
    for tag in morning.instruments:
        entry = morning.fitness(tag)
        outcome = judged(seed, tag, [check.check for check in entry.checks])
        codes = [habit.code for habit in outcome.habits]
        if entry.fit == "not-fit":
            assert codes == ["took-an-unfit-one"]
            assert entry.text in outcome.otherwise
        else:
            assert outcome.passed == (entry.minutes == kit.minutes)


def test_two_people_meet_the_same_morning_and_mornings_differ() -> None:
    assert shown(7) == shown(7)
    assert len({shown(seed).model_dump_json() for seed in SEEDS}) == len(SEEDS)
    jobs = {shown(seed).job for seed in range(1, 60)}
    assert len(jobs) == 4


@pytest.mark.parametrize(
    ("work", "where"),
    [
        ({"lesson": "evening", "seed": 1, "tag": "LV-11"}, "lesson"),
        ({"lesson": LESSON, "seed": -1, "tag": "LV-11"}, "seed"),
        ({"lesson": LESSON, "seed": 1, "tag": "XX-99"}, "tag"),
        ({"lesson": LESSON, "seed": 1, "tag": shown(1).instruments[0].tag, "checks": ["tape"]}, "checks"),
    ],
)
def test_what_is_none_is_refused(work: Data, where: str) -> None:
    with pytest.raises(Refused) as refused:
        VERBS["practice-morning-judge"]({**work, "seconds": 1.0})
    assert refused.value.faults[0].path == where


def test_every_habit_has_words() -> None:
    assert all(text[0].isupper() and not text.endswith(".") for text in HABITS.values())
