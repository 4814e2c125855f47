"""The summary stored beside each record: what lists, series, standings, devices and the next check read of it."""

from __future__ import annotations

import json
from typing import Any

from naveta_core.checks import KINDS
from naveta_core.documents.json_io import canonical
from naveta_core.history import summary as core
from naveta_core.history.events import EVENT_KINDS
from naveta_core.history.summary import RecordSummary
from naveta_core.registry import DOCUMENTS
from records.models import Record
from records.words import plain_words

Data = dict[str, Any]
EVENT_NAMES = {event.name: event.label for event in EVENT_KINDS}


def summary_text(record: Record) -> str:
    """The summary of a record as it is stored: of an event or amendment only its note."""
    document = json.loads(record.document)
    if record.kind not in DOCUMENTS:
        return canonical({"note": document.get("note", "")})
    return canonical(core.summary_of(document, json.loads(record.result)).plain())


def grade_of(record: Record) -> str:
    """The grade of a record's result; empty where it has none."""
    return str(json.loads(record.summary).get("grade") or "")


def search_text(record: Record) -> str:
    """What a record is found by, as plain words: its instrument, what was found or noted, where, who, why."""
    return words_of(record, str(record.instrument.model))


def words_of(record: Any, model: str) -> str:
    """The same of a record as a migration has it, whose model cannot say its own name."""
    stored, document = json.loads(record.summary), json.loads(record.document)
    kind = KINDS[record.kind].title if record.kind in KINDS else EVENT_NAMES.get(record.kind, record.kind)
    words = [
        record.instrument.tag,
        model,
        kind,
        record.stage.replace("-", " "),
        stored.get("finding") or "",
        stored.get("note") or "",
        record.why,
        *(str(document.get(name) or "") for name in ("place", "crew", "job", "remark")),
        record.observed_by.name,
        record.entered_by.name,
    ]
    return plain_words(" ".join(word for word in words if word))[:4000]


def read_summary(record: Record) -> RecordSummary:
    """The summary of a check, set-up or orientation."""
    return RecordSummary.model_validate_json(record.summary)


def listed_summary(record: Record) -> Data:
    """What a list shows of any record."""
    stored = json.loads(record.summary)
    return {
        "grade": stored.get("grade"),
        "finding": stored.get("finding"),
        "part": stored.get("part"),
        "note": stored.get("note", ""),
    }
