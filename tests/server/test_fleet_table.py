"""The whole fleet in one answer: what one compares by, the same as each instrument's own page; views kept with a person."""

from __future__ import annotations

import json
from typing import Any

from .conftest import Api, bad, good

AT = "2027-03-02T06:40:00+00:00"


def rows(api: Api) -> dict[str, Any]:
    return {row["tag"]: row for row in api.get("fleet").json()["rows"]}


def test_each_row_says_what_the_instruments_own_page_says(ines: Api, tam: Api) -> None:
    tam.compensators("LV-02", "LV-07")
    tam.check(good(), at=AT)
    tam.check(bad(), at=AT, instrument="LV-02")
    for tag, row in rows(ines).items():
        own = ines.get(f"instruments/{tag}").json()
        assert (row["state"], row["latest"], row["since"]) == (own["standing"]["state"], own["latest"], own["since"])
        assert row["reasons"] == [reason["text"] for reason in own["standing"]["reasons"][:2]]
        assert row["needed"] == [
            {name: check[name] for name in ("check", "title", "minutes")}
            for check in own["standing"]["checks"]
            if check["needed"]
        ]
    held, passed = rows(ines)["LV-02"], rows(ines)["LV-07"]
    assert held["state"] == "hold"
    assert [check["check"] for check in held["needed"]] == ["two-peg"]
    # A two-peg test holds a month: the earliest day of those an instrument goes out by.
    assert (passed["due_on"], passed["due_check"]) == ("2027-04-01", "Two-peg test")


def test_what_has_to_be_acted_on_comes_first_and_every_change_is_in_the_next_answer(ines: Api, tam: Api) -> None:
    tam.compensators("LV-02", "LV-07")
    for tag in ("LV-02", "LV-07"):
        tam.check(good(), at=AT, instrument=tag)
    assert list(rows(ines)) == ["LV-02", "LV-07"]
    tam.event("knock", "2027-03-02T09:00:00+00:00", instrument="LV-07", note="slid off the tailgate")
    assert list(rows(ines)) == ["LV-07", "LV-02"]
    assert "slid off the tailgate" in rows(ines)["LV-07"]["reasons"][0]
    tam.event("out", "2027-03-02T09:10:00+00:00", instrument="LV-02")
    assert rows(ines)["LV-02"]["crew"] == "Bramble"


def test_each_crew_reads_its_own_sentence(ines: Api, tam: Api) -> None:
    tam.event("out", "2027-03-02T07:10:00+00:00", instrument="LV-02")
    waiting = sum(check["minutes"] for check in rows(ines)["LV-02"]["needed"])
    found = ines.get("fleet").json()["summaries"]
    assert found["Bramble"] == f"One instrument needs a check first: {waiting} minutes"
    assert found[""].startswith("Two instruments need a check first: ")
    assert "Thrift" not in found, "it holds none"


def test_an_instrument_only_taken_out_so_far_holds_its_chain(ines: Api, tam: Api) -> None:
    assert tam.event("out", "2027-03-02T06:50:00+00:00", instrument="LV-02").status_code == 201
    lines = b"".join(ines.get("health/chains").streaming_content).decode().splitlines()
    assert json.loads(lines[-1])["ok"], lines


def test_views_are_kept_with_the_person_who_keeps_them(ines: Api, tam: Api) -> None:
    view = {"name": " Levels due ", "text": "kind=level&within=30"}
    assert tam.put("session/views", {"views": [view]}).json()["views"] == [
        {**view, "name": "Levels due", "place": "fleet"}
    ]
    assert tam.get("session").json()["views"][0]["text"] == "kind=level&within=30"
    assert ines.get("session").json()["views"] == []
    both = [{**view, "place": "ledger"}, view]
    assert [each["place"] for each in tam.put("session/views", {"views": both}).json()["views"]] == ["ledger", "fleet"]
    twice = ines.put("session/views", {"views": [view, {"name": "Levels due", "text": ""}]})
    assert (twice.status_code, twice.json()["faults"][0]["path"]) == (422, "views")
    assert ines.put("session/views", {"views": [{"name": "", "text": ""}]}).status_code == 422
    assert ines.get("session").json()["views"] == []
