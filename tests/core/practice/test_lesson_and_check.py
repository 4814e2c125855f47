"""A lesson asks for no more than its check shows: whoever reads well and does what the check advises has passed."""

from __future__ import annotations

from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.registry import check_of
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.instruments.judging import advice_of

from .test_more_instruments import READ as OTHERS
from .test_other_instruments import READ as FIRST
from .test_other_instruments import judged

Data = dict[str, Any]


def sheet(lesson: str, seed: int, turns: dict[str, list[float]]) -> Data:
    if lesson in OTHERS:
        return OTHERS[lesson](lesson, seed, turns)
    return FIRST[lesson](seed, **turns)  # type: ignore[arg-type]


def advised(lesson: str, seed: int, found: Data) -> dict[str, list[float]]:
    """The screws the check asks to turn, each until what it found is gone."""
    parsed = check_of(found)
    result = KINDS[parsed.kind].reduce(parsed).plain()
    turns: dict[str, list[float]] = {}
    for quantity, error in hidden_of(lesson, seed).errors.items():
        if error.spec.screw and advice_of(result, quantity).to_adjust:
            # Turned past it and back would not do with a worn screw: what its own play takes is turned on top.
            value = float(result["result"][quantity])
            play = hidden_of(lesson, seed).play / 2 if not _stores(lesson, error.spec.screw) else 0.0
            turn = -value / error.per_turn
            turns[error.spec.screw] = [turn + (play if turn > 0 else -play)]
    return turns


def _stores(lesson: str, screw: str) -> bool:
    return next(one.stores for one in hidden_of(lesson, 0).lesson.screws if one.name == screw)


@pytest.mark.parametrize(
    ("lesson", "seeds"),
    [("half-and-whole", 43), ("tripod", 24), ("staff", 24), ("plummet", 16), ("tape", 12), ("electronic-level", 12)],
)
def test_who_does_what_the_check_advises_has_passed(lesson: str, seeds: int) -> None:
    failed = []
    for seed in range(1, seeds + 1):
        found = sheet(lesson, seed, {})
        turns = advised(lesson, seed, found)
        more = {"turns": turns, "left": sheet(lesson, seed, turns)} if turns else {}
        went = judged(lesson, seed, found, **more)
        if not went["passed"]:
            failed.append((seed, went["otherwise"]))
    assert failed == []


def test_what_is_found_to_the_uncertainty_of_the_check_is_found() -> None:
    """The scale of a staff is proved to ± 275 ppm, and ± 120 was asked for."""
    found = sheet("staff", 3, {})
    for row, off in zip(found["observations"]["sections"], (-1, 0, -1, 0, 1, 0, 1), strict=True):
        row["tape"] = f"{float(row['tape']) + off * 0.00025:.4f}"
    parsed = check_of(found)
    advice = advice_of(KINDS[parsed.kind].reduce(parsed).plain(), "scale_ppm")
    assert advice.u95 > 150
    went = judged("staff", 3, found)
    scale = next(error for error in went["errors"] if error["label"] == "Scale")
    assert 120 < abs(scale["found"] - scale["truth"]) <= advice.u95
    assert went["passed"], went["otherwise"]
