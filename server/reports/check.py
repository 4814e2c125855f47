"""One check on paper: what was found and how sure, the readings as typed, the calculation, the limit and its source, the
seal; so that anybody can calculate it again."""

from __future__ import annotations

import csv
import json
from datetime import datetime, timedelta
from io import StringIO
from typing import Any

from naveta_core.dispatch import table_of
from naveta_core.engine.circumstance_fields import circumstances_text
from naveta_core.errors import Refused
from naveta_core.history.events import EVENT_KINDS
from naveta_core.registry import DOCUMENTS, document_of
from naveta_core.units.formatting import capital, count
from records import chain
from records.impact import impact_review_of
from records.models import Record
from records.selectors import series, taken_out_for
from records.times import happened_at
from reports.pages import Page
from reports.plot import series_drawing

Data = dict[str, Any]
STAGES = {"as-found": "as found", "as-left": "as left", "": ""}
EVENT_NAMES = {event.name: event.label for event in EVENT_KINDS}
WORK_NAMES = {"set-up": "Set-up", "orientation": "Orientation", "job": "Job"}
MAX_COLUMNS = 8


def check_report(record: Record) -> bytes:
    """The report of a check, set-up or orientation as a PDF."""
    kind, result = DOCUMENTS[record.kind], json.loads(record.result)
    stage = f", {STAGES[record.stage]}" if record.stage else ""
    at = happened_at(record)
    page = Page(
        f"{record.instrument.tag}: {kind.title[0].lower()}{kind.title[1:]}{stage}",
        f"{record.instrument.model}, serial {record.instrument.serial or 'not given'}. {at:%A %d %B %Y, %H:%M}.",
    )
    page.strong(result["finding"]["text"])
    verdict = result.get("verdict")
    if verdict:
        page.text(f"{capital(verdict['grade'])}. {' '.join(reason['text'] for reason in verdict['next'])}")
    _amended(page, record)
    _who(page, record)
    _figures(page, result)
    _readings(page, record)
    _drawing(page, record)
    _work(page, result)
    _affected(page, record)
    _calculation(page, result)
    page.cautions([caution["text"] for caution in result.get("cautions", [])])
    _seal(page, record)
    return page.pdf()


def _amended(page: Page, record: Record) -> None:
    for amendment in record.amendments.all():
        page.strong(f"Struck: {amendment.why}")
    if record.amends is not None:
        page.text(f"It stands in place of the record {record.amends_id}: {record.why}")


def _who(page: Page, record: Record) -> None:
    document = json.loads(record.document)
    by = record.observed_by.name
    entered = f", saved by {record.entered_by.name}" if record.entered_by_id != record.observed_by_id else ""
    page.facts(
        [
            ("Observed by", f"{by}{entered}"),
            ("Taken out", taken_out_for(record)),
            ("Circumstances", page.write(circumstances_text(document.get("conditions", {})))),
            ("Entered", record.entry),
            ("Remark", str(document.get("remark") or "")),
        ]
    )


def _figures(page: Page, result: Data) -> None:
    verdict = result.get("verdict") or {}
    parts = {part["quantity"]: part for part in verdict.get("parts", [])}
    rows = [
        [
            row["label"],
            row["text"],
            f"± {row['plus_minus']}" if row["plus_minus"] else "",
            _limit(parts.get(row["quantity"])),
        ]
        for row in result.get("shown", [])
    ]
    if not rows:
        return
    page.heading("Result, with 95 % confidence")
    page.table(["Quantity", "Found", "Uncertainty", "Limit and its source"], rows, [150, 85, 65, 176])
    for reason in verdict.get("reasons", []):
        page.text(reason["text"])


def _limit(part: Data | None) -> str:
    return (part.get("limit_text") or part["why"]) if part else ""


def _readings(page: Page, record: Record) -> None:
    """The table of the document's own file: what was typed, to the letter."""
    document = document_of(json.loads(record.document))
    page.heading("Readings as typed")
    try:
        rows = list(csv.reader(StringIO(table_of(record.kind).write_csv(document))))
    except Refused:
        page.code(record.document)
        return
    head, *lines = rows
    kept = [i for i, _ in enumerate(head) if any(line[i] for line in lines if i < len(line))]
    for first in range(0, len(kept), MAX_COLUMNS):
        columns = kept[first : first + MAX_COLUMNS]
        cells = [[line[i] if i < len(line) else "" for i in columns] for line in lines]
        page.readings([head[i].replace("_", " ") for i in columns], [row for row in cells if any(row)])


def _drawing(page: Page, record: Record) -> None:
    if record.category != Record.Category.CHECK:
        return
    found = series(record.instrument, record.kind)
    if len(found["points"]) < 2:
        return
    page.heading(f"{found['title']} of {record.instrument.tag} over time")
    until = max(happened_at(record), *(datetime.fromisoformat(point["at"]) for point in found["points"])) + timedelta(
        days=1
    )
    below = "Filled: as found; open: as left. Lines: uncertainty of 95 %. Band: within the limit."
    page.drawing(series_drawing(found, until, EVENT_NAMES, page.write), below)


def _work(page: Page, result: Data) -> None:
    if result.get("work"):
        page.heading("What it does in the work")
        for effect in result["work"]:
            page.text(effect["text"])


def _affected(page: Page, record: Record) -> None:
    """After a bad finding: the work since the last good check, the effect there, and what was found when it was reviewed."""
    if record.category != Record.Category.CHECK or record.grade not in ("adjust", "service"):
        return
    review = impact_review_of(record)
    page.heading("Work it may have affected")
    page.text(review["text"])
    for each in review["advice"]:
        page.text(each["text"])
    rows = [
        [
            _day(line["at"]),
            WORK_NAMES[line["what"]],
            line["name"],
            line["crew"],
            line["effect"],
            _remark(line["reviewed"]),
        ]
        for line in review["work"]
    ]
    if rows:
        page.table(["Day", "Work", "Where", "Crew", "Effect there", "Reviewed"], rows, [62, 58, 84, 56, 122, 94])
    if review["more_work"]:
        page.text(f"{count(review['more_work'], 'older piece', 'older pieces')} of work not listed.", "sub")
    if review["signed"]:
        signed = review["signed"]
        page.text(f"Signed by {signed['by']}, {_day(signed['at'])}: {signed['note']}")


def _day(at: str) -> str:
    return f"{datetime.fromisoformat(at):%d %b %Y}"


def _remark(reviewed: Data | None) -> str:
    return f"{reviewed['by']}: {reviewed['note'] or 'looked at'}" if reviewed else "not yet"


def _calculation(page: Page, result: Data) -> None:
    if result.get("worked"):
        page.heading("Calculation")
        page.table([], [[line["text"], line["value"]] for line in result["worked"]])


def _seal(page: Page, record: Record) -> None:
    page.heading("Seal")
    page.typed(f"Record {record.sequence} of {record.instrument.tag}, calculated by core {record.core_version}.")
    wrong = chain.broken(record)
    page.text(wrong or "It matches its digest, and the record before it in the chain.")
    page.code(f"record   {record.pk}")
    page.code(f"digest   {record.digest}")
    page.code(f"previous {record.previous}")
    page.text("To calculate it again: save its document as check.json, then run: naveta reduce check.json", "sub")
