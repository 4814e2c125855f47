"""What a job needs and what is fit for it: as typed, from what is on record, in the firm's unit."""

from __future__ import annotations

from datetime import date
from typing import Any

import pytest

from fleet.models import Instrument, InstrumentModel
from people.models import Organisation
from records.kits import practice_of
from tests.server.conftest import Api, good
from tests.server.test_set_up import set_up

AT = "2027-03-02T06:40:00+00:00"
JOB: dict[str, Any] = {"name": "flood wall line", "crew": "Bramble", "starts_on": "2027-03-02", "ends_on": "2027-03-05"}
LEVELLING = {"levelling_mm": "3", "sight_m": "40", "imbalance_m": "10"}


def plan(api: Api, needs: dict[str, Any] | None = None, **more: Any) -> dict[str, Any]:
    answer = api.post("jobs", {**JOB, "needs": LEVELLING if needs is None else needs, **more})
    assert answer.status_code == 201, answer.content
    return answer.json()


def kit(api: Api, job: dict[str, Any]) -> dict[str, Any]:
    answer = api.get(f"jobs/{job['id']}/kit")
    assert answer.status_code == 200
    return answer.json()


def fitness(api: Api, job: dict[str, Any]) -> dict[str, dict[str, Any]]:
    return {each["tag"]: each for each in kit(api, job)["answer"]["fitness"]}


class TestNeeds:
    def test_they_come_back_as_they_were_typed(self, tam: Api) -> None:
        job = plan(tam, {**LEVELLING, "levelling_mm": "2,5", "staffs": "2", "position_mm": "", "both_faces": False})
        assert job["needs"]["levelling_mm"] == "2.5"
        assert (job["needs"]["sight_m"], job["needs"]["staffs"], job["needs"]["both_faces"]) == ("40", "2", False)
        assert "position_mm" not in job["needs"]

    def test_a_firm_of_feet_types_feet(self, tam: Api) -> None:
        """100 ft are 30.48 m; a tolerance of 0.01 ft typed with its unit is 3.048 mm."""
        Organisation.objects.update_or_create(defaults={"length_unit": "ft"})
        job = plan(tam, {"levelling_mm": "0.01 ft", "sight_m": "100", "imbalance_m": "30"})
        assert (job["needs"]["levelling_mm"], job["needs"]["sight_m"]) == ("0.01", "100")
        (height,) = fitness(tam, job)["LV-02"]["budgets"]
        assert height["allowed"] == pytest.approx(3.048)
        assert height["allowed_text"] == "0.0100 ft"

    @pytest.mark.parametrize(
        ("needs", "path", "wanted"),
        [
            ({"sight_m": "40"}, "needs", "how well an angle"),
            ({"levelling_mm": "0"}, "needs.levelling_mm", "0"),
            ({"levelling_mm": "three"}, "needs.levelling_mm", ""),
            ({**LEVELLING, "staffs": "1.5"}, "needs.staffs", "a whole number"),
            ({**LEVELLING, "staffs": "21"}, "needs.staffs", "20"),
            ({**LEVELLING, "speed": "3"}, "needs.speed", "a field"),
        ],
    )
    def test_what_cannot_be_is_said_at_its_field(self, tam: Api, needs: dict[str, str], path: str, wanted: str) -> None:
        answer = tam.post("jobs", {**JOB, "needs": needs})
        assert answer.status_code == 422
        (fault,) = answer.json()["faults"]
        assert fault["path"] == path
        assert wanted in fault["wanted"]
        assert tam.get("jobs").json() == []

    def test_classes_fill_the_form_and_can_be_saved_as_they_are(self, tam: Api) -> None:
        classes = tam.get("job-classes").json()
        assert len({each["label"] for each in classes}) == len(classes) >= 5
        for each in classes:
            assert plan(tam, each["needs"], name=each["label"])["needs"] == each["needs"]


class TestKit:
    def test_the_morning_of_a_job(self, tam: Api) -> None:
        """LV-07 passed its test, LV-02 was never tested: LV-07 goes with nothing to do, instead of it LV-02, 15 minutes."""
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at=AT)
        answer = kit(tam, plan(tam))
        assert (answer["on"], answer["has_needs"], answer["answer"]["exact"]) == ("2027-03-02", True, True)
        assert (answer["answer"]["kit"]["tags"], answer["answer"]["kit"]["minutes"]) == (["LV-07"], 0)
        assert answer["answer"]["text"] == "Ready to go"
        (other,) = answer["answer"]["alternatives"]
        assert (other["tags"], other["minutes"]) == (["LV-02"], 15)
        assert [(check["tag"], check["check"]) for check in other["checks"]] == [("LV-02", "two-peg")]
        rows = {each["tag"]: each for each in answer["answer"]["fitness"]}
        assert (rows["LV-07"]["fit"], rows["LV-02"]["fit"]) == ("fit", "fit-if")
        needed = {row["tag"]: [n["check"] for n in row["needed"]] for row in tam.get("fleet").json()["rows"]}
        assert {tag: [c["check"] for c in row["checks"]] for tag, row in rows.items()} == needed, (
            "the yard says the same"
        )

    def test_a_job_to_come_is_looked_at_on_its_first_day(self, tam: Api) -> None:
        """A pass of 2 March holds until 1 April: on 5 April it is due again."""
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at=AT)
        later = plan(tam, starts_on="2027-04-05", ends_on="2027-04-06")
        assert kit(tam, later)["on"] == "2027-04-05"
        assert [check["check"] for check in fitness(tam, later)["LV-07"]["checks"]] == ["two-peg"]

    def test_a_knock_and_a_hold_count_and_another_crews_level_is_not_offered(self, tam: Api, wren: Api) -> None:
        tam.check(good(), at=AT)
        job = plan(tam)
        tam.event("drop", AT, note="off the shelf")
        assert fitness(tam, job)["LV-07"]["fit"] == "not-fit"
        assert "off the shelf" in fitness(tam, job)["LV-07"]["text"]
        wren.event("out", AT, instrument="LV-02", crew="Thrift")
        assert set(fitness(tam, job)) == {"LV-07"}
        found = kit(tam, job)["answer"]
        assert (found["kit"], found["text"]) == (None, "No fit kit: one level missing.")

    def test_a_job_that_says_nothing_is_told_so(self, tam: Api) -> None:
        answer = kit(tam, plan(tam, {}))
        assert (answer["has_needs"], answer["answer"]["text"]) == (False, "This job does not state its needs yet")
        assert tam.get("jobs/999/kit").status_code == 422

    def test_centring_as_practised_is_the_middle_of_the_crews_set_ups(self, tam: Api, firm: dict[str, Any]) -> None:
        """Two set-ups of Bramble: what their own forecasts begin from, in the middle; Thrift has none."""
        model = InstrumentModel.objects.create(
            maker="Marrick",
            name="Tessaly",
            kind="total-station",
            stated={"angle_accuracy_arcsec": 5.0, "plummet": "laser"},
        )
        Instrument.objects.create(tag="TS-01", model=model, since=date(2025, 3, 1), place="Yard")
        assert practice_of(None).centring_mm is None
        ends = []
        for off in ("0.8", "2.4"):
            answer = tam.check(set_up(centring_mm=off), instrument="TS-01")
            assert answer.status_code == 201, answer.content
            ends.append(answer.json()["result"]["result"]["budget"]["centring_mm"])
        assert ends[0] != ends[1]
        bramble, thrift = firm["tam"].crew, firm["wren"].crew
        assert practice_of(bramble).centring_mm == pytest.approx(sum(ends) / 2)
        assert practice_of(thrift).centring_mm is None


def test_a_kit_that_is_kept_is_worked_out_again_after_every_change(tam: Api, ines: Api) -> None:
    """The same question twice is one answer; a check, a limit, a job, a rule or another unit makes another."""
    tam.compensators("LV-02", "LV-07")
    tam.check(good(), at=AT)
    job = plan(tam)
    first = kit(tam, job)["answer"]
    assert kit(tam, job)["answer"] == first
    tam.event("knock", AT)
    assert fitness(tam, job)["LV-07"]["fit"] == "fit-if"
    tam.check(good(), at="2027-03-02T06:50:00+00:00")
    assert fitness(tam, job)["LV-07"]["fit"] == "fit"
    limit = {"model": None, "kind": "level", "quantity": "collimation_arcsec", "use": "40", "source": "a coarse job"}
    assert ines.put("limits", limit).status_code in (200, 201)
    unknown = fitness(tam, job)["LV-02"]["budgets"][0]["total95"]
    assert unknown > next(e for e in first["fitness"] if e["tag"] == "LV-02")["budgets"][0]["total95"]
    changed = tam.put(
        f"jobs/{job['id']}", {**JOB, "needs": {**LEVELLING, "levelling_mm": "0.2"}, "version": job["version"]}
    )
    assert changed.status_code == 200
    assert fitness(tam, job)["LV-07"]["fit"] == "not-fit"
    assert ines.put("organisation", {"length_unit": "ft"}).status_code == 200
    assert fitness(tam, job)["LV-07"]["budgets"][0]["allowed_text"].endswith("ft")
