"""A finding whose own noise comes near its limit is adjusted when sure, or when it was found twice running."""

from __future__ import annotations

import random
from typing import Any

import pytest

from naveta_sim import simulate

from .checks.simulated import part, reduced


class TestFoundTwice:
    """t of 11.5″ ± 9.6″, limit 10″: not sure alone; found twice in a week, the same way, it is adjusted."""

    @staticmethod
    def again(*, before: float = 11.5, day: str = "2027-03-08T07:00:00+00:00", **more: Any) -> str:
        figures = {"tilting_axis_arcsec": before, "sigma_tilting_axis_arcsec": 4.6}
        at = {"check": "two-face", "at": "2027-03-05T07:00:00+00:00", "grade": "repeat", "result": figures, **more}
        document = simulate(
            "two-face",
            random.Random(1),
            {"targets": ((90.0, 100.0), (64.0, 40.0)), "accuracy": 3.0, "t": 11.5, "noise": 0.0},
        )
        result = reduced({**document, "before": [at], "before_at": day})
        found = part(result, "tilting_axis_arcsec")
        assert found["value"] == pytest.approx(11.5, abs=0.5)
        assert 5.0 < found["u95"] < 11.5
        return str(found["grade"])

    def test_twice_the_same_way_is_adjusted(self) -> None:
        assert self.again() == "adjust"

    @pytest.mark.parametrize(
        "more",
        [{"before": -11.5}, {"before": 4.0}, {"day": "2027-04-08T07:00:00+00:00"}, {"changed_since": True}],
        ids=["the other way", "within its limit", "a month ago", "an event between"],
    )
    def test_anything_else_is_to_be_confirmed(self, more: dict[str, Any]) -> None:
        assert self.again(**more) == "repeat"
