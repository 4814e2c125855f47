"""Every operation of the contract against requests nobody would think of: no answer is a fault of ours, and every
answer has the shape the contract promises."""

from __future__ import annotations

import json
import random
import uuid
from collections.abc import Iterator
from typing import Any

import pytest
import schemathesis
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from django.test import Client
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import response_schema_conformance

from config.contract import contract
from config.wsgi import application
from naveta_core.checks import KINDS
from people.models import Person
from tests.amount import tries

from ..core.attack.fuzz import mutated
from .conftest import Api
from .test_bench_kinds import OF, simulated, things  # noqa: F401

schema = schemathesis.openapi.from_dict(json.loads(contract()))
schema.app = application
schema.config.phases.coverage.enabled = False


@pytest.fixture
def carried(firm) -> Iterator[dict[str, dict[str, str]]]:
    """Cookies of the manager's session, and the token. The server's own entry, asked beside the test client, would end
    the connection the test's transaction lives in."""
    client = Client()
    client.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
    token = client.get("/api/session").json()["csrf_token"]
    signals = (request_started, request_finished)
    for signal in signals:
        signal.disconnect(close_old_connections)
    yield {
        "cookies": {cooky.key: cooky.value for cooky in client.cookies.values()},
        "headers": {"X-CSRFToken": token, "Accept-Encoding": "identity"},
    }
    for signal in signals:
        signal.connect(close_old_connections)


@schema.exclude(operation_id=["sign_out", "sign_in", "health"]).parametrize()
@settings(
    max_examples=tries(15, 2),
    deadline=None,
    derandomize=True,
    suppress_health_check=list(HealthCheck),
)
def test_nothing_sent_is_a_fault_of_ours(case, carried) -> None:
    answer = case.call(**carried)
    case.validate_response(answer, checks=[not_a_server_error, response_schema_conformance])
    assert answer.status_code not in (401, 403), "the manager is signed in: nothing here is closed to her"
    if answer.status_code >= 400:
        found = answer.json()
        assert set(found) == {"type", "title", "status", "code", "faults"}
        assert found["status"] == answer.status_code
        assert all(set(fault) == {"path", "where", "given", "wanted"} for fault in found["faults"])


@pytest.mark.parametrize("kind", KINDS)
def test_filled_documents_changed_anyhow_are_answered_in_words(tam: Api, things: None, kind: str) -> None:  # noqa: F811
    """Filled documents of every kind with one to three places changed, at every path that takes one: no fault of ours."""
    rng = random.Random(f"filled {kind}")
    base = simulated(kind, **({"collimation_arcsec": 4.0} if kind == "two-peg" else {}))
    for _ in range(tries(12, 3)):
        document = mutated(rng, base)
        for path in ("preview", "documents/repeat", "documents/from-file", "documents/as-left", "checks/adjusting"):
            more = {"result": {}} if path.endswith("as-left") else {}
            found = tam.send(
                "POST", path, _sendable({"instrument": OF.get(kind, "LV-07"), "document": document, **more})
            )
            assert found.status_code in (200, 400, 422), (path, found.status_code, document)
        kept = tam.send("PUT", f"checks/{uuid.uuid4()}", _sendable(_entry(kind, document)))
        assert kept.status_code in (201, 400, 422), (kept.status_code, document)


def _entry(kind: str, document: Any) -> dict[str, Any]:
    return {"instrument": OF.get(kind, "LV-07"), "observed_at": "2027-03-02T06:40:00+00:00", "document": document}


def _sendable(data: Any) -> bytes:
    """As bytes, whatever is in it: what no JSON can hold is for the parser to refuse."""
    return json.dumps(data).encode("utf-8", "surrogatepass")
