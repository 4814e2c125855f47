"""Practice on the server: judged here again, kept apart from real records, and who may work alone."""

from __future__ import annotations

import uuid
from typing import Any

import pytest

from fleet.models import Instrument
from naveta_practice.instruments.faults import fault_of
from naveta_practice.instruments.hidden import hidden_of
from naveta_practice.mornings import morning_of
from people.models import Person, SignOff
from practice.models import PracticeRun
from records.models import Record
from tests.core.practice.test_instruments import sheet
from tests.server.conftest import Api, good

AT = "2027-03-02T06:30:00+00:00"


def gesture(seconds: float, tilt: float, axis: float = 0.0, do: str = "screws") -> dict[str, Any]:
    return {"seconds": seconds, "do": do, "axis_mm": [axis, 0.0], "tilt_arcsec": [tilt, 0.0]}


def run(lesson: str = "left-thumb", tilt: float = 5.0, seconds: float = 40.0, **more: Any) -> dict[str, Any]:
    return {"lesson": lesson, "seed": 7, "at": AT, "seconds": seconds, "gestures": [gesture(30.0, tilt)], **more}


def save(api: Api, sent: dict[str, Any], identity: str | None = None) -> Any:
    return api.put(f"practice/runs/{identity or uuid.uuid4()}", sent)


def progress(api: Api, person: str = "") -> dict[str, Any]:
    return api.get(f"practice/progress?person={person}").json()


def test_a_run_is_judged_here_whatever_the_device_thinks(jory: Api) -> None:
    answer = save(jory, run())
    assert (answer.status_code, answer.json()["passed"]) == (201, True)
    assert save(jory, run(tilt=900.0)).json()["passed"] is False
    (bad, good_run) = PracticeRun.objects.order_by("passed")
    assert (bad.measure, good_run.measure) == (1, 0), "turned away from the middle"
    whole = jory.get(f"practice/runs/{good_run.pk}").json()
    assert whole["judged"]["tilt_arcsec"] == 5.0
    assert whole["judged"]["headline"] == "Good: axis 5.0″ out of plumb."
    assert whole["gestures"][0]["seconds"] == 30.0
    assert len(whole["judged"]["shortest"]) == 2


def test_work_with_an_instrument_is_judged_here_and_counts_as_a_lesson(jory: Api, tam: Api) -> None:
    good_level = next(seed for seed in range(100) if hidden_of("two-peg", seed).errors["collimation_arcsec"].good)
    work = {"lesson": "two-peg", "seed": good_level, "found": sheet(good_level), "turns": {}, "left": None, "blurs": [0.2],
            "seconds": 200.0}  # fmt: skip
    sent = {"lesson": "two-peg", "seed": good_level, "at": AT, "seconds": 200.0, "instrument": work}
    identity = str(uuid.uuid4())
    answer = save(jory, sent, identity)
    assert (answer.status_code, answer.json()["passed"]) == (201, True)
    whole = jory.get(f"practice/runs/{identity}").json()
    assert whole["judged"]["errors"][0]["truth"] == pytest.approx(
        hidden_of("two-peg", good_level).errors["collimation_arcsec"].value
    )
    mine = next(each for each in progress(jory)["lessons"] if each["lesson"] == "two-peg")
    assert (mine["runs"], mine["passed"], mine["best_seconds"]) == (1, 1, 200.0)
    turned = {**sent, "instrument": {**work, "turns": {"reticle": 0.3}}}
    assert save(jory, turned).json()["passed"] is False
    assert {"code": "turned-a-good-one", "label": "Adjusting an instrument that is good", "times": 1} in progress(jory)[
        "habits"
    ]
    assert Record.objects.count() == 0


def test_a_fault_that_was_named_is_judged_here(jory: Api) -> None:
    seed = next(seed for seed in range(1, 100) if fault_of("is-it-me", seed).name == "nothing")
    part = fault_of("is-it-me", seed).seeds["two-peg"]
    work = {"lesson": "is-it-me", "seed": seed, "named": "nothing", "checks": {"two-peg": sheet(part)}, "seconds": 90.0}
    sent = {"lesson": "is-it-me", "seed": seed, "at": AT, "seconds": 90.0, "fault": work}
    assert save(jory, sent).json()["passed"] is True
    assert save(jory, {**sent, "fault": {**work, "checks": {}}}).json()["passed"] is False
    mine = next(each for each in progress(jory)["lessons"] if each["lesson"] == "is-it-me")
    assert (mine["runs"], mine["passed"]) == (2, 1)
    assert "nothing-unchecked" in [habit["code"] for habit in progress(jory)["habits"]]
    refused = save(jory, {**sent, "fault": {**work, "seed": seed + 1}})
    assert (refused.status_code, refused.json()["faults"][0]["path"]) == (422, "lesson")


def test_a_morning_is_judged_here_and_read_by_the_chief(jory: Api, tam: Api) -> None:
    morning = morning_of("morning-kit", 11)
    assert morning.kit.kit is not None
    (best,) = morning.kit.kit.tags
    checks = [check.check for check in morning.fitness(best).checks]
    work = {"lesson": "morning-kit", "seed": 11, "tag": best, "checks": checks, "seconds": 50.0}
    sent = {"lesson": "morning-kit", "seed": 11, "at": AT, "seconds": 50.0, "morning": work}
    good = save(jory, sent)
    assert good.json()["passed"] is True
    unfit = next((tag for tag in morning.instruments if morning.fitness(tag).minutes > morning.kit.kit.minutes), None)
    if unfit:
        needed = [check.check for check in morning.fitness(unfit).checks]
        assert save(jory, {**sent, "morning": {**work, "tag": unfit, "checks": needed}}).json()["passed"] is False
        assert "longer-than-needed" in [habit["code"] for habit in progress(jory)["habits"]]
    run = tam.get(f"practice/runs/{good.json()['id']}").json()
    assert [each["tag"] for each in run["judged"]["instruments"] if each["taken"]] == [best]
    assert save(jory, {**sent, "morning": {**work, "tag": "XX-99"}}).status_code == 422


def test_work_of_another_lesson_or_an_unfinished_sheet_is_refused(jory: Api) -> None:
    work = {"lesson": "two-peg", "seed": 4, "found": sheet(4), "turns": {}, "seconds": 9.0}
    sent = {"lesson": "two-peg", "seed": 5, "at": AT, "seconds": 9.0, "instrument": work}
    answer = save(jory, sent)
    assert (answer.status_code, answer.json()["faults"][0]["path"]) == (422, "lesson")
    unread = sheet(4)
    unread["observations"]["setups"][0]["b"]["readings"] = []
    answer = save(jory, {**sent, "seed": 4, "instrument": {**work, "found": unread}})
    assert answer.status_code == 422
    assert PracticeRun.objects.count() == 0


def test_practice_is_no_record_of_an_instrument(jory: Api) -> None:
    save(jory, run())
    assert Record.objects.count() == 0
    assert set(Instrument.objects.values_list("changed", flat=True)) == {0}
    assert jory.get("ledger").json()["count"] == 0


def test_the_same_again_is_one_run_and_another_under_its_id_is_refused(jory: Api, tam: Api) -> None:
    identity = str(uuid.uuid4())
    assert [save(jory, run(), identity).status_code for _ in range(2)] == [201, 200]
    assert save(jory, run(tilt=6.0), identity).json()["code"] == "other-content"
    assert save(tam, run(), identity).json()["code"] == "other-content"
    assert PracticeRun.objects.count() == 1


@pytest.mark.parametrize(
    ("more", "path"),
    [
        ({"lesson": "juggling"}, "lesson"),
        ({"seed": -1}, "seed"),
        ({"at": "2027-03-02T06:30:00"}, "at"),
        ({"at": "2027-03-02T09:30:00+00:00"}, "at"),
        ({"seconds": 10.0}, "seconds"),
        ({"seconds": "many"}, "seconds"),
        ({"gestures": [{"seconds": 1}]}, "gestures[0].do"),
        ({"nonsense": 1}, "nonsense"),
    ],
)
def test_what_cannot_be_is_said_by_its_field_and_nothing_is_stored(jory: Api, more: dict[str, Any], path: str) -> None:
    answer = save(jory, run(**more))
    assert (answer.status_code, answer.json()["faults"][0]["path"]) == (422, path)
    assert PracticeRun.objects.count() == 0


class TestProgress:
    def test_three_good_ones_running_without_advice_master_a_lesson(self, jory: Api) -> None:
        assert progress(jory)["next"] == "bubble-and-leg"
        for _ in range(3):
            save(jory, run("bubble-and-leg", tilt=100.0))
        found = progress(jory)
        assert (found["runs"], found["next"]) == (3, "left-thumb")
        (lesson,) = [each for each in found["lessons"] if each["runs"]]
        assert (lesson["lesson"], lesson["passed"], lesson["mastered"], lesson["best_seconds"]) == (
            "bubble-and-leg", 3, True, 40.0,
        )  # fmt: skip
        save(jory, run("bubble-and-leg", tilt=100.0, advised=True, at="2027-03-02T06:31:00+00:00"))
        assert progress(jory)["next"] == "bubble-and-leg", "with advice it is not mastered alone"

    def test_a_bad_one_ends_the_row(self, jory: Api) -> None:
        for i, tilt in enumerate((100.0, 100.0, 900.0)):
            save(jory, run("bubble-and-leg", tilt=tilt, at=f"2027-03-02T06:3{i}:00+00:00"))
        assert progress(jory)["next"] == "bubble-and-leg"

    def test_habits_are_counted_over_the_last_ten(self, jory: Api) -> None:
        wrong = [gesture(10.0, 900.0), gesture(20.0, 1500.0), gesture(30.0, 5.0)]
        save(jory, run(gestures=wrong))
        save(jory, run(at="2027-03-02T06:31:00+00:00"))
        assert progress(jory)["habits"] == [{"code": "wrong-way", "label": "Turns the wrong way", "times": 1}]

    def test_one_sees_oneself_and_a_chief_everybody(self, jory: Api, tam: Api) -> None:
        save(jory, run())
        assert progress(tam, "jory")["runs"] == 1
        assert progress(jory)["name"] == "Jory Pell"
        assert jory.get("practice/progress?person=tam").status_code == 403
        assert tam.get("practice/progress?person=nobody").status_code == 404
        assert jory.get("practice/people").json()["code"] == "ask-the-chief"
        assert [one["username"] for one in tam.get("practice/people").json()] == ["jory"]
        mine = str(PracticeRun.objects.get().pk)
        assert tam.get(f"practice/runs/{mine}").status_code == 200

    def test_anothers_run_is_not_there_for_a_trainee(self, jory: Api, tam: Api) -> None:
        save(tam, run())
        assert jory.get(f"practice/runs/{PracticeRun.objects.get().pk}").status_code == 404


class TestSignOff:
    def sign(self, api: Api, what: str, who: str = "jory") -> Any:
        return api.post("practice/sign-offs", {"username": who, "what": what})

    def test_who_may_check_levels_saves_a_check_of_a_level_and_no_other(self, jory: Api, tam: Api) -> None:
        assert jory.check(good()).json()["code"] == "trainee-does-not-save"
        assert self.sign(tam, "check-levels").json()["by"] == "Tam Brandreth"
        assert jory.check(good()).status_code == 201
        assert jory.get("session").json()["rights"]["save-level-check"]["allowed"] is True
        assert jory.get("session").json()["rights"]["save-check"]["allowed"] is False
        assert tam.delete("practice/sign-offs/jory/check-levels").status_code == 204
        assert jory.check(good()).json()["code"] == "trainee-does-not-save"
        kept = SignOff.objects.get()
        assert (kept.by.name, kept.revoked_by.name if kept.revoked_by else None) == ("Tam Brandreth", "Tam Brandreth")

    def test_a_sign_off_of_levels_is_none_for_set_ups(self, jory: Api, tam: Api) -> None:
        self.sign(tam, "check-levels")
        document = {"kind": "set-up", "observations": {"method": "no-point"}}
        assert jory.check(document).json()["code"] == "trainee-does-not-save"
        self.sign(tam, "set-up-alone")
        assert jory.check(document).json().get("code") != "trainee-does-not-save"

    def test_who_may_adjust_adjusts(self, jory: Api, tam: Api) -> None:
        assert jory.get("session").json()["rights"]["adjust"]["allowed"] is False
        self.sign(tam, "adjust")
        assert jory.get("session").json()["rights"]["adjust"]["allowed"] is True

    def test_twice_is_once_and_nobody_signs_off_themselves(self, tam: Api, jory: Api) -> None:
        assert [self.sign(tam, "adjust").status_code for _ in range(2)] == [201, 201]
        assert SignOff.objects.count() == 1
        assert self.sign(tam, "adjust", "tam").json()["faults"][0]["path"] == "username"
        assert self.sign(tam, "fly").json()["faults"][0]["path"] == "what"
        assert self.sign(jory, "adjust", "tam").json()["code"] == "ask-the-chief"

    def test_what_a_role_may_already_stays(self, tam: Api) -> None:
        assert Person.objects.get(username="tam").signed_off == frozenset()
        assert tam.check(good()).status_code == 201
