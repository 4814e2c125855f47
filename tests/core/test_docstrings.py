"""What the core documents: a unit where a figure goes in, a source where a formula stands."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

CORE = Path(__file__).resolve().parents[2] / "core/naveta_core"
SUFFIX = re.compile(
    r"(?:^|_)(degrees|arcseconds|m|mm|cm|km|arcsec|arcmin|deg|rad|ppm|div|c|k|s|days|minutes|turns|ft|n|dof)$"
)
UNIT = re.compile(
    r"\b(metres?|mm²?|millimetres?|(seconds|minutes) of arc|arcsec²?|minutes|degrees|radians?|divisions²?|kelvin|ppm"
    r"|turns?|days?|probability|quantile|standardised|degrees of freedom)(?![\w])"
    r"|\b(any|in the|no|its|same|readings'|observations'|square of the) unit|unit (given|shown|of|read)|has no unit|no unit|plain number"
    r"|°|″|\bm\b|\barcsec\b|\bmm\b|\bratio\b|\bshare\b|\bcurrency\b",
    re.IGNORECASE,
)


def functions() -> Iterator[tuple[Path, ast.FunctionDef, str]]:
    """Every public function and method that takes a float, and what its class says."""
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.parse(path.read_text()).body:
            holder = ast.get_docstring(node) or "" if isinstance(node, ast.ClassDef) else ""
            for member in node.body if isinstance(node, ast.ClassDef) else [node]:
                public = isinstance(member, ast.FunctionDef) and not member.name.startswith("_")
                if public and not getattr(node, "name", "").startswith("_"):
                    assert isinstance(member, ast.FunctionDef)
                    yield path, member, holder


def floats(function: ast.FunctionDef) -> list[str]:
    arguments = [*function.args.args, *function.args.kwonlyargs]
    return [each.arg for each in arguments if each.annotation and "float" in ast.unparse(each.annotation)]


def test_every_float_that_goes_in_has_a_unit() -> None:
    """By its name (`_mm`), or in words; sign and shape stand beside it."""
    taken = [(path, function, holder) for path, function, holder in functions() if floats(function)]
    assert len(taken) > 150
    without = [
        f"{path.relative_to(CORE)}:{function.lineno} {function.name}"
        for path, function, holder in taken
        if not all(SUFFIX.search(name) for name in floats(function))
        and not SUFFIX.search(function.name)
        and not UNIT.search(f"{ast.get_docstring(function) or ''} {holder}")
    ]
    assert without == []


def test_everything_public_says_what_it_is() -> None:
    silent = []
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.parse(path.read_text()).body:
            if not isinstance(node, ast.FunctionDef | ast.ClassDef):
                continue
            members = node.body if isinstance(node, ast.ClassDef) else []
            for each in [node, *(member for member in members if isinstance(member, ast.FunctionDef))]:
                if not each.name.startswith("_") and not ast.get_docstring(each):
                    silent.append(f"{path.relative_to(CORE)}:{each.lineno} {each.name}")
    assert silent == []


def test_every_float_of_a_model_has_a_unit() -> None:
    """By its name, by the words below it, or by those of its class."""
    without = []
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.parse(path.read_text()).body:
            if not isinstance(node, ast.ClassDef) or node.name.startswith("_"):
                continue
            for field, after in zip(node.body, [*node.body[1:], None], strict=True):
                if not isinstance(field, ast.AnnAssign) or "float" not in ast.unparse(field.annotation):
                    continue
                name = ast.unparse(field.target)
                below = after.value if isinstance(after, ast.Expr) else None
                words = str(below.value) if isinstance(below, ast.Constant) else ""
                if not SUFFIX.search(name) and not UNIT.search(f"{words} {ast.get_docstring(node) or ''}"):
                    without.append(f"{path.relative_to(CORE)}:{field.lineno} {node.name}.{name}")
    assert without == []


FORMULAS = sorted(path for name in ("solve.py", "judge.py") for path in CORE.rglob(name))


@pytest.mark.parametrize("path", FORMULAS, ids=lambda path: "/".join(path.parts[-2:]))
def test_every_formula_names_its_source(path: Path) -> None:
    """Textbook, a standard with part and clause, or derived here: then the derivation is there to be read."""
    said = ast.get_docstring(ast.parse(path.read_text())) or ""
    source = said.partition("Source:")[2]
    assert source, f"{path.relative_to(CORE)} names no source"
    judgement = (CORE.parents[1] / "docs/judgement.md").read_text()
    for section in re.findall(r"docs/judgement\.md \(([^)]+)\)", " ".join(source.split())):
        assert f"### {section}" in judgement, f"docs/judgement.md has no section {section}"
    for standard in re.findall(r"ISO \d+-\d", source):
        assert re.search(rf"{standard}, clauses? \d", source), f"{standard} without its clause"


def test_functions_and_files_stay_small() -> None:
    """A function of core or server fits on a screen, a file into a head: 50 lines, 400 lines."""
    root, long = CORE.parents[1], []
    for path in [*CORE.rglob("*.py"), *(root / "server").rglob("*.py")]:
        text = path.read_text()
        if "migrations" in path.parts:
            continue
        lines = text.count("\n")
        long += [f"{path.relative_to(root)}: {lines} lines"] if lines > 400 else []
        functions = [node for node in ast.walk(ast.parse(text)) if isinstance(node, ast.FunctionDef)]
        long += [
            f"{node.name}: {size}" for node in functions if (size := (node.end_lineno or 0) - node.lineno + 1) > 50
        ]
    assert long == []
