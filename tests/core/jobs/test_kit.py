"""The kit of a job against every kit there is."""

from __future__ import annotations

import random
from itertools import chain, combinations, product

import pytest

from naveta_core.checks import KINDS
from naveta_core.jobs.fitness import ROLES, CheckBefore, Fitness, needed_roles
from naveta_core.jobs.kit import kit_for, layouts_of, minutes_of
from naveta_core.jobs.needs import JobNeeds
from naveta_core.results import Reason
from naveta_core.units.formatting import count

CHECKS = {
    "angles": ("plate-vial", "dual-axis-level", "plummet", "two-face", "tracker"),
    "level": ("circular-vial", "compensator-function", "two-peg"),
    "staff": ("pole-vial", "staff"),
    "tribrach": ("plummet", "plate-vial"),
}


def entry(tag: str, role: str, checks: dict[str, str], conditions: int = 0, own: bool = True) -> Fitness:
    rows = [
        CheckBefore(check=c, title=KINDS[c].title, minutes=KINDS[c].minutes, where=where, why="")  # type: ignore[arg-type]
        for c, where in checks.items()
    ]
    return Fitness(
        tag=tag,
        model="",
        kind=ROLES[role][0],
        role=role,
        role_title="",
        place="",
        own=own,
        fit="fit-if" if rows or conditions else "fit",
        text="",
        reasons=[],
        checks=rows,
        minutes=sum(row.minutes for row in rows),
        conditions=[Reason(code="c", text="")] * conditions,
        budgets=[],
    )


def test_two_levels_and_two_stations_share_what_is_set_out() -> None:
    """Two two-peg tests: 15 + 15 − 5. Plummet 8 and plate level 4 of one instrument in one set-up: 8 + 4 − 2; its two-face
    check 12 and tracker 10 beside them share the targets (3) and the set-up: 8 + 4 + 12 + 10 − 3 − 2 − 2 − 3 = 24."""
    levels = [entry(f"LV-0{n}", "level", {"two-peg": "before-leaving"}) for n in (1, 2)]
    assert minutes_of(levels) == 25
    here_and_there = [levels[0], entry("LV-02", "level", {"two-peg": "on-site"})]
    assert minutes_of(here_and_there) == 30, "what was set out in the yard is of no use on site"
    station = entry("TS-01", "angles", dict.fromkeys(CHECKS["angles"][:1] + CHECKS["angles"][2:], "before-leaving"))
    assert minutes_of([station]) == 8 + 4 + 12 + 10 - 3 - (2 + 2 + 3 + 3 - 3)


def test_a_line_that_is_set_out_anyway_makes_another_choice_the_shortest() -> None:
    """Alone, LV-02 after a compensator test (8) is quicker than LV-01 after a two-peg test (15, of which 5 are the line).
    With a staff whose level is checked... the line is not shared: LV-02 stays. Two levels of which one must use the line:
    the other uses it too (10), rather than 12 minutes of its own."""
    one = entry("LV-01", "level", {"two-peg": "before-leaving"})
    two = entry("LV-02", "level", {"compensator-function": "before-leaving", "circular-vial": "before-leaving"})
    assert minutes_of([two]) == 8 + 3 - 2
    answer = kit_for(JobNeeds(levelling_mm=1.0), [one, two])
    assert answer.kit is not None
    assert (answer.kit.tags, answer.kit.minutes, answer.compared) == (["LV-02"], 9, 2)
    assert [(kit.tags, kit.minutes) for kit in answer.alternatives] == [(["LV-01"], 15)]


def brute(needs: JobNeeds, fitness: list[Fitness]) -> tuple[int, int, int] | None:
    """The cost of the best kit, by trying all."""
    choices = [
        list(combinations([e for e in fitness if e.role == role and e.fit != "not-fit"], number))
        for role, number in needed_roles(needs).items()
    ]
    kits = [list(chain.from_iterable(kit)) for kit in product(*choices)]
    costs = [(minutes_of(kit), sum(len(e.conditions) for e in kit), sum(not e.own for e in kit)) for kit in kits]
    return min(costs, default=None)


@pytest.mark.parametrize("seed", range(200))
def test_no_kit_is_better_than_the_one_that_is_found(seed: int) -> None:
    dice = random.Random(seed)
    needs = JobNeeds(position_mm=5.0, levelling_mm=1.0, staffs=dice.randint(0, 2), tribrachs=dice.randint(0, 2))
    fitness = []
    for role, checks in CHECKS.items():
        for n in range(dice.randint(2, 4)):
            taken = {c: dice.choice(["before-leaving", "on-site"]) for c in checks if dice.random() < 0.5}
            fitness.append(entry(f"{role}-{n}", role, taken, dice.randint(0, 2), dice.random() < 0.5))
    answer, best = kit_for(needs, fitness), brute(needs, fitness)
    assert best is not None
    assert answer.exact
    assert answer.kit is not None
    chosen = [e for e in fitness if e.tag in answer.kit.tags]
    found = (answer.kit.minutes, sum(len(e.conditions) for e in chosen), sum(not e.own for e in chosen))
    assert found == best
    assert sum(check.minutes for check in answer.kit.checks) == answer.kit.minutes, "the order adds up to the whole"
    separate = sum(e.minutes for e in chosen)
    assert (answer.kit.separately == "") == (separate == answer.kit.minutes)
    assert answer.kit.separately in ("", f"One by one, these checks take {count(separate, 'minute', 'minutes')}.")
    assert all(kit.minutes >= answer.kit.minutes for kit in answer.alternatives)
    assert set(answer.kit.layouts) == {words for words, _ in layouts_of(c for e in chosen for c in e.checks)}


def test_the_order_is_before_leaving_first_and_what_others_depend_on_first() -> None:
    station = entry("TS-01", "angles", {"two-face": "on-site", "dual-axis-level": "before-leaving"})
    level = entry("LV-01", "level", {"two-peg": "before-leaving", "circular-vial": "before-leaving"})
    answer = kit_for(JobNeeds(position_mm=5.0, levelling_mm=1.0), [level, station])
    assert answer.kit is not None
    assert [(c.where, c.tag, c.check) for c in answer.kit.checks] == [
        ("before-leaving", "TS-01", "dual-axis-level"),
        ("before-leaving", "LV-01", "circular-vial"),
        ("before-leaving", "LV-01", "two-peg"),
        ("on-site", "TS-01", "two-face"),
    ]


def test_what_is_missing_is_said() -> None:
    answer = kit_for(JobNeeds(levelling_mm=1.0, staffs=2), [entry("LV-01", "level", {}), entry("SF-01", "staff", {})])
    assert answer.kit is None
    assert answer.missing == ["one staff"]
    assert answer.text == "No fit kit: one staff missing."
    assert kit_for(JobNeeds(), []).text == "This job does not state its needs yet"
