"""Tables of checks whose rows are gathered otherwise in the document: as somebody would type them in a spreadsheet."""

from __future__ import annotations

import pytest

from naveta_core.checks import KINDS

CASES = {
    "plummet": (
        "place;method;set;height_m;heading_deg;x_mm;y_mm\nturning;turn;1;1,62;0;4,9;1,9\n;;1;;180;3,0;2,9\n;;2;1,1;0;4,1;2,0\n;;2;;180;3,6;2,6\n",
        {
            "place": "turning",
            "method": "turn",
            "sets": [
                {
                    "height_m": "1,62",
                    "marks": [
                        {"heading_deg": "0", "x_mm": "4,9", "y_mm": "1,9"},
                        {"heading_deg": "180", "x_mm": "3,0", "y_mm": "2,9"},
                    ],
                },
                {
                    "height_m": "1,1",
                    "marks": [
                        {"heading_deg": "0", "x_mm": "4,1", "y_mm": "2,0"},
                        {"heading_deg": "180", "x_mm": "3,6", "y_mm": "2,6"},
                    ],
                },
            ],
        },
    ),
    "compensator-function": (
        "distance,returns,position,reading\n45,yes,centre,1.4702\n,,toward,1.4704\n,,Centre,1.4703\n",
        {
            "distance": "45",
            "returns": "yes",
            "positions": {"centre": ["1.4702", "1.4703"], "toward": ["1.4704"]},
        },
    ),
    "two-face": (
        "target,name,face,hz,v\n1,low,left,40.0946,90.1206\n1,,right,220.1002,269.4804\n2,high,left,75.0000,66.0000\n2,,right,255.0010,294.0008\n1,,closing,40.0947,90.1205\n",
        {
            "targets": [
                {
                    "name": "low",
                    "left": [{"hz": "40.0946", "v": "90.1206"}],
                    "right": [{"hz": "220.1002", "v": "269.4804"}],
                },
                {
                    "name": "high",
                    "left": [{"hz": "75.0000", "v": "66.0000"}],
                    "right": [{"hz": "255.0010", "v": "294.0008"}],
                },
            ],
            "closing": [{"hz": "40.0947", "v": "90.1205"}],
        },
    ),
    "tracker": (
        "target,how,face,hz,v,unit\n1,manual,left,44.0,100.0,gon\n1,auto,left,44.001,100.0,gon\n",
        {
            "targets": [
                {"manual": {"left": [{"hz": "44.0", "v": "100.0"}]}, "auto": {"left": [{"hz": "44.001", "v": "100.0"}]}}
            ]
        },
    ),
}


@pytest.mark.parametrize("kind", CASES)
def test_rows_are_gathered_as_the_document_wants_them(kind: str) -> None:
    text, wanted = CASES[kind]
    document = KINDS[kind].read_csv(text)
    assert document["observations"] == wanted
    assert document.get("units", {}) == ({"angle": "gon"} if kind == "tracker" else {})
    parsed = KINDS[kind].document.model_validate(document)
    assert KINDS[kind].read_csv(KINDS[kind].write_csv(parsed))["observations"].keys() >= wanted.keys()
