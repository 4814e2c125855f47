"""How the firm writes: settled by the manager, given to every page with its session."""

from __future__ import annotations

from .conftest import Api, good

WRITING = {"staff_word": "rod", "decimal_mark": ",", "length_unit": "ft", "angle_unit": "gon"}


def test_a_new_firm_writes_staff_point_metres(tam: Api) -> None:
    writing = tam.get("session").json()["writing"]
    assert {"text", "reason", "worked.value"} <= set(writing.pop("sentences"))
    assert "document" in writing.pop("verbatim")
    assert "steps" in writing.pop("guidance")
    assert writing.pop("distances")
    assert writing == {
        "staff_word": "staff",
        "decimal_mark": ".",
        "length_unit": "m",
        "angle_unit": "dms",
        "replacements": {},
        "per_metre": 1.0,
    }


def test_the_manager_settles_it_and_everybody_is_given_it(ines: Api, tam: Api) -> None:
    assert ines.put("organisation", WRITING).status_code == 200
    given = tam.get("session").json()["writing"]
    assert {name: given[name] for name in WRITING} == WRITING
    assert given["replacements"]["Staff"] == "Rod"
    assert round(given["per_metre"], 4) == 3.2808


def test_control_points_are_listed_in_the_firms_unit(ines: Api, tam: Api) -> None:
    ines.post("points/table", {"text": "name;e;n;h\nPC-01;1000;2000;12\nQB-2;30.48;0;\n", "store": True})
    listed = tam.get("points").json()
    assert (listed["unit"], [point["shown"] for point in listed["points"]]) == (
        "m",
        [["1000.000", "2000.000", "12.000"], ["30.480", "0.000", ""]],
    )
    ines.put("organisation", WRITING)
    listed = tam.get("points").json()
    assert (listed["unit"], listed["points"][1]["shown"], listed["points"][1]["e_m"]) == (
        "ft",
        ["100.000", "0.000", ""],
        30.48,
    )


def test_a_chief_may_not_and_a_wrong_word_is_named(ines: Api, tam: Api) -> None:
    assert tam.put("organisation", WRITING).json()["code"] == "manager-only"
    refused = ines.put("organisation", {**WRITING, "staff_word": "stick"})
    assert (refused.status_code, refused.json()["faults"][0]["path"]) == (422, "staff_word")
    assert ines.get("session").json()["writing"]["staff_word"] == "staff"


def test_a_record_keeps_its_words(ines: Api, tam: Api) -> None:
    """Sentences are put into the firm's words on screen; what is stored and sealed stays the same everywhere."""
    ines.put("organisation", WRITING)
    saved = tam.check(good()).json()
    assert "rod" not in str(saved["result"]).lower().replace("rods", "rod").split()


def test_the_glossary_is_given_to_who_is_signed_in(tam: Api) -> None:
    terms = {term["term"]: term for term in tam.get("glossary").json()}
    assert "base" in terms["tribrach"]["also"]
    assert terms["two-peg test"]["check"] == "two-peg"
