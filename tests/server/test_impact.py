"""Affected work on the record of a bad finding: gathered from set-ups, orientations and jobs, signed line by line, printed."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from tests.core.orientation.world import creek

from .conftest import Api, bad, good
from .test_bench_kinds import simulated
from .test_reports import pdf, written  # noqa: F401  (a fixture)
from .test_set_up import sent, set_up, station  # noqa: F401  (a fixture)


def put(api: Api, tag: str, document: dict[str, Any], at: str) -> dict[str, Any]:
    answer = api.put(f"checks/{uuid.uuid4()}", {**sent(tag, document), "observed_at": at})
    assert answer.status_code == 201, answer.content
    found: dict[str, Any] = answer.json()
    return found


def review(api: Api, record: dict[str, Any]) -> dict[str, Any]:
    answer = api.get(f"records/{record['id']}/impact-review")
    assert answer.status_code == 200, answer.content
    found: dict[str, Any] = answer.json()
    return found


def test_out_since_the_morning_good_knocked_bad(tam: Api) -> None:
    tam.event("out", "2027-03-01T07:00:00+00:00")
    tam.check(good(), at="2027-03-01T18:14:00+00:00")
    tam.event("knock", "2027-03-01T19:14:00+00:00")
    found = review(tam, tam.check(bad(), at="2027-03-01T20:14:00+00:00").json())
    assert found["in_use"]
    assert found["text"] == "Last good on 1 Mar 2027; out with Bramble crew then."
    assert [each["code"] for each in found["advice"]] == ["look-through", "begin-with", "no-work-recorded"]
    assert [event["event"] for event in found["events"]] == ["knock"]


def test_with_a_crew_since_it_joined_the_fleet_without_any_taking_out(tam: Api) -> None:
    from fleet.models import Instrument
    from people.models import Crew

    Instrument.objects.filter(tag="LV-07").update(crew=Crew.objects.get(name="Thrift"))
    tam.check(good(), at="2027-03-01T18:14:00+00:00")
    found = review(tam, tam.check(bad(), at="2027-03-01T20:14:00+00:00").json())
    assert found["text"] == "Last good on 1 Mar 2027; out with Thrift crew then."
    assert found["in_use"]


def test_a_job_of_the_crew_that_had_it_by_what_the_job_needs(tam: Api, ines: Api) -> None:
    """24″ over 20 m of unequal sights: 20000 · 24/206264.8 = 2.33 mm. Another crew's job, and one of before, are not in it."""
    job = {"large": False, "place": "", "temperature_c": None}
    needs = {"levelling_mm": "1", "imbalance_m": "20"}
    for name, crew, first, last in (
        ("Flood wall", "Bramble", "2027-02-08", "2027-02-12"),
        ("Slipway", "Thrift", "2027-02-08", "2027-02-12"),
        ("Causeway", "Bramble", "2027-01-04", "2027-01-08"),
    ):
        answer = ines.post(
            "jobs", {**job, "name": name, "crew": crew, "starts_on": first, "ends_on": last, "needs": needs}
        )
        assert answer.status_code in (200, 201), answer.content
    tam.event("out", "2027-01-04T07:00:00+00:00")
    tam.check(good(), at="2027-02-01T07:00:00+00:00")
    tam.event("in", "2027-02-10T17:00:00+00:00")
    (line,) = review(tam, tam.check(bad(), at="2027-02-20T07:00:00+00:00").json())["work"]
    assert (line["name"], line["what"], line["crew"], line["until"]) == ("Flood wall", "job", "Bramble", "2027-02-12")
    assert line["mm"] == pytest.approx(2.327, abs=1e-3)


def test_a_total_stations_set_ups_and_sights_signed_and_printed(ines: Api, station: str, written: list[str]) -> None:  # noqa: F811
    good_one = simulated("two-face", c=0.5, i=0.5, noise=0.0)
    bad_one = simulated("two-face", c=40.0, i=0.5, noise=0.0)
    put(ines, station, good_one, "2027-03-01T07:00:00+00:00")
    stood = put(ines, station, set_up(), "2027-03-01T09:00:00+00:00")["id"]
    seen = put(ines, station, creek().free(of_set_up=stood), "2027-03-01T10:00:00+00:00")["id"]
    record = put(ines, station, bad_one, "2027-03-02T07:00:00+00:00")
    assert record["grade"] in ("adjust", "service")
    found = review(ines, record)
    assert found["in_use"], "nobody took it out on record, and it was worked with all the same"
    assert [(line["key"], line["what"]) for line in found["work"]] == [(seen, "orientation"), (stood, "set-up")]
    assert found["work"][0]["mm"] > 0
    assert found["work"][1]["effect"].startswith("Not recorded")
    lines = [{"work": seen, "remark": "observed again in both faces"}]
    answer = ines.event(
        "impact-reviewed",
        "2027-03-02T09:00:00+00:00",
        instrument=station,
        record=record["id"],
        note="One left",
        lines=lines,
    )
    assert answer.status_code == 201, answer.content
    again = review(ines, record)
    assert again["work"][0]["reviewed"]["note"] == "observed again in both faces"
    assert again["work"][0]["reviewed"]["by"] == "Ines Calder"
    assert again["work"][1]["reviewed"] is None
    pdf(ines, f"records/{record['id']}/report")
    text = "\n".join(written)
    assert "Work it may have affected" in text
    assert "Ines Calder: observed again in both faces" in text
    assert "not yet" in text
    later = [{"work": stood, "remark": ""}]
    ines.event(
        "impact-reviewed",
        "2027-03-02T10:00:00+00:00",
        instrument=station,
        record=record["id"],
        note="Both",
        lines=later,
    )
    both = review(ines, record)
    assert [line["reviewed"]["note"] for line in both["work"]] == ["observed again in both faces", ""]
    assert both["signed"]["note"] == "Both"


def test_work_not_on_the_list_cannot_be_signed(tam: Api) -> None:
    tam.check(good(), at="2027-02-09T07:00:00+00:00")
    record = tam.check(bad()).json()
    answer = tam.event(
        "impact-reviewed", "2027-03-02T09:00:00+00:00", record=record["id"], note="x", lines=[{"work": "job-7"}]
    )
    assert answer.status_code == 422
    assert answer.json()["faults"][0]["path"] == "lines"
    assert review(tam, record)["signed"] is None


def test_a_tripods_work_is_what_stood_on_it(ines: Api, station: str) -> None:  # noqa: F811
    from datetime import date

    from fleet.services import add_instrument, add_model
    from people.models import Person

    person = Person.objects.get(username="ines")
    model = add_model(actor=person, maker="Halden", name="Oak", kind="tripod", stated={}, tips="")
    add_instrument(
        actor=person, tag="TR-01", model=model.id, serial="", place="Yard", crew=None, since=date(2025, 3, 1)
    )
    stood = put(ines, station, set_up(tripod_tag="TR-01"), "2027-03-01T09:00:00+00:00")["id"]
    put(ines, station, set_up(tripod_tag="TR-02"), "2027-03-01T09:30:00+00:00")
    seen = put(ines, station, creek().free(of_set_up=stood), "2027-03-01T10:00:00+00:00")["id"]
    record = put(ines, "TR-01", simulated("tripod", set_arcsec=30.0, noise=0.0), "2027-03-02T07:00:00+00:00")
    assert {line["key"] for line in review(ines, record)["work"]} == {stood, seen}
