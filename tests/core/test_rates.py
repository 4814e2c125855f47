"""Coverage of the 95 percent interval and rates of the decision rule, found again by seeded simulation.

Noise of the day is the a-priori spread times a lognormal factor (30 percent), as it was when the rule was drawn up.
Tolerances are about three standard errors of the simulated rate.
"""

from __future__ import annotations

import numpy as np
import pytest

from naveta_core.checks import KINDS
from naveta_core.registry import document_of
from naveta_core.stats.decision import Limits, decide
from naveta_core.stats.estimate import Spread, pooled
from tests.core.plain import reduce_of

from .builders import RHO, document, staffs

RUNS = 1200


def noisy(rng: np.random.Generator, pairs: list, copies: int) -> dict:
    """A document of a level without error, read with the day's noise: w within and b between, b not scaled."""
    day = rng.lognormal(0, 0.3)
    setups = []
    for da, db in pairs:
        sights = []
        for d, true in zip((da, db), staffs(0, da, db), strict=True):
            w, b = np.hypot(0.3, 0.01 * d) * day, np.hypot(0.1, 0.7 / RHO * d * 1000) * day
            values = true + (rng.normal(0, b) + rng.normal(0, w, copies)) / 1000
            sights += [d, [f"{value:.5f}" for value in values]]
        setups.append(tuple(sights))
    return document(*setups)


@pytest.mark.parametrize(
    ("pairs", "copies", "u95"),
    [
        ([(30, 30), (56, 4)], 1, 9.1),
        ([(30, 30), (56, 4)], 4, 5.4),
        ([(20, 40), (40, 20)], 1, 11.2),
        ([(30, 30), (56, 4), (4, 56)], 1, None),
    ],
)
def test_coverage_of_the_interval(pairs: list, copies: int, u95: float) -> None:
    rng = np.random.default_rng(20270302)
    kind = KINDS["two-peg"]
    parts = [reduce_of(kind.name, document_of(noisy(rng, pairs, copies)))["verdict"]["parts"][0] for _ in range(RUNS)]
    inside = np.mean([abs(part["value"]) <= part["u95"] for part in parts])
    assert 0.925 <= inside <= 0.985
    if u95 is not None:
        assert np.median([part["u95"] for part in parts]) == pytest.approx(u95, rel=0.15)


# Percent use / watch / repeat / adjust, from the table the rule was chosen by (sigma and true error in units of L).
RATES = {
    (0.2, 0.0): (100, 0, 0, 0),
    (0.2, 0.9): (12, 57, 0, 31),
    (0.35, 1.5): (0, 8, 4, 88),
    (0.5, 0.0): (23, 72, 3, 2),
    (0.5, 1.5): (0, 15, 40, 44),
    (0.9, 0.0): (0, 73, 26, 1),
    (0.9, 3.0): (0, 1, 31, 68),
    (1.5, 0.0): (0, 50, 48, 2),
}


@pytest.mark.parametrize(("sigma", "true"), RATES)
def test_rates_of_the_decision_rule(sigma: float, true: float) -> None:
    """One quantity without a conditional limit (W = L), its spread pooled with that of six repeats."""
    rng = np.random.default_rng(int(100 * sigma + 10 * true))
    limits = Limits(1.0, 1.0, 100.0, "simulation")
    grades = []
    for _ in range(3000):
        found = Spread(rng.chisquare(6), 6)
        grades.append(decide(pooled(true + rng.normal(0, sigma), sigma**2, 0.0, found), limits).grade)
    found = [100 * grades.count(grade) / len(grades) for grade in ("use", "watch", "repeat", "adjust")]
    assert found == pytest.approx(RATES[sigma, true], abs=6)
