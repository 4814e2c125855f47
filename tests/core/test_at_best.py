"""A method that cannot show an instrument to be good says so before the first reading, with what it can, and ends as watch."""

from __future__ import annotations

import random
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.registry import document_of
from naveta_sim import simulate

from .checks.simulated import reduced


def said(kind: str, method: str, s: float = 3.0, **more: Any) -> list[str]:
    begins = {**KINDS[kind].method(method).observations, **more}  # type: ignore[union-attr]
    document = {
        "kind": kind,
        "method": method,
        "instrument": {"angle_accuracy_arcsec": s},
        "observations": begins,
    }
    messages = KINDS[kind].preview(document_of(document)).progress.messages
    return [message.text for message in messages if message.code == "watch-at-best"]


@pytest.mark.parametrize(
    ("kind", "method", "shows", "better"),
    [
        ("circular-vial", "half-turn", "± 0.54 mm", "Four headings"),
        ("plummet", "half-turn", "± 0.54 mm", "Four marks"),
        ("plummet", "bob", "± 2.5 mm", ""),
        ("plummet", "tribrach-thirds", "± 0.61 mm", ""),
        ("two-face", "quick", "± 6.3″", "five pointings a face"),
        ("tracker", "quick", "± 7.4″", "Three pointings a face"),
        ("pole-vial", "half-turn", "± 0.54 mm", "four headings"),
    ],
)
def test_it_is_said_with_its_figure_and_what_shows_more(kind: str, method: str, shows: str, better: str) -> None:
    """Half turn: σ = √(0.3²/2 + 0.1²) = 0.235 mm with 6 and more degrees, t = 2.31: 0.54; the bob: √(0.3² + 0.1² + 1²)."""
    (text,) = said(kind, method)
    assert shows in text
    assert "usually ends as watch" in text
    assert (better in text) if better else ("A finer method" not in text)


def test_a_sheet_that_gives_the_figure_already_is_not_told_it_twice() -> None:
    """Two pegs say by themselves how sure their layout is."""
    (text,) = said("two-peg", "thirds-inside")
    assert (
        text
        == "A faultless instrument usually ends as watch, not as use. A finer method: Middle, then close to one peg."
    )


@pytest.mark.parametrize(
    ("kind", "method"),
    [
        ("circular-vial", "four-quarters"),
        ("plummet", "four-quarters"),
        ("two-face", "five"),
        ("tracker", "three"),
        ("two-peg", "middle-then-near"),
        ("compensator-function", "five"),
    ],
)
def test_nothing_is_said_of_one_that_can(kind: str, method: str) -> None:
    assert said(kind, method) == []


def test_a_target_near_by_is_said_before_it_is_sighted_and_no_more_after_the_first_reading() -> None:
    blank = [{}, {}, {}]
    near = {"distance_m": "20", "manual": {"left": blank, "right": blank}, "auto": {"left": blank, "right": blank}}
    (text,) = said("tracker", "three", targets=[near])
    assert "the limit is 6″" in text
    begun = {**near, "manual": {"left": [{"hz": "30.0000", "v": "90.0000"}, {}, {}], "right": blank}}
    assert said("tracker", "three", targets=[begun]) == []


@pytest.mark.parametrize(
    ("kind", "truth"),
    [
        ("plummet", {"offset_mm": (0, 0), "headings": (0, 180)}),
        ("circular-vial", {"error_mm": (0, 0), "headings": (0, 180)}),
        ("tracker", {"pointings": 1}),
        ("tracker", {"distance": 20}),
        ("two-peg", {"collimation_arcsec": 0, "layout": "thirds-inside"}),
    ],
    ids=["plummet, two headings", "vial, two headings", "quick tracker", "tracker at 20 m", "thirds"],
)
def test_a_faultless_one_ends_as_watch_and_not_as_repeat(kind: str, truth: dict[str, Any]) -> None:
    grades = [reduced(simulate(kind, random.Random(seed), truth))["verdict"]["grade"] for seed in range(80)]
    assert grades.count("watch") + grades.count("use") >= 75
    assert grades.count("watch") >= 55
    assert grades.count("service") == 0
