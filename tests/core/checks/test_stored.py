"""Storing: old values noted, new ones with the sign the model wants, the range kept, the second round held against the first."""

from __future__ import annotations

import json
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.errors import Refused
from naveta_core.registry import parse
from naveta_core.results import Adjusting
from tests.core.plain import adjusting_of

from .simulated import Data, codes, previewed, reduced
from .test_two_face import document, mark

FULL = 5


def found(c: float = 12.0, i: float = 0.0, instrument: Data | None = None, **observations: Any) -> Data:
    """A full measurement without noise; what is noted of the stored values in `observations`."""
    targets = [mark(90.0, c, i, t=0.0, n=FULL), mark(66.0, c, i, t=0.0, hz=80.0, n=FULL)]
    closing = {"closing": [targets[0]["left"][0]] * 2}
    return document(*targets, instrument=instrument or {}, observations={**closing, **observations})


def ask(fields: Data, *reads_now: str) -> Data:
    adjusting = adjusting_of(fields["kind"], parse(json.dumps(fields).encode()), list(reads_now))
    Adjusting.model_validate(adjusting)
    return adjusting


NOTED = {"before_collimation_arcsec": "3", "before_index_arcsec": "-2", "before_tilting_axis_arcsec": "1"}


@pytest.mark.parametrize(
    ("stores", "on", "new"),
    [
        ("error", "yes", "from +3.0″ to +15.0″"),
        ("correction", "yes", "from +3.0″ to −9.0″"),
        ("error", "no", "from +3.0″ to +12.0″"),
        ("correction", "no", "from +3.0″ to −12.0″"),
    ],
)
def test_the_new_value_has_the_sign_the_model_wants(stores: str, on: str, new: str) -> None:
    """12″ too large in face left, old value 3″: left over while on, the whole while off."""
    answer = ask(found(instrument={"stores": stores}, **NOTED, corrections_on=on))
    assert (answer["inputs"], answer["allowed"]) == ([], True)
    assert f"c {new}" in answer["text"]
    assert "; i" not in answer["text"], "what is good is left alone"


def test_a_model_whose_sign_nobody_stated_gets_both_and_none_is_guessed() -> None:
    answer = ask(found(**NOTED))
    assert "c to +15.0″ if it stores the error, −9.0″ if it stores the correction" in answer["text"]
    assert "the manager enters it once" in answer["text"]


def test_what_was_not_noted_is_asked_for_first_in_one_touch() -> None:
    entry = found(instrument={"stores": "error"}, before_index_arcsec="-2")
    answer = ask(entry)
    assert answer["inputs"] == ["c", "t"]
    assert answer["text"].startswith("First note what is stored now: c and t.")
    (step,) = ask(entry, "3.0 1")["steps"]
    assert step["done"]
    assert "c from +3.0″ to +15.0″" in step["text"]
    assert ask(found(instrument={"stores": "error"}, corrections_on="no"))["inputs"] == [], (
        "off: the old ones do not count"
    )
    for typed in ("3.0", "3 1 2", "3 x", "9999 1"):
        with pytest.raises(Refused) as caught:
            ask(entry, typed)
        assert caught.value.faults[0].path == "reads_now[0]"
    with pytest.raises(Refused):
        ask(found(instrument={"stores": "error"}, **NOTED), "3.0")


def test_a_document_may_state_what_is_stored_itself() -> None:
    fields = {
        **found(instrument={"stores": "error"}),
        "stored": {
            "collimation_arcsec": 3.0,
            "index_arcsec": 0.0,
            "tilting_axis_arcsec": 0,
            "applied": False,
            "range": 8,
        },
    }
    result = reduced(fields)
    assert "Corrections were off" in next(
        each["text"] for each in result["verdict"]["reasons"] if each["code"] == "noted-before"
    )
    assert (result["verdict"]["grade"], codes(result)[0]) == ("service", "beyond-storing")


def test_beyond_what_the_instrument_stores_it_goes_to_service_and_only_then() -> None:
    """12″ on top of 100″: 112″. A quick look of ± 11″ does not prove it beyond 110″."""
    noted = {**NOTED, "before_collimation_arcsec": "100"}
    most = {"stores": "error", "storable_arcsec": 110}
    assert codes(reduced(found(instrument={**most, "storable_arcsec": 105}, **noted)))[0] == "beyond-storing"
    assert "beyond-storing" not in codes(reduced(found(instrument=most, **noted))), "within its ±"
    turned = {**most, "storable_arcsec": 105, "stores": "correction"}
    assert "beyond-storing" not in codes(reduced(found(instrument=turned, **noted))), "100 − 12 fits"
    assert "112.0″" in json.dumps(
        reduced(found(instrument={**most, "storable_arcsec": 105}, **noted)), ensure_ascii=False
    )


@pytest.mark.parametrize(("storable", "grade"), [(None, "service"), (300.0, "adjust"), (190.0, "service")])
def test_what_a_model_stores_is_how_far_it_is_adjusted(storable: float | None, grade: str) -> None:
    """200″ found: beyond the usual 180″, within 300″, beyond 190″."""
    result = reduced(found(200.0, instrument={"storable_arcsec": storable} if storable else {}))
    assert result["verdict"]["grade"] == grade
    assert next(part for part in result["verdict"]["parts"] if part["quantity"] == "collimation_arcsec")["limits"][
        "adjust"
    ] == (storable or 180.0)


@pytest.mark.parametrize(
    ("now", "code", "sentence"),
    [
        (0.4, "stored-and-proved", "stored correctly"),
        (24.2, "stored-wrong-sign", "with the wrong sign"),
        (12.1, "not-stored", "Was it stored"),
        (-1.0, "stored-and-proved", "correctly"),
    ],
)
def test_the_second_round_says_what_became_of_the_first(now: float, code: str, sentence: str) -> None:
    was = reduced(found())["result"]
    carried = {name: was[name] for name in KINDS["two-face"].as_left_inputs}
    result = reduced(found(now, found=carried))
    reason = next(each for each in result["verdict"]["reasons"] if each["code"].startswith(("stored-", "not-stored")))
    assert reason["code"] == code
    assert sentence in reason["text"]
    assert reason["text"].startswith("c: +12.0″ before")
    assert len([each for each in result["verdict"]["reasons"] if each["code"].startswith("stored-")]) <= 1, (
        "i and t showed nothing"
    )


def test_nothing_is_said_of_a_finding_that_was_noise() -> None:
    was = reduced(found(1.0))["result"]
    result = reduced(found(2.0, found={name: was[name] for name in KINDS["two-face"].as_left_inputs}))
    assert not [code for code in codes(result) if code.startswith(("stored-", "not-stored"))]


def test_what_is_noted_must_be_seconds() -> None:
    faults = previewed(found(before_collimation_arcsec="3x"))["faults"]
    assert [(fault["path"], fault["where"]) for fault in faults] == [
        ("observations.before_collimation_arcsec", "stored before, c")
    ]
    assert previewed(found(before_collimation_arcsec="2°"))["faults"][0]["wanted"].startswith("seconds from")
    assert previewed(found(before_collimation_arcsec="0.5′"))["faults"] == [], "half a minute is 30″"


@pytest.mark.parametrize("kind", ["two-face", "tracker", "dual-axis-level"])
def test_every_kind_that_stores_notes_first_and_carries_what_it_found(kind: str) -> None:
    outcome = KINDS[kind].about()
    carried = KINDS[kind].as_left_inputs
    assert all(name.replace("sigma_", "") in carried for name in carried)
    assert {"corrections_on"} < set(outcome["csv_columns"])
    for way in outcome["methods"]:
        stored = next(group for group in way["groups"] if group["title"] == "Values stored before")
        assert [field["ask_again"] for field in stored["fields"][:-1]] == [True] * (len(stored["fields"]) - 1)
        assert stored["fields"][-1]["name"] == "corrections_on"
