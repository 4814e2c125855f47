"""Every seal and every chain looked at, for those who may."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

from fleet.models import Instrument
from people.models import Person
from records import chain, selectors
from shared.rights import require


def verified(*, actor: Person, since: int) -> Iterator[dict[str, Any]]:
    """What `chain.walk` finds, an entry an instrument, the last one with the sum. Raises Forbidden at once."""
    require(actor, "manage-fleet")
    return _walked(since)


def _walked(since: int) -> Iterator[dict[str, Any]]:
    newest, total, records, wrong = selectors.newest_cursor(), Instrument.objects.count(), 0, 0
    for done, entry in enumerate(chain.walk(since), start=1):
        records, wrong = records + entry.records, wrong + len(entry.wrong)
        rows = [{"record": record or None, "text": text} for record, text in entry.wrong]
        yield {"instrument": entry.instrument, "records": entry.records, "wrong": rows, "done": done, "of": total}
    yield {"ok": not wrong, "records": records, "wrong": wrong, "cursor": newest}
