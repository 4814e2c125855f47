"""The last good test as evidence, by simulation; what the quick checks say; fields that carry their unit in their name."""

from __future__ import annotations

import numpy as np
import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused
from naveta_core.registry import parse
from naveta_core.stats.decision import Evidence, Limits, confirmed_by_record, decide
from naveta_core.stats.estimate import Spread, pooled
from tests.core.plain import adjusting_of

from .builders import exact, preview, raw, reduce, staffs

NEAR = [(30, 30), (56, 4)]
TWO_PEG = KINDS["two-peg"]
RUNS = 4000


def share_of_use(sigma: float, jump: float, seed: int) -> float:
    """How often today's test ends as `use`, depending on a good one a month ago after which the error jumped.

    Everything in units of the limit. The earlier test was of a perfect instrument and graded use.
    """
    rng = np.random.default_rng(seed)
    limits = Limits(1.0, 1.0, 100.0, "simulation")
    used = 0
    for _ in range(RUNS):
        earlier = Evidence(rng.normal(0, 0.35), 0.35, 30)
        found = Spread(rng.chisquare(4), 4)
        today = pooled(jump + rng.normal(0, sigma), sigma**2, 0.0, found)
        decision = decide(today, limits)
        carried = "not-proved" in decision.codes and confirmed_by_record(today, limits, earlier) is not None
        used += decision.grade == "use" or carried
    return used / RUNS


@pytest.mark.parametrize(("sigma", "least"), [(0.2, 0.95), (0.3, 0.9), (0.35, 0.85), (0.4, 0.7)])
def test_an_unchanged_good_level_is_used_on_the_strength_of_its_record(sigma: float, least: float) -> None:
    """85 to 95 percent while today's interval fits the limit; beyond that fewer and fewer do."""
    assert share_of_use(sigma, 0.0, 1) > least


@pytest.mark.parametrize(("jump", "most"), [(1.25, 0.24), (1.5, 0.12), (2.0, 0.03)])
def test_a_jump_is_seldom_hidden_by_the_record(jump: float, most: float) -> None:
    """At most about 22, 11 and 2 percent for jumps to 1.25, 1.5 and twice the limit, at half the limit's noise."""
    assert share_of_use(0.45, jump, 2) <= most


def test_a_test_too_coarse_depends_on_nothing() -> None:
    limits = Limits(1.0, 1.0, 100.0, "simulation")
    coarse = pooled(0.0, 0.9**2, 0.0, Spread())
    assert coarse.u95 > 1
    assert confirmed_by_record(coarse, limits, Evidence(0.0, 0.1, 10)) is None


def test_the_looks_are_answered_before_anything_is_read() -> None:
    def quote(**looks: str) -> list[str]:
        document = {"kind": "two-peg", "observations": {"looks": looks}}
        return [look["code"] for look in preview(document)["progress"]["looks"]]

    assert quote() == []
    assert quote(bubble_holds="yes", line_returns="yes") == []
    assert quote(line_returns="no") == ["sticking"]
    assert quote(bubble_holds="no", line_returns="no") == ["sticking", "bubble-does-not-hold"]


def test_a_reading_no_reticle_can_give_is_questioned() -> None:
    """Typed while looking at the other staff, the upper wire, or after the tripod was moved."""
    document = parse(raw(exact(24, *NEAR, copies=4)))
    level, _ = staffs(0, 56, 4)
    near_enough, strange = f"{level + 0.03:.4f}", f"{level - 0.3:.4f}"
    first, second = adjusting_of("two-peg", document, [near_enough, strange])["steps"]
    assert "too high" in first["text"]
    assert "too far for a reticle" in second["text"]
    assert not second["done"]


def test_names_that_carry_a_unit_take_what_is_typed_in_it() -> None:
    base = exact(8, *NEAR, copies=4)
    result = reduce(
        {**base, "work": {"sight_m": "150 ft"}, "conditions": {"temperature_c": "−4,5", "minutes_on": "20"}}
    )
    assert "46 m" in result["finding"]["text"] or "45.7 m" in result["finding"]["text"]
    same = reduce({**base, "work": {"sight_m": 45.72}})
    assert result["finding"] == same["finding"]
    document = parse(raw({**base, "conditions": {"temperature_c": "−4,5"}}))
    assert document.conditions.temperature_c == -4.5


@pytest.mark.parametrize(
    ("field", "value", "wanted"),
    [
        ("temperature_c", "4.5.1", "a number with one decimal mark"),
        ("temperature_c", "1e1", "a number without exponent"),
        ("temperature_c", "", "a number"),
        ("temperature_c", "99", "a number at most 70"),
        ("minutes_on", "-1", "a number at least 0"),
        ("temperature_c", True, "a number"),
    ],
)
def test_a_wrong_number_in_the_circumstances_names_its_field(field: str, value: object, wanted: str) -> None:
    with pytest.raises(Refused) as caught:
        parse(raw({**exact(8, *NEAR), "conditions": {field: value}}))
    (fault,) = caught.value.faults
    assert fault.path == f"conditions.{field}"
    assert wanted in fault.wanted


def test_the_limit_says_where_it_comes_from() -> None:
    (part,) = reduce(exact(8, *NEAR, copies=4))["verdict"]["parts"]
    assert (
        part["limit_text"] == "Limit 10″, 20″ with balanced sights: default limit for a level without stated accuracy"
    )
    own = {"collimation_arcsec": {"use": 8, "source": "job class: flood wall"}}
    (part,) = reduce({**exact(8, *NEAR, copies=4), "limits": own})["verdict"]["parts"]
    assert part["limit_text"] == "Limit 8″: job class: flood wall"


def test_a_conditional_watch_is_not_called_close_to_its_limit() -> None:
    texts = {reason["code"]: reason["text"] for reason in reduce(exact(13, *NEAR, copies=6))["verdict"]["reasons"]}
    assert texts["near-limit"].startswith("Within ")
    assert "with balanced sights" in texts["conditional"]


def test_every_kind_leads_through_a_bad_finding_in_the_same_order() -> None:
    for kind in KINDS.values():
        steps = kind.about()["when_bad"]
        assert [step["code"] for step in steps] == ["real", "keep", "adjust", "without", "impact-review"]
        assert all(step["text"].endswith(".") for step in steps)
