"""What a two-peg test says: refusals, previews, pictures, what it costs and how it was calculated."""

from __future__ import annotations

import pytest

from naveta_core.errors import Refused

from .builders import NEAR, RHO, document, exact, preview, reduce, wired

REFUSALS = [
    (
        document((30, "1.4.2", 30, "1.2"), (56, "1.5", 4, "1.2")),
        "observations.setups[0].a.readings[0]",
        "one decimal mark",
    ),
    (document((30, "1_4", 30, "1.2"), (56, "1.5", 4, "1.2")), "observations.setups[0].a.readings[0]", "marks between"),
    (document((30, "1.4", -30, "1.2"), (56, "1.5", 4, "1.2")), "observations.setups[0].b.distance", "1 to 150 m"),
    (document((30, "91.4", 30, "1.2"), (56, "1.5", 4, "1.2")), "observations.setups[0].a.readings[0]", "−0.5 to 7 m"),
    (document((30, "1.4", 30, "1.2"), (31, "1.4", 30, "1.2")), "observations.setups", "differs by at least 2 m"),
    (document((30, "1.4", 30, "1.2")), "observations.setups[1].a.distance", "a reading"),
    (document((30, [], 30, "1.2"), (56, "1.5", 4, "1.2")), "observations.setups[0].a.readings[0]", "a reading"),
]


@pytest.mark.parametrize(("bad", "path", "wanted"), REFUSALS)
def test_refusals_name_field_given_and_wanted(bad: dict, path: str, wanted: str) -> None:
    with pytest.raises(Refused) as caught:
        reduce(bad)
    fault = next(fault for fault in caught.value.faults if fault.path == path)
    assert wanted in fault.wanted


def test_a_fault_is_worded_for_the_person_who_typed_it() -> None:
    with pytest.raises(Refused) as caught:
        reduce(document((30, "1.4", 30, "1.2"), (56, "1.6.2", 4, "1.2")))
    (fault,) = caught.value.faults
    assert fault.where == "second set-up, staff A, first reading"
    assert (fault.given, fault.wanted) == ("1.6.2", "a number with one decimal mark")


def test_a_limit_in_feet_is_given_in_feet() -> None:
    with pytest.raises(Refused) as caught:
        reduce(document((60, "91.4", 60, "4.5"), (90, "3.4", 30, "4.5"), units={"length": "ft"}))
    assert "22.97 ft" in caught.value.faults[0].wanted


def test_wires_out_of_order_and_mixed_entry_are_refused() -> None:
    entry = wired()
    entry["observations"]["setups"][0]["a"]["wires"][0]["middle"] = "3.0"
    entry["observations"]["setups"][0]["b"]["readings"] = ["1.2"]
    with pytest.raises(Refused) as caught:
        reduce(entry)
    assert {fault.path for fault in caught.value.faults} == {
        "observations.setups[0].a.wires[0]",
        "observations.setups[0].b",
    }


class TestPreview:
    def test_nothing_yet_lists_what_is_wanted_in_reading_order(self) -> None:
        answer = preview({"kind": "two-peg", "observations": {}})
        assert not answer["complete"]
        assert answer["faults"] == []
        assert answer["missing"][:3] == [
            f"observations.setups[0].{what}" for what in ("a.distance", "a.readings[0]", "b.distance")
        ]
        assert answer["progress"]["next"]["where"] == "first set-up, staff A, distance"

    def test_layout_alone_says_what_it_can_prove(self) -> None:
        answer = preview(document((30, [], 30, []), (56, [], 4, [])))
        expected = next(message["text"] for message in answer["progress"]["messages"] if message["code"] == "expected")
        assert "about ± 9.1″; the limit is 10″" in expected
        assert answer["picture"]["baseline_m"] == 60
        assert [setup["x_m"] for setup in answer["picture"]["setups"]] == pytest.approx([30, 56])

    def test_one_setup_gives_its_difference_and_asks_for_the_next(self) -> None:
        answer = preview(document((30, ["1.8851", "1.8855"], 30, "1.4020"), (56, [], 4, [])))
        text = next(message["text"] for message in answer["progress"]["messages"] if message["code"] == "difference")
        assert text == "First set-up, as read: B 0.48330 m above A."
        assert answer["progress"]["notes"] == [
            {"path": "observations.setups[0].a", "text": "Mean 1.88530 m, range 0.4 mm"}
        ]
        assert answer["missing"][0] == "observations.setups[1].a.readings[0]"

    def test_a_fault_does_not_hide_the_rest(self) -> None:
        answer = preview(document((30, "1.8x", 30, "1.4020"), (56, [], 4, [])))
        assert [fault["path"] for fault in answer["faults"]] == ["observations.setups[0].a.readings[0]"]
        assert answer["missing"] == [f"observations.setups[1].{staff}.readings[0]" for staff in "ab"]
        assert answer["picture"]["setups"][0]["b"]["read_m"] == 1.402

    def test_complete_gives_the_same_as_reduce(self) -> None:
        entry = exact(5, *NEAR)
        assert preview(entry)["reduced"] == reduce(entry)

    def test_an_empty_field_for_one_more_is_not_missing(self) -> None:
        entry = exact(5, *NEAR)
        entry["observations"]["setups"][0]["a"]["readings"].append("")
        assert preview(entry)["complete"]


@pytest.mark.parametrize(
    ("layout", "pairs", "places"),
    [
        ("middle-then-beyond", [(30, 30), (64, 4)], [30, 64]),
        ("outside-both", [(4, 64), (64, 4)], [-4, 64]),
        (None, [(20, 40), (40, 20)], [20, 40]),
    ],
)
def test_the_picture_places_the_level_between_or_beyond(layout: str | None, pairs: list, places: list) -> None:
    entry = exact(5, *pairs)
    if layout:
        entry["method"] = layout
    picture = reduce(entry)["picture"]
    assert picture["baseline_m"] == 60
    assert [setup["x_m"] for setup in picture["setups"]] == pytest.approx(places)
    assert picture["pegs"][1]["height_m"] == pytest.approx(0.3, abs=1e-5)
    assert picture["setups"][0]["a"]["error_m"] == pytest.approx(5 / RHO * pairs[0][0], abs=1e-6)


def test_effect_and_sensitivity_by_hand() -> None:
    result = reduce(exact(20, *NEAR))
    effect = {line["code"]: line for line in result["work"]}
    assert effect["imbalance-10-m"]["height_m"] == pytest.approx(20 / RHO * 10, rel=1e-3)
    assert "1.0 mm" in effect["imbalance-10-m"]["text"]
    rows = result["result"]["sensitivity"]
    assert [row["arcsec_per_mm"] for row in rows] == pytest.approx([-RHO / 52e3, RHO / 52e3, RHO / 52e3, -RHO / 52e3])


def test_sensitivity_predicts_a_changed_reading() -> None:
    entry = exact(20, *NEAR, copies=2)
    before = reduce(entry)["result"]
    readings = entry["observations"]["setups"][1]["b"]["readings"]
    readings[1] = f"{float(readings[1]) + 1e-4:.6f}"
    moved = reduce(entry)["result"]["collimation_arcsec"] - before["collimation_arcsec"]
    row = next(r for r in before["sensitivity"] if r["path"] == "observations.setups[1].b.readings[1]")
    assert moved == pytest.approx(row["arcsec_per_mm"] * 0.1, rel=1e-6)


def test_worked_lines_carry_this_checks_figures() -> None:
    text = " | ".join(
        line["value"] for line in reduce(document((30, "1.8851", 30, "1.4020"), (56, "1.8868", 4, "1.4000")))["worked"]
    )
    for figure in ("1.8851 − 1.4020", "1.8868 − 1.4000 − 0.00021", "+0.0671 mm per m", "+13.83″", "± 9.11″"):
        assert figure in text
