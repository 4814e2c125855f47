"""What is due and the jobs, as an iCalendar file that other calendars subscribe to."""

from __future__ import annotations

from datetime import date, timedelta

from icalendar import Calendar, Event

from fleet.selectors import Row, yard
from naveta_core.history.due_list import DueEntry
from plan.jobs import jobs_from
from plan.models import CalendarLink, Job
from shared import clock

PRODUCT = "-//Naveta//Plan//EN"
REFRESH = "PT6H"


def calendar_of(link: CalendarLink) -> bytes:
    """All-day entries: each check on the day it is due (what is due already stands on today), each job on its days."""
    today = clock.today()
    feed = Calendar()
    feed.add("prodid", PRODUCT)
    feed.add("version", "2.0")
    feed.add("method", "PUBLISH")
    feed.add("x-wr-calname", _title(link))
    feed["refresh-interval;value=duration"] = REFRESH
    rows = [row for row in yard(today) if _concerns(link, row)]
    crews = {row.one.crew for row in rows}
    for row in rows:
        for entry in row.status.due:
            if entry.due_on:
                feed.add_component(_due(row, entry, today))
    for job in jobs_from(today):
        owner = job.crew.name if job.crew else None
        if link.scope == "fleet" or owner is None or owner == link.name or owner in crews:
            feed.add_component(_job(job))
    return bytes(feed.to_ical())


def _title(link: CalendarLink) -> str:
    return {"fleet": "Checks due: all instruments", "crew": f"Checks due: {link.name} crew"}.get(
        link.scope, f"Checks due: {link.name}"
    )


def _concerns(link: CalendarLink, row: Row) -> bool:
    if link.scope == "crew":
        return row.one.crew == link.name
    return link.scope == "fleet" or row.one.tag == link.name


def _due(row: Row, entry: DueEntry, today: date) -> Event:
    on = max(date.fromisoformat(entry.due_on or ""), today)
    title = f"{row.one.tag}: {entry.title[0].lower()}{entry.title[1:]}"
    minutes = f", {entry.minutes} minutes" if entry.minutes else ""
    text = "\n".join([*(reason.text for reason in entry.reasons), f"{row.one.model}, {row.one.whereabouts}"])
    return _all_day(f"{row.one.tag}-{entry.check}", f"{title}{minutes}", on, on, text)


def _job(job: Job) -> Event:
    crew = f"{job.crew.name} crew" if job.crew else "All crews"
    text = ", ".join(part for part in (crew, job.place, "large job" if job.large else "") if part)
    return _all_day(f"job-{job.pk}", job.name, job.starts_on, job.ends_on, text)


def _all_day(identity: str, title: str, first: date, last: date, text: str) -> Event:
    event = Event()
    event.add("uid", f"{identity}@naveta.invalid")
    event.add("dtstamp", clock.now())
    event.add("summary", title)
    event.add("dtstart", first)
    event.add("dtend", last + timedelta(days=1))
    event.add("description", text)
    event.add("transp", "TRANSPARENT")
    return event
