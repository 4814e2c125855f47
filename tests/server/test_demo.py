"""The demo as it is loaded: the story its levels say, the folder it may touch."""

from __future__ import annotations

import sqlite3
from collections import Counter
from contextlib import closing
from pathlib import Path

import pytest
from django.db import connection, transaction

from config.environment import DATABASE
from demo import run
from demo.history import load
from demo.scenario import LEVELS, drifting, stepped
from fleet.models import Instrument
from people.models import Person
from records import chain
from records.models import Record

from ..written_demo import written_demo
from .conftest import Api


@pytest.fixture(scope="module")
def loaded(django_db_setup, django_db_blocker):
    """Two years at Pellow Creek, put in place for this file and taken away after it."""
    if connection.vendor != "sqlite":
        with django_db_blocker.unblock(), transaction.atomic():
            load(lambda line: None)
            yield
            transaction.set_rollback(True)
        return
    with django_db_blocker.unblock(), closing(sqlite3.connect(":memory:")) as before:
        connection.ensure_connection()
        connection.connection.backup(before)
        with closing(sqlite3.connect(written_demo() / DATABASE)) as demo:
            demo.backup(connection.connection)
        yield
        before.backup(connection.connection)


@pytest.fixture
def seen(loaded, db) -> Api:
    return Api(Person.objects.get(username="ines"))


def test_every_level_says_its_story(seen: Api) -> None:
    yard = {instrument["tag"]: instrument for instrument in seen.get("instruments").json()["instruments"]}
    states = {tag: entry["standing"]["state"] for tag, entry in yard.items()}
    assert states == {
        "LV-02": "ready",
        "LV-03": "check-first",
        "LV-05": "ready-if",  # drifted to the edge of its limit: balanced sights only
        "LV-07": "hold",
        "LV-09": "ready",
        "LV-11": "check-first",
        "TS-01": "ready",
        "TS-03": "check-first",  # a frosty night after it was last checked
        "TD-01": "ready-if",  # its plummet is not proved within the limit, and the condition says what to do
        "TB-04": "ready-if",
        "TB-11": "check-first",  # its marks scatter too much to say anything
        "TR-01": "ready",
        "TR-02": "ready",
        "TR-03": "hold",  # its head does not spring back
        "TR-04": "ready",
        "TR-05": "ready",
        "TR-06": "ready",
        "PO-01": "ready",
        "PO-02": "hold",
        "ST-01": "ready-if",
        "ST-02": "ready-if",
        "TA-01": "ready-if",
    }
    assert yard["LV-07"]["latest"]["grade"] == "adjust"
    assert abs(yard["LV-07"]["latest"]["value"] - 24.0) < yard["LV-07"]["latest"]["u95"] * 1.5
    assert yard["LV-11"]["latest"] is None
    assert "overdue" in yard["LV-03"]["standing"]["reasons"][0]["text"]


def test_a_drifting_level_drifts_and_a_knocked_one_jumps(seen: Api) -> None:
    points = seen.get("instruments/LV-05/series").json()["points"]
    early, late = points[:6], points[-6:]
    drift = sum(p["value"] for p in late) / 6 - sum(p["value"] for p in early) / 6
    years = (len(points) - 6) * 28 / 365.25
    assert drift / years == pytest.approx(3.6, abs=1.5)
    knocked = seen.get("instruments/LV-07/series").json()
    assert Counter(e["event"] for e in knocked["events"]) == {"knock": 2, "adjusted": 1, "service-in": 1}
    assert Counter(p["stage"] for p in knocked["points"])["as-left"] == 1


def test_findings_hold_the_true_error_about_as_often_as_they_say(seen: Api) -> None:
    """95 percent intervals over a hundred checks: between 88 and 100 hold the truth they were made with."""
    inside = total = 0
    for level in LEVELS:
        instrument = Instrument.objects.get(tag=level.tag)
        for point in seen.get(f"instruments/{level.tag}/series").json()["points"]:
            at = Record.objects.get(id=point["id"]).observed_at_utc
            days = (run_morning() - at).days
            truths = [level.error(days), level.error(days + 1)]
            total += 1
            inside += any(abs(point["value"] - truth) <= point["u95"] for truth in truths)
        assert instrument.records.filter(category="check").count() >= (0 if level.since_days < 30 else 20)
    assert total > 100
    assert 0.88 <= inside / total <= 1.0


def run_morning():
    from shared import clock

    return clock.now()


def test_every_seal_holds(seen: Api) -> None:
    assert all(chain.broken(record) is None for record in Record.objects.select_related("instrument")[:150])


def test_true_errors_by_days_ago() -> None:
    assert stepped((730, 14.0), (431, 1.4))(500) == 14.0
    assert stepped((730, 14.0), (431, 1.4))(431) == 1.4
    assert drifting(8.2, 3.6)(365.25) == pytest.approx(4.6)


def test_the_demo_touches_no_database_that_is_not_its_own(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("NAVETA_DATA", str(tmp_path))
    (tmp_path / "naveta.sqlite3").write_text("somebody's work")
    monkeypatch.setenv("RESET", "1")
    with pytest.raises(SystemExit, match="left alone"):
        run.folder()
    assert (tmp_path / "naveta.sqlite3").read_text() == "somebody's work"


def test_reset_empties_a_marked_folder_only(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    data = tmp_path / "demo"
    monkeypatch.setenv("NAVETA_DATA", str(data))
    assert run.folder() == data
    (data / "naveta.sqlite3").write_text("demo")
    assert (run.folder() / "naveta.sqlite3").exists(), "started again it keeps what was entered"
    monkeypatch.setenv("RESET", "1")
    assert not (run.folder() / "naveta.sqlite3").exists()
