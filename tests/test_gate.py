"""The gate says in one sentence why it cannot run, and which tests failed."""

from __future__ import annotations

import shutil
import socket
from collections import namedtuple
from pathlib import Path

import pytest

from tools import gate


def test_a_test_that_needs_the_network_says_so() -> None:
    with socket.socket() as line, pytest.raises(RuntimeError, match=r"asked for 192\.0\.2\.1: tests use no network"):
        line.connect(("192.0.2.1", 80))


@pytest.fixture
def built(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Path:
    """A folder in which everything is built and installed."""
    for name in ("web/public/core/abc/x", "web/dist/index.html", "web/node_modules/.package-lock.json", "bin/pytest"):
        (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / name).touch()
    (tmp_path / "web/public/core/pack.json").write_text('{"folder": "abc"}')
    monkeypatch.setattr(gate, "ROOT", tmp_path)
    monkeypatch.setattr(gate, "VENV", tmp_path / "bin")
    monkeypatch.setattr(shutil, "which", lambda name: f"/usr/bin/{name}")
    return tmp_path


def test_where_nothing_is_missing_nothing_is_said(built: Path) -> None:
    assert gate.troubles() == []


@pytest.mark.parametrize("missing", ["web/public/core/abc/x", "web/public/core/pack.json", "web/dist/index.html"])
def test_half_a_build_is_named_with_what_to_do(built: Path, missing: str) -> None:
    (built / missing).unlink()
    if missing.endswith("/x"):
        (built / missing).parent.rmdir()
    (said,) = gate.troubles()
    assert "built by half" in said
    assert said.endswith("then make setup.")


@pytest.mark.parametrize("missing", ["web/node_modules/.package-lock.json", "bin/pytest"])
def test_half_an_installation_is_named(built: Path, missing: str) -> None:
    (built / missing).unlink()
    (said,) = gate.troubles()
    assert "installed by half" in said


def test_a_missing_browser_and_a_full_disk_are_named(built: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(shutil, "which", lambda name: None)
    monkeypatch.setattr(shutil, "disk_usage", lambda place: namedtuple("Usage", "free")(1_999_999_999))
    browser, disk = gate.troubles()
    assert browser == "There is no Chromium: apt-get install chromium-headless-shell."
    assert "less than 2 GB free" in disk


def test_failures_are_named_by_their_tests_else_by_the_last_lines() -> None:
    of_python = "..F\nE   assert 1 == 2\nFAILED tests/core/test_a.py::test_b - assert 1 == 2\n1 failed in 3 s"
    assert gate.failures(of_python) == ["FAILED tests/core/test_a.py::test_b - assert 1 == 2"]
    of_web = "\x1b[31m FAIL \x1b[0m |pages| tests/plan.test.ts > a rule\nError: 0 instead of one: button"
    assert gate.failures(of_web) == ["FAIL  |pages| tests/plan.test.ts > a rule", "Error: 0 instead of one: button"]
    assert gate.failures("\n".join(map(str, range(30)))) == [str(n) for n in range(20, 30)]
