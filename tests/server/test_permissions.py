"""Who may come in, and what every refusal looks like."""

from __future__ import annotations

import json
import re

import pytest
from django.conf import settings
from django.test import Client

from config.api import api
from people.models import Person
from shared.rights import TABLE, may

from .conftest import Api, good

OPEN = {
    ("get", "/api/session"),
    ("post", "/api/session"),
    ("post", "/api/join"),
    ("get", "/api/calendar/{secret}.ics"),  # its secret is the key; revoked in the plan
}


def operations() -> list[tuple[str, str]]:
    paths = api.get_openapi_schema()["paths"]
    found = [(verb, path) for path, verbs in paths.items() for verb in verbs]
    return [entry for entry in found if entry not in OPEN]


def filled(path: str) -> str:
    sample = {
        "uuid": "3f1c1f6e-0000-4000-8000-000000000001",
        "tag": "LV-07",
        "kind": "two-peg",
        "name": "PC-01",
        "username": "tam",
        "what": "adjust",
        "pk": "1",
        "digest": "0" * 64,
    }
    return re.sub(r"{(\w+)}", lambda match: sample[match[1]], path)


@pytest.mark.parametrize(("verb", "path"), operations())
def test_every_operation_needs_a_person(db, verb: str, path: str) -> None:
    answer = Client().generic(verb.upper(), filled(path), b"{}", content_type="application/json")
    assert answer.status_code == 401, path
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert answer.json()["code"] == "signed-out"


@pytest.mark.parametrize(("verb", "path"), [operation for operation in operations() if operation[0] != "get"])
def test_every_unsafe_operation_needs_the_token(firm, verb: str, path: str) -> None:
    answer = Api(firm["ines"]).send(verb.upper(), filled(path)[5:], {}, token=False)
    assert answer.status_code == 403, path
    assert answer.json()["code"] == "no-token"


def test_sign_in_itself_needs_the_token(firm) -> None:
    client = Client(enforce_csrf_checks=True)
    for path, body in (("session", {"username": "tam"}), ("join", {"link": "tam.x", "password": "stone-lichen-sea"})):
        answer = client.post(f"/api/{path}", json.dumps(body), content_type="application/json")
        assert (answer.status_code, answer.json()["code"]) == (403, "no-token")


def test_one_touch_in_the_marked_demo_on_this_machine_only(firm) -> None:
    stranger = Api(None)
    assert [p["username"] for p in stranger.get("session").json()["demo_people"]] == ["ines", "tam", "wren", "jory"]
    assert stranger.post("session", {"username": "tam"}).json()["person"]["name"] == "Tam Brandreth"
    far = Client(REMOTE_ADDR="203.0.113.7")
    assert far.get("/api/session").json()["demo"] is False
    assert far.post("/api/session", json.dumps({"username": "tam"}), content_type="application/json").status_code == 401


def test_no_one_touch_without_the_mark(firm, monkeypatch) -> None:
    monkeypatch.setattr(settings.NAVETA, "demo", False)
    assert Api(None).post("session", {"username": "tam"}).status_code == 401


def test_password_sign_in_out_and_lockout(firm) -> None:
    firm["wren"].set_password("stone-lichen-coral")
    firm["wren"].save()
    stranger = Api(None)
    assert (
        stranger.post("session", {"username": "wren", "password": "wrong-wrong-wrong"}).json()["code"]
        == "wrong-sign-in"
    )
    signed_in = stranger.post("session", {"username": "wren", "password": "stone-lichen-coral"})
    assert signed_in.json()["person"]["crew"] == "Thrift"
    stranger.token = signed_in.json()["csrf_token"]
    assert stranger.send("DELETE", "session", {}).status_code == 204
    assert stranger.get("people").status_code == 401
    other = Api(None)
    codes = [other.post("session", {"username": "ines", "password": "x" * 12}).status_code for _ in range(9)]
    assert codes[0] == 401
    assert codes[-1] == 429


def test_the_session_says_what_each_may_do(jory: Api, ines: Api) -> None:
    rights = jory.get("session").json()["rights"]
    assert rights["note-event"]["allowed"]
    assert not rights["save-check"]["allowed"]
    assert "crew chief" in rights["save-check"]["text"]
    assert all(right["allowed"] for right in ines.get("session").json()["rights"].values())


def test_nobody_may_nothing() -> None:
    assert all(not may(None, act).allowed for act in TABLE)


@pytest.mark.parametrize(
    ("path", "status", "code"),
    [
        ("nowhere", 404, "not-found"),
        ("instruments/LV-99", 404, "not-found"),
        ("instruments/wrong", 404, "not-found"),
        ("records?limit=0", 422, "faults"),
        ("records?cursor=abc", 422, "faults"),
        ("instruments?limit=x", 422, "faults"),
    ],
)
def test_every_refusal_has_one_shape(tam: Api, path: str, status: int, code: str) -> None:
    answer = tam.get(path)
    assert answer.status_code == status
    assert answer.headers["Content-Type"] == "application/problem+json"
    assert answer.json()["code"] == code


def test_wrong_method_has_the_one_shape_too(tam: Api) -> None:
    answer = tam.send("PATCH", "people", {})
    assert (answer.status_code, answer.json()["code"]) == (405, "wrong-method")


@pytest.mark.parametrize(
    ("body", "status", "sentence"),
    [
        (b"{", 400, "not JSON"),
        (b"\xff", 400, "not UTF-8"),
        (b'{"document": {"a": NaN}}', 400, "NaN"),
        (b'{"document": {}, "document": {}}', 400, "twice"),
        (b'"' + b"x" * (2 * 1024 * 1024) + b'"', 413, "too many"),
        (b"[]", 422, "wrong"),
    ],
)
def test_bodies_that_cannot_be_read(tam: Api, body: bytes, status: int, sentence: str) -> None:
    for verb, path in (("POST", "preview"), ("PUT", "checks/3f1c1f6e-0000-4000-8000-000000000001")):
        answer = tam.send(verb, path, body)
        assert answer.status_code == status
        assert sentence in answer.json()["title"]


def test_a_trainee_previews_and_notes_a_knock_but_does_not_save(jory: Api) -> None:
    assert jory.post("preview", {"instrument": "LV-07", "document": good()}).json()["complete"]
    refused = jory.check(good())
    assert (refused.status_code, refused.json()["code"]) == (403, "trainee-does-not-save")
    assert jory.event("knock", "2027-03-02T06:00:00+00:00").status_code == 201
    assert jory.event("out", "2027-03-02T06:00:00+00:00").status_code == 403


def test_the_chief_saves_the_trainees_readings_under_both_names(tam: Api) -> None:
    saved = tam.check(good(), observed_by="jory").json()
    assert (saved["observed_by"], saved["entered_by"]) == ("Jory Pell", "Tam Brandreth")
    assert tam.check(good(), observed_by="nobody").json()["faults"][0]["path"] == "observed_by"


def test_only_the_manager_changes_the_fleet_and_people(tam: Api, ines: Api) -> None:
    model = {
        "maker": "Ondine",
        "name": "Skerrow",
        "kind": "digital-level",
        "stated": {"reading": "digital", "levelling_accuracy_mm_per_km": 0.7},
    }
    assert tam.post("models", model).json()["code"] == "manager-only"
    response = ines.post("models", model)
    assert response.status_code == 201
    assert ines.post("instruments", {"tag": "lv 9", "model": response.json()["id"]}).json()["tag"] == "LV-09"
    assert tam.get("instruments/lv9").json()["checks"] == [
        "circular-vial",
        "compensator-function",
        "two-peg",
        "levelling-accuracy",
    ]
    assert (
        ines.post(
            "people", {"username": "Alma", "name": "Alma Reed", "role": "crew", "password": "lichen-stone-sea"}
        ).status_code
        == 201
    )
    assert Person.objects.get(username="alma").check_password("lichen-stone-sea")


def test_fleet_faults_name_field_given_and_wanted(ines: Api) -> None:
    wrong = ines.post(
        "models",
        {
            "maker": "",
            "name": "Merrow",
            "kind": "sextant",
            "stated": {"magnification": -3, "colour": "red"},
        },
    )
    assert {f["path"] for f in wrong.json()["faults"]} == {
        "maker",
        "kind",
        "stated.magnification",
        "stated.colour",
    }
    again = ines.post("instruments", {"tag": "LV-07", "model": 999, "crew": "Nobody"})
    assert {f["path"] for f in again.json()["faults"]} == {"tag", "model", "crew"}
    assert ines.post("people", {"username": "tam", "name": "", "role": "king", "password": "short"}).status_code == 422
