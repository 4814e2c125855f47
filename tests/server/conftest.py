"""A small firm for the server's tests, and a client that carries its token as the web does."""

from __future__ import annotations

import json
import uuid
from datetime import date
from typing import Any

import pytest
from django.conf import settings
from django.test import Client
from django.test.client import ClientHandler

from fleet.models import Instrument, InstrumentModel
from people.models import Crew, Person

from ..core.builders import exact

NEAR = [(30, 30), (56, 4)]


_chains: dict[int, tuple[Any, dict[str, Any]]] = {}
_load_middleware = ClientHandler.load_middleware


def _one_chain(self: ClientHandler, is_async: bool = False) -> None:
    """Take the middleware another client of these settings was given: each anew reads every file of the web (30 ms)."""
    wrapped = settings._wrapped  # type: ignore[misc]
    held, chain = _chains.get(id(wrapped), (None, {}))
    if held is not wrapped:
        _load_middleware(self, is_async)
        chain = {
            name: value for name, value in vars(self).items() if name.endswith(("_middleware", "_middleware_chain"))
        }
        _chains[id(wrapped)] = wrapped, chain
    vars(self).update(chain)


ClientHandler.load_middleware = _one_chain  # type: ignore[method-assign]


class Api:
    """The API as the web uses it: JSON in and out, the token on every change."""

    def __init__(self, person: Person | None) -> None:
        self.client = Client(enforce_csrf_checks=True)
        if person is not None:
            self.client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
        self.token = self.client.get("/api/session").json()["csrf_token"]

    def get(self, path: str) -> Any:
        return self.client.get("/api/" + path)

    def send(self, verb: str, path: str, data: Any, *, token: bool = True) -> Any:
        body = data if isinstance(data, bytes) else json.dumps(data).encode()
        headers = {"x-csrftoken": self.token} if token else {}
        return self.client.generic(verb, "/api/" + path, body, content_type="application/json", headers=headers)

    def put(self, path: str, data: Any) -> Any:
        return self.send("PUT", path, data)

    def post(self, path: str, data: Any) -> Any:
        return self.send("POST", path, data)

    def delete(self, path: str) -> Any:
        return self.send("DELETE", path, {})

    def check(
        self, document: Any, *, identity: str | None = None, at: str = "2027-03-02T06:40:00+00:00", **more: Any
    ) -> Any:
        """Save a check of LV-07 unless given otherwise."""
        payload = {"instrument": "LV-07", "observed_at": at, "document": document, **more}
        return self.put(f"checks/{identity or uuid.uuid4()}", payload)

    def compensators(self, *tags: str) -> None:
        """Save a compensator without error of each level: never looked at, it holds a level back."""
        places = ("centre", "toward", "away", "left", "right")
        looked = {"distance": "40", "returns": "yes", "positions": {place: ["1.5000"] * 5 for place in places}}
        document = {"kind": "compensator-function", "method": "five", "observations": looked}
        for tag in tags:
            assert self.check(document, instrument=tag, at="2027-02-20T06:40:00+00:00").status_code == 201

    def event(self, event: str, at: str, *, instrument: str = "LV-07", identity: str | None = None, **more: Any) -> Any:
        if event == "out":
            more.setdefault("note", "Its check is made on site.")
        return self.put(
            f"events/{identity or uuid.uuid4()}", {"instrument": instrument, "event": event, "at": at, **more}
        )


@pytest.fixture
def firm(db) -> dict[str, Any]:
    bramble, thrift = Crew.objects.create(name="Bramble"), Crew.objects.create(name="Thrift")
    people = {
        "ines": Person.objects.create(username="ines", name="Ines Calder", role="manager"),
        "tam": Person.objects.create(username="tam", name="Tam Brandreth", role="crew", crew=bramble),
        "wren": Person.objects.create(username="wren", name="Wren Adair", role="crew", crew=thrift),
        "jory": Person.objects.create(username="jory", name="Jory Pell", role="trainee", crew=bramble),
    }
    merrow = InstrumentModel.objects.create(maker="Ondine", name="Merrow", kind="level", stated={"reading": "optical"})
    for tag in ("LV-02", "LV-07"):
        Instrument.objects.create(tag=tag, model=merrow, since=date(2025, 3, 1), place="Yard shelf 3")
    return people


@pytest.fixture
def tam(firm) -> Api:
    return Api(firm["tam"])


@pytest.fixture
def ines(firm) -> Api:
    return Api(firm["ines"])


@pytest.fixture
def jory(firm) -> Api:
    return Api(firm["jory"])


@pytest.fixture
def wren(firm) -> Api:
    return Api(firm["wren"])


def good(copies: int = 4, c: float = 1) -> dict[str, Any]:
    return exact(c, *NEAR, copies=copies)


def looked(document: dict[str, Any]) -> dict[str, Any]:
    """With the two quick looks made, as a check after a fall needs them."""
    looks = {"bubble_holds": "yes", "line_returns": "yes"}
    return {**document, "observations": {**document["observations"], "looks": looks}}


def bad(c: float = 24) -> dict[str, Any]:
    return exact(c, *NEAR, copies=4)
