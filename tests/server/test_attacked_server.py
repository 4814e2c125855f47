"""Disk, clock, seals, size: what the server does when one of them is against it."""

from __future__ import annotations

import gzip
import json
import sqlite3
import subprocess
import sys
import uuid
from contextlib import closing
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from django.db import OperationalError, connection

from config.environment import DATABASE, ROOT
from fleet.models import ChangeCounter, Instrument
from records.models import Record
from shared import clock

from .conftest import Api, good
from .test_records import looked_through

AT = "2027-03-02T06:40:00+00:00"


def sql(text: str, *values: Any) -> None:
    with connection.cursor() as cursor:
        cursor.execute(text, values)


class TestDisk:
    @pytest.mark.parametrize(
        ("reason", "status", "code"),
        [
            ("database is locked", 503, "busy"),
            ("database or disk is full", 507, "no-room"),
            ("attempt to write a readonly database", 507, "no-room"),
            ("disk I/O error", 507, "no-room"),
            ("no such table: records_record", 500, "our-fault"),
        ],
    )
    def test_what_the_disk_says_is_said_and_reading_goes_on(
        self, tam: Api, monkeypatch: pytest.MonkeyPatch, reason: str, status: int, code: str
    ) -> None:
        def fails(*_: Any, **__: Any) -> None:
            raise OperationalError(reason)

        monkeypatch.setattr(Record, "save", fails)
        answer = tam.check(good())
        assert (answer.status_code, answer.json()["code"]) == (status, code)
        if status != 500:
            assert int(answer.headers["Retry-After"]) > 0
        assert tam.get("records").json()["records"] == []

    def test_a_read_only_database_is_read(self, tmp_path: Path) -> None:
        """As a process of its own, with the file taken from it."""
        code = (
            "import django; django.setup()\n"
            "from django.core.management import call_command; call_command('migrate', verbosity=0)\n"
            "from people.models import Person; from django.db import connection, OperationalError\n"
            "Person.objects.create(username='tam', name='Tam', role='crew')\n"
            "connection.cursor().execute('PRAGMA query_only=ON')\n"
            "from django.test import Client; c = Client(); p = Person.objects.get()\n"
            "print(Person.objects.count())\n"
            "try: Person.objects.update(name='x')\n"
            "except OperationalError as e:\n"
            "    from shared.errors import _of_the_disk; print(_of_the_disk(e).status_code)\n"
        )
        env = {"NAVETA_DATA": str(tmp_path / "d"), "DJANGO_SETTINGS_MODULE": "config.settings", "PATH": ""}
        found = subprocess.run(
            [sys.executable, "-c", code], cwd=ROOT / "server", env=env, capture_output=True, text=True, check=True
        )
        assert found.stdout.split() == ["1", "507"]


class TestClock:
    def test_the_servers_own_that_went_back_is_named_and_nothing_is_parked(
        self, tam: Api, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        tam.check(good(), at=AT)
        monkeypatch.setattr(clock, "now", lambda: datetime(2027, 2, 26, 6, 0, tzinfo=UTC))
        answer = tam.event("knock", "2027-03-02T07:00:00+00:00")
        assert (answer.status_code, answer.json()["code"]) == (503, "server-clock-behind")
        assert "02 March 2027" in answer.json()["title"]
        monkeypatch.undo()
        assert tam.event("knock", "2027-03-02T07:00:00+00:00").status_code == 201

    def test_a_jump_forward_leaves_nothing_on_top_for_ever(self, tam: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        """Saved while the server's clock was years ahead; once it is right again, that record is not the latest word."""
        with monkeypatch.context() as leading_reasons:
            leading_reasons.setattr(clock, "now", lambda: datetime(2031, 1, 1, tzinfo=UTC))
            assert tam.check(good(), at="2030-12-31T06:40:00+00:00").status_code == 201
        sql("UPDATE records_record SET received_at = '2027-03-01 00:00:00'")
        tam.event("drop", AT)
        assert tam.get("instruments/LV-07").json()["standing"]["state"] == "hold"


@pytest.fixture
def chain_of_three(tam: Api) -> list[str]:
    rows = [tam.check(good(), at="2027-02-01T07:00:00+00:00"), tam.event("knock", "2027-02-02T07:00:00+00:00")]
    rows.append(tam.check(good(), at="2027-02-03T07:00:00+00:00"))
    tam.check(good(), instrument="LV-02")
    return [row.json()["id"] for row in rows]


class TestSeals:
    @pytest.mark.parametrize(
        "change",
        [
            "DELETE FROM records_record WHERE id = %s",
            "UPDATE records_record SET observed_at_utc = '2027-02-20 07:00:00' WHERE id = %s",
            "UPDATE records_record SET received_at = '2027-02-20 07:00:00' WHERE id = %s",
            "UPDATE records_record SET sent_digest = 'x' WHERE id = %s",
            "UPDATE records_record SET summary = '{}' WHERE id = %s",
            "UPDATE records_record SET observed_at = '2027-02-03T07:00:01+00:00' WHERE id = %s",
            "UPDATE records_record SET entered_by_id = (SELECT id FROM people_person WHERE username='jory') WHERE id = %s",
            "UPDATE records_record SET sequence = 9 WHERE id = %s",
        ],
    )
    def test_the_last_record_changed_or_gone_is_found(self, ines: Api, chain_of_three: list[str], change: str) -> None:
        assert looked_through(ines)[-1]["ok"]
        sql(change, uuid.UUID(chain_of_three[-1]).hex)
        *chains, total = looked_through(ines)
        assert not total["ok"]
        assert [chain["instrument"] for chain in chains if chain.get("wrong")] == ["LV-07"]

    @pytest.mark.usefixtures("chain_of_three")
    def test_a_whole_chain_gone_is_found(self, ines: Api) -> None:
        sql("DELETE FROM records_record WHERE instrument_id = (SELECT id FROM fleet_instrument WHERE tag = 'LV-07')")
        *chains, total = looked_through(ines)
        assert not total["ok"]
        (found,) = [chain for chain in chains if chain.get("wrong")]
        assert "should hold 3 records and holds 0" in found["wrong"][0]["text"]

    @pytest.mark.usefixtures("chain_of_three")
    def test_facts_the_yard_goes_by_are_compared(self, ines: Api) -> None:
        instrument = Instrument.objects.get(tag="LV-07")
        instrument.derived = {**instrument.derived, "events": []}
        instrument.save(update_fields=["derived"])
        *_, total = looked_through(ines)
        assert not total["ok"]

    @pytest.mark.usefixtures("chain_of_three")
    def test_from_a_mark_on_only_what_came_since(self, tam: Api, ines: Api) -> None:
        mark = looked_through(ines)[-1]["cursor"]
        since = lambda: [json.loads(x) for x in ines.get(f"health/chains?since={mark}").getvalue().splitlines()]  # noqa: E731
        assert (len(since()), since()[-1]["records"]) == (1, 0)
        tam.check(good(), at=AT)
        assert (since()[0]["instrument"], since()[-1]["records"]) == ("LV-07", 1)
        sql("UPDATE records_record SET previous = 'x' WHERE arrival > %s", mark)
        assert not since()[-1]["ok"]


class TestSizes:
    def test_three_arrivals_between_two_pages_repeat_nothing(self, tam: Api) -> None:
        rows = [tam.event("knock", f"2027-03-02T06:{i:02}:00+00:00").json()["id"] for i in range(9)]
        for query in ("", "by=tam&", "kind=knock&", "instrument=LV-07&", "category=event&"):
            first = tam.get(f"records?{query}limit=4").json()
            for i in range(3):
                tam.event("knock", f"2027-03-02T07:{i:02}:00+00:00")
            rest, following = [], first["next"]
            while following:
                page = tam.get(f"records?{query}limit=4&cursor={following}").json()
                rest, following = rest + page["records"], page["next"]
            seen = [record["id"] for record in first["records"] + rest]
            assert len(set(seen)) == len(seen)
            assert set(rows) <= set(seen)

    @pytest.mark.skipif(connection.vendor != "sqlite", reason="asks for the plan in SQLite's words")
    def test_a_list_reads_no_document_and_a_bounded_number_of_rows(
        self, tam: Api, django_assert_max_num_queries: Any
    ) -> None:
        for i in range(6):
            tam.event("knock", f"2027-03-02T06:{i:02}:00+00:00")
        for path in ("records?limit=2", "records?by=tam&limit=2", "records?kind=knock&limit=2"):
            with django_assert_max_num_queries(9) as query:
                tam.get(path)
            lists = [
                captured_query["sql"]
                for captured_query in query.captured_queries
                if 'FROM "records_record"' in captured_query["sql"]
            ]
            assert lists
            assert not [list_ for list_ in lists if '"records_record"."document"' in list_]
            assert not [list_ for list_ in lists if "OFFSET" in list_]
            for entry in lists:
                plan = connection.cursor().execute("EXPLAIN QUERY PLAN " + entry).fetchall()
                assert not [row for row in plan if "TEMP B-TREE" in row[3] or row[3] == "SCAN records_record"], plan

    def test_a_device_asks_for_what_changed(self, tam: Api) -> None:
        tam.check(good(), instrument="LV-02")
        every = tam.get("device").json()
        assert (len(every["fleet"]), every["more"]) == (2, False)
        assert tam.get(f"device?since={every['cursor']}").json()["fleet"] == []
        tam.check(good())
        answer = tam.get(f"device?since={every['cursor']}").json()
        assert [instrument["tag"] for instrument in answer["fleet"]] == ["LV-07"]
        assert tam.get(f"device?since={answer['cursor'] + 1000}").json()["fleet"] != [], (
            "a server put back from a backup"
        )

    def test_a_device_of_many_is_given_in_pages_that_miss_none(self, tam: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        model = Instrument.objects.get(tag="LV-07").model
        for i in range(11):
            Instrument.objects.create(tag=f"LV-{20 + i}", model=model, since="2025-03-01", changed=5 + i // 4)
        ChangeCounter.objects.update_or_create(pk=1, defaults={"value": 50})
        monkeypatch.setattr("records.selectors.DEVICE_PAGE", 3)
        tags, since, more = [], 0, True
        while more:
            page = tam.get(f"device?since={since}").json()
            tags, since, more = tags + [instrument["tag"] for instrument in page["fleet"]], page["cursor"], page["more"]
        assert sorted(set(tags)) == sorted(Instrument.objects.values_list("tag", flat=True))

    def test_answers_are_packed_but_not_where_a_secret_is_among_them(self, tam: Api) -> None:
        for i in range(20):
            tam.event("knock", f"2027-03-02T06:{i:02}:00+00:00")
        fields = {"headers": {"accept-encoding": "gzip"}}
        packed = tam.client.get("/api/records", **fields)
        assert packed.headers["Content-Encoding"] == "gzip"
        plain = tam.get("records").content
        assert gzip.decompress(packed.content) == plain
        assert len(packed.content) < len(plain) / 4
        assert "Content-Encoding" not in tam.client.get("/api/session", **fields).headers


SAVING = (
    "import django; django.setup()\n"
    "import time, uuid\nfrom datetime import date\n"
    "from people.models import Person; from fleet.models import Instrument, InstrumentModel\n"
    "from records import services; from records.requests import EventIn\n"
    "who = Person.objects.get(username='tam')\n"
    "while True:\n"
    "    one = uuid.uuid4(); event = dict(instrument='LV-07', event='knock', at='2027-03-02T06:40:00+00:00')\n"
    "    services.save_event(actor=who, identity=one, sent=EventIn(**event), sent_digest=services.digest_of_sent(event))\n"
    "    print(one, flush=True); time.sleep(0.02)\n"  # without a pause one of two holds the file nearly all the time
)


@pytest.fixture
def environment(tmp_path: Path) -> dict[str, str]:
    """A data folder of its own with one person and one level."""
    env = {
        "NAVETA_DATA": str(tmp_path / "d"),
        "DJANGO_SETTINGS_MODULE": "config.settings",
        "PATH": "",
        "NAVETA_NOW": "2027-03-02T06:40:00",
        "NAVETA_DEMO": "1",
    }
    (tmp_path / "d").mkdir()
    (tmp_path / "d/this-is-a-naveta-demo").touch()
    code = (
        "import django; django.setup()\n"
        "from django.core.management import call_command; call_command('migrate', verbosity=0)\n"
        "from people.models import Person; from fleet.models import Instrument, InstrumentModel\n"
        "Person.objects.create(username='tam', name='Tam', role='crew')\n"
        "m = InstrumentModel.objects.create(maker='Ondine', name='Merrow', kind='level', stated={'reading': 'optical'})\n"
        "Instrument.objects.create(tag='LV-07', model=m, since='2025-03-01')\n"
    )
    subprocess.run([sys.executable, "-c", code], cwd=ROOT / "server", env=env, check=True)
    return env


@pytest.mark.long
def test_two_that_save_at_once_and_are_killed_lose_nothing_they_said(environment: dict[str, str]) -> None:
    """In small what `make chaos` does a hundred times."""
    lines: list[str] = []
    running = [
        subprocess.Popen(
            [sys.executable, "-c", SAVING], cwd=ROOT / "server", env=environment, stdout=subprocess.PIPE, text=True
        )
        for _ in range(2)
    ]
    for line in running:
        assert line.stdout
        lines += [line.stdout.readline().strip() for _ in range(5)]
    for line in running:
        line.kill()
        lines += line.communicate()[0].split()
    lines = [line for line in lines if len(line) == 36]
    with closing(sqlite3.connect(Path(environment["NAVETA_DATA"]) / DATABASE)) as db:
        kept = {row[0] for row in db.execute("SELECT id FROM records_record")}
        orders = [row[0] for row in db.execute("SELECT sequence FROM records_record ORDER BY sequence")]
    assert len(lines) >= 10
    assert {uuid.UUID(line).hex for line in lines} <= kept
    assert orders == list(range(1, len(orders) + 1))
    found = subprocess.run(
        [sys.executable, "manage.py", "verify"],
        cwd=ROOT / "server",
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert found.returncode == 0, found.stdout + found.stderr
