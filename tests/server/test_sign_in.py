"""Passwords, leavers, lost tablets; how many may try at once; who is believed about where a request comes from."""

from __future__ import annotations

import threading
from io import StringIO
from types import SimpleNamespace
from typing import Any

import pytest
from axes.models import AccessAttempt
from django.conf import settings
from django.core.management import call_command
from django.test import Client, RequestFactory

from people import attempts
from people.models import Person
from shared.addresses import client_address
from shared.errors import Later

from .conftest import Api

GOOD, BETTER = "stone-lichen-coral", "heron-quarry-basalt"


@pytest.fixture(autouse=True)
def nobody_tried() -> None:
    attempts._tried.clear()


@pytest.fixture
def wren_in(firm: dict[str, Any]) -> Api:
    """Wren, signed in by her password on a tablet."""
    firm["wren"].set_password(GOOD)
    firm["wren"].save()
    return signed_in("wren", GOOD)


def signed_in(username: str, password: str) -> Api:
    api = Api(None)
    response = api.post("session", {"username": username, "password": password})
    assert response.status_code == 200, response.content
    api.token = response.json()["csrf_token"]
    return api


class TestOnesOwnPassword:
    def test_changed_it_ends_every_other_session(self, wren_in: Api) -> None:
        lost = signed_in("wren", GOOD)
        response = wren_in.put("session/password", {"old": GOOD, "new": BETTER})
        assert response.status_code == 200
        wren_in.token = response.json()["csrf_token"]
        assert wren_in.get("people").status_code == 200
        assert lost.get("people").status_code == 401
        assert signed_in("wren", BETTER).get("people").status_code == 200

    @pytest.mark.parametrize(
        ("old", "new", "path"),
        [
            ("not-the-old-one", BETTER, "old"),
            (GOOD, "short", "new"),
            (GOOD, " " * 10, "new"),
            (GOOD, "aaaaaaaaaaaa", "new"),
            (GOOD, "Wren Adair", "new"),
            (GOOD, "wren123456", "new"),
            (GOOD, "password1234", "new"),
        ],
    )
    def test_what_is_refused_names_its_field(self, wren_in: Api, old: str, new: str, path: str) -> None:
        response = wren_in.put("session/password", {"old": old, "new": new})
        assert (response.status_code, response.json()["faults"][0]["path"]) == (422, path)
        assert Person.objects.get(username="wren").check_password(GOOD)

    def test_signed_out_everywhere(self, wren_in: Api) -> None:
        lost = signed_in("wren", GOOD)
        assert wren_in.delete("people/wren/sessions").status_code == 204
        assert (lost.get("people").status_code, wren_in.get("people").status_code) == (401, 401)


class TestTheManager:
    def test_gives_a_new_password(self, ines: Api, wren_in: Api) -> None:
        assert ines.put("people/wren/password", {"password": BETTER}).json()["active"]
        assert wren_in.get("people").status_code == 401
        signed_in("wren", BETTER)

    def test_lets_a_leaver_go_and_takes_them_back(self, ines: Api, wren_in: Api) -> None:
        assert ines.put("people/wren/active", {"active": False}).json()["active"] is False
        assert wren_in.get("people").status_code == 401
        assert Api(None).post("session", {"username": "wren", "password": GOOD}).status_code == 401
        assert [person["active"] for person in ines.get("people/all").json() if person["username"] == "wren"] == [False]
        assert "wren" not in [person["username"] for person in ines.get("people").json()]
        ines.put("people/wren/active", {"active": True})
        signed_in("wren", GOOD)

    def test_ends_the_sessions_of_a_lost_tablet(self, ines: Api, wren_in: Api) -> None:
        assert ines.delete("people/wren/sessions").status_code == 204
        assert wren_in.get("people").status_code == 401

    def test_the_last_manager_does_not_leave(self, ines: Api) -> None:
        response = ines.put("people/ines/active", {"active": False})
        assert "another manager first" in response.json()["faults"][0]["wanted"]

    def test_others_may_not(self, tam: Api) -> None:
        for found in (
            tam.put("people/wren/password", {"password": BETTER}),
            tam.put("people/wren/active", {"active": False}),
            tam.delete("people/wren/sessions"),
            tam.get("people/all"),
        ):
            assert (found.status_code, found.json()["code"]) == (403, "manager-only")

    def test_by_command_on_the_machine_itself(self, wren_in: Api, monkeypatch: pytest.MonkeyPatch) -> None:
        monkeypatch.setattr("getpass.getpass", lambda *_: BETTER)
        out = StringIO()
        call_command("set_password", "wren", stdout=out)
        assert wren_in.get("people").status_code == 401
        again = signed_in("wren", BETTER)
        call_command("end_sessions", "wren", stdout=out)
        assert again.get("people").status_code == 401
        call_command("deactivate", "wren", stdout=out)
        assert not Person.objects.get(username="wren").is_active
        assert "Wren Adair signs in no more." in out.getvalue()


class TestTries:
    @pytest.mark.usefixtures("wren_in")
    def test_a_success_ends_the_count_and_another_address_is_not_shut_out(self) -> None:
        def wrong(times: int, address: str) -> list[int]:
            client = Client(REMOTE_ADDR=address)
            body = {"username": "wren", "password": "wrong-wrong-wrong"}
            return [
                client.post("/api/session", body, content_type="application/json").status_code for _ in range(times)
            ]

        def right(address: str) -> Any:
            return Client(REMOTE_ADDR=address).post(
                "/api/session", {"username": "wren", "password": GOOD}, content_type="application/json"
            )

        assert wrong(7, "203.0.113.5") == [401] * 7
        assert right("203.0.113.5").status_code == 200
        assert wrong(7, "203.0.113.5") == [401] * 7
        stranger = wrong(12, "203.0.113.9")
        assert stranger[-1] == 429
        shut = right("203.0.113.9")
        assert (shut.status_code, shut.headers["Retry-After"]) == (429, "900")
        assert right("203.0.113.5").status_code == 200, "a stranger elsewhere shuts nobody out"

    def test_too_many_of_one_address_and_too_many_at_once(self) -> None:
        for _ in range(attempts.MAX_OF_AN_ADDRESS):
            with attempts.one_attempt("203.0.113.7"):
                pass
        with pytest.raises(Later) as caught, attempts.one_attempt("203.0.113.7"):
            pass
        assert (caught.value.status, caught.value.after_s > 800) == (429, True)
        inside, go = threading.Semaphore(0), threading.Event()

        def hold() -> None:
            with attempts.one_attempt("203.0.113.8"):
                inside.release()
                go.wait(10)

        held = [threading.Thread(target=hold) for _ in range(attempts.AT_ONCE)]
        for entry in held:
            entry.start()
            inside.acquire()
        try:
            with pytest.raises(Later), attempts.one_attempt("203.0.113.9"):
                pass
        finally:
            go.set()
            for entry in held:
                entry.join()

    @pytest.mark.usefixtures("firm")
    def test_a_stranger_fills_no_disk(self) -> None:
        stranger = Api(None)
        response = stranger.post("session", {"username": "x" * 1_000_000, "password": "y"})
        assert response.status_code == 400
        assert stranger.post("session", {"username": "x" * 61, "password": "y"}).status_code == 422
        assert stranger.post("session", {"username": "x", "password": "y" * 201}).status_code == 422
        assert AccessAttempt.objects.count() == 0

    @pytest.mark.usefixtures("firm")
    def test_attempts_are_cleared(self, monkeypatch: pytest.MonkeyPatch) -> None:
        Api(None).post("session", {"username": "wren", "password": "wrong-wrong-wrong"})
        assert AccessAttempt.objects.count() == 1
        monkeypatch.setattr(settings, "AXES_COOLOFF_TIME", 0.0)
        attempts.forget_old()
        assert AccessAttempt.objects.count() == 0


class TestWhoAsks:
    @pytest.mark.parametrize(
        ("proxies", "remote", "header", "address"),
        [
            ([], "203.0.113.5", "198.51.100.1", "203.0.113.5"),
            (["127.0.0.1"], "127.0.0.1", "198.51.100.1", "198.51.100.1"),
            (["127.0.0.1"], "127.0.0.1", "6.6.6.6, 198.51.100.1", "198.51.100.1"),
            (["127.0.0.1", "10.0.0.2"], "127.0.0.1", "198.51.100.1, 10.0.0.2", "198.51.100.1"),
            (["127.0.0.1"], "203.0.113.5", "198.51.100.1", "203.0.113.5"),
            (["127.0.0.1"], "127.0.0.1", "", "127.0.0.1"),
        ],
    )
    def test_a_header_counts_only_from_our_own_proxy(
        self, proxies: list[str], remote: str, header: str, address: str, monkeypatch: pytest.MonkeyPatch
    ) -> None:
        monkeypatch.setattr(settings, "NAVETA", SimpleNamespace(trusted_proxies=proxies))
        request = RequestFactory().get("/", REMOTE_ADDR=remote, HTTP_X_FORWARDED_FOR=header)
        assert client_address(request) == address

    @pytest.mark.parametrize(
        "header", ["HTTP_X_FORWARDED_FOR", "HTTP_FORWARDED", "HTTP_X_REAL_IP", "HTTP_VIA", "HTTP_X_FORWARDED_HOST"]
    )
    @pytest.mark.usefixtures("firm")
    def test_one_touch_is_refused_behind_anything(self, header: str) -> None:
        near = Client(**{header: "198.51.100.1"})
        assert near.get("/api/session").json()["demo"] is False
        assert near.post("/api/session", {"username": "tam"}, content_type="application/json").status_code == 401
