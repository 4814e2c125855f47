"""Every sentence a person can read: words of the trade, none of the old private ones, and no sentence too long to take in."""

from __future__ import annotations

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.glossary import TERMS

from .test_words_and_grades import reduced, several

ROOT = Path(__file__).resolve().parents[2]
MAX_SENTENCE, MAX_HEADLINE = 30, 16
# The web's own strings are held against the same list by web/src/words.test.ts.
NOT_AGAIN = re.compile(rf"\b({'|'.join(json.loads((ROOT / 'tests/old_words.json').read_text()))})\b", re.IGNORECASE)


def sentences(text: str) -> list[str]:
    """A text, sentence by sentence; the parts of a colon or semicolon stay together."""
    return [part for part in re.split(r"(?<=[.!?])\s+(?=[A-Z0-9{])", text) if part]


def words(text: str) -> int:
    """How many; a figure with its unit is one."""
    text = re.sub(r"(?<=\d) (?:mm|cm|km|m|ft|US ft|in|div|ppm|min|%)(?!\w)", "", text)
    return len([word for word in text.split() if any(char.isalnum() for char in word)])


def literals(path: Path) -> Iterator[tuple[int, str]]:
    """Every string of a module that documents nothing, with what is filled in as one word."""
    tree = ast.parse(path.read_text())
    inner = {id(part) for node in ast.walk(tree) if isinstance(node, ast.JoinedStr) for part in ast.walk(node)}
    documented = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            text = "".join(part.value if isinstance(part, ast.Constant) else "0" for part in node.values)
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in inner | documented:
            text = node.value
        else:
            continue
        # By its other names a term is sought, not written.
        if " " in text.strip() and text not in OTHER_NAMES:
            yield node.lineno, text


OTHER_NAMES = {name for term in TERMS for name in term.also}
CORE = sorted(path for part in ("naveta_core", "naveta_practice") for path in (ROOT / "core" / part).rglob("*.py"))
SERVER = [
    path
    for folder in ("server", "demo")
    for path in sorted((ROOT / folder).rglob("*.py"))
    if "migrations" not in path.parts
]


def test_no_old_word_comes_back() -> None:
    listed = [(path, *literal) for path in [*CORE, *SERVER] for literal in literals(path)]
    assert len(listed) > 2500
    found = [
        f"{path.relative_to(ROOT)}:{line}: {hit[0]!r} in {text[:90]!r}"
        for path, line, text in listed
        if (hit := NOT_AGAIN.search(text))
    ]
    assert not found, "\n".join(found)


def test_no_sentence_is_longer_than_thirty_words() -> None:
    listed = [(path, line, part) for path in CORE for line, text in literals(path) for part in sentences(text)]
    listed.sort(key=lambda entry: -words(entry[2]))
    for path, line, part in listed[:10]:
        print(f"{words(part)} words, {path.relative_to(ROOT)}:{line}: {part}")
    found = [f"{path.relative_to(ROOT)}:{line}: {part}" for path, line, part in listed if words(part) > MAX_SENTENCE]
    assert not found, "\n".join(found)


def texts(data: Any) -> Iterator[str]:
    """Every sentence in an answer."""
    if isinstance(data, dict):
        for value in data.values():
            yield from texts(value)
    elif isinstance(data, list):
        for value in data:
            yield from texts(value)
    elif isinstance(data, str) and " " in data:
        yield data


@pytest.mark.parametrize("kind", sorted(KINDS))
def test_what_a_check_says_is_short_and_plain(kind: str) -> None:
    """Over simulated documents of every quality: as they are put together, not as they stand in the code."""
    for document in several(kind):
        answer = reduced(document)
        headline = answer["finding"]["text"]
        for part in sentences(headline):
            assert words(part) <= MAX_HEADLINE, headline
        for text in texts({key: value for key, value in answer.items() if key not in ("document", "picture")}):
            assert not NOT_AGAIN.search(text), text
            for part in sentences(text):
                assert words(part) <= MAX_SENTENCE, part
