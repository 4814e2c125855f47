"""The firm's words and decimal mark, and the glossary that is found by every other name."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest

from naveta_core.checks import KINDS
from naveta_core.dispatch import answer
from naveta_core.glossary import TERMS, glossary
from naveta_core.wording import Wording

ROOT = Path(__file__).resolve().parents[2]


class TestWriting:
    @pytest.mark.parametrize(
        ("text", "rods"),
        [
            ("Staff B, second set-up: 14.020", "Rod B, second set-up: 14.020"),
            ("both staffs read", "both rods read"),
            ("a staff-man stands", "a rod-man stands"),
            ("the staffing of a crew", "the staffing of a crew"),
        ],
    )
    def test_a_rod_is_a_rod_everywhere(self, text: str, rods: str) -> None:
        assert Wording("rod").written(text) == rods
        assert Wording("staff").written(text) == text

    def test_a_comma_stands_between_digits_only(self) -> None:
        text = "Line of sight 24.1″ up, ± 4.4″. That is 3.5 mm. ISO 17123-2."
        assert Wording(decimal_mark=",").written(text) == "Line of sight 24,1″ up, ± 4,4″. That is 3,5 mm. ISO 17123-2."

    def test_replacements_are_whole_words(self) -> None:
        assert Wording("rod").replacements()["Staffs"] == "Rods"
        assert Wording().replacements() == {}


class TestGlossary:
    def test_every_term_is_short_and_said_once(self) -> None:
        names = [term.term for term in glossary()]
        assert len(names) == len(set(names))
        assert all(len(term.meaning) <= 170 and term.meaning.endswith(".") for term in TERMS), "two lines"

    def test_every_check_is_found_by_a_term(self) -> None:
        assert {term.check for term in glossary() if term.check} == set(KINDS)

    @pytest.mark.parametrize(
        ("sought", "term"),
        [
            ("peg test", "two-peg test"),
            ("base", "tribrach"),
            ("tilting axis", "trunnion axis"),
            ("circle left", "face left, face right"),
            ("bubble tube", "level vial"),
            ("rod", "staff"),
            ("resection", "free station"),
            ("error budget", "accuracy forecast"),
        ],
    )
    def test_a_term_is_found_by_its_other_names(self, sought: str, term: str) -> None:
        assert term in [each.term for each in TERMS if any(sought in name for name in (each.term, *each.also))]

    def test_the_browser_asks_for_it_too(self) -> None:
        terms = json.loads(answer('{"verb": "glossary"}'))["data"]
        assert [term["term"] for term in terms] == [term.term for term in glossary()]

    def test_every_drawing_named_is_there(self) -> None:
        drawn = set(re.findall(r"^  (\w+): \($", (ROOT / "web/src/ui/TermDrawing.tsx").read_text(), re.M))
        assert {term.drawing for term in TERMS if term.drawing} == drawn
