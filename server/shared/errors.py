"""Every answer that is not a success, in one shape: application/problem+json with a code and faults."""

from __future__ import annotations

import json
import logging
from collections.abc import Callable, Sequence
from http import HTTPStatus
from typing import Any

from django.conf import settings
from django.core.exceptions import BadRequest, RequestDataTooBig
from django.db import OperationalError
from django.http import Http404, HttpRequest, HttpResponse
from django.http.multipartparser import MultiPartParserError
from ninja import NinjaAPI
from ninja.errors import AuthenticationError, HttpError, ValidationError

from naveta_core.documents.json_io import MAX_BYTES
from naveta_core.errors import Fault, NotJson, Refused, path_in_words, refusal
from shared import clock
from shared.rights import Forbidden

TYPE = "application/problem+json"
log = logging.getLogger(__name__)
TITLES = {
    400: ("not-json", "This cannot be read."),
    401: ("signed-out", "Sign in first."),
    403: ("not-allowed", "Not allowed."),
    404: ("not-found", "Not found."),
    405: ("wrong-method", "This address does not take that kind of request."),
    413: ("too-large", f"Too large: at most {MAX_BYTES} bytes (1 MiB)."),
    429: ("too-many", "Too many tries. Wait a quarter of an hour."),
    500: ("our-fault", "Something went wrong on the server. Nothing was saved; what you typed is kept."),
}


class Later(Exception):
    """Not now: the device keeps it and sends it again automatically."""

    def __init__(self, code: str, text: str, after_s: int, status: int = 503) -> None:
        self.code, self.text, self.after_s, self.status = code, text, after_s, status
        super().__init__(text)


class Conflict(Exception):
    """The request contradicts what is already stored."""

    def __init__(self, code: str, text: str, faults: Sequence[Fault] = ()) -> None:
        self.code, self.text, self.faults = code, text, faults
        super().__init__(text)


def problem(status: int, code: str, title: str, faults: Sequence[Fault | dict[str, str]] = ()) -> HttpResponse:
    """One problem answer."""
    listed = [fault.as_dict() if isinstance(fault, Fault) else fault for fault in faults]
    body = {"type": "about:blank", "title": title, "status": status, "code": code, "faults": listed}
    return HttpResponse(json.dumps(body, ensure_ascii=False), status=status, content_type=TYPE)


def plain_problem(status: int) -> HttpResponse:
    code, title = TITLES.get(status, ("http-" + str(status), HTTPStatus(status).phrase))
    answer = problem(status, code, title)
    if status == 429:
        answer["Retry-After"] = str(round(settings.AXES_COOLOFF_TIME * 3600))
    return answer


def answer_json(data: Any, status: int = 200) -> HttpResponse:
    """The core's plain data as an answer, without a schema's way round: the core has already shaped it."""
    text = json.dumps(data, ensure_ascii=False, separators=(",", ":"), allow_nan=False)
    return HttpResponse(text, status=status, content_type="application/json")


def _refusal(error: NotJson | Refused) -> HttpResponse:
    return problem(**refusal(error))


def _validation(error: ValidationError) -> HttpResponse:
    faults = []
    for entry in error.errors:
        path = ".".join(str(step) for step in entry["loc"][1:] if step not in ("payload",)) or "$"
        given = str(entry.get("input", "nothing"))[:80]
        faults.append(
            Fault(path, path_in_words(path), given if entry["type"] != "missing" else "nothing", entry["msg"])
        )
    return problem(422, "faults", "The request is not in order; nothing was saved.", faults)


def _http(error: HttpError) -> HttpResponse:
    if error.status_code == 403 and "CSRF" in str(error):
        return problem(403, "no-token", "This page is out of date. Load it again; what you typed is kept.")
    code, title = TITLES.get(error.status_code, ("http-" + str(error.status_code), str(error)))
    return problem(error.status_code, code, str(error) or title)


def install(api: NinjaAPI) -> None:
    """Teach the API how each of our errors is answered."""
    answers: dict[type[Exception], Callable[[Any], HttpResponse]] = {
        NotJson: _refusal,
        Refused: _refusal,
        ValidationError: _validation,
        HttpError: _http,
        AuthenticationError: lambda _: plain_problem(401),
        Http404: lambda _: plain_problem(404),
        RequestDataTooBig: lambda _: plain_problem(413),
        Forbidden: lambda error: problem(403, error.code, error.text),
        Conflict: lambda error: problem(409, error.code, error.text, error.faults),
        Later: lambda error: later(error.status, error.code, error.text, error.after_s),
        OperationalError: _of_the_disk,
        BadRequest: lambda _: plain_problem(400),
        MultiPartParserError: lambda _: plain_problem(400),
    }
    for kind, answer in answers.items():
        api.add_exception_handler(kind, _handler(answer))
    api.add_exception_handler(Exception, _ours)


def later(status: int, code: str, text: str, after_s: int) -> HttpResponse:
    """An answer that says when to try again."""
    answer = problem(status, code, text)
    answer["Retry-After"] = str(after_s)
    return answer


def _of_the_disk(error: OperationalError) -> HttpResponse:
    """What the disk says: no room, no right, or somebody else holds it. Reading goes on."""
    messages = str(error).lower()
    if "locked" in messages or "busy" in messages:
        return later(503, "busy", "The records are in use just now. Your entry is sent again automatically.", 5)
    if (
        "full" in messages
        or "readonly" in messages
        or "read-only" in messages
        or "disk i/o" in messages
        or "unable to open" in messages
    ):
        text = f"Nothing can be saved: {error}. Your entry is kept on this device. Reading still works; report it to the manager."
        return later(507, "no-room", text, 60)
    log.exception("the database", exc_info=error)
    return plain_problem(500)


def _handler(answer: Callable[[Any], HttpResponse]) -> Callable[[HttpRequest, Any], HttpResponse]:
    return lambda request, error: answer(error)


def _ours(request: HttpRequest, error: Any) -> HttpResponse:
    log.exception("%s %s", request.method, request.path, exc_info=error)
    return plain_problem(500)


def missing_page(request: HttpRequest, exception: Exception) -> HttpResponse:
    """Django's 404: a problem under /api/, plain text elsewhere."""
    if request.path.startswith("/api/"):
        return plain_problem(404)
    return HttpResponse("There is no such page.", status=404, content_type="text/plain")


class ErrorMiddleware:
    """Turns what Django and Ninja answer by themselves under /api/ into the one shape."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.path.startswith("/api/"):
            # A device keeps an answer with the time it was given; its own clock may be off.
            response.headers["X-Naveta-Now"] = clock.now().isoformat()
        if request.path.startswith("/api/") and response.status_code >= 400:
            kind = response.headers.get("Content-Type", "")
            if not kind.startswith(TYPE):
                return plain_problem(response.status_code)
        return response
