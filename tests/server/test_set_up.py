"""Set-ups through the server: advice, the guide, a record in the instrument's chain that its standing does not depend on."""

from __future__ import annotations

import uuid
from datetime import date
from typing import Any

import pytest

from fleet.models import Instrument
from records import chain
from records.models import Record

from .conftest import Api

TOTAL = {
    "maker": "Marrick",
    "name": "Tessaly",
    "kind": "robotic-total-station",
    "stated": {"plummet": "laser", "compensator_range_arcmin": 4, "angle_accuracy_arcsec": 3},
    "tips": "",
}


def set_up(**observed: Any) -> dict[str, Any]:
    fields = {
        "method": "plummet-first",
        "mark": {"name": "PC-14"},
        "level": {"first": {"along": "6", "across": "2"}, "turned": {"along": "-4", "across": "0"}},
        "centring_mm": "0.0",
        "height": {"readings": ["1.562", "1.563"]},
        "final_check_done": True,
        **observed,
    }
    return {"kind": "set-up", "observations": fields}


@pytest.fixture
def station(firm, ines: Api) -> str:
    from fleet.services import add_instrument, add_model
    from people.models import Person

    person = Person.objects.get(username="ines")
    model = add_model(actor=person, **TOTAL)
    add_instrument(
        actor=person, tag="TS-03", model=model.id, serial="", place="Yard", crew=None, since=date(2025, 3, 1)
    )
    return "TS-03"


def sent(tag: str, document: dict[str, Any], **more: Any) -> dict[str, Any]:
    return {"instrument": tag, "observed_at": "2027-03-02T06:40:00+00:00", "document": document, **more}


def test_a_set_up_is_stored_in_the_chain_and_no_standing_depends_on_it(ines: Api, station: str) -> None:
    before = ines.get(f"instruments/{station}").json()["standing"]
    identity = uuid.uuid4()
    answer = ines.put(f"checks/{identity}", sent(station, set_up()))
    assert answer.status_code == 201, answer.content
    found = answer.json()
    assert (found["category"], found["kind"], found["stage"]) == ("set-up", "set-up", "")
    # (6 − −4)/2 = 5 along, (2 − 0)/2 = 1 across: √26.
    assert found["result"]["result"]["tilt_arcsec"] == pytest.approx(26**0.5)
    assert found["document"]["instrument"]["plummet"] == "laser"
    assert ines.get(f"instruments/{station}").json()["standing"] == before
    record = Record.objects.get(id=identity)
    assert chain.broken(record) is None
    assert Instrument.objects.get(tag=station).derived.get("history", []) == []
    assert ines.put(f"checks/{identity}", sent(station, set_up())).status_code == 200
    rows = ines.get(f"records?instrument={station}&category=set-up").json()["records"]
    assert [row["finding"] for row in rows] == [found["finding"]]
    assert ines.get(f"records/{identity}/document").json()["kind"] == "set-up"


def test_the_guide_knows_the_instrument(ines: Api, station: str) -> None:
    answer = ines.post("set-up/guide", {"instrument": station, "document": set_up(), "step": None}).json()
    assert "laser-on" in [short_title["step"] for short_title in answer["steps"]]
    methods = {
        method["method"]: method["cannot"]
        for method in ines.get(f"set-up/methods?instrument={station}").json()["methods"]
    }
    assert methods["plummet-first"] is None
    assert "levels" in methods["no-point"]


def test_advice_by_the_server_is_the_cores(ines: Api, station: str) -> None:
    question = {"advice": "shift", "move": {"bearing_deg": 0, "distance_mm": 20}}
    answer = ines.post("set-up/advise", {"question": question}).json()
    assert answer["result"]["legs"]["A"] == pytest.approx(-11.4, abs=0.3)
    refused = ines.post("set-up/advise", {"question": {"advice": "legs"}})
    assert refused.status_code == 422
    assert refused.json()["faults"][0]["wanted"] == "either bubble or tilt"


def test_one_preview_answers_for_every_kind(ines: Api, station: str) -> None:
    answer = ines.post("preview", {"instrument": station, "document": set_up(centring_mm="")}).json()
    assert answer["missing"] == ["observations.centring_mm"]
    wrong = ines.post("preview", {"instrument": station, "document": {"kind": "set-down", "observations": {}}})
    assert (wrong.status_code, wrong.json()["faults"][0]["path"]) == (422, "kind")


def test_what_is_missing_or_wrong_is_not_stored(ines: Api, station: str) -> None:
    answer = ines.put(f"checks/{uuid.uuid4()}", sent(station, set_up(height={"readings": ["5'2"]})))
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"] == "observations.height.readings[0]"
    assert not Record.objects.filter(kind="set-up").exists()


def test_the_next_set_up_knows_where_the_plate_bubble_rests_until_a_knock(ines: Api, station: str) -> None:
    """2 and 1.4 divisions, turned 1 and 1.8: it rests at (1.5 + 1.6)/2."""
    level = {"by": "plate", "first": {"along": "2", "across": "1.4"}, "turned": {"along": "1", "across": "1.8"}}
    plate = set_up(level=level, options={"level_type": "plate"})
    assert ines.put(f"checks/{uuid.uuid4()}", sent(station, plate)).status_code == 201
    record = ines.put(f"checks/{uuid.uuid4()}", sent(station, set_up())).json()
    assert record["document"]["stored"]["reversal_div"] == pytest.approx(1.55)
    knock = "2027-03-02T06:41:00+00:00"
    assert ines.event("knock", knock, instrument=station, note="fell against the van").status_code == 201
    later = {**sent(station, set_up()), "observed_at": "2027-03-02T06:42:00+00:00"}
    assert "stored" not in ines.put(f"checks/{uuid.uuid4()}", later).json()["document"]


def test_the_firm_settles_a_way_that_everybody_is_offered_first(ines: Api, tam: Api) -> None:
    assert tam.get("session").json()["preferred_method"] is None
    assert ines.put("organisation", {"preferred_method": "level-first"}).json()["preferred_method"] == "level-first"
    assert tam.get("session").json()["preferred_method"] == "level-first"
    assert tam.put("organisation", {"preferred_method": "plumb-bob"}).json()["code"] == "manager-only"
    refused = ines.put("organisation", {"preferred_method": "no-point"})
    assert refused.status_code == 422
    assert "plummet-first" in refused.json()["faults"][0]["wanted"]
    assert ines.put("organisation", {"preferred_method": ""}).json()["preferred_method"] == ""
    assert tam.get("session").json()["preferred_method"] is None


@pytest.mark.parametrize("by", ["set-up", "orientation", "another check"])
def test_a_temperature_read_at_any_work_makes_a_check_due_at_once(ines: Api, station: str, by: str) -> None:
    """The index was taken at 11 °C; 31 °C at a set-up, an orientation or a check is 20 K away, 15 K are allowed."""
    readings = [
        {"heading_deg": str(heading), "along_arcsec": sign * 3, "across_arcsec": sign * 2}
        for heading, sign in ((0, 1), (180, -1))
    ]
    index = {
        "kind": "dual-axis-level",
        "conditions": {"temperature_c": "11", "minutes_on": "15", "support": "tripod"},
        "observations": {"readings": readings},
    }
    at = {"observed_at": "2027-03-01T06:40:00+00:00"}
    assert ines.put(f"checks/{uuid.uuid4()}", {"instrument": station, **at, "document": index}).status_code == 201

    def state() -> tuple[str, str]:
        found = ines.get(f"instruments/{station}").json()["standing"]["checks"]
        check = next(check for check in found if check["check"] == "dual-axis-level")
        return check["state"], check["reasons"][0]["code"]

    assert state()[0] == "ready"
    warm = {"temperature_c": "31"}
    work = {
        "set-up": {**set_up(), "conditions": warm},
        "orientation": {**free_station(), "conditions": warm},
        "another check": {**vial(), "conditions": warm},
    }[by]
    answer = ines.put(f"checks/{uuid.uuid4()}", sent(station, work))
    assert answer.status_code == 201, answer.content
    assert state() == ("check-first", "temperature")
    text = ines.get(f"instruments/{station}").json()["standing"]["reasons"]
    assert any("on 2 Mar 2027 it was 31 °C" in reason["text"] for reason in text) or state()[1] == "temperature"


def free_station() -> dict[str, Any]:
    """From (50, 50), looking along north: three points 50 m away."""
    control = [{"name": n, "e": str(e), "n": str(v)} for n, e, v in (("A", 50, 100), ("B", 100, 50), ("C", 50, 0))]
    shots = [
        {"point": name, "hz": hz, "horizontal_distance": "50.000"}
        for name, hz in (("A", "0.0000"), ("B", "90.0000"), ("C", "180.0000"))
    ]
    return {"kind": "free-station", "observations": {"control": control, "shots": shots}}


def vial() -> dict[str, Any]:
    readings = [{"heading_deg": str(heading), "x_mm": "0.1", "y_mm": "0.1"} for heading in (0, 90, 180, 270)]
    return {"kind": "circular-vial", "observations": {"sits_on": "rotating", "readings": readings}}
