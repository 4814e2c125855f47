"""What all checks of rows share: typed numbers, fits, what is an outlier, circumstances, tables, points, verdicts."""

from __future__ import annotations

import json
import math
import random
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Any

import numpy as np
import pytest
from scipy import stats

from naveta_core.checks import KINDS
from naveta_core.checks.circular_vial import CircularVial
from naveta_core.documents.csv_io import TableFaults
from naveta_core.engine.circumstance_fields import CIRCUMSTANCES
from naveta_core.engine.conditions import Needs, circumstances
from naveta_core.engine.converging import converging, read_points
from naveta_core.engine.fields import Where
from naveta_core.engine.limits import limits_from
from naveta_core.engine.parser import Parser, blank, number, rounding
from naveta_core.engine.repeats import by_repeat, ground_mark, turned_vector
from naveta_core.engine.verdict import JudgedQuantity, Judgement, grade_of, next_of
from naveta_core.errors import Refused
from naveta_core.geometry import angle_between_deg, widest_deg
from naveta_core.registry import parse
from naveta_core.results import Figures
from naveta_core.stats.decision import Limits
from naveta_core.stats.estimate import Estimate, Spread
from naveta_core.stats.row_fit import outlier_in, solve
from naveta_core.stats.straight_line import straight
from naveta_core.units.formatting import aside, bound, size
from naveta_sim import simulate


class TestTypedNumbers:
    @pytest.mark.parametrize(
        ("text", "unit", "value", "step"),
        [
            ("1,5", "mm", 1.5, 0.1),
            ("0.15 cm", "mm", 1.5, 0.1),
            ("0.0015 m", "mm", 1.5, 0.1),
            ("1.62", "m", 1.62, 0.01),
            ("5'3 1/4\"", "m", 1.60655, 0.25 * 0.0254),
            ("-12", "arcsec", -12.0, 1.0),
            ("12″", "arcsec", 12.0, 1.0),
            ("1.5′", "arcsec", 90.0, 6.0),
            ("0.01°", "arcsec", 36.0, 36.0),
            ("180°", "deg", 180.0, 1.0),
            ("−0.4 div", "div", -0.4, 0.1),
            ("9 °C", "c", 9.0, 1.0),
            ("50 N", "n", 50.0, 1.0),
        ],
    )
    def test_units_typed_behind_a_number_win(self, text: str, unit: str, value: float, step: float) -> None:
        sheet = Parser()
        found = number(sheet, "p", "it", value=text, unit=unit, low=-1000, high=1000)
        assert found is not None, sheet.faults
        assert (found.value, found.step) == (pytest.approx(value), pytest.approx(step))

    @pytest.mark.parametrize("text", ["1.2.3", "1_4", "1e3", "abc", "12 13"])
    def test_what_is_no_number_is_a_fault_at_its_place(self, text: str) -> None:
        sheet = Parser()
        assert number(sheet, "observations.x", "right", value=text, unit="mm", low=-10, high=10) is None
        assert [(fault.path, fault.where, fault.given) for fault in sheet.faults] == [("observations.x", "right", text)]

    def test_nothing_typed_is_missing_or_not_wanted(self) -> None:
        sheet = Parser()
        assert number(sheet, "a", "a", value="  ", unit="mm", low=0, high=1) is None
        assert number(sheet, "b", "b", value=None, unit="mm", low=0, high=1, wanted=False) is None
        assert (sheet.missing, sheet.faults) == (["a"], [])
        assert blank(None, "", " ")
        assert not blank(None, 0), "zero is a reading"

    def test_a_plain_number_has_no_last_digit(self) -> None:
        found = number(Parser(), "a", "a", value=2, unit="mm", low=0, high=10)
        assert found is not None
        assert (found.value, found.step) == (2.0, 0.0)
        assert rounding([0.1, 0.5]) == pytest.approx(0.01 / 12)  # the finest of the sheet
        assert rounding([]) == 0.0


class TestFits:
    def test_variances_and_scatter_against_numpy(self) -> None:
        rng = random.Random(5)
        rows = by_repeat(
            [row for h in (0, 90, 180, 270, 45) for row in turned_vector(h, rng.gauss(0, 1), rng.gauss(0, 1))]
        )
        solved = solve(rows, 0.09, 0.01, 6.0)
        a = np.array([row for row, _ in rows])
        b = np.array([value for _, value in rows])
        x, squares, *_ = np.linalg.lstsq(a, b, rcond=None)
        assert solved.fit.unknowns == pytest.approx(list(x))
        covariance = np.linalg.inv(a.T @ a) * 0.09
        assert solved.q_within(0) == pytest.approx(covariance[0, 0])
        assert (solved.spread.squares, solved.spread.dof) == (pytest.approx(squares[0] / 0.09), 6.0)
        estimate = solved.estimate(0)
        f2 = max(0.1, (6 + squares[0] / 0.09) / (6 + 6))
        assert estimate.sigma == pytest.approx(math.sqrt(f2 * covariance[0, 0] + 0.01))

    def test_what_stands_apart_is_the_one_that_was_spoiled(self) -> None:
        rng = random.Random(8)
        hits = alarms = 0
        for _ in range(200):
            rows = by_repeat(
                [row for h in range(0, 360, 45) for row in ground_mark(h, rng.gauss(0, 0.3), rng.gauss(0, 0.3))]
            )
            alarms += outlier_in(solve(rows, 0.09, 0.01, 6.0)) is not None
            at = rng.randrange(len(rows))
            spoiled = [(row, value + 3.0 * (i == at)) for i, (row, value) in enumerate(rows)]
            hits += outlier_in(solve(spoiled, 0.09, 0.01, 6.0)) == at
        print(f"ten sigma in one of sixteen figures: named rightly {hits} of 200, false alarms {alarms} of 200")
        assert hits >= 196
        assert alarms <= 6

    def test_with_one_to_spare_nothing_can_be_named(self) -> None:
        rows = [([1.0], 0.0), ([1.0], 5.0)]
        assert outlier_in(solve(rows, 0.01, 0.0, 6.0)) is None

    def test_angles_between_headings(self) -> None:
        assert angle_between_deg(350, 10) == 20
        assert angle_between_deg(0, 180) == 180
        assert widest_deg([0, 90, 200]) == 160
        assert widest_deg([10]) == 0.0

    def test_a_straight_line_by_scipy(self) -> None:
        lengths, errors = [0.1, 1.0, 2.0, 3.0], [0.3, 0.5, 0.9, 1.0]
        found, line = straight(lengths, errors, 0.09, between=0.01, dof=6.0), stats.linregress(lengths, errors)
        assert (found.zero_mm, found.scale_ppm) == (pytest.approx(line.intercept), pytest.approx(line.slope * 1000))
        assert found.at(2.5) == pytest.approx(line.intercept + line.slope * 2.5)
        assert found.scale().sigma < found.scale().value, "what is common to all readings is in the zero only"


class TestCircumstances:
    def of(self, needs: Needs, before: list[Any] | None = None, **conditions: Any) -> list[str]:
        data = {
            "kind": "circular-vial",
            "observations": {},
            "conditions": conditions,
            "before": before or [],
            "before_at": "2027-03-02T07:00:00+00:00",
        }
        found = circumstances(CircularVial.model_validate(data), needs)
        return [code for code, _ in [*found.blocked, *found.weak]]

    def test_only_what_a_kind_needs_is_asked(self) -> None:
        assert self.of(Needs(), wind="strong", minutes_on=0.0) == []
        assert self.of(Needs(minutes_on=3)) == ["warm-up-not-entered"]
        assert self.of(Needs(minutes_on=3), minutes_on=2.0) == ["not-warm"]
        assert self.of(Needs(minutes_on=3), minutes_on=3.0) == []

    def test_a_stand_that_moves_must_be_fixed_and_a_tripod_is_minded(self) -> None:
        assert self.of(Needs(firm_stand=True), steady=False) == ["stand-not-steady"]
        assert self.of(Needs(firm_stand=True), support="tripod") == ["tripod-stand"]
        assert self.of(Needs(firm_stand=True), support="pillar") == []

    def test_sun_and_shimmer_matter_to_what_sights_through_the_air(self) -> None:
        air = Needs(through_air=True)
        assert self.of(Needs(), sky="sun", shimmer="strong", ground="asphalt") == []
        assert self.of(Needs(shaded=True), sky="sun") == ["sun-on-it"]
        assert self.of(Needs(shaded=True), sky="shaded") == []
        assert self.of(air, shimmer="some") == ["shimmer"]
        assert self.of(air, ground="asphalt", sky="shaded") == ["hot-ground"]
        assert self.of(air, ground="asphalt") == ["hot-ground"]
        assert self.of(air, ground="asphalt", sky="cloud") == []
        assert self.of(Needs(by_hand=True), staff_held="hand", distances_by="paced") == ["staff-by-hand", "paced"]
        assert self.of(Needs(by_hand=True), staff_held="bipod", distances_by="steel") == []
        assert self.of(Needs(tracks=True), regained="no") == ["not-regained"]
        assert self.of(air, ground="grass", sky="sun") == []

    def test_strong_shimmer_waits_and_some_widens_the_scatter(self) -> None:
        def two_face(**conditions: Any) -> Any:
            document = simulate("two-face", random.Random(3), {"c": 3.0})
            given = {**document, "conditions": {"minutes_on": 10, **conditions}}
            return KINDS["two-face"].reduce(parse(json.dumps(given).encode())).plain()

        plain, some, strong = two_face(), two_face(shimmer="some"), two_face(shimmer="strong")
        assert strong["verdict"]["grade"] == "repeat"
        assert some["result"]["collimation_arcsec"] == plain["result"]["collimation_arcsec"]
        widened = some["result"]["sigma_collimation_arcsec"] / plain["result"]["sigma_collimation_arcsec"]
        assert 1.0 < widened <= 1.5, "the prior is pooled with what the repeats show"

    def test_every_circumstance_a_check_asks_is_a_field_of_conditions_that_takes_its_answers(self) -> None:
        for kind in KINDS.values():
            for name in kind.conditions:
                for value, _ in CIRCUMSTANCES[name].options or (("12", ""),):
                    data = {"kind": kind.name, "observations": {}, "conditions": {name: value}}
                    assert kind.document.model_validate(data).conditions.model_dump()[name] is not None

    @pytest.mark.parametrize(
        ("grade", "days", "proved"), [("use", 3, True), ("watch", 30, True), ("use", 40, False), ("adjust", 3, False)]
    )
    def test_what_was_proved_lately_counts(self, grade: str, days: int, proved: bool) -> None:
        at = (datetime(2027, 3, 2, 7, tzinfo=UTC) - timedelta(days=days)).isoformat()
        earlier = {"check": "plate-vial", "at": at, "grade": grade, "result": {}}
        data = {
            "kind": "circular-vial",
            "observations": {},
            "before": [earlier],
            "before_at": "2027-03-02T07:00:00+00:00",
        }
        found = circumstances(CircularVial.model_validate(data), Needs(proved_first=("plate-vial", "dual-axis-level")))
        assert found.proved is proved


class TestTables:
    TABLE = KINDS["plate-vial"].file

    def test_columns_in_any_order_and_decimal_commas(self) -> None:
        text = "bubble_div;heading_deg;sensitivity_arcsec_per_div;vial\n-2,1;0;30;\n0,4;180;;2\n"
        assert self.TABLE.read(text) == {
            "kind": "plate-vial",
            "observations": {
                "sensitivity_arcsec_per_div": "30",
                "readings": [
                    {"heading_deg": "0", "bubble_div": "-2,1"},
                    {"heading_deg": "180", "bubble_div": "0,4", "vial": 2},
                ],
            },
        }

    @pytest.mark.parametrize(
        ("text", "where", "wanted"),
        [
            (
                "heading_deg,bubble_div,sensitivity_arcsec_per_div\n0,1,30\n180,2,20\n",
                "line 3, column sensitivity_arcsec_per_div",
                "30, as in the rows above",
            ),
            ("heading_deg,bubble_div,vial\n0,1,one\n", "line 2, column vial", "a whole number from 1 to 2"),
            (
                "heading,bubble_div\n0,1\n",
                "the header",
                "one of sensitivity_arcsec_per_div, heading_deg, bubble_div, repeat, vial, unit",
            ),
            ("heading_deg,bubble_div,unit\n0,1,m\n180,1,ft\n", "line 3, column unit", "m, as in the rows above"),
        ],
    )
    def test_faults_name_line_and_column(self, text: str, where: str, wanted: str) -> None:
        with pytest.raises(TableFaults) as caught:
            self.TABLE.read(text)
        assert (caught.value.faults[0].where, caught.value.faults[0].wanted) == (where, wanted)


class TestPoints:
    def test_two_numbers_however_they_are_parted(self) -> None:
        assert read_points(["1.5 -2", "1,5;−2"]) == [("1.5 -2", (1.5, -2.0)), ("1,5;−2", (1.5, -2.0))]
        with pytest.raises(Refused) as caught:
            read_points(["1.5", "1 x"])
        assert [fault.path for fault in caught.value.faults] == ["reads_now[0]", "reads_now[1]"]

    def test_the_longer_axis_is_turned_first_and_the_next_mark_is_foretold(self) -> None:
        first, second, third = converging(
            [("", (2.0, 0.5)), ("", (0.1, 0.5)), ("", (0.1, 0.1))], (3.0, 0.5), (0.0, 0.0), 0.2, "to go"
        )
        assert "right and left: to 0.0, 0.5" in first.text
        assert "away and towards you: to 0.1, 0.0" in second.text
        assert (third.done, third.left) == (True, pytest.approx(math.hypot(0.1, 0.1)))
        assert "wrong way" not in first.text + second.text

    def test_places_in_words(self) -> None:
        assert aside(0.6, -0.3) == "0.6 mm right and 0.3 mm towards you"
        assert aside(-1.0, 0.0) == "1.0 mm left"
        assert aside(0.01, 0.0).startswith("in the middle")


class TestVerdict:
    def quantity(self, value: float, sigma: float, limits: Limits, **more: Any) -> JudgedQuantity:
        return JudgedQuantity(
            "x_mm",
            "the thing",
            "mm",
            estimate=Estimate(value, sigma, 60.0),
            limits=limits,
            q_within=sigma**2,
            q_between=0.0,
            **more,
        )

    def judged(self, *quantities: JudgedQuantity, **more: Any) -> Judgement:
        return Judgement(list(quantities), Figures(), "", shown=[], worked=[], work=[], repeats=Spread(), **more)

    def document(self, **more: Any) -> CircularVial:
        return CircularVial.model_validate(
            json.loads(json.dumps({"kind": "circular-vial", "observations": {}, **more}))
        )

    LIMITS = Limits(1.0, 2.0, 5.0, "ours")

    @pytest.mark.parametrize(
        ("value", "sigma", "grade", "codes", "first"),
        [
            (0.2, 0.1, "use", ["proved"], "carry-on"),
            (0.95, 0.2, "watch", ["near-limit"], "check-sooner"),
            (0.5, 0.5, "watch", ["not-proved"], "more-readings"),
            (1.5, 0.1, "watch", ["near-limit", "conditional"], "condition"),
            (3.0, 0.3, "adjust", ["beyond-limit"], "save-as-found"),
            (3.0, 0.9, "adjust", ["beyond-limit"], "once-more"),
            (2.5, 1.5, "watch", ["not-proved"], "more-will-not-do"),
            (9.0, 0.3, "service", ["beyond-adjusting"], "save-as-found"),
        ],
    )
    def test_every_grade_says_why_and_what_now(
        self, value: float, sigma: float, grade: str, codes: list[str], first: str
    ) -> None:
        judged = self.judged(self.quantity(value, sigma, self.LIMITS, condition="Gently.", turn="Turn it."))
        assert grade_of(self.document(), judged) == grade
        assert [code for code, _ in judged.reasons] == codes
        assert next_of(judged, grade)[0][0] == first

    def test_scatter_of_the_day_is_repeated_where_the_method_could_do_better(self) -> None:
        judged = self.judged(replace(self.quantity(2.5, 1.5, self.LIMITS, turn="Turn it."), q_within=0.2**2))
        assert grade_of(self.document(), judged) == "repeat"
        assert [code for code, _ in judged.reasons] == ["confirm"]

    def test_a_sure_adjust_without_screws_is_never_given_to_turn(self) -> None:
        judged = self.judged(self.quantity(3.0, 0.2, Limits(1.0, 2.0, 2.0, "ours", False)))
        assert grade_of(self.document(), judged) == "service"
        assert [code for code, _ in next_of(judged, "service")] == ["save-as-found", "out-of-use", "send-to-service"]

    def test_observations_at_fault_hide_an_adjust_and_not_a_service(self) -> None:
        bad = self.judged(self.quantity(3.0, 0.2, self.LIMITS, turn="Turn it."), refused=[("scatter", "They scatter.")])
        assert grade_of(self.document(), bad) == "repeat"
        assert [code for code, _ in bad.reasons] == ["scatter"]
        assert [code for code, _ in next_of(bad, "repeat")] == ["stand-firm-again"]
        stuck = self.judged(service=[("sticking", "It sticks.")], refused=[("scatter", "They scatter.")])
        assert grade_of(self.document(), stuck) == "service"

    @pytest.mark.parametrize(
        ("found", "wanted"),
        [
            (["moved-between"], ["stand-firm-again"]),
            (["no-level-target"], ["other-marks"]),
            (["outlier"], ["read-again"]),
            (["moved", "outlier"], ["stand-firm-again", "read-again"]),
            (["no-level-target", "scatter"], ["stand-firm-again", "other-marks"]),
        ],
    )
    def test_a_failure_is_given_apart_each_with_its_own_next_act(self, found: list[str], wanted: list[str]) -> None:
        failed = self.judged(self.quantity(0.1, 0.1, self.LIMITS), refused=[(entry, "It failed.") for entry in found])
        assert grade_of(self.document(), failed) == "repeat"
        assert [code for code, _ in next_of(failed, "repeat")] == wanted

    def test_what_a_look_found_is_fixed_whatever_the_figures(self) -> None:
        judged = self.judged(self.quantity(0.1, 0.1, self.LIMITS), to_fix=[("set-hinges", "Set them.")])
        assert grade_of(self.document(), judged) == "adjust"
        assert [code for code, _ in next_of(judged, "adjust")] == ["save-as-found", "set-hinges"]

    def test_several_quantities_are_named_and_the_worst_counts(self) -> None:
        good, bad = self.quantity(0.1, 0.1, self.LIMITS), self.quantity(3.0, 0.2, self.LIMITS, turn="Turn it.")
        bad.noun = "the other"
        judged = self.judged(good, bad)
        assert grade_of(self.document(), judged) == "adjust"
        assert [text.split(":")[0] for _, text in judged.reasons] == ["The thing", "The other"]

    def test_the_record_carries_what_today_does_not_prove(self) -> None:
        """Today 0.4 ± 0.49 (σ 0.3, not proved within 1); a good one of 0.3, σ 0.1, a month ago: together 0.77."""
        earlier = {
            "check": "circular-vial",
            "at": "2027-02-01T07:00:00+00:00",
            "grade": "use",
            "result": {"x_mm": 0.3, "sigma_x_mm": 0.1},
        }
        document = self.document(before=[earlier], before_at="2027-03-02T07:00:00+00:00")
        judged = self.judged(self.quantity(0.4, 0.37, self.LIMITS))
        assert grade_of(document, judged) == "use"
        assert judged.reasons[0][0] == "confirmed-by-record"
        wander = max(0.09 * 29 / 30.4375 / 3, 0.01)
        w1, w0 = 1 / 0.37**2, 1 / (0.01 + wander)
        mean, sigma = (0.4 * w1 + 0.3 * w0) / (w1 + w0), 1 / math.sqrt(w1 + w0)
        joined = judged.quantities[0].confirmed
        assert joined is not None
        assert joined.proved_to == pytest.approx(mean + stats.t.ppf(0.95, 60) * sigma, rel=1e-3)
        vector = self.judged(self.quantity(0.4, 0.37, self.LIMITS, vector=True))
        assert grade_of(document, vector) == "watch", "a size is no figure to lean on"

    def test_limits_of_the_document_win(self) -> None:
        own = self.document(limits={"x_mm": {"use": 2.0, "source": "rough work"}})
        assert limits_from(own, "x_mm", self.LIMITS) == Limits(2.0, 2.0, 5.0, "rough work", True)
        assert limits_from(own, "y_mm", self.LIMITS) is self.LIMITS

    def test_figures_are_rounded_by_how_sure_they_are(self) -> None:
        assert (size(1.234, 0.3, "mm"), size(12.34, 2.0, "mm")) == ("1.23 mm", "12.3 mm")
        assert (size(12.34, 11.0, "arcsec"), size(159.6, 40.0, "ppm")) == ("12″", "160 ppm")
        assert (bound(0.54, "mm"), bound(4.5, "arcsec"), bound(1.0, "div")) == ("0.54 mm", "4.5″", "1 div")


def test_paths_are_worded_by_a_kinds_own_names() -> None:
    where = Where({"sets": "set", "marks": "mark", "x_mm": "right"})
    assert where("observations.sets[0].marks[2].x_mm") == "first set, third mark, right"
    assert where("conditions.temperature_c") == "conditions, temperature, °C"
    assert where("$") == "the whole document"
