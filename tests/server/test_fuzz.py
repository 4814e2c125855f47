"""Every operation of the contract against requests nobody would think of: no answer is a fault of ours, and every
answer has the shape the contract promises."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
import schemathesis
from django.test import Client
from hypothesis import HealthCheck, settings
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import response_schema_conformance

from config.wsgi import application
from people.models import Person

CONTRACT = Path(__file__).resolve().parents[2] / "web/openapi.json"
schema = schemathesis.openapi.from_dict(json.loads(CONTRACT.read_text()))
schema.app = application
schema.config.phases.coverage.enabled = False


@pytest.fixture
def carried(firm) -> dict[str, dict[str, str]]:
    """Cookies of the manager's session, and the token."""
    client = Client()
    client.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
    token = client.get("/api/session").json()["csrf_token"]
    return {
        "cookies": {one.key: one.value for one in client.cookies.values()},
        "headers": {"X-CSRFToken": token, "Accept-Encoding": "identity"},
    }


@schema.exclude(operation_id=["sign_out", "sign_in", "health"]).parametrize()
@settings(max_examples=15, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
def test_nothing_sent_is_a_fault_of_ours(case, carried) -> None:
    answer = case.call(**carried)
    case.validate_response(answer, checks=[not_a_server_error, response_schema_conformance])
    assert answer.status_code not in (401, 403), "the manager is signed in: nothing here is closed to her"
    if answer.status_code >= 400:
        told = answer.json()
        assert set(told) == {"type", "title", "status", "code", "faults"}
        assert told["status"] == answer.status_code
        assert all(set(fault) == {"path", "where", "given", "wanted"} for fault in told["faults"])
