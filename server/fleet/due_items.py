"""What is due in the whole fleet, the earliest first: a page of it, its weeks, a month of days."""

from __future__ import annotations

from bisect import bisect_right
from calendar import monthrange
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from fleet.selectors import Row, yard
from naveta_core.errors import Fault, Refused, quote
from naveta_core.history.due_list import DueEntry, due_summary
from naveta_core.history.levelling import by_week
from naveta_core.history.rules import SERVICE
from shared import paging

MAX_A_DAY = 3
"""So many are named on a day of the calendar; the rest are counted."""


@dataclass(frozen=True, slots=True)
class DueItem:
    """A check of an instrument, or its service, on the day it is due."""

    row: Row
    entry: DueEntry
    due_on: str

    @property
    def key(self) -> tuple[bool, str, str, str]:
        """Where it stands in the list: first what keeps an instrument from going out."""
        return self.entry.state != "overdue", self.due_on, self.row.one.tag, self.entry.check

    @property
    def now(self) -> bool:
        """Whether its day has come."""
        return self.entry.state in ("due", "overdue")


@dataclass(slots=True)
class _Kept:
    """The last list, with the rows it was made of (the yard gives the same rows until something changes), and what was
    summed from it already."""

    rows: list[Row]
    items: list[DueItem]
    loads: dict[tuple[date, str, str], dict[str, Any]]


_kept = _Kept([], [], {})


def _kept_of(today: date) -> _Kept:
    global _kept
    rows, kept = yard(today), _kept
    if kept.rows is not rows:
        items = [DueItem(row, entry, entry.due_on) for row in rows for entry in row.status.due if entry.due_on]
        kept = _kept = _Kept(rows, sorted(items, key=lambda item: item.key), {})
    return kept


def due_until(today: date, until: date, crew: str = "", what: str = "") -> list[DueItem]:
    """What is due, or comes due until a day; of one crew's instruments, of one kind of check, if one is named."""
    items = _kept_of(today).items
    within = items[: bisect_right(items, (True, until.isoformat(), "\uffff"), key=lambda item: item.key[:3])]
    if not crew and not what:
        return list(within)
    return [i for i in within if (not crew or i.row.one.crew == crew) and (not what or i.entry.check == what)]


def due_page(items: list[DueItem], cursor: str | None, limit: int) -> tuple[list[DueItem], str | None]:
    """One page of them and the mark of the next."""
    size = paging.page_size(limit)
    key = paging.decode(cursor, (bool, str, str, str))
    begin = bisect_right(items, tuple(key), key=lambda item: item.key) if key else 0
    page = items[begin : begin + size]
    return page, paging.encode(list(page[-1].key)) if begin + size < len(items) else None


def due_load(today: date, until: date, crew: str = "", what: str = "") -> dict[str, Any]:
    """How many checks with how many minutes: now, and in each week to come until a day; the service is no check."""
    loads, key = _kept_of(today).loads, (until, crew, what)
    if key not in loads:
        loads[key] = _load(due_until(today, until, crew, what))
    return loads[key]


def _load(items: list[DueItem]) -> dict[str, Any]:
    checks = [item for item in items if item.entry.check != SERVICE]
    now = [item for item in checks if item.now]
    later = [(date.fromisoformat(item.due_on), item.entry.minutes) for item in checks if not item.now]
    minutes = sum(item.entry.minutes for item in now)
    return {
        "summary": due_summary(len(now), minutes, len(later)),
        "now": {"checks": len(now), "minutes": minutes},
        "weeks": [{"monday": monday, "minutes": load} for monday, load in by_week(later).items()],
    }


def due_month(today: date, month: str) -> dict[str, Any]:
    """Whole weeks around a month (`2027-03`): on each day what comes due, what is due already on today.

    Raises Refused for what is no month.
    """
    first = _first_of(month)
    loads, key = _kept_of(today).loads, (first, "", "month")
    if key not in loads:
        loads[key] = _month(today, month, first)
    return loads[key]


def _month(today: date, month: str, first: date) -> dict[str, Any]:
    last = first.replace(day=monthrange(first.year, first.month)[1])
    begin, end = first - timedelta(days=first.weekday()), last + timedelta(days=6 - last.weekday())
    days: dict[str, list[DueItem]] = {}
    for item in due_until(today, max(end, today)):
        day = max(item.due_on, today.isoformat())
        if begin.isoformat() <= day <= end.isoformat():
            days.setdefault(day, []).append(item)
    inside = [item for day, due in days.items() if day.startswith(month) for item in due if item.entry.check != SERVICE]
    return {
        "month": month,
        "checks": len(inside),
        "minutes": sum(item.entry.minutes for item in inside),
        "days": [{"day": day, "count": len(due), "due": due[:MAX_A_DAY]} for day, due in sorted(days.items())],
    }


def _first_of(month: str) -> date:
    try:
        first = date.fromisoformat(f"{month}-01")
    except ValueError:
        first = date.min
    if not 1900 <= first.year <= 2999:
        raise Refused([Fault("month", "the month", quote(month), "a month, such as 2027-03")])
    return first
