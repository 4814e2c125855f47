"""The summary stored beside each record: what lists, series, standings, devices and the next check read of it."""

from __future__ import annotations

import json
from typing import Any

from naveta_core.documents.json_io import canonical
from naveta_core.history import summary as core
from naveta_core.history.summary import RecordSummary
from naveta_core.registry import DOCUMENTS
from records.models import Record

Data = dict[str, Any]


def summary_text(record: Record) -> str:
    """The summary of a record as it is stored: of an event or amendment only its note."""
    document = json.loads(record.document)
    if record.kind not in DOCUMENTS:
        return canonical({"note": document.get("note", "")})
    return canonical(core.summary_of(document, json.loads(record.result)).plain())


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
