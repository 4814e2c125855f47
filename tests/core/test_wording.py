"""The firm's words and decimal mark, and the glossary that is found by every other name."""

from __future__ import annotations

import json
import re
from pathlib import Path

import pytest

from naveta_core.checks import KINDS
from naveta_core.dispatch import answer
from naveta_core.glossary import TERMS, glossary
from naveta_core.registry import document_of
from naveta_core.wording import Wording, is_sentence

from .plain import adjusting_of, guide, preview_set_up, previewed
from .setup.test_guide import SPOT, saw, whole
from .setup.test_guide import document as set_up
from .test_words_and_grades import several
from .unwritten import unwritten

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


class TestEverySentence:
    """What a firm of rods and commas would still read as *staff* and 3.5: found in answers, not listed by hand."""

    EXACT = ["applies_to", "code", "core_version", "csv_columns", "given", "kind", "methods.name", "options.value",
             "fields.quantity"]  # fmt: skip

    def left(self, answered: object) -> set[str]:
        found = {member.split(":")[0] for member in unwritten(answered)}
        return {each for each in found if each not in self.EXACT and each.split(".")[-1] not in self.EXACT}

    @pytest.mark.parametrize("kind", KINDS)
    def test_of_a_check(self, kind: str) -> None:
        assert self.left(KINDS[kind].about()) == set()
        for document in several(kind, 12):
            assert self.left(previewed(document, None, "2027-03-02T06:40:00+00:00")) == set()
            if KINDS[kind].adjust:
                assert self.left(adjusting_of(kind, document_of(document), [])) == set()

    @pytest.mark.parametrize("path", sorted((ROOT / "docs/examples").glob("*.json")), ids=lambda path: path.stem)
    def test_of_the_examples(self, path: Path) -> None:
        document = json.loads(path.read_text())
        assert self.left(previewed(document, None, "2027-03-02T06:40:00+00:00")) == set()

    def test_of_a_set_up(self) -> None:
        assert self.left(json.loads(answer('{"verb": "set-up-methods"}'))["data"]) == set()
        assert self.left(preview_set_up(whole())) == set()
        for log in (
            [saw("plate", level={"along": "40", "across": "1"})],
            [saw("plate", level={"along": "2", "across": "1"}), saw("slide", spot=SPOT)],
            [saw("circular", bubble={"bearing_deg": 225, "offset_mm": 3})],
        ):
            assert self.left(guide(set_up(log=log))) == set()
        assert (
            self.left(guide(set_up("shift-by-leg", log=[saw("shift", spot={"bearing_deg": 0, "distance_mm": 20})])))
            == set()
        )

    def test_a_member_is_named_alone_or_with_what_it_stands_in(self) -> None:
        assert is_sentence("text")
        assert is_sentence("value", "worked")
        assert not is_sentence("value", "options")
        assert not is_sentence("tips", "instruments"), "somebody typed them"


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
