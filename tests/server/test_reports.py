"""Reports on paper and proof files: what stands in them, in the firm's words, and that a changed figure shows."""

from __future__ import annotations

import hashlib
import json
import re
from datetime import UTC, datetime
from typing import Any

import pytest
from reports import pages, plot
from reports.plot import ticks

from fleet.models import Instrument
from naveta_core.documents.json_io import canonical
from people.models import Person
from records.models import Record
from tests.server.conftest import Api, good

AT = "2027-03-01T06:40:00+00:00"


@pytest.fixture
def ines(firm: dict[str, Any]) -> Api:
    return Api(Person.objects.get(username="ines"))


@pytest.fixture
def written(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """Every word that goes onto paper: paragraphs as they are set, and what is written into drawings."""
    words: list[str] = []
    paragraph, string = pages.Paragraph, plot.String

    def set_paragraph(text: str, style: Any) -> Any:
        words.append(re.sub(r"<[^>]+>", "", text))
        return paragraph(text, style)

    def set_string(x: float, y: float, text: str, **more: Any) -> Any:
        words.append(text)
        return string(x, y, text, **more)

    monkeypatch.setattr(pages, "Paragraph", set_paragraph)
    monkeypatch.setattr(plot, "String", set_string)
    return words


def pdf(api: Api, path: str) -> bytes:
    answer = api.get(path)
    assert answer.status_code == 200, answer.content[:300]
    assert answer["Content-Type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF-")
    return bytes(answer.content)


class TestOnPaper:
    def test_a_check_says_everything_it_can_be_proved_by(self, tam: Api, written: list[str]) -> None:
        record = tam.check({**good(), "remark": "By the <gate>, 7.5 m left"}, at=AT).json()
        pdf(tam, f"records/{record['id']}/report")
        text = "\n".join(written)
        assert written[0] == "LV-07: two-peg test, as found"
        assert written[1] == "Ondine Merrow, serial not given. Monday 01 March 2027, 06:40."
        assert record["finding"].replace("″", '"') in text
        for setup in good()["observations"]["setups"]:
            for side in ("a", "b"):
                assert {str(reading) for reading in setup[side]["readings"]} <= set(written), "readings as typed"
        assert "Limit 10&quot;" in text or 'Limit 10"' in text
        assert f"digest   {Record.objects.get(pk=record['id']).digest}" in text
        assert "It matches its digest, and the record before it in the chain." in text
        assert "By the &lt;gate&gt;, 7.5 m left" in text
        assert "Follow local rules and your licensed practice." in text
        assert not re.search(r"accredited|certificate of calibration", text), (
            "the head of each page says what it is not"
        )

    def test_the_head_of_every_page_calls_it_a_field_check(self) -> None:
        assert pages.FIELD_CHECK == "Field check: not an accredited calibration"

    def test_a_firm_of_commas_and_rods_reads_its_own(self, tam: Api, ines: Api, written: list[str]) -> None:
        firm = ines.get("organisation").json()
        firm.pop("zone_in_force")
        assert ines.put("organisation", {**firm, "decimal_mark": ",", "staff_word": "rod"}).status_code == 200
        Instrument.objects.filter(tag="LV-07").update(serial="7.41")
        weather = {"temperature_c": "4,5", "wind": "breeze", "minutes_on": "15"}
        record = tam.check({**good(), "remark": "Staff 2.0 m", "conditions": weather}, at=AT).json()
        pdf(tam, f"records/{record['id']}/report")
        text = "\n".join(written)
        assert "Staff 2.0 m" in text, "what was typed stays to the letter"
        assert str(good()["observations"]["setups"][0]["a"]["readings"][0]) in written
        found = record["finding"].replace("″", '"').replace(".", ",").rstrip(",")
        assert found in text
        assert "serial 7.41" in written[1]
        assert "Warm-up 15 min, temperature 4,5 °C, wind breeze" in written
        tam.event("knock", AT, note="Staff fell, 1.5 m")
        written.clear()
        pdf(tam, "instruments/LV-07/report")
        assert "Staff fell, 1.5 m" in written, "a note stays to the letter beside findings with commas"

    def test_a_struck_record_says_so(self, tam: Api, ines: Api, written: list[str]) -> None:
        record = tam.check(good(), at=AT).json()["id"]
        body = {"id": "6e617665-7461-4000-8000-0000000000bb", "why": "Read the wrong staff."}
        assert ines.post(f"records/{record}/amend", body).status_code == 201
        pdf(tam, f"records/{record}/report")
        assert "Struck: Read the wrong staff." in written

    def test_an_instruments_history(self, tam: Api, written: list[str]) -> None:
        for month in range(1, 9):
            tam.check(good(), at=f"2026-{month:02}-01T06:40:00+00:00")
        tam.event("knock", "2026-09-01T06:40:00+00:00", note="Against the rail")
        tam.check(good(), at="2026-09-02T06:40:00+00:00")
        pdf(tam, "instruments/lv7/report")
        assert written[0] == "LV-07: its history"
        assert written.count("Two-peg test, as found") == 9
        assert {"Every check", "Every event", "Against the rail"} <= set(written)
        assert "Knock" in written, "the event's name stands at its line in the plot"

    def test_a_month_of_the_fleet(self, tam: Api, wren: Api, written: list[str]) -> None:
        tam.check(good(), at="2027-02-03T06:40:00+00:00")
        wren.check(good(), at="2027-02-28T23:40:00+00:00", instrument="LV-02")
        tam.check(good(), at=AT)
        pdf(tam, "fleet/report?month=2027-02")
        assert written[:3] == ["The fleet in February 2027", written[1], "Two checks: 2 use"]
        assert {"03 Feb", "28 Feb"} <= set(written)
        assert "01 Mar" not in written
        assert tam.get("fleet/report?month=2027-04").json()["faults"][0]["wanted"] == "one that has begun"
        assert tam.get("fleet/report?month=2027-13").status_code == 422

    def test_a_jobs_kit(self, tam: Api, ines: Api, written: list[str]) -> None:
        for tag in ("LV-02", "LV-07"):
            tam.check(good(), at=AT, instrument=tag)
        needs = {"levelling_mm": "3", "sight_m": "30"}
        job = {"name": "Flood wall", "starts_on": "2027-03-04", "ends_on": "2027-03-05", "needs": needs}
        made = ines.post("jobs", job)
        assert made.status_code == 201, made.content
        pdf(tam, f"jobs/{made.json()['id']}/kit/report")
        assert written[0] == "Kit for Flood wall"
        assert "What these can do there" in written
        assert sum("LV-0" in word for word in written) >= 2

    def test_what_is_not_there(self, tam: Api) -> None:
        knock = tam.event("knock", AT, note="x").json()["id"]
        assert tam.get(f"records/{knock}/report").status_code == 404
        assert tam.get("instruments/LV-99/report").status_code == 404
        assert tam.get("jobs/999/kit/report").status_code == 422

    @pytest.mark.parametrize(
        ("most", "expected"),
        [
            (12.0, [-10, -5, 0, 5, 10]),
            (40.0, [-40, -30, -20, -10, 0, 10, 20, 30, 40]),
            (0.65, [-0.6, -0.4, -0.2, 0, 0.2, 0.4, 0.6]),
        ],
    )
    def test_round_figures_beside_a_plot(self, most: float, expected: list[float]) -> None:
        assert ticks(most) == pytest.approx(expected)


def page(api: Api, path: str) -> str:
    answer = api.get(path)
    assert answer.status_code == 200
    assert answer["Content-Disposition"].startswith("attachment")
    return b"".join(answer.streaming_content).decode()


RECORD = re.compile(r'<script type="application/json" class="record">(.*?)</script>')


class TestProofFile:
    @pytest.fixture
    def filled(self, tam: Api) -> list[str]:
        tam.event("knock", AT, note="</script><b>no")
        ids = [tam.check(good(), at=AT).json()["id"] for _ in range(2)]
        tam.event("transport", AT)
        return ids

    def test_a_records_proof_holds_the_chain_up_to_it(self, tam: Api, filled: list[str]) -> None:
        text = page(tam, f"records/{filled[1]}/proof")
        held = [json.loads(line) for line in RECORD.findall(text)]
        assert [json.loads(each["text"])["sequence"] for each in held] == [1, 2, 3]
        for each in held:
            assert hashlib.sha256(each["text"].encode()).hexdigest() == each["digest"]
            assert canonical(json.loads(each["text"])) == each["text"]
        assert "</script><b>" not in text, "what somebody typed ends no script"
        assert "http" not in re.sub(r"http-equiv", "", text), "nothing is fetched from anywhere"

    def test_a_proof_of_what_the_ledger_shows(self, tam: Api, wren: Api, filled: list[str]) -> None:
        wren.check(good(), at=AT, instrument="LV-02")
        text = page(tam, "ledger/proof?kind=two-peg&instrument=LV-07")
        held = [json.loads(json.loads(line)["text"]) for line in RECORD.findall(text)]
        assert [row["id"] for row in held] == filled
        assert tam.get("ledger/proof?instrument=!!").status_code == 422

    def test_series_go_out_as_a_table(self, tam: Api, filled: list[str]) -> None:
        answer = tam.get("instruments/LV-07/series/table?of=two-peg")
        head, *rows = b"".join(answer.streaming_content).decode().splitlines()
        assert head.split(",")[:5] == ["id", "at", "stage", "pair", "value"]
        assert [row.split(",")[0] for row in rows] == filled
        record = Record.objects.get(pk=filled[0])
        value = json.loads(record.result)["result"]["collimation_arcsec"]
        assert float(rows[0].split(",")[4]) == pytest.approx(value)
        assert tam.get("instruments/LV-07/series/table?of=nothing").status_code == 422

    def test_it_names_the_moment_and_the_ends(self, tam: Api, filled: list[str]) -> None:
        about = json.loads(re.search(r'id="about">(.*?)</script>', page(tam, f"records/{filled[0]}/proof"))[1])
        assert about["made"] == datetime(2027, 3, 2, 6, 40, tzinfo=UTC).isoformat()
        assert about["ends"].split()[2:4] == ["4", "1"]
        assert about["field_check"].startswith("Field check")
