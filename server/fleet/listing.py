"""The whole fleet as one answer: written once for every change of it, since a table of thousands is asked for often."""

from __future__ import annotations

import json
from collections import Counter
from datetime import date
from typing import Any

from fleet.selectors import Row, state_stamp, yard
from naveta_core.history.standing import summary

_written: dict[date, tuple[str, str]] = {}
"""The last day's answer with the stamp of the counter it was written at."""


def fleet_text(today: date) -> str:
    """`{"rows": [...], "summaries": {...}}` as JSON text."""
    stamp, _ = state_stamp()
    found, text = _written.get(today, ("", ""))
    if not stamp or found != stamp:
        text = json.dumps(_fleet(yard(today)), ensure_ascii=False)
        _written.clear()
        _written[today] = (stamp, text)
    return text


def _fleet(rows: list[Row]) -> dict[str, Any]:
    crews = sorted({row.one.crew for row in rows if row.one.crew})
    summaries = {crew: _summary([row for row in rows if row.one.crew == crew]) for crew in crews}
    return {"rows": [fleet_row(row) for row in rows], "summaries": {"": _summary(rows), **summaries}}


def _summary(rows: list[Row]) -> str:
    """What some instruments need now, with the minutes of the checks they wait for before they go out."""
    counts = Counter[str](row.standing.state for row in rows)
    waiting = [row for row in rows if row.standing.state == "check-first"]
    return summary(counts, sum(check.minutes for row in waiting for check in row.standing.checks if check.needed))


def fleet_row(row: Row) -> dict[str, Any]:
    """One instrument: where it is, how it stands, what it waits for, what is due next, its latest check."""
    listed, standing = row.one, row.standing
    decides = {check.check for check in standing.checks if check.decides}
    due = min(
        (entry for entry in row.status.due if entry.due_on and entry.check in decides),
        key=lambda entry: entry.due_on or "",
        default=None,
    )
    needed = [check for check in standing.checks if check.needed]
    return {
        **listed.as_dict(),
        "serial": listed.serial,
        "since": listed.since.isoformat(),
        "state": standing.state,
        "reasons": [reason.text for reason in standing.reasons[:2]],
        "needed": [{"check": check.check, "title": check.title, "minutes": check.minutes} for check in needed],
        "due_on": due.due_on if due else None,
        "due_check": due.title if due else "",
        "latest": row.latest,
    }
