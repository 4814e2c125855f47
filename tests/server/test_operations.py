"""What is set up once: environment, clock, the first manager, rebuilding what follows from the records."""

from __future__ import annotations

import json
import stat
from datetime import UTC, datetime
from io import StringIO
from pathlib import Path

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.test import override_settings

from config.environment import DEMO_MARKER, Environment
from fleet.models import Instrument
from naveta_core.errors import Refused
from people.models import Person
from people.services import add_person
from records import chain
from records.derived import derived_of
from records.models import Record
from shared import clock, paging
from shared.rights import ROLES, TABLE, may

from .conftest import Api, bad, good


class TestEnvironment:
    def test_the_secret_key_is_made_once_and_is_its_owners(self, tmp_path: Path) -> None:
        environment = Environment(data=tmp_path / "own")
        key = environment.secret_key()
        assert len(key) >= 50
        assert environment.secret_key() == key
        mode = (tmp_path / "own/secret-key").stat().st_mode
        assert stat.S_IMODE(mode) == 0o600

    def test_a_demo_needs_both_the_switch_and_the_marked_folder(self, tmp_path: Path) -> None:
        assert not Environment(data=tmp_path, demo=True).is_marked_demo
        (tmp_path / DEMO_MARKER).touch()
        assert Environment(data=tmp_path, demo=True).is_marked_demo
        assert not Environment(data=tmp_path, demo=False).is_marked_demo

    def test_hosts_are_this_machine_and_those_named(self, tmp_path: Path) -> None:
        hosts = Environment(data=tmp_path, hosts="naveta.example, yard.example ").allowed_hosts
        assert hosts == ["127.0.0.1", "localhost", "[::1]", "naveta.example", "yard.example"]


class TestClock:
    def test_it_stands_still_in_the_demo_only(self, tmp_path: Path) -> None:
        frozen = datetime(2027, 3, 2, 6, 40, tzinfo=UTC)
        with override_settings(NAVETA=Environment(data=tmp_path, demo=True, now=frozen)):
            assert clock.now() == frozen
            with clock.frozen_now(datetime(2025, 1, 1, tzinfo=UTC)):
                assert clock.now().year == 2025
        with override_settings(NAVETA=Environment(data=tmp_path, demo=False, now=frozen)):
            assert clock.now() != frozen
            with clock.frozen_now(datetime(2025, 1, 1, tzinfo=UTC)):
                assert clock.now().year != 2025

    @pytest.mark.django_db
    def test_a_day_is_the_firms_day(self, tmp_path: Path) -> None:
        late = datetime(2027, 3, 1, 23, 30, tzinfo=UTC)
        with override_settings(NAVETA=Environment(data=tmp_path, demo=True, now=late), TIME_ZONE="Europe/Lisbon"):
            assert clock.today().isoformat() == "2027-03-01"
        with override_settings(NAVETA=Environment(data=tmp_path, demo=True, now=late), TIME_ZONE="Asia/Kolkata"):
            assert clock.today().isoformat() == "2027-03-02"


@pytest.mark.django_db
class TestPeople:
    def test_the_first_manager_is_made_by_command(self, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr("getpass.getpass", lambda *_: "limestone and sea")
        call_command("make_manager", "ines", "Ines Calder", stdout=StringIO())
        person = Person.objects.get(username="ines")
        assert person.role == "manager"
        assert person.check_password("limestone and sea")

    def test_a_weak_password_makes_nobody(self, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr("getpass.getpass", lambda *_: "short")
        with pytest.raises(CommandError):
            call_command("make_manager", "ines", "Ines Calder", stdout=StringIO())
        assert not Person.objects.exists()

    @pytest.mark.parametrize(
        ("more", "path"),
        [({"role": "captain"}, "role"), ({"username": "tam"}, "username"), ({"name": " "}, "name")],
    )
    def test_faults_name_their_field(self, firm, more: dict, path: str) -> None:
        entry = {"username": "moss", "name": "Moss Tarn", "role": "crew", "crew": "Bramble", "password": None, **more}
        with pytest.raises(Refused) as caught:
            add_person(actor=firm["ines"], **entry)
        assert path in [fault.path for fault in caught.value.faults]


def test_every_role_is_answered_for_every_act() -> None:
    """No right is given because a role was forgotten, and every no has a code and a sentence."""
    for act, answers in TABLE.items():
        assert set(answers) == set(ROLES)
        for role, answer in answers.items():
            assert answer.allowed or (answer.code and answer.text.endswith(".")), (act, role)
            assert may(type("Somebody", (), {"role": role})(), act) is answer
        assert not may(type("Somebody", (), {"role": "captain"})(), act).allowed
    assert [act for act in TABLE if TABLE[act]["trainee"].allowed] == ["see", "note-event"]
    assert [act for act in TABLE if not TABLE[act]["crew"].allowed] == [
        "release",
        "send-away",
        "manage-people",
        "manage-fleet",
    ]


def test_what_follows_from_the_records_can_be_rebuilt(tam: Api) -> None:
    tam.check(good(), at="2027-02-20T07:00:00+00:00")
    tam.event("knock", "2027-03-01T14:10:00+00:00", note="off the wall")
    tam.check(bad())
    kept = Instrument.objects.get(tag="LV-07").derived
    Instrument.objects.update(derived={}, derived_stamp="")
    assert tam.get("instruments/LV-07").json()["standing"]["state"] == "check-first"
    call_command("rebuild_derived", stdout=StringIO())
    instrument = Instrument.objects.get(tag="LV-07")
    assert instrument.derived == kept == derived_of(instrument)
    assert tam.get("instruments").json()["instruments"][0]["standing"]["state"] == "hold"


@pytest.mark.django_db(transaction=True)
def test_a_new_version_derives_again_what_the_last_one_stored(tam: Api) -> None:
    """A bad level, then a run that was not conclusive: an older version stored the pass and the last run alone."""
    tam.check(good(), at="2027-02-20T07:00:00+00:00")
    tam.check(bad(), at="2027-03-01T07:00:00+00:00")
    tam.check(good(), at="2027-03-02T06:00:00+00:00")
    instrument = Instrument.objects.get(tag="LV-07")
    assert [check["grade"] for check in instrument.derived["done"]] == ["use", "adjust", "repeat"]
    older = {
        **instrument.derived,
        "done": [check for check in instrument.derived["done"] if check["grade"] != "adjust"],
    }
    Instrument.objects.filter(tag="LV-07").update(derived=older)
    record = Record.objects.filter(instrument=instrument, kind="two-peg").latest("arrival")
    short = json.loads(record.summary)
    short["figures"].pop("sigma_collimation_arcsec")
    with connection.cursor() as cursor:
        cursor.execute("UPDATE records_record SET summary = %s WHERE id = %s", [json.dumps(short), record.pk.hex])
    record.refresh_from_db()
    assert chain.broken(record) is not None
    for applied in ("0007_looks", "0006_summaries_again"):
        MigrationRecorder(connection).record_unapplied("records", applied)
    call_command("migrate", verbosity=0)
    record.refresh_from_db()
    assert chain.broken(record) is None, "what an older version summed up is no change of a record"
    assert Instrument.objects.get(tag="LV-07").derived == derived_of(instrument)
    assert tam.get("instruments/LV-07").json()["standing"]["state"] == "hold"


def test_the_yard_follows_every_change_at_once(tam: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    """Standings are kept in the process: a change of records or of the day must show all the same."""
    tam.compensators("LV-02", "LV-07")

    def state() -> str:
        rows = tam.get("instruments?q=lv7").json()["instruments"]
        return rows[0]["standing"]["state"]

    assert state() == "check-first"
    tam.check(good())
    assert state() == "ready"
    tam.event("knock", "2027-03-02T07:00:00+00:00")
    assert state() == "check-first"
    tam.check(good(), at="2027-03-02T08:00:00+00:00")
    assert state() == "ready"
    monkeypatch.setattr("shared.clock.now", lambda: datetime(2027, 4, 20, 9, tzinfo=UTC))
    assert state() == "check-first"


@pytest.mark.parametrize("cursor", ["nonsense", "WzFd", paging.encode(["a", 1]), "%00"])
def test_a_page_mark_that_is_none_is_refused(tam: Api, cursor: str) -> None:
    answer = tam.get(f"instruments?cursor={cursor}")
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"] == "cursor"
