"""The seal on records: what is sealed, how, and whether it still holds."""

from __future__ import annotations

import json
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC
from typing import Any

from fleet.models import Instrument
from naveta_core.documents.json_io import GENESIS, digest
from records.derived import NOTHING_DERIVED, derived_of
from records.models import Record
from records.summary import summary_text
from records.times import happened_at


def sealed(record: Record) -> dict[str, Any]:
    """Everything the digest covers: all fields but the digest itself and what follows from these; no database key in it."""
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
        "received_at": record.received_at.astimezone(UTC).isoformat(),
        "arrival": record.arrival,
        "sent_digest": record.sent_digest,
        "device": json.loads(record.device) if record.device else None,
    }
    return fields


def seal(record: Record) -> str:
    """The digest of a record."""
    return digest(sealed(record))


def _own(record: Record) -> str | None:
    """What is wrong with a record on its own, else None."""
    try:
        matches = seal(record) == record.digest
    except ValueError:
        matches = False
    if not matches:
        return CHANGED
    if record.observed_at_utc != happened_at(record):
        return "The sort time of this record differs from the time in it: it was changed after saving."
    if record.summary != summary_text(record):
        return "The list entry of this record differs from the record: it was changed after saving."
    return None


CHANGED = "This record does not match its seal: it was changed after saving. Do not rely on it."
GAP = "The record before this one is missing or was changed: the chain is broken here."


def broken(record: Record) -> str | None:
    """A sentence when the record no longer matches its seal or its predecessor, else None."""
    own = _own(record)
    if own:
        return own
    before = Record.objects.filter(instrument_id=record.instrument_id, sequence=record.sequence - 1).first()
    if record.previous != (before.digest if before else GENESIS):
        return GAP
    return None


@dataclass(frozen=True, slots=True)
class Looked:
    """One instrument's chain, looked through: how many records, and what is wrong, by record or of the whole."""

    instrument: str
    records: int
    wrong: tuple[tuple[str, str], ...]


def walk(since: int = 0) -> Iterator[Looked]:
    """Every chain, or those that grew after an arrival; of those only what came since, tied to what stood before."""
    instruments = Instrument.objects.select_related("model", "crew").order_by("tag")
    if since:
        grown = Record.objects.filter(arrival__gt=since).values("instrument_id")
        instruments = instruments.filter(pk__in=grown)
    for instrument in instruments.iterator(chunk_size=200):
        yield _chain(instrument, since)


def _chain(instrument: Instrument, since: int) -> Looked:
    rows = Record.objects.filter(instrument=instrument).select_related("instrument", "observed_by", "entered_by")
    before = rows.filter(arrival__lte=since).order_by("-sequence").first() if since else None
    at, previous = (before.sequence, before.digest) if before else (0, GENESIS)
    count, wrong = 0, []
    for record in rows.filter(sequence__gt=at).order_by("sequence").iterator(chunk_size=500):
        count += 1
        own = _own(record)
        if record.sequence != at + 1 or record.previous != previous:
            own = own or GAP
        if own:
            wrong.append((str(record.id), own))
        at, previous = record.sequence, record.digest
    if (at, previous if at else "") != (instrument.chain_length, instrument.chain_head):
        text = f"The chain of {instrument.tag} should hold {instrument.chain_length} records and holds {at}, or ends in another one: records are missing."
        wrong.append(("", text))
    if (at or instrument.derived) and not _facts_follow(instrument):
        wrong.append(
            (
                "",
                f"The status of {instrument.tag} does not follow from its records: manage.py rebuild_derived corrects it.",
            )
        )
    return Looked(instrument.tag, count, tuple(wrong))


def _facts_follow(instrument: Instrument) -> bool:
    try:
        return bool(json.loads(json.dumps(derived_of(instrument))) == (instrument.derived or NOTHING_DERIVED))
    except (KeyError, TypeError, ValueError):
        return False  # a record's own fault, said beside it, leaves nothing to compare with
