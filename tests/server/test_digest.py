"""The week by e-mail: what it says, to whom, once a week."""

from __future__ import annotations

import io
from typing import Any

import pytest
from django.core import mail
from django.core.management import CommandError, call_command

from config.environment import Environment
from fleet.digest import digest_for
from people.models import Person
from shared import clock
from tests.server.conftest import Api, good

AT = "2027-03-02T06:40:00+00:00"


def weekly() -> str:
    out = io.StringIO()
    call_command("send_digest", stdout=out)
    return out.getvalue()


def test_what_it_says(tam: Api, ines: Api, firm: dict[str, Any]) -> None:
    tam.check(good(), at=AT)
    tam.event("out", AT, instrument="LV-07")
    tam.event("knock", AT, note="against the rail.")
    ines.event("service-out", AT, instrument="LV-02", note="yearly.")
    ines.post("jobs", {"name": "Flood wall", "crew": "Bramble", "starts_on": "2027-03-04", "ends_on": "2027-03-05"})
    ines.post("jobs", {"name": "Deck", "crew": None, "starts_on": "2027-03-12", "ends_on": "2027-03-13"})
    digest = digest_for(firm["tam"], clock.today())
    assert digest.text.startswith("Bramble crew, week of 1 Mar 2027\n\n")
    assert "- LV-07 (Bramble crew): Two-peg test, 15 minutes. Knocked on 2 Mar 2027" in digest.text
    assert "- Flood wall, Bramble crew: 4 Mar 2027 to 5 Mar 2027" in digest.text
    assert "Deck" not in digest.text
    assert "LV-02" not in digest.text, "another's instrument"
    assert digest.subject.startswith("Naveta: ")
    everything = digest_for(firm["ines"], clock.today()).text
    assert "- LV-02: At service since 2 Mar 2027: yearly." in everything
    assert everything.startswith("All instruments, week of 1 Mar 2027")


def test_it_goes_to_everybody_with_an_address_once_a_week(tam: Api, ines: Api) -> None:
    assert "nobody" in weekly()
    assert tam.put("digest/address", {"email": "tam@example.org"}).json()["email"] == "tam@example.org"
    ines.put("digest/address", {"email": "ines@example.org"})
    assert weekly() == "Sent to Ines Calder, Tam Brandreth.\n"
    assert [message.to for message in mail.outbox] == [["ines@example.org"], ["tam@example.org"]]
    assert "nobody" in weekly()
    assert len(mail.outbox) == 2
    Person.objects.update(digest_week="2027-02-22")
    tam.put("digest/address", {"email": ""})
    assert weekly() == "Sent to Ines Calder.\n"


def test_one_looks_at_it_and_sends_it_to_oneself(tam: Api) -> None:
    shown = tam.get("digest").json()
    assert (shown["email"], shown["can_send"], shown["sent"]) == ("", True, [])
    assert shown["text"].startswith("Bramble crew, week of 1 Mar 2027")
    refused = tam.post("digest", {})
    assert (refused.status_code, refused.json()["title"]) == (409, "Enter your e-mail address first.")
    wrong = tam.put("digest/address", {"email": "tam at example"})
    assert wrong.json()["faults"][0]["path"] == "email"
    tam.put("digest/address", {"email": "tam@example.org"})
    assert tam.post("digest", {}).status_code == 200
    assert mail.outbox[0].body == shown["text"]


def test_a_mail_server_that_refuses_is_said_and_it_is_tried_again(tam: Api, monkeypatch: pytest.MonkeyPatch) -> None:
    tam.put("digest/address", {"email": "tam@example.org"})

    def refuse(self: object) -> None:
        raise ConnectionRefusedError(111, "Connection refused")

    monkeypatch.setattr("fleet.digest.EmailMessage.send", refuse)
    with pytest.raises(CommandError, match="Tam Brandreth: The mail server refused the message"):
        weekly()
    monkeypatch.undo()
    assert weekly() == "Sent to Tam Brandreth.\n"


def test_without_a_mail_server_it_is_said(
    tmp_path: Any, tam: Api, monkeypatch: pytest.MonkeyPatch, settings: Any
) -> None:
    for name in ("NAVETA_DEMO", "NAVETA_DATA"):
        monkeypatch.delenv(name, raising=False)
    plain = Environment(data=tmp_path, demo=False)
    assert (plain.sends_mail, plain.address) == (False, "")
    assert plain.mail()["backend"].endswith("dummy.EmailBackend")
    served = Environment(
        data=tmp_path, demo=False, smtp_host="mail.example.org", hosts="naveta.example.org", https=True
    )
    assert (served.sends_mail, served.address) == (True, "https://naveta.example.org")
    assert served.mail()["backend"].endswith("smtp.EmailBackend")
    settings.NAVETA = plain
    tam.put("digest/address", {"email": "tam@example.org"})
    assert tam.get("digest").json()["can_send"] is False
    assert tam.post("digest", {}).json()["code"] == "no-mail"


def test_the_demo_writes_it_where_it_can_be_read(tmp_path: Any, tam: Api, settings: Any) -> None:
    settings.EMAIL_BACKEND = "django.core.mail.backends.filebased.EmailBackend"
    settings.EMAIL_FILE_PATH = str(tmp_path)
    tam.put("digest/address", {"email": "tam@example.org"})
    shown = tam.post("digest", {}).json()
    assert [each["subject"] for each in shown["sent"]] == [shown["subject"]]
    assert shown["sent"][0]["text"] == shown["text"]
