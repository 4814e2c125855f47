"""Tables of people's own through the API: looked at, and known to the whole firm the next time."""

from __future__ import annotations

from typing import Any

import pytest

from records.known_tables import MAX_KNOWN
from records.models import KnownTable

from .conftest import Api

pytestmark = pytest.mark.django_db
TEXT = "Pt;East (ft);North (ft)\nK1;500.1;200.2\nK2;501;202.5\n"


def looked(tam: Api, **more: Any) -> Any:
    answer = tam.post("tables/look", {"kind": "control-points", "text": TEXT, **more})
    assert answer.status_code == 200, answer.content
    return answer.json()


def remember(tam: Api, look: Any, **changes: Any) -> Any:
    headings = [column["heading"] for column in look["file_columns"]]
    body = {"kind": "control-points", "headings": headings, "column_map": look["column_map"], **changes}
    return tam.put("tables/known", body)


def test_looked_at_and_nothing_stored(tam: Api) -> None:
    look = looked(tam)
    assert (look["readings"], look["lines"], look["faults"]) == (4, 2, [])
    assert look["text"].splitlines()[1] == "K1,500.1,200.2,,,ft"
    assert not KnownTable.objects.exists()


def test_known_to_everybody_and_the_last_way_counts(tam: Api, ines: Api) -> None:
    look = looked(tam)
    assert remember(tam, {**look, "column_map": {**look["column_map"], "left_out": [3]}}).status_code == 200
    (known,) = ines.get("tables/known").json()
    assert known["headings"] == ["pt", "east (ft)", "north (ft)"]
    assert known["column_map"]["left_out"] == [], "a line of one file is not left out of the next"
    uses = [{**use, "unit": "m"} if use["unit"] else use for use in look["column_map"]["columns"]]
    remember(ines, {**look, "column_map": {**look["column_map"], "columns": uses}})
    (known,) = tam.get("tables/known").json()
    again = looked(tam, column_map=known["column_map"])
    assert again["text"].splitlines()[1] == "K1,500.1,200.2,,,m"
    assert KnownTable.objects.get().by.name == known["name"]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"kind": "pre-survey"}, "kind"),
        ({"headings": []}, "headings"),
        ({"headings": ["x" * 81]}, "headings"),
        ({"column_map": {"separator": "pipes", "heading_line": 1}}, "separator"),
        ({"column_map": None}, "column_map"),
    ],
)
def test_what_cannot_be_remembered(tam: Api, changes: dict[str, Any], field: str) -> None:
    answer = remember(tam, looked(tam), **changes)
    assert answer.status_code == 422
    assert field in str(answer.json()["faults"])
    assert not KnownTable.objects.exists()


def test_a_look_that_is_none(tam: Api) -> None:
    answer = tam.post("tables/look", {"kind": "control-points", "text": ""})
    assert answer.status_code == 422
    assert "a table: lines of cells" in answer.json()["faults"][0]["wanted"]
    nobody = Api(None)
    assert nobody.get("tables/known").status_code == 401
    assert nobody.post("tables/look", {"kind": "two-peg", "text": TEXT}).status_code == 401


def test_only_so_many_are_kept(tam: Api) -> None:
    look = looked(tam)
    person = remember(tam, look) and KnownTable.objects.get().by
    rest = [
        KnownTable(kind="two-peg", headings=[f"h{i}"], column_map={}, by=person, at="2027-01-01T00:00:00Z")
        for i in range(MAX_KNOWN)
    ]
    KnownTable.objects.bulk_create(rest)
    remember(tam, look, headings=["another"])
    assert KnownTable.objects.count() == MAX_KNOWN
    assert KnownTable.objects.filter(headings=["another"]).exists()
