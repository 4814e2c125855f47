"""Fixtures for tests that need a served demo and devices that send requests to it."""

from __future__ import annotations

import http.cookiejar
import itertools
import json
import sys
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from typing import Any

import pytest

from tests.served import asked, warm_parent

THIS_MACHINE = ("127.0.0.1", "::1", "localhost", "0.0.0.0", "::")


def _no_network(event: str, arguments: tuple[Any, ...]) -> None:
    """Refuse a connection to another machine: a test that needs one fails at once, wherever it is run."""
    if event != "socket.connect" or not isinstance(arguments[1], tuple):
        return
    host = arguments[1][0]
    if host not in THIS_MACHINE:
        raise RuntimeError(f"A test asked for {host}: tests use no network. Serve what it needs on 127.0.0.1.")


sys.addaudithook(_no_network)

BUDGET_S = {"core": 0.05, "bridge": 0.05, "server": 0.3, "browser": 6.0}
"""What a test may cost, by the folder it is in: setup, call and teardown (CONTRIBUTING.md)."""
SHOWN = 10


def pytest_terminal_summary(terminalreporter: Any) -> None:
    """Print the ten slowest tests against their budget, and how many are over it."""
    took: dict[str, float] = {}
    for reports in terminalreporter.stats.values():
        for report in reports:
            if hasattr(report, "duration"):
                took[report.nodeid] = took.get(report.nodeid, 0.0) + report.duration
    over = {name: seconds / budget for name, seconds in took.items() if (budget := BUDGET_S.get(name.split("/")[1]))}
    slowest = sorted(over, key=lambda name: -over[name])[:SHOWN]
    if not over:
        return
    terminalreporter.section("slowest against their budget")
    for name in slowest:
        terminalreporter.write_line(f"{took[name]:7.2f} s {over[name]:6.1f} times its budget  {name}")
    many = sum(times > 1 for times in over.values())
    terminalreporter.write_line(f"{many} of {len(over)} tests cost more than their budget.")


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
