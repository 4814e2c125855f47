"""What no kind of check may come without: an example worked by hand, a simulator, a case of bad input, all its verbs.

These tests go through the registry: a kind that was added without one of these fails here, by its name.
"""

from __future__ import annotations

import json
import random
from collections import Counter
from pathlib import Path
from typing import Any, get_args

import pytest
from pydantic import BaseModel

import naveta_core
from naveta_core import dispatch
from naveta_core.checks import KINDS
from naveta_core.documents.json_io import read_json
from naveta_core.engine.fields import changed_fields
from naveta_core.errors import Refused
from naveta_core.registry import DOCUMENTS, document_of
from naveta_core.results import Answer
from naveta_sim import SIMULATORS, simulate

from .checks.simulated import DRAWS
from .plain import preview_of, reduce_of

Data = dict[str, Any]
EXAMPLES = [json.loads(path.read_text()) for path in sorted((Path(__file__).parent / "examples").glob("*.json"))]
BAD: dict[str, tuple[str, Any, str]] = {
    # kind: (where, what was typed there, what is stated to be wanted)
    "circular-vial": ("readings[1].x_mm", "1.2.3", "a number with one decimal mark"),
    "compensator-function": ("positions.left[0]", "15,28", "a staff reading"),
    "plate-vial": ("readings[0].bubble_div", "two", "a number"),
    "dual-axis-level": ("readings[1].across_arcsec", "1e3", "a number"),
    "plummet": ("sets[0].marks[2].y_mm", "4_1", "a number without marks between the digits"),
    "two-face": ("targets[0].left[1].hz", "102.999", "seconds in two digits"),
    "tracker": ("targets[0].auto.right[0].v", "400.0000", "up to 360"),
    "direction-rounds": ("rounds[0].pointings[1].hz", "12.345", "seconds in two digits"),
    "two-peg": ("setups[1].b.readings[0]", "1.4.2", "a number with one decimal mark"),
    "pole-vial": ("readings[0].y_mm", "-−1", "a number"),
    "staff": ("sections[2].tape", "900", "a length along the staff"),
    "tripod": ("rounds[0].loaded_mm", "50O", "a number"),
    "levelling-accuracy": ("sets[0].pairs[3].a", "14,41", "a staff reading"),
    "direction-accuracy": ("series[0].sets[0].left[0].reading", "91.7200", "minutes below 60"),
    "tape": ("lengths[1].reads", "10 chains", "a number"),
}


def typed(kind: str, **truth: Any) -> Data:
    needed = {"collimation_arcsec": 4.0} if kind == "two-peg" else {}
    return simulate(kind, random.Random(7), {**needed, "noise": 0.5, **truth})


@pytest.mark.parametrize("kind", KINDS)
def test_a_kind_has_an_example_worked_by_hand(kind: str) -> None:
    mine = [path for path in EXAMPLES if path["document"]["kind"] == kind]
    assert mine, "no example in tests/core/examples"
    assert any(KINDS[kind].main_quantity in entry["expect"] or len(entry["expect"]) > 1 for entry in mine)
    assert all(set(entry["expect"]) == set(entry["tolerance"]) for entry in mine)


def test_every_kind_has_a_simulator_that_states_its_method_and_draws_of_its_own() -> None:
    assert set(SIMULATORS) == set(KINDS)
    assert set(KINDS) - set(DRAWS) <= {"two-peg", "levelling-accuracy", "direction-accuracy"}, (
        "these have tests of their own"
    )
    for kind in KINDS.values():
        document = typed(kind.name)
        assert document.get("method") is None or kind.method(document["method"]), kind.name
        assert preview_of(kind.name, document_of(document))["complete"], kind.name


@pytest.mark.parametrize("kind", KINDS)
def test_bad_input_is_named_where_it_stands_and_nothing_else_is(kind: str) -> None:
    path, given, wanted = BAD[kind]
    document = typed(kind)
    *steps, last = [
        int(entry) if entry.isdigit() else entry for entry in path.replace("[", ".").replace("]", "").split(".")
    ]
    held: Any = document["observations"]
    for step in steps:
        held = held[step]
    held[last] = given
    with pytest.raises(Refused) as caught:
        reduce_of(kind, document_of(document))
    (fault,) = caught.value.faults
    assert (fault.path, fault.given) == (f"observations.{path}", given)
    assert wanted in fault.wanted
    assert fault.where, "it is called by a person's name for it"


def test_bad_input_is_stored_for_every_kind() -> None:
    assert set(BAD) == set(KINDS)


class TestVerbs:
    METHODS = [(kind.name, method.name) for kind in KINDS.values() for method in kind.methods]

    @pytest.mark.parametrize(("kind", "method"), METHODS)
    def test_a_begun_document_is_incomplete_and_stores_its_method_in_any_unit(self, kind: str, method: str) -> None:
        for length in ("m", "ft", "usft", "in"):
            begun = dispatch.begin(kind, method, length, "gon")
            assert begun["method"] == method
            preview = preview_of(kind, document_of(begun))
            assert (preview["complete"], preview["faults"]) == (False, []), (length, preview["faults"])

    @pytest.mark.parametrize(("kind", "method"), METHODS)
    def test_another_unit_and_back_changes_nothing(self, kind: str, method: str) -> None:
        begun = dispatch.begin(kind, method, "m", "")
        if KINDS[kind].method(method).unit:  # type: ignore[union-attr]
            return
        there = dispatch.take_method(begun, method, "ft")
        assert there["units"]["length"] == "ft"
        assert dispatch.take_method(there, method, "m") == begun

    @pytest.mark.parametrize(("kind", "method"), METHODS)
    def test_taken_once_more_everything_read_is_still_to_come(self, kind: str, method: str) -> None:
        begun = dispatch.begin(kind, method, "m", "")
        twice = dispatch.repeat(begun)
        before, after = (json.dumps(document["observations"]) for document in (begun, twice))
        assert len(after) > len(before) or (KINDS[kind].repeat is None and after == before)
        assert not preview_of(kind, document_of(twice))["complete"]

    @pytest.mark.parametrize("kind", KINDS)
    def test_as_left_begins_with_nothing_read_and_the_same_method(self, kind: str) -> None:
        document = typed(kind)
        left = dispatch.as_left(document, reduce_of(kind, document_of(document))["result"])
        assert left.get("method") == document.get("method")
        begun = dispatch.begin(kind, left["method"], "m", "")["observations"] if left.get("method") else {}
        assert left["observations"].keys() - {"found"} <= document["observations"].keys() | begun.keys()
        preview = preview_of(kind, document_of(left))
        assert (preview["complete"], preview["faults"]) == (False, [])
        assert set(left["observations"].get("found", {})) <= set(KINDS[kind].as_left_inputs)

    @pytest.mark.parametrize("length", ["m", "ft"])
    @pytest.mark.parametrize("angle", ["dms", "gon", "deg"])
    @pytest.mark.parametrize("kind", KINDS)
    def test_a_file_of_plain_numbers_says_the_same_once_typed(self, kind: str, angle: str, length: str) -> None:
        """Metres and decimal degrees, whatever the sheet is typed in: 102.5 in a file is no 102°50′."""
        plain = document_of(typed(kind, noise=0.0)).model_dump(mode="json", exclude_none=True, exclude_unset=True)
        numbers = _numbers(KINDS[kind], plain)
        stated = {**numbers, "units": {"length": length, "angle": angle}}
        wanted = reduce_of(kind, document_of(stated))["result"]
        found = reduce_of(kind, document_of(dispatch.from_file(stated)))["result"]
        main = KINDS[kind].main_quantity
        assert found[main] == pytest.approx(wanted[main], abs=1e-6)


def _numbers(kind: Any, document: Data) -> Data:
    """A document whose typed lengths and angles are plain numbers, as another program would write them."""
    from naveta_core.units.angles import parse_angle
    from naveta_core.units.lengths import parse_length

    unit = document.get("units", {})

    def plain(field: Any, value: Any) -> Any:
        if not isinstance(value, str) or not value:
            return value
        if field.kind == "length":
            return parse_length(value, unit.get("length", "m")).m
        if field.kind == "angle":
            return parse_angle(value, unit.get("angle", "dms")).value
        return float(value.replace(",", ".")) if field.kind == "number" else value

    return {**document, "observations": changed_fields(kind.table, document["observations"], plain)}


def _models(root: type[BaseModel]) -> list[type[BaseModel]]:
    return [model for sub in root.__subclasses__() for model in (sub, *_models(sub))]


def test_no_two_models_of_the_core_share_a_name() -> None:
    from naveta_core.documents.envelope import Part

    models = {
        model for model in (*_models(Answer), *_models(Part)) if model.__module__.startswith(naveta_core.__name__)
    }
    counted = Counter(model.__name__ for model in models)
    assert len(models) > 150
    assert [name for name, count in counted.items() if count > 1] == []
    kinds = {name: get_args(document.model.model_fields["kind"].annotation) for name, document in DOCUMENTS.items()}
    assert all(named == (name,) for name, named in kinds.items())


def test_every_answer_of_a_kind_is_what_its_model_says() -> None:
    """An answer goes out as plain data and comes back as the same model: nothing in it is of another shape."""
    for kind in KINDS.values():
        result = kind.reduce(document_of(typed(kind.name)))
        data = read_json(json.dumps(result.plain()).encode())
        figures = type(result.result).model_validate(data.pop("result"))
        assert figures == result.result, kind.name
        assert type(result).model_validate({**data, "result": {}}).verdict == result.verdict
