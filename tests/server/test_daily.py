"""A backup a day with rotation, its age and the disk said, the ends of all chains in a line a day; restores asked for on
screen."""

from __future__ import annotations

import json
import os
import signal
import sqlite3
import threading
import time
import zipfile
from contextlib import closing
from datetime import UTC, date, datetime, timedelta
from pathlib import Path
from typing import Any

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from operations import daily as turns
from operations import keeping, restoring
from operations.backups import BackupError, restore
from operations.daily import BACKUPS, HEADS, daily, kept

from config.environment import DATABASE, KEY
from fleet.models import Instrument
from people.models import Person
from records.heads import compared, head_line
from records.models import Record
from shared import clock
from tests.server.conftest import Api, good
from tests.server.test_safe_keeping import count, folder

AT = "2027-03-01T06:40:00+00:00"
TODAY = date(2027, 3, 2)


@pytest.fixture
def data(settings: Any, tmp_path: Path) -> Path:
    """A data folder of its own, with a small database to be backed up."""
    if connection.vendor != "sqlite":
        pytest.skip("of SQLite: another database keeps its own backups")
    own = folder(tmp_path / "data")
    settings.NAVETA = settings.NAVETA.model_copy(update={"data": own})
    return own


@pytest.fixture
def ines(firm: dict[str, Any]) -> Api:
    return Api(Person.objects.get(username="ines"))


class TestRotation:
    def test_two_years_of_days_leave_seven_days_five_weeks_twelve_months(self) -> None:
        """Worked out by running day after day, each time removing what is not kept, as it happens."""
        have: set[date] = set()
        for number in range(730):
            have = kept([*have, TODAY - timedelta(days=729 - number)])
        days = sorted(have, reverse=True)
        assert days[:7] == [TODAY - timedelta(days=n) for n in range(7)]
        sundays = [date(2027, 2, 28), date(2027, 2, 21), date(2027, 2, 14), date(2027, 2, 7)]
        assert [day for day in sundays if day not in days] == []
        ends = [date(2027, 1, 31), date(2026, 12, 31), date(2026, 6, 30), date(2026, 4, 30)]
        assert [day for day in ends if day not in days] == []
        assert len(days) <= 7 + 5 + 12
        assert days[-1] == date(2026, 4, 30), "twelve months with this one, the last day of each"

    def test_gaps_lose_nothing(self) -> None:
        yearly = [date(2020 + n, 1, 1) for n in range(6)]
        assert kept(yearly) == set(yearly), "a server that ran on few days keeps them all"


@pytest.mark.usefixtures("firm")
class TestTheDaysTurn:
    def test_once_a_day_and_only_its_own_are_removed(self, data: Path) -> None:
        backups = data / BACKUPS
        backups.mkdir()
        for number in range(1, 40):
            (backups / f"daily-{TODAY - timedelta(days=number)}.zip").write_bytes(b"old")
        (backups / "backup-2020-01-01.zip").write_bytes(b"by hand")
        done = daily(TODAY)
        assert done.written == backups / "daily-2027-03-02.zip"
        assert "daily-2027-02-10.zip" in done.removed
        left = {path.name for path in backups.glob("*.zip")}
        assert {"backup-2020-01-01.zip", "daily-2027-03-02.zip", "daily-2027-02-28.zip"} <= left
        assert daily(TODAY).written is None
        assert len((data / HEADS).read_text().splitlines()) == 1
        fresh = data.parent / "elsewhere"
        fresh.mkdir()
        restore(fresh, done.written, replace=False)
        assert count(fresh / DATABASE) == 3

    def test_another_folder_and_one_of_several_processes(self, data: Path, settings: Any) -> None:
        elsewhere = data.parent / "another disk"
        settings.NAVETA = settings.NAVETA.model_copy(update={"backup_folder": elsewhere})
        import fcntl

        turns.folder(BACKUPS)
        with (elsewhere / ".lock").open("w") as lock:
            fcntl.flock(lock, fcntl.LOCK_EX)
            assert daily(TODAY).written is None, "another process is at it"
        assert daily(TODAY).written == elsewhere / "daily-2027-03-02.zip"
        assert not (data / BACKUPS).exists()

    def test_by_command(self, data: Path, capsys: pytest.CaptureFixture[str]) -> None:
        call_command("daily")
        assert "daily-2027-03-02.zip" in capsys.readouterr().out
        call_command("daily")
        assert "there already" in capsys.readouterr().out
        (data / DATABASE).write_bytes(b"no database at all, but long enough to be looked at as one" * 40)
        (data / BACKUPS / "daily-2027-03-02.zip").unlink()
        with pytest.raises((CommandError, BackupError, sqlite3.DatabaseError)):
            call_command("daily")
        assert not list((data / BACKUPS).glob("*.zip"))


class TestWhatTheManagerSees:
    def test_no_backup_a_fresh_one_an_old_one(self, data: Path, tam: Api, ines: Api) -> None:
        found = ines.get("safe-keeping").json()
        assert (found["age"], found["warnings"]) == ("No backup yet", []), "a new firm is not alarmed at once"
        with clock.frozen_now(datetime(2027, 2, 20, 8, tzinfo=UTC)):
            tam.check(good(), at="2027-02-20T06:40:00+00:00")
        assert ines.get("safe-keeping").json()["warnings"] == ["There is no backup yet."]
        made = ines.post("backups", {})
        assert made.status_code == 201, made.content
        found = ines.get("safe-keeping").json()
        assert (found["age"], found["warnings"]) == ("Less than a day old", [])
        path = data / BACKUPS / made.json()["name"]
        three = time.time() - 3 * 86_400 - 60
        os.utime(path, (three, three))
        found = ines.get("safe-keeping").json()
        assert (found["age"], found["warnings"]) == ("Three days old", ["The last backup is three days old."])
        path.write_bytes(path.read_bytes()[:200])
        assert ines.get("safe-keeping").json()["warnings"] == ["There is no backup yet."], "half a file is none"

    @pytest.mark.parametrize(
        ("free", "total", "full"),
        [(0.5e9, 8e9, True), (2e9, 100e9, True), (2e9, 30e9, False), (30e9, 4000e9, False), (6e9, 100e9, False)],
    )
    def test_the_disk(self, free: float, total: float, full: bool) -> None:
        assert bool(keeping._of_disk(int(free), int(total))) is full

    def test_a_backup_from_elsewhere_is_read_through_first(self, data: Path, ines: Api) -> None:
        name = ines.post("backups", {}).json()["name"]
        content = (data / BACKUPS / name).read_bytes()

        def put(body: bytes) -> Any:
            headers = {"x-csrftoken": ines.token}
            return ines.client.put("/api/backups", body, content_type="application/zip", headers=headers)

        assert put(content).status_code == 201
        refused = put(b"PK no backup")
        assert (refused.status_code, refused.json()["code"]) == (409, "not-kept")
        assert "cannot be read as a backup" in refused.json()["title"]
        assert len(list((data / BACKUPS).glob("*"))) == 2, "the one made, the one brought; nothing of the third"


class TestRestoreOnScreen:
    @pytest.mark.long
    def test_it_is_asked_for_and_done_between_two_sets_of_workers(
        self, data: Path, ines: Api, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        name = ines.post("backups", {}).json()["name"]
        refused = ines.post(f"kept-files/{name}/restore", {})
        assert (refused.status_code, refused.json()["code"]) == (409, "not-kept"), "nobody to start it anew"
        signals: list[tuple[int, int]] = []
        sent = threading.Event()
        monkeypatch.setenv(restoring.SERVED, "4711")
        monkeypatch.setattr(restoring, "AFTER_S", 0.0)
        monkeypatch.setattr(restoring.os, "kill", lambda pid, sign: (signals.append((pid, sign)), sent.set()))
        asked = ines.post(f"kept-files/{name}/restore", {})
        assert asked.status_code == 202
        assert ines.get("safe-keeping").json()["restored"] is None, "asked for is not done"
        assert sent.wait(10)
        assert signals == [(4711, signal.SIGHUP)]
        with closing(sqlite3.connect(data / DATABASE)) as db, db:
            db.execute("DELETE FROM records_record")
        (data / KEY).write_text("n" * 64)
        assert restoring.wanted(data)
        restoring.restore_requested(data)
        assert not restoring.wanted(data)
        (aside,) = data.glob("before-restore-*")
        assert (count(data / DATABASE), count(aside / DATABASE)) == (3, 0)
        assert ((data / KEY).read_text(), (aside / KEY).read_text()) == ("k" * 64, "n" * 64)
        assert ines.get("safe-keeping").json()["restored"]["id"] == asked.json()["id"]

    def test_one_of_a_newer_naveta_is_refused_both_ways(self, data: Path, tmp_path: Path) -> None:
        from operations.backups import backup

        def migrated(database: Path, name: str) -> None:
            with closing(sqlite3.connect(database)) as db, db:
                db.execute("CREATE TABLE IF NOT EXISTS django_migrations (app TEXT, name TEXT)")
                db.execute("INSERT INTO django_migrations VALUES ('records', ?)", (name,))

        migrated(data / DATABASE, "0001_first")
        backup(data, tmp_path / "old.zip")
        migrated(data / DATABASE, "0999_of_next_year")
        backup(data, tmp_path / "new.zip")
        with pytest.raises(BackupError, match=r"newer Naveta \(records\.0999_of_next_year\).*Nothing was changed"):
            restore(data, tmp_path / "old.zip", replace=True)
        fresh = tmp_path / "fresh"
        fresh.mkdir()
        with pytest.raises(BackupError, match=r"new\.zip was written by a newer Naveta"):
            restore(fresh, tmp_path / "new.zip", replace=False)
        assert list(fresh.iterdir()) == []
        assert list(data.glob("before-restore-*")) == []

    def test_a_backup_that_unpacks_to_more_than_the_disk_has(self, tmp_path: Path) -> None:
        from operations.backups import backup, check

        backup(folder(tmp_path / "data"), tmp_path / "a.zip")
        with zipfile.ZipFile(tmp_path / "a.zip") as packed:
            held = {name: packed.read(name) for name in packed.namelist()}
        held["manifest.json"] = json.dumps({"format": "naveta-backup-1", "sha256": {"../out": "0"}}).encode()
        held["../out"] = b"climbs"
        with zipfile.ZipFile(tmp_path / "b.zip", "w") as packed:
            for name, content in held.items():
                packed.writestr(name, content)
        with pytest.raises(BackupError, match="a name no backup has"):
            check(tmp_path / "b.zip")


class TestChainEnds:
    @pytest.fixture
    def lines(self, tam: Api, wren: Api, tmp_path: Path) -> Path:
        """Two days' lines, a record between them and one after."""
        file = tmp_path / "ends.txt"
        tam.check(good(), at=AT)
        call_command("chain_ends", "--append", str(file))
        wren.check(good(), at=AT, instrument="LV-02")
        call_command("chain_ends", "--append", str(file))
        call_command("chain_ends", "--append", str(file))
        tam.event("knock", AT, note="After both lines")
        return file

    def test_lines_of_earlier_days_come_out_again_whatever_came_since(self, lines: Path) -> None:
        assert len(lines.read_text().splitlines()) == 2, "the same moment is one line"
        assert list(compared(iter(lines.read_text().splitlines()))) == []
        first = lines.read_text().splitlines()[0].split()
        assert first[0] == "2027-03-02"
        assert first[2:4] == ["1", "1"]

    @pytest.mark.usefixtures("lines")
    def test_the_digest_is_what_the_format_says(self) -> None:
        import hashlib

        ends = {}
        for record in Record.objects.order_by("sequence").select_related("instrument"):
            ends[record.instrument.tag] = f"{record.instrument.tag} {record.sequence} {record.digest}\n"
        text = "".join(ends[tag] for tag in sorted(ends))
        assert head_line().digest == hashlib.sha256(text.encode()).hexdigest()

    def test_a_replaced_database_shows(self, lines: Path, capsys: pytest.CaptureFixture[str]) -> None:
        """Whoever computes every digest anew after changing a record satisfies each seal, not the line."""
        record = Record.objects.filter(instrument__tag="LV-07").order_by("sequence")[0]
        changed = "0" * 64
        with connection.cursor() as cursor:
            cursor.execute(
                "UPDATE records_record SET digest = %s WHERE sequence = 1 AND digest = %s", [changed, record.digest]
            )
        with pytest.raises(CommandError, match="2 of 2 lines do not come out again"):
            call_command("chain_ends", "--compare", str(lines))
        assert "The records up to 2027-03-02 are not those of that day" in capsys.readouterr().out

    def test_an_older_database_and_a_wrong_line_are_said(self, lines: Path, ines: Api) -> None:
        day, _, *rest = lines.read_text().splitlines()[1].split()
        text = "\n".join([" ".join([day, "99999", *rest]), "what is this"])
        answer = ines.post("chain-ends/table", {"text": text})
        assert answer.status_code == 200
        first, second = (entry["text"] for entry in answer.json())
        assert first.startswith("On 2027-03-02 there were records up to arrival 99999; this database ends at")
        assert second.startswith("Line 2 is no line of chain ends")

    @pytest.mark.usefixtures("lines")
    def test_on_screen(self, ines: Api) -> None:
        found = ines.get("chain-ends").json()
        assert (found["records"], found["instruments"]) == (3, 2)
        assert found["text"] == f"2027-03-02 {found['arrival']} 3 2 {found['digest']}"
        assert ines.post("chain-ends/table", {"text": found["text"]}).json() == []
        assert Instrument.objects.count() == 2


def test_another_database_keeps_an_export_in_place_of_a_backup(
    tam: Api, settings: Any, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    settings.NAVETA = settings.NAVETA.model_copy(update={"data": tmp_path})
    tam.check(good(), at=AT)
    monkeypatch.setattr(turns.connection, "vendor", "postgresql", raising=False)
    written = daily(TODAY).written
    assert written is not None
    with zipfile.ZipFile(written) as packed:
        assert json.loads(packed.read("manifest.json"))["records"] == 1
