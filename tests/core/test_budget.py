"""The error budget against cases worked by hand."""

from __future__ import annotations

import math

import numpy as np
import pytest

from naveta_core.budget import Budget, Given, Part, budget, shares
from tests.core.plain import advise

RHO = 206264.806


def by_name(entry: Budget) -> dict[str, float]:
    return {part.name: part.value for part in entry.parts}


def test_systematic_parts_add_with_sign_random_ones_as_squares() -> None:
    """Bias 3 − 1 = 2, spread √(3² + 4²) = 5: 2 + 10 = 12. Without the 4: 2 + 6 = 8, without the 3: 1 + 10."""
    entry = Budget("angle", (Part("a", 3.0, True), Part("b", -1.0, True), Part("c", 3.0), Part("d", 4.0)))
    assert (entry.bias, entry.sigma, entry.total95) == (2.0, 5.0, 12.0)
    assert entry.without("d") == 8.0
    largest = entry.largest()
    assert largest is not None
    assert largest.name == "d"
    assert sum(share for _, share in shares(entry)) == pytest.approx(1.0)


def test_an_angle_by_hand() -> None:
    """Sights of 20 and 50 m at 90°, 1 mm at the stand, 2 mm at both targets, 3″ a direction, one face, 30° up.

    50 m up 30° are 43.301 m in plan. Chord √(20² + 43.301²) = 47.697; centring ρ·0.001·47.697/(√2·866.03) = 8.033″; targets
    ρ/√2·√(0.0001² + 0.00004619²) = 16.066″; pointing 3·√2 = 4.243″; c 10″·(1/cos 30° − 1) = 1.547″; t −6″·tan 30° = −3.464″.
    """
    given = Given(
        back_m=20,
        fore_m=50,
        angle_deg=90,
        elevation_deg=30,
        centring_mm=1,
        target_mm=2,
        back_target_mm=2,
        angle_accuracy_arcsec=3,
        collimation_arcsec=10,
        tilting_axis_arcsec=-6,
    )
    angle = budget(given)[0]
    found = by_name(angle)
    assert found["centring"] == pytest.approx(8.033, abs=2e-3)
    assert found["targets"] == pytest.approx(16.066, abs=2e-3)
    assert found["pointing"] == pytest.approx(4.243, abs=1e-3)
    assert found["collimation"] == pytest.approx(1.547, abs=1e-3)
    assert found["tilting-axis"] == pytest.approx(-3.464, abs=1e-3)
    sigma = math.sqrt(8.033**2 + 16.066**2 + 4.243**2)
    assert angle.total95 == pytest.approx(1.917 + 2 * sigma, abs=0.01)
    both = by_name(
        budget(Given(back_m=20, fore_m=50, angle_deg=90, elevation_deg=30, collimation_arcsec=10, both_faces=True))[0]
    )
    assert "collimation" not in both


def test_a_point_set_out_by_hand() -> None:
    """40 m over a backsight of 10 m, a = 4: the reference's 1 mm/√2 is seen four times as large; at 90° the stand's own miss
    is 1/√2·√(2 + 16) = 3 mm."""
    given = Given(
        back_m=10,
        fore_m=40,
        angle_deg=90,
        centring_mm=1,
        target_mm=1,
        back_target_mm=1,
        angle_accuracy_arcsec=5,
        distance_accuracy_mm=2,
        distance_accuracy_ppm=2,
    )
    position = by_name(budget(given)[1])
    assert position["orientation"] == pytest.approx(4.0 / math.sqrt(2))
    assert position["centring"] == pytest.approx(3.0)
    assert position["pointing"] == pytest.approx(5 * math.sqrt(2) * 40 / RHO * 1000, abs=1e-4)
    assert position["distance"] == pytest.approx(math.hypot(2.0, 0.08))


def test_a_height_by_hand() -> None:
    """100 m: 5″ are 2.424 mm; an index of 8″ too large reads the point 3.879 mm too low; k ± 0.5: 0.392 mm."""
    found = by_name(budget(Given(fore_m=100, index_arcsec=8))[2])
    assert found["pointing"] == pytest.approx(2.424, abs=1e-3)
    assert found["index"] == pytest.approx(-3.879, abs=1e-3)
    assert found["refraction"] == pytest.approx(0.3924, abs=1e-3)


def test_a_levels_height_by_hand() -> None:
    """20″ over 15 m of imbalance: 1.454 mm; two staffs within 1 mm: √2; curvature 0.87·15·60/(2·6371 km) = 0.0615 mm."""
    only = budget(Given(levelling=True, line_of_sight_arcsec=20, imbalance_m=15))
    assert len(only) == 1
    assert by_name(only[0])["line-of-sight"] == pytest.approx(1.4544, abs=1e-4)
    assert by_name(only[0])["curvature"] == pytest.approx(0.0615, abs=1e-4)
    assert by_name(only[0])["refraction"] == pytest.approx(0.0353, abs=1e-4)
    assert only[0].total95 == pytest.approx(1.4544 + 0.0615 + 2 * math.hypot(math.sqrt(2), 0.0353), abs=1e-3)


def test_without_compensator_the_axis_counts() -> None:
    """20″ out of plumb at 45° up: 20·tan 45°/√2 = 14.142″ in a direction."""
    found = by_name(budget(Given(elevation_deg=45, tilt_arcsec=20, compensated=False))[0])
    assert found["levelling"] == pytest.approx(14.142, abs=1e-3)


def test_the_sentence_names_the_largest_and_what_removes_it() -> None:
    answer = advise({"advice": "budget", "back_m": "10", "fore_m": "40", "allowed": {"position_mm": "6"}})
    position = answer["result"]["budgets"][1]
    assert position["enough"] is False
    assert "allowed 6.0 mm" in position["text"]
    assert (
        "centring of the instrument. To reduce it, centre more closely, or use a longer backsight" in position["text"]
    )
    assert [part["name"] for part in position["parts"][:2]] == ["centring", "orientation"]
    assert sum(part["share"] for part in position["parts"]) == pytest.approx(1.0, abs=1e-3)
    longer = advise({"advice": "budget", "back_m": "80", "fore_m": "40", "allowed": {"position_mm": "9"}})
    assert longer["result"]["budgets"][1]["enough"] is True


@pytest.mark.parametrize("angle", [0, 60, 120, 180])
@pytest.mark.parametrize("elevation", [0, 35])
def test_a_point_set_out_is_missed_as_said_by_simulation(angle: float, elevation: float) -> None:
    """Stand off its mark, reference off its mark, directions and distance with noise: set out 4,000 times."""
    rng = np.random.default_rng(int(angle + elevation))
    back, slope, runs = 20.0, 50.0, 4000
    steep, beta = math.radians(elevation), math.radians(angle)
    given = Given(back_m=back, fore_m=slope, angle_deg=angle, elevation_deg=elevation, centring_mm=1.5, target_mm=0,
                  back_target_mm=2, angle_accuracy_arcsec=3, both_faces=True)  # fmt: skip
    stand = rng.normal(0, 1.5e-3 / math.sqrt(2), (runs, 2))
    mark = np.array([0.0, back]) + rng.normal(0, 2e-3 / math.sqrt(2), (runs, 2)) - stand
    entry = 3 / RHO / math.sqrt(2)
    bearing = np.arctan2(mark[:, 0], mark[:, 1]) + beta + rng.normal(0, entry * math.sqrt(2), runs)
    far = (slope + rng.normal(0, math.hypot(2e-3, 2e-6 * slope), runs)) * np.cos(steep + rng.normal(0, entry, runs))
    point = stand + np.stack([far * np.sin(bearing), far * np.cos(bearing)], 1)
    wanted = slope * math.cos(steep) * np.array([math.sin(beta), math.cos(beta)])
    miss = 1000 * np.linalg.norm(point - wanted, axis=1)
    found = budget(given)[1]
    assert found.sigma == pytest.approx(math.sqrt(np.mean(miss**2)), rel=0.05)
    assert np.mean(miss <= found.total95) >= 0.945
