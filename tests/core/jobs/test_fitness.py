"""Whether an instrument is fit for a job, against budgets worked by hand."""

from __future__ import annotations

import re
from datetime import date, datetime
from math import hypot, sqrt
from typing import Any

import pytest

from naveta_core.documents.envelope import Earlier, Instrument
from naveta_core.history.due import Planned
from naveta_core.history.due_list import due_entries
from naveta_core.history.facts import CheckRecord, EventRecord
from naveta_core.history.standing import checks_due, standing_of
from naveta_core.jobs.accuracy import Practice
from naveta_core.jobs.errors_in_force import errors_in_force
from naveta_core.jobs.fitness import Candidate, Fitness, fitness_of, needed_roles
from naveta_core.jobs.needs import JOB_CLASSES, JobNeeds
from naveta_core.units.formatting import length_words

NOW = "2027-03-28T08:00:00+00:00"
CHECKED = "2027-03-01T08:00:00+00:00"
LEVEL = Instrument(kind="level", levelling_accuracy_mm_per_km=2.0)
STATION = Instrument(
    kind="total-station", angle_accuracy_arcsec=5.0, distance_accuracy_mm=2.0, distance_accuracy_ppm=2.0
)
THEODOLITE = Instrument(kind="theodolite", angle_accuracy_arcsec=5.0)
OF_STATION = ("plate-vial", "dual-axis-level", "plummet", "two-face", "circular-vial")


def passed(*checks: str, at: str = CHECKED, temperature_c: float | None = None) -> list[CheckRecord]:
    return [CheckRecord(check, datetime.fromisoformat(at), "use", temperature_c=temperature_c) for check in checks]


def peg(value: float, sigma: float = 2.0, at: str = CHECKED) -> Earlier:
    return Earlier(
        check="two-peg",
        at=at,
        grade="use",
        result={"collimation_arcsec": value, "sigma_collimation_arcsec": sigma},
    )


def faces(c: float, i: float = 0.0, at: str = CHECKED) -> Earlier:
    figures = {"collimation_arcsec": c, "sigma_collimation_arcsec": 1.0, "index_arcsec": i, "sigma_index_arcsec": 1.0}
    axis = {"tilting_axis_arcsec": 0.0, "sigma_tilting_axis_arcsec": 3.0}
    return Earlier(check="two-face", at=at, grade="use", result={**figures, **axis})


def fit(
    instrument: Instrument,
    needs: JobNeeds,
    records: list[CheckRecord],
    before: list[Earlier],
    events: list[EventRecord] | None = None,
    *,
    unit: str = "m",
    planned: list[Planned] | None = None,
    **more: Any,
) -> Fitness:
    """`records`: a level's compensator passed before them."""
    today = date(2027, 3, 28)
    if instrument.kind == "level":
        records = [*passed("compensator-function", at="2027-02-01T08:00:00+00:00"), *records]
    found = checks_due(instrument, records, events or [], today=today, planned=planned or [])
    stood = standing_of(found, events or [], today, "watch")
    due = due_entries(found, stood, today)
    candidate = Candidate("XX-01", "Ondine Merrow", instrument, standing=stood, due=due, limits={}, before=before)
    answer = fitness_of(candidate, needs, Practice(**more), length_words(unit), NOW)
    assert answer is not None
    return answer


LEVELLING = JobNeeds(levelling_mm=3.0, sight_m=40.0, imbalance_m=10.0)


def test_a_level_by_hand() -> None:
    """Sights of 40 m unequal by 10 m, 2 mm per km, c 6″ ± 2″ (one sigma) 27 days ago.

    A reading: w 2·√(80/1000) = 0.5657, b √(0.1² + (0.7/206265·40000)²) = 0.1686, together 0.5903; two staffs 0.8348 mm.
    c: 6/206265·10000 = 0.2909 mm. How sure: √(2² + (0.3·10)²·27/30.4375/3) = 2.581″: 0.1251 mm. Curvature:
    0.87·10·80/(2·6 371 000)·1000 = 0.0546 mm, refraction 0.5·0.0628 = 0.0314 mm. Total 0.3455 + 2·0.8447 = 2.035 mm.
    """
    answer = fit(LEVEL, LEVELLING, passed("two-peg"), [peg(6.0)])
    assert (answer.fit, answer.role, answer.text, answer.checks) == ("fit", "level", "", [])
    (height,) = answer.budgets
    assert height.total95 == pytest.approx(2.035, abs=0.002)
    parts = {part.name: part.value for part in height.parts}
    assert parts["staffs"] == pytest.approx(0.8348, abs=2e-4)
    assert parts["line-of-sight"] == pytest.approx(0.2909, abs=2e-4)
    assert parts["line-of-sight-uncertainty"] == pytest.approx(0.1251, abs=2e-4)
    assert (height.allowed, height.enough) == (3.0, True)


def test_a_level_never_checked_goes_out_after_its_check_and_the_job_says_how_good_it_must_be() -> None:
    """Sights unequal by 40 m and 2.5 mm wanted: 2·√(2·0.5903² + 0.0314²·16 + (2.5/206265·40000)²) = 1.948 with a fresh
    check, curvature 0.2185: so c·40000/206265 may be 2.5 − 1.948 − 0.2185 = 0.3335 mm, 1.7″. A fresh check proves
    1.645·2.5 = 4.1″ at best: at 27 m it is 2·0.9007 + 0.1475 + 4.1″·27/206.265 = 2.487 mm, at 28 m 2.522."""
    answer = fit(LEVEL, LEVELLING.model_copy(update={"imbalance_m": 40.0, "levelling_mm": 2.5}), [], [])
    assert answer.fit == "fit-if"
    assert [(check.check, check.minutes, check.where) for check in answer.checks] == [("two-peg", 15, "before-leaving")]
    assert answer.checks[0].why.startswith("Never checked here")
    assert answer.text.startswith(
        "Check first: two-peg test, 15 minutes. Keep backsight and foresight equal within 27 m. Two-peg test: collimation"
    )
    (most,) = [c for c in answer.conditions if c.code == "most-line-of-sight"]
    assert most.text == (
        "Two-peg test: collimation over unequal sights at most 4.2″, this job asks for less than its limit of 10″."
    )


def never_checked(**more: Any) -> Fitness:
    """A point 60 m away, 30° up, by a 5″ station nobody checked; `more`: the instrument's own."""
    needs = JobNeeds(position_mm=6.1, sight_m=60.0, back_m=60.0, elevation_deg=30.0, both_faces=False, centring_mm=0.5)
    return fit(STATION.model_copy(update=more), needs, [], [])


def test_a_condition_below_what_a_check_proves_is_never_given_both_faces_are_tried_first() -> None:
    """ "c at most 0.0″" it was. A fresh check of a limit of 10″ proves 1.645·2.5 = 4.1″ at best."""
    answer = never_checked()
    conditions = {entry.code: entry.text for entry in answer.conditions}
    most = [float(re.search(r"at most ([\d.]+)″", text)[1]) for code, text in conditions.items() if "most-" in code]  # type: ignore[index]
    assert answer.fit == "fit-if"
    assert conditions["both-faces"] == "Observe in both faces."
    assert all(value >= 4.1 for value in most)


def test_one_that_cannot_be_turned_over_is_not_fit_where_no_check_proves_so_little() -> None:
    answer = never_checked(plunges=False)
    assert answer.fit == "not-fit"
    assert answer.reasons[0].code == "below-proof"


def test_unequal_sights_are_kept_equal_as_far_as_the_job_needs() -> None:
    """c 10″ at 40 m: with I the imbalance, I·(10/206.265 + 0.87·80/12742) mm is one-sided; the rest hangs on I only
    through how sure c is. At 2 mm wanted, 10 m give 0.5394 + 2·0.8447: too much; what is stated is enough, and 2 m more is not."""
    needs = LEVELLING.model_copy(update={"levelling_mm": 2.0})
    answer = fit(LEVEL, needs, passed("two-peg"), [peg(10.0)])
    assert answer.fit == "fit-if"
    (condition,) = answer.conditions
    assert condition.code == "imbalance_m"
    kept = float(condition.text.split()[-2])

    def total(imbalance: float) -> float:
        bias = imbalance * (10 / 206.265 + 0.87 * 80 / 12742)
        sure = sqrt(4 + 0.09 * 100 * 27 / 30.4375 / 3) / 206.265 * imbalance
        return bias + 2 * sqrt(0.8348**2 + sure**2 + (0.5 * imbalance * 80 / 12742) ** 2)

    assert total(kept) <= 2.0 < total(kept + 0.1)
    assert answer.budgets[0].total95 == pytest.approx(total(kept), abs=0.005)
    feet = fit(LEVEL, needs, passed("two-peg"), [peg(10.0)], unit="ft")
    assert feet.conditions[0].text == f"Keep backsight and foresight equal within {kept / 0.3048:.1f} ft."


def test_readings_are_repeated_as_often_as_needed_and_what_sights_share_is_not_reduced() -> None:
    """1.4 mm wanted, sights equal, c 0: 2·√2·√(0.32/n + 0.02843) ≤ 1.4 asks for 0.32/n ≤ 0.2166: two readings."""
    needs = LEVELLING.model_copy(update={"levelling_mm": 1.4, "imbalance_m": 0.0})
    answer = fit(LEVEL, needs, passed("two-peg"), [peg(0.0)])
    assert [(c.code, c.text) for c in answer.conditions] == [
        ("pointings", "Read each staff two times and use the mean.")
    ]
    assert answer.budgets[0].total95 == pytest.approx(2 * sqrt(2) * sqrt(0.16 + 0.02843), abs=0.002)
    tighter = fit(LEVEL, needs.model_copy(update={"levelling_mm": 0.4}), passed("two-peg"), [peg(0.0)])
    assert tighter.fit == "not-fit", "0.4 mm lies below 2·√2·0.1686, which no repeating reduces"
    assert tighter.reasons[0].text.startswith("At best ")
    assert "staff reading" in tighter.reasons[0].text
    assert tighter.reasons[1].text.startswith("It would have to be 0.2 mm: that takes another")
    assert tighter.text.startswith("At best ")


def test_a_point_by_hand() -> None:
    """50 m and 50 m at 90°, 1 mm at the stand, 2 mm at the targets, 5″, 2 mm + 2 ppm, one face, level, c 4″.

    Across 50 m: pointing 5·√2·0.2424 = 1.714 mm; centring √(2 + 1)·… = 1/√2·√3 = 1.2247; reference 1.4142; target 2;
    distance √(2² + 0.1²) = 2.0025. c cancels level to level. Total 2·√(1.714² + 1.2247² + 1.4142² + 4 + 4.01) = 7.567.
    """
    needs = JobNeeds(position_mm=10.0, sight_m=50.0, back_m=50.0, target_mm=2.0)
    answer = fit(STATION, needs, passed(*OF_STATION), [faces(4.0)])
    spread = sqrt(1.714**2 + 1.2247**2 + 1.4142**2 + 4 + 4.01)
    assert (answer.fit, answer.role) == ("fit", "angles")
    assert answer.budgets[0].total95 == pytest.approx(2 * spread, abs=0.01)
    practised = fit(STATION, needs, passed(*OF_STATION), [faces(4.0)], centring_mm=2.0)
    assert practised.budgets[0].total95 == pytest.approx(2 * sqrt(spread**2 + 3 * 1.2247**2), abs=0.01)
    stated = fit(STATION, needs.model_copy(update={"centring_mm": 1.0}), passed(*OF_STATION), [], centring_mm=2.0)
    assert stated.budgets[0].total95 == pytest.approx(2 * spread, abs=0.01), "the job's own centring comes first"


def test_both_faces_take_away_what_steep_sights_feel_and_an_instrument_that_cannot_plunge_is_not_fit() -> None:
    needs = JobNeeds(height_mm=7.0, sight_m=100.0, elevation_deg=20.0)
    answer = fit(STATION, needs, passed(*OF_STATION), [faces(0.0, 12.0)])
    assert [condition.code for condition in answer.conditions] == ["both-faces"]
    assert answer.fit == "fit-if"
    fixed = STATION.model_copy(update={"plunges": False})
    other = fit(fixed, needs, passed(*OF_STATION), [faces(0.0, 12.0)])
    assert other.fit == "not-fit"
    assert "vertical index error i" in other.reasons[0].text


def test_a_measured_accuracy_comes_before_the_stated_one() -> None:
    tested = Earlier(check="levelling-accuracy", at=CHECKED, grade="use", result={"levelling_sigma_mm_per_km": 0.8})
    answer = fit(LEVEL, LEVELLING, passed("two-peg"), [peg(0.0), tested])
    staffs = next(part.value for part in answer.budgets[0].parts if part.name == "staffs")
    assert staffs == pytest.approx(sqrt(2) * hypot(0.8 * sqrt(0.08), 0.1686), abs=2e-4)


def test_what_holds_an_instrument_is_why_it_is_not_fit() -> None:
    fell = EventRecord("drop", datetime.fromisoformat("2027-03-20T09:00:00+00:00"), "off the wall.")
    answer = fit(LEVEL, LEVELLING, passed("two-peg"), [peg(1.0)], [fell])
    assert (answer.fit, answer.checks, answer.minutes) == ("not-fit", [], 0)
    assert answer.text == "Dropped on 20 Mar 2027 at 09:00: off the wall."


def test_a_cold_job_is_checked_there() -> None:
    """Checked at 18 °C, −2 °C expected at the job: the two-face check is made on site, and nothing before leaving."""
    cold = Planned(date(2027, 3, 28), False, "flood wall", -2.0)
    records = [*passed(*OF_STATION), *passed("two-face", temperature_c=18.0)]
    answer = fit(STATION, JobNeeds(position_mm=20.0), records, [faces(0.0)], planned=[cold])
    assert [(check.check, check.where) for check in answer.checks] == [("two-face", "on-site")]
    assert "18 °C" in answer.checks[0].why


def test_a_theodolite_alone_sets_out_no_point_but_turns_angles() -> None:
    checks = ("plate-vial", "plummet", "two-face", "dual-axis-level", "circular-vial")
    point = fit(THEODOLITE, JobNeeds(position_mm=50.0), passed(*checks), [faces(0.0)])
    assert point.text == "It measures no distances: a point cannot be set out with it alone."
    angle = fit(THEODOLITE, JobNeeds(angle_arcsec=40.0, sight_m=50.0, back_m=50.0), passed(*checks), [faces(0.0)])
    assert angle.fit in ("fit", "fit-if")


def test_roles_and_classes() -> None:
    assert needed_roles(JobNeeds()) == {}
    assert needed_roles(JobNeeds(position_mm=5.0, staffs=2, levelling_mm=1.0)) == {"angles": 1, "level": 1, "staff": 2}
    assert all(job.needs.given for job in JOB_CLASSES)
    assert (
        fitness_of(
            Candidate("TR-01", "", Instrument(kind="tripod"), standing=standing_of([], [], date(2027, 3, 28), "watch")),
            JobNeeds(levelling_mm=1.0),
            Practice(),
            length_words("m"),
            NOW,
        )
        is None
    ), "a job without tripods has no use for one"


class TestNeverMeasured:
    """What nobody checked is worth less than what was found just within its limit."""

    def total95(self, *before: Earlier) -> float:
        (line,) = errors_in_force(LEVEL, {}, list(before), NOW)
        return abs(line.value) + 2 * line.sigma

    def test_it_counts_as_wider_than_one_found_just_within_its_limit_today(self) -> None:
        """Limit 10″: twice that against 9.9″ and 2·√(2.5² + 1.0²) = 5.4″ of a full check with the least it wanders."""
        assert self.total95() == pytest.approx(20.0)
        assert self.total95(peg(9.9, sigma=2.5, at=NOW)) == pytest.approx(9.9 + 2 * hypot(2.5, 1.0))

    def test_a_check_before_the_job_makes_it_as_sure_as_any(self) -> None:
        (never,) = errors_in_force(LEVEL, {}, [], NOW)
        assert never.fresh_sigma == pytest.approx(2.5)

    def test_the_sentence_says_that_it_is_assumed(self) -> None:
        answer = fit(LEVEL, JobNeeds(levelling_mm=1.0, sight_m=30.0, imbalance_m=20.0), passed("two-peg"), [])
        (before,) = answer.checks
        assert before.check == "two-peg"
        assert before.why.startswith("Two-peg test: assumed, not measured")
