"""One question in, one answer out, both as text: how the browser asks the core it carries along.

A question is `{"verb", …}`; an answer `{"ok": true, "data"}` or `{"ok": false, "status", "code", "title", "faults"}`,
the same words the server's API gives, so that whoever asks need not know who answered.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from typing import Any

from . import __version__
from .checks import KINDS
from .devices import arrive, place
from .documents.envelope import DueCheck, Instrument, LimitSet
from .documents.fingerprint import fingerprint
from .documents.instrument_context import InstrumentContext, complete, with_context
from .documents.json_io import read_json
from .engine import verbs
from .engine.kind import Kind
from .errors import Fault, NotJson, Refused, quote, refusal
from .glossary import glossary
from .history.context import instrument_context
from .history.entries import entry_of, read_history
from .history.summary import summary_of
from .orientation.names import near_misses
from .registry import DOCUMENTS, SHAPES, check_of, document_of
from .results import Adjusting, Answer
from .setup.advisors import advise
from .setup.document import SetUpDocument
from .setup.guide import guide
from .setup.methods import fitting
from .setup.results import Guide, SetUpMethods
from .tables.look import look_at_table

Data = dict[str, Any]


def answer(text: str, verbs: Mapping[str, Callable[[Data], Any]] | None = None) -> str:
    """Answer one question, by these verbs (the core's own where none are given). Never raises: a fault of ours is an
    answer too."""
    try:
        question = read_json(text.encode("utf-8", "surrogatepass"))
        data = _verb(question, VERBS if verbs is None else verbs)(question)
        if isinstance(data, Answer):
            return f'{{"ok":true,"data":{data.as_json()}}}'
        fields = {"ok": True, "data": data}
    except (NotJson, Refused) as error:
        fields = {"ok": False, **refusal(error)}
    except Exception as error:
        fields = {
            "ok": False,
            "status": 500,
            "code": "our-fault",
            "title": f"{type(error).__name__}: {error}",
            "faults": [],
        }
    return json.dumps(fields, ensure_ascii=False, separators=(",", ":"), allow_nan=False)


def _verb(question: Any, verbs: Mapping[str, Callable[[Data], Any]]) -> Callable[[Data], Any]:
    name = str(question.get("verb")) if isinstance(question, dict) else ""
    if name not in verbs:
        raise Refused([Fault("verb", "the verb", name or "none", "one of " + ", ".join(sorted(verbs)))])
    return verbs[name]


def preview(document: Any, context: InstrumentContext | None, at: str) -> Answer:
    """Complete and preview a document."""
    parsed = document_of(with_context(document, context, at))
    return DOCUMENTS[parsed.kind].preview(parsed)


def reduce(document: Any, context: InstrumentContext | None, at: str, stage: str = "as-found") -> Data:
    """Complete and reduce a document: as it will be stored, its result and fingerprint, and what later ones use of it."""
    completed = complete(document, context, at)
    parsed = document_of(completed)
    result = DOCUMENTS[parsed.kind].reduce(parsed).plain()
    entry = entry_of(summary_of(completed, result), at, stage)
    history = entry.plain() if entry else None
    return {"document": completed, "result": result, "fingerprint": fingerprint(result), "history_entry": history}


def adjusting(document: Any, reads_now: list[Any]) -> Adjusting:
    """Adjusting after a document that is complete already. Raises Refused."""
    parsed = check_of(document)
    kind = KINDS[parsed.kind]
    if kind.adjust is None:
        turned = ", ".join(kind.name for kind in KINDS.values() if kind.adjust)
        raise Refused([Fault("kind", "the kind of check", parsed.kind, f"one whose adjusting has readings: {turned}")])
    return kind.adjusting(parsed, reads_now)


def guiding(document: Any, context: InstrumentContext | None, at: str, step: str | None = None) -> Guide:
    """Lead through a set-up: the step at hand and what follows from what was last seen at it. Raises Refused."""
    parsed = document_of(with_context(document, context, at))
    if not isinstance(parsed, SetUpDocument):
        raise Refused([Fault("kind", "the kind of document", parsed.kind, "set-up")])
    return guide(parsed, step)


def _context(question: Data) -> InstrumentContext | None:
    """What the server knew of an instrument, with what this device has made since then and not yet sent."""
    given = question.get("instrument")
    if given is None:
        return None
    history = read_history([*given["history"], *question.get("pending", [])])
    by_work = {work: limits_of(found) for work, found in given.get("work_limits", {}).items()}
    due = [DueCheck.model_validate(entry) for entry in given.get("due", [])]
    return instrument_context(stated_of(given["stated"]), limits_of(given["limits"]), history, by_work, due)


def stated_of(data: Any) -> Instrument:
    """What is stated of an instrument, from plain data."""
    return Instrument.model_validate(data)


def limits_of(data: Mapping[str, Any]) -> dict[str, LimitSet]:
    """The firm's limits, from plain data."""
    return {name: LimitSet.model_validate(limits) for name, limits in data.items()}


def _methods(question: Data) -> SetUpMethods:
    context, tribrach = _context(question), question.get("tribrach")
    stated = context.instrument if context else Instrument()
    return fitting(stated, None if tribrach is None else stated_of(tribrach))


def kind_of(name: Any) -> Kind:
    """A kind of check by its name. Raises Refused."""
    if name not in KINDS:
        raise Refused([Fault("kind", "the kind of check", str(name), "one of " + ", ".join(sorted(KINDS)))])
    return KINDS[name]


def _document(data: Any) -> tuple[Kind, Data]:
    """A check document as somebody types it, which need not be complete, and its kind. Raises Refused."""
    check = check_of(data)
    return KINDS[check.kind], data


def begin(name: Any, method: Any, length: str, angle: str) -> Data:
    """A document as a method of a kind begins it, in the units of whoever begins it. Raises Refused."""
    kind = kind_of(name)
    _method(kind, method)
    return _checked(verbs.begin(kind, method, length, angle))


def take_method(document: Any, method: Any, length: str) -> Data:
    """The document by another method or in another unit, with what was typed. Raises Refused."""
    kind, data = _document(document)
    _method(kind, method)
    return _checked(verbs.take_method(kind, data, method, length))


def repeat(document: Any) -> Data:
    """The document with everything that is read still to come once more. Raises Refused."""
    kind, data = _document(document)
    return verbs.repeat(kind, data)


def as_left(document: Any, result: Data) -> Data:
    """The same check again after adjusting; `result` is what the as-found came to. Raises Refused."""
    kind, data = _document(document)
    return verbs.as_left(kind, data, result)


def from_file(document: Any) -> Data:
    """A stored document of any kind as somebody would type it. Raises Refused."""
    return DOCUMENTS[document_of(document).kind].from_file(document)


def _method(kind: Kind, name: Any) -> None:
    if kind.method(name) is None:
        raise Refused([Fault("method", "the method", quote(name), "one of " + ", ".join(m.name for m in kind.methods))])


def _checked(document: Data) -> Data:
    """A begun document, its units looked at by the parser like anybody's. Raises Refused."""
    check_of(document)
    return document


def table_of(name: str) -> Any:
    """A kind that is read from tables and written as one. Raises Refused."""
    kind = DOCUMENTS.get(name)
    if kind is None or kind.read_csv is None:
        names = ", ".join(kind.name for kind in DOCUMENTS.values() if kind.read_csv)
        raise Refused([Fault("kind", "the kind of document", name, f"one of {names}")])
    return kind


def _read_document(question: Data) -> Data:
    data = read_json(str(question["text"]).encode("utf-8", "surrogatepass"))
    document_of(data, [str(question["kind"])])
    return dict(data)


VERBS: dict[str, Callable[[Data], Any]] = {
    "hello": lambda _: {"core_version": __version__, "kinds": [kind.about() for kind in KINDS.values()]},
    "preview": lambda q: preview(q["document"], _context(q), q["at"]),
    "reduce": lambda q: reduce(q["document"], _context(q), q["at"], q.get("stage", "as-found")),
    "adjusting": lambda q: adjusting(q["document"], q["reads_now"]),
    "advise": lambda q: advise(q["question"]),
    "guide": lambda q: guiding(q["document"], _context(q), q["at"], q.get("step")),
    "set-up-methods": _methods,
    "schema": lambda q: kind_of(q.get("kind")).document.model_json_schema(),
    "begin": lambda q: begin(q["kind"], q["method"], q.get("length", "m"), q.get("angle", "")),
    "take-method": lambda q: take_method(q["document"], q["method"], q.get("length", "m")),
    "repeat": lambda q: repeat(q["document"]),
    "as-left": lambda q: as_left(q["document"], q["result"]),
    "from-file": lambda q: from_file(q["document"]),
    "read-document": _read_document,
    "read-table": lambda q: table_of(str(q["kind"])).read_csv(q["text"]),
    "look-at-table": lambda q: look_at_table(q, SHAPES),
    "write-table": lambda q: {"text": table_of(str(q["kind"])).write_csv(document_of(q["document"], [q["kind"]]))},
    "glossary": lambda _: [term.plain() for term in glossary()],
    "readings-arrive": arrive,
    "readings-place": place,
    "near-misses": lambda q: [{"name": name, "why": why} for name, why in near_misses(q["name"], q["known"])],
}
