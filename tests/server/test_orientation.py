"""Control points through the server, and orientations in an instrument's chain and series."""

from __future__ import annotations

import json
import uuid
from typing import Any

import pytest

from control_points.models import Point
from fleet.models import Instrument
from records import chain
from records.models import Record
from tests.core.orientation.world import creek

from .conftest import Api
from .test_set_up import set_up as whole_set_up
from .test_set_up import station  # noqa: F401  (a fixture)

TABLE = "name;e;n;h;description\nPC-01;1000;2000;12;nail in kerb\nPC-02;1060;2035;14;bolt\nQB-2;955;2040;;\n"


class TestPoints:
    def test_a_table_is_looked_at_before_it_is_stored(self, ines: Api, tam: Api) -> None:
        answer = tam.post("points/table", {"text": TABLE}).json()
        assert (answer["new"], answer["stored"]) == (["PC-01", "PC-02", "QB-2"], False)
        assert not Point.objects.exists()
        assert tam.post("points/table", {"text": TABLE, "store": True}).json()["stored"] is True
        assert [point["name"] for point in ines.get("points").json()["points"]] == ["PC-01", "PC-02", "QB-2"]
        again = "name,e,n,h\npc 1,1000.0120,2000,12\nPC-02,1060,2035,14\n"
        answer = tam.post("points/table", {"text": again, "store": True}).json()
        assert answer["moved"] == [{"name": "pc 1", "by_mm": 12.0, "rise_mm": 0.0}]
        assert answer["same"] == ["PC-02"]
        assert Point.objects.get(name="pc 1").e_m == pytest.approx(1000.012)

    def test_faults_name_the_line_and_nothing_is_stored(self, tam: Api) -> None:
        answer = tam.post("points/table", {"text": TABLE + "PC-03;x;1;1;\n", "store": True})
        assert answer.status_code == 422
        assert answer.json()["faults"][0]["path"] == "line 5, e"
        assert not Point.objects.exists()

    def test_searching_warns_of_numbers_written_two_ways(self, tam: Api) -> None:
        tam.post("points/table", {"text": TABLE, "store": True})
        answer = tam.get("points?q=pc20").json()
        assert answer["points"] == []
        assert answer["near"] == [{"name": "PC-02", "why": "PC-02 has two digits swapped"}]
        assert [point["name"] for point in tam.get("points?q=kerb").json()["points"]] == ["PC-01"]

    def test_out_again_in_feet_and_off_the_list(self, tam: Api) -> None:
        tam.post("points/table", {"text": TABLE, "store": True})
        answer = tam.get("points/table?unit=ft")
        assert answer["Content-Type"].startswith("text/csv")
        assert "PC-01,3280.8399,6561.6798,39.3701,nail in kerb,ft" in answer.content.decode()
        assert tam.delete("points/QB-2").status_code == 204
        assert tam.delete("points/QB-2").status_code == 422

    def test_a_trainee_looks_and_asks_the_chief(self, jory: Api) -> None:
        assert jory.post("points/table", {"text": TABLE, "store": True}).json()["code"] == "ask-the-chief"
        assert jory.get("points").status_code == 200


def sent(tag: str, document: dict[str, Any], at: str = "2027-03-02T06:40:00+00:00") -> dict[str, Any]:
    return {"instrument": tag, "observed_at": at, "document": document}


class TestOrientations:
    def test_it_is_stored_in_the_chain_and_no_standing_depends_on_it(self, ines: Api, station: str) -> None:  # noqa: F811
        before = ines.get(f"instruments/{station}").json()["standing"]
        answer = ines.put(f"checks/{uuid.uuid4()}", sent(station, creek().free()))
        assert answer.status_code == 201, answer.content
        found = answer.json()
        assert (found["category"], found["kind"], found["grade"]) == ("orientation", "free-station", "use")
        assert found["result"]["result"]["e_m"] == pytest.approx(1015.0, abs=1e-3)
        assert chain.broken(Record.objects.get(id=found["id"])) is None
        assert ines.get(f"instruments/{station}").json()["standing"] == before
        assert ines.get(f"records/{found['id']}/document").json()["kind"] == "free-station"
        table = ines.get(f"records/{found['id']}/csv").content.decode()
        assert table.splitlines()[0] == "point,hz,v,slope_distance,horizontal_distance,target_height,face,length,angle"

    def test_disagreements_become_the_instruments_series_and_a_jump_is_said(self, ines: Api, station: str) -> None:  # noqa: F811
        """Five backsights about 2.4 mm long, then one 4.9 mm short: within the tolerance, not what it used to be."""
        world = creek(4)
        world.stand = world.points["PC-01"]
        far = world.true("PC-02")[2]
        for day, mm in enumerate((2.4, 2.7, 2.2, 2.5, 2.3), start=1):
            shot = world.shot("PC-02", slope_distance=f"{far + mm / 1000:.5f}")
            document = world.back("PC-01", shots=[shot])
            assert (
                ines.put(
                    f"checks/{uuid.uuid4()}", sent(station, document, f"2027-02-2{day}T06:40:00+00:00")
                ).status_code
                == 201
            )
        history = Instrument.objects.get(tag=station).derived["history"]
        assert [round(record["result"]["disagreement_mm"], 1) for record in history if record["what"] == "control"] == [
            2.4,
            2.7,
            2.2,
            2.5,
            2.3,
        ]
        jumped = world.back("PC-01", shots=[world.shot("PC-02", slope_distance=f"{far - 0.0049:.5f}")])
        answer = ines.put(f"checks/{uuid.uuid4()}", sent(station, jumped)).json()
        assert len(answer["document"]["before"]) == 5
        assert answer["result"]["verdict"]["reasons"][0]["code"] == "control-jump"
        series = ines.get(f"instruments/{station}/series?of=control").json()
        assert [round(point["value"], 1) for point in series["points"]] == [2.4, 2.7, 2.2, 2.5, 2.3, -4.9]
        assert (series["unit"], series["points"][0]["use"]) == (" mm", 5.0)
        assert ines.get(f"instruments/{station}/series").json()["points"] == []
        knock = ines.event("knock", "2027-03-02T06:41:00+00:00", instrument=station)
        assert knock.status_code == 201
        later = ines.put(f"checks/{uuid.uuid4()}", sent(station, jumped, "2027-03-02T06:42:00+00:00")).json()
        assert "before" not in later["document"]

    def test_previews_of_an_orientation_and_refusals(self, ines: Api, station: str) -> None:  # noqa: F811
        found = ines.post("preview", {"instrument": station, "document": creek().free(shots=[])}).json()
        assert found["missing"] == ["observations.shots[0].point"]
        assert [point["name"] for point in found["plan"]["points"]] == ["PC-01", "PC-02", "PC-03"]
        broken = creek().free()
        broken["observations"]["shots"][0]["point"] = "PC-20"
        answer = ines.put(f"checks/{uuid.uuid4()}", sent(station, broken))
        assert answer.status_code == 422
        assert "PC-02 has two digits swapped" in json.dumps(answer.json())

    def test_a_set_up_knows_what_was_sighted_from_it(self, ines: Api, station: str) -> None:  # noqa: F811
        set_up = ines.put(f"checks/{uuid.uuid4()}", sent(station, whole_set_up())).json()["id"]
        document = creek().free(of_set_up=set_up)
        orientation = ines.put(f"checks/{uuid.uuid4()}", sent(station, document)).json()["id"]
        ines.put(f"checks/{uuid.uuid4()}", sent(station, creek().free()))
        answer = ines.get(f"records/{set_up}/orientations").json()
        assert [entry["id"] for entry in answer] == [orientation]
        assert answer[0]["finding"].startswith("Free station: largest residual")
        assert ines.get(f"records/{orientation}/orientations").json() == []
