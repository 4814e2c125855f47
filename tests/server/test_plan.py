"""The plan: what is due and why, rules a firm sets, jobs, loans and service, a skipped check, a reason to go out."""

from __future__ import annotations

from datetime import date
from typing import Any, get_args

import pytest
import vobject
from django.test import Client

from naveta_core.history.events import EVENT_KINDS
from plan.models import CalendarLink
from records.instrument_context import context_of
from records.requests import Event
from tests.server.conftest import Api, good

AT = "2027-03-02T06:40:00+00:00"
TODAY = "2027-03-02"


def due(api: Api, days: int = 35, crew: str = "") -> dict[tuple[str, str], dict[str, Any]]:
    answer = api.get(f"due?days={days}&crew={crew}").json()
    return {(entry["tag"], entry["check"]): entry for entry in answer["due"]}


def state(api: Api, tag: str = "LV-07") -> str:
    return api.get(f"instruments/{tag}").json()["standing"]["state"]


class TestDue:
    def test_what_was_never_done_is_due_what_passed_comes_due_and_the_yard_agrees(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at=AT)
        found = due(tam)
        assert found["LV-02", "two-peg"]["state"] == "overdue"
        assert found["LV-02", "circular-vial"]["state"] == "due", "it holds nothing back"
        assert (found["LV-07", "two-peg"]["state"], found["LV-07", "two-peg"]["due_on"]) == ("fresh", "2027-04-01")
        assert "every 30 days" in found["LV-07", "two-peg"]["reasons"][0]["text"]
        assert ("LV-07", "two-peg") not in due(tam, days=29)
        needed = {row["tag"]: [each["check"] for each in row["needed"]] for row in tam.get("fleet").json()["rows"]}
        assert needed == {"LV-02": ["two-peg"], "LV-07": []}

    def test_the_title_counts_what_is_due_now_with_its_minutes(self, tam: Api) -> None:
        answer = tam.get("due").json()
        now = [e for e in answer["due"] if e["state"] in ("due", "overdue") and e["check"] != "service"]
        assert answer["today"] == TODAY
        assert answer["summary"] == f"Six checks are due: {sum(entry['minutes'] for entry in now)} minutes"

    def test_of_one_crew(self, tam: Api) -> None:
        tam.event("out", AT, instrument="LV-02")
        assert {tag for tag, _ in due(tam, crew="Bramble")} == {"LV-02"}
        assert tam.get("due").json()["crews"] == ["Bramble"]

    def test_page_by_page_nothing_is_lost_or_doubled_and_the_load_is_that_of_all(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at=AT)
        whole = tam.get("due?days=400&limit=200").json()
        keys, cursor, loads = [], "", []

        def place(e: dict[str, Any]) -> tuple[bool, str, str, str]:
            """First what keeps an instrument from going out."""
            return e["state"] != "overdue", e["due_on"], e["tag"], e["check"]

        while cursor is not None:
            page = tam.get(f"due?days=400&limit=3&cursor={cursor}").json()
            assert len(page["due"]) <= 3
            keys += [place(e) for e in page["due"]]
            loads.append((page["summary"], page["now"], page["weeks"]))
            cursor = page["next"]
        assert keys == [place(e) for e in whole["due"]] == sorted(keys)
        assert [e["tag"] + e["check"] for e in whole["due"] if e["state"] == "overdue"] == ["LV-02two-peg"]
        assert len(set(keys)) == len(keys) == 8, "three checks of each level, and their services"
        assert all(load == (whole["summary"], whole["now"], whole["weeks"]) for load in loads)
        later = [e for e in whole["due"] if e["check"] != "service" and e["state"] not in ("due", "overdue")]
        by_monday = {w["monday"]: w["minutes"] for w in whole["weeks"]}
        # The two-peg test of LV-07 lapses on 1 April, both compensators 91 days after 20 February, on 22 May.
        assert by_monday == {"2027-03-29": later[0]["minutes"], "2027-05-17": 2 * later[1]["minutes"]}
        assert {e["check"] for e in tam.get("due?days=400&check=service").json()["due"]} == {"service"}
        assert tam.get("due?cursor=abc").status_code == 422
        assert tam.get("due?limit=201").status_code == 422

    def test_a_list_that_is_kept_follows_every_change(self, tam: Api) -> None:
        before = tam.get("due").json()["now"]["checks"]
        tam.check(good(), at=AT)
        assert tam.get("due").json()["now"]["checks"] == before - 1

    def test_a_month_names_three_a_day_and_counts_all(self, tam: Api) -> None:
        tam.check(good(), at=AT)
        found = tam.get("due/month").json()
        days = {day["day"]: day for day in found["days"]}
        assert (found["today"], found["month"]) == (TODAY, "2027-03")
        assert (days[TODAY]["count"], len(days[TODAY]["due"])) == (7, 3), "due already: they stand on today"
        assert [(d["tag"], d["check"]) for d in days["2027-04-01"]["due"]] == [("LV-07", "two-peg")], "a whole week"
        assert found["checks"] == 5, "a service is no check, the first of April is no day of March"
        april = tam.get("due/month?month=2027-04").json()
        assert (april["checks"], [day["day"] for day in april["days"]]) == (1, ["2027-04-01"])
        assert tam.get("due/month?month=2027-02").json()["days"] == [], "28 February is a Sunday"

    @pytest.mark.parametrize("month", ["2027-13", "March", "0001-01", "3000-01", "2027-3"])
    def test_what_is_no_month_is_said(self, tam: Api, month: str) -> None:
        assert tam.get(f"due/month?month={month}").json()["faults"][0]["path"] == "month"


class TestEvents:
    @pytest.mark.parametrize("event", ["topple", "transport", "soaked", "control-jump"])
    def test_what_happened_makes_it_due(self, tam: Api, event: str) -> None:
        tam.check(good(), at="2027-03-01T06:40:00+00:00")
        assert tam.event(event, AT).status_code == 201
        assert state(tam) == ("hold" if event == "topple" else "check-first")
        assert due(tam)["LV-07", "two-peg"]["reasons"][0]["code"] == event

    def test_another_crew_takes_it_and_its_check_is_due(self, tam: Api, ines: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at="2027-02-27T06:40:00+00:00")
        tam.event("out", "2027-02-28T06:40:00+00:00")
        tam.event("in", "2027-02-28T16:40:00+00:00")
        assert state(tam) == "ready"
        ines.event("out", AT, crew="Thrift")
        assert state(tam) == "check-first"
        assert "from Bramble to Thrift" in due(tam)["LV-07", "two-peg"]["reasons"][0]["text"]

    def test_two_at_once_one_gets_it_the_other_reads_who_has_it(self, tam: Api, wren: Api) -> None:
        assert tam.event("out", AT).status_code == 201
        refused = wren.event("out", AT)
        assert (refused.status_code, refused.json()["code"]) == (409, "taken")
        assert "Bramble crew has LV-07" in refused.json()["title"]

    def test_what_waits_for_a_check_goes_out_with_a_reason_that_stays_on_record(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        refused = tam.event("out", AT, note=" ")
        assert (refused.status_code, refused.json()["faults"][0]["path"]) == (422, "note")
        assert "Never checked here" in refused.json()["faults"][0]["wanted"]
        record = tam.event("out", AT, note="Checked on the slope, from both ends.").json()
        assert tam.get(f"records/{record['id']}").json()["document"]["note"] == "Checked on the slope, from both ends."
        tam.check(good(), at="2027-03-02T07:40:00+00:00", instrument="LV-02")
        assert tam.event("out", "2027-03-02T08:40:00+00:00", instrument="LV-02", note="").status_code == 201


def test_every_event_that_is_sent_is_one_the_core_knows() -> None:
    assert set(get_args(Event)) == {kind.name for kind in EVENT_KINDS}


def test_a_temperature_step_as_the_screen_sends_it(tam: Api) -> None:
    tam.check(good(), at="2027-02-20T06:40:00+00:00")
    record = tam.event("temperature-step", AT, temperature_c="−12").json()
    assert tam.get(f"records/{record['id']}").json()["document"]["temperature_c"] == -12


class TestAway:
    def test_to_service_and_back_resets_what_was_known(self, tam: Api, ines: Api) -> None:
        tam.check(good(), at="2027-02-20T06:40:00+00:00")
        assert tam.event("service-out", AT, note="Yearly.").json()["code"] == "manager-only"
        assert ines.event("service-out", "2027-02-22T06:40:00+00:00", note="").json()["faults"][0]["path"] == "note"
        assert ines.event("service-out", "2027-02-22T06:40:00+00:00", note="Yearly.").status_code == 201
        assert (state(tam), tam.get("instruments/LV-07").json()["place"]) == ("away", "At service")
        refused = tam.event("out", "2027-02-23T06:40:00+00:00")
        assert (refused.status_code, refused.json()["code"]) == (409, "away")
        ines.event("service-in", "2027-03-01T06:40:00+00:00", note="Reticle set, cleaned.")
        assert (state(tam), tam.get("instruments/LV-07").json()["place"]) == ("check-first", "Yard")
        found = due(tam, days=400)
        assert found["LV-07", "two-peg"]["reasons"][0]["code"] == "service-in"
        assert found["LV-07", "service"]["due_on"] == "2028-02-29"
        assert context_of("LV-07").before == (), "an earlier finding is not held against it"

    def test_lent_and_back(self, ines: Api, tam: Api) -> None:
        tam.check(good(), at="2027-02-20T06:40:00+00:00")
        ines.event("lent", "2027-02-22T06:40:00+00:00", note="To the harbour office.")
        assert state(tam) == "away"
        assert "harbour office" in tam.get("instruments/LV-07").json()["standing"]["reasons"][0]["text"]
        ines.event("returned", "2027-03-01T06:40:00+00:00")
        assert state(tam) == "check-first"


class TestSkipped:
    def test_put_off_with_a_reason_and_a_name(self, tam: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at="2027-01-20T06:40:00+00:00")
        assert state(tam) == "check-first"
        answer = tam.event("skipped", AT, check="two-peg", until="2027-03-09", note="Rain all day.")
        assert answer.status_code == 201
        assert state(tam) == "ready-if"
        found = due(tam)["LV-07", "two-peg"]
        assert (found["state"], found["due_on"]) == ("soon", "2027-03-09")
        assert "Tam Brandreth: Rain all day." in found["reasons"][0]["text"]
        assert tam.event("out", "2027-03-02T07:00:00+00:00", note="").status_code == 201

    @pytest.mark.parametrize(
        ("more", "path"),
        [
            ({"check": "two-face", "until": "2027-03-09"}, "check"),
            ({"check": "service", "until": "2027-03-09"}, "check"),
            ({"check": "two-peg", "until": TODAY}, "until"),
            ({"check": "two-peg", "until": "2027-05-02"}, "until"),
            ({"check": "two-peg", "until": "soon"}, "until"),
        ],
    )
    def test_what_cannot_be_is_said_by_its_field(self, tam: Api, more: dict[str, str], path: str) -> None:
        tam.check(good(), at="2027-01-20T06:40:00+00:00")
        answer = tam.event("skipped", AT, note="Rain all day.", **more)
        assert (answer.status_code, [fault["path"] for fault in answer.json()["faults"]]) == (422, [path])

    def test_never_what_did_not_pass(self, tam: Api) -> None:
        tam.check(good(), at="2027-02-10T06:40:00+00:00")
        tam.check(good(c=24), at="2027-02-20T06:40:00+00:00")
        assert not due(tam)["LV-07", "two-peg"]["can_wait"]
        answer = tam.event("skipped", AT, check="two-peg", until="2027-03-09", note="No time.")
        assert (answer.status_code, answer.json()["code"]) == (409, "cannot-skip")

    @pytest.mark.parametrize("event", ["knock", "drop"])
    def test_never_after_a_knock_or_a_fall(self, tam: Api, event: str) -> None:
        tam.check(good(), at="2027-02-20T06:40:00+00:00")
        tam.event(event, "2027-03-01T06:40:00+00:00")
        answer = tam.event("skipped", AT, check="two-peg", until="2027-03-09", note="No time.")
        assert (answer.status_code, answer.json()["code"]) == (409, "cannot-skip")


class TestRules:
    def rule(self, **more: Any) -> dict[str, Any]:
        return {"check": "two-peg", "every_days": "14", "after": ["knock", "drop"], **more}

    def test_the_default_rules_are_listed_and_a_change_is_seen_before_it_is_made(self, tam: Api, ines: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at="2027-02-10T06:40:00+00:00")
        listed = {rule["check"]: rule for rule in ines.get("due-rules").json()["rules"]}
        assert (listed["two-peg"]["every_days"], listed["two-peg"]["id"]) == (30, None)
        preview = ines.post("due-rules/preview", self.rule()).json()
        assert (preview["looked_at"], preview["due_now"], preview["due_then"]) == (2, 1, 2)
        assert preview["changes"] == [
            {"tag": "LV-07", "before": "due on 12 Mar 2027", "after": "overdue since 24 Feb 2027"}
        ]
        assert state(tam) == "ready", "a preview changes nothing"
        saved = ines.put("due-rules", self.rule()).json()
        assert (saved["every_days"], saved["by"]) == (14, "Ines Calder")
        assert state(tam) == "check-first"
        assert due(tam)["LV-07", "two-peg"]["state"] == "overdue"
        changes = [change["label"] for change in ines.get("changes?about=plan").json()]
        assert "Two-peg test: every so many days" in changes
        assert ines.delete(f"due-rules/{saved['id']}").status_code == 204
        assert state(tam) == "ready"

    def test_a_rule_for_a_climate_holds_where_the_firm_works_in_it(self, tam: Api, ines: Api) -> None:
        tam.compensators("LV-02", "LV-07")
        tam.check(good(), at="2027-02-10T06:40:00+00:00")
        ines.put("due-rules", self.rule(climate="hot"))
        assert state(tam) == "ready"
        assert ines.put("organisation", {"climate": "hot"}).status_code == 200
        assert state(tam) == "check-first"
        refused = ines.put("organisation", {"climate": "lunar"})
        assert refused.json()["faults"][0]["path"] == "climate"

    @pytest.mark.parametrize(
        ("more", "path"),
        [({"every_days": 0}, "every_days"), ({"check": "moon"}, "check"), ({"after": ["storm"]}, "after[0]"),
         ({"temperature_step_c": "warm"}, "temperature_step_c"), ({"every_days": "a week"}, "every_days"), ({"every_days": "7.5"}, "every_days")],
    )  # fmt: skip
    def test_a_rule_that_cannot_be_is_refused_by_its_field(self, ines: Api, more: dict[str, Any], path: str) -> None:
        answer = ines.put("due-rules", self.rule(**more))
        assert (answer.status_code, answer.json()["faults"][0]["path"]) == (422, path)

    def test_two_managers_at_once(self, ines: Api) -> None:
        first = ines.put("due-rules", self.rule()).json()
        ines.put("due-rules", self.rule(every_days=20, version=first["version"]))
        late = ines.put("due-rules", self.rule(every_days=10, version=first["version"]))
        assert (late.status_code, late.json()["code"]) == (409, "changed-meanwhile")
        assert ines.get("due-rules").json()["rules"][0]["check"], "nothing is lost"

    def test_only_the_manager_sets_them(self, tam: Api) -> None:
        assert tam.put("due-rules", self.rule()).json()["code"] == "manager-only"
        assert tam.post("due-rules/preview", self.rule()).json()["code"] == "manager-only"


class TestJobs:
    def job(self, **more: Any) -> dict[str, Any]:
        return {"name": "Flood wall line", "starts_on": "2027-03-05", "ends_on": "2027-03-19", "large": True, **more}

    def test_a_large_job_asks_for_its_checks_in_the_week_before_it(self, ines: Api, tam: Api) -> None:
        rule = {"check": "two-peg", "every_days": 30, "after": [], "before_large_jobs": True}
        ines.put("due-rules", rule)
        tam.check(good(), at="2027-02-20T06:40:00+00:00")
        assert due(tam)["LV-07", "two-peg"]["due_on"] == "2027-03-22"
        job = tam.post("jobs", self.job()).json()
        found = due(tam)["LV-07", "two-peg"]
        assert (found["state"], found["due_on"], found["reasons"][0]["code"]) == ("soon", "2027-03-04", "large-job")
        tam.put(f"jobs/{job['id']}", {**self.job(large=False), "version": job["version"]})
        assert due(tam)["LV-07", "two-peg"]["due_on"] == "2027-03-22"
        assert [each["name"] for each in tam.get("jobs").json()] == ["Flood wall line"]
        assert tam.delete(f"jobs/{job['id']}").status_code == 204
        assert tam.get("jobs").json() == []

    def test_a_job_of_another_crew_asks_nothing_of_this_ones_instruments(self, ines: Api, tam: Api) -> None:
        ines.put("due-rules", {"check": "two-peg", "every_days": 30, "before_large_jobs": True})
        tam.check(good(), at="2027-02-20T06:40:00+00:00")
        tam.event("out", "2027-02-21T06:40:00+00:00")
        ines.post("jobs", self.job(crew="Thrift"))
        assert due(tam)["LV-07", "two-peg"]["due_on"] == "2027-03-22"
        ines.post("jobs", self.job(crew="Bramble"))
        assert due(tam)["LV-07", "two-peg"]["due_on"] == "2027-03-04"

    @pytest.mark.parametrize(
        ("more", "path"),
        [({"name": " "}, "name"), ({"ends_on": "2027-03-04"}, "ends_on"), ({"crew": "Nobody"}, "crew"),
         ({"temperature_c": "80"}, "temperature_c"), ({"temperature_c": "cold"}, "temperature_c")],
    )  # fmt: skip
    def test_what_cannot_be_is_said_by_its_field(self, tam: Api, more: dict[str, Any], path: str) -> None:
        answer = tam.post("jobs", self.job(**more))
        assert (answer.status_code, answer.json()["faults"][0]["path"]) == (422, path)

    def test_a_temperature_as_it_is_typed(self, tam: Api) -> None:
        assert tam.post("jobs", self.job(temperature_c="−2,5")).json()["temperature_c"] == -2.5

    def test_a_trainee_asks(self, jory: Api) -> None:
        assert jory.post("jobs", self.job()).json()["code"] == "ask-the-chief"


class TestCalendar:
    def read(self, path: str) -> dict[str, Any]:
        """The entries of a feed by title, as another program's library reads them, without being signed in."""
        answer = Client().get(path)
        assert (answer.status_code, answer["Content-Type"]) == (200, "text/calendar; charset=utf-8")
        found = vobject.readOne(answer.content.decode())
        return {event.summary.value: event for event in found.contents.get("vevent", [])}

    def test_a_feed_is_read_back_by_another_reader(self, tam: Api, ines: Api) -> None:
        tam.check(good(), at=AT)
        tam.event("out", "2027-03-02T07:10:00+00:00")
        ines.post("jobs", {"name": "Mur d’eau, südlich", "starts_on": "2027-03-05", "ends_on": "2027-03-06"})
        made = ines.post("calendar-links", {"scope": "fleet"}).json()
        found = self.read(made["path"])
        peg = found["LV-07: two-peg test, 15 minutes"]
        assert (peg.dtstart.value, peg.dtend.value) == (date(2027, 4, 1), date(2027, 4, 2))
        assert "last passed on 2 Mar 2027" in peg.description.value
        assert found["LV-02: two-peg test, 15 minutes"].dtstart.value == date(2027, 3, 2), "due already: today"
        job = found["Mur d’eau, südlich"]
        assert (job.dtstart.value, job.dtend.value) == (date(2027, 3, 5), date(2027, 3, 7))
        again = self.read(made["path"])
        assert [event.uid.value for event in again.values()] == [event.uid.value for event in found.values()]

    def test_of_a_crew_and_of_an_instrument(self, tam: Api, ines: Api) -> None:
        tam.event("out", AT)
        ines.post("jobs", {"name": "Wall", "crew": "Thrift", "starts_on": "2027-03-05", "ends_on": "2027-03-06"})
        crew = tam.post("calendar-links", {"scope": "crew", "name": "Bramble"}).json()
        assert {title[:5] for title in self.read(crew["path"])} == {"LV-07"}
        one = tam.post("calendar-links", {"scope": "instrument", "name": "lv2"}).json()
        assert one["name"] == "LV-02"
        assert {title[:5] for title in self.read(one["path"])} == {"LV-02"}

    def test_revoked_it_gives_nothing_and_the_secret_is_kept_nowhere(self, ines: Api) -> None:
        made = ines.post("calendar-links", {"scope": "fleet"}).json()
        secret = made["path"].split("/")[-1].removesuffix(".ics")
        assert secret not in ines.get("calendar-links").content.decode()
        assert secret not in str(list(CalendarLink.objects.values()))
        assert ines.delete(f"calendar-links/{made['id']}").status_code == 204
        assert Client().get(made["path"]).status_code == 404
        assert ines.get("calendar-links").json() == []
        assert ines.delete(f"calendar-links/{made['id']}").status_code == 422

    def test_what_cannot_be_is_said(self, ines: Api, jory: Api) -> None:
        assert ines.post("calendar-links", {"scope": "moon"}).json()["faults"][0]["path"] == "scope"
        assert ines.post("calendar-links", {"scope": "crew", "name": "Nobody"}).json()["faults"][0]["path"] == "name"
        assert ines.post("calendar-links", {"scope": "instrument", "name": "LV-99"}).status_code == 404
        assert jory.post("calendar-links", {"scope": "fleet"}).json()["code"] == "ask-the-chief"
        assert Client().get("/api/calendar/guessed.ics").status_code == 404


class TestLoad:
    def test_it_is_spread_over_quiet_mornings_and_nothing_is_lost(self, tam: Api, ines: Api) -> None:
        """Today is a Tuesday; LV-02 was never checked, LV-07 on 2 March: its plan has both, LV-02 today, job or not."""
        tam.check(good(), at=AT)
        busy = {"name": "a", "crew": None, "starts_on": TODAY, "ends_on": "2027-03-03"}
        assert ines.post("jobs", busy).status_code == 201
        load = ines.get("due/levelled?days=40").json()
        placed = {
            (check["tag"], check["check"]): morning for morning in load["mornings"] for check in morning["checks"]
        }
        assert set(placed) == {key for key in due(tam, days=40) if key[1] != "service"}
        now = placed["LV-02", "two-peg"]
        assert (now["day"], now["quiet"]) == (TODAY, False)
        assert now["crew"] in ("Bramble", "Thrift")
        assert sum(week["due"] for week in load["weeks"]) == sum(week["levelled"] for week in load["weeks"])

    def test_what_is_away_is_not_planned(self, ines: Api) -> None:
        ines.event("service-out", AT, instrument="LV-02", note="yearly")
        assert {c["tag"] for m in ines.get("due/levelled").json()["mornings"] for c in m["checks"]} == {"LV-07"}


def test_what_service_cost_is_summed_by_year_and_model(ines: Api) -> None:
    ines.event("service-out", "2026-12-20T08:00:00+00:00", note="yearly")
    ines.event("service-in", "2027-01-04T08:00:00+00:00", note="cleaned", cost="200", days_cost="75.5")
    ines.event("service-out", "2027-02-27T08:00:00+00:00", instrument="LV-02", note="slow")
    found = ines.get("service-costs").json()
    assert found["years"] == [
        {"year": 2027, "model": "Ondine Merrow", "services": 1, "days": 15, "cost": 200.0, "days_cost": 75.5}
    ]
    assert found["away"] == [{"tag": "LV-02", "model": "Ondine Merrow", "since": "2027-02-27", "days": 3}]
