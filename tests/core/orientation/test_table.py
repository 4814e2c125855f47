"""Control points and sights as tables: in any order of columns, in any unit, faults by line."""

from __future__ import annotations

import pytest

from naveta_core.documents.csv_io import TableFaults
from naveta_core.orientation.table import read_points, read_shots, write_points, write_shots
from naveta_core.registry import document_of

from .world import creek


def test_points_in_any_order_and_unit() -> None:
    text = "h;name;n;e;description\n10,5;PC-01;200;100;nail in kerb\n;QB-2;4000 ft;12;\n"
    points = read_points(text)
    assert points[0] == {"name": "PC-01", "e_m": 100.0, "n_m": 200.0, "h_m": 10.5, "description": "nail in kerb"}
    assert points[1]["h_m"] is None
    assert points[1]["n_m"] == pytest.approx(1219.2)
    feet = read_points("name,e,n\nA,100,200\n", "ft")
    assert feet[0]["e_m"] == pytest.approx(30.48)


def test_points_come_back_as_they_went() -> None:
    points = read_points("name,e,n,h,description\nPC-01,100.1234,200.5678,10.5,nail\nQB-2,5,6,,=danger\n")
    assert read_points(write_points(points)) == points
    assert read_points(write_points(points, "ft"))[0]["e_m"] == pytest.approx(100.1234, abs=2e-5)
    assert "'=danger" in write_points(points)


@pytest.mark.parametrize(
    ("text", "path", "wanted"),
    [
        ("name,e,n\n,1,2\n", "line 2, name", "a name"),
        ("name,e,n\nA,x,2\n", "line 2, e", "a number"),
        ("name,e,n\nPC-1,1,2\npc 01,9,9\n", "line 3, name", "PC-1 is listed above"),
        ("name,e,n\nA,1,2\nB,1.01,2\n", "line 3, e", "same position"),
        ("name,e,n,unit\nA,1,2,yard\n", "line 2, unit", "one of"),
        ("name,e\nA,1\n", "line 1", "a column n"),
    ],
)
def test_faults_name_line_and_column(text: str, path: str, wanted: str) -> None:
    with pytest.raises(TableFaults) as refused:
        read_points(text)
    assert refused.value.faults[0].path == path
    assert wanted in refused.value.faults[0].wanted


def test_sights_as_a_table_and_back() -> None:
    document = creek().free()
    text = write_shots(document_of(document))  # type: ignore[arg-type]
    again = read_shots("free-station", text)
    assert again["units"] == {"length": "m", "angle": "deg"}
    assert [shot["hz"] for shot in again["observations"]["shots"]] == [
        shot["hz"] for shot in document["observations"]["shots"]
    ]
    with pytest.raises(TableFaults) as refused:
        read_shots("free-station", "point,hz,face\nA,10.7500,up\nB,10.75,left\n")
    assert [fault.path for fault in refused.value.faults] == ["line 2, face", "line 3, hz"]
