"""What another limit would alter in the fleet today: the latest checks judged again by it. Records keep the limit they were
judged by; the next check is judged by the new one."""

from __future__ import annotations

import json
from typing import Any

from fleet.limits import checked
from fleet.models import Instrument
from naveta_core.checks import KINDS
from naveta_core.documents.envelope import LimitSet
from naveta_core.engine.kind import Kind
from naveta_core.registry import parse
from records.models import Record
from records.summary import read_summary

MAX_RECORDS = 2_000
"""Latest checks that are judged again for one question."""


def limit_preview(given: dict[str, Any]) -> dict[str, Any]:
    """How many latest checks were looked at, and those that would be graded otherwise. Raises Refused."""
    limit, model = checked(given)
    instruments = Instrument.objects.select_related("model")
    instruments = instruments.filter(model=model) if model else instruments.filter(model__kind=given["kind"])
    kinds = [kind for kind in KINDS.values() if any(quantity.name == given["quantity"] for quantity in kind.limited)]
    changes, looked = [], 0
    for instrument in instruments.order_by("tag"):
        for kind in kinds:
            record = _latest(instrument, kind)
            if record is None or looked >= MAX_RECORDS:
                continue
            looked += 1
            before, after = read_summary(record).grade, _judged_again(record, kind, given["quantity"], limit)
            if before != after:
                changes.append(
                    {
                        "tag": instrument.tag,
                        "check": kind.title,
                        "record": str(record.pk),
                        "before": before,
                        "after": after,
                    }
                )
    return {"looked_at": looked, "changes": changes}


def _latest(instrument: Instrument, kind: Kind) -> Record | None:
    rows = Record.objects.filter(instrument=instrument, kind=kind.name, amendments__isnull=True)
    return rows.order_by("-observed_at_utc", "-sequence").first()


def _judged_again(record: Record, kind: Kind, quantity: str, limit: LimitSet) -> str:
    """The grade of a stored check under another limit of one quantity."""
    document = json.loads(record.document)
    limits = {**document.get("limits", {}), quantity: limit.model_dump(mode="json", exclude_none=True)}
    return kind.reduce(parse(json.dumps({**document, "limits": limits}).encode())).verdict.grade
