"""Fixtures for tests that need a served demo and devices that send requests to it."""

from __future__ import annotations

import http.cookiejar
import itertools
import json
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from typing import Any

import pytest

from tests.served import asked, warm_parent


@pytest.fixture(scope="session")
def parent() -> Iterator[str]:
    """Return the address of this worker's parent process (tests/served.py)."""
    with warm_parent() as address:
        yield address


@pytest.fixture
def served(parent: str) -> Iterator[dict[str, Any]]:
    """Serve a fresh copy of the demo for one test; yields its address and folder."""
    own = asked(parent, "start")
    yield own
    asked(parent, "stop", {"pid": own["pid"]})


@pytest.fixture
def server_url(served: dict[str, Any]) -> str:
    """Return the address of the test's demo."""
    return str(served["address"])


class Device:
    """A device with its own session, as far as the network sees it."""

    def __init__(self, server_url: str, who: str) -> None:
        self.server_url, self.token = server_url, ""
        self.opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(http.cookiejar.CookieJar()))
        self.token = self.call("GET", "session")[1]["csrf_token"]
        self.token = self.call("POST", "session", {"username": who})[1]["csrf_token"]

    def call(self, method: str, path: str, data: Any = None) -> tuple[int, Any]:
        """The status and what came back; of an answer in lines, the last one."""
        headers = {"Content-Type": "application/json", "X-CSRFToken": self.token}
        body = None if data is None else json.dumps(data).encode()
        request = urllib.request.Request(f"{self.server_url}/api/{path}", method=method, data=body, headers=headers)
        try:
            with self.opener.open(request, timeout=60) as answer:
                return answer.status, json.loads(answer.read().splitlines()[-1])
        except urllib.error.HTTPError as error:
            return error.code, json.loads(error.read())


PREFIX = {"Merrow": "LV", "Aldreth": "TD", "Tessaly": "TS", "Reed": "PO", "Strand": "TR", "Tally": "ST", "Ribbon": "TA"}
_numbers = itertools.count(30)
Fresh = Callable[[str], str]


@pytest.fixture
def fresh(server_url: str) -> Fresh:
    """Gives the tag of something of its own of a model, never checked: one test's checks teach another's nothing."""
    ines = Device(server_url, "ines")
    models = {model["name"]: model["id"] for model in ines.call("GET", "models")[1]}

    def make(model: str) -> str:
        tag = f"{PREFIX[model]}-{next(_numbers)}"
        data = {"tag": tag, "model": models[model], "serial": "", "place": "Yard", "crew": None}
        status, answer = ines.call("POST", "instruments", data)
        assert status == 201, answer
        return tag

    return make


@pytest.fixture
def level(fresh: Fresh) -> str:
    """The tag of a level of its own."""
    return fresh("Merrow")
