"""The fleet as a file: out, in with a look beforehand, and back."""

from __future__ import annotations

import csv
import io
from typing import Any

import pytest

from fleet.models import FleetImport, Instrument, InstrumentModel
from tests.server.conftest import Api, good

AT = "2027-03-02T06:40:00+00:00"
TABLE = """tag;maker;model;kind;serial;place;crew;since
lv 12;Ondine;Merrow;;881;Yard shelf 9;;2026-05-01
LV-07;ondine;merrow;level;77;;;
TS-09;Marrick;Tessaly Minor;total-station;;;bramble;
;;;;;;;
"""


def send(api: Api, text: str, *, store: bool = False) -> Any:
    return api.post("fleet/table", {"text": text, "store": store})


def tags() -> set[str]:
    return set(Instrument.objects.values_list("tag", flat=True))


class TestIn:
    def test_a_look_says_row_by_row_and_changes_nothing(self, ines: Api) -> None:
        answer = send(ines, TABLE)
        assert answer.status_code == 200, answer.content
        assert answer.json() == {
            "rows": [
                {"tag": "LV-12", "does": "add", "changes": {}, "new_model": ""},
                {"tag": "LV-07", "does": "change", "changes": {"serial": ["", "77"]}, "new_model": ""},
                {"tag": "TS-09", "does": "add", "changes": {}, "new_model": "Marrick Tessaly Minor"},
            ],
            "id": None,
        }
        assert tags() == {"LV-02", "LV-07"}

    def test_it_is_stored_and_taken_back_whole(self, ines: Api) -> None:
        kept = send(ines, TABLE, store=True).json()["id"]
        added = ines.get("instruments/LV-12").json()
        assert (added["place"], added["since"], added["serial"]) == ("Yard shelf 9", "2026-05-01", "881")
        assert ines.get("instruments/TS-09").json()["crew"] == "Bramble"
        assert ines.get("instruments/LV-07").json()["serial"] == "77"
        assert send(ines, TABLE, store=True).json()["id"] is None, "the same again does nothing"
        assert ines.delete(f"fleet/imports/{kept}").status_code == 204
        assert tags() == {"LV-02", "LV-07"}
        assert ines.get("instruments/LV-07").json()["serial"] == ""
        assert InstrumentModel.objects.count() == 1
        assert ines.delete(f"fleet/imports/{kept}").status_code == 422

    def test_it_is_not_taken_back_once_something_was_built_on_it(self, ines: Api, tam: Api) -> None:
        kept = send(ines, TABLE, store=True).json()["id"]
        tam.check(good(), at=AT, instrument="LV-12")
        Instrument.objects.filter(tag="LV-07").update(serial="78")
        answer = ines.delete(f"fleet/imports/{kept}")
        assert answer.status_code == 409
        assert answer.json()["title"] == "It cannot be taken back: LV-07, LV-12 changed or was used since."
        assert tags() == {"LV-02", "LV-07", "LV-12", "TS-09"}

    @pytest.mark.parametrize(
        ("line", "where", "wanted"),
        [
            ("LV-12;Ondine;Merrow;;;;;\nlv12;Ondine;Merrow;;;;;", "line 3, column tag", "each tag once"),
            ("LV-12;Ondine;Nix;;;;;", "line 2, column model", "with a new one its kind"),
            ("LV-12;Ondine;Nix;boat;;;;", "line 2, column kind", "with a new one its kind"),
            ("LV-12;Ondine;Merrow;tripod;;;;", "line 2, column kind", "level, as Ondine Merrow is"),
            ("LV-12;Ondine;Merrow;;;;Nobody;", "line 2, column crew", "one of Bramble, Thrift, or nothing"),
            ("LV-12;Ondine;Merrow;;;;;2027-03-09", "line 2, column since", "not in the future"),
            ("LV-12;Ondine;Merrow;;;;;March", "line 2, column since", "a day such as"),
            ("!!;Ondine;Merrow;;;;;", "line 2, column tag", ""),
            ("LV-07;Ondine;Merrow;;;;Thrift;", "line 2, column crew", "take it out or hand it in"),
            (f"LV-12;Ondine;Merrow;;{'9' * 61};;;", "line 2, column serial", "at most 60"),
        ],
    )
    def test_what_cannot_be_is_said_by_its_line_and_nothing_is_stored(
        self, ines: Api, line: str, where: str, wanted: str
    ) -> None:
        answer = send(ines, f"{TABLE.splitlines()[0]}\n{line}\n", store=True)
        assert answer.status_code == 422
        faults = {fault["where"]: fault["wanted"] for fault in answer.json()["faults"]}
        assert wanted in faults[where]
        assert tags() == {"LV-02", "LV-07"}
        assert not FleetImport.objects.exists()

    def test_a_header_that_is_none_is_said(self, ines: Api, tam: Api) -> None:
        assert "a column model" in str(send(ines, "tag,maker\nLV-12,Ondine").json())
        assert "one of tag, maker" in str(send(ines, "tag,maker,model,colour\nLV-12,Ondine,Merrow,red").json())
        assert send(ines, "").status_code == 422
        assert send(tam, TABLE, store=True).status_code == 403


class TestOut:
    def test_every_instrument_with_where_it_stands_and_no_formulas(self, ines: Api, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at=AT)
        Instrument.objects.filter(tag="LV-02").update(serial='=HYPERLINK("x")')
        answer = ines.get("fleet/table")
        assert answer["Content-Disposition"] == 'attachment; filename="fleet.csv"'
        rows = {row["tag"]: row for row in csv.DictReader(io.StringIO(answer.content.decode()))}
        assert (rows["LV-07"]["state"], rows["LV-07"]["due_on"]) == ("ready", "2027-04-01")
        assert rows["LV-02"]["serial"].startswith("'=")
        assert rows["LV-02"]["state"] == "check-first"

    def test_what_goes_out_comes_in_again_and_does_nothing(self, ines: Api) -> None:
        Instrument.objects.filter(tag="LV-02").update(serial="=1+1", place="Shelf, 3; left")
        text = ines.get("fleet/table").content.decode()
        assert [row["does"] for row in send(ines, text).json()["rows"]] == ["same", "same"]
