"""Staffs, tapes and tripods as the screen types them: nothing proved by rounding, nobody condemned by a slip."""

from __future__ import annotations

import copy
from typing import Any

import pytest

from naveta_core.errors import Refused
from naveta_core.units.numbers import SEXAGESIMAL, finest, shown_step

from .simulated import codes, part, previewed, reduced

Data = dict[str, Any]
TAPED = {
    "0.1": "0.1000",
    "0.5": "0.5001",
    "1": "0.9999",
    "1.5": "1.5001",
    "2": "1.9999",
    "2.5": "2.5000",
    "3": "3.0001",
}


def staff(taped: dict[str, str] | None = None, *more: tuple[str, str], t: float | None = 20.0) -> Data:
    rows = [{"graduation": mark, "tape": tape} for mark, tape in [*(taped or TAPED).items(), *more]]
    conditions = {} if t is None else {"temperature_c": t}
    return {
        "kind": "staff",
        "conditions": conditions,
        "observations": {"sections": rows, "foot_firm": "yes", "joints_firm": "yes"},
    }


def tape(*pairs: tuple[str, str], t: float | None = 20.0, **observed: Any) -> Data:
    rows = [{"known": known, "reads": reads} for known, reads in pairs]
    conditions = {} if t is None else {"temperature_c": t}
    return {"kind": "tape", "conditions": conditions, "observations": {"tension_n": "50", "lengths": rows, **observed}}


def worn(mm: float) -> dict[str, str]:
    """Every mark that much nearer to the foot than it says."""
    return {mark: f"{float(taped) - mm / 1000:.4f}" for mark, taped in TAPED.items()}


class TestOnlyWhatIsReadIsRounded:
    def test_known_lengths_as_the_sheet_fills_them_are_no_readings(self) -> None:
        """ "1" is a mark, not a reading to the metre: the interval is that of the tape."""
        entry = part(reduced(staff()), "zero_offset_mm")
        assert entry["u95"] < 1.0
        full = {f"{float(mark):.4f}": taped for mark, taped in TAPED.items()}
        assert entry["u95"] == pytest.approx(part(reduced(staff(full)), "zero_offset_mm")["u95"])

    def test_a_worn_foot_is_service(self) -> None:
        result = reduced(staff(worn(10)))
        assert result["verdict"]["grade"] == "service"
        assert result["result"]["zero_offset_mm"] == pytest.approx(10.0, abs=0.2)

    def test_a_long_tape_is_found(self) -> None:
        """A known 30 m read as 29.970: 1,000 ppm too long."""
        result = reduced(tape(("1", "0.9990"), ("10", "9.9900"), ("20", "19.9800"), ("30", "29.9700")))
        assert result["result"]["scale_ppm"] == pytest.approx(-1000, abs=5)
        assert result["verdict"]["grade"] == "service"

    def test_a_zero_dropped_by_a_spreadsheet_is_no_coarser_reading(self) -> None:
        dropped = {mark: taped.rstrip("0") for mark, taped in TAPED.items()}
        assert part(reduced(staff(dropped)), "scale_ppm")["u95"] == part(reduced(staff()), "scale_ppm")["u95"]
        assert finest([0.1, 0.01, 0.0]) == 0.01
        assert finest([]) == 0.0

    def test_a_display_that_counts_in_twenties_is_seen(self) -> None:
        assert shown_step([20.0 * k for k in (3, 7, 1, 12, 5, 2, 8, 4)], 1.0, SEXAGESIMAL) == 20.0
        assert shown_step([20.0 * k + 1 for k in range(8)], 1.0, SEXAGESIMAL) == 1.0
        assert shown_step([20.0, 40.0], 1.0, SEXAGESIMAL) == 1.0, "two figures tell no grid"


class TestOneSlip:
    def test_a_slip_is_named_and_condemns_nothing(self) -> None:
        result = reduced(staff({**TAPED, "2": "2.0079"}))
        assert result["verdict"]["grade"] == "repeat"
        assert "fifth graduation" in result["finding"]["text"] or "fifth mark" in result["finding"]["text"]
        assert "outlier" in codes(result)

    def test_read_again_the_slip_is_set_aside_in_sight(self) -> None:
        result = reduced(staff({**TAPED, "2": "2.0079"}, ("2", "2.0000")))
        assert result["verdict"]["set_aside"] == ["observations.sections[4]"]
        assert result["verdict"]["grade"] in ("use", "watch")

    def test_read_again_alike_it_is_the_staffs(self) -> None:
        result = reduced(staff({**TAPED, "2": "2.0079"}, ("2", "2.0080")))
        assert result["verdict"]["grade"] == "service"
        assert abs(result["result"]["largest_step_mm"]) == pytest.approx(8.0, abs=0.2)
        assert "outlier" not in codes(result)

    def test_two_lengths_condemn_no_tape(self) -> None:
        result = reduced(tape(("1", "1.0000"), ("30", "30.0200")))
        assert result["verdict"]["grade"] == "repeat"
        assert "rests-on-one" in codes(result)

    def test_a_tripods_slip_is_named(self) -> None:
        rounds = [
            {"free_mm": "400.0", "loaded_mm": f"{400 + way * 1.2:.1f}", "released_mm": "400.1"}
            for way in (1, -1, 1, -1)
        ]
        rounds[2] = {**rounds[2], "released_mm": "408.1"}
        looks = {"clamps_hold": "yes", "hinges_firm": "yes", "shoes_firm": "yes"}
        result = reduced({"kind": "tripod", "observations": {**looks, "distance": "20", "rounds": rounds}})
        assert result["verdict"]["grade"] == "repeat"
        assert "third round" in result["finding"]["text"]


class TestTemperatureAndPull:
    def test_not_given_it_is_ten_kelvin_and_asked_for_first(self) -> None:
        """11.5 ppm a kelvin: 115 ppm alone; a perfect tape proves no 100 ppm, and the temperature is what would help."""
        pairs = (("1", "1.0000"), ("10", "10.0001"), ("20", "20.0000"), ("30", "30.0001"))
        blind, result = reduced(tape(*pairs, t=None)), reduced(tape(*pairs))
        assert part(blind, "scale_ppm")["sigma"] == pytest.approx(
            (115**2 + part(result, "scale_ppm")["sigma"] ** 2 - 23**2) ** 0.5, rel=0.03
        )
        assert blind["verdict"]["next"][0]["code"] == "enter-temperature"
        assert "with it" in blind["verdict"]["next"][0]["text"]
        assert "enter-temperature" not in codes(result, "next")
        assert previewed(tape(("1", ""), t=None))["progress"]["messages"][0]["code"] == "temperature-not-entered"

    def test_a_pull_that_is_not_brought_back_counts(self) -> None:
        pairs = (("1", "1.0000"), ("10", "10.0001"), ("20", "20.0000"), ("30", "30.0001"))
        hard = part(reduced(tape(*pairs, tension_n="90")), "scale_ppm")
        assert hard["sigma"] > 80
        brought = part(reduced(tape(*pairs, tension_n="90", cross_section_mm2="2.6")), "scale_ppm")
        # 40 N over 2.6 mm² of steel: 40/(2.6·2·10⁵) = 76.9 ppm longer.
        assert brought["value"] - hard["value"] == pytest.approx(76.9, abs=0.1)
        assert brought["sigma"] < 40

    def test_beside_a_proved_tape_the_heat_falls_out(self) -> None:
        """Two steel bands at 35 °C, reading alike: no error, whatever the heat."""
        pairs = (("1", "1.0000"), ("10", "10.0000"), ("20", "20.0000"), ("30", "30.0000"))
        beside = reduced(tape(*pairs, t=35.0, against="tape"))
        assert beside["result"]["scale_ppm"] == pytest.approx(0.0, abs=1e-6)
        assert reduced(tape(*pairs, t=35.0))["result"]["scale_ppm"] == pytest.approx(172.5, abs=0.1)


@pytest.mark.parametrize(
    "document",
    [
        staff({"1": "1.0000"}, ("1", "1.0000"), ("1", "1.0001"), ("", "")),
        tape(("10", "10.0000"), ("10", "10.0000"), ("", "")),
    ],
)
def test_equal_lengths_are_refused_whatever_stands_open_below(document: Data) -> None:
    with pytest.raises(Refused) as caught:
        reduced(document)
    assert caught.value.faults[0].path.endswith(("sections", "lengths"))
    opened = copy.deepcopy(document)
    listed = opened["observations"].get("sections") or opened["observations"]["lengths"]
    listed.append({})
    with pytest.raises(Refused):
        reduced(opened)
