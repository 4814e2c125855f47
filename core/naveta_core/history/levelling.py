"""The load of checks levelled: what is due, spread over quiet mornings, each before or on its day.

All checks of one instrument that may be made on one morning are made there together. The longest are placed first, each
on the allowed morning with the least to do; of equal ones on the latest, so that a pass is not given up early. What is
overdue goes to one of the first mornings. A rule of thumb, not the least possible peak.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import islice

SATURDAY = 5
OVERDUE_WITHIN = 3
"""What is overdue is made within so many mornings."""
MAX_EARLY_DAYS = 10
"""No check is made earlier than this before its day."""


@dataclass(frozen=True, slots=True)
class DueWork:
    """A check that has to be made: by whom (a crew; "" where nobody holds the instrument), until when, in minutes."""

    tag: str
    check: str
    crew: str
    due_on: date
    minutes: int


@dataclass(frozen=True, slots=True)
class Morning:
    """What one crew does on one morning; `quiet`: no job of theirs runs that day."""

    day: date
    crew: str
    quiet: bool
    work: tuple[DueWork, ...]

    @property
    def minutes(self) -> int:
        """Minutes of everything together."""
        return sum(entry.minutes for entry in self.work)


def levelled(
    work: Sequence[DueWork],
    today: date,
    until: date,
    jobs: Mapping[str, Sequence[tuple[date, date]]],
    crews: Sequence[str],
) -> list[Morning]:
    """Every check on a morning, the earliest first. jobs: first and last days by crew, under "" those of all crews."""
    load: dict[tuple[str, date], list[DueWork]] = {}
    minutes: Counter[tuple[str, date]] = Counter()
    weekdays = _weekdays(today, until)
    quiet = {crew: _quiet(crew, today, until, jobs) for crew in ("", *crews)}
    bundles = _bundles(work)
    bundles.sort(key=lambda entries: (-_minutes(entries), entries[0].due_on, entries[0].tag))
    for entries in bundles:
        offered = [entries[0].crew] if entries[0].crew or not crews else list(crews)
        places = [(crew, day) for crew in offered for day in _days(entries, today, weekdays, quiet[crew])]
        chosen = min(places, key=lambda place: (minutes[place], -place[1].toordinal(), place[0]))
        load.setdefault(chosen, []).extend(entries)
        minutes[chosen] += _minutes(entries)
    return [
        Morning(day, crew, day in quiet[crew], tuple(sorted(entries, key=lambda entry: (entry.tag, entry.due_on))))
        for (crew, day), entries in sorted(load.items(), key=lambda pair: (pair[0][1], pair[0][0]))
    ]


def by_week(parts: Iterable[tuple[date, int]]) -> dict[date, int]:
    """Minutes by the Monday of their week."""
    weeks: dict[date, int] = {}
    for day, minutes in parts:
        monday = day - timedelta(days=day.weekday())
        weeks[monday] = weeks.get(monday, 0) + minutes
    return dict(sorted(weeks.items()))


def _minutes(entries: Iterable[DueWork]) -> int:
    return sum(entry.minutes for entry in entries)


def _bundles(work: Sequence[DueWork]) -> list[list[DueWork]]:
    """Checks of one instrument that can be made together: those due within the days a check may be made early."""
    found: list[list[DueWork]] = []
    for entry in sorted(work, key=lambda one: (one.tag, one.due_on, one.check)):
        if found and found[-1][0].tag == entry.tag and (entry.due_on - found[-1][0].due_on).days <= MAX_EARLY_DAYS:
            found[-1].append(entry)
        else:
            found.append([entry])
    return found


def _quiet(crew: str, today: date, until: date, jobs: Mapping[str, Sequence[tuple[date, date]]]) -> frozenset[date]:
    """Weekdays on which no job of a crew runs."""
    busy = [*jobs.get("", ()), *(jobs.get(crew, ()) if crew else ())]
    days = _weekdays(today, until)
    return frozenset(day for day in days if not any(first <= day <= last for first, last in busy))


def _weekdays(today: date, until: date) -> list[date]:
    days = [today + timedelta(days=n) for n in range((until - today).days + 1)]
    return [day for day in days if day.weekday() < SATURDAY]


def _days(entries: Sequence[DueWork], today: date, weekdays: Sequence[date], quiet: frozenset[date]) -> Sequence[date]:
    """Return the mornings on which checks can be made: quiet ones up to their due date, else any weekday, else today.

    Overdue checks take one of the first mornings; a check due today is never planned for a later day.
    """
    due_on = min(entry.due_on for entry in entries)
    if due_on < today:
        first = list(islice((day for day in weekdays if day in quiet), OVERDUE_WITHIN))
        return first or weekdays[:OVERDUE_WITHIN] or [today]
    earliest = due_on - timedelta(days=MAX_EARLY_DAYS)
    window = [day for day in weekdays if earliest <= day <= due_on]
    return [day for day in window if day in quiet] or window or [today]
