"""The one parser and the one text."""

from __future__ import annotations

import hashlib
import json

import pytest
from hypothesis import given
from hypothesis import strategies as st

from naveta_core.documents.json_io import MAX_BYTES, canonical, digest, plain, read_json
from naveta_core.errors import NotJson, Refused, UnknownKind
from naveta_core.registry import document_of, parse

from .builders import document, raw

GOOD = document((30, "1.8851", 30, "1.4020"), (56, "1.8868", 4, "1.4000"))


@pytest.mark.parametrize(
    ("bad", "sentence"),
    [
        (b"\xff\xfe", "not UTF-8"),
        (b"{", "not JSON"),
        (b'{"a": NaN}', "NaN"),
        (b'{"a": -Infinity}', "Infinity"),
        (b'{"a": 1e999}', "too large to be a measurement"),
        (b'{"a": 12345678901234567890}', "more digits"),
        (b'{"kind": 1, "kind": 2}', "appears twice"),
        (b"[" * 21 + b"]" * 21, "deeper than 20"),
        (b" " * (2 * MAX_BYTES), "too many"),
        (b'{"a": "\\ud800"}', "surrogate"),
    ],
)
def test_refuses_json_with_two_readings(bad: bytes, sentence: str) -> None:
    with pytest.raises(NotJson, match=sentence):
        read_json(bad)


def test_brackets_inside_strings_do_not_count_as_depth() -> None:
    assert read_json(b'{"a": "' + b"[" * 50 + b'\\""}')["a"].startswith("[[")


def test_unknown_kind_names_those_there_are() -> None:
    with pytest.raises(UnknownKind) as caught:
        parse(raw({"kind": "three-peg", "observations": {}}))
    (fault,) = caught.value.faults
    assert (fault.path, fault.given) == ("kind", "three-peg")
    assert "two-peg" in fault.wanted


def test_unknown_fields_are_refused_by_path() -> None:
    bad = json.loads(raw(GOOD))
    bad["observations"]["setups"][1]["a"]["height"] = 3
    bad["colour"] = "red"
    with pytest.raises(Refused) as caught:
        document_of(bad)
    assert {fault.path for fault in caught.value.faults} == {"colour", "observations.setups[1].a.height"}
    assert all(fault.wanted == "a field this document knows" for fault in caught.value.faults)


@pytest.mark.parametrize(
    ("change", "path"),
    [
        ({"limits": {"collimation_arcsec": {"use": 20, "watch": 10}}}, "limits.collimation_arcsec"),
        ({"units": {"length": "yd"}}, "units.length"),
        ({"remark": "x" * 2001}, "remark"),
        ({"observations": {"setups": [{"a": {"readings": [True]}}]}}, "observations.setups[0].a.readings[0]"),
        ({"observations": {"setups": [{}] * 9}}, "observations.setups"),
        ({"conditions": {"temperature_c": "warm"}}, "conditions.temperature_c"),
        ({"observations": {"looks": {"line_returns": "maybe"}}}, "observations.looks.line_returns"),
    ],
)
def test_faults_of_form_name_the_field(change: dict, path: str) -> None:
    with pytest.raises(Refused) as caught:
        document_of({**GOOD, **change})
    assert [fault.path for fault in caught.value.faults] == [path]


def test_a_list_is_no_document() -> None:
    with pytest.raises(Refused):
        parse(b"[]")


def test_plain_gives_back_what_was_given() -> None:
    assert plain(parse(raw(GOOD))) == GOOD


def test_canonical_text_by_hand() -> None:
    data = {"b": [1, 2.50, -0.0], "a": "e\u0301", "ä": None}
    assert canonical(data) == '{"a":"é","b":[1,2.5,0.0],"ä":null}'
    assert digest({}) == hashlib.sha256(b"{}").hexdigest()


@given(
    st.recursive(
        st.none() | st.booleans() | st.floats(allow_nan=False, allow_infinity=False) | st.text(),
        lambda inner: st.lists(inner) | st.dictionaries(st.text(), inner),
    )
)
def test_canonical_text_is_a_fixed_point(data) -> None:
    try:
        once = canonical(data)
        once.encode()
    except UnicodeEncodeError:
        return
    assert canonical(json.loads(once)) == once
