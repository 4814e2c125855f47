"""What lists, series and standings want of a record, drawn from its result once, when it is written."""

from __future__ import annotations

import json
from typing import Any

from bench.models import Record
from naveta_core.checks import KINDS
from naveta_core.registry import DOCUMENTS

Data = dict[str, Any]


def summary_of(record: Record) -> Data:
    """`grade`, `finding`, `part`, `note` for lists; `point` for a series; `codes` and `within_watch` for a standing."""
    if record.kind not in DOCUMENTS:
        return {"note": json.loads(record.document).get("note", "")}
    result = json.loads(record.result)
    verdict = result["verdict"]
    told: Data = {
        "grade": verdict["grade"],
        "finding": result["finding"]["text"],
        "part": next(iter(verdict["parts"]), None),
    }
    if record.category == Record.Category.CHECK:
        told["codes"] = [reason["code"] for reason in verdict["reasons"]]
        told["within_watch"] = all(part["proved_to"] <= part["limits"]["watch"] for part in verdict["parts"])
    return {**told, "point": _point(record, result)}


def _point(record: Record, result: Data) -> Data | None:
    """The figure a series shows of it: a check's main quantity, or how far known points disagreed."""
    control = record.category == Record.Category.ORIENTATION
    if not control and record.kind not in KINDS:
        return None
    main = None if control else KINDS[record.kind].main_quantity
    part = next((one for one in result["verdict"]["parts"] if main in (None, one["quantity"])), None)
    if part is None:
        return None
    figures = result["result"]
    value, u95 = (
        (figures["disagreement_mm"], figures["u95_disagreement_mm"]) if control else (part["value"], part["u95"])
    )
    limits = part["limits"]
    return {"grade": part["grade"], "value": value, "u95": u95, "use": limits["use"], "watch": limits["watch"]}
