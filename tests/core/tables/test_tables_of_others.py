"""Tables made by others: what is suggested, what is read of them, and what is stated when something is missing or wrong."""

from __future__ import annotations

import random
from typing import Any

import pytest

from naveta_core.dispatch import answer
from naveta_core.errors import Refused
from naveta_core.registry import DOCUMENTS, SHAPES, document_of
from naveta_core.tables.column_map import ColumnLook
from naveta_core.tables.look import look_at_table

Data = dict[str, Any]


def looked(kind: str, text: str, column_map: Any = None, **changes: Any) -> ColumnLook:
    """A table looked at, as suggested or by a map with some changes."""
    asked = None if column_map is None else {**column_map.model_dump(mode="json"), **changes}
    return look_at_table({"kind": kind, "text": text, "column_map": asked}, SHAPES)


def rows(look: ColumnLook) -> list[list[str]]:
    return [each.cells for each in look.read]


def codes(look: ColumnLook) -> list[str]:
    return [message.code for message in look.messages]


def document(kind: str, look: ColumnLook) -> Data:
    """The document the table in our own columns is read as."""
    assert look.text is not None, (look.messages, look.faults)
    read = DOCUMENTS[kind].read_csv
    assert read is not None
    return read(look.text)


ROUNDS = """Job 17, north pier;;;
Observer;Jory;;
Round;Target;Hz I [gon];Hz II [gon]
1;Mast;0,0012;200,0021
;Spire;55,1234;255,1240
2;Mast;100,0010;300,0022
;Spire;155,1000;355,1004
mean;;;
"""


class TestRoundsSideBySide:
    """Both faces on one line, headings in the third line, decimal commas, gon, the round written once."""

    def test_everything_is_suggested(self) -> None:
        look = looked("direction-rounds", ROUNDS)
        assert (look.column_map.separator, look.column_map.heading_line, look.column_map.angle) == (
            "semicolon",
            3,
            "gon",
        )
        assert [(use.field, use.given) for use in look.column_map.columns] == [
            ("set", {}),
            ("target", {}),
            ("hz", {"face": "left"}),
            ("hz", {"face": "right"}),
        ]
        assert (look.readings, look.lines, look.empty_lines) == (8, 4, [8])
        assert not look.messages
        assert not look.faults

    def test_a_round_is_read_face_left_first(self) -> None:
        look = looked("direction-rounds", ROUNDS)
        assert look.headings == ["Set", "Target", "Face", "Horizontal"]
        assert rows(look) == [
            ["1", "Mast", "left", "0,0012"],
            ["1", "Spire", "left", "55,1234"],
            ["1", "Mast", "right", "200,0021"],
            ["1", "Spire", "right", "255,1240"],
            ["2", "Mast", "left", "100,0010"],
            ["2", "Spire", "left", "155,1000"],
            ["2", "Mast", "right", "300,0022"],
            ["2", "Spire", "right", "355,1004"],
        ]
        assert [each.line for each in look.read] == [4, 5, 4, 5, 6, 7, 6, 7]

    def test_the_figures_come_out_as_worked_by_hand(self) -> None:
        """Round 1: Mast (0.0012 + 0.0021)/2 = 0.00165, Spire 55.1237; round 2: 100.0016 and 155.1002 gon.
        Spire less Mast: 55.12205 and 55.0986; mean 55.110325 gon = 49.5992925°."""
        read = document("direction-rounds", looked("direction-rounds", ROUNDS))
        assert read["units"] == {"angle": "gon"}
        result = DOCUMENTS["direction-rounds"].reduce(document_of(read)).plain()["result"]
        spire = next(each for each in result["directions"] if each["target"] == "Spire")
        # c of a line is half of left less right: −0.45, −0.30, −0.60, −0.20 mgon; mean −0.3875 mgon = −1.2555″.
        assert result["collimation_arcsec"] == pytest.approx(-1.2555, abs=1e-4)
        assert spire["direction_deg"] == pytest.approx(49.5992925, abs=1e-7)


class TestOneFacePerLine:
    TEXT = "pt\tface\thz\tv\tdist (m)\n" + "".join(
        f"{name}\t{face}\t{hz}\t{v}\t{far}\n"
        for name, face, hz, v, far in (
            ("K1", "I", "12.3045", "89.5930", "41.220"),
            ("K1", "II", "192.3050", "270.0021", "41.221"),
            ("K2", "I", "101.0010", "90.1015", "35.004"),
            ("K2", "II", "281.0020", "269.4935", "35.004"),
        )
    )

    def test_faces_by_the_words_people_write(self) -> None:
        look = looked("free-station", self.TEXT)
        assert look.column_map.words == {"face": {"I": "left", "II": "right"}}
        # Eight figures, and none that could not be packed: no decimal degrees.
        assert look.column_map.angle == "dms"
        shots = document("free-station", look)["observations"]["shots"]
        assert [(shot["point"], shot["face"], shot["hz"]) for shot in shots] == [
            ("K1", "left", "12.3045"),
            ("K1", "right", "192.3050"),
            ("K2", "left", "101.0010"),
            ("K2", "right", "281.0020"),
        ]

    def test_a_word_that_is_not_known_is_asked_for(self) -> None:
        look = looked("free-station", self.TEXT.replace("\tII\t", "\tzwei\t"))
        assert look.text is None
        fault = look.faults[0]
        assert (fault.line, fault.where, fault.given) == (3, "line 3, column face", "zwei")
        assert fault.wanted == "one of left, right"
        said = looked(
            "free-station",
            self.TEXT.replace("\tII\t", "\tzwei\t"),
            look.column_map,
            words={"face": {"I": "left", "zwei": "right"}},
        )
        assert [row[-1] for row in rows(said)] == ["left", "right", "left", "right"]

    def test_the_distance_is_whatever_a_person_says(self) -> None:
        look = looked("free-station", self.TEXT)
        assert all(use.column != 4 for use in look.column_map.columns), "slope or horizontal is not guessed"
        slope = {"column": 4, "field": "slope_distance", "given": {}, "unit": "m"}
        uses = [use.model_dump() for use in look.column_map.columns]
        said = looked("free-station", self.TEXT, look.column_map, columns=[*uses, slope])
        assert document("free-station", said)["observations"]["shots"][2]["slope_distance"] == "35.004"


class TestAngles:
    @pytest.mark.parametrize(
        ("figures", "unit"),
        [
            (["12.3045", "101.0010", "192.3050", "281.0020"], "dms"),
            (["12.5125", "101.0027", "192.8475", "281.7556"], ""),
            (["12 30 45", "101 00 10"], "dms"),
            (["12°30'45\"", "101°00'10\""], "dms"),
            (["12.5125", "399.9981"], "gon"),
            (["12.3045", "101.0010"], ""),
        ],
    )
    def test_said_only_where_the_figures_leave_no_doubt(self, figures: list[str], unit: str) -> None:
        text = "point;hz\n" + "".join(f"P{i};{figure}\n" for i, figure in enumerate(figures))
        look = looked("free-station", text)
        assert look.column_map.angle == unit
        assert ("angles-in" in codes(look)) == (unit == "")
        assert (look.text is None) == (unit == "")

    def test_the_heading_says_it(self) -> None:
        look = looked("free-station", "point;hz (deg)\nA;12.5125\nB;101.0027\n")
        assert look.column_map.angle == "deg"
        assert document("free-station", look)["units"]["angle"] == "deg"


class TestLevels:
    PEGS = "set up,Reading A,Reading B,dist a,dist b\n1,1.2345,1.1110,30,30\n,1.2350,1.1120,,\n2,1.4001,1.3020,5,55\n"

    def test_two_staffs_side_by_side(self) -> None:
        read = document("two-peg", looked("two-peg", self.PEGS))
        setups = read["observations"]["setups"]
        assert setups[0]["a"] == {"distance": "30", "readings": ["1.2345", "1.2350"]}
        assert setups[0]["b"] == {"distance": "30", "readings": ["1.1110", "1.1120"]}
        assert setups[1] == {
            "a": {"distance": "5", "readings": ["1.4001"]},
            "b": {"distance": "55", "readings": ["1.3020"]},
        }

    def test_millimetres_beside_metres(self) -> None:
        """Whole figures of four digits are millimetres; distances keep metres behind them."""
        text = "setup;A reading;B reading;distance A;distance B\n1;1234;1111;30;30\n2;1400;1302;5;55\n"
        look = looked("two-peg", text)
        assert [use.unit for use in look.column_map.columns] == ["", "mm", "mm", "m", "m"]
        read = document("two-peg", look)
        assert read["units"] == {"length": "mm"}
        assert read["observations"]["setups"][1]["b"] == {"distance": "55 m", "readings": ["1302"]}
        metres = document("two-peg", looked("two-peg", self.PEGS.replace("\n,1.2350,1.1120,,", "")))
        of = [
            DOCUMENTS["two-peg"].reduce(document_of(each)).plain()["result"]["collimation_arcsec"]
            for each in (read, metres)
        ]
        # (1.400 − 1.302) − (1.234 − 1.111) = −0.025 m over 50 m of imbalance; in the other 0.0981 − 0.1235 = −0.0254.
        assert of[0] == pytest.approx(0.025 / 50 * 206264.806 * (1 if of[0] > 0 else -1), rel=0.02)
        assert abs(of[1] / of[0]) == pytest.approx(0.0254 / 0.025, rel=0.02)

    def test_feet_by_the_heading(self) -> None:
        look = looked("levelling-accuracy", "set;BS (ft);FS (ft)\n1;4.512;3.204\n1;4.400;3.092\n")
        assert [use.unit for use in look.column_map.columns] == ["", "ft", "ft"]
        assert document("levelling-accuracy", look)["units"] == {"length": "ft"}

    def test_a_needed_column_that_is_nowhere(self) -> None:
        text = "BS;FS\n1.512;1.204\n1.400;1.092\n"
        look = looked("levelling-accuracy", text)
        assert codes(look) == ["column-missing"]
        assert "which set holds for every line" in look.messages[0].text
        said = looked("levelling-accuracy", text, look.column_map, same={"set": "1"})
        pairs = document("levelling-accuracy", said)["observations"]["sets"][0]["pairs"]
        assert pairs == [{"a": "1.512", "b": "1.204"}, {"a": "1.400", "b": "1.092"}]


class TestWithoutHeadings:
    def test_blanks_between_cells_and_decimal_commas(self) -> None:
        text = "K1 500,123 200,456 10,1\nK2 510,000 210,100 11,2\n"
        look = looked("control-points", text)
        assert (look.column_map.separator, look.column_map.heading_line) == ("spaces", 0)
        assert [column.heading for column in look.file_columns] == ["Column 1", "Column 2", "Column 3", "Column 4"]
        assert codes(look)[:1] == ["column-missing"]
        columns = [
            {"column": i, "field": field, "given": {}, "unit": "" if field == "name" else "m"}
            for i, field in enumerate(("name", "e", "n", "h"))
        ]
        said = looked("control-points", text, look.column_map, columns=columns)
        assert said.text is not None
        points = SHAPES["control-points"].read
        assert said.text.splitlines()[1] == 'K1,"500,123","200,456","10,1",,m'
        assert points is not None


class TestFaults:
    def test_in_the_files_own_words_and_the_line_can_be_left_out(self) -> None:
        text = "Name;East;North\nK1;500.1;200.2\nK2;500.1;x\nK3;501;202\n"
        look = looked("control-points", text)
        assert [(fault.line, fault.where, fault.given, fault.wanted) for fault in look.faults] == [
            (3, "line 3, column North", "x", "a number")
        ]
        assert look.text is None
        without = looked("control-points", text, look.column_map, left_out=[3])
        assert [row[0] for row in rows(without)] == ["K1", "K3"]

    def test_what_the_reader_of_the_kind_has_against_it(self) -> None:
        look = looked("control-points", "Name;East;North\nK1;500;200\n\nK1;501;201\n")
        assert [(fault.line, fault.where) for fault in look.faults] == [(4, "line 4, column Name")]

    @pytest.mark.parametrize(
        ("question", "words"),
        [
            ({"kind": "control-points", "text": ""}, "a table: lines of cells"),
            ({"kind": "control-points", "text": "a;b\n" * 2001}, "at most 2000 lines"),
            ({"kind": "pre-survey", "text": "a;b"}, "one of backsight"),
            ({"kind": "control-points"}, "text"),
            (
                {"kind": "control-points", "text": "a;b", "column_map": {"separator": "pipes", "heading_line": 0}},
                "separator",
            ),
        ],
    )
    def test_what_is_no_table_or_no_question(self, question: Data, words: str) -> None:
        with pytest.raises(Refused) as refused:
            look_at_table(question, SHAPES)
        assert words in str(refused.value)

    def test_a_column_that_is_not_there_is_not_used(self) -> None:
        look = looked("control-points", "Name;East;North\nK1;500;200\n")
        uses = [use.model_dump() for use in look.column_map.columns]
        more = looked(
            "control-points",
            "Name;East;North\nK1;500;200\n",
            look.column_map,
            columns=[*uses, {"column": 9, "field": "h"}],
        )
        assert len(more.column_map.columns) == 3


def test_a_table_of_ours_needs_no_word() -> None:
    text = "setup,staff,distance,reading\n1,A,30,1.234\n1,B,30,1.111\n2,A,5,1.400\n2,B,55,1.302\n"
    assert looked("two-peg", text).ours
    assert not looked("two-peg", text.replace("staff", "rod")).ours


def test_the_answer_says_everything() -> None:
    """Nothing is left out of an answer that a page needs: also lists nobody filled."""
    import json

    question = json.dumps({"verb": "look-at-table", "kind": "two-peg", "text": TestLevels.PEGS})
    found = json.loads(answer(question))["data"]
    assert set(found["column_map"]) == {"separator", "heading_line", "columns", "angle", "same", "words", "left_out"}
    assert all(set(use) == {"column", "field", "given", "unit"} for use in found["column_map"]["columns"])


@pytest.mark.parametrize("seed", range(40))
def test_any_order_of_columns_any_separator_other_names(seed: int) -> None:
    """A document written by us, its columns shuffled, renamed and separated another way, is the same document."""
    rng = random.Random(seed)
    setups = [
        {
            staff: {
                "distance": f"{rng.uniform(5, 60):.1f}",
                "readings": [f"{rng.uniform(0.5, 2.5):.4f}" for _ in range(3)],
            }
            for staff in ("a", "b")
        }
        for _ in range(rng.randint(2, 3))
    ]
    typed = {"kind": "two-peg", "observations": {"setups": setups}}
    write = DOCUMENTS["two-peg"].write_csv
    assert write is not None
    table = [line.split(",") for line in write(document_of(typed)).splitlines()]
    kept = [i for i, name in enumerate(table[0]) if name in ("setup", "staff", "distance", "reading")]
    rng.shuffle(kept)
    mark, decimal = rng.choice(((";", ","), ("\t", ","), (";", "."), (",", ".")))
    names = {"setup": "Stand", "staff": "Rod", "distance": "Dist", "reading": "Reading"}
    lines = [[names.get(line[i], line[i].replace(".", decimal)) for i in kept] for line in table]
    text = "Levels of the week\n" + "\n".join(mark.join(line) for line in lines)
    read = document("two-peg", looked("two-peg", text))
    dotted = [
        {
            staff: {
                "distance": end["distance"].replace(",", "."),
                "readings": [r.replace(",", ".") for r in end["readings"]],
            }
            for staff, end in setup.items()
        }
        for setup in read["observations"]["setups"]
    ]
    assert dotted == setups
