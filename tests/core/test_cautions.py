"""Every caution, word for word, and the act at which it stands: what protects a hand or an eye changes only on purpose.

`cautions.json` is read by a person before it is changed. A replacement of a word over all texts once made "Never sight towards
the sun" a sentence that protects nobody; such a change fails here.
"""

from __future__ import annotations

import ast
import json
import re
from pathlib import Path
from typing import Any

from naveta_core.cautions import CAUTIONS, FOLLOW
from naveta_core.checks import KINDS
from naveta_core.orientation.result import AT_SIGHTS, cautions_for
from naveta_core.setup.steps import STEPS
from naveta_practice.instruments.lessons import INSTRUMENT_LESSONS

HERE = Path(__file__).parent
CORE = HERE.parents[1] / "core"
FORBIDS = re.compile(r"(?<![^\s.;:])(?:Never|Do not) [^.;]*[.;]?")


def acts() -> dict[str, Any]:
    """The codes of cautions by act: checks by stage and method, steps of a set-up, lessons with instruments."""
    return {
        "checks": {
            kind.name: {
                **{stage: list(codes) for stage, codes in kind.caution_codes.items()},
                **{f"method {method.name}": list(method.caution) for method in kind.methods if method.caution},
            }
            for kind in KINDS.values()
        },
        "steps": {name: list(step.cautions) for name, step in STEPS.items() if step.cautions},
        "orientation": {"sights": list(AT_SIGHTS)},
        "lessons": {lesson.name: list(lesson.cautions) for lesson in INSTRUMENT_LESSONS if lesson.cautions},
    }


def forbidding() -> list[str]:
    """Every sentence of the core that forbids something, wherever it is written."""
    found = set()
    for path in sorted(CORE.rglob("naveta_*/**/*.py")):
        tree = ast.parse(path.read_text())
        documented = {id(node.value) for node in ast.walk(tree) if isinstance(node, ast.Expr)}
        for node in ast.walk(tree):
            if isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in documented:
                found |= {sentence.strip() for sentence in FORBIDS.findall(node.value)}
    return sorted(found)


def test_every_caution_stands_at_its_act_word_for_word() -> None:
    expected = json.loads((HERE / "cautions.json").read_text())
    assert expected["texts"] == {**CAUTIONS, "local-rules": FOLLOW}
    assert acts() == expected["acts"]
    assert forbidding() == expected["forbidding"]


def test_an_orientation_says_what_concerns_its_instrument() -> None:
    def said(kind: str | None) -> list[str]:
        return [caution.code for caution in cautions_for(kind)]

    assert said(None) == said("robotic-total-station")
    assert set(said(None)) == {*AT_SIGHTS, "local-rules"}
    assert "turns-by-itself" not in said("total-station")
    assert "beam" in said("total-station")
    assert said("theodolite")[0] == "sun"
    assert not {"beam", "turns-by-itself"} & set(said("theodolite"))


def test_whoever_sights_is_told_of_the_sun_in_words_that_say_it() -> None:
    told = {
        name for name, kind in KINDS.items() if "sun" in kind.caution_codes["before"] + kind.caution_codes["reading"]
    }
    assert told >= {"two-face", "direction-rounds", "tracker", "direction-accuracy", "two-peg"}
    of_the_sun = [sentence for sentence in forbidding() if re.search(r"\bsun\b", sentence)]
    assert of_the_sun
    for sentence in of_the_sun:
        assert re.match(r"Never (sight towards|point the telescope at) the sun\b", sentence), sentence
