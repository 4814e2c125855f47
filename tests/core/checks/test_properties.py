"""Every kind of check of rows: hidden errors found again within what it says, as often as it says."""

from __future__ import annotations

import random

import pytest

from naveta_sim import simulate

from .simulated import DRAWS, SCATTER, U95_OF, part, reduced

RUNS = 220


@pytest.mark.parametrize("kind", DRAWS)
def test_hidden_errors_are_found_within_their_interval_about_as_often_as_said(kind: str) -> None:
    """95 percent intervals over random instruments whose noise differs by a third from day to day."""
    rng = random.Random(f"coverage of {kind}")
    inside = total = 0
    for _ in range(RUNS):
        truth, wanted = DRAWS[kind](rng)
        truth["noise"] = 1.0 if kind in SCATTER else rng.lognormvariate(0, 0.3)
        result = reduced(simulate(kind, rng, truth))
        if result["verdict"]["grade"] == "repeat" and not result["verdict"]["parts"]:
            continue
        for name, true in wanted.items():
            u95 = part(result, U95_OF.get(kind, name))["u95"]
            total += 1
            inside += abs(result["result"][name] - true) <= u95
    share = inside / total
    print(f"{kind}: {share:.3f} of {total} intervals hold the truth")
    assert 0.91 <= share <= 0.995


@pytest.mark.parametrize("kind", [kind for kind in DRAWS if kind not in SCATTER])
def test_without_noise_the_error_comes_back_as_it_was(kind: str) -> None:
    rng = random.Random(f"exact {kind}")
    for _ in range(12):
        truth, wanted = DRAWS[kind](rng)
        result = reduced(simulate(kind, rng, {**truth, "noise": 0.0}))
        for name, true in wanted.items():
            # What is typed is rounded to the last digit of the field, and no better than that.
            allowed = {"scale_ppm": 40.0, "zero_offset_mm": 0.1}.get(name, 1.2 if name.endswith("arcsec") else 0.06)
            assert result["result"][name] == pytest.approx(true, abs=allowed), name


@pytest.mark.parametrize("kind", DRAWS)
def test_a_good_one_is_not_called_bad(kind: str) -> None:
    """Errors of nothing: neither adjust nor service in a hundred, and hardly ever a repeat."""
    rng = random.Random(f"good {kind}")
    good = {
        "compensator-function": {},
        "tripod": {"twist_arcsec": 8.0, "set_arcsec": 0.0},
        "plate-vial": {"decimals": 1},
    }.get(kind, {"headings": (0, 90, 180, 270)} if kind in ("circular-vial", "pole-vial", "dual-axis-level") else {})
    grades = [reduced(simulate(kind, rng, dict(good)))["verdict"]["grade"] for _ in range(100)]
    assert grades.count("adjust") + grades.count("service") <= 1, grades
    assert grades.count("repeat") <= 4
    print(f"{kind}: {grades.count('use')} of 100 good ones are use, {grades.count('watch')} watch")
