"""How far a time zone is ahead of UTC, from when on: for devices, which then need no tables of their own."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

FIRST_YEAR, YEARS_AHEAD = 2000, 10


@lru_cache(maxsize=16)
def offsets_of(name: str, year: int) -> list[tuple[int, int]]:
    """(minute since 1970 UTC, minutes ahead of UTC) of every change of a zone, from 2000 to ten years after a year."""
    zone, at = ZoneInfo(name), datetime(FIRST_YEAR, 1, 1, tzinfo=UTC)
    found = [_from(zone, at)]
    while at.year <= year + YEARS_AHEAD:
        # No zone changes twice within a week and back.
        later = at + timedelta(days=7)
        if _ahead(zone, later) != _ahead(zone, at):
            found.append(_from(zone, _change(zone, at, later)))
        at = later
    return found


def _change(zone: ZoneInfo, before: datetime, after: datetime) -> datetime:
    """The first minute of the new offset."""
    was = _ahead(zone, before)
    while after - before > timedelta(minutes=1):
        middle = before + timedelta(minutes=(after - before) // timedelta(minutes=2))
        before, after = (middle, after) if _ahead(zone, middle) == was else (before, middle)
    return after


def _ahead(zone: ZoneInfo, at: datetime) -> int:
    offset = at.astimezone(zone).utcoffset()
    return 0 if offset is None else int(offset / timedelta(minutes=1))


def _from(zone: ZoneInfo, at: datetime) -> tuple[int, int]:
    return int(at.timestamp()) // 60, _ahead(zone, at)
