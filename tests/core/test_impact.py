"""After a bad finding: when an instrument was in use, and what the error did to each piece of work. Figures by hand."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import pytest

from naveta_core.checks import KINDS
from naveta_core.engine.affected import WorkEffect, WorkFacts, WorkSight
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.impact import WorkDone, impact_review
from naveta_core.jobs.needs import JobNeeds
from naveta_core.jobs.work_done import of_job, recorded
from naveta_core.registry import document_of
from naveta_core.units.formatting import length_words

METRES = length_words("m")


def at(hour: int, minute: int = 14, day: int = 2, month: int = 3) -> datetime:
    return datetime(2027, month, day, hour, minute, tzinfo=UTC)


GOOD, BAD = CheckRecord("two-peg", at(18), "use"), CheckRecord("two-peg", at(20), "adjust")


def event(name: str, when: datetime, crew: str = "") -> EventRecord:
    return EventRecord(name, when, crew=crew)


class TestInUse:
    def test_out_before_the_span_and_never_handed_in(self) -> None:
        """Taken out in the morning, good at 18:14, knocked at 19:14, bad at 20:14."""
        found = impact_review(BAD, [GOOD, BAD], [event("out", at(7), "Bramble"), event("knock", at(19))])
        assert found.in_use
        assert found.sentence() == "Last good on 2 Mar 2027; out with Bramble crew then."
        assert [reason.code for reason in found.advice()] == ["look-through", "begin-with", "no-work-recorded"]
        assert "2 Mar 2027" in found.advice()[1].text

    def test_out_before_handed_in_within_and_out_again(self) -> None:
        events = [event("out", at(7), "Bramble"), event("in", at(19)), event("out", at(19, 40), "Fell")]
        found = impact_review(BAD, [GOOD, BAD], events)
        assert found.sentence() == "Last good on 2 Mar 2027; out with Bramble crew then, and taken out once since."
        assert [held.event.crew for held in found.held] == ["Bramble", "Fell"]

    def test_lent_counts_and_the_yard_does_not(self) -> None:
        lent = impact_review(BAD, [GOOD, BAD], [event("lent", at(9))])
        assert lent.in_use
        assert lent.sentence() == "Last good on 2 Mar 2027; lent then."
        home = impact_review(BAD, [GOOD, BAD], [event("out", at(7)), event("in", at(17))])
        assert not home.in_use
        assert home.advice()[0].code == "not-in-use"
        assert "no work is affected" not in home.advice()[0].text

    def test_handed_in_at_the_moment_of_the_good_check_is_not_out_in_the_span(self) -> None:
        assert not impact_review(BAD, [GOOD, BAD], [event("out", at(7)), event("in", at(18))]).in_use

    def test_without_a_good_check_everything_since_the_first_day_counts(self) -> None:
        found = impact_review(BAD, [BAD], [event("out", at(8, day=9, month=1), "Fell"), event("in", at(9))])
        assert found.since == at(8, day=9, month=1)
        assert found.sentence() == (
            "No good check on record before this one: everything since 9 Jan 2027, the first day on record, counts;"
            " taken out once since."
        )
        assert found.in_use

    def test_a_total_station_is_not_told_to_review_level_lines(self) -> None:
        for name, kind in KINDS.items():
            good, bad = CheckRecord(name, at(18), "use"), CheckRecord(name, at(20), "adjust")
            told = impact_review(bad, [good, bad], [event("out", at(19))]).advice()[0].text
            assert told == {code: text for code, _, text in kind.when_bad}["impact-review"]
            assert ("level line" in told.lower()) <= ("level" in kind.applies_to), name

    def test_work_of_before_and_after_the_span_is_left_out(self) -> None:
        facts = WorkFacts("set-up")
        work = [WorkDone(str(h), at(h), "N1", facts=facts) for h in (17, 19, 21)]
        job = WorkDone("job-1", at(6), "Quay wall", facts=WorkFacts("job"), until=at(23))
        assert [one.key for one in impact_review(BAD, [GOOD, BAD], []).with_work([*work, job]).work] == ["19", "job-1"]


def effect(kind: str, figures: dict[str, Any], facts: WorkFacts) -> WorkEffect:
    return KINDS[kind].affects(figures, facts, METRES)


def sight(distance: float | None = 100.0, elevation: float | None = 0.0, *, both: bool = False) -> WorkSight:
    return WorkSight(distance, elevation, both)


TWO_FACE = {"collimation_arcsec": -24.0, "index_arcsec": 6.0, "tilting_axis_arcsec": None}


class TestEffects:
    def test_a_collimation_error_across_a_level_sight(self) -> None:
        """24″ at 100 m: 100 · 24/206264.806 = 11.636 mm."""
        found = effect("two-face", TWO_FACE, WorkFacts("orientation", sights=(sight(30.0), sight())))
        assert found.mm == pytest.approx(11.6356, abs=1e-3)
        assert found.text == "Up to 11.6 mm across (24.0″ at 100 m)."

    def test_an_index_error_in_height_on_a_steep_sight(self) -> None:
        """i = 60″ at D = 50 m and 45°: dh = D·i/cos² = 50·60/206264.8/0.5 = 29.09 mm, more than c = 0."""
        figures = {**TWO_FACE, "collimation_arcsec": 0.0, "index_arcsec": 60.0}
        found = effect("two-face", figures, WorkFacts("orientation", sights=(sight(50.0, 45.0),)))
        assert found.mm == pytest.approx(29.0888, abs=1e-3)
        assert "in height" in found.text

    def test_a_trunnion_axis_grows_with_the_slope(self) -> None:
        """t = 30″ at 45°: 30″ across at 10 m are 1.454 mm."""
        figures = {**TWO_FACE, "collimation_arcsec": 0.0, "index_arcsec": 0.0, "tilting_axis_arcsec": 30.0}
        found = effect("two-face", figures, WorkFacts("orientation", sights=(sight(10.0, 45.0),)))
        assert found.mm == pytest.approx(1.4544, abs=1e-3)

    def test_both_faces_remove_it_and_one_sight_in_one_face_is_enough_to_keep_it(self) -> None:
        assert effect("two-face", TWO_FACE, WorkFacts("orientation", sights=(sight(both=True),))).mm == 0.0
        mixed = WorkFacts("orientation", sights=(sight(both=True), sight(20.0)))
        assert effect("two-face", TWO_FACE, mixed).mm == pytest.approx(2.3271, abs=1e-3)

    def test_without_a_distance_in_seconds_and_without_sights_not_recorded(self) -> None:
        found = effect("two-face", TWO_FACE, WorkFacts("orientation", sights=(sight(None),)))
        assert (found.mm, found.arcsec) == (None, 24.0)
        assert effect("two-face", TWO_FACE, WorkFacts("set-up")).text.startswith("Not recorded")

    def test_a_plummet_by_the_height_it_stood_at(self) -> None:
        """3 mm at 1.5 m, axis 1.8 m above the mark: 3.6 mm; a bob has nothing to do with it."""
        figures = {"offset_mm": 3.0, "at_height_m": 1.5}
        laser = WorkFacts("set-up", height_m=1.8, centred_by="laser")
        assert effect("plummet", figures, laser).mm == pytest.approx(3.6)
        assert effect("plummet", figures, WorkFacts("set-up", height_m=1.8, centred_by="bob")).mm == 0.0
        assert effect("plummet", figures, WorkFacts("set-up", centred_by="laser")).mm is None

    def test_an_electronic_level_s_index_where_it_was_levelled_by_it_and_not_turned(self) -> None:
        """Hypotenuse of 12″ and 16″ is 20″; at 100 m, level: 9.696 mm in height."""
        figures = {"index_along_arcsec": 12.0, "index_across_arcsec": -16.0}
        by = WorkFacts("set-up", levelled_by="electronic")
        assert effect("dual-axis-level", figures, by).arcsec == pytest.approx(20.0)
        turned = WorkFacts("set-up", levelled_by="electronic", turned=True)
        assert effect("dual-axis-level", figures, turned).mm == 0.0
        assert effect("dual-axis-level", figures, WorkFacts("set-up", levelled_by="plate")).mm == 0.0
        sighted = WorkFacts("orientation", levelled_by="electronic", sights=(sight(),))
        assert effect("dual-axis-level", figures, sighted).mm == pytest.approx(9.6963, abs=1e-3)

    def test_a_line_of_sight_by_how_unequal_the_sights_were(self) -> None:
        """10″ over 20 m: 0.970 mm."""
        found = effect("two-peg", {"collimation_arcsec": -10.0}, WorkFacts("job", imbalance_m=20.0))
        assert found.mm == pytest.approx(0.96963, abs=1e-4)
        assert effect("two-peg", {"collimation_arcsec": -10.0}, WorkFacts("set-up")).mm is None

    def test_a_twisting_tripod_in_every_direction_both_faces_or_one(self) -> None:
        found = effect("tripod", {"set_arcsec": 10.0}, WorkFacts("orientation", sights=(sight(both=True),)))
        assert found.mm == pytest.approx(4.8481, abs=1e-3)

    def test_every_kind_answers_for_every_kind_of_work(self) -> None:
        for name, kind in KINDS.items():
            figures = dict.fromkeys((*kind.carried, *(q.name for q in kind.limited)), 1.0)
            for what in ("set-up", "orientation", "job"):
                found = kind.affects(figures, WorkFacts(what, sights=(sight(),)), METRES)  # type: ignore[arg-type]
                assert found.text.endswith("."), name

    def test_the_largest_first_and_what_was_not_recorded_last(self) -> None:
        rows = {"short": (sight(10.0),), "none": (), "long": (sight(200.0),), "seconds": (sight(None),)}
        work = [
            WorkDone(name, at(19, i), name, facts=WorkFacts("orientation", sights=sights))
            for i, (name, sights) in enumerate(rows.items())
        ]
        good, bad = CheckRecord("two-face", at(18), "use"), CheckRecord("two-face", at(20), "adjust")
        lines = impact_review(bad, [good, bad], []).with_work(work).lines(TWO_FACE, METRES)
        assert [one.name for one, _ in lines] == ["long", "short", "seconds", "none"]


BACKSIGHT = {
    "kind": "backsight",
    "observations": {
        "station": {"name": "N1", "e": "100.000", "n": "200.000"},
        "control": [{"name": "T4", "e": "100.000", "n": "300.000"}],
        "instrument_height": "1.500",
        "shots": [
            {"point": "T4", "hz": "0.0000", "v": "80.0000", "slope_distance": "101.543", "face": "left"},
        ],
    },
}


class TestWhatWorkRecorded:
    def test_a_backsight_says_station_distance_slope_and_face(self) -> None:
        """Slope 101.543 m at a zenith angle of 80°: 100.000 m flat, 10° up."""
        name, facts = recorded(document_of(BACKSIGHT), height_m=None, set_up=WorkFacts("set-up", levelled_by="plate"))
        assert (name, facts.what, facts.levelled_by) == ("N1", "orientation", "plate")
        (only,) = facts.sights
        assert only.distance_m == pytest.approx(100.0, abs=0.01)
        assert only.elevation_deg == pytest.approx(10.0)
        assert not only.both_faces

    def test_the_other_face_to_the_same_point_makes_it_both(self) -> None:
        shots = BACKSIGHT["observations"]["shots"]  # type: ignore[index]
        other = {**shots[0], "hz": "180.0000", "v": "280.0000", "face": "right"}
        document = {**BACKSIGHT, "observations": {**BACKSIGHT["observations"], "shots": [*shots, other]}}  # type: ignore[dict-item]
        _, facts = recorded(document_of(document), height_m=None, set_up=None)
        assert [entry.both_faces for entry in facts.sights] == [True, True]

    def test_a_set_up_says_what_it_was_levelled_and_centred_by(self) -> None:
        document = document_of(
            {
                "kind": "set-up",
                "observations": {
                    "method": "level-first",
                    "mark": {"name": "N1"},
                    "centred_by": "laser",
                    "level": {"by": "plate", "first": {"along": "0.5", "across": "0.0"}},
                },
            }
        )
        name, facts = recorded(document, height_m=1.62, set_up=None)
        assert (name, facts.centred_by, facts.levelled_by, facts.turned) == ("N1", "laser", "plate", False)
        assert facts.height_m == 1.62

    def test_a_job_by_what_it_needs_and_nothing_where_it_states_nothing(self) -> None:
        facts = of_job(JobNeeds(angle_arcsec=5.0, sight_m=80.0, both_faces=True))
        assert facts.sights == (WorkSight(80.0, 0.0, True),)
        assert of_job(JobNeeds(levelling_mm=1.0, imbalance_m=12.0)).imbalance_m == 12.0
        assert of_job(None) == WorkFacts("job") == of_job(JobNeeds())
