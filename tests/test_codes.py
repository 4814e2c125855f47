"""docs/codes.md names every code the server gives out."""

from __future__ import annotations

import re
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SAYS = re.compile(
    r"""(?<!Way)(?<!Method)(?<!_layout)(?<!Field)(?<!Group)(?<!Option)(?<!Table)\(\s*"([a-z]+(?:-[a-z]+)+)",\s*(?:f?"|_turn|_balance|STICKING|text|words)   # (code, sentence)
      | "code":\ "([a-z]+(?:-[a-z]+)+)"
      | \.say\(\s*"[a-z]+",\s*"([a-z-]+)"
      | _said\(\s*"([a-z-]+)"
      | Answer\(False,\ "([a-z-]+)"
      | Conflict\(\s*"([a-z-]+)"
      | problem\(\d+,\ "([a-z-]+)"
      | \b\d{3}:\ \("([a-z-]+)" """,
    re.VERBOSE,
)
HINTED = {"middle-then-near", "two-peg"}
INSTRUMENTS = {"digital-level", "total-station", "robotic-total-station"}


def given_out() -> set[str]:
    codes = set()
    for folder in ("core/naveta_core", "core/naveta_practice", "server"):
        for path in (ROOT / folder).rglob("*.py"):
            if "migrations" not in path.parts and path.name not in ("steps.py", "methods.py"):
                for match in SAYS.finditer(path.read_text()):
                    codes |= {group for group in match.groups() if group}
    return codes - HINTED - INSTRUMENTS


def test_every_code_is_explained() -> None:
    found = set(re.findall(r"`([a-z-]+)`", (ROOT / "docs/codes.md").read_text()))
    codes = given_out()
    assert len(codes) > 50, "the search itself must find what there is"
    assert codes <= found, sorted(codes - found)


def test_the_readme_shows_every_picture_and_no_other() -> None:
    linked = set(re.findall(r"docs/screenshots/([\w-]+\.png)", (ROOT / "README.md").read_text()))
    assert linked == {path.name for path in (ROOT / "docs/screenshots").glob("*.png")}


def test_the_grounds_offered_are_those_there_is_a_word_for() -> None:
    from naveta_core.setup.conditions import GROUND as NAMED
    from naveta_core.setup.tips import GROUND

    page = (ROOT / "web/src/features/setup/PromptTripod.tsx").read_text()
    offered = re.findall(r'value: "(\w+)"', page[page.index("const GROUNDS") : page.index("const WINDS")])
    assert offered == list(GROUND) == list(NAMED)
