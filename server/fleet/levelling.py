"""What is due, spread over quiet mornings: who checks what when."""

from __future__ import annotations

from datetime import date, timedelta
from typing import Any

from fleet.selectors import yard
from naveta_core.history.levelling import DueWork, Morning, by_week, levelled
from naveta_core.history.rules import SERVICE
from people.models import Crew
from plan.jobs import jobs_from


def levelled_load(today: date, days: int, crew: str = "") -> dict[str, Any]:
    """Mornings with their checks until a day, and the minutes of each week as they fall due and levelled."""
    until = today + timedelta(days=days)
    titles: dict[str, str] = {}
    work = []
    for row in yard(today):
        for entry in row.status.due:
            titles[entry.check] = entry.title
            if entry.check == SERVICE or not entry.due_on or not entry.minutes or entry.due_on > until.isoformat():
                continue
            if row.standing.state == "away" or (crew and row.one.crew not in (None, crew)):
                continue
            work.append(
                DueWork(row.one.tag, entry.check, row.one.crew or "", date.fromisoformat(entry.due_on), entry.minutes)
            )
    crews = [crew] if crew else sorted(Crew.objects.values_list("name", flat=True))
    jobs: dict[str, list[tuple[date, date]]] = {}
    for job in jobs_from(today):
        jobs.setdefault(job.crew.name if job.crew else "", []).append((job.starts_on, job.ends_on))
    mornings = levelled(work, today, until, jobs, crews)
    due = by_week((max(entry.due_on, today), entry.minutes) for entry in work)
    even = by_week((morning.day, morning.minutes) for morning in mornings)
    weeks = [{"monday": m, "due": due.get(m, 0), "levelled": even.get(m, 0)} for m in sorted({*due, *even})]
    return {"today": today, "until": until, "mornings": [_shown(m, titles) for m in mornings], "weeks": weeks}


def _shown(morning: Morning, titles: dict[str, str]) -> dict[str, Any]:
    return {
        "day": morning.day,
        "crew": morning.crew,
        "quiet": morning.quiet,
        "minutes": morning.minutes,
        "checks": [
            {
                "tag": entry.tag,
                "check": entry.check,
                "title": titles[entry.check],
                "minutes": entry.minutes,
                "due_on": entry.due_on,
            }
            for entry in morning.work
        ],
    }
