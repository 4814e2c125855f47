"""What is due when and why: by pages, and by the days of a month."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from django.http import HttpRequest
from ninja import Router, Schema

from fleet.due_items import DueItem, due_load, due_month, due_page, due_until
from fleet.selectors import yard
from naveta_core.history.due import MAX_SKIPPED_DAYS
from shared import clock
from shared.bodies import Word

router = Router(tags=["plan"])
MAX_DAYS = 800


class ReasonOut(Schema):
    """A coded sentence."""

    code: str
    text: str


class DueOut(Schema):
    """One check of one instrument that is due, or comes due."""

    tag: str
    model: str
    crew: str | None
    place: str
    check: str
    title: str
    state: str
    due_on: str
    minutes: int
    decides: bool
    can_wait: bool
    """Whether it may be skipped until a day."""
    reasons: list[ReasonOut]


class DueNow(Schema):
    """Checks whose day has come, with their minutes."""

    checks: int
    minutes: int


class DueWeek(Schema):
    """Minutes of the checks that come due in a week."""

    monday: date
    minutes: int


class DuePage(Schema):
    """A page of what is due until a day, the earliest first, and the load of all of it; `today` in the firm's zone."""

    today: date
    until: date
    skip_until: date
    """The last day a check can be skipped to."""
    summary: str
    now: DueNow
    weeks: list[DueWeek]
    crews: list[str]
    due: list[DueOut]
    next: str | None


class DueName(Schema):
    """What a day of the calendar names."""

    tag: str
    check: str
    title: str
    state: str


class DueDay(Schema):
    """A day with its number of checks, and the first of them."""

    day: date
    count: int
    due: list[DueName]


class DueMonth(Schema):
    """The days of whole weeks around a month on which something is due; `checks` and `minutes` of the month alone."""

    today: date
    month: str
    checks: int
    minutes: int
    days: list[DueDay]


@router.get("/due", response=DuePage, operation_id="list_due")
def list_due(
    request: HttpRequest,
    days: int = 35,
    crew: str = "",
    *,
    check: Word = "",
    cursor: str | None = None,
    limit: int = 100,
) -> Any:
    """What is due today or within so many days, with the reason of each; of one crew's instruments, of one kind of check
    (or `service`), if one is named."""
    today = clock.today()
    until = today + timedelta(days=min(max(days, 0), MAX_DAYS))
    items = due_until(today, until, crew, check)
    page, following = due_page(items, cursor, limit)
    return {
        "today": today,
        "until": until,
        "skip_until": today + timedelta(days=MAX_SKIPPED_DAYS),
        **due_load(today, until, crew, check),
        "crews": sorted({row.one.crew for row in yard(today) if row.one.crew}),
        "due": [_due(item) for item in page],
        "next": following,
    }


@router.get("/due/month", response=DueMonth, operation_id="list_due_month")
def list_month(request: HttpRequest, month: Word = "") -> Any:
    """What comes due on each day of a month (`2027-03`; empty: this one)."""
    today = clock.today()
    found = due_month(today, month or today.isoformat()[:7])
    days = [{**day, "due": [_name(item) for item in day["due"]]} for day in found["days"]]
    return {**found, "today": today, "days": days}


def _due(item: DueItem) -> dict[str, Any]:
    row, entry = item.row, item.entry
    decides = {check.check for check in row.standing.checks if check.decides}
    return {
        "tag": row.one.tag,
        "model": row.one.model,
        "crew": row.one.crew,
        "place": row.one.place,
        "decides": entry.check in decides,
        **entry.plain(),
        "minutes": entry.minutes,
        "can_wait": entry.can_wait,
    }


def _name(item: DueItem) -> dict[str, Any]:
    entry = item.entry
    return {"tag": item.row.one.tag, "check": entry.check, "title": entry.title, "state": entry.state}
