"""The reticle act, CSV in and out, simulation, the command line, the registry."""

from __future__ import annotations

import json
import random
import statistics

import pytest

from naveta_core.__main__ import main
from naveta_core.checks import KINDS
from naveta_core.documents.csv_io import safe_cell
from naveta_core.errors import Refused
from naveta_core.registry import document_of, parse
from naveta_sim import simulate
from tests.core.plain import adjusting_of

from .builders import RHO, exact, raw, reduce, staffs
from .plain import kinds_for

TWO_PEG = KINDS["two-peg"]
NEAR = [(30, 30), (56, 4)]


def test_it_reads_now_says_what_is_left() -> None:
    document = parse(raw(exact(24, *NEAR, copies=4)))
    level, _ = staffs(0, 56, 4)
    half, there = f"{level + 12 / RHO * 56:.4f}", f"{level:.4f}"
    guide = adjusting_of("two-peg", document, [half, there])
    assert guide["prompt"] == "Staff A reads now"
    assert guide["target_text"] == f"{level:.4f}"
    assert guide["allowed"]
    first, second = guide["steps"]
    assert first["left"] == pytest.approx(12 / RHO * 56, abs=6e-5)
    assert not first["done"]
    assert "too high" in first["text"]
    assert second["done"]


def test_it_reads_now_refuses_what_is_no_reading() -> None:
    with pytest.raises(Refused) as caught:
        adjusting_of("two-peg", parse(raw(exact(24, *NEAR))), ["1.5.1"])
    assert caught.value.faults[0].path == "reads_now[0]"


CSV_FORMS = [
    "setup,staff,distance,reading\n1,A,30,1.8851\n1,B,30,1.4020\n2,A,56,1.8868\n2,B,4,1.4000\n",
    "setup;staff;distance;reading;unit\n1;A;30;1,8851;m\n1;B;30;1,4020;m\n2;A;56;1,8868;m\n2;B;4;1,4000;m\n",
    "\ufeffSTAFF\tsetup\treading\tdistance\r\nA\t1\t1.8851\t30\r\nB\t1\t1.4020\t30\r\n\r\nA\t2\t1.8868\t56\r\nb\t2\t1.4000\t4\r\n",
]


@pytest.mark.parametrize("text", CSV_FORMS)
def test_tables_in_any_of_the_usual_dialects(text: str) -> None:
    assert reduce(TWO_PEG.read_csv(text))["result"]["collimation_arcsec"] == pytest.approx(13.832, abs=0.05)


@pytest.mark.parametrize(
    ("text", "where", "wanted"),
    [
        ("", "the table", "a header and rows"),
        ("setup,staff,colour\n1,A,red\n", "the header", "one of"),
        ("staff,reading\nA,1.2\n", "the header", "a column setup"),
        ("setup,staff,reading\n1,C,1.2\n", "line 2, column staff", "one of A, B"),
        ("setup,staff,reading\n3,A,1.2\n", "line 2, column setup", "without gaps"),
        ("setup,staff,distance,reading\n1,A,30,1.2\n1,A,31,1.2\n", "line 3, column distance", "30"),
        ("setup,staff,reading,upper\n1,A,1.2,1.3\n", "line 2, column reading", "either"),
        ("setup,staff,reading,unit\n1,A,1.2,yd\n", "line 2, column unit", "one of"),
        ("setup,staff,reading,unit\n1,A,1.2,m\n1,B,1.2,ft\n", "line 3, column unit", "m, as in"),
        ("setup,staff,reading\n1,A,1,2\n", "line 2", "decimal commas"),
    ],
)
def test_table_faults_name_their_row(text: str, where: str, wanted: str) -> None:
    with pytest.raises(Refused) as caught:
        TWO_PEG.read_csv(text)
    assert caught.value.faults[0].where == where
    assert wanted in caught.value.faults[0].wanted


def test_a_document_comes_back_from_its_table() -> None:
    for entry in (exact(7, *NEAR, copies=3), {**exact(7, *NEAR), "units": {"length": "ft"}}):
        if entry.get("units"):
            entry["observations"]["setups"] = entry["observations"]["setups"][:1]
        back = TWO_PEG.read_csv(TWO_PEG.write_csv(document_of(entry)))
        assert back["observations"]["setups"] == entry["observations"]["setups"]
        assert back["units"] == entry.get("units", {"length": "m"})


def test_wires_come_back_from_their_table() -> None:
    wires = {"upper": "1.52", "middle": "1.50", "lower": "1.48"}
    fields = {"kind": "two-peg", "observations": {"setups": [{"a": {"wires": [wires]}, "b": {"readings": ["1.2"]}}]}}
    assert TWO_PEG.read_csv(TWO_PEG.write_csv(document_of(fields)))["observations"]["setups"][0]["a"] == {
        "wires": [wires]
    }


@pytest.mark.parametrize(
    ("cell", "safe"),
    [("=SUM(A1)", "'=SUM(A1)"), ("-0.123", "-0.123"), ("-1+2", "'-1+2"), ("@x", "'@x"), ("1.2", "1.2")],
)
def test_no_cell_becomes_a_formula(cell: str, safe: str) -> None:
    assert safe_cell(cell) == safe


def test_simulated_levels_have_the_error_they_were_given() -> None:
    rng = random.Random(5)
    for unit, layout in (("m", "middle-then-near"), ("ft", "outside-both")):
        truth = {"collimation_arcsec": 15, "unit": unit, "layout": layout, "readings": 2}
        found = [reduce(simulate("two-peg", rng, truth))["result"]["collimation_arcsec"] for _ in range(60)]
        assert statistics.mean(found) == pytest.approx(15, abs=1.5)
        assert statistics.stdev(found) > 0.5


def test_the_command_line(tmp_path, capsys) -> None:
    path = tmp_path / "check.json"
    path.write_bytes(raw(exact(3, *NEAR)))
    assert main(["reduce", str(path)]) == 0
    assert json.loads(capsys.readouterr().out)["result"]["collimation_arcsec"] == pytest.approx(3, abs=0.02)
    assert main(["schema", "two-peg"]) == 0
    assert json.loads(capsys.readouterr().out)["properties"]["kind"]["const"] == "two-peg"


@pytest.mark.parametrize(
    ("content", "words", "sentence"),
    [
        (
            b'{"kind": "two-peg", "observations": {"setups": [{"a": {"readings": ["1.6.2"]}}]}}',
            ["reduce", "FILE"],
            "given 1.6.2, wanted a number with one decimal mark",
        ),
        (b"{", ["reduce", "FILE"], "not JSON"),
        (b"", ["reduce", "nowhere.json"], "cannot be read"),
        (b"", ["boil", "FILE"], "allowed: one of reduce"),
        (b"", ["schema", "three-peg"], "two-peg"),
        (b"", [], "usage"),
    ],
)
def test_the_command_line_refuses_in_words(content, words, sentence, tmp_path, capsys) -> None:
    path = tmp_path / "check.json"
    path.write_bytes(content)
    assert main([str(path) if word == "FILE" else word for word in words]) == 2
    out, err = capsys.readouterr()
    assert out == ""
    assert sentence in err


def test_a_fault_of_ours_is_one_line_and_exit_one(tmp_path, capsys, monkeypatch) -> None:
    path = tmp_path / "check.json"
    path.write_bytes(raw(exact(3, *NEAR)))
    monkeypatch.setattr("naveta_core.__main__.parse", lambda raw: 1 / 0)
    assert main(["reduce", str(path)]) == 1
    assert capsys.readouterr().err.count("\n") == 1


def test_the_registry_says_what_applies_and_what_to_bring() -> None:
    def names(**instrument: object) -> list[str]:
        return [kind.name for kind in kinds_for(instrument)]

    assert names(kind="level") == ["circular-vial", "compensator-function", "two-peg", "levelling-accuracy"]
    assert names(kind="theodolite", plummet="optical") == [
        "circular-vial", "plate-vial", "plummet", "two-face", "direction-rounds", "direction-accuracy",
    ]  # fmt: skip
    assert names(kind="total-station", plummet="none", plunges=False) == ["circular-vial", "dual-axis-level"]
    assert names(kind="tribrach") == ["circular-vial", "plummet"], "no plummet is stated: that is not none"
    assert names(kind="tribrach", plummet="none") == ["circular-vial"], "no plate vial"
    assert (names(kind="staff"), names(kind="prism")) == (["pole-vial", "staff"], [])
    about = TWO_PEG.about()
    assert about["minutes"] > 0
    assert all(acts[-1]["text"].startswith("Follow local rules") for acts in about["cautions"].values())
    assert {method["name"] for method in about["methods"]} >= {"middle-then-near", "thirds-inside", "free"}
