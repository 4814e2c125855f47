"""A document in feet is read in feet and answered in feet: checks, set-ups, advice, tables, directions."""

from __future__ import annotations

import json
import re
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.dispatch import answer, preview
from naveta_core.engine.fields import changed_fields
from naveta_core.engine.reader import Reader
from naveta_core.errors import Refused
from naveta_core.registry import document_of
from naveta_core.setup import guide as guiding
from naveta_core.wording import VERBATIM, Wording, is_sentence

from .plain import advise, guide, preview_set_up, reduce_of
from .setup.test_guide import LASER, saw
from .setup.test_guide import document as set_up
from .test_words_and_grades import several

Data = dict[str, Any]
METRES = re.compile(r"\d m\b")
FT = 0.3048
AT = "2027-03-02T06:40:00+00:00"


def sentences(answered: Any, within: str = "", name: str = "") -> list[str]:
    """Every sentence or figure in words of an answer."""
    if isinstance(answered, dict):
        members = [(each, value) for each, value in answered.items() if each not in VERBATIM]
        return [text for each, value in members for text in sentences(value, name, each)]
    if isinstance(answered, list):
        return [text for value in answered for text in sentences(value, within, name)]
    return [answered] if isinstance(answered, str) and is_sentence(name, within) else []


def in_feet(kind: str, document: Data) -> Data:
    """The same readings in a document of feet: lengths keep the metres they were read in, written behind them."""

    def with_metres(field: Any, value: Any) -> Any:
        return f"{value} m" if field.kind == "length" and isinstance(value, str) and value.strip() else value

    observations = changed_fields(KINDS[kind].table, document["observations"], with_metres)
    return {**document, "units": {**document.get("units", {}), "length": "ft"}, "observations": observations}


class TestChecks:
    @pytest.mark.parametrize("kind", KINDS)
    def test_no_sentence_of_a_check_in_feet_speaks_of_metres(self, kind: str) -> None:
        for document in several(kind, 20):
            found = sentences(preview(in_feet(kind, document), None, AT).plain())
            assert found
            assert [text for text in found if METRES.search(text)] == []

    @pytest.mark.parametrize("kind", KINDS)
    def test_the_figures_are_the_same_in_any_unit(self, kind: str) -> None:
        for document in several(kind, 5):
            try:
                metres = reduce_of(kind, document_of(document))
            except Refused:
                continue
            feet = reduce_of(kind, document_of(in_feet(kind, document)))
            for result in (feet["result"], metres["result"]):
                result.pop("sensitivity", None)  # names each reading as it was typed
            assert feet["result"] == metres["result"]
            assert feet["verdict"]["grade"] == metres["verdict"]["grade"]

    def test_a_height_above_the_paper_is_typed_in_feet(self) -> None:
        """5 ft are 1.524 m: 1.0 mm there is 1.0/1524 · 206265″ = 135.3″."""
        marks = [{"heading_deg": "0", "x_mm": "1", "y_mm": "0"}, {"heading_deg": "180", "x_mm": "-1", "y_mm": "0"}]
        document = {
            "kind": "plummet",
            "units": {"length": "ft"},
            "observations": {"sets": [{"height_m": "5", "marks": marks}]},
        }
        result = reduce_of("plummet", document_of(document))
        assert result["result"]["at_height_m"] == pytest.approx(1.524)
        assert result["result"]["offset_arcsec"] == pytest.approx(135.34, abs=0.01)
        assert "at 5 ft" in result["finding"]["text"]

    def test_out_of_range_is_said_in_feet(self) -> None:
        sets = [{"height_m": "150", "marks": [{"heading_deg": "0", "x_mm": "1", "y_mm": "0"}]}]
        document = {"kind": "plummet", "units": {"length": "ft"}, "observations": {"sets": sets}}
        (fault,) = preview(document, None, AT).plain()["faults"]
        assert fault["wanted"].startswith("a height above the paper from 0.9843 to 98.43 ft")

    @pytest.mark.parametrize(("typed", "metres"), [("300", 91.44), ("90 m", 90.0), ("", None)])
    def test_a_table_of_angles_keeps_the_unit_of_its_distances(self, typed: str, metres: float | None) -> None:
        """Its unit column is that of angles."""
        faces = {"left": [{"hz": "10.0000", "v": "90.0000"}], "right": [{"hz": "190.0006", "v": "269.5958"}]}
        target = {**faces, **({"distance_m": typed} if typed else {})}
        kind = KINDS["two-face"]
        document = {"kind": "two-face", "units": {"length": "ft"}, "observations": {"targets": [target]}}
        back = document_of(kind.read_csv(kind.write_csv(document_of(document))))
        (seen,) = kind.read(back, Reader(back, kind.where)).targets
        assert seen.distance_m == (None if metres is None else pytest.approx(metres))


class TestSetUps:
    def feet(self, **observed: Any) -> Any:
        observations = {"method": "plummet-first", "mark": {"name": "PC-14"}, **observed}
        return document_of(
            {"kind": "set-up", "instrument": LASER, "units": {"length": "ft"}, "observations": observations}
        )

    def test_heights_and_the_tripod_are_typed_in_feet(self) -> None:
        level = {"first": {"along": "12", "across": "4"}, "turned": {"along": "-6", "across": "6"}}
        read = {
            "level": level,
            "centring_mm": "0.2",
            "height": {"readings": ["5.13", "5.13"], "radius_mm": "60"},
            "final_check_done": True,
        }
        document = self.feet(**read, tripod={"foot_spacing_m": "3.5"})
        assert document.observations.tripod.foot_spacing_m == pytest.approx(3.5 * FT)
        found = preview_set_up(document)
        # √((5.13 · 304.8)² − 60²) mm = 1562.47 mm
        assert found["reduced"]["result"]["height_m"] == pytest.approx(1.56247, abs=5e-5)
        assert [text for text in sentences(found) if METRES.search(text)] == []

    @pytest.mark.parametrize("step", ["tripod", "legs", "shift", "slide", "heights", "final-check"])
    def test_the_guide_speaks_feet(self, step: str) -> None:
        document = self.feet(
            eye_height="5.6",
            tripod={"foot_spacing_m": "2.6"},
            log=[saw("circular", bubble={"bearing_deg": 225, "offset_mm": 3})],
        )
        found = guide(document, step)
        assert (found["unit"], found["usual"]["foot_spacing_m"], found["usual"]["head_height_m"]) == (
            "ft",
            "3.3",
            "4.6",
        )
        texts = [Wording(length_unit="ft").guided(text) for text in sentences(found)]
        assert [text for text in texts if METRES.search(text)] == []

    def test_metres_stay_as_they_were(self) -> None:
        found = guiding.guide(set_up(), "tripod").plain()
        assert (found["unit"], found["usual"]["foot_spacing_m"], found["usual"]["sight_m"]) == ("m", "1", "30")

    def test_feet_of_a_tripod_too_close_are_named_in_feet(self) -> None:
        with pytest.raises(Refused) as refused:
            self.feet(tripod={"foot_spacing_m": "1"})
        (fault,) = refused.value.faults
        assert fault.wanted == "a number at least 1.312 ft"

    def test_a_stored_set_up_of_feet_comes_back_as_typed(self) -> None:
        stored = {
            "kind": "set-up",
            "units": {"length": "ft"},
            "work": {"sight_m": 30.0},
            "observations": {"method": "plummet-first", "tripod": {"foot_spacing_m": 1.0}},
        }
        question = {"verb": "from-file", "document": stored}
        typed = json.loads(answer(json.dumps(question)))["data"]
        assert (typed["work"]["sight_m"], typed["observations"]["tripod"]["foot_spacing_m"]) == ("30 m", "1 m")


class TestAdvice:
    def test_a_right_angle_by_three_four_five_feet(self) -> None:
        found = advise({"advice": "square", "units": {"length": "ft"}, "one_m": "3", "two_m": "4"})
        assert found["text"][0] == "The diagonal of a right angle: 5.0000 ft."
        # 0.01 ft of the diagonal is 5/(3·4) · 0.01 rad = 859″
        assert found["text"][1].startswith("0.01 ft of the diagonal is 859.4″")

    def test_targets_are_given_in_feet(self) -> None:
        """57.735 ft up at 100 ft is 30°."""
        marks = [{"distance_m": "300"}, {"distance_m": "100", "height_m": "57.735"}]
        found = advise({"advice": "targets", "units": {"length": "ft"}, "targets": marks})
        assert found["result"]["targets"][1]["elevation_deg"] == pytest.approx(30.0, abs=0.005)
        assert found["result"]["targets"][0]["distance_m"] == pytest.approx(91.44)
        with pytest.raises(Refused) as refused:
            advise({"advice": "targets", "units": {"length": "ft"}, "targets": [{"distance_m": "5"}]})
        assert refused.value.faults[0].wanted == "a number at least 6.562 ft"

    def test_a_forecast_begins_with_round_feet_and_takes_small_lengths_with_their_unit(self) -> None:
        found = advise({"advice": "budget", "units": {"length": "ft"}, "centring_mm": "0.01 ft"})["result"]
        assert (found["usual"]["back_m"], found["usual"]["centring_mm"]) == ("100", "0.01")
        assert (found["given"]["back_m"], found["given"]["centring_mm"]) == (pytest.approx(30.48), pytest.approx(3.048))
        assert found["usual"]["distance_accuracy_mm"] == "2", "as makers state it"
        assert all(" ft" in budget["total_text"] for budget in found["budgets"] if budget["unit"] == "mm")
        metres = advise({"advice": "budget", "centring_mm": "2"})["result"]
        assert (metres["usual"]["back_m"], metres["usual"]["centring_mm"], metres["given"]["centring_mm"]) == (
            "30",
            "2",
            2.0,
        )

    def test_an_eye_and_a_tripod_in_feet(self) -> None:
        """5.5 ft are 1.676 m; axis 0.25 m above the head, eye 0.05 m above the axis."""
        found = advise({"advice": "tripod-height", "units": {"length": "ft"}, "eye_height_m": "5.5"})
        metres = advise({"advice": "tripod-height", "eye_height_m": 5.5 * FT})
        assert found["result"] == metres["result"]
        assert METRES.search(metres["text"][0])
        assert not METRES.search(found["text"][0])


class TestDirections:
    @pytest.mark.parametrize(
        ("metres", "feet"),
        [
            ("Staff 40 to 50 m away", "Staff 130 to 160 ft away"),
            ("feet evenly spread, at least 0.9 m apart.", "feet evenly spread, at least 3 ft apart."),
            ("10 m from A, 50 m from B", "33 ft from A, 160 ft from B"),
            ("a 2 mm scale, 30′ per 2 mm", "a 2 mm scale, 30′ per 2 mm"),
        ],
    )
    def test_distances_of_directions_are_round_feet(self, metres: str, feet: str) -> None:
        assert Wording(length_unit="ft").guided(metres) == feet
        assert Wording().guided(metres) == metres
