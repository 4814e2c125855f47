"""Rounds that count together: what is set again between them must not be taken for the instrument."""

from __future__ import annotations

import copy
import json
from datetime import UTC, date, datetime
from math import cos, radians, sin
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.documents.csv_io import TableFaults
from naveta_core.engine.parser import Parser
from naveta_core.engine.repeats import Repeated, demand_opposite, last_repeat
from naveta_core.errors import Refused
from naveta_core.geometry import widest_deg
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.registry import parse

from ..plain import before_of, methods_for, standing
from .simulated import Data, previewed, reduced

FOUR = (0, 90, 180, 270)


def bubble(heading: float, error: tuple[float, float], tilt: tuple[float, float]) -> tuple[float, float]:
    """Where it rests, seen along the heading: the tilt's share turns against the instrument, the vial's own does not."""
    h = radians(heading)
    right, away = tilt[0] * cos(h) - tilt[1] * sin(h), tilt[0] * sin(h) + tilt[1] * cos(h)
    return right + error[0], away + error[1]


def of_rows(kind: str, listed: str, rows: list[Data], **more: Any) -> Data:
    return {"kind": kind, "observations": {listed: rows, **more}}


def round_of(number: int, tilt: tuple[float, float], error: tuple[float, float] = (0.4, -0.7)) -> list[Data]:
    rows = []
    for heading in FOUR:
        x, y = bubble(heading, error, tilt)
        rows.append({"heading_deg": str(heading), "x_mm": f"{x:.3f}", "y_mm": f"{y:.3f}", "repeat": number})
    return rows


class TestBubbleSetAfresh:
    SECOND = (-0.5, 1.3)

    def document(self, *, told: bool = True) -> Data:
        rows = [*round_of(1, (1.0, -0.2)), *round_of(2, self.SECOND)]
        kept = rows if told else [{name: row[name] for name in row if name != "repeat"} for row in rows]
        return of_rows("circular-vial", "readings", kept, sits_on="rotating")

    def test_each_round_has_a_tilt_of_its_own(self) -> None:
        result = reduced(self.document())
        found = result["result"]
        assert (found["vial_error_x_mm"], found["vial_error_y_mm"]) == pytest.approx((0.4, -0.7), abs=1e-3)
        assert found["repeats"]["dof"] == 16 - 2 - 2 * 2
        assert found["repeats"]["squares"] < 1e-3, "nothing is left over: both rounds are met"

    def test_what_is_given_of_the_tilt_is_the_last_rounds(self) -> None:
        last = reduced(of_rows("circular-vial", "readings", round_of(1, self.SECOND), sits_on="rotating"))
        both = reduced(self.document())
        for name in ("tilt_x_mm", "tilt_y_mm"):
            assert both["result"][name] == pytest.approx(last["result"][name], abs=1e-6)
        assert len(both["picture"]["points"]) == 4, "the drawing shows the round that stands now"

    def test_without_the_round_the_same_readings_would_cry_scatter(self) -> None:
        assert reduced(self.document(told=False))["result"]["repeats"]["squares"] > 1.0

    def test_a_round_with_one_heading_only_is_refused_by_its_number(self) -> None:
        document = of_rows(
            "circular-vial", "readings", [*round_of(1, (0, 0)), *round_of(2, (1, 1))[:1]], sits_on="rotating"
        )
        faults = previewed(document)["faults"]
        assert [fault["given"] for fault in faults] == ["headings 0° in repeat 2"]
        with pytest.raises(Refused):
            reduced(document)

    def test_the_round_goes_out_and_in_again_by_table(self) -> None:
        kind = KINDS["circular-vial"]
        parsed = parse(json.dumps(self.document()).encode())
        text = kind.write_csv(parsed)
        assert text.splitlines()[0].split(",")[:7] == [
            "sits_on",
            "sensitivity_arcmin_per_2mm",
            "heading_deg",
            "x_mm",
            "y_mm",
            "repeat",
            "unit",
        ]
        assert [reading["repeat"] for reading in kind.read_csv(text)["observations"]["readings"]] == [1] * 4 + [2] * 4
        with pytest.raises(TableFaults) as caught:
            kind.read_csv(text.replace(",2,", ",99,"))
        assert "from 1 to" in caught.value.faults[0].wanted


def test_the_plate_vial_and_the_electronic_level_stand_otherwise_each_round() -> None:
    rows = [
        {"heading_deg": str(h), "along_arcsec": f"{6 + sign * a}", "across_arcsec": f"{-4 + sign * b}", "repeat": n}
        for n, (a, b) in ((1, (20, 5)), (2, (-13, 8)))
        for h, sign in ((0, 1), (180, -1))
    ]
    found = reduced({**of_rows("dual-axis-level", "readings", rows), "conditions": {"minutes_on": 5}})["result"]
    assert (found["index_along_arcsec"], found["index_across_arcsec"]) == pytest.approx((6, -4), abs=1e-9)
    bubbles = [
        {"heading_deg": str(h), "bubble_div": f"{0.6 + sign * lean:.1f}", "repeat": n}
        for n, lean in ((1, 1.2), (2, -0.9))
        for h, sign in ((0, 1), (180, -1))
    ]
    found = reduced(of_rows("plate-vial", "readings", bubbles, sensitivity_arcsec_per_div="30"))["result"]
    assert found["reversal_div"] == pytest.approx(0.6, abs=1e-9)


def test_a_fresh_sheet_under_the_plummet_has_an_axis_of_its_own() -> None:
    offset, sheets = (0.9, -0.4), ((40.0, 60.0), (11.0, 95.0))
    marks = []
    for n, (ax, ay) in enumerate(sheets, start=1):
        for heading in FOUR:
            h = radians(heading)
            x = ax + offset[0] * cos(h) + offset[1] * sin(h)
            y = ay - offset[0] * sin(h) + offset[1] * cos(h)
            marks.append({"heading_deg": str(heading), "x_mm": f"{x:.3f}", "y_mm": f"{y:.3f}", "repeat": n})
    together = reduced(of_rows("plummet", "sets", [{"height_m": "1.5", "marks": marks}], method="turn"))
    assert (together["result"]["offset_x_mm"], together["result"]["offset_y_mm"]) == pytest.approx(offset, abs=2e-3)
    assert (together["result"]["axis_x_mm"], together["result"]["axis_y_mm"]) == pytest.approx(sheets[1], abs=2e-3)
    # Two sets at one height are two sheets just the same.
    halves = [
        {"height_m": "1.5", "marks": [{k: v for k, v in m.items() if k != "repeat"} for m in marks[i : i + 4]]}
        for i in (0, 4)
    ]
    gap = reduced(of_rows("plummet", "sets", halves, method="turn"))
    assert gap["result"]["offset_mm"] == pytest.approx(together["result"]["offset_mm"], abs=1e-9)


def pointings(hz: float, zenith: float, c: float, *, i: float, turned: float, number: int) -> Data:
    """One mark at 60 m seen once a face, level enough that c is all there is in Hz; seconds."""
    left, right = (hz + turned + c / 3600) % 360, (hz + turned + 180 - c / 3600) % 360
    return {
        "left": [{"hz": f"{left:.6f}", "v": f"{zenith + i / 3600:.6f}", "repeat": number}],
        "right": [{"hz": f"{right:.6f}", "v": f"{360 - zenith + i / 3600:.6f}", "repeat": number}],
    }


def test_a_circle_set_again_between_rounds_is_no_sighting_error() -> None:
    first, second = pointings(30, 90, 12, i=-7, turned=0, number=1), pointings(30, 90, 12, i=-7, turned=41.5, number=2)
    both = {face: [*first[face], *second[face]] for face in ("left", "right")}
    document = {**of_rows("two-face", "targets", [both]), "units": {"angle": "deg"}}
    found = reduced(document)["result"]
    assert (found["collimation_arcsec"], found["index_arcsec"]) == pytest.approx((12, -7), abs=0.01)
    unsaid = copy.deepcopy(document)
    for face in ("left", "right"):
        for target in unsaid["observations"]["targets"][0][face]:
            del target["repeat"]
    assert abs(reduced(unsaid)["result"]["collimation_arcsec"] - 12) < 0.01, "the mean is the same"
    assert reduced(unsaid)["verdict"]["grade"] == "repeat", "but 41° apart on one mark is no pointing"


def test_a_round_begun_in_one_face_wants_the_other() -> None:
    first, second = pointings(30, 90, 12, i=-7, turned=0, number=1), pointings(30, 90, 12, i=-7, turned=41.5, number=2)
    document = {
        **of_rows("two-face", "targets", [{"left": [*first["left"], *second["left"]], "right": first["right"]}]),
        "units": {"angle": "deg"},
    }
    messages = previewed(document)
    assert not messages["complete"]
    assert messages["missing"] == ["observations.targets[0].right[1].hz", "observations.targets[0].right[1].v"]


class TestParts:
    class One:
        def __init__(self, heading: float, number: int) -> None:
            self.heading_deg, self.repeat = heading, number

    def test_only_rounds_that_do_not_turn_are_named(self) -> None:
        sheet = Parser()
        good = [self.One(0, 1), self.One(180, 1), self.One(10, 2), self.One(190, 2)]
        demand_opposite(sheet, "p", "what", taken=good, wanted="half a turn")
        assert sheet.faults == []
        demand_opposite(sheet, "p", "what", taken=[*good, self.One(0, 3), self.One(40, 3)], wanted="half a turn")
        assert [(fault.given, fault.wanted) for fault in sheet.faults] == [
            ("headings 0°, 40° in repeat 3", "half a turn")
        ]
        assert widest_deg([0, 40]) == 40

    def test_the_last_round_in_its_order(self) -> None:
        listed = [self.One(0, 2), self.One(5, 1), self.One(180, 2)]
        assert [entry.heading_deg for entry in last_repeat(listed)] == [0, 180]
        assert last_repeat([]) == []

    @pytest.mark.parametrize("number", [0, 10, -1, "two"])
    def test_a_round_is_numbered_one_to_nine(self, number: Any) -> None:
        with pytest.raises(ValueError, match="repeat"):
            Repeated.model_validate({"repeat": number})


class TestMeasuredThrough:
    """A new index of the electronic level moves what the telescope was found with."""

    STATION = {"kind": "total-station", "plummet": "laser"}

    def at(self, day: int) -> datetime:
        return datetime(2027, 2, day, 8, tzinfo=UTC)

    def test_what_was_measured_through_it_is_to_be_done_again(self) -> None:
        done = [
            CheckRecord("two-face", self.at(10), "use"),
            CheckRecord("dual-axis-level", self.at(11), "use", stage="as-left"),
            CheckRecord("plummet", self.at(10), "use"),
            CheckRecord("plate-vial", self.at(10), "use"),
        ]
        stored = EventRecord("adjusted", self.at(11), check="dual-axis-level")
        quiet = standing(self.STATION, done, [], date(2027, 2, 20))
        found = standing(self.STATION, done, [stored], date(2027, 2, 20))
        before, after = ({check.check: check for check in each.checks} for each in (quiet, found))
        assert before["two-face"].state == "ready"
        assert (after["two-face"].state, after["two-face"].reasons[0].code) == ("check-first", "measured-through")
        assert "11 Feb 2027" in after["two-face"].reasons[0].text
        assert after["plummet"].state == "ready"
        again = [*done, CheckRecord("two-face", self.at(12), "use")]
        assert {
            check.check: check.state for check in standing(self.STATION, again, [stored], date(2027, 2, 20)).checks
        }["two-face"] == "ready"

    def test_its_history_begins_again_too(self) -> None:
        def check(kind: str, name: str) -> Data:
            return {
                "what": "check",
                "kind": kind,
                "at": "2027-02-10T08:00:00+00:00",
                "stage": "as-found",
                "grade": "use",
                "result": {name: 1.0},
                "repeats": {"squares": 0.0, "dof": 0},
            }

        rows = [check("two-face", "collimation_arcsec"), check("plummet", "offset_mm")]
        event = {"what": "event", "event": "adjusted", "at": "2027-02-11T08:00:00+00:00", "kind": "dual-axis-level"}
        assert [earlier["check"] for earlier in before_of([*rows, event])] == ["plummet"]
        assert [earlier["check"] for earlier in before_of([*rows, {**event, "kind": "plate-vial"}])] == [
            "plummet",
            "two-face",
        ]


class TestWaysThatSuit:
    def test_a_plummet_that_does_not_turn_is_not_offered_half_a_turn(self) -> None:
        kind = KINDS["plummet"]
        assert "half-turn" in methods_for(kind, {"kind": "total-station"})
        turning = methods_for(kind, {"kind": "total-station", "plummet_place": "turning"})
        based = methods_for(kind, {"kind": "tribrach", "plummet_place": "tribrach"})
        assert ("half-turn" in turning, "tribrach-thirds" in turning) == (True, False)
        assert ("half-turn" in based, "tribrach-thirds" in based) == (False, True)
        assert "bob" in turning
        assert "bob" in based

    def test_a_circular_bubble_on_the_base_is_read_standing(self) -> None:
        kind = KINDS["circular-vial"]
        assert methods_for(kind, {"kind": "tribrach", "circular_vial_on": "tribrach"}) == ["on-tribrach"]
        assert "on-tribrach" not in methods_for(kind, {"kind": "level", "circular_vial_on": "rotating"})

    @pytest.mark.parametrize("name", sorted(KINDS))
    def test_every_instrument_a_kind_applies_to_has_a_way(self, name: str) -> None:
        kind = KINDS[name]
        assert all(methods_for(kind, {"kind": requirement}) for requirement in kind.applies_to)
