"""Backups while saving, restores, copies before migrations, what is stated at start; folders, keys and files of their owner only."""

from __future__ import annotations

import json
import os
import sqlite3
import stat
import subprocess
import sys
import threading
import zipfile
from contextlib import closing
from pathlib import Path
from typing import Any

import pytest
from operations.backups import BackupError, backup, check, restore

from config.environment import DATABASE, KEY, ROOT, Environment

MANAGE = [sys.executable, str(ROOT / "server/manage.py")]


def folder(path: Path, rows: int = 3) -> Path:
    """A data folder with a small database as SQLite leaves it while in use."""
    path.mkdir(parents=True)
    with closing(sqlite3.connect(path / DATABASE)) as db, db:
        db.execute("PRAGMA journal_mode=WAL")
        db.execute("CREATE TABLE records_record (id INTEGER PRIMARY KEY, text TEXT)")
        db.executemany("INSERT INTO records_record (text) VALUES (?)", [("x" * 500,)] * rows)
    (path / KEY).write_text("k" * 64)
    return path


def count(database: Path) -> int:
    with closing(sqlite3.connect(database)) as db:
        return int(db.execute("SELECT count(*) FROM records_record").fetchone()[0])


def run(*args: str, data: Path | str, **env: str) -> subprocess.CompletedProcess[str]:
    fields = {
        **os.environ,
        "NAVETA_DATA": str(data),
        "NAVETA_DEMO": "0",
        "DJANGO_SETTINGS_MODULE": "config.settings",
        **env,
    }
    fields.pop("DATABASE_URL", None)
    fields.update(env)
    return subprocess.run(
        [*MANAGE, *args], env=fields, capture_output=True, text=True, cwd=env.get("cwd", ROOT), check=False
    )


class TestBackup:
    def test_taken_while_saving_it_is_whole_and_of_one_moment(self, tmp_path: Path) -> None:
        """Pairs of rows are written together; a copy of the folder breaks them, the backup never."""
        data, stop = folder(tmp_path / "data", 0), threading.Event()

        def save() -> None:
            with closing(sqlite3.connect(data / DATABASE, timeout=30)) as db:
                while not stop.is_set():
                    with db:
                        db.executemany("INSERT INTO records_record (text) VALUES (?)", [("a" * 2000,), ("b" * 2000,)])

        writer = threading.Thread(target=save)
        writer.start()
        try:
            kept = [backup(data, tmp_path / f"backup-{i}.zip") for i in range(5)]
        finally:
            stop.set()
            writer.join()
        for i, record in enumerate(kept):
            assert record.records % 2 == 0
            restore_to = tmp_path / f"back-{i}"
            restore_to.mkdir()
            assert restore(restore_to, record.path, replace=False) is None
            assert count(restore_to / DATABASE) == record.records
            assert (restore_to / KEY).read_text() == "k" * 64

    def test_it_is_its_owners_and_writes_over_nothing(self, tmp_path: Path) -> None:
        data, file = folder(tmp_path / "data"), tmp_path / "b.zip"
        backup(data, file)
        assert stat.S_IMODE(file.stat().st_mode) == 0o600
        with pytest.raises(BackupError, match="never writes over"):
            backup(data, file)
        assert list(tmp_path.glob(".b.zip*")) == []

    def test_files_beside_the_database_go_with_it(self, tmp_path: Path) -> None:
        data = folder(tmp_path / "data")
        (data / "files/certificates").mkdir(parents=True)
        (data / "files/certificates/lv-07.pdf").write_bytes(b"%PDF")
        backup(data, tmp_path / "b.zip")
        (tmp_path / "new").mkdir()
        restore(tmp_path / "new", tmp_path / "b.zip", replace=False)
        assert (tmp_path / "new/files/certificates/lv-07.pdf").read_bytes() == b"%PDF"

    def test_a_damaged_backup_is_said_and_nothing_put_in_place(self, tmp_path: Path) -> None:
        data, file = folder(tmp_path / "data"), tmp_path / "b.zip"
        backup(data, file)
        with zipfile.ZipFile(file) as packed:
            held = {name: packed.read(name) for name in packed.namelist()}
        held[KEY] = b"another key" * 6
        with zipfile.ZipFile(file, "w") as packed:
            for name, content in held.items():
                packed.writestr(name, content)
        with pytest.raises(BackupError, match="secret-key"):
            check(file)
        (tmp_path / "new").mkdir()
        with pytest.raises(BackupError):
            restore(tmp_path / "new", file, replace=False)
        assert list((tmp_path / "new").iterdir()) == []
        file.write_bytes(b"no zip at all")
        with pytest.raises(BackupError, match="cannot be read"):
            check(file)

    def test_what_is_there_is_set_aside_and_only_when_asked(self, tmp_path: Path) -> None:
        data, file = folder(tmp_path / "data", 3), tmp_path / "b.zip"
        backup(data, file)
        with closing(sqlite3.connect(data / DATABASE)) as db, db:
            db.execute("DELETE FROM records_record")
        with pytest.raises(BackupError, match="--replace"):
            restore(data, file, replace=False)
        aside = restore(data, file, replace=True)
        assert aside is not None
        assert (count(data / DATABASE), count(aside / DATABASE)) == (3, 0)

    def test_not_under_a_running_server(self, tmp_path: Path) -> None:
        data, file = folder(tmp_path / "data"), tmp_path / "b.zip"
        backup(data, file)
        busy = sqlite3.connect(data / DATABASE)
        busy.execute("BEGIN IMMEDIATE")
        with pytest.raises(BackupError, match="still running"):
            restore(data, file, replace=True)
        busy.close()

    @pytest.mark.long
    def test_by_command_with_a_copy_before_a_migration(self, tmp_path: Path) -> None:
        data = tmp_path / "data #1 50%? of it"
        created = run("migrate", "-v", "0", data=data)
        assert created.returncode == 0, created.stderr
        assert (data / DATABASE).exists(), "in the folder that was named, whatever signs are in its name"
        kept = run("backup", str(tmp_path / "b.zip"), data=data)
        assert "0 records, written and read again" in kept.stdout, kept.stderr
        assert not list(data.glob("before-migration-*"))
        with closing(sqlite3.connect(data / DATABASE)) as db, db:
            db.execute("DELETE FROM django_migrations WHERE app = 'contenttypes' AND name LIKE '0002%'")
            db.execute("ALTER TABLE django_content_type ADD COLUMN name varchar(100)")
        run("migrate", "-v", "0", data=data)
        (copy,) = data.glob("before-migration-*.sqlite3")
        assert stat.S_IMODE(copy.stat().st_mode) == 0o600
        for path in (data / DATABASE, data / KEY):
            assert stat.S_IMODE(path.stat().st_mode) == 0o600
        assert stat.S_IMODE(data.stat().st_mode) == 0o700
        back = run("restore", str(tmp_path / "b.zip"), "--replace", data=data)
        assert back.returncode == 0, back.stderr
        assert run("verify", data=data).returncode == 0


class TestOneFolder:
    def test_a_relative_one_is_the_same_from_everywhere(self, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
        here = Environment(data="data/x").data
        monkeypatch.chdir(tmp_path)
        assert Environment(data="data/x").data == here == ROOT / "data/x"

    def test_a_demo_never_looks_at_another_database(self, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setenv("DATABASE_URL", "postgres://firm@db/real")
        assert Environment(data=tmp_path, demo=True).database()["NAME"] == str(tmp_path / DATABASE)
        assert Environment(data=tmp_path, demo=False).database()["NAME"] == "real"

    def test_the_demo_takes_and_clears_only_what_is_its_own(
        self, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        from demo.run import folder as demo_folder

        full = tmp_path / "photographs"
        full.mkdir()
        (full / "site.jpg").touch()
        monkeypatch.setenv("NAVETA_DATA", str(full))
        with pytest.raises(SystemExit, match="left alone"):
            demo_folder()
        own = tmp_path / "demo"
        monkeypatch.setenv("NAVETA_DATA", str(own))
        demo_folder()
        (own / DATABASE).touch()
        (own / "notes.txt").touch()
        monkeypatch.setenv("RESET", "1")
        demo_folder()
        assert sorted(path.name for path in own.iterdir()) == ["notes.txt", "this-is-a-naveta-demo"]


class TestTheKey:
    def test_four_that_start_at_once_share_one(self, tmp_path: Path) -> None:
        code = f"import sys; sys.path.insert(0, {str(ROOT / 'server')!r}); from config.environment import Environment; print(Environment().secret_key())"
        env = {**os.environ, "NAVETA_DATA": str(tmp_path / "new")}
        started = [
            subprocess.Popen([sys.executable, "-c", code], env=env, stdout=subprocess.PIPE, text=True) for _ in range(4)
        ]
        keys = {entry.communicate()[0].strip() for entry in started}
        assert len(keys) == 1
        assert len(keys.pop()) >= 50
        assert [path.name for path in (tmp_path / "new").iterdir()] == [KEY]

    @pytest.mark.parametrize("content", [None, "", "   ", "short"])
    def test_lost_beside_a_database_nothing_starts(self, tmp_path: Path, content: str | None) -> None:
        data = folder(tmp_path / "data")
        (data / KEY).unlink() if content is None else (data / KEY).write_text(content)
        with pytest.raises(SystemExit, match="from a backup"):
            Environment(data=data, demo=False).secret_key()


class TestAtStart:
    def begun(self, data: Path) -> str:
        """What the server's first hook says, as a process of its own."""
        code = "import importlib.util as u, sys; sys.path.insert(0, '.'); s = u.spec_from_file_location('conf', 'gunicorn.conf.py'); m = u.module_from_spec(s); s.loader.exec_module(m); m.on_starting(None); print('serves')"
        env = {**os.environ, "NAVETA_DATA": str(data), "NAVETA_DEMO": "0", "DJANGO_SETTINGS_MODULE": "config.settings"}
        found = subprocess.run(
            [sys.executable, "-c", code], env=env, cwd=ROOT / "server", capture_output=True, text=True, check=False
        )
        return found.stdout + found.stderr

    @pytest.mark.long
    def test_whole_and_of_this_version_it_serves(self, tmp_path: Path) -> None:
        run("migrate", "-v", "0", data=tmp_path / "d")
        assert "serves" in self.begun(tmp_path / "d")

    @pytest.mark.long
    def test_missing_unmigrated_newer_damaged_are_said(self, tmp_path: Path) -> None:
        data = tmp_path / "d"
        assert "There is no database" in self.begun(data)
        sqlite3.connect(data / DATABASE).close()
        assert "run manage.py migrate" in self.begun(data)
        run("migrate", "-v", "0", data=data)
        with closing(sqlite3.connect(data / DATABASE)) as db, db:
            db.execute(
                "INSERT INTO django_migrations (app, name, applied) VALUES ('records', '0999_to_come', '2030-01-01')"
            )
        assert "newer Naveta (records.0999_to_come)" in self.begun(data)
        (data / DATABASE).write_bytes(b"SQLite format 3\x00" + b"\x01" * 4096)
        for beside in data.glob(f"{DATABASE}-*"):
            beside.unlink()
        assert "damaged" in self.begun(data)

    def test_the_recommended_settings_leave_no_warning(self, tmp_path: Path) -> None:
        found = run(
            "check",
            "--deploy",
            data=tmp_path / "d",
            NAVETA_HTTPS="1",
            NAVETA_HOSTS="naveta.firm.example",
            NAVETA_PROXIES="127.0.0.1",
        )
        assert found.returncode == 0
        assert "System check identified no issues (2 silenced)" in found.stdout, found.stdout + found.stderr


def test_a_backup_names_what_it_holds(tmp_path: Path) -> None:
    backup(folder(tmp_path / "data"), tmp_path / "b.zip")
    with zipfile.ZipFile(tmp_path / "b.zip") as packed:
        fields: dict[str, Any] = json.loads(packed.read("manifest.json"))
    assert fields["records"] == 3
    assert set(fields["sha256"]) == {DATABASE, KEY}
