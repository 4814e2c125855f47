"""One month of the fleet on paper: where everything stands, what was checked and found, what happened, what is due."""

from __future__ import annotations

import json
from collections import Counter
from datetime import UTC, date, datetime, time, timedelta

from django.db.models import QuerySet

from fleet.selectors import yard
from naveta_core.checks import KINDS
from naveta_core.history.rules import SERVICE
from naveta_core.units.formatting import capital, count
from records.models import Record
from records.summary import read_summary
from records.times import happened_at
from reports.check import EVENT_NAMES, STAGES
from reports.instrument import STATES
from reports.pages import Page
from shared import clock

QUIET = ("out", "in")
"""Events that say nothing of how an instrument is."""


def month_report(first: date) -> bytes:
    """The fleet in a month, as a PDF; a month that still runs, until today."""
    after = (first.replace(day=1) + timedelta(days=32)).replace(day=1)
    last = min(after - timedelta(days=1), clock.today())
    rows = _records(first.replace(day=1), after)
    page = Page(
        f"The fleet in {first:%B %Y}",
        f"{first.replace(day=1):%d %B} to {last:%d %B %Y}. Standing as of {clock.today():%d %B %Y}.",
    )
    checks = [row for row in rows if row.category == Record.Category.CHECK]
    grades = Counter(row.grade for row in checks)
    words = [f"{number} {grade}" for grade, number in grades.most_common()]
    page.strong(f"{capital(count(len(checks), 'check', 'checks'))}{': ' if words else ''}{', '.join(words)}")
    _standing(page)
    _checks(page, checks)
    _events(page, [row for row in rows if row.category == Record.Category.EVENT and row.kind not in QUIET])
    _due(page)
    page.cautions([])
    return page.pdf()


def _records(first: date, after: date) -> QuerySet[Record]:
    begin, end = (datetime.combine(day, time(), clock.zone()).astimezone(UTC) for day in (first, after))
    rows = Record.objects.filter(observed_at_utc__gte=begin, observed_at_utc__lt=end, amendments__isnull=True)
    return rows.select_related("instrument", "observed_by", "entered_by").order_by("observed_at_utc", "sequence")


def _standing(page: Page) -> None:
    rows = yard(clock.today())
    page.heading("Where every instrument stands")
    lines = [
        [r.one.tag, r.one.model, r.one.whereabouts, STATES[r.standing.state], r.standing.reasons[0].text] for r in rows
    ]
    page.table(["", "Model", "Where", "Standing", "Why"], lines, [38, 88, 88, 72, 190], typed=(1, 2))


def _checks(page: Page, checks: list[Record]) -> None:
    page.heading("Checks of the month")
    if not checks:
        page.text("None on record.")
    lines = []
    for record in checks:
        title = f"{KINDS[record.kind].title}, {STAGES[record.stage]}"
        found = read_summary(record)
        lines.append(
            [
                f"{happened_at(record):%d %b}",
                record.instrument.tag,
                title,
                found.finding,
                found.grade,
                record.observed_by.name,
            ]
        )
    page.table(["", "", "Check", "Finding", "Grade", "By"], lines, [38, 38, 105, 192, 40, 63], typed=(5,))


def _events(page: Page, events: list[Record]) -> None:
    if not events:
        return
    page.heading("What happened")
    lines = []
    for record in events:
        note = json.loads(record.document).get("note", "")
        lines.append(
            [
                f"{happened_at(record):%d %b}",
                record.instrument.tag,
                EVENT_NAMES.get(record.kind, record.kind),
                note,
                record.entered_by.name,
            ]
        )
    page.table(["", "", "Event", "What was noted", "By"], lines, [38, 38, 95, 232, 73], typed=(3, 4))


def _due(page: Page) -> None:
    until = (clock.today() + timedelta(days=31)).isoformat()
    found = [
        (entry.due_on, row.one.tag, entry)
        for row in yard(clock.today())
        for entry in row.status.due
        if entry.due_on and entry.due_on <= until and entry.check != SERVICE
    ]
    if not found:
        return
    page.heading("Due now and within a month")
    lines = [
        [f"{date.fromisoformat(on):%d %b %Y}", tag, e.title, e.reasons[0].text]
        for on, tag, e in sorted(found, key=lambda row: row[:2])
    ]
    page.table(["Due", "", "Check", "Why"], lines, [62, 38, 120, 256])
