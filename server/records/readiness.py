"""A pre-work check holds checks that are on record: what it says of them is what their records say."""

from __future__ import annotations

import json
import uuid
from typing import Any

from fleet.models import Instrument
from naveta_core.errors import Fault, Refused, quote
from records.models import Record

Data = dict[str, Any]


def with_records(document: Data, instrument: Instrument) -> Data:
    """The round with grade, finding, stage and time of every check as its record has them. Raises Refused."""
    observations = document.get("observations")
    steps = observations.get("steps") if isinstance(observations, dict) else None
    if not isinstance(observations, dict) or not isinstance(steps, list):
        return document
    faults: list[Fault] = []
    rows = [_step(step, i, instrument, faults) for i, step in enumerate(steps)]
    if faults:
        raise Refused(faults)
    return {**document, "observations": {**observations, "steps": rows}}


def _step(step: Any, index: int, instrument: Instrument, faults: list[Fault]) -> Any:
    if not isinstance(step, dict) or step.get("record") is None:
        return step
    found = _record(step["record"])
    path, wanted = f"observations.steps[{index}].record", f"a check of {instrument.tag} that is on record"
    if found is None or found.instrument_id != instrument.pk or found.category != Record.Category.CHECK:
        faults.append(Fault(path, "the record of the check", quote(step["record"]), wanted))
        return step
    if found.kind != step.get("check"):
        faults.append(Fault(path, "the record of the check", found.kind, f"one of the kind {step.get('check')}"))
        return step
    if found.amendments.exists():
        faults.append(Fault(path, "the record of the check", "one that was struck", wanted))
        return step
    result = json.loads(found.result)
    return {
        **step,
        "grade": result["verdict"]["grade"],
        "finding": result["finding"]["text"],
        "stage": found.stage,
        "at": found.observed_at,
    }


def _record(identity: Any) -> Record | None:
    try:
        return Record.objects.filter(id=uuid.UUID(str(identity))).first()
    except ValueError:
        return None
