"""What an instrument's series says, through the server: with its events, its rule and the others of its model."""

from __future__ import annotations

from datetime import date, datetime, timedelta
from typing import Any

import pytest

from fleet.models import Instrument
from tests.server.conftest import Api, good

START = datetime.fromisoformat("2026-03-01T06:40:00+00:00")


def check(api: Api, day: int, tag: str = "LV-07", **more: Any) -> str:
    at = (START + timedelta(days=day)).isoformat()
    answer = api.check(good(**more), at=at, instrument=tag)
    assert answer.status_code == 201, answer.content
    return str(answer.json()["id"])


def trend(api: Api, tag: str = "LV-07") -> dict[str, Any]:
    return api.get(f"instruments/{tag}/series?of=two-peg").json()["trend"]


def test_nothing_on_record_says_nothing(tam: Api) -> None:
    assert trend(tam) is None
    assert tam.get("instruments/LV-07/series?of=control").json()["trend"] is None


def test_a_few_checks_have_a_level_and_the_rule_holds(tam: Api) -> None:
    check(tam, 0)
    found = trend(tam)
    assert (found["n"], found["slope_per_year"], found["earned_days"], found["earned_code"]) == (1, None, 30, "rule")
    assert "A trend needs six checks over three months; one check since the last event." in found["text"]


def test_a_years_checks_alike_earn_a_longer_interval_until_a_knock(tam: Api) -> None:
    for day in range(0, 330, 30):
        check(tam, day)
    found = trend(tam)
    assert (found["n"], found["drifting"], found["early"]) == (11, False, None)
    assert found["text"].startswith("No drift seen; up to ")
    assert (found["earned_code"], found["earned_days"]) == ("longer", 90)
    assert len(found["line"]) == 9
    tam.event("knock", (START + timedelta(days=331)).isoformat())
    assert trend(tam) is None
    check(tam, 332)
    assert trend(tam)["n"] == 1


def test_two_results_that_contradict_are_marked_until_a_third_decides(tam: Api) -> None:
    first = check(tam, 1, c=24.0)
    second = check(tam, 2)
    assert trend(tam)["disputed"] == [first, second]
    check(tam, 3)
    found = trend(tam)
    assert found["disputed"] == [first]
    assert "the odd one of three runs" in found["dispute"]


def test_another_rule_of_the_firm_is_what_it_is_compared_with(tam: Api, ines: Api) -> None:
    for day in range(0, 150, 30):
        check(tam, day)
    assert ines.put("due-rules", {"check": "two-peg", "every_days": 80}).status_code == 200
    assert "80" in trend(tam)["earned"]


def test_three_others_share_their_scatter_with_one_that_has_no_trend_and_not_their_drift(tam: Api, ines: Api) -> None:
    model = Instrument.objects.get(tag="LV-02").model
    for tag in ("LV-21", "LV-22"):
        Instrument.objects.create(tag=tag, model=model, since=date(2025, 3, 1), place="Yard")
    for tag in ("LV-02", "LV-21", "LV-22"):
        for day in range(0, 210, 30):
            check(tam, day, tag)
    check(tam, 0)
    found = trend(tam)
    assert found["others"] == 3
    assert found["text"].endswith("A trend needs six checks over three months; one check since the last event.")
    assert found["together"] == "Scatter estimated together with three others of its model."
    assert (found["slope_per_year"], found["early"]) == (None, None)
    tam.event("drop", (START + timedelta(days=250)).isoformat(), instrument="LV-21")
    assert trend(tam)["others"] == 0, "two say nothing of one, and what was kept is worked out again"


@pytest.mark.parametrize("of", ["", "two", "kinds"])
def test_a_series_of_nothing_is_said(tam: Api, of: str) -> None:
    assert tam.get(f"instruments/LV-07/series?of={of}").status_code == 422


def test_a_temperature_as_the_screen_types_it_is_plotted_and_judged(tam: Api) -> None:
    """Circumstances are typed as text, with either mark; the series, its trend and what is due read them as numbers."""
    for day in range(0, 300, 30):
        celsius = f"{5 + day // 30 * 2},5"
        at = (START + timedelta(days=day)).isoformat()
        assert tam.check({**good(), "conditions": {"temperature_c": celsius}}, at=at).status_code == 201
    found = tam.get("instruments/LV-07/series?of=two-peg").json()
    assert [point["temperature_c"] for point in found["points"]] == [5.5 + 2 * n for n in range(10)]
    assert found["trend"]["warmth"] == "Time and temperature cannot be separated here.", "both grow together"


def test_a_step_from_a_typed_temperature_makes_the_check_due(tam: Api, ines: Api) -> None:
    assert ines.put("due-rules", {"check": "two-peg", "every_days": 30, "temperature_step_c": "15"}).status_code == 200
    tam.check({**good(), "conditions": {"temperature_c": "−4"}}, at="2027-03-01T06:40:00+00:00")
    tam.event("temperature-step", "2027-03-02T06:00:00+00:00", temperature_c="12")
    checks = tam.get("instruments/LV-07").json()["standing"]["checks"]
    entry = next(each for each in checks if each["check"] == "two-peg")
    assert "last made at −4 °C" in " ".join(reason["text"] for reason in entry["reasons"])
