"""The seal on records: what is sealed, how, and whether it still holds."""

from __future__ import annotations

import json
from typing import Any

from bench.models import Record
from naveta_core.documents import GENESIS, digest


def sealed(record: Record) -> dict[str, Any]:
    """Everything the digest covers: all fields but `received_at` and `digest`; no database key in it."""
    fields = {
        "id": str(record.id),
        "instrument": record.instrument.tag,
        "category": record.category,
        "kind": record.kind,
        "stage": record.stage,
        "pair": str(record.pair_id) if record.pair_id else None,
        "amends": str(record.amends_id) if record.amends_id else None,
        "why": record.why,
        "observed_at": record.observed_at,
        "observed_by": record.observed_by.username,
        "entered_by": record.entered_by.username,
        "entry": record.entry,
        "document": json.loads(record.document),
        "result": json.loads(record.result),
        "core_version": record.core_version,
        "sequence": record.sequence,
        "previous": record.previous,
    }
    # Only where there is one: records sealed before devices reckoned keep their seal.
    return {**fields, "device": json.loads(record.device)} if record.device else fields


def seal(record: Record) -> str:
    """The digest of a record."""
    return digest(sealed(record))


def broken(record: Record) -> str | None:
    """A sentence when the record no longer matches its seal or its predecessor, else None."""
    try:
        matches = seal(record) == record.digest
    except ValueError:
        matches = False
    if not matches:
        return "This record does not match its seal: it was changed after it was saved. Do not rely on it."
    before = Record.objects.filter(instrument_id=record.instrument_id, sequence=record.sequence - 1).first()
    if record.previous != (before.digest if before else GENESIS):
        return "The record before this one is missing or was changed: the chain is broken here."
    return None
