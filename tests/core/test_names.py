"""Names of an earlier vocabulary do not come back in code: one concept, one noun (docs/words.md)."""

from __future__ import annotations

import io
import re
import tokenize
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
OLD = frozenset(
    [
        "told",
        "tells",
        "reckon",
        "reckoned",
        "anew",
        "afresh",
        "wells",
        "knot",
        "knots",
        "shelf",
        "parcel",
        "parcels",
        "house",
        "houses",
        "door",
        "doors",
        "act",
        "acts",
        "segment",
        "lookback",
        "joins",
        "voids",
        "gates",
        "carries",
        "leans",
        "askew",
        "campaign",
        "sighting",
        "told_at",
        "trodden",
        "fellows",
        "settle",
        "settles",
    ]
)
PARTS = re.compile(r"[A-Z]?[a-z0-9]+|[A-Z]+(?![a-z])")
NOT_NAMES = re.compile(r"//.*|/\*[\s\S]*?\*/|\"(?:[^\"\\\n]|\\.)*\"|'(?:[^'\\\n]|\\.)*'|`(?:[^`\\]|\\.)*`|>[^<>{}]*<")


def _python(path: Path) -> set[str]:
    tokens = tokenize.generate_tokens(io.StringIO(path.read_text()).readline)
    return {token.string for token in tokens if token.type == tokenize.NAME}


def _web(path: Path) -> set[str]:
    return set(re.findall(r"[A-Za-z_]\w*", NOT_NAMES.sub(" ", path.read_text())))


def test_no_name_of_the_old_vocabulary_is_left() -> None:
    files = [
        *(ROOT / "core").rglob("naveta_*/**/*.py"),
        *(ROOT / "server").rglob("*.py"),
        *(ROOT / "demo").glob("*.py"),
    ]
    web = [*(ROOT / "web/src").rglob("*.ts"), *(ROOT / "web/src").rglob("*.tsx")]
    web = [path for path in web if ".test." not in path.name and path.name != "schema.d.ts"]
    assert len(files) > 150
    assert len(web) > 100
    found = []
    for path in [*files, *web]:
        for name in _python(path) if path.suffix == ".py" else _web(path):
            if OLD & {part.lower() for part in PARTS.findall(name)}:
                found.append(f"{path.relative_to(ROOT)}: {name}")
    assert sorted(found) == []


def test_no_file_is_called_by_it() -> None:
    names = [
        path.stem.lower()
        for tree in ("core", "server", "demo", "tests", "tools")
        for path in (ROOT / tree).rglob("*.py")
    ]
    assert [name for name in names if OLD & set(name.split("_"))] == []
