"""The ledger: every record filtered by anything, found by words, written out, computed again."""

from __future__ import annotations

import csv
import io
import json
import uuid
from typing import Any

import pytest
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from records import ledger
from records import words as found_by
from records.models import Record
from records.words import plain_words
from tests.server.conftest import Api, good

AT = "2027-03-01T06:40:00+00:00"
LATER = "2027-03-02T06:40:00+00:00"


@pytest.fixture
def filled(tam: Api, wren: Api) -> dict[str, str]:
    """A good check, a knock with a note, a check of another level by another crew, one that was struck."""
    return {
        "good": tam.check(good(), at=AT).json()["id"],
        "knock": tam.event("knock", AT, note="Against the rail, 3 % slope").json()["id"],
        "other": wren.check(good(), at=LATER, instrument="LV-02").json()["id"],
        "struck": tam.check(good(), at=LATER).json()["id"],
    }


def found(api: Api, **filters: str) -> list[str]:
    answer = api.client.get("/api/ledger", filters)
    assert answer.status_code == 200, answer.content
    return [row["id"] for row in answer.json()["records"]]


def strike(api: Api, record: str) -> None:
    body = {"id": "6e617665-7461-4000-8000-0000000000bb", "why": "Read the wrong staff."}
    assert api.post(f"records/{record}/amend", body).status_code == 201


@pytest.mark.parametrize(
    ("filters", "names"),
    [
        ({}, ["struck", "other", "knock", "good"]),
        ({"instrument": "lv2"}, ["other"]),
        ({"kind": "two-peg"}, ["struck", "other", "good"]),
        ({"category": "event"}, ["knock"]),
        ({"grade": "use"}, ["struck", "other", "good"]),
        ({"grade": "service"}, []),
        ({"stage": "as-left"}, []),
        ({"by": "wren"}, ["other"]),
        ({"first": "2027-03-02"}, ["struck", "other"]),
        ({"last": "2027-03-01"}, ["knock", "good"]),
        ({"first": "2027-03-01", "last": "2027-03-01", "kind": "two-peg"}, ["good"]),
        ({"words": "RAIL knock"}, ["knock"]),
        ({"words": "3 % slope"}, ["knock"]),
        ({"words": "wren merrow peg"}, ["other"]),
        ({"words": "nobody"}, []),
        ({"words": "%_"}, []),
        ({"words": "lv-07 two-peg"}, ["struck", "good"]),
        ({"words": "lv 07"}, ["struck", "knock", "good"]),
        ({"words": "kno"}, ["knock"]),
        ({"words": "nock"}, []),
        ({"words": "slope 3"}, ["knock"]),
        ({"words": "peg-two"}, []),
        ({"words": '" OR * knock'}, []),
        ({"words": "kno* rail:"}, ["knock"]),
    ],
)
def test_filters_and_words(tam: Api, filled: dict[str, str], filters: dict[str, str], names: list[str]) -> None:
    assert found(tam, **filters) == [filled[name] for name in names]


@pytest.mark.parametrize("words", ["lv-07 two-peg", "kno", "peg", "slope 3", "lv", "peg-two"])
def test_words_found_often_are_looked_for_by_day_with_the_same_outcome(
    tam: Api, filled: dict[str, str], words: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    by_index = found(tam, words=words)
    monkeypatch.setattr(found_by, "MAX_BY_INDEX", 0)
    assert found(tam, words=words) == by_index
    assert (by_index == []) is (words == "peg-two")


def test_letters_of_every_language_are_letters(tam: Api) -> None:
    noted = tam.event("knock", AT, note="Žďár brücke, ÅS-3 ½").json()["id"]
    for words in ("žďár", "BRÜCKE", "brü", "ås-3", "Z\u030cd\u030ca\u0301r"):
        assert found(tam, words=words) == [noted], words
    assert found(tam, words="zdar") == []


def test_the_index_follows_whatever_writes_a_record(tam: Api, filled: dict[str, str]) -> None:
    """An import writes rows by itself, a later migration may make the table again: the index must not lose them."""
    row = Record.objects.get(pk=filled["knock"])
    Record.objects.bulk_create([copy_of(row, row.arrival + 100, plain_words("Ferry landing"))])
    assert len(found(tam, words="ferry")) == 1
    with connection.cursor() as cursor:
        cursor.execute("UPDATE records_record SET search = ' quay' WHERE arrival = %s", [row.arrival + 100])
        assert (len(found(tam, words="ferry")), len(found(tam, words="quay"))) == (0, 1)
        cursor.execute("DELETE FROM records_record WHERE arrival = %s", [row.arrival + 100])
    assert found(tam, words="quay") == []


def copy_of(row: Record, arrival: int, search: str) -> Record:
    kept = {field.attname: getattr(row, field.attname) for field in Record._meta.concrete_fields}
    return Record(**{**kept, "id": uuid.uuid4(), "arrival": arrival, "sequence": 99, "search": search})


def test_places_crews_and_remarks_are_words_too(tam: Api) -> None:
    out = tam.event("out", AT, crew="Bramble", note="For the flood wall").json()["id"]
    back = tam.event("in", LATER, place="Yard shelf 3").json()["id"]
    noted = tam.check({**good(), "remark": "Gate open, wind from the creek"}, at=LATER).json()["id"]
    assert found(tam, words="bramble") == [out]
    assert found(tam, words="shelf 3") == [back]
    assert found(tam, words="creek wind") == [noted]


def test_struck_ones_are_shown_or_left_out(tam: Api, filled: dict[str, str]) -> None:
    strike(tam, filled["struck"])
    assert filled["struck"] in found(tam)
    assert found(tam, struck="only") == [filled["struck"]]
    assert filled["struck"] not in found(tam, struck="not")
    assert len(found(tam, words="wrong staff")) == 1, "the amendment itself, by its reason"


def test_it_is_counted_once_and_turned_page_by_page(tam: Api, filled: dict[str, str]) -> None:
    first = tam.get("ledger?limit=3").json()
    assert (first["count"], len(first["records"])) == (4, 3)
    second = tam.get(f"ledger?limit=3&cursor={first['next']}").json()
    assert (second["count"], [row["id"] for row in second["records"]], second["next"]) == (None, [filled["good"]], None)


def test_what_is_more_than_is_counted_is_said_to_be_more(
    tam: Api, filled: dict[str, str], monkeypatch: pytest.MonkeyPatch
) -> None:
    assert len(filled) == 4
    monkeypatch.setattr(ledger, "MAX_COUNTED", 3)
    found = tam.get("ledger").json()
    assert (found["count"], found["more"], len(found["records"])) == (3, True, 4)
    monkeypatch.setattr(ledger, "MAX_COUNTED", 4)
    assert (tam.get("ledger").json()["count"], tam.get("ledger").json()["more"]) == (4, False)


WRONG = ["first=yesterday", "last=9999-12-31", "first=0001-01-01", "struck=maybe", "instrument=!!"]


@pytest.mark.parametrize("query", [*WRONG, "limit=0", "cursor=abc"])
def test_what_cannot_be_is_said(tam: Api, query: str) -> None:
    assert tam.get(f"ledger?{query}").status_code == 422


@pytest.mark.parametrize("query", WRONG)
def test_a_table_is_refused_before_its_first_line(tam: Api, query: str) -> None:
    assert tam.get(f"ledger/table?{query}").status_code == 422


def test_what_is_shown_goes_out_as_a_table_and_nothing_in_it_is_a_formula(tam: Api, filled: dict[str, str]) -> None:
    tam.event("knock", LATER, note="=1+1")
    strike(tam, filled["struck"])
    answer = tam.get("ledger/table?instrument=LV-07")
    rows = list(csv.DictReader(io.StringIO(b"".join(answer.streaming_content).decode())))
    assert len(rows) == 5
    by_id = {row["id"]: row for row in rows}
    assert by_id[filled["struck"]]["struck"] == "struck"
    assert by_id[filled["good"]]["grade"] == "use"
    assert next(row for row in rows if row["note"].endswith("1+1"))["note"] == "'=1+1"
    assert {row["instrument"] for row in rows} == {"LV-07"}
    record = Record.objects.get(pk=filled["good"])
    assert by_id[filled["good"]]["digest"] == record.digest


class TestRecomputed:
    def of(self, api: Api, record: str) -> dict[str, Any]:
        return api.get(f"records/{record}/recomputed").json()

    def test_today_says_the_same(self, tam: Api, filled: dict[str, str]) -> None:
        answer = self.of(tam, filled["good"])
        assert (answer["computed"], answer["same"], answer["differences"]) == (True, True, [])
        assert answer["stored_version"] == answer["core_version"]
        assert self.of(tam, filled["knock"])["computed"] is False

    def test_a_figure_that_was_other_is_named(self, filled: dict[str, str]) -> None:
        record = Record.objects.get(pk=filled["good"])
        result = json.loads(record.result)
        was = result["result"]["collimation_arcsec"]
        result["result"]["collimation_arcsec"] = 99.5
        result["core_version"] = "0.1.0"
        record.result = json.dumps(result)
        computed, differences = ledger.recomputed(record)
        assert computed
        assert [(d.path, d.stored, d.now) for d in differences] == [("result.collimation_arcsec", "99.5", str(was))]


@pytest.mark.django_db(transaction=True)
def test_records_of_an_older_naveta_are_found_after_the_migration(tam: Api, filled: dict[str, str]) -> None:
    kept = {str(row.pk): (row.grade, row.search) for row in Record.objects.all()}
    MigrationExecutor(connection).migrate([("records", "0001_first")])
    MigrationExecutor(connection).migrate([("records", "0003_words")])
    assert {str(row.pk): (row.grade, row.search) for row in Record.objects.all()} == kept
    assert found(tam, words="rail") == [filled["knock"]]
