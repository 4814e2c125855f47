"""One question in, one answer out, both as text: how the browser asks the core it carries along.

A question is `{"verb", …}`; an answer `{"ok": true, "data"}` or `{"ok": false, "status", "code", "title", "faults"}`,
the same words the server's API gives, so that whoever asks need not know who answered.
"""

from __future__ import annotations

import json
from collections.abc import Callable
from typing import Any

from . import __version__
from .checks import KINDS
from .completing import complete
from .documents import check_of, document_of, read_json
from .errors import Fault, NotJson, Refused, refusal
from .fingerprint import fingerprint
from .orient.names import near_misses
from .registry import DOCUMENTS
from .segment import known_with, made_of
from .stand.advisors import advise
from .stand.guide import guide
from .stand.set_up import SetUpDocument
from .stand.ways import fitting

Data = dict[str, Any]


def answer(text: str) -> str:
    """Answer one question. Never raises: a fault of ours is an answer too."""
    try:
        question = read_json(text.encode("utf-8", "surrogatepass"))
        told = {"ok": True, "data": _verb(question)(question)}
    except (NotJson, Refused) as error:
        told = {"ok": False, **refusal(error)}
    except Exception as error:
        told = {
            "ok": False,
            "status": 500,
            "code": "our-fault",
            "title": f"{type(error).__name__}: {error}",
            "faults": [],
        }
    return json.dumps(told, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def _verb(question: Any) -> Callable[[Data], Any]:
    name = question.get("verb") if isinstance(question, dict) else None
    if name not in VERBS:
        raise Refused([Fault("verb", "the verb", str(name), "one of " + ", ".join(sorted(VERBS)))])
    return VERBS[name]


def preview(document: Any, known: Data | None, at: str) -> Data:
    """Complete and preview a document; a finished result comes with its fingerprint."""
    parsed = document_of(complete(document, known, at))
    told = DOCUMENTS[parsed.kind].preview(parsed)
    if told.get("reduced"):
        told["fingerprint"] = fingerprint(told["reduced"])
    return told


def reduce(document: Any, known: Data | None, at: str, stage: str = "as-found") -> Data:
    """Complete and reduce a document: as it will be stored, its result and fingerprint, and what later ones lean on."""
    completed = complete(document, known, at)
    parsed = document_of(completed)
    result = DOCUMENTS[parsed.kind].reduce(parsed)
    made = made_of(completed, result, at, stage)
    return {"document": completed, "result": result, "fingerprint": fingerprint(result), "made": made}


def adjusting(document: Any, reads_now: list[Any]) -> Data:
    """The act of adjusting after a document that is complete already."""
    parsed = check_of(document)
    adjusts = KINDS[parsed.kind].adjusting
    if adjusts is None:
        turned = ", ".join(one.name for one in KINDS.values() if one.adjusting)
        raise Refused([Fault("kind", "the kind of check", parsed.kind, f"one whose adjusting has readings: {turned}")])
    return adjusts(parsed, reads_now)


def guiding(document: Any, known: Data | None, at: str, act: str | None = None) -> Data:
    """Lead through a set-up: the act at hand and what follows from what was last seen at it. Raises Refused."""
    parsed = document_of(complete(document, known, at))
    if not isinstance(parsed, SetUpDocument):
        raise Refused([Fault("kind", "the kind of document", parsed.kind, "set-up")])
    return guide(parsed, act)


def _known(question: Data) -> Data | None:
    """What the house told of an instrument, with what this device has made since then."""
    told = question.get("instrument")
    if told is None:
        return None
    return known_with(told["stated"], told["limits"], [*told["made"], *question.get("since", [])])


def _kind(question: Data) -> Any:
    name = question.get("kind")
    if name not in KINDS:
        raise Refused([Fault("kind", "the kind of check", str(name), "one of " + ", ".join(sorted(KINDS)))])
    return KINDS[name]


def table_of(name: str) -> Any:
    """A kind that is read from tables and written as one. Raises Refused."""
    kind = DOCUMENTS.get(name)
    if kind is None or kind.read_csv is None:
        names = ", ".join(one.name for one in DOCUMENTS.values() if one.read_csv)
        raise Refused([Fault("kind", "the kind of document", name, f"one of {names}")])
    return kind


def _read_document(question: Data) -> Data:
    data = read_json(str(question["text"]).encode("utf-8", "surrogatepass"))
    document_of(data, [str(question["kind"])])
    return dict(data)


VERBS: dict[str, Callable[[Data], Any]] = {
    "hello": lambda _: {"core_version": __version__, "kinds": [kind.about() for kind in KINDS.values()]},
    "preview": lambda q: preview(q["document"], _known(q), q["at"]),
    "reduce": lambda q: reduce(q["document"], _known(q), q["at"], q.get("stage", "as-found")),
    "adjusting": lambda q: adjusting(q["document"], q["reads_now"]),
    "advise": lambda q: advise(q["question"]),
    "guide": lambda q: guiding(q["document"], _known(q), q["at"], q.get("act")),
    "ways": lambda q: fitting((_known(q) or {"instrument": {}})["instrument"], q.get("base")),
    "schema": lambda q: _kind(q).model.model_json_schema(),
    "read-document": _read_document,
    "read-table": lambda q: table_of(str(q["kind"])).read_csv(q["text"]),
    "write-table": lambda q: {"text": table_of(str(q["kind"])).write_csv(document_of(q["document"], [q["kind"]]))},
    "near-misses": lambda q: [{"name": name, "why": why} for name, why in near_misses(q["name"], q["known"])],
}
