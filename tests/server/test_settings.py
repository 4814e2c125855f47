"""Everything a firm settles: saved with who and when, refused beside its field, and never lost between two managers."""

from __future__ import annotations

from datetime import datetime
from typing import Any

import pytest

from fleet.models import InstrumentModel
from people.models import Person, SettingChange

from ..core.builders import exact
from .conftest import Api, bad, good

AT = "2027-03-02T06:40:00+00:00"


def settled(api: Api, payload: dict[str, Any]) -> Any:
    return api.put("organisation", payload)


def paths(response: Any) -> set[str]:
    assert response.status_code == 422, response.content
    return {fault["path"] for fault in response.json()["faults"]}


class TestFirm:
    def test_only_what_is_given_changes_and_each_change_is_on_record(self, ines: Api, tam: Api) -> None:
        before = ines.get("organisation").json()
        after = settled(ines, {"name": "Sorrel & Quay", "work": {"sight_m": 45, "both_faces": True}}).json()
        assert (after["name"], after["work"]) == ("Sorrel & Quay", {"sight_m": 45.0, "both_faces": True})
        assert (after["staff_word"], after["version"]) == (before["staff_word"], before["version"] + 1)
        assert tam.get("session").json()["work"] == {"sight_m": 45.0, "both_faces": True}
        line = next(row for row in tam.get("changes?about=firm").json() if row["label"] == "name of the firm")
        assert (line["before"], line["after"], line["by"]) == ("nothing", "Sorrel & Quay", "Ines Calder")
        settled(ines, {"name": "Sorrel & Quay"})
        assert ines.get("organisation").json()["version"] == after["version"], "the same again is no change"

    def test_what_cannot_be_is_refused_beside_its_field(self, ines: Api, tam: Api) -> None:
        wrong = {"time_zone": "Europe/Atlantis", "least_grade": "adjust", "work": {"sight_m": -3}}
        assert paths(settled(ines, wrong)) == {"time_zone", "least_grade", "work.sight_m"}
        assert ines.get("organisation").json()["version"] == 0
        assert tam.put("organisation", {"name": "Ours"}).json()["code"] == "manager-only"
        assert SettingChange.objects.count() == 0

    def test_the_day_turns_in_the_firms_own_zone(self, ines: Api) -> None:
        assert settled(ines, {"time_zone": "Pacific/Kiritimati"}).json()["zone_in_force"] == "Pacific/Kiritimati"
        assert ines.get("session").json()["time_zone"] == "Pacific/Kiritimati"

    def test_the_second_manager_is_told_what_changed_and_loses_nothing(self, ines: Api) -> None:
        other = Api(Person.objects.create(username="orla", name="Orla Fenn", role="manager"))
        seen = ines.get("organisation").json()["version"]
        assert settled(other, {"decimal_mark": ",", "version": seen}).status_code == 200
        answer = settled(ines, {"staff_word": "rod", "decimal_mark": ".", "version": seen})
        assert (answer.status_code, answer.json()["code"]) == (409, "changed-meanwhile")
        assert "Orla Fenn" in answer.json()["title"]
        assert [(fault["path"], fault["given"]) for fault in answer.json()["faults"]] == [("decimal_mark", ",")]
        now = ines.get("organisation").json()
        assert (now["staff_word"], now["decimal_mark"]) == ("staff", ",")
        assert settled(ines, {"staff_word": "rod", "version": now["version"]}).json()["staff_word"] == "rod"

    def test_a_firm_that_sends_out_only_use_waits_for_what_passed_with_a_condition(self, ines: Api, tam: Api) -> None:
        # 9 of 10 arcsec with its uncertainty across the limit: watch, near the limit.
        for kind in ("circular-vial", "compensator-function"):
            assert kind in tam.get("instruments/LV-07").json()["checks"]
        tam.check(exact(11.0, (30, 30), (56, 4), copies=4), at=AT)

        def peg() -> Any:
            checks = tam.get("instruments/LV-07").json()["standing"]["checks"]
            return next(check for check in checks if check["check"] == "two-peg")

        assert peg()["state"] == "ready-if"
        settled(ines, {"least_grade": "use"})
        assert (peg()["state"], peg()["reasons"][0]["code"]) == ("check-first", "only-use")
        row = next(row for row in tam.get("fleet").json()["rows"] if row["tag"] == "LV-07")
        assert "two-peg" in [check["check"] for check in row["needed"]]
        settled(ines, {"least_grade": "watch"})
        assert peg()["state"] == "ready-if"


class TestPeople:
    def change(self, api: Api, username: str, **more: Any) -> Any:
        row = next(row for row in api.get("people/all").json() if row["username"] == username)
        names = ("name", "role", "crew", "adjusts", "version")
        return api.put(f"people/{username}", {**{name: row[name] for name in names}, **more})

    def test_role_crew_and_what_each_may_adjust(self, ines: Api, tam: Api) -> None:
        row = self.change(ines, "jory", role="crew", crew="Heron", adjusts=["two-peg"]).json()
        assert (row["role"], row["crew"], row["adjusts"]) == ("crew", "Heron", ["two-peg"])
        lines = [
            (line["label"], line["before"], line["after"]) for line in ines.get("changes?about=person:jory").json()
        ]
        assert ("role", "trainee", "crew") in lines
        assert (
            self.change(tam, "jory")
            if False
            else tam.put("people/jory", {"name": "J", "role": "crew"}).status_code == 403
        )
        assert paths(self.change(ines, "jory", name=" ", role="king", adjusts=["no-such-check"])) == {
            "name",
            "role",
            "adjusts",
        }
        assert paths(self.change(ines, "ines", role="crew")) == {"role"}

    def test_whoever_is_not_cleared_for_it_adjusts_nothing(self, ines: Api, tam: Api) -> None:
        found = tam.check(bad(), at=AT).json()
        self.change(ines, "tam", adjusts=["plate-vial"])
        sent = {"record": found["id"], "steps": []}
        refused = tam.event("adjusted", "2027-03-02T07:00:00+00:00", **sent)
        assert (refused.status_code, refused.json()["code"]) == (403, "not-this-adjustment")
        self.change(ines, "tam", adjusts=["two-peg"])
        assert tam.event("adjusted", "2027-03-02T07:00:00+00:00", **sent).status_code == 201

    def test_a_one_time_link_sets_a_password_once(self, ines: Api, tam: Api, jory: Api) -> None:
        assert tam.post("people/jory/link", {}).status_code == 403
        link = ines.post("people/jory/link", {}).json()["link"]
        assert jory.get("instruments/LV-07").status_code == 401, "every session has ended"
        nobody = Api(None)
        assert paths(nobody.post("join", {"link": link, "password": "short"})) == {"password"}
        assert nobody.post("join", {"link": link, "password": "stone-lichen-coral"}).json()["name"] == "Jory Pell"
        assert nobody.get("session").json()["person"]["username"] == "jory"
        assert paths(Api(None).post("join", {"link": link, "password": "stone-lichen-heron"})) == {"link"}
        forged = link[:-1] + ("a" if link[-1] != "a" else "b")
        assert paths(Api(None).post("join", {"link": forged, "password": "stone-lichen-heron"})) == {"link"}

    def test_a_sign_in_name_may_hold_a_point(self, ines: Api) -> None:
        person = {"username": "merryn.oake", "name": "Merryn Oake", "role": "crew"}
        assert ines.post("people", person).status_code == 201
        link = ines.post("people/merryn.oake/link", {}).json()["link"]
        assert (
            Api(None).post("join", {"link": link, "password": "stone-lichen-coral"}).json()["username"] == "merryn.oake"
        )


class TestModels:
    def facts(self, api: Api, **more: Any) -> dict[str, Any]:
        model = api.get("models").json()[0]
        names = ("maker", "name", "stated", "tips", "adjusting_tips", "version")
        return {**{name: model[name] for name in names}, **more}

    def put(self, api: Api, facts: dict[str, Any]) -> Any:
        return api.put(f"models/{InstrumentModel.objects.get().pk}", facts)

    def test_a_fact_stated_later_holds_at_once_and_is_on_record(self, ines: Api, tam: Api) -> None:
        assert ines.get("models").json()[0]["instruments"] == 2
        stated = {"reading": "optical", "levelling_accuracy_mm_per_km": "1.0"}
        answer = self.put(ines, self.facts(ines, stated=stated, tips="keep its staff evenly lit")).json()
        assert answer["stated"]["levelling_accuracy_mm_per_km"] == 1.0
        saved = tam.check(good(), at=AT).json()
        assert tam.get(f"records/{saved['id']}").json()["document"]["instrument"]["levelling_accuracy_mm_per_km"] == 1.0
        lines = ines.get("changes?about=model:").json()
        assert ("nothing", "1.0") in [(line["before"], line["after"]) for line in lines]

    def test_what_cannot_be_stated_is_refused_and_two_managers_do_not_overwrite_each_other(self, ines: Api) -> None:
        wrong = self.facts(
            ines, stated={"levelling_accuracy_mm_per_km": "0"}, adjusting_tips={"tracker": "no such check"}
        )
        assert paths(self.put(ines, wrong)) == {"stated.levelling_accuracy_mm_per_km", "adjusting_tips.tracker"}
        seen = self.facts(ines)
        assert self.put(ines, {**seen, "tips": "one"}).status_code == 200
        second = self.put(ines, {**seen, "tips": "two"})
        assert (second.status_code, second.json()["faults"][0]["given"]) == (409, "one")

    def test_a_hint_for_each_step_is_kept_where_the_kind_has_that_step(self, ines: Api) -> None:
        hints = {row["name"] for row in ines.get("models/hints").json() if "level" in row["kinds"]}
        assert "telescope-focus" in hints
        assert "two-peg" in hints, "adjusting screws of its checks are hints too"
        tips = {"telescope-focus": "front ring, away from you for near", "two-peg": "below the eyepiece cover"}
        assert self.put(ines, self.facts(ines, adjusting_tips=tips)).json()["adjusting_tips"] == tips
        wrong = self.put(ines, self.facts(ines, adjusting_tips={"plummet-laser": "a level has none"}))
        assert paths(wrong) == {"adjusting_tips.plummet-laser"}


class TestLimits:
    RULE = {
        "kind": "level",
        "quantity": "collimation_arcsec",
        "use": "5",
        "watch": 6,
        "adjust": "",
        "source": "our own",
    }

    def test_a_limit_judges_the_next_check_and_leaves_the_last_one_as_it_was(self, ines: Api, tam: Api) -> None:
        eight = exact(8.0, (30, 30), (56, 4), copies=6)
        first = tam.check(eight, at=AT).json()["id"]
        before = tam.get(f"records/{first}").json()["result"]["verdict"]["parts"][0]
        preview = ines.post("limits/preview", self.RULE).json()
        assert preview["looked_at"] == 1
        assert [(c["tag"], c["before"]) for c in preview["changes"]] == [("LV-07", before["grade"])]
        rule = ines.put("limits", self.RULE).json()
        assert (rule["use"], rule["watch"], rule["adjust"], rule["by"]) == (5.0, 6.0, None, "Ines Calder")
        assert datetime.fromisoformat(rule["at"]).tzinfo
        assert tam.get(f"records/{first}").json()["result"]["verdict"]["parts"][0] == before
        second = tam.check(eight, at="2027-03-02T07:10:00+00:00").json()["id"]
        part = tam.get(f"records/{second}").json()["result"]["verdict"]["parts"][0]
        assert (part["limits"]["use"], part["grade"]) == (5.0, preview["changes"][0]["after"])
        assert "our own" in part["limit_text"]
        ines.delete(f"limits/{rule['id']}")
        third = tam.check(eight, at="2027-03-02T07:20:00+00:00").json()["id"]
        assert tam.get(f"records/{third}").json()["result"]["verdict"]["parts"][0]["limits"] == before["limits"]
        assert ines.get("limits").json() == []

    def test_a_models_rule_comes_before_its_kinds_and_a_class_of_work_before_all_work(
        self, ines: Api, tam: Api
    ) -> None:
        model = InstrumentModel.objects.get().pk
        ines.put("limits", self.RULE)
        ines.put("limits", {**self.RULE, "kind": "", "model": model, "use": 5.5})
        ines.put("limits", {**self.RULE, "class_of_work": "bridge bearings", "use": 3})
        assert ines.get("limits/classes").json() == ["bridge bearings"]

        def limit(**work: Any) -> float:
            at = f"2027-03-02T0{7 + len(work)}:00:00+00:00"
            saved = tam.check({**good(), "work": work}, at=at).json()["id"]
            return float(tam.get(f"records/{saved}").json()["result"]["verdict"]["parts"][0]["limits"]["use"])

        assert (limit(), limit(class_of_work="bridge bearings")) == (5.5, 3.0)
        assert limit(class_of_work="earthworks", sight_m=40) == 5.5

    @pytest.mark.parametrize(
        ("more", "wrong"),
        [
            ({"watch": 3}, {"watch"}),
            ({"use": 0}, {"use"}),
            ({"use": "about 5"}, {"use"}),
            ({"source": " "}, {"source"}),
            ({"kind": "sextant"}, {"kind"}),
            ({"quantity": "index_arcsec"}, {"quantity"}),
            ({"model": 999}, {"model"}),
        ],
    )
    def test_what_cannot_be_a_limit_is_refused_beside_its_field(
        self, ines: Api, more: dict[str, Any], wrong: set[str]
    ) -> None:
        assert paths(ines.put("limits", {**self.RULE, **more})) == wrong
        assert ines.get("limits").json() == []

    def test_only_the_manager_sets_limits_and_everybody_sees_them(self, ines: Api, tam: Api) -> None:
        assert tam.put("limits", self.RULE).status_code == 403
        assert tam.post("limits/preview", self.RULE).status_code == 403
        ines.put("limits", self.RULE)
        assert tam.get("limits").json()[0]["quantity"] == "collimation_arcsec"
