"""What must not change unseen: the API's text, the migrations, the core's imports, the page's headers."""

from __future__ import annotations

import ast
import sys
from pathlib import Path

import pytest
from django.core.management import call_command
from django.test import Client

from config.contract import summary

ROOT = Path(__file__).resolve().parents[2]


def test_the_apis_shape_is_the_committed_one() -> None:
    """Run `make contract` after a change that is meant, and read what it changed."""
    assert summary() == (ROOT / "tests/server/api_shape.txt").read_text()


def test_no_migration_is_missing(db) -> None:
    call_command("makemigrations", check=True, dry_run=True, verbosity=0)


def test_the_core_imports_no_more_than_it_may() -> None:
    allowed = {"pydantic", "naveta_core"} | set(sys.stdlib_module_names)
    for path in (ROOT / "core/naveta_core").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            names = [name.name for name in node.names] if isinstance(node, ast.Import) else []
            if isinstance(node, ast.ImportFrom) and node.level == 0:
                names = [node.module or ""]
            assert {name.split(".")[0] for name in names} <= allowed, path


@pytest.mark.parametrize("path", ["/", "/bench", "/instruments/LV-07", "/api/session"])
def test_the_page_allows_no_foreign_script(db, path: str) -> None:
    """The page itself too: a static file answered ahead of the policy once went out without it."""
    answer = Client().get(path)
    policy = dict(rule.strip().split(" ", 1) for rule in answer.headers["Content-Security-Policy"].split(";"))
    assert policy["default-src"] == "'self'"
    assert policy["script-src"] == "'self' 'wasm-unsafe-eval'", "WebAssembly, but no text becomes script"
    assert policy["frame-ancestors"] == "'none'"
    assert answer.headers["X-Frame-Options"] == "DENY"
    assert "Access-Control-Allow-Origin" not in answer.headers


def test_figures_are_summed_alike_on_every_python() -> None:
    """Python's own `sum` adds floats differently from 3.12 on; server and browser run different Pythons."""
    core = ROOT / "core/naveta_core"
    for path in [path for folder in ("checks", "engine", "setup") for path in (core / folder).rglob("*.py")]:
        names = [node.id for node in ast.walk(ast.parse(path.read_text())) if isinstance(node, ast.Name)]
        assert "sum" not in names, path
