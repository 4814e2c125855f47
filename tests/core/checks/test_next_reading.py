"""What is read next is what the method reads next, not what the document holds first."""

from __future__ import annotations

import pytest

from naveta_core.checks import KINDS
from naveta_core.dispatch import begin, preview


def next_path(kind: str, method: str, **filled: str) -> str:
    document = begin(kind, method, "m", "dms")
    for path, value in filled.items():
        where = document["observations"]
        *steps, last = [int(step) if step.isdigit() else step for step in path.split("__")]
        for step in steps:
            where = where[step]
        where[last] = value
    answer = preview(document, None, "2027-03-02T06:40:00+00:00").plain()
    return str(answer["progress"]["next"]["path"])


def left(target: int, count: int) -> dict[str, str]:
    return {
        f"targets__{target}__left__{row}__{circle}": value
        for row in range(count)
        for circle, value in (("hz", "15.00050"), ("v", "90.12000"))
    }


@pytest.mark.parametrize(
    ("rows", "wanted"),
    [
        ({}, "observations.targets[0].left[0].hz"),
        (left(0, 5), "observations.targets[1].left[0].hz"),
        ({**left(0, 5), **left(1, 5)}, "observations.targets[1].right[0].hz"),
    ],
)
def test_a_full_check_of_both_faces_turns_over_once(rows: dict[str, str], wanted: str) -> None:
    assert next_path("two-face", "full", **rows) == wanted


def test_set_ups_are_read_one_after_the_other() -> None:
    assert next_path("two-peg", "middle-then-near") == "observations.setups[0].a.readings[0]"
    typed = {"setups__0__a__readings": ["1.4683"], "setups__0__b__readings": ["1.7683"]}
    assert next_path("two-peg", "middle-then-near", **typed).startswith("observations.setups[1].a")  # type: ignore[arg-type]


def test_every_method_begins_where_its_first_group_does() -> None:
    for name, kind in KINDS.items():
        for method in kind.methods:
            shown = [group for group in method.groups if not group.setting and not group.before]
            groups = [each for each in shown if not any(other.path.startswith(f"{each.path}.") for other in shown)]
            if "[*]" in groups[0].path:
                continue  # entry by entry, in the order of the document
            first = method.first_read([f"{group.path}.x" for group in reversed(groups)])
            assert first == f"{groups[0].path}.x", (name, method.name)
