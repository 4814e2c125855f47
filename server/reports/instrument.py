"""One instrument's history on paper: where it stands, each series with its trend, every check, every event, its chain."""

from __future__ import annotations

import json
from datetime import timedelta

from fleet.attachments import attached
from fleet.models import Instrument
from fleet.selectors import status_of
from naveta_core.checks import KINDS
from naveta_core.units.formatting import closed
from records.models import Record
from records.selectors import series
from records.summary import read_summary
from records.times import happened_at
from reports.check import EVENT_NAMES, STAGES
from reports.pages import Page
from reports.plot import series_drawing
from shared import clock

STATES = {
    "ready": "Ready",
    "ready-if": "Ready with a condition",
    "check-first": "Check first",
    "hold": "On hold",
    "away": "Away",
}


def instrument_report(instrument: Instrument) -> bytes:
    """The history of an instrument as a PDF."""
    status = status_of(instrument, clock.today())
    serial = f", serial {instrument.serial}" if instrument.serial else ""
    page = Page(
        f"{instrument.tag}: its history",
        f"{instrument.model}{serial}. Here since {instrument.since:%d %B %Y}. As of {clock.today():%d %B %Y}.",
    )
    page.strong(STATES[status.standing.state])
    for reason in status.standing.reasons:
        page.text(closed(reason.text))
    _series(page, instrument)
    _checks(page, instrument)
    _events(page, instrument)
    _certificates(page, instrument)
    page.cautions([])
    page.heading("Seal")
    page.typed(f"{instrument.chain_length} records in one chain, each with the digest of the one before it. The last:")
    page.code(instrument.chain_head or "none")
    return page.pdf()


def _series(page: Page, instrument: Instrument) -> None:
    kinds = Record.objects.filter(instrument=instrument, category="check", amendments__isnull=True)
    there = set(kinds.values_list("kind", flat=True).distinct())
    for kind in (name for name in KINDS if name in there):
        found = series(instrument, kind)
        if not found["points"]:
            continue
        page.heading(found["title"])
        trend = found["trend"]
        below = " ".join([trend.text, trend.leaves, trend.dispute, trend.jump, trend.earned]) if trend else ""
        until = clock.now() + timedelta(days=1)
        page.drawing(series_drawing(found, until, EVENT_NAMES, page.write), below)


def _checks(page: Page, instrument: Instrument) -> None:
    rows = Record.objects.filter(instrument=instrument, category="check").select_related("observed_by")
    lines = []
    for record in rows.prefetch_related("amendments").order_by("-observed_at_utc", "-sequence"):
        struck = "Struck. " if record.amendments.all() else ""
        summary = read_summary(record)
        title = f"{KINDS[record.kind].title}, {STAGES[record.stage]}"
        lines.append(
            [
                f"{happened_at(record):%d %b %Y %H:%M}",
                title,
                f"{struck}{summary.finding}",
                summary.grade,
                record.observed_by.name,
            ]
        )
    if lines:
        page.heading("Every check")
        page.table(["When", "Check", "Finding", "Grade", "By"], lines, [78, 105, 190, 40, 63], typed=(4,))


def _events(page: Page, instrument: Instrument) -> None:
    rows = Record.objects.filter(instrument=instrument, category="event", amendments__isnull=True)
    lines = []
    for record in rows.select_related("entered_by").order_by("-observed_at_utc", "-sequence"):
        document = json.loads(record.document)
        about = [
            document.get("note", ""),
            f"{document['crew']} crew" if document.get("crew") else "",
            document.get("place") or "",
        ]
        name = EVENT_NAMES.get(record.kind, record.kind)
        lines.append(
            [f"{happened_at(record):%d %b %Y %H:%M}", name, ". ".join(t for t in about if t), record.entered_by.name]
        )
    if lines:
        page.heading("Every event")
        page.table(["When", "Event", "What was noted", "By"], lines, [78, 90, 235, 73], typed=(2, 3))


def _certificates(page: Page, instrument: Instrument) -> None:
    rows = attached(instrument)["certificates"]
    if rows:
        page.heading("Certificates kept with it")
        page.table(
            ["Name", "Kept since", "SHA-256"],
            [[r["name"], f"{r['at']:%d %b %Y}", r["digest"]] for r in rows],
            [150, 70, 256],
            typed=(0, 2),
        )
