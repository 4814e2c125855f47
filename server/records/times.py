"""When a record's check or event was: as its device wrote it, put right by what the device given of its own clock."""

from __future__ import annotations

import json
from datetime import datetime, timedelta

from records.models import Record


def corrected(observed_at: str, off_s: int | None) -> datetime:
    """The moment as written, put right by how far the device's clock was off, seconds."""
    moment = datetime.fromisoformat(observed_at)
    return moment + timedelta(seconds=off_s) if off_s else moment


def happened_at(record: Record) -> datetime:
    """When a record's check or event was, with the device's own offset from UTC."""
    off = (json.loads(record.device) if record.device else {}).get("clock_off_s")
    return corrected(record.observed_at, off)


def happened_text(record: Record) -> str:
    """The same as text, to the letter where nothing had to be put right."""
    return happened_at(record).isoformat() if record.device else record.observed_at
