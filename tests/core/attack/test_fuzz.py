"""Changed documents: only faults of the core's own, none slow. Two thousand each time, a hundred thousand with everything;
`make fuzz` takes four times as many."""

from __future__ import annotations

import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused
from tests.core.plain import previewed

from .fuzz import AT, QUESTIONS, SET_UPS, bases, run


def test_nothing_typed_is_a_fault_of_ours() -> None:
    assert run(20270301, 2_000) == []


@pytest.mark.long
@pytest.mark.parametrize("seed", range(10))
def test_nothing_typed_a_hundred_thousand_times_is_a_fault_of_ours(seed: int) -> None:
    assert run(20270302 + seed, 10_000) == []


def test_every_kind_is_among_what_is_changed() -> None:
    kinds = {base.get("kind") for base in bases()}
    assert set(KINDS) <= kinds
    assert {"free-station", "backsight", "set-up", "pre-survey"} <= kinds
    assert len(QUESTIONS) >= 16


@pytest.mark.parametrize(
    ("changed", "path"),
    [
        ({"work": {"elevation_deg": 90}}, "work.elevation_deg"),
        ({"work": {"sight_m": 25_000}}, "work.sight_m"),
        ({"work": None}, "work"),
        ({"before_at": "2027-03-02T06:40:00"}, "before_at"),
        ({"before_at": "0001-01-01T00:00:00+14:00"}, "before_at"),
        ({"before": [{"check": "two-peg", "at": AT, "grade": "use", "result": None}]}, "before[0].result"),
        ({"before": [{"check": "two-peg", "at": AT, "grade": "use", "result": "x"}]}, "before[0].result"),
        ({"instrument": {"magnification": 1e300}}, "instrument.magnification"),
        ({"instrument": {"angle_accuracy_arcsec": 1e-300}}, "instrument.angle_accuracy_arcsec"),
        ({"instrument": {"noise": {"factor": 1e300, "dof": 6}}}, "instrument.noise.factor"),
        ({"stored": {"index_along_arcsec": 1e300}}, "stored.index_along_arcsec"),
        ({"limits": {"tilt_arcsec": {"use": 1e-300}}}, "limits.tilt_arcsec.use"),
    ],
)
def test_a_fault_names_path_and_what_is_wanted_on_one_line(changed: dict, path: str) -> None:
    with pytest.raises(Refused) as caught:
        previewed({**SET_UPS[0], **changed}, None, AT)
    (fault,) = caught.value.faults
    assert fault.path == path
    assert fault.wanted
    assert "\n" not in str(fault)


def test_a_set_up_without_sights_is_judged_by_the_usual_ones() -> None:
    found = {name: value for name, value in SET_UPS[0].items() if name != "work"}
    reduced = previewed(found, None, AT)["reduced"]
    # 30 m, 10″ wanted of an angle at 90°: √2·10″·30²/(ρ·30√2) = 30 m·10″/ρ = 1.454 mm.
    limits = next(p["limits"] for p in reduced["verdict"]["parts"] if p["quantity"] == "centring_mm")
    assert limits["use"] == pytest.approx(1.45, abs=0.006)
